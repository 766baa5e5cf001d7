"""The fields of the register: each declared once, with its words, how it is entered, and what it is good for.

Entry, validation, the sheets in the window and the history of a row are all made from these. To add a field: its column
with a migration, and a row in ``FIELDS``.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from reckoner.core.quantities.units import UNITS, Kind
from reckoner.core.requirements.tooltypes import CLASSES, Approach, Mechanism
from reckoner.core.translation import tr
from reckoner.shop.intervals import SCHOOL_WORDS
from reckoner.shop.people.rights import RIGHT_WORDS
from reckoner.shop.register.field import (
    HOW_ADJUSTED,
    HOW_KEPT,
    KNOWN_OR_NOT,
    SPREAD,
    WHAT_IT_IS,
    WHAT_IT_MEASURES,
    YES_NO,
    Field,
    FieldForm,
    length_field,
    torque_field,
)
from reckoner.shop.register.gearfields import GEAR_FIELDS
from reckoner.shop.register.shopfields import SHOP_FIELDS
from reckoner.store.terms import RegisterKind

DRIVES = ("¼ in", "⅜ in", "½ in", "¾ in", "1 in", "¼ in hex")
"""Drives that tools usually have; another can be typed."""


def _limit(title: str, **more: Any) -> Field:
    hint = tr("such as 3 %, 1 % of full scale, or 6 % below 20 %, 4 % above")
    return Field("tolerance", title, FieldForm.LIMIT, WHAT_IT_MEASURES, hint=hint, **more)


def _school(otherwise: str) -> Field:
    schools = tuple((school.value, words) for school, words in SCHOOL_WORDS.items())
    return Field(
        "interval_school",
        tr("How its interval is found"),
        FieldForm.CHOICE,
        HOW_KEPT,
        choices=(("", otherwise), *schools),
    )


_LEVER = (
    length_field(
        "lever_length",
        tr("Lever, drive centre to grip mark"),
        WHAT_IT_MEASURES,
        improves=tr("adapters and weights can be computed"),
    ),
    length_field(
        "pivot_offset",
        tr("Pivot offset, drive centre to pin"),
        WHAT_IT_MEASURES,
        improves=tr("weights can be hung anywhere"),
    ),
    Field(
        "own_mass",
        tr("Own mass"),
        FieldForm.MASS,
        WHAT_IT_MEASURES,
        low=0.0,
        high=50.0,
        improves=tr("its own weight can be counted"),
    ),
    length_field(
        "own_centre",
        tr("Balance point, from the drive"),
        WHAT_IT_MEASURES,
        improves=tr("its own weight can be counted"),
    ),
)
"""A tool's own where it departs from its model."""

