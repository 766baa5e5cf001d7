"""The fields of the shop itself: what holds for all of it."""

from __future__ import annotations

from reckoner.core.quantities.ownunits import UnitSystem
from reckoner.core.translation import tr
from reckoner.formats.languages import languages
from reckoner.formats.papers.contents import check_sizes
from reckoner.shop.intervals import SCHOOL_WORDS
from reckoner.shop.numbering import read_scheme
from reckoner.shop.register.field import YES_NO, Field, FieldForm

SHOP_FIELDS = (
    Field("name", tr("Name of the shop"), FieldForm.WORDS, tr("The shop"), longest=80),
    Field("address", tr("Where it is"), FieldForm.WORDS, tr("The shop"), longest=300),
    Field(
        "units",
        tr("Lengths, masses and forces are in"),
        FieldForm.CHOICE,
        tr("The shop"),
        choices=(
            ("", tr("what goes with each tool's torque")),
            (UnitSystem.METRIC.value, tr("mm, kg, N and °C")),
            (UnitSystem.INCH.value, tr("in, lb, lbf and °F")),
        ),
        hint=tr("whatever is typed with its unit is understood all the same"),
    ),
    Field(
        "numbering",
        tr("Certificates are numbered as"),
        FieldForm.WORDS,
        tr("Papers"),
        longest=60,
        check=read_scheme,
        hint=tr("such as {year}-{n:4}; also {run}, {month}, {tool}; empty: the year and the run"),
    ),
    Field(
        "language",
        tr("Certificates and labels are in"),
        FieldForm.CHOICE,
        tr("Papers"),
        needed=True,
        choices=tuple(languages().items()),
    ),
    Field(
        "label_sizes",
        tr("Sizes of its labels, in mm"),
        FieldForm.WORDS,
        tr("Papers"),
        longest=500,
        check=check_sizes,
        hint=tr("such as 50 x 25; A4: 3 x 8 of 70 x 35"),
    ),
    Field(
        "trace_years",
        tr("Years that traces of pulls stay"),
        FieldForm.COUNT,
        tr("Room"),
        low=1,
        high=50,
        hint=tr("such as 3; older ones go to an archive beside the database, readings never do; empty: always"),
    ),
    Field(
        "latitude",
        tr("Latitude"),
        FieldForm.ANGLE,
        tr("The shop"),
        low=-1.5707964,
        high=1.5707964,
        improves=tr("known weights pull with the gravity of the place"),
        hint=tr("such as 46.6 deg, or 46°36′"),
    ),
    Field(
        "elevation",
        tr("Height above the sea"),
        FieldForm.LENGTH,
        tr("The shop"),
        low=-500.0,
        high=9000.0,
        improves=tr("gravity is right to the last figure"),
        hint=tr("such as 1850 m"),
    ),
    Field("currency", tr("Currency"), FieldForm.WORDS, tr("What it costs"), longest=8, hint=tr("such as €, CHF, kr")),
    Field("hour_cost", tr("An hour at the bench"), FieldForm.NUMBER, tr("What it costs"), low=0.0, high=10**6),
    Field(
        "demands_passphrase",
        tr("Who signs needs a passphrase"),
        FieldForm.YES_NO,
        tr("Signing"),
        choices=YES_NO,
        hint=tr("no: initials are enough"),
    ),
    Field(
        "asks_at_sitting",
        tr("Sitting down asks for the passphrase"),
        FieldForm.YES_NO,
        tr("Signing"),
        choices=YES_NO,
        hint=tr("no: whoever is chosen at the top right sits here"),
    ),
    Field(
        "lock_minutes",
        tr("Minutes until it asks again"),
        FieldForm.COUNT,
        tr("Signing"),
        low=1,
        high=480,
        hint=tr("such as 15, without a hand; a reading counts as one; empty: never"),
    ),
    Field(
        "interval_school",
        tr("How intervals are found"),
        FieldForm.CHOICE,
        tr("Intervals"),
        needed=True,
        choices=tuple((school.value, words) for school, words in SCHOOL_WORDS.items()),
        hint=tr("a model or a tool can say otherwise"),
    ),
    Field(
        "interval_target",
        tr("Share still inside when due"),
        FieldForm.RATIO,
        tr("Intervals"),
        needed=True,
        low=0.5,
        high=0.999,
        hint=tr("such as 95 %; for the school of reliability"),
    ),
)
