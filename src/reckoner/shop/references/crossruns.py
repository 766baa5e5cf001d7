"""A reference held against weights, another reference or a good tool over its range: a run of its own kind.

Each reading is kept at once, and one that is struck stays. Closing it puts its mean into the reference's chart. For one that
nobody has certified it says what it would take to trust it, and can be kept as its certificate once it suffices.
"""

from __future__ import annotations

import json
from dataclasses import dataclass, replace
from datetime import date, datetime
from statistics import fmean

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.errors import InputRefused
from reckoner.core.history.crosschecks import Agreement, agreement
from reckoner.core.reference.certificate import CertificatePoint, at_torque
from reckoner.core.translation import tr, tr_count
from reckoner.formats.documents import from_plain, to_plain
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.facts.judged import ReferenceFacts, newest_certificate, reference_facts
from reckoner.shop.people.authorship import Act, FieldRefused, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.shop.setups.equipment import OwnedWeight
from reckoner.shop.setups.hanging import HungAt, Levelled, LeverFacts, check_arm
from reckoner.shop.setups.plan import ways
from reckoner.store.reader import Reader, reader_of
from reckoner.store.schema import CrossCheck, CrossReading, CrossRun, CrossStrike, Person, Reference
from reckoner.store.terms import CrossBy, PhaseKind, term

READINGS = 3
"""Readings asked for at each torque."""


AT_THE_END = 0.03
"""How far beyond the last point of a certificate a load may miss it, as a fraction."""


@dataclass(frozen=True)
class ComparedReference:
    """What a reference is held against: of a meter or a tool, its known points (torque, error or deviation, W at k = 2) and
    its step in N·m; of weights, what hangs at each torque."""

    by: CrossBy
    name: str
    points: tuple[CertificatePoint, ...] = ()
    resolution: float = 0.0
    lever: LeverFacts | None = None

    @property
    def shows(self) -> bool:
        """Whether it shows a value of its own; weights are as heavy as they are."""
        return self.lever is None

    def hung(self, target: float) -> HungAt:
        """What hangs for a torque. Raises InputRefused where nothing does."""
        found = self.lever.at(target) if self.lever is not None else None
        if found is None:
            raise InputRefused("target", target, tr("nothing hangs for this torque"))
        return found

    def actual(self, target: float, shown: float | None) -> tuple[float, float]:
        """The torque that is there in N·m, and its W as a fraction. Raises InputRefused off what it is known at, or without
        what it ``shown``."""
        if self.lever is not None:
            hung = self.hung(target)
            return self.lever.torque(hung), self.lever.worth(hung)
        if shown is None:
            raise InputRefused("shown", None, tr("type what the other one shows"))
        low, high = min(p.torque for p in self.points), max(p.torque for p in self.points)
        near = low * (1 - AT_THE_END) <= shown <= high * (1 + AT_THE_END)
        known = at_torque(self.points, min(max(shown, low), high) if near else shown)
        step = self.resolution / shown / 3**0.5  # 2 · (r/2)/√3
        return shown / (1 + known.error), (known.expanded_uncertainty**2 + step**2) ** 0.5


@dataclass(frozen=True)
class CrossLine:
    """One reading, N·m; ``struck`` is why it counts no more."""

    id: int
    target: float
    indicated: float
    actual: float
    uncertainty: float
    struck: str


@dataclass(frozen=True)
class CrossState:
    """A cross-check as it stands. ``closed`` once it is in the chart."""

    id: int
    reference: ReferenceFacts
    other: ComparedReference
    targets: tuple[float, ...]
    begun: datetime
    by: str
    readings: tuple[CrossLine, ...]
    closed: bool

    def at(self, target: float) -> tuple[CrossLine, ...]:
        """The readings at a torque that count."""
        return tuple(r for r in self.readings if r.target == target and not r.struck)

    @property
    def next(self) -> float | None:
        """The torque that wants a reading next; None when each has as many as are asked for."""
        return next((t for t in self.targets if len(self.at(t)) < READINGS), None)

    @property
    def found(self) -> tuple[tuple[float, Agreement], ...]:
        """What was found at each torque that was read. A known error of the reference is taken off before."""
        return tuple((t, self._agreement(t)) for t in self.targets if self.at(t))

    def _agreement(self, target: float) -> Agreement:
        lines, facts = self.at(target), self.reference
        indicated = [r.indicated / facts.correction(target, anyway=True) for r in lines]
        claimed = None
        if facts.proven:
            try:
                claimed = at_torque(facts.points, target).expanded_uncertainty * 2 / facts.coverage_factor
            except InputRefused:
                claimed = None
        worst = max(r.uncertainty for r in lines)
        return agreement(indicated, [r.actual for r in lines], worst, facts.resolution, claimed)


