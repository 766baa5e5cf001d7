"""Setting a run up with a meter in line: what it stands with, which of two is the reference, and a pull read on both."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date

from PyQt6.QtCore import Qt

from reckoner.core.errors import InputRefused, Refused
from reckoner.core.quantities.entry import read
from reckoner.core.quantities.printing import percent
from reckoner.core.quantities.units import N_M, PERCENT, Kind, Unit
from reckoner.core.translation import tr
from reckoner.shop.facts.judged import ReferenceFacts, standing_in_line
from reckoner.shop.procedure import ReferenceCandidate
from reckoner.shop.procedures import PROCEDURES
from reckoner.shop.runs.state import RunState
from reckoner.shop.setups.inline import MOST_RECOUPLED, InLineFacts, agreement, check_in_line, in_line
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.chips import named
from reckoner.ui.widgets.entry import torque_reader, words_reader
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.text import label

STUB = ""
BETWEEN, UNDER = "between", "under"
LINES_TOLD = 3
"""Room for the longest of what is told: what is wrong, else what it is worth."""
HOW = tr(
    "The tool pulls on a meter that stands in line, and that on a stub or on a second meter: the same torque goes through "
    "both. Choose which of them is the reference. Read one pull on both first: it shows whether they agree."
)


@dataclass(frozen=True)
class InLineDraft:
    """What was said: rows of the register, the half-width of re-coupling, what each showed of one pull in N·m."""

    reference_id: int
    other_id: int | None
    between: bool
    recoupling: float | None
    shown: tuple[float, float] | None
    reason: str = ""


class InLineSheet(Form[InLineDraft]):
    """A set-up in line. ``lacks`` says what it still wants, or what cannot be; empty when nothing."""

    def __init__(self, theme: Theme, today: Callable[[], date]) -> None:
        super().__init__(theme)
        self._today = today
        self._run: RunState | None = None
        self.lacks = self._against = ""
        self._worst = 0.0
        self._candidates: tuple[ReferenceCandidate, ...] = ()
        self._unit: Unit = N_M
        self.which = self.choice("which", tr("The reference"))
        self.other = self.choice("other", tr("In line with it"))
        self.place = self.choice("place", tr("The reference stands"), beside=False)
        self.shows = self.field("shows", tr("One pull: the reference shows"), torque_reader(N_M))
        self.other_shows = self.field("other_shows", tr("The other shows"), torque_reader(N_M))
        self.recoupling = self.field(
            "recoupling",
            tr("Setting it on anew moves it by ±"),
            _read_recoupling,
            tr("such as 0.1 %; empty: not known"),
        )
        self.reason = self.field("reason", tr("It does not suit; why use it all the same"), words_reader)
        self.told = label(theme, "", Type.STRONG, wrap=True)
        self.told.setMinimumHeight(
            LINES_TOLD * self.told.fontMetrics().lineSpacing()
        )  # nothing moves with what is said
        self.told.setAlignment(Qt.AlignmentFlag.AlignTop)
        both = row(self.shows, self.other_shows, gap=2)
        place = named(theme, tr("It stands"), self.place)
        self.setLayout(
            column(
                label(theme, HOW, Type.BODY, wrap=True),
                self.told,
                named(theme, tr("The reference"), self.which),
                named(theme, tr("In line with it"), self.other),
                place,
                both,
                self.recoupling,
                self.reason,
                gap=1,
            )
        )
        self.shown(lambda: self.second is not None, place, self.shows, self.other_shows)
        self.shown(lambda: bool(self._against), self.reason)

    def start(self, run: RunState, candidates: tuple[ReferenceCandidate, ...]) -> None:
        """A run, and the meters that there are, with nothing said yet; what ends below its points cannot stand there."""
        bear = tuple(c for c in candidates if c.reference.bears(max(s.target for s in run.found)))
        self._run, self._candidates, self._unit = run, bear, run.tool.unit
        with self.filling():
            self.clear()
            for field in (self.shows, self.other_shows):
                field.read_with(torque_reader(self._unit))
            self.which.offer(
                [(str(c.reference.id), c.reference.number) for c in bear], [str(c.reference.id) for c in bear[:1]]
            )
            self.place.offer(
                [(BETWEEN, tr("between the tool and the other")), (UNDER, tr("under the other"))], [BETWEEN]
            )

    def update_state(self) -> None:
        """What can stand with it is every other meter, or a stub; what is said is held against the tool as it stands."""
        others = [c for c in self._candidates if str(c.reference.id) != self.which.one]
        chosen = self.other.one if self.other.one in {str(c.reference.id) for c in others} else STUB
        offered = [(STUB, tr("a stub")), *((str(c.reference.id), c.reference.number) for c in others)]
        if [key for key, _words in offered] != list(self.other.chips):  # else the focus would be lost with the old ones
            self.other.offer(offered, [chosen])
        self.lacks = self._wrong()
        if not self.lacks and self._against and not self.reason.text.strip():
            self.lacks = tr("It does not suit: {why}. Take another, or give the reason below.", why=self._against)
        self.told.setText(self.lacks or self._words())

    @property
    def candidate(self) -> ReferenceCandidate | None:
        """The meter that is the reference."""
        return next((c for c in self._candidates if str(c.reference.id) == self.which.one), None)

    @property
    def second(self) -> ReferenceFacts | None:
        """The meter that stands with it; None for a stub."""
        return next((c.reference for c in self._candidates if str(c.reference.id) == self.other.one), None)

    def value(self) -> InLineDraft:
        ask = self._said()
        if self.lacks:
            raise InputRefused("reason" if self._against else "which", None, self.lacks)
        return ask

    def _said(self) -> InLineDraft:
        """What is said, whatever it is worth. Raises InputRefused for what is not understood."""
        if self.candidate is None:
            raise InputRefused("which", None, tr("choose it"))
        shown = None
        if self.second is not None and (self.shows.text.strip() or self.other_shows.text.strip()):
            shown = self.shows.value(), self.other_shows.value()
        return InLineDraft(
            self.candidate.reference.id,
            self.second.id if self.second is not None else None,
            self.place.one != UNDER,
            self.recoupling.value() if self.recoupling.text.strip() else None,
            shown,
            self.reason.text.strip(),
        )

    def _line(self, reference: ReferenceFacts) -> InLineFacts:
        """How they stand. Raises InputRefused."""
        ask = self._said()
        return in_line(reference, self.second, between_them=ask.between, recoupling=ask.recoupling, shown=ask.shown)

    def _wrong(self) -> str:
        """What of it cannot be, named with its field; empty where it can. What stands against the reference is found too."""
        run, found, self._against = self._run, self.candidate, ""
        if run is None or found is None:
            return tr("Choose the reference.")
        points = tuple(sorted({s.target for s in run.found}))
        try:
            line = self._line(found.reference)
            check_in_line(found.reference, self.second, line, run.tool, points)
            as_it_stands = standing_in_line(found.reference, line)
            weighed = PROCEDURES[as_it_stands.kind].weigh(as_it_stands, run.tool, run.rules, self._today(), points)
        except InputRefused as refusal:
            return f"{self.named(refusal.field)}: {refusal.reason}."
        except Refused as refusal:
            return str(refusal)
        self._against, self._worst = "; ".join(weighed.against), weighed.worst_uncertainty
        return ""

    def _words(self) -> str:
        """What it is worth so, and whether the two agree."""
        found, second, said = self.candidate, self.second, []
        if found is None:
            return ""
        line = self._line(found.reference)
        if line.apart is not None and second is not None:
            may_be = agreement(found.reference, second, line)
            apart = percent(line.apart, 2, sign=True)
            said.append(
                tr("{apart} against {other}, within the {may_be} that both may be off.", apart=apart, other=second.number,
                   may_be=percent(may_be, 2))
                if may_be is not None
                else tr("{apart} against {other}; nothing follows from it, for one has no certificate there.", apart=apart,
                        other=second.number)
            )  # fmt: skip
        elif second is not None:
            said.append(tr("Whether the two agree is not known yet: read one pull on both."))
        if found.proven and line.recoupling:
            said.append(
                tr("With what setting it on anew moves, its W is up to {worst}.", worst=percent(self._worst, 2))
            )
        return " ".join(said)


def _read_recoupling(text: str) -> tuple[float, str]:
    value = read(text, Kind.RATIO, default=PERCENT, field="recoupling").si
    if not 0 <= value <= MOST_RECOUPLED:
        raise InputRefused(
            "recoupling",
            text,
            tr(
                "has to be at most {most}; a meter that moves by more measures nothing", most=percent(MOST_RECOUPLED, 0)
            ),
        )
    return value, tr("understood: ±{percent}", percent=percent(value, 3))
