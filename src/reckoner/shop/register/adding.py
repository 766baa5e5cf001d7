"""New rows of the register, as people enter them: a person, a model by its picture, one tool or many of a kind.

Each is one ``editing.Deed``: taken back, everything that came with it goes.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import date, datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.printing import span
from reckoner.core.quantities.units import Unit
from reckoner.core.translation import tr, tr_count
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.facts.shapes import SHAPES, Shape, described
from reckoner.shop.people.authorship import Act, FieldRefused, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.shop.register import editing
from reckoner.shop.register.editing import Command
from reckoner.shop.register.field import columns_in
from reckoner.shop.register.fields import FIELDS
from reckoner.store.schema import (
    Abandonment,
    Certificate,
    CertificatePointRow,
    CertificateWithdrawal,
    Person,
    Reference,
    Run,
    SetUp,
    Signature,
    Tool,
    ToolModel,
)
from reckoner.store.terms import RegisterKind, Right

MOST_AT_ONCE = 500
"""Tools that are added at once at most."""


@dataclass(frozen=True)
class ModelDraft:
    """A model as it is described by its picture: torques in N·m, ``minimum`` None for one torque only."""

    shape: Shape
    minimum: float | None
    maximum: float
    unit: Unit
    drive: str = ""
    maker: str = ""
    name: str = ""

    @property
    def called(self) -> str:
        """Its name, or one made of what it is."""
        if self.name:
            return self.name
        return described(self.shape, span(self.minimum or self.maximum, self.maximum, self.unit), self.drive)


@command
def add_person(session: Session, initials: str, name: str, act: Act | None, at: datetime) -> Command:
    """Add somebody who works here; the first of all has every right. Raises FieldRefused, ShopRefused. Changes: standings,
    the register."""
    initials, name = " ".join(initials.split()), " ".join(name.split())
    if not initials:
        raise FieldRefused("initials", tr("Give the initials; they stand on every record."))
    first = not session.scalar(select(func.count()).select_from(Person))
    granted = {right.value: first or right in (Right.SIGN, Right.SECOND) for right in Right}
    person = Person(initials=initials, name=name or initials, **granted)
    return editing.add(session, RegisterKind.PERSON, person, act, at)


@command
def add_model(session: Session, given: ModelDraft, act: Act) -> tuple[int, Command | None]:
    """The id of the model that is so described: one that is there already, without a command, else a new one. Raises
    FieldRefused, ShopRefused. Changes: standings, the register."""
    there = session.scalar(
        select(ToolModel).where(
            ToolModel.maker == given.maker, ToolModel.name == given.called, ToolModel.removed.is_(False)
        )
    )
    facts = SHAPES[given.shape]
    if there is not None:
        same = (there.mechanism, there.type, there.maximum) == (facts.mechanism, facts.type, given.maximum)
        if same:
            return there.id, None
        raise FieldRefused(
            "name",
            tr(
                "There is already a model {maker} {called}, which is another tool.",
                maker=given.maker,
                called=given.called,
            ),
        )
    model = ToolModel(
        maker=given.maker,
        name=given.called,
        type=facts.type,
        class_=facts.class_,
        mechanism=facts.mechanism,
        minimum=None if facts.fixed else given.minimum,
        maximum=given.maximum,
        unit=given.unit.name,
        drive=given.drive,
    )
    try:
        command = editing.add(session, RegisterKind.MODEL, model, act, act.at)
    except InputRefused as refusal:
        raise FieldRefused("maximum", f"{refusal.reason}.") from None
    return model.id, command


def numbers_from(first: str, count: int) -> tuple[str, ...]:
    """``count`` numbers that count up from ``first``: its last digits go on, with as many places. Raises InputRefused.

    >>> numbers_from("HC-0998", 3)
    ('HC-0998', 'HC-0999', 'HC-1000')
    """
    first = " ".join(first.split())
    if not first:
        raise InputRefused("number", first, tr("give the tool a number"))
    if not 1 <= count <= MOST_AT_ONCE:
        raise InputRefused(
            "count", count, tr("from 1 to {most_at_once} tools can be added at once", most_at_once=MOST_AT_ONCE)
        )
    if count == 1:
        return (first,)
    match = re.fullmatch(r"(.*?)(\d+)(\D*)", first)
    if match is None:
        raise InputRefused("number", first, tr('"{first}" has no digits that could count up', first=first))
    head, digits, tail = match.groups()
    return tuple(f"{head}{int(digits) + i:0{len(digits)}d}{tail}" for i in range(count))


@dataclass(frozen=True)
class CertificateDraft:
    """What a certificate says: days, k, and its points as (torque in N·m, error, W), fractions. ``number``,
    ``laboratory`` and the day of issue may still be wanting."""

    issued: date | None
    due: date
    points: tuple[tuple[float, float, float], ...]
    number: str = ""
    laboratory: str = ""
    coverage_factor: float = 2.0


@dataclass(frozen=True)
class MeterDraft:
    """A torque meter: torques in N·m; without a ``certificate`` it is unproven."""

    number: str
    minimum: float
    maximum: float
    resolution: float
    unit: Unit
    certificate: CertificateDraft | None = None
    maker: str = ""
    model: str = ""
    serial: str = ""


@command
def add_meter(session: Session, given: MeterDraft, act: Act) -> Command:
    """Add a torque meter. Its zero may be off by two of its steps until somebody says otherwise. Raises FieldRefused,
    ShopRefused. Changes: references, standings, the register."""
    number = " ".join(given.number.split())
    if not number:
        raise FieldRefused("number", tr("Give the meter a number; it stands on every record."))
    meter = Reference(
        number=number,
        maker=given.maker,
        model=given.model,
        serial=given.serial,
        minimum=given.minimum,
        maximum=given.maximum,
        resolution=given.resolution,
        zero_tolerance=2 * given.resolution,
        unit=given.unit.name,
    )
    command = editing.add(session, RegisterKind.REFERENCE, meter, act, act.at)
    if given.certificate is not None:
        certify(session, meter.id, given.certificate, act)
    return command


@command
def certify(session: Session, reference_id: int, given: CertificateDraft, act: Act) -> None:
    """Keep another certificate of a reference; the newest that was issued counts. What is written on one is never changed:
    a slip is mended by taking it back (``take_back_certificate``) and entering it again. Raises FieldRefused, ShopRefused.
    Changes: references."""
    reference = session.get_one(Reference, reference_id)
    _check_certificate(given, act.at.date())
    reference.certificates.append(
        Certificate(
            number=given.number,
            laboratory=given.laboratory,
            issued=given.issued,
            due=given.due,
            coverage_factor=given.coverage_factor,
            points=[CertificatePointRow(torque=t, error=e, expanded_uncertainty=w) for t, e, w in given.points],
        )
    )
    session.flush()
    changed(session, ChangeKind.REFERENCES, reference_id, act.person_id)
    note(session, act, tr("entered a certificate"), reference.number, number=given.number, due=str(given.due))


def judged_by(session: Session, certificate_id: int) -> int:
    """How many signed runs were judged by a certificate."""
    signed = select(func.count(func.distinct(SetUp.run_id))).join(Signature, Signature.run_id == SetUp.run_id)
    return session.scalar(signed.where(SetUp.certificate_id == certificate_id)) or 0


@command
def take_back_certificate(session: Session, certificate_id: int, reason: str, act: Act) -> None:
    """Take back a certificate that was kept by mistake, or supersede one that runs were judged by: they stay as they are, and
    it counts for nothing that comes. Raises ShopRefused without a reason, a second time, or while a run on the bench is
    set up with it. Changes: references."""
    certificate = session.get_one(Certificate, certificate_id)
    if certificate.withdrawal is not None:
        raise ShopRefused(tr("It was taken back already."))
    if not reason.strip():
        raise ShopRefused(tr("Say why in a few words; the record will say so."))
    over = select(Signature.run_id).union(select(Abandonment.run_id))
    on_bench = session.scalar(
        select(Tool.number)
        .join(Run, Run.tool_id == Tool.id)
        .join(SetUp, SetUp.run_id == Run.id)
        .where(SetUp.certificate_id == certificate_id, SetUp.run_id.not_in(over))
        .limit(1)
    )
    if on_bench is not None:
        raise ShopRefused(
            tr("{on_bench} is on the bench with it: sign that run or give it up first.", on_bench=on_bench)
        )
    session.add(
        CertificateWithdrawal(certificate_id=certificate.id, at=act.at, person_id=act.person_id, reason=reason.strip())
    )
    session.flush()
    session.expire(certificate, ["withdrawal"])
    reference = certificate.reference
    changed(session, ChangeKind.REFERENCES, reference.id, act.person_id)
    what = tr("superseded a certificate") if judged_by(session, certificate_id) else tr("took back a certificate")
    note(session, act, what, reference.number, number=certificate.number, reason=reason.strip())


def _check_certificate(given: CertificateDraft, today: date) -> None:
    if given.issued is not None and given.issued > today:
        raise FieldRefused("issued", tr("It cannot have been issued after today; check the day."))
    if given.issued is not None and given.due <= given.issued:
        raise FieldRefused("due", tr("Its last day has to come after the day on which it was issued."))
    if not given.points:
        raise FieldRefused("points", tr("Enter at least one point: torque, error, uncertainty."))
    torques = [t for t, _, _ in given.points]
    if len(set(torques)) < len(torques):
        raise FieldRefused("points", tr("Two of its points stand at the same torque; a point has one line."))
    for torque, error, uncertainty in given.points:
        if torque <= 0 or not -0.5 < error < 0.5 or not 0 < uncertainty < 0.5:
            raise FieldRefused(
                "points",
                tr("The point at {torque:g} N·m cannot be right; check its numbers and their units.", torque=torque),
            )


@dataclass(frozen=True)
class ToolsDraft:
    """Tools of a kind: their ``numbers``, the ``serial`` where there is one tool, and what they share."""

    numbers: tuple[str, ...]
    model_id: int | None
    model: ModelDraft | None = None
    serial: str = ""
    place: str = ""
    owner: str = ""
    like: int | None = None


@command
def add_tools(session: Session, given: ToolsDraft, act: Act) -> tuple[tuple[int, ...], Command]:
    """Add tools of a model that is there, or of one that is described; ``like`` another tool, with its place, owner, rule
    set and limits. Returns their ids, and the one command. Raises FieldRefused, ShopRefused; nothing is added then.
    Changes: standings, the register."""
    commands: list[Command] = []
    model_id = given.model_id
    if given.model is not None:
        model_id, command = add_model(session, given.model, act)
        commands += [command] if command is not None else []
    if model_id is None:
        raise ShopRefused(tr("Choose the model of the tool."))
    shared: dict[str, object] = {"place": given.place, "owner": given.owner}
    if given.like is not None:
        other = session.get_one(Tool, given.like)
        shared = {name: getattr(other, name) for name in COPIED}
    ids = []
    for number in given.numbers:
        serial = " ".join(given.serial.split()) if len(given.numbers) == 1 else ""
        tool = Tool(number=number, serial=serial, model_id=model_id, **shared)
        commands.append(editing.add(session, RegisterKind.TOOL, tool, act, act.at))
        ids.append(tool.id)
    first, last = given.numbers[0], given.numbers[-1]
    words = tr_count("adding {first}", "adding {n} tools, {first} to {last}", len(ids), first=first, last=last)
    return tuple(ids), editing.joined(words, commands)


_ITS_OWN = ("number", "serial", "in_service")
COPIED = tuple(column for f in FIELDS[RegisterKind.TOOL] if f.name not in _ITS_OWN for column in columns_in(f))
"""What a tool that is copied shares with the other."""
