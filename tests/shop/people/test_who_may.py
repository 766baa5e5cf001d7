"""Every command asks who does it; whoever has left does nothing any more, and nobody does it in another's name."""

import ast
from dataclasses import replace
from pathlib import Path

import pytest

import reckoner.shop
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.runs import amending, opening, setting_up, signing, taking
from reckoner.store.schema import Person
from reckoner.store.terms import ZeroMoment
from tests.support.runs import prepared, read_all, tool_id

WITHIN = {
    "record_event", "record_brought", "edit", "undo", "set_removed", "take_earlier_room", "observe_pull",
    "characterising.keep",
}  # fmt: skip
"""Steps within a command, which asks."""


def commands():
    """Each command of the shop by its module and name, with its docstring and what stands in it."""
    for path in Path(reckoner.shop.__file__).parent.rglob("*.py"):
        for one in ast.parse(path.read_text(encoding="utf-8")).body:
            said = ast.get_docstring(one) or "" if isinstance(one, ast.FunctionDef) else ""
            if "Changes:" in said and "act" in [argument.arg for argument in one.args.args]:
                yield path.stem, one.name, " ".join(said.split()), ast.unparse(one)


ASKS = {"require", "require_here"}
PASSES_ON = {
    "trust", "take_handed", "add_weights", "add_scale_on_a_hook", "add_gear", "add", "take_in", "attach",
    "detach", "complete", "keep_measured", "add_tool", "change_many", "add_person", "add_model", "add_meter",
    "add_tools", "remove", "begin_after", "enter_measured", "take", "set_in_line", "sign", "set_passphrase",
}  # fmt: skip
"""Commands that do nothing before another one that asks, or ask where somebody is registered already."""


def test_every_command_asks_who_does_it_before_anything_else_or_is_a_step_within_one():
    found = list(commands())
    assert len(found) > 60
    asks_none = [
        f"{module}.{name}" for module, name, said, _body in found if "Right: none" in said and name not in WITHIN
    ]
    assert [name for name in asks_none if name not in WITHIN] == []
    silent = []
    for module, name, _said, body in found:
        steps = [
            s.value for s in ast.parse(body).body[0].body if isinstance(s, ast.Expr) and isinstance(s.value, ast.Call)
        ]
        asked = ASKS & {getattr(step.func, "id", "") for step in steps}
        if not asked and not {name, f"{module}.{name}"} & (WITHIN | PASSES_ON):
            silent.append(f"{module}.{name}")
    assert silent == []


def test_who_has_left_does_nothing_at_the_bench(demo, act):
    with demo.session() as session:
        gone = Person(initials="X. X.", name="Gone", left_on=act.at.date())
        session.add(gone)
        session.flush()
        theirs = replace(act, person_id=gone.id)
        nobody = replace(act, person_id=99_999)
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        deeds = (
            lambda by: opening.open_run(session, tool_id(demo, "HC-0125"), by),
            lambda by: taking.observe(session, run.id, taking.typed(40.1), by),
            lambda by: setting_up.record_zero(session, run.id, ZeroMoment.AFTER, 0.0, by),
            lambda by: opening.give_up(session, run.id, "enough", by),
        )
        for deed in deeds:
            with pytest.raises(ShopRefused, match=r"X\. X\. works here no more"):
                deed(theirs)
            with pytest.raises(ShopRefused, match="is not in the register"):
                deed(nobody)
        run = read_all(session, run, act, 0.99)
        signed = signing.sign(session, run.id, act)
        with pytest.raises(ShopRefused, match=r"X\. X\. works here no more"):
            amending.amend(session, signed.id, "misread", theirs)
