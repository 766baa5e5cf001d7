"""References as the shop keeps them: certificates, cross-checks and what they stop, and the sentence of a sheet."""

from datetime import timedelta

import pytest
from sqlalchemy import select

from reckoner.core.errors import InputRefused
from reckoner.core.history.crosschecks import Control
from reckoner.core.quantities.ownunits import METRIC, POUND
from reckoner.shop.people.authorship import FieldRefused, ShopRefused
from reckoner.shop.procedures.choosing import candidates
from reckoner.shop.records import checking
from reckoner.shop.references.crosschecks import cross_check
from reckoner.shop.references.register import reference_lines, reference_sheet
from reckoner.shop.register import adding
from reckoner.shop.register.adding import CertificateDraft
from reckoner.shop.register.editing import change, row_sheet
from reckoner.shop.register.fields import fields_of
from reckoner.shop.register.gear import StampedMass, add_gear, add_weights, gear_lines
from reckoner.shop.runs import opening, setting_up
from reckoner.store.reader import reader_of
from reckoner.store.schema import Reference
from reckoner.store.terms import RegisterKind
from tests.support.runs import looked_over, tool_id


def of(session, number):
    return session.scalars(select(Reference.id).where(Reference.number == number)).one()


def given(day, **changed):
    values = {
        "issued": day, "due": day + timedelta(days=365), "number": "FL-9",
        "points": ((20.0, 0.001, 0.004), (200.0, 0.0, 0.005)),
    }  # fmt: skip
    return CertificateDraft(**{**values, **changed})


def test_a_sheet_says_first_what_a_reference_may_do(demo, act):
    today = act.at.date()
    with demo.session() as session:
        said = {n: reference_sheet(session, of(session, n), today).sentence(today) for n in ("PM-5", "PM-4", "PM-9")}
        assert said["PM-5"].startswith("Decides until 15 Jun 2027; good enough for ±4\u202f% tools at 40–200\u202fN·m")
        assert "which is near" in said["PM-4"]
        assert said["PM-9"].startswith("Unproven")
        late = reference_sheet(session, of(session, "PM-4"), today + timedelta(days=30))
        assert late.sentence(today + timedelta(days=30)).startswith("Its certificate ended on 9 Dec 2026")
        assert "unproven" in {line.name: line.detail for line in reference_lines(reader_of(session))}["PM-9"]


def test_an_unproven_meter_decides_once_it_is_certified(demo, act):
    today = act.at.date()
    with demo.session() as session:
        wanted = of(session, "PM-9")
        adding.certify(session, wanted, given(today), act)
        session.expire_all()
        sheet = reference_sheet(session, wanted, today)
        assert sheet.facts.proven
        assert sheet.certificates[0].counts


@pytest.mark.parametrize(
    ("changed", "field", "why"),
    [
        ({"issued": timedelta(1)}, "issued", "after today"),
        ({"due": timedelta(-1)}, "due", "after the day on which it was issued"),
        ({"points": ()}, "points", "at least one point"),
        ({"points": ((20.0, 0.0, 0.004), (20.0, 0.0, 0.005))}, "points", "same torque"),
        ({"points": ((20.0, 0.0, 0.0), (200.0, 0.0, 0.005))}, "points", "cannot be right"),
    ],
)
def test_a_certificate_that_cannot_be_is_refused_at_its_field(demo, act, changed, field, why):
    today = act.at.date()
    changed = {k: today + v if isinstance(v, timedelta) else v for k, v in changed.items()}
    with demo.session() as session, pytest.raises(FieldRefused, match=why) as refused:
        adding.certify(session, of(session, "PM-5"), given(today, **changed), act)
    assert refused.value.field == field


def test_a_cross_check_that_stops_speaks_against_the_meter_until_another_is_steady(demo, act):
    today = act.at.date()
    with demo.session() as session:
        wanted, meter = tool_id(demo, "HC-0417"), of(session, "PM-5")
        run = looked_over(session, opening.open_run(session, wanted, act), act)
        first = candidates(session, run.tool, run.rules, today)[0]
        assert (first.reference.number, first.suits) == ("PM-5", True)
        line = cross_check(session, meter, 81.0, 80.0, "PM-4", "", act)
        assert line.checked.control is Control.STOP
        against = {c.reference.number: c.against for c in candidates(session, run.tool, run.rules, today)}["PM-5"]
        assert against == ("its cross-check of 24 Nov 2026 stands too far off",)
        with pytest.raises(ShopRefused, match="too far off"):
            setting_up.choose_reference(session, run.id, meter, "", act)
        chosen = setting_up.choose_reference(session, run.id, meter, "for want of another", act).reference
        assert (chosen.number, chosen.stopped) == ("PM-5", "")  # what stood against it is in the reason
        cross_check(session, meter, 80.06, 80.0, "PM-4", "plug cleaned", act)
        assert candidates(session, run.tool, run.rules, today)[0].suits