def others(session: Session, reference_id: int, today: date) -> tuple[ComparedReference, ...]:
    """What a reference can be held against beside weights: certified meters in date, then good indicating tools."""
    found = []
    for row in session.scalars(select(Reference).where(Reference.removed.is_(False)).order_by(Reference.number)):
        facts = reference_facts(row, newest_certificate(row, today))
        if row.id != reference_id and facts.points and facts.due is not None and facts.due >= today:
            found.append(_meter(facts))
    return (*found, *good_tools(reader_of(session), today))


def _meter(facts: ReferenceFacts) -> ComparedReference:
    k = 2 / facts.coverage_factor
    points = tuple(
        CertificatePoint(p.torque, 0.0 if facts.corrected else p.error, p.expanded_uncertainty * k)
        for p in facts.points
    )
    return ComparedReference(CrossBy.METER, facts.number, points, facts.resolution)


def on_an_arm(
    weights: tuple[OwnedWeight, ...],
    gravity: tuple[float, float],
    reach: float,
    length_uncertainty: float,
    targets: tuple[float, ...],
) -> ComparedReference:
    """Known weights on an arm of ``reach`` m, level, with which the reference was zeroed: what hangs where at each torque,
    as far as the box makes it. ``gravity`` in m/s² with its expanded uncertainty, ``length_uncertainty`` in m."""
    bare = LeverFacts(
        (), 0.0, 0.0, reach, length=length_uncertainty, own_centre_uncertainty=0.0, own_mass_uncertainty=0.0,
        gravity=gravity[0], gravity_uncertainty=gravity[1], levelled=Levelled.LEVEL,
    )  # fmt: skip
    points = tuple(found[0] for target in targets if (found := ways(bare, weights, target)))
    return ComparedReference(CrossBy.WEIGHTS, tr("weights on an arm"), lever=replace(bare, points=points))


_GOOD_TOOLS = """
SELECT t.number, COALESCE(t.resolution, m.resolution) AS resolution, s.phase, r.target, r.deviation, r.expanded_uncertainty
FROM tool t JOIN tool_model m ON m.id = t.model_id JOIN tool_standing st ON st.tool_id = t.id
  JOIN run u ON u.tool_id = t.id JOIN signature g ON g.run_id = u.id
  JOIN point_result r ON r.signature_id = g.id JOIN series s ON s.id = r.series_id
WHERE NOT t.removed AND m.type = 'I' AND g.accepted AND st.held = '' AND st.kept = '' AND NOT st.retired
  AND st.due_on >= :today AND s.direction = 'cw'
  AND g.sequence = (SELECT max(o.sequence) FROM signature o JOIN run v ON v.id = o.run_id
                    WHERE v.tool_id = t.id AND v.kind = 'full')
ORDER BY t.number, r.target
"""


def good_tools(reader: Reader, today: date) -> tuple[ComparedReference, ...]:
    """Indicating tools in date, as their last full run left them at two torques or more."""
    known: dict[str, dict[PhaseKind, list[CertificatePoint]]] = {}
    steps: dict[str, float] = {}
    for row in reader.rows(_GOOD_TOOLS, today=today.isoformat()):
        phases = known.setdefault(row.number, {})
        phases.setdefault(term(PhaseKind, row.phase), []).append(
            CertificatePoint(row.target, row.deviation, row.expanded_uncertainty)
        )
        steps[row.number] = row.resolution or 0.0
    points = {number: phases.get(PhaseKind.LEFT) or phases.get(PhaseKind.FOUND, []) for number, phases in known.items()}
    return tuple(
        ComparedReference(CrossBy.TOOL, number, tuple(found), steps[number])
        for number, found in points.items()
        if len(found) > 1
    )


