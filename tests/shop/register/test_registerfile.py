"""The register file: what the fields declare goes out and comes in again, every one of them."""

from datetime import date

import pytest
from sqlalchemy import Boolean, Date, Float, Integer, String, Text, inspect

from reckoner.core.requirements.limits import read_limit
from reckoner.core.requirements.tooltypes import CLASSES, ToolType
from reckoner.shop.facts.limits import limit_columns
from reckoner.shop.records.exporting import register
from reckoner.shop.register.adding import ToolsDraft, add_tools
from reckoner.shop.register.field import QUANTITIES, FieldForm, columns_in
from reckoner.shop.register.fields import FIELDS
from reckoner.shop.register.registerfile import SECTIONS, validate, written
from reckoner.shop.register.rows import KINDS, NOT_EDITED
from reckoner.store.reader import reader_of
from reckoner.store.schema import Tool
from reckoner.store.terms import RegisterKind
from tests.support.runs import tool_id

NOT_FIELDS = {"model_id", "kind", *NOT_EDITED}
BESIDE = {RegisterKind.ADAPTER: {"due"}, RegisterKind.JOB_CARD: {"document"}}


def sample(field):
    """A value of a field that is not the one it has when nothing is said."""
    if field.form in QUANTITIES:
        return (field.low or 0.0) + 0.0123456789
    match field.form:
        case FieldForm.DAY:
            return date(2026, 3, 9)
        case FieldForm.YES_NO:
            return True
        case FieldForm.COUNT | FieldForm.NUMBER:
            return 7
        case FieldForm.CHOICE if field.choices:
            return next(value for value, _ in reversed(field.choices) if value not in ("", None))
        case _:
            return "such words"


def whole_row(kind):
    """A row of a kind, by its columns, with every field said."""
    row = {}
    for field in FIELDS[kind]:
        if field.name == "kind":
            row |= {"type": ToolType.SETTING.value, "class": next(iter(CLASSES[ToolType.SETTING]))}
        elif field.form is FieldForm.LIMIT:
            row |= limit_columns(read_limit("6 % below 20 %, 4 % above", "limit"))
        else:
            row[field.name] = sample(field)
    return row


@pytest.mark.parametrize("section", SECTIONS)
def test_every_field_of_a_row_is_written_and_read_again_as_the_same(section):
    kind = SECTIONS[section]
    row = whole_row(kind)
    told = written(kind, row) | ({"model": "S X"} if section == "tools" else {})
    assert {"type", "class"} | {f.name for f in FIELDS[kind]} >= told.keys() - {"model"}
    assert len(told) - (section == "tools") == len(FIELDS[kind]) + (section == "models")
    read = getattr(validate({section: [told]}), section)[0]
    for field in FIELDS[kind]:
        if field.form is FieldForm.LIMIT:
            assert limit_columns(read.tolerance) == {name: row[name] for name in ("tolerance", "zones")}
        elif field.form in QUANTITIES:
            assert getattr(read, field.name) == pytest.approx(row[field.name], rel=1e-14)
        elif field.name != "kind":
            assert getattr(read, field.name) == row[field.name]


@pytest.mark.parametrize("kind", FIELDS, ids=str)
def test_each_column_of_a_kind_is_a_field_and_each_field_stands_in_columns(kind):
    columns = {c.key for c in inspect(KINDS[kind].table).column_attrs} - NOT_FIELDS
    fields = BESIDE.get(kind, set()) | {name for field in FIELDS[kind] for name in columns_in(field)}
    assert columns == fields


HOLDS = {
    FieldForm.WORDS: (String, Text), FieldForm.CHOICE: (String, Boolean), FieldForm.YES_NO: (Boolean,),
    FieldForm.DAY: (Date,), FieldForm.COUNT: (Integer,),
}  # fmt: skip
"""What a field is kept in; every other is a number."""


@pytest.mark.parametrize("kind", FIELDS, ids=str)
def test_a_column_holds_what_its_field_says(kind):
    columns = inspect(KINDS[kind].table).columns
    for field in (f for f in FIELDS[kind] if f.name in columns):
        column = columns[field.name]
        kept = getattr(column.type, "impl_instance", column.type)
        assert isinstance(kept, HOLDS.get(field.form, (Float,))), field.name
        assert not (field.needed and column.nullable), field.name
        longest = getattr(kept, "length", None)
        assert longest is None or field.form is not FieldForm.WORDS or field.longest <= longest, field.name


def test_what_says_nothing_is_left_out_and_a_yes_is_no_number(demo):
    with demo.session() as session:
        told = register(reader_of(session))
    assert {model["corrects_adapter"] for model in told["models"]} <= {True, False}
    assert all(isinstance(model["corrects_adapter"], bool) for model in told["models"])
    bare = whole_row(RegisterKind.MODEL) | {"resolution": 0.0, "pivot_offset": 0.0, "drive": "", "own_mass": None}
    assert not written(RegisterKind.MODEL, bare).keys() & {"resolution", "pivot_offset", "drive", "own_mass"}


def test_a_tool_like_another_has_all_of_it_but_what_is_its_own(demo, act):
    with demo.session() as session:
        other = session.get(Tool, tool_id(demo, "HC-0417"))
        said = whole_row(RegisterKind.TOOL) | {
            "rule_set": other.rule_set,
            "number": other.number,
            "interval_school": "fixed",
            "lever_length": 0.5,  # beyond its pin
        }
        for name, value in said.items():
            setattr(other, name, value)
        session.flush()
        (made,), _undo = add_tools(session, ToolsDraft(("HC-0999",), other.model_id, serial="S 9", like=other.id), act)
        new = session.get(Tool, made)
        assert (new.number, new.serial, new.in_service) == ("HC-0999", "S 9", None)
        for name in said.keys() - {"number", "serial", "in_service"}:
            assert getattr(new, name) == getattr(other, name), name
