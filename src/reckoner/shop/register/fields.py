"""The fields of the register: each declared once, with its words, how it is entered, and what it is good for.

Entry, validation, the sheets in the window and the history of a row are all made from these. To add a field: its column
with a migration, and a row in ``FIELDS``.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from reckoner.core.quantities.units import UNITS, Kind
from reckoner.core.requirements.tooltypes import CLASSES, Approach, Mechanism, ToolType
from reckoner.core.translation import tr
from reckoner.shop.facts.limits import limit_columns, stated_limit
from reckoner.shop.intervals import SCHOOL_WORDS
from reckoner.shop.people.rights import RIGHT_WORDS
from reckoner.shop.register.field import YES_NO, Field, FieldForm
from reckoner.shop.register.shopfields import SHOP_FIELDS
from reckoner.store.terms import RegisterKind

KNOWN_OR_NOT = ((True, tr("yes")), (False, tr("no")), (None, tr("not known")))
DRIVES = ("¼ in", "⅜ in", "½ in", "¾ in", "1 in", "¼ in hex")
"""Drives that tools usually have; another can be typed."""


def _torque(name: str, title: str, group: str, **more: Any) -> Field:
    return Field(name, title, FieldForm.TORQUE, group, low=0.0, above=True, **more)


def _length(name: str, title: str, group: str, **more: Any) -> Field:
    return Field(name, title, FieldForm.LENGTH, group, low=0.0, high=5.0, **more)


def _limit(title: str, **more: Any) -> Field:
    hint = tr("such as 3 %, 1 % of full scale, or 6 % below 20 %, 4 % above")
    return Field("tolerance", title, FieldForm.LIMIT, _SIZE, hint=hint, **more)


def _school(otherwise: str) -> Field:
    schools = tuple((school.value, words) for school, words in SCHOOL_WORDS.items())
    return Field(
        "interval_school", tr("How its interval is found"), FieldForm.CHOICE, _KEPT, choices=(("", otherwise), *schools)
    )


_WHAT, _SIZE, _SCREW, _KEPT = tr("What it is"), tr("What it measures"), tr("How it is adjusted"), tr("How it is kept")

_GEAR = (
    Field("number", tr("Number"), FieldForm.WORDS, _WHAT, needed=True, longest=40),
    Field("serial", tr("Serial"), FieldForm.WORDS, _WHAT, longest=80),
)
_DUE = Field("due", tr("Its certificate holds until"), FieldForm.DAY, _KEPT, improves=tr("it is told in time"))


def _mass(name: str, title: str, **more: Any) -> Field:
    return Field(name, title, FieldForm.MASS, _SIZE, low=0.0, high=500.0, above=True, **more)


_LEVER = (
    _length(
        "lever_length",
        tr("Lever, drive centre to grip mark"),
        _SIZE,
        improves=tr("adapters and weights can be computed"),
    ),
    _length(
        "pivot_offset", tr("Pivot offset, drive centre to pin"), _SIZE, improves=tr("weights can be hung anywhere")
    ),
    Field(
        "own_mass",
        tr("Own mass"),
        FieldForm.MASS,
        _SIZE,
        low=0.0,
        high=50.0,
        improves=tr("its own weight can be counted"),
    ),
    _length("own_centre", tr("Balance point, from the drive"), _SIZE, improves=tr("its own weight can be counted")),
)
"""A tool's own where it departs from its model."""

