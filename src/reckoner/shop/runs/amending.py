"""How a signed run is amended: a copy that replaces it when it is signed; the signed version stays as it is.

What an amendment says otherwise than the run that it amends.
"""

from __future__ import annotations

from collections import Counter

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.translation import tr
from reckoner.formats.languages import say
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.shop.runs.copying import copy_records
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.opening import open_run_of, reload
from reckoner.shop.runs.records import SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.results import phase_words, state_words
from reckoner.store.schema import Run, Signature


@command
def amend(session: Session, run_id: int, reason: str, act: Act) -> RunState:
    """Open a copy of a signed run that replaces it when it is signed; the signed version stays as it is.

    Raises ShopRefused for a run that is not signed, was amended already, without a reason, or while the tool is in
    another run. Changes: runs, standings."""
    old = load(session, run_id)
    if not old.signed:
        raise ShopRefused(tr("Only a signed run is amended; this one can still be changed."))
    newest = session.scalar(select(func.max(Signature.run_id)).join(Run).where(Run.tool_id == old.tool.id))
    if old.amended or newest != run_id:
        raise ShopRefused(tr("Only the newest signed run of a tool is amended; later results stand on the older ones."))
    if not reason.strip():
        raise ShopRefused(tr("Say why the signed run is amended."))
    under_way = open_run_of(session, old.tool.id)
    if under_way is not None:
        amends = session.get_one(Run, under_way).amends_id == run_id
        raise ShopRefused(
            tr("An amendment of this run is open already.")
            if amends
            else tr("{number} is in another run; sign it or give it up first.", number=old.tool.number)
        )
    source = session.get_one(Run, run_id)
    copy = Run(
        tool_id=source.tool_id,
        kind=source.kind,
        rule_set=source.rule_set,
        opened_at=act.at,
        person_id=act.person_id,
        rule=source.rule,
        mode=source.mode,
        adapter=source.adapter,
        plan_note=tr("amends the run signed {at}: {strip}", at=day_words(source.signature.at), strip=reason.strip())
        if source.signature
        else "",
        amends_id=source.id,
        event_id=source.event_id,
    )
    copy_records(session, source, copy, old.tool.number)
    changed(session, ChangeKind.STANDINGS, old.tool.id, act.person_id)
    note(session, act, tr("amended a signed run"), old.tool.number, run=run_id, copy=copy.id, reason=reason.strip())
    return reload(session, copy.id, act)


def differences(before: RunState, after: RunState) -> tuple[str, ...]:
    """A clause for each thing that is otherwise; empty where everything that is judged is the same."""
    said = []
    for what, was, now in (
        ("reference", _reference(before), _reference(after)),
        ("fitting", before.plan.adapter, after.plan.adapter),
        ("temperature", _room(before), _room(after)),
    ):
        if was != now:
            untold = say("change.untold")
            said.append(say(f"change.{what}", now=now or untold, was=was or untold))
    earlier = {(s.phase, s.direction, s.target): s for s in before.all_series}
    for series in after.all_series:
        was_series = earlier.get((series.phase, series.direction, series.target))
        aim = quantity(series.target, after.tool.unit)
        where = say("change.where", phase=phase_words(series.phase), target=aim)
        said += _readings(after, where, was_series, series)
    told = judged(before).verdict, judged(after).verdict
    if told[0] is not None and told[1] is not None and told[0].state is not told[1].state:
        said.append(say("change.result", now=state_words(told[1].state), was=state_words(told[0].state)))
    return tuple(said)


def _readings(run: RunState, where: str, before: SeriesState | None, after: SeriesState) -> list[str]:
    if before is None:
        return [say("change.point_added", where=where)] if after.pairs else []
    unit = run.tool.unit
    was, now = (Counter(p.reference for p in series.pairs) for series in (before, after))
    said = [say("change.struck", where=where, reading=quantity(t, unit)) for t in (was - now).elements()]
    said += [say("change.added", where=where, reading=quantity(t, unit)) for t in (now - was).elements()]
    if said and was and now:
        means = [sum(p.deviation for p in series.pairs) / len(series.pairs) for series in (before, after)]
        earlier, later = (percent(mean, 2, sign=True) for mean in means)
        said.append(say("change.mean", where=where, now=later, was=earlier))
    return said


def _reference(run: RunState) -> str:
    return run.reference.number if run.reference is not None else ""


def _room(run: RunState) -> str:
    return run.tool.own_units.temperature_words(run.room.temperature) if run.room is not None else ""
