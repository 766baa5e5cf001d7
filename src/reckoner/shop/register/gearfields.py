"""The fields of what stands beside tools and meters: weights, scales, gauges, lengths, levels, adapters."""

from __future__ import annotations

from reckoner.core.translation import tr
from reckoner.shop.register.field import (
    HOW_KEPT,
    KNOWN_OR_NOT,
    WHAT_IT_IS,
    WHAT_IT_MEASURES,
    Field,
    FieldForm,
    length_field,
    mass_field,
    torque_field,
)
from reckoner.store.terms import RegisterKind

_GEAR = (
    Field("number", tr("Number"), FieldForm.WORDS, WHAT_IT_IS, needed=True, longest=40),
    Field("serial", tr("Serial"), FieldForm.WORDS, WHAT_IT_IS, longest=80),
)
_DUE = Field("due", tr("Its certificate holds until"), FieldForm.DAY, HOW_KEPT, improves=tr("it is told in time"))
STAMPED = mass_field("stamped", tr("Stamped"), hint=tr("what stands on it"))

GEAR_FIELDS: dict[RegisterKind, tuple[Field, ...]] = {
    RegisterKind.WEIGHT: (
        *_GEAR,
        Field(
            "box",
            tr("Box that it belongs to"),
            FieldForm.WORDS,
            WHAT_IT_IS,
            longest=40,
            improves=tr("a whole box can be chosen"),
        ),
        STAMPED,
        mass_field("weighed", tr("Weighed"), improves=tr("it counts: a stamped weight can be 5 % out")),
        mass_field(
            "mass_uncertainty", tr("Uncertainty of that, U (k = 2)"), improves=tr("its share of the budget is known")
        ),
        Field("weighed_on", tr("Weighed on"), FieldForm.DAY, HOW_KEPT),
        Field("weighed_with", tr("Weighed with"), FieldForm.WORDS, HOW_KEPT, longest=80),
        _DUE,
    ),
    RegisterKind.SCALE: (
        *_GEAR,
        mass_field("bears", tr("Bears up to")),
        mass_field("scale_step", tr("Its smallest step")),
        mass_field("scale_uncertainty", tr("Its uncertainty, U (k = 2)"), improves=tr("what it weighs can be counted")),
        _DUE,
    ),
    RegisterKind.FORCE_GAUGE: (
        *_GEAR,
        Field("reaches", tr("Reaches up to"), FieldForm.FORCE, WHAT_IT_MEASURES, low=0.0, above=True),
        Field("gauge_step", tr("Its smallest step"), FieldForm.FORCE, WHAT_IT_MEASURES, low=0.0, above=True),
        Field(
            "force_uncertainty",
            tr("Its uncertainty, W (k = 2)"),
            FieldForm.RATIO,
            WHAT_IT_MEASURES,
            low=0.0,
            high=0.5,
            above=True,
            improves=tr("what it pulls can be judged"),
        ),
        Field(
            "shows_mass",
            tr("Reads kg, and was set with a mass"),
            FieldForm.CHOICE,
            WHAT_IT_MEASURES,
            choices=KNOWN_OR_NOT,
            improves=tr("kilograms are read as force or as mass"),
        ),
        _DUE,
    ),
    RegisterKind.LENGTH: (
        *_GEAR,
        length_field("graduation", tr("Its graduation"), WHAT_IT_MEASURES),
        length_field(
            "length_uncertainty",
            tr("Its uncertainty, U (k = 2)"),
            WHAT_IT_MEASURES,
            improves=tr("lever lengths can be counted"),
        ),
        _DUE,
    ),
    RegisterKind.LEVEL: (
        *_GEAR,
        Field(
            "angle_uncertainty",
            tr("Its uncertainty, U (k = 2)"),
            FieldForm.ANGLE,
            WHAT_IT_MEASURES,
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
            WHAT_IT_IS,
            longest=60,
            hint=tr("such as crow-foot, offset ring, extension"),
        ),
        length_field(
            "adapter_length",
            tr("From the drive's centre to the fastener's"),
            WHAT_IT_MEASURES,
            hint=tr("0 for an extension in line"),
            improves=tr("what it does to a setting is computed"),
        ),
        torque_field(
            "adapter_rating", tr("What it may bear"), WHAT_IT_MEASURES, improves=tr("it is never asked for more")
        ),
        Field("adapter_gives", tr("Has a joint with give"), FieldForm.CHOICE, WHAT_IT_MEASURES, choices=KNOWN_OR_NOT),
    ),
}
"""Kind of row → its fields, in the order in which a sheet shows them."""
