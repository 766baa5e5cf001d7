"""The register's rows: every edit a version, undone by its inverse, refused from an old version."""

from datetime import date

import pytest

from reckoner.core.quantities.ownunits import METRIC
from reckoner.shop import changes
from reckoner.shop.changes import Change, ChangeKind
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.register import completing
from reckoner.shop.register.cards import cards
from reckoner.shop.register.field import FieldForm, columns_of, value_in
from reckoner.shop.register.fields import FIELDS
from reckoner.shop.register.rows import EditOutdated, add, edit, name_of, undo, versions
from reckoner.store.reader import reader_of
from reckoner.store.schema import Audit, RegisterVersion, Tool, ToolModel
from reckoner.store.terms import RegisterKind
from tests.support.runs import later, tool_id

TOOL = RegisterKind.TOOL


def row_of(session, row_id):
    session.flush()
    return {c.key: getattr(session.get_one(Tool, row_id), c.key) for c in Tool.__table__.columns if c.key != "version"}


def test_an_edit_is_a_version_with_who_and_when_and_undo_restores_the_very_row(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        before = row_of(session, wanted)
        number = edit(session, TOOL, wanted, {"place": "Bay 2", "in_service": date(2026, 1, 5)}, act, base=1)
        assert number == 2
        (newest,) = [v for v in versions(session, TOOL, wanted) if v.version == 2]
        assert (newest.by, newest.fields["place"]) == ("R. K.", (before["place"], "Bay 2"))
        undone = undo(session, TOOL, wanted, later(act, 1), base=2)
        assert undone.fields["place"][1] == "Bay 2"
        assert row_of(session, wanted) == before
        redone = undo(session, TOOL, wanted, later(act, 2), base=3)
        assert redone.version == 3
        assert session.get_one(Tool, wanted).in_service == date(2026, 1, 5)
        assert [v.version for v in versions(session, TOOL, wanted)] == [1, 2, 3, 4]
        assert session.query(Audit).filter_by(action="edited the tool").count() == 3
        assert changes.of(session) == (Change(ChangeKind.TOOLS, frozenset({wanted}), act.person_id),)


def test_an_edit_from_an_old_version_is_refused_and_names_what_is_there(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        edit(session, TOOL, wanted, {"place": "Bay 2"}, act, base=1)
        with pytest.raises(EditOutdated, match=r"HC-0417 was changed meanwhile by R\. K\. \(place: Bay 2\)"):
            edit(session, TOOL, wanted, {"place": "Bay 3"}, act, base=1)
        with pytest.raises(EditOutdated):
            undo(session, TOOL, wanted, act, base=1)
        with pytest.raises(ShopRefused, match="already"):
            edit(session, TOOL, wanted, {"place": "Bay 2"}, act, base=2)
        assert session.get_one(Tool, wanted).place == "Bay 2"


@pytest.mark.parametrize("text", ["3 %", "1 % of full scale", "6 % below 20 %, 4 % above"])
def test_a_limit_comes_back_from_the_columns_that_hold_it(text):
    for kind in (RegisterKind.TOOL, RegisterKind.MODEL):
        field = next(f for f in FIELDS[kind] if f.form is FieldForm.LIMIT)
        value, _words = field.read(text, METRIC)
        row = {"tolerance": None, "zones": "", **columns_of(kind, field, value)}
        assert value_in(field, row) == value


def test_adding_is_undone_by_taking_the_row_out_of_sight_and_redone(demo, act):
    with demo.session() as session:
        model = session.get_one(Tool, tool_id(demo, "HC-0417")).model_id
        made = completing.add_tool(session, "HC-0999", "", model, act)
        shown = {c.tool.number for c in cards(reader_of(session))}
        undo(session, TOOL, made, act, base=1)
        assert shown - {c.tool.number for c in cards(reader_of(session))} == {"HC-0999"}
        with pytest.raises(ShopRefused, match="bring it back instead"):
            completing.add_tool(session, "HC-0999", "", model, act)
        undo(session, TOOL, made, act, base=2)
        assert {c.tool.number for c in cards(reader_of(session))} == shown


def test_two_that_make_the_same_version_cannot_both_be_kept(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        edit(session, TOOL, wanted, {"place": "Bay 2"}, act, base=1)
        session.get_one(Tool, wanted).version = 1  # what another program, which has not seen it, goes by
        with pytest.raises(ShopRefused, match="changed at this very moment by someone else"):
            edit(session, TOOL, wanted, {"place": "Bay 3"}, act, base=1)
        session.rollback()
    with demo.session() as session:
        assert session.query(RegisterVersion).filter_by(row_id=wanted, kind=TOOL).count() == 1


def test_what_was_there_before_versions_has_nothing_to_undo(demo, act):
    with demo.session() as session:
        old = Tool(number="OLD-1", model_id=1)
        session.add(old)
        session.flush()
        with pytest.raises(ShopRefused, match="nothing to undo"):
            undo(session, TOOL, old.id, act, base=1)
        add(session, TOOL, Tool(number="NEW-1", model_id=1, serial="7"), act.at, act.person_id)
        first = session.query(RegisterVersion).order_by(RegisterVersion.id.desc()).first()
        assert '"serial": "7"' in first.after


def test_a_model_without_a_maker_is_called_by_its_name_alone():
    assert name_of(RegisterKind.MODEL, ToolModel(maker="", name="click wrench, 5–25 N·m")) == "click wrench, 5–25 N·m"