def proposed(facts: ReferenceFacts) -> tuple[float, ...]:
    """The torques to compare at: those of its certificate, else a fifth, three fifths and all of what it reaches."""
    if facts.points:
        return tuple(p.torque for p in facts.points)
    return tuple(facts.maximum * part for part in (0.2, 0.6, 1.0))


@command
def begin(
    session: Session, reference_id: int, other: ComparedReference, targets: tuple[float, ...], act: Act
) -> CrossState:
    """Begin to hold a reference against something else. Raises FieldRefused, ShopRefused; one that is under way has to be
    ended first."""
    row = session.get_one(Reference, reference_id)
    if open_of(session, reference_id) is not None:
        raise ShopRefused(
            tr("A check of {number} is under way already; keep it or give it up first.", number=row.number)
        )
    if not targets:
        raise FieldRefused("targets", tr("Say at which torques the two are compared, such as 20, 60, 100 N·m."))
    for target in targets:
        if not 0 < target <= row.maximum * (1 + 1e-9):
            raise FieldRefused(
                "targets",
                tr(
                    "{number} ends at {maximum:g} N·m; compare within what it reaches.",
                    number=row.number,
                    maximum=row.maximum,
                ),
            )
    if other.lever is not None:
        check_arm(other.lever, targets)
    else:
        _within(other, targets)
    made = CrossRun(
        reference_id=reference_id, at=act.at, person_id=act.person_id, by=other.by, against=other.name,
        detail=_written(other, targets),
    )  # fmt: skip
    session.add(made)
    session.flush()
    note(session, act, tr("began to check the reference"), row.number, against=other.name)
    return state_of(session, made.id)


def _within(other: ComparedReference, targets: tuple[float, ...]) -> None:
    low, high = min(p.torque for p in other.points), max(p.torque for p in other.points)
    for target in targets:
        if not low <= target <= high:
            raise FieldRefused(
                "targets",
                tr("{name} is known from {low:g} to {high:g} N·m; compare there.", name=other.name, low=low, high=high),
            )


@command
def read(session: Session, cross_id: int, target: float, indicated: float, shown: float | None, act: Act) -> CrossState:
    """Keep what the reference ``indicated`` (N·m) while the other one ``shown``, or the weights hung. Raises FieldRefused,
    ShopRefused."""
    state = _open(session, cross_id)
    if target not in state.targets:
        raise ShopRefused(tr("That torque is not one of this check."))
    try:
        actual, uncertainty = state.other.actual(target, shown)
    except InputRefused as refusal:
        raise FieldRefused("shown", f"{refusal.reason[:1].upper()}{refusal.reason[1:]}.") from None
    if not 0.7 < actual / target < 1.3:
        raise FieldRefused("shown", tr("That is not near the torque that is asked for; check the number and its unit."))
    if not 0.5 < indicated / actual < 1.5:
        raise FieldRefused(
            "indicated", tr("These two cannot be of the same torque; check the numbers and their units.")
        )
    session.add(
        CrossReading(
            cross_run_id=cross_id, at=act.at, person_id=act.person_id, target=target, indicated=indicated, actual=actual,
            uncertainty=uncertainty,
        )
    )  # fmt: skip
    note(session, act, tr("took a reading of a reference"), state.reference.number, target=target, indicated=indicated)
    session.flush()
    return state_of(session, cross_id)


@command
def strike(session: Session, cross_id: int, reason: str, act: Act) -> CrossState:
    """Strike the newest reading; it stays, struck. Raises ShopRefused without a reason, or with nothing to strike."""
    state = _open(session, cross_id)
    counted = [r for r in state.readings if not r.struck]
    if not reason.strip():
        raise ShopRefused(tr("Say why the reading is struck, such as “not at rest”."))
    if not counted:
        raise ShopRefused(tr("There is no reading to strike."))
    session.add(CrossStrike(cross_reading_id=counted[-1].id, at=act.at, person_id=act.person_id, reason=reason.strip()))
    note(session, act, tr("struck a reading of a reference"), state.reference.number, reason=reason.strip())
    session.flush()
    return state_of(session, cross_id)