FIELDS: dict[RegisterKind, tuple[Field, ...]] = {
    RegisterKind.WEIGHT: (
        *_GEAR,
        Field(
            "box",
            tr("Box that it belongs to"),
            FieldForm.WORDS,
            _WHAT,
            longest=40,
            improves=tr("a whole box can be chosen"),
        ),
        _mass("stamped", tr("Stamped"), hint=tr("what stands on it")),
        _mass("weighed", tr("Weighed"), improves=tr("it counts: a stamped weight can be 5 % out")),
        _mass(
            "mass_uncertainty", tr("Uncertainty of that, U (k = 2)"), improves=tr("its share of the budget is known")
        ),
        Field("weighed_on", tr("Weighed on"), FieldForm.DAY, _KEPT),
        Field("weighed_with", tr("Weighed with"), FieldForm.WORDS, _KEPT, longest=80),
        _DUE,
    ),
    RegisterKind.SCALE: (
        *_GEAR,
        _mass("bears", tr("Bears up to")),
        _mass("scale_step", tr("Its smallest step")),
        _mass("scale_uncertainty", tr("Its uncertainty, U (k = 2)"), improves=tr("what it weighs can be counted")),
        _DUE,
    ),
    RegisterKind.FORCE_GAUGE: (
        *_GEAR,
        Field("reaches", tr("Reaches up to"), FieldForm.FORCE, _SIZE, low=0.0, above=True),
        Field("gauge_step", tr("Its smallest step"), FieldForm.FORCE, _SIZE, low=0.0, above=True),
        Field(
            "force_uncertainty",
            tr("Its uncertainty, W (k = 2)"),
            FieldForm.RATIO,
            _SIZE,
            low=0.0,
            high=0.5,
            above=True,
            improves=tr("what it pulls can be judged"),
        ),
        Field(
            "shows_mass",
            tr("Reads kg, and was set with a mass"),
            FieldForm.CHOICE,
            _SIZE,
            choices=KNOWN_OR_NOT,
            improves=tr("kilograms are read as force or as mass"),
        ),
        _DUE,
    ),
    RegisterKind.LENGTH: (
        *_GEAR,
        _length("graduation", tr("Its graduation"), _SIZE),
        _length(
            "length_uncertainty", tr("Its uncertainty, U (k = 2)"), _SIZE, improves=tr("lever lengths can be counted")
        ),
        _DUE,
    ),
    RegisterKind.LEVEL: (
        *_GEAR,
        Field(
            "angle_uncertainty",
            tr("Its uncertainty, U (k = 2)"),
            FieldForm.ANGLE,
            _SIZE,
            low=0.0,
            high=0.8,
            above=True,
            improves=tr("the tilt of a lever can be counted"),
        ),
        _DUE,
    ),
    RegisterKind.ADAPTER: (
        *_GEAR,
        Field(
            "shape",
            tr("What it is"),
            FieldForm.WORDS,
            _WHAT,
            longest=60,
            hint=tr("such as crow-foot, offset ring, extension"),
        ),
        _length(
            "adapter_length",
            tr("From the drive's centre to the fastener's"),
            _SIZE,
            hint=tr("0 for an extension in line"),
            improves=tr("what it does to a setting is computed"),
        ),
        _torque("adapter_rating", tr("What it may bear"), _SIZE, improves=tr("it is never asked for more")),
        Field("adapter_gives", tr("Has a joint with give"), FieldForm.CHOICE, _SIZE, choices=KNOWN_OR_NOT),
    ),
    RegisterKind.JOB_CARD: (
        Field("number", tr("Number"), FieldForm.WORDS, _WHAT, needed=True, longest=40),
        Field("title", tr("What is tightened"), FieldForm.WORDS, _WHAT, longest=120),
        Field("place", tr("Where"), FieldForm.WORDS, _WHAT, longest=80),
    ),
    RegisterKind.SHOP: SHOP_FIELDS,
    RegisterKind.PERSON: (
        Field(
            "initials", tr("Initials"), FieldForm.WORDS, tr("Who"), needed=True, longest=12, hint=tr("such as K. L.")
        ),
        Field("name", tr("Name"), FieldForm.WORDS, tr("Who"), needed=True, longest=80),
        *(
            Field(
                right.value,
                tr("May {words}", words=words),
                FieldForm.YES_NO,
                tr("What this person may do"),
                choices=YES_NO,
            )
            for right, words in RIGHT_WORDS.items()
        ),
        Field("left_on", tr("Works here no more since"), FieldForm.DAY, tr("Who")),
    ),
    RegisterKind.MODEL: (
        Field("maker", tr("Maker"), FieldForm.WORDS, _WHAT, longest=80),
        Field("name", tr("Model"), FieldForm.WORDS, _WHAT, needed=True, longest=80),
        Field(
            "mechanism",
            tr("Mechanism"),
            FieldForm.CHOICE,
            _WHAT,
            needed=True,
            choices=tuple((m, tr(m)) for m in Mechanism),
        ),
        Field(
            "kind",
            tr("Type and class (ISO 6789)"),
            FieldForm.CHOICE,
            _WHAT,
            needed=True,
            choices=tuple(
                (f"{kind.value} {letter}", f"{kind.value} {letter}: {words}")
                for kind, classes in CLASSES.items()
                for letter, words in classes.items()
            ),
        ),
        Field(
            "drive",
            tr("Drive"),
            FieldForm.WORDS,
            _WHAT,
            improves=tr("the adapter on the meter follows"),
            hint=tr("such as ½ in"),
        ),
        Field(
            "directions",
            tr("Turns"),
            FieldForm.CHOICE,
            _WHAT,
            needed=True,
            choices=(("cw", tr("clockwise")), ("ccw", tr("counter-clockwise")), ("both", tr("both ways"))),
        ),
        Field(
            "unit",
            tr("Unit of its scale"),
            FieldForm.CHOICE,
            _SIZE,
            needed=True,
            choices=tuple((u.name, u.symbol) for u in UNITS if u.kind is Kind.TORQUE),
        ),
        _torque(
            "minimum",
            tr("Smallest torque"),
            _SIZE,
            improves=tr("its lowest point is the maker's, not a fifth of its range"),
        ),
        _torque("maximum", tr("Full scale"), _SIZE, needed=True),
        Field(
            "resolution",
            tr("Readable fraction of its graduation"),
            FieldForm.TORQUE,
            _SIZE,
            low=0.0,
            improves=tr("it counts in every budget, and settings are proposed that can be set"),
        ),
        Field(
            "second_unit",
            tr("Unit of its second scale"),
            FieldForm.CHOICE,
            _SIZE,
            choices=(("", tr("none")), *((u.name, u.symbol) for u in UNITS if u.kind is Kind.TORQUE)),
        ),
        Field(
            "second_resolution",
            tr("Readable fraction of its second scale's graduation"),
            FieldForm.TORQUE,
            _SIZE,
            low=0.0,
            improves=tr("it can be tested by its second scale"),
        ),
        Field(
            "main_graduation",
            tr("Between two marks of its main scale"),
            FieldForm.TORQUE,
            _SIZE,
            low=0.0,
            above=True,
            improves=tr("a setting is told as it reads on both its scales"),
        ),
        _limit(tr("Maker's limit, ±"), improves=tr("a limit tighter than the rule set's counts")),
        *_LEVER,
        Field(
            "grip_matters",
            tr("Trips by where the hand pulls"),
            FieldForm.CHOICE,
            _SIZE,
            choices=KNOWN_OR_NOT,
            improves=tr("it is known whether the grip mark has to be kept to"),
        ),
        _length("head_length", tr("Made for a head of, drive centre to seat"), _SIZE),
        Field(
            "corrects_adapter",
            tr("Takes an adapter's length into account itself"),
            FieldForm.YES_NO,
            _SIZE,
            choices=YES_NO,
        ),
        Field(
            "approach",
            tr("A setting is approached"),
            FieldForm.CHOICE,
            _KEPT,
            needed=True,
            choices=tuple((a, tr(a)) for a in Approach),
        ),
        _school(tr("as the shop does")),
        Field(
            "storage",
            tr("Putting it away, as its maker says"),
            FieldForm.WORDS,
            _KEPT,
            longest=300,
            hint=tr("empty: as usual for its mechanism"),
        ),
        Field(
            "adjust_where",
            tr("Where the screw is"),
            FieldForm.WORDS,
            _SCREW,
            longest=300,
            improves=tr("it can be adjusted here by who may"),
        ),
        Field(
            "adjust_raises",
            tr("Raises the torque when turned"),
            FieldForm.CHOICE,
            _SCREW,
            choices=(("", tr("not known")), ("cw", tr("clockwise")), ("ccw", tr("counter-clockwise"))),
        ),
        Field(
            "adjust_changes",
            tr("A turn changes"),
            FieldForm.CHOICE,
            _SCREW,
            choices=(
                ("", tr("not known")),
                ("offset", tr("the same torque everywhere")),
                ("gain", tr("the same part of each setting")),
            ),
            improves=tr("what a turn does to the other points is foretold"),
        ),
        Field("adjust_lock", tr("What locks it"), FieldForm.WORDS, _SCREW, longest=300),
        _torque("adjust_rate", tr("A turn adds about"), _SCREW, improves=tr("the first turn can be proposed")),
        Field("adjust_most_turns", tr("Turns in all, at most"), FieldForm.NUMBER, _SCREW, low=0.01, high=50),
        Field("adjust_relieve", tr("Relieve the spring first"), FieldForm.YES_NO, _SCREW, choices=YES_NO),
        *(
            Field(name, title, FieldForm.NUMBER, tr("What it costs"), low=0.0, high=10**7, hint=hint)
            for name, title, hint in (
                ("fee", tr("A test outside"), tr("in the shop's currency")),
                ("freight", tr("Freight there and back"), tr("in the shop's currency")),
                ("days_away", tr("Days without it meanwhile"), tr("such as 15")),
                ("price", tr("A new one"), tr("in the shop's currency")),
                ("bench_minutes", tr("Minutes at the bench for a full run"), tr("such as 25")),
            )
        ),
    ),
    RegisterKind.TOOL: (
        Field("number", tr("Number"), FieldForm.WORDS, _WHAT, needed=True, longest=40),
        Field(
            "serial", tr("Serial"), FieldForm.WORDS, _WHAT, longest=80, improves=tr("it is found by scanning its plate")
        ),
        Field(
            "place",
            tr("Where it is kept"),
            FieldForm.WORDS,
            _KEPT,
            longest=80,
            improves=tr("it is found, and counted by place"),
        ),
        Field("owner", tr("Owner"), FieldForm.WORDS, _KEPT, longest=80),
        Field("in_service", tr("First used"), FieldForm.DAY, _KEPT),
        Field("rule_set", tr("Rule set"), FieldForm.CHOICE, _SIZE, needed=True),
        _limit(tr("Owner's limit, ±")),
        Field(
            "interval_months",
            tr("Months from one full run to the next"),
            FieldForm.COUNT,
            _KEPT,
            low=1,
            high=120,
            hint=tr("empty: the rule set's; counts from its next full run"),
        ),
        _school(tr("as its model")),
        Field(
            "cycles_per_year",
            tr("Cycles a year"),
            FieldForm.COUNT,
            _KEPT,
            low=0,
            high=10**7,
            hint=tr("0: not known; the due date comes earlier where they run out"),
        ),
        Field(
            "cycles_per_lent_day",
            tr("Cycles a day while it is lent"),
            FieldForm.COUNT,
            _KEPT,
            low=0,
            high=10**5,
            hint=tr("0: counted by hand, as “0417 used 120”"),
        ),
        Field("resolution", tr("Readable fraction of its graduation"), FieldForm.TORQUE, _SIZE, low=0.0, above=True),
        *(replace(field, improves="") for field in _LEVER),
    ),
    RegisterKind.REFERENCE: (
        Field("number", tr("Number"), FieldForm.WORDS, _WHAT, needed=True, longest=40),
        Field("maker", tr("Maker"), FieldForm.WORDS, _WHAT, longest=80),
        Field("model", tr("Model"), FieldForm.WORDS, _WHAT, longest=80),
        Field("serial", tr("Serial"), FieldForm.WORDS, _WHAT, longest=80),
        Field(
            "unit",
            tr("Unit that it shows"),
            FieldForm.CHOICE,
            _SIZE,
            needed=True,
            choices=tuple((u.name, u.symbol) for u in UNITS if u.kind is Kind.TORQUE),
        ),
        _torque("minimum", tr("From"), _SIZE, needed=True),
        _torque("maximum", tr("To"), _SIZE, needed=True),
        _torque("resolution", tr("Its smallest step"), _SIZE, needed=True),
        _torque("zero_tolerance", tr("Zero allowed, ±"), _SIZE, needed=True),
        Field("corrected", tr("Applies its certificate itself"), FieldForm.YES_NO, _SIZE, choices=YES_NO),
        Field(
            "error_left",
            tr("Known error left in the readings, because"),
            FieldForm.WORDS,
            _SIZE,
            longest=300,
            hint=tr("empty: readings are corrected for it"),
        ),
        Field("link", tr("Reached by"), FieldForm.WORDS, _KEPT, longest=200, hint=tr("empty: readings are typed")),
    ),
}
"""Kind of row → its fields, in the order in which a sheet shows them."""