FIELDS: dict[RegisterKind, tuple[Field, ...]] = {
    **GEAR_FIELDS,
    RegisterKind.JOB_CARD: (
        Field("number", tr("Number"), FieldForm.WORDS, WHAT_IT_IS, needed=True, longest=40),
        Field("title", tr("What is tightened"), FieldForm.WORDS, WHAT_IT_IS, longest=120),
        Field("place", tr("Where"), FieldForm.WORDS, WHAT_IT_IS, longest=80),
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
        Field("maker", tr("Maker"), FieldForm.WORDS, WHAT_IT_IS, longest=80),
        Field("name", tr("Model"), FieldForm.WORDS, WHAT_IT_IS, needed=True, longest=80),
        Field(
            "mechanism",
            tr("Mechanism"),
            FieldForm.CHOICE,
            WHAT_IT_IS,
            needed=True,
            choices=tuple((m, tr(m)) for m in Mechanism),
        ),
        Field(
            "kind",
            tr("Type and class (ISO 6789)"),
            FieldForm.CHOICE,
            WHAT_IT_IS,
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
            WHAT_IT_IS,
            improves=tr("the adapter on the meter follows"),
            hint=tr("such as ½ in"),
        ),
        Field(
            "directions",
            tr("Turns"),
            FieldForm.CHOICE,
            WHAT_IT_IS,
            needed=True,
            choices=(("cw", tr("clockwise")), ("ccw", tr("counter-clockwise")), ("both", tr("both ways"))),
        ),
        Field(
            "unit",
            tr("Unit of its scale"),
            FieldForm.CHOICE,
            WHAT_IT_MEASURES,
            needed=True,
            choices=tuple((u.name, u.symbol) for u in UNITS if u.kind is Kind.TORQUE),
        ),
        torque_field(
            "minimum",
            tr("Smallest torque"),
            WHAT_IT_MEASURES,
            improves=tr("its lowest point is the maker's, not a fifth of its range"),
        ),
        torque_field("maximum", tr("Full scale"), WHAT_IT_MEASURES, needed=True),
        Field(
            "resolution",
            tr("Readable fraction of its graduation"),
            FieldForm.TORQUE,
            WHAT_IT_MEASURES,
            low=0.0,
            improves=tr("it counts in every budget, and settings are proposed that can be set"),
        ),
        Field(
            "second_unit",
            tr("Unit of its second scale"),
            FieldForm.CHOICE,
            WHAT_IT_MEASURES,
            choices=(("", tr("none")), *((u.name, u.symbol) for u in UNITS if u.kind is Kind.TORQUE)),
        ),
        Field(
            "second_resolution",
            tr("Readable part of its second graduation"),
            FieldForm.TORQUE,
            WHAT_IT_MEASURES,
            low=0.0,
            improves=tr("it can be tested by its second scale"),
        ),
        Field(
            "main_graduation",
            tr("Between two marks of its main scale"),
            FieldForm.TORQUE,
            WHAT_IT_MEASURES,
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
            WHAT_IT_MEASURES,
            choices=KNOWN_OR_NOT,
            improves=tr("it is known whether the grip mark has to be kept to"),
        ),
        length_field("head_length", tr("Made for a head of, drive centre to seat"), WHAT_IT_MEASURES),
        Field(
            "corrects_adapter",
            tr("Counts an adapter's length itself"),
            FieldForm.YES_NO,
            WHAT_IT_MEASURES,
            choices=YES_NO,
        ),
        Field(
            "approach",
            tr("A setting is approached"),
            FieldForm.CHOICE,
            HOW_KEPT,
            needed=True,
            choices=tuple((a, tr(a)) for a in Approach),
        ),
        _school(tr("as the shop does")),
        Field(
            "storage",
            tr("Putting it away, as its maker says"),
            FieldForm.WORDS,
            HOW_KEPT,
            longest=300,
            hint=tr("empty: as usual for its mechanism"),
        ),
        Field(
            "adjust_where",
            tr("Where the screw is"),
            FieldForm.WORDS,
            HOW_ADJUSTED,
            longest=300,
            improves=tr("it can be adjusted here by who may"),
        ),
        Field(
            "adjust_raises",
            tr("Raises the torque when turned"),
            FieldForm.CHOICE,
            HOW_ADJUSTED,
            choices=(("", tr("not known")), ("cw", tr("clockwise")), ("ccw", tr("counter-clockwise"))),
        ),
        Field(
            "adjust_changes",
            tr("A turn changes"),
            FieldForm.CHOICE,
            HOW_ADJUSTED,
            choices=(
                ("", tr("not known")),
                ("offset", tr("the same torque everywhere")),
                ("gain", tr("the same part of each setting")),
            ),
            improves=tr("what a turn does to the other points is foretold"),
        ),
        Field("adjust_lock", tr("What locks it"), FieldForm.WORDS, HOW_ADJUSTED, longest=300),
        torque_field(
            "adjust_rate", tr("A turn adds about"), HOW_ADJUSTED, improves=tr("the first turn can be proposed")
        ),
        Field("adjust_most_turns", tr("Turns in all, at most"), FieldForm.NUMBER, HOW_ADJUSTED, low=0.01, high=50),
        Field("adjust_relieve", tr("Relieve the spring first"), FieldForm.YES_NO, HOW_ADJUSTED, choices=YES_NO),
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
        Field("number", tr("Number"), FieldForm.WORDS, WHAT_IT_IS, needed=True, longest=40),
        Field(
            "serial",
            tr("Serial"),
            FieldForm.WORDS,
            WHAT_IT_IS,
            longest=80,
            improves=tr("it is found by scanning its plate"),
        ),
        Field(
            "place",
            tr("Where it is kept"),
            FieldForm.WORDS,
            HOW_KEPT,
            longest=80,
            improves=tr("it is found, and counted by place"),
        ),
        Field("owner", tr("Owner"), FieldForm.WORDS, HOW_KEPT, longest=80),
        Field("in_service", tr("First used"), FieldForm.DAY, HOW_KEPT),
        Field("rule_set", tr("Rule set"), FieldForm.CHOICE, WHAT_IT_MEASURES, needed=True),
        _limit(tr("Owner's limit, ±")),
        Field(
            "interval_months",
            tr("Months from one full run to the next"),
            FieldForm.COUNT,
            HOW_KEPT,
            low=1,
            high=120,
            hint=tr("empty: the rule set's; counts from its next full run"),
        ),
        _school(tr("as its model")),
        Field(
            "cycles_per_year",
            tr("Cycles a year"),
            FieldForm.COUNT,
            HOW_KEPT,
            low=0,
            high=10**7,
            hint=tr("0: not known; the due date comes earlier where they run out"),
        ),
        Field(
            "cycles_per_lent_day",
            tr("Cycles a day while it is lent"),
            FieldForm.COUNT,
            HOW_KEPT,
            low=0,
            high=10**5,
            hint=tr("0: counted by hand, as “0417 used 120”"),
        ),
        Field(
            "resolution",
            tr("Readable fraction of its graduation"),
            FieldForm.TORQUE,
            WHAT_IT_MEASURES,
            low=0.0,
            above=True,
        ),
        *(replace(field, improves="") for field in _LEVER),
    ),
    RegisterKind.REFERENCE: (
        Field("number", tr("Number"), FieldForm.WORDS, WHAT_IT_IS, needed=True, longest=40),
        Field("maker", tr("Maker"), FieldForm.WORDS, WHAT_IT_IS, longest=80),
        Field("model", tr("Model"), FieldForm.WORDS, WHAT_IT_IS, longest=80),
        Field("serial", tr("Serial"), FieldForm.WORDS, WHAT_IT_IS, longest=80),
        Field(
            "unit",
            tr("Unit that it shows"),
            FieldForm.CHOICE,
            WHAT_IT_MEASURES,
            needed=True,
            choices=tuple((u.name, u.symbol) for u in UNITS if u.kind is Kind.TORQUE),
        ),
        torque_field("minimum", tr("From"), WHAT_IT_MEASURES, needed=True),
        torque_field("maximum", tr("To"), WHAT_IT_MEASURES, needed=True),
        torque_field("resolution", tr("Its smallest step"), WHAT_IT_MEASURES, needed=True),
        torque_field("zero_tolerance", tr("Zero allowed, ±"), WHAT_IT_MEASURES, needed=True),
        Field("corrected", tr("Applies its certificate itself"), FieldForm.YES_NO, WHAT_IT_MEASURES, choices=YES_NO),
        Field(
            "error_left",
            tr("Known error left in the readings, because"),
            FieldForm.WORDS,
            WHAT_IT_MEASURES,
            longest=300,
            hint=tr("empty: readings are corrected for it"),
        ),
        Field("link", tr("Reached by"), FieldForm.WORDS, HOW_KEPT, longest=200, hint=tr("empty: readings are typed")),
    ),
}
"""Kind of row → its fields, in the order in which a sheet shows them."""


def field_of(kind: RegisterKind, name: str) -> Field | None:
    """The field that a column belongs to; None for one that is not shown."""
    whole = next((whole for whole, parts in SPREAD.items() if name in parts), name)
    return next((f for f in FIELDS[kind] if f.name == whole), None)


def fields_of(kind: RegisterKind) -> tuple[Field, ...]:
    """The fields of a kind of row, with the rule sets that there are."""
    from reckoner.formats.rulesets import SHIPPED, shipped  # loads pydantic

    titles = tuple((name, shipped(name).title) for name in SHIPPED)
    return tuple(replace(f, choices=titles) if f.name == "rule_set" else f for f in FIELDS[kind])
