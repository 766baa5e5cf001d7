"""A job's passes in their order, and where the work on it stands after what was entered."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from reckoner.core.errors import InputRefused
from reckoner.core.tightening.jobs import (
    WANTED,
    Entry,
    EntryKind,
    JobPlan,
    Layout,
    Pattern,
    StepKind,
    in_a_circle,
    in_rows,
    named,
    stand,
    steps,
)
from reckoner.core.tightening.setting import Band, BandAim

BAND = Band(76, 84)
CROSS = JobPlan(in_a_circle(6), BAND, pattern=Pattern.CROSS, stages=(0.5, 1.0))


def worked(plan, count):
    """Entries of the first ``count`` things that are asked for, each just on the aim."""
    made = []
    for i in range(count):
        there = stand(plan, made).next
        value = plan.wanted if there.kind not in (EntryKind.DONE, EntryKind.NEW_BOLT) else None
        made.append(Entry(i + 1, there.kind, there.step, there.fastener, value))
    return made


def test_passes_come_in_their_order_and_an_angle_is_never_followed_by_a_torque():
    assert [(s.kind, s.torque, s.order) for s in steps(CROSS)] == [
        (StepKind.TIGHTEN, 40, (1, 4, 2, 5, 3, 6)), (StepKind.TIGHTEN, 80, (1, 4, 2, 5, 3, 6)),
        (StepKind.LAST, 80, (1, 2, 3, 4, 5, 6)),
    ]  # fmt: skip
    everything = JobPlan(
        in_rows(2, 3),
        BAND,
        BandAim.LOW,
        Pattern.OUTWARDS,
        (0.4, 1.0),
        True,
        math.radians(90),
        True,
        True,
        Band(1, 3),
        True,
    )
    assert [s.kind for s in steps(everything)] == [
        StepKind.NEW_BOLT, StepKind.RUNNING, StepKind.TIGHTEN, StepKind.TIGHTEN, StepKind.ANGLE, StepKind.MEASURE,
        StepKind.LOCK,
    ]  # fmt: skip
    assert steps(everything)[3].torque == 76
    assert steps(everything)[2].order == (2, 5, 1, 6, 3, 4)
    assert steps(JobPlan(named(["a", "b"]), BAND, last_pass=False))[-1].kind is StepKind.TIGHTEN


@given(count=st.integers(2, 14), done=st.integers(0, 60), locks=st.booleans(), bolts=st.booleans())
def test_each_thing_is_asked_for_once_until_all_is_done(count, done, locks, bolts):
    plan = JobPlan(in_a_circle(count), BAND, pattern=Pattern.CROSS, stages=(0.5, 1.0), locks=locks, new_bolts=bolts)
    whole = sum(len(WANTED[s.kind]) for s in steps(plan)) * count
    entries = worked(plan, min(done, whole))
    found = stand(plan, entries)
    assert (found.done, found.of) == (len(entries), whole)
    assert len({(e.step, e.fastener, e.kind) for e in entries}) == len(entries)
    assert (found.next is None) is (done >= whole)


def test_what_is_struck_is_asked_for_again_and_a_slackened_one_begins_anew():
    entries = worked(CROSS, 9)  # the first pass, and three of the second
    struck = [*entries, Entry(10, EntryKind.STRUCK, 1, 2, None, strikes=9)]
    assert stand(CROSS, struck).next.fastener == entries[8].fastener
    assert stand(CROSS, struck).done == 8
    measured = [*entries, Entry(10, EntryKind.MEASURED, 1, 4, 85.0)]
    assert stand(CROSS, measured).over == (4,)
    assert not stand(CROSS, [*worked(CROSS, 18), Entry(99, EntryKind.MEASURED, 1, 4, 84.1)]).complete
    again = [*measured, Entry(11, EntryKind.SLACKENED, 0, 4)]
    found = stand(CROSS, again)
    assert found.over == ()
    assert (found.next.step, found.next.fastener) == (0, 4)  # its first pass, before the others go on
    assert found.done == 7
    on_the_edge = [*entries, Entry(10, EntryKind.MEASURED, 1, 4, 84.0)]
    assert stand(CROSS, on_the_edge).over == ()


def test_a_replaced_fastener_wants_a_new_bolt_and_a_slackened_one_keeps_its_own():
    plan = JobPlan(in_a_circle(3), BAND, new_bolts=True, pattern=Pattern.CROSS)
    entries = [*worked(plan, 6), Entry(20, EntryKind.MEASURED, 1, 2, 90.0)]
    kept = stand(plan, [*entries, Entry(21, EntryKind.SLACKENED, 0, 2)])
    assert (kept.next.kind, kept.next.fastener) == (EntryKind.DONE, 2)
    anew = stand(plan, [*entries, Entry(21, EntryKind.REPLACED, 0, 2)])
    assert (anew.next.kind, anew.next.fastener) == (EntryKind.NEW_BOLT, 2)


@pytest.mark.parametrize(
    ("made", "said"),
    [
        (lambda: in_a_circle(1), "one fastener has no pattern"), (lambda: in_rows(1, 1), "one fastener has no pattern"),
        (lambda: in_a_circle(401), "400"), (lambda: named([" "]), "at least one"), (lambda: named(["a", "A ", "a"]), "twice"),
        (lambda: JobPlan(in_a_circle(4), BAND, pattern=Pattern.OUTWARDS), "not tightened"),
        (lambda: JobPlan(in_a_circle(4), BAND, stages=(0.7, 0.5, 1.0)), "higher"),
        (lambda: JobPlan(in_a_circle(4), BAND, stages=(0.5, 0.9)), "the aim itself"),
        (lambda: JobPlan(in_a_circle(4), BAND, stages=()), "at least one stage"),
        (lambda: JobPlan(in_a_circle(4), BAND, angle=7.0), "a whole turn"),
    ],
)  # fmt: skip
def test_what_is_no_job_says_why(made, said):
    with pytest.raises(InputRefused, match=said):
        made()


def test_layouts_and_their_numbers():
    assert in_rows(2, 3).names == ("1", "2", "3", "4", "5", "6")
    assert named(["L1", " N "]).names == ("L1", "N")
    assert {in_a_circle(2).layout, in_rows(1, 2).layout, named(["a"]).layout} == set(Layout)