@pytest.mark.parametrize(
    ("shown", "true", "other", "why"),
    [(80, 80, " ", "what it was compared with"), (80, 80, "pm-5", "against itself"), (80, 8, "PM-4", "same torque"),
     (80, 0, "PM-4", "same torque")],
)  # fmt: skip
def test_a_check_that_cannot_be_is_refused(demo, act, shown, true, other, why):
    with demo.session() as session, pytest.raises(ShopRefused, match=why):
        cross_check(session, of(session, "PM-5"), shown, true, other, "", act)


def test_a_check_at_the_smallest_torques_is_kept(demo, act):
    with demo.session() as session:
        assert cross_check(session, of(session, "PM-5"), 0.61, 0.6, "PM-4", "", act).actual == 0.6


@pytest.mark.parametrize(
    ("kind", "typed", "said"),
    [
        (RegisterKind.WEIGHT, {"box": "red box", "stamped": "10 kg", "weighed": "9.6 kg"},
         "red box · stamped 10\u202fkg · weighed 9.6\u202fkg · its stamp is 4.2\u202f% off"),
        (RegisterKind.WEIGHT, {"stamped": "22 lb"}, "stamped 9.979\u202fkg · not weighed: not to be believed"),
        (RegisterKind.SCALE, {"bears": "30 kg", "scale_uncertainty": "5 g"}, "up to 30\u202fkg · ±0.005\u202fkg"),
        (RegisterKind.FORCE_GAUGE, {"reaches": "50 kgf", "force_uncertainty": "0.5 %", "shows_mass": "yes"},
         "up to 490.33\u202fN · ±0.50\u202f%"),
        (RegisterKind.LENGTH, {"length_uncertainty": "0.5 mm", "due": "2027-01-05"}, "±0.5\u202fmm · to 5 Jan 2027"),
        (RegisterKind.LEVEL, {"angle_uncertainty": "0.2 deg"}, "±0.2\u202f°"),
        (RegisterKind.LEVEL, {}, "its uncertainty is not known"),
    ],
)  # fmt: skip
def test_weights_scales_gauges_lengths_and_levels_are_kept_with_their_uncertainty(demo, act, kind, typed, said):
    with demo.session() as session:
        command = add_gear(session, kind, "G-1", act)
        row_id = command.steps[0].row_id
        for name, text in typed.items():
            sheet = row_sheet(session, kind, row_id)
            field = next(f for f in sheet.fields if f.name == name)
            change(session, kind, row_id, field, field.read(text, sheet.own)[0], act)
        assert [line.detail for line in gear_lines(reader_of(session), kind) if line.name == "G-1"] == [said]
        with pytest.raises(FieldRefused, match="already"):
            add_gear(session, RegisterKind.SCALE, "G-1", act)
    with demo.session() as session:
        assert [f for f in checking.walk(session) if isinstance(f, checking.CheckFinding)] == []


@pytest.mark.parametrize(
    ("name", "text"), [("weighed", "0 kg"), ("weighed", "-1 kg"), ("stamped", "3 N.m"), ("due", "soon")]
)
def test_a_weight_that_cannot_be_is_refused(demo, act, name, text):
    field = next(f for f in fields_of(RegisterKind.WEIGHT) if f.name == name)
    with pytest.raises(InputRefused):
        field.read(text, METRIC)


def test_a_box_of_weights_is_named_by_its_stamps_and_no_two_alike(demo, act):
    with demo.session() as session:
        before = {line.name for line in gear_lines(reader_of(session), RegisterKind.WEIGHT)}
        assert add_weights(session, [StampedMass(7.0)], act).words == "adding 1 weight"
        assert add_weights(session, [StampedMass(7.0), StampedMass(25.0, POUND)], act).words == "adding 2 weights"
        after = {line.name for line in gear_lines(reader_of(session), RegisterKind.WEIGHT)}
        assert after - before == {"W-7", "W-7A", "W-25LB"}
        with pytest.raises(ShopRefused, match="one press for each"):
            add_weights(session, [], act)
        session.rollback()
    with pytest.raises(FieldRefused, match="more than 500"), demo.session() as session:
        add_weights(session, [StampedMass(9000.0, POUND)], act)