@command
def close(session: Session, cross_id: int, remark: str, act: Act) -> CrossState:
    """End it: its mean goes into the reference's chart. Raises ShopRefused with nothing read. Changes: references."""
    state = _open(session, cross_id)
    found = state.found
    if not found:
        raise ShopRefused(tr("Nothing was read yet: read both at one torque at least, or give it up."))
    actual = fmean(fmean(r.actual for r in state.at(t)) for t, _ in found)
    mean = fmean(_as_shown(state, t) for t, _ in found)
    session.add(
        CrossCheck(
            reference_id=state.reference.id, at=act.at, person_id=act.person_id,
            against=_against(state), indicated=actual * (1 + mean), actual=actual,
            note=" ".join(remark.split()), cross_run_id=cross_id,
        )
    )  # fmt: skip
    session.flush()
    changed(session, ChangeKind.REFERENCES, state.reference.id, act.person_id)
    note(session, act, tr("cross-checked the reference"), state.reference.number, against=state.other.name, mean=mean)
    return state_of(session, cross_id)


def _as_shown(state: CrossState, target: float) -> float:
    """The difference as the chart counts it, with a known error left in as it is shown."""
    return fmean(r.indicated / r.actual - 1 for r in state.at(target))


def _against(state: CrossState) -> str:
    return tr_count("{name}, at {n} torque", "{name}, at {n} torques", len(state.found), name=state.other.name)


@command
def give_up(session: Session, cross_id: int, reason: str, act: Act) -> CrossState:
    """Leave it without a result: what was read is struck, with the reason, and so nothing is under way. Raises ShopRefused
    without one."""
    state = _open(session, cross_id)
    if not reason.strip():
        raise ShopRefused(tr("Say why it is given up."))
    for line in (r for r in state.readings if not r.struck):
        session.add(CrossStrike(cross_reading_id=line.id, at=act.at, person_id=act.person_id, reason=reason.strip()))
    note(session, act, tr("gave up a check of the reference"), state.reference.number, reason=reason.strip())
    session.flush()
    return state_of(session, cross_id)


def state_of(session: Session, cross_id: int) -> CrossState:
    """A cross-check as it stands. Raises ShopRefused for what was written by a newer Reckoner."""
    run = session.get_one(CrossRun, cross_id)
    row = session.get_one(Reference, run.reference_id)
    struck = session.execute(
        select(CrossStrike.cross_reading_id, CrossStrike.reason)
        .join(CrossReading, CrossReading.id == CrossStrike.cross_reading_id)
        .where(CrossReading.cross_run_id == cross_id)
    )
    reasons = {one.cross_reading_id: one.reason for one in struck}
    rows = session.scalars(
        select(CrossReading).where(CrossReading.cross_run_id == cross_id).order_by(CrossReading.id)
    ).all()
    lines = tuple(CrossLine(r.id, r.target, r.indicated, r.actual, r.uncertainty, reasons.get(r.id, "")) for r in rows)
    closed = session.scalar(select(CrossCheck.id).where(CrossCheck.cross_run_id == cross_id)) is not None
    other, targets = _read(run)
    by = session.get_one(Person, run.person_id).initials
    facts = reference_facts(row, newest_certificate(row, run.at.date()))
    return CrossState(cross_id, facts, other, targets, run.at, by, lines, closed)


def open_of(session: Session, reference_id: int) -> CrossState | None:
    """The check of a reference that is under way; None without one. One of which no reading counts is none."""
    newest = session.scalar(
        select(CrossRun.id).where(CrossRun.reference_id == reference_id).order_by(CrossRun.id.desc())
    )
    state = state_of(session, newest) if newest is not None else None
    under_way = state is not None and not state.closed and any(not r.struck for r in state.readings)
    return state if under_way else None


def _open(session: Session, cross_id: int) -> CrossState:
    state = state_of(session, cross_id)
    if state.closed:
        raise ShopRefused(tr("This check is over; begin another."))
    return state


def _written(other: ComparedReference, targets: tuple[float, ...]) -> str:
    return json.dumps({"targets": targets, "other": to_plain(other)})


def _read(run: CrossRun) -> tuple[ComparedReference, tuple[float, ...]]:
    raw = json.loads(run.detail)
    return from_plain(ComparedReference, raw["other"]), tuple(raw["targets"])


# What it would take to trust one that nobody has certified
