"""A short run goes on as the full run of its tool: what was looked at, set up and read is carried on, and as found is
completed. Afterwards the tool can be adjusted, and as left follows.

It is a copy, as an amendment is: the short run is over, and says that it became this one.
"""

from __future__ import annotations

from dataclasses import replace

from sqlalchemy.orm import Session

from reckoner.core.quantities.printing import quantity
from reckoner.core.translation import tr
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.facts.tool import tool_facts
from reckoner.shop.intervals import basis
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command, require
from reckoner.shop.runs.copying import copy_records
from reckoner.shop.runs.document import rules_from
from reckoner.shop.runs.loading import keep_facts, rule_set_text
from reckoner.shop.runs.opening import leave, new_series, opened, reload
from reckoner.shop.runs.planning import as_known, planned_series, propose
from reckoner.shop.runs.records import Step
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import wants
from reckoner.store.reader import reader_of
from reckoner.store.schema import Abandonment, Run, SetUp
from reckoner.store.terms import Right, RunKind


def why_not(run: RunState) -> str:
    """Why a run cannot go on as a full one; empty when it can."""
    if run.policy.adjusts or not run.policy.judges:
        return tr("Only a check goes on as a full run.")
    if run.signed or run.abandoned:
        return tr("This run is over. Put the tool on the bench for a full run.")
    if wants(run, Step.AS_FOUND):
        return tr("Take its readings first: they are carried on.")
    return ""


@command
def continue_in_full(session: Session, run_id: int, act: Act) -> RunState:
    """Go on with a check as the full run of its tool, at the points that its rule set asks for and the reference reaches as
    it is set up; which are left out is told. Raises ShopRefused. Changes: runs, standings."""
    run = opened(session, run_id)
    refusal = why_not(run)
    if refusal:
        raise ShopRefused(refusal)
    source = session.get_one(Run, run_id)
    by_second = tool_facts(source.tool).unit != run.tool.unit
    plan = propose(session, run.tool.id, act.at.date(), RunKind.FULL, second_scale=by_second).plan
    rules_text = rule_set_text(plan.rule_set, run.tool)
    rules = rules_from(rules_text, plan.rule_set)
    points = as_known(plan.points, (s.target for s in run.found))
    read = {s.target for s in run.found}
    more = tuple(point for point in points if point not in read)
    reference, reached = run.procedure.extended(reader_of(session), run, rules, more, act.at.date())
    left_out = ", ".join(quantity(point, run.tool.unit) for point in more if point not in reached)
    said = tr("went on from a check")
    if left_out:
        said = tr("{said}; {left_out} is left out: not reached as it is set up", said=said, left_out=left_out)
    session.add(Abandonment(run_id=run_id, at=act.at, person_id=act.person_id, reason=tr("it went on as a full run")))
    leave(session, run_id)
    copy = Run(
        tool_id=source.tool_id,
        kind=RunKind.FULL,
        rule_set=rules.name,
        opened_at=act.at,
        person_id=act.person_id,
        mode=source.mode,
        adapter=source.adapter,
        plan_note="; ".join(filter(None, (source.plan_note, said))),
        continues_id=run_id,
        event_id=source.event_id,
    )
    if left_out:
        require(session, act, Right.ALLOW)
    copy_records(session, source, copy, run.tool.number, plan.readings)
    ends = basis(reader_of(session), run.tool.id, run.tool.interval_months or rules.months)
    facts = replace(run.facts, rules=rules, rules_text=rules_text, reference=reference, interval=ends)
    if source.set_ups and reference != run.reference:
        newest = source.set_ups[-1]
        session.add(
            SetUp(
                run_id=copy.id, at=act.at, reference_id=newest.reference_id, certificate_id=newest.certificate_id,
                mode=newest.mode, override=newest.override, detail=newest.detail,
            )
        )  # fmt: skip
    keep_facts(session, copy.id, facts, act.at)
    had = {(s.direction, s.target) for s in run.found}
    planned = planned_series(replace(plan, points=tuple(sorted({*read, *reached})), came=0))
    new = [one for one in planned if (one.direction, one.target) not in had]
    for i, one in enumerate(new):
        row = new_series(one, len(had) + i)
        row.run_id = copy.id
        session.add(row)
    changed(session, ChangeKind.STANDINGS, run.tool.id, act.person_id)
    note(session, act, tr("went on as a full run"), run.tool.number, run=run_id, copy=copy.id, left_out=left_out)
    return reload(session, copy.id, act)