ZERO_IS_NOTHING = ("resolution", "pivot_offset")
"""Fields of a model that stand at 0 while nothing is known."""

SPREAD: dict[str, tuple[str, ...]] = {"kind": ("type", "class_"), "tolerance": ("tolerance", "zones")}
"""Fields that stand in more than one column."""


def columns_in(field: Field) -> tuple[str, ...]:
    """The columns that a field stands in."""
    return SPREAD.get(field.name, (field.name,))


def field_of(kind: RegisterKind, name: str) -> Field | None:
    """The field that a column belongs to; None for one that is not shown."""
    whole = next((whole for whole, parts in SPREAD.items() if name in parts), name)
    return next((f for f in FIELDS[kind] if f.name == whole), None)


def fields_of(kind: RegisterKind) -> tuple[Field, ...]:
    """The fields of a kind of row, with the rule sets that there are."""
    from reckoner.formats.rulesets import SHIPPED, shipped  # loads pydantic

    titles = tuple((name, shipped(name).title) for name in SHIPPED)
    return tuple(replace(f, choices=titles) if f.name == "rule_set" else f for f in FIELDS[kind])


def columns_of(kind: RegisterKind, field: Field, value: Any) -> dict[str, Any]:
    """What a field's value puts into which columns."""
    if field.name == "kind":
        type_, letter = str(value).split()
        return {"type": ToolType(type_), "class_": letter}
    if field.form is FieldForm.LIMIT:
        return limit_columns(value)
    if kind is RegisterKind.MODEL and value is None and field.name in ZERO_IS_NOTHING:
        value = 0.0
    return {field.name: value}


def value_in(field: Field, row: Mapping[str, Any]) -> Any:
    """A field's value in the columns of a row."""
    if field.name == "kind":
        return f"{ToolType(row['type']).value} {row['class_']}"
    if field.form is FieldForm.LIMIT:
        return stated_limit(row["tolerance"], row["zones"])
    return row[field.name]


def is_missing(field: Field, value: Any) -> bool:
    """Whether a field says nothing yet: also where nothing stands as 0."""
    return value in (None, "") or (value == 0 and field.name in ZERO_IS_NOTHING)
