"""Every command asks who does it; whoever has left does nothing any more, and nobody does it in another's name."""

import ast
from dataclasses import replace
from pathlib import Path

import pytest

import reckoner.shop
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.people.rights import COMMANDS, command
from reckoner.shop.runs import amending, opening, setting_up, signing, taking
from reckoner.store.schema import Person
from reckoner.store.terms import ZeroMoment
from tests.support.runs import prepared, read_all, tool_id

WITHIN = {
    "events.recording.record_event", "events.recording.record_brought", "register.rows.edit", "register.rows.undo",
    "register.rows.set_removed", "runs.setting_up.take_earlier_room", "runs.taking.observe_pull",
    "runs.characterising.keep", "people.seals.seal", "people.seals.unlocked", "people.seals.prove", "people.authorship.note",
    "people.rights.require", "people.rights.require_here", "people.rights.require_own", "register.rows.add_many_tools",
    "runs.opening.reload",
}  # fmt: skip
"""Steps within a command, which has asked."""

LOOKING = {"events.recording.own_and_newest", "register.takingback.commands_of", "runs.planning.settled_points"}
"""What changes nothing."""


def acting():
    """Each public function of the shop that is done by somebody, by its module and name, and whether it is a command."""
    root = Path(reckoner.shop.__file__).parent
    for path in sorted(root.rglob("*.py")):
        module = ".".join(path.relative_to(root).with_suffix("").parts)
        for one in ast.parse(path.read_text(encoding="utf-8")).body:
            if not isinstance(one, ast.FunctionDef) or one.name.startswith("_"):
                continue
            if "act" in [argument.arg for argument in (*one.args.args, *one.args.kwonlyargs)]:
                yield f"{module}.{one.name}", any(getattr(by, "id", "") == "command" for by in one.decorator_list)


def test_every_command_has_a_row_that_says_who_may_and_every_row_its_command():
    found = dict(acting())
    commands = {name for name, is_command in found.items() if is_command}
    assert len(commands) > 80
    assert commands == set(COMMANDS)
    assert set(found) - commands == WITHIN | LOOKING


def test_a_command_without_a_row_is_no_command():
    def lose(session, act):
        raise AssertionError

    lose.__module__ = "reckoner.shop.using.lending"
    with pytest.raises(KeyError):
        command(lose)


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
