"""Changing the register as a person does: what is checked, who may, what is taken back, and what every field reads."""

from dataclasses import replace
from datetime import date

import pytest
from sqlalchemy import select

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.days import read_day
from reckoner.core.quantities.ownunits import METRIC, OwnUnits, UnitSystem
from reckoner.core.quantities.units import N_M
from reckoner.core.requirements.limits import of_reading, read_limit
from reckoner.shop.events import projection
from reckoner.shop.events.recording import report
from reckoner.shop.facts.tool import tool_facts
from reckoner.shop.people.authorship import Act, FieldRefused, ShopRefused
from reckoner.shop.people.present import people
from reckoner.shop.register import adding, editing, listing
from reckoner.shop.register.cards import card, cards
from reckoner.shop.register.completing import MeasuredTool, keep_measured
from reckoner.shop.register.editing import add_many_tools, change, row_sheet, take_back, the_shop
from reckoner.shop.register.field import FieldForm
from reckoner.shop.register.fields import FIELDS, fields_of
from reckoner.shop.register.rows import KINDS, EditOutdated
from reckoner.shop.register.shelves import next_meter
from reckoner.shop.register.takingback import commands_of
from reckoner.store.reader import reader_of
from reckoner.store.schema import Gear, Person, Reference, Shop, Tool, ToolModel
from reckoner.store.terms import EventKind, RegisterKind
from tests.support.runs import later, tool_id

PERSON, MODEL, TOOL, REFERENCE = (
    RegisterKind.PERSON,
    RegisterKind.MODEL,
    RegisterKind.TOOL,
    RegisterKind.REFERENCE,
)


def field(kind, name):
    return next(f for f in fields_of(kind) if f.name == name)


def typed(session, kind, row_id, name, text, act, base=None):
    """Change a field by what is typed into it."""
    sheet = row_sheet(session, kind, row_id)
    value, _words = field(kind, name).read(text, sheet.own)
    return change(session, kind, row_id, field(kind, name), value, act, base)


def row_of(session, table, row_id):
    session.flush()
    session.expire_all()
    columns = [a.key for a in table.__mapper__.column_attrs if a.key != "version"]
    return {name: getattr(session.get_one(table, row_id), name) for name in columns}


@pytest.mark.parametrize(
    ("text", "day"),
    [("2026-03-09", (2026, 3, 9)), ("9 Mar 2026", (2026, 3, 9)), ("March 9th, 2026", (2026, 3, 9)),
     ("9.3.2026", (2026, 3, 9)), ("31/12/2026", (2026, 12, 31)), ("12/31/2026", (2026, 12, 31)),
     ("5/5/2026", (2026, 5, 5)), ("2026-03-09 00:00:00", (2026, 3, 9))],
)  # fmt: skip
def test_days_are_read_as_people_write_them(text, day):
    assert read_day(text) == date(*day)


@pytest.mark.parametrize(
    ("text", "why"),
    [("3/9/2026", "two ways"), ("31.2.2026", "no day of the calendar"), ("soon", "is not a day"), ("1.1.1066", "1066")],
)
def test_what_is_no_day_or_two_days_is_refused(text, why):
    with pytest.raises(InputRefused, match=why):
        read_day(text)


