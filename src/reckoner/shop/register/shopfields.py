"""The fields of the shop itself: what holds for all of it."""

from __future__ import annotations

from reckoner.formats.labels import check_sizes
from reckoner.formats.languages import languages
from reckoner.shop.intervals import SCHOOL_WORDS
from reckoner.shop.numbering import read_scheme
from reckoner.shop.register.field import YES_NO, Field, FieldForm

SHOP_FIELDS = (
    Field("name", "Name of the shop", FieldForm.WORDS, "The shop", longest=80),
    Field("address", "Where it is", FieldForm.WORDS, "The shop", longest=300),
    Field(
        "numbering",
        "Certificates are numbered as",
        FieldForm.WORDS,
        "Papers",
        longest=60,
        check=read_scheme,
        hint="such as {year}-{n:4}; also {run}, {month}, {tool}; empty: the year and the run",
    ),
    Field(
        "language",
        "Certificates and labels are in",
        FieldForm.CHOICE,
        "Papers",
        needed=True,
        choices=tuple(languages().items()),
    ),
    Field(
        "label_sizes",
        "Sizes of its labels, in mm",
        FieldForm.WORDS,
        "Papers",
        longest=500,
        check=check_sizes,
        hint="such as 50 x 25; A4: 3 x 8 of 70 x 35",
    ),
    Field(
        "trace_years",
        "Years that traces of pulls stay",
        FieldForm.COUNT,
        "Room",
        low=1,
        high=50,
        hint="such as 3; older ones go to an archive beside the database, readings never do; empty: always",
    ),
    Field(
        "latitude",
        "Latitude",
        FieldForm.ANGLE,
        "The shop",
        low=-1.5707964,
        high=1.5707964,
        improves="known weights pull with the gravity of the place",
        hint="such as 46.6 deg, or 46°36′",
    ),
    Field(
        "elevation",
        "Height above the sea",
        FieldForm.LENGTH,
        "The shop",
        low=-500.0,
        high=9000.0,
        improves="gravity is right to the last figure",
        hint="such as 1850 m",
    ),
    Field("currency", "Currency", FieldForm.WORDS, "What it costs", longest=8, hint="such as €, CHF, kr"),
    Field("hour_cost", "An hour at the bench", FieldForm.NUMBER, "What it costs", low=0.0, high=10**6),
    Field(
        "demands_passphrase",
        "Who signs needs a passphrase",
        FieldForm.YES_NO,
        "Signing",
        choices=YES_NO,
        hint="no: initials are enough",
    ),
    Field(
        "interval_school",
        "How intervals are found",
        FieldForm.CHOICE,
        "Intervals",
        needed=True,
        choices=tuple((school.value, words) for school, words in SCHOOL_WORDS.items()),
        hint="a model or a tool can say otherwise",
    ),
    Field(
        "interval_target",
        "Share still inside when due",
        FieldForm.RATIO,
        "Intervals",
        needed=True,
        low=0.5,
        high=0.999,
        hint="such as 95 %; for the school of reliability",
    ),
)