def test_taking_an_edit_back_and_doing_it_again_restores_the_very_row(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        model = session.get_one(Tool, wanted).model_id
        for kind, table, row_id, name, text in (
            (TOOL, Tool, wanted, "place", "Bay 2"),
            (TOOL, Tool, wanted, "lever_length", "1 ft 5 1/2 in"),
            (TOOL, Tool, wanted, "in_service", "5.1.2026"),
            (MODEL, ToolModel, model, "tolerance", "3 %"),
            (MODEL, ToolModel, model, "tolerance", "6 % below 20 %, 1 % of full scale above"),
            (MODEL, ToolModel, model, "kind", "II C"),
            (REFERENCE, Reference, 1, "resolution", "0.02 N.m"),
            (PERSON, Person, 2, "name", "K. Loft"),
        ):
            before = row_of(session, table, row_id)
            command = typed(session, kind, row_id, name, text, act)
            after = row_of(session, table, row_id)
            assert before != after, name
            undone = take_back(session, command, later(act, 1))
            assert row_of(session, table, row_id) == before, name
            take_back(session, undone, later(act, 2))
            assert row_of(session, table, row_id) == after, name
    assert command.words == "K. T.: name K. Loft, was Katrin Tessel" or "name K. Loft" in command.words


def test_what_was_edited_and_taken_back_does_not_stand_in_the_way_of_what_came_before(demo, act):
    """Somebody is added, then a right is edited: both are taken back, one after the other."""
    with demo.session() as session:
        added = adding.add_person(session, "N. N.", "New", act, act.at)
    person = added.steps[0].row_id
    with demo.session() as session:
        edited = editing.change(session, PERSON, person, field(PERSON, "may_adjust"), True, act)
    with demo.session() as session, pytest.raises(EditOutdated):
        editing.take_back(session, added, act)
    with demo.session() as session:
        assert [len(c.steps) for c in commands_of(session, act)] == [2]  # of one moment: one command
        again = editing.take_back(session, edited, later(act, 1))
    with demo.session() as session:
        assert [c.steps for c in commands_of(session, later(act, 2))] == [added.steps]
        gone = editing.take_back(session, added, later(act, 2))
        assert commands_of(session, later(act, 3)) == ()
    with demo.session() as session:
        assert session.get_one(Person, person).removed
        editing.take_back(session, gone, later(act, 3))
        editing.take_back(session, again, later(act, 4))
        back = session.get_one(Person, person)
        assert (back.removed, back.may_adjust) == (False, True)


def test_several_edits_are_taken_back_together_or_not_at_all(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        before = row_of(session, Tool, wanted)
        commands = [
            typed(session, TOOL, wanted, "place", "Bay 2", act),
            typed(session, TOOL, wanted, "owner", "Hut", act),
        ]
        both = editing.joined("two things", commands)
        take_back(session, both, act)
        assert row_of(session, Tool, wanted) == before
        command = typed(session, TOOL, wanted, "place", "Bay 2", act)
        typed(session, TOOL, wanted, "place", "Bay 3", act)
        with pytest.raises(EditOutdated, match="Bay 3"):
            take_back(session, command, act)


def test_a_tool_departs_from_its_model_where_it_says_so(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        model = session.get_one(Tool, wanted).model
        assert tool_facts(session.get_one(Tool, wanted)).lever == model.lever_length
        typed(session, TOOL, wanted, "lever_length", "500 mm", act)
        typed(session, TOOL, wanted, "tolerance", "2 %", act)
        session.expire_all()
        facts = tool_facts(session.get_one(Tool, wanted))
        assert (facts.lever, [x.plain for x in facts.kind.limits]) == (0.5, [0.02])
        assert card(reader_of(session), wanted).tool == facts
        typed(session, MODEL, model.id, "tolerance", "1 %", act)
        session.expire_all()
        assert tool_facts(session.get_one(Tool, wanted)).kind.limits == (of_reading(0.01), of_reading(0.02))
        assert card(reader_of(session), wanted).tool == tool_facts(session.get_one(Tool, wanted))


@pytest.mark.parametrize(
    ("kind", "name", "text", "why"),
    [
        (TOOL, "number", "HC-0422", "already a tool HC-0422"),
        (TOOL, "number", " ", "cannot be left empty"),
        (TOOL, "lever_length", "0.3 kg", "unit of mass"),
        (TOOL, "pivot_offset", "900 mm", "between the drive and the grip mark"),
        (TOOL, "interval_months", "500", "between 1 and 120"),
        (TOOL, "interval_months", "6,5", "not a whole number"),
        (TOOL, "in_service", "3/9/2026", "two ways"),
        (MODEL, "minimum", "900 N.m", "minimum is above the maximum"),
        (MODEL, "maximum", "0 N.m", "more than 0"),
        (MODEL, "resolution", "90 N.m", "over a fifth"),
        (MODEL, "mechanism", "beam", "Type I"),
        (MODEL, "mechanism", "spring", "none of: click"),
        (MODEL, "tolerance", "400 %", "must lie between 0.01 and 50"),
        (MODEL, "tolerance", "6 % below 20 %", "say what holds above 20 %"),
        (REFERENCE, "minimum", "5000 N.m", "begin below where it ends"),
        (REFERENCE, "link", "ftp://x", "link"),
        (PERSON, "initials", "R. K.", "already a person R. K."),
    ],
)
def test_what_cannot_be_is_refused_in_words_and_nothing_is_kept(demo, act, kind, name, text, why):
    with demo.session() as session:
        tool = session.get_one(Tool, tool_id(demo, "HC-0417"))
        table, row_id = {
            TOOL: (Tool, tool.id), MODEL: (ToolModel, tool.model_id), REFERENCE: (Reference, 1), PERSON: (Person, 2),
        }[kind]  # fmt: skip
        before = row_of(session, table, row_id)
    with pytest.raises((FieldRefused, InputRefused), match=why), demo.session() as session:
        typed(session, kind, row_id, name, text, act)
    with demo.session() as session:
        assert row_of(session, table, row_id) == before


def test_only_who_may_changes_the_register_and_somebody_always_may(demo, act):
    with demo.session() as session:
        everyone = session.scalars(select(Person)).all()
        for person in everyone[1:]:
            typed(session, PERSON, person.id, "may_edit", "no", act)
        with pytest.raises(ShopRefused, match="may not change the register"):
            typed(session, TOOL, 1, "place", "Bay 2", Act(everyone[1].id, act.at))
        for name, text in (("may_edit", "no"), ("left_on", "2026-01-01")):
            with pytest.raises(FieldRefused, match="Somebody has to be left"):
                typed(session, PERSON, everyone[0].id, name, text, act)
            session.rollback()
            for person in everyone[1:]:
                typed(session, PERSON, person.id, "may_edit", "no", act)


def test_who_has_left_is_offered_no_more_and_does_nothing(demo, act):
    with demo.session() as session:
        typed(session, PERSON, 2, "left_on", "2026-11-01", act)
        assert 2 not in {p.id for p in people(reader_of(session))}
        with pytest.raises(ShopRefused, match="works here no more"):
            typed(session, TOOL, 1, "place", "Bay 2", Act(2, act.at))


def test_a_model_that_tools_are_of_stays_and_a_reference_can_go_and_come_back(demo, act):
    with demo.session() as session:
        model = session.get_one(Tool, 1).model_id
        with pytest.raises(ShopRefused, match="give them another model first"):
            editing.remove(session, MODEL, model, act)
        gone = editing.remove(session, REFERENCE, 1, act)
        assert row_sheet(session, REFERENCE, 1).removed
        take_back(session, gone, act)
        assert not row_sheet(session, REFERENCE, 1).removed


def test_how_a_row_came_to_be_is_said_in_words(demo, act):
    with demo.session() as session:
        typed(session, TOOL, 1, "place", "Bay 2", act)
        sheet = row_sheet(session, TOOL, 1)
        said = [editing.change_words(TOOL, v, sheet.own) for v in sheet.changes]
        assert said[0] == "added"
        assert said[1].startswith("where it is kept Bay 2, was ")


def test_every_field_reads_what_it_says():
    """What a sheet shows for a value means that value again."""
    examples = {
        FieldForm.TORQUE: 12.5, FieldForm.LENGTH: 0.25, FieldForm.MASS: 1.25, FieldForm.RATIO: 0.025,
        FieldForm.NUMBER: 2.5, FieldForm.COUNT: 6, FieldForm.DAY: date(2026, 3, 9), FieldForm.YES_NO: True,
        FieldForm.LIMIT: read_limit("6 % below 20 %, 2 % of full scale above"), FieldForm.WORDS: "Bay 2",
    }  # fmt: skip
    checked = {"numbering": "{year}-{n:4}", "label_sizes": "50 x 25; A4: 3 x 8 of 70 x 35"}
    for fields in FIELDS.values():
        for one in fields:
            value = one.choices[0][0] if one.choices else examples.get(one.form)
            value = checked.get(one.name, value)
            if value is None:
                continue
            if one.low is not None and isinstance(value, float):
                value = max(value, one.low)
            for own in (METRIC, OwnUnits(N_M, UnitSystem.INCH)):
                if said := one.said(value, own):
                    again = one.read(said, own)[0]
                    close = isinstance(value, float) and again == pytest.approx(value, rel=1e-4)
                    assert close or again == value, (one.name, said)


def test_many_tools_are_added_whole_or_not_at_all(demo, act):
    made = lambda *numbers: [Tool(number=number, model_id=1) for number in numbers]  # noqa: E731
    for numbers, words in ((("N-1", "HC-0417"), "already a tool HC-0417"), (("N-1", "N-2", "N-1"), "two tools N-1")):
        with demo.session() as session, pytest.raises(FieldRefused, match=words):
            add_many_tools(session, made(*numbers), act)
    with demo.session() as session:
        command = add_many_tools(session, made("N-1", "N-2"), act)
        assert projection.rebuild(session) == listing.rebuild(session) == 0
        assert [c.tool.number for c in cards(reader_of(session)) if c.tool.number.startswith("N-")] == ["N-1", "N-2"]
        take_back(session, command, act)
        assert not [c for c in cards(reader_of(session)) if c.tool.number.startswith("N-")]


def test_what_was_measured_is_kept_with_the_tool_where_it_is_news(demo, act):
    with demo.session() as session:
        tool = session.get_one(Tool, tool_id(demo, "HC-0417"))
        kept = keep_measured(session, tool.id, MeasuredTool(lever_length=0.4321, own_mass=1.234), act)
        assert (kept.words, tool.lever_length, tool.own_mass) == (
            "HC-0417: lever, drive centre to grip mark; own mass, as measured",
            0.4321,
            1.234,
        )
        assert keep_measured(session, tool.id, MeasuredTool(lever_length=0.4321, own_mass=1.234), act) is None
        assert keep_measured(session, tool.id, MeasuredTool(), act) is None
        of_model = tool.model.lever_length or tool.model.resolution
        assert of_model, "the model says one of them"
        same = MeasuredTool(resolution=tool.resolution or tool.model.resolution)
        assert keep_measured(session, tool.id, same, act) is None  # as its model has it


def test_the_next_meter_is_numbered_as_the_shop_numbers(demo, act):
    with demo.session() as session:
        meters = select(Reference).where(Reference.kind == "meter").order_by(Reference.id.desc())
        newest = session.scalars(meters).first()
        assert next_meter(reader_of(session)) == "PM-8"
        newest.number = "Cell A7"
        session.flush()
        assert next_meter(reader_of(session)) == "Cell A8"
        newest.number = "Big one"
        session.flush()
        assert next_meter(reader_of(session)) == "M-1"


def test_a_model_is_told_in_what_goes_with_its_own_torque_and_the_shop_can_say_otherwise(demo, act):
    with demo.session() as session:
        metric, imperial = (
            session.scalars(select(ToolModel).where(ToolModel.unit == unit, ToolModel.removed.is_(False))).first()
            for unit in ("N.m", "lbf.ft")
        )
        for model in session.scalars(select(ToolModel).where(ToolModel.id != metric.id)):
            model.unit = "lbf.ft"  # most of the shop works in pounds
        session.flush()
        symbols = [row_sheet(session, MODEL, one.id).own.length.symbol for one in (metric, imperial)]
        assert symbols == ["mm", "in"]
        typed(session, MODEL, imperial.id, "lever_length", "16", act)
        assert imperial.lever_length == pytest.approx(16 * 0.0254)  # a bare number is in one's own unit
        weight = session.scalars(select(Gear)).first()
        kind = next(k for k, of in KINDS.items() if isinstance(weight, of.table))
        assert row_sheet(session, kind, weight.id).own.mass.symbol == "lb"
        session.get_one(Shop, the_shop(session)).units = "metric"
        session.flush()
        assert row_sheet(session, MODEL, imperial.id).own.length.symbol == "mm"
        tool = session.scalars(select(Tool).where(Tool.model_id == imperial.id)).first()
        assert (
            tool_facts(tool).own_units.mass.symbol,
            card(reader_of(session), tool.id).tool.own_units.mass.symbol,
        ) == (
            "kg",
            "kg",
        )


def test_what_somebody_else_did_is_taken_back_by_them_alone(demo, act):
    other = replace(act, person_id=2)
    with demo.session() as session:
        wanted = tool_id(demo, "HC-0417")
        field = next(f for f in fields_of(RegisterKind.TOOL) if f.name == "place")
        command = change(session, RegisterKind.TOOL, wanted, field, "Tower 9", act)
        held = report(session, wanted, EventKind.FELL, "off the gantry", act)
    for done in (command, held):
        with pytest.raises(ShopRefused, match=r"R\. K\. did that, and takes it back alone"), demo.session() as session:
            done.take_back(session, other)
    with demo.session() as session:
        held.take_back(session, act)
        command.take_back(session, act)
