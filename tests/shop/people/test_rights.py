"""Each right is asked for where it is used: without it the act is refused in words, with it it goes through."""

import json
from dataclasses import replace

import pytest

from reckoner.formats.exchange import parse
from reckoner.shop.people.authorship import Act, ShopRefused
from reckoner.shop.people.present import PersonFacts, people
from reckoner.shop.records import exporting, storage
from reckoner.shop.records.importing_exchange import take_over
from reckoner.shop.records.restoring import put_back
from reckoner.shop.references.crosschecks import cross_check
from reckoner.shop.register import adding, editing, registerfile
from reckoner.shop.register.fields import fields_of
from reckoner.shop.register.intake import take_in
from reckoner.shop.runs import opening, setting_up, signing
from reckoner.shop.runs.planning import propose
from reckoner.shop.using import correcting, reviewing
from reckoner.shop.using.reviews import reviews
from reckoner.store.backup import back_up
from reckoner.store.reader import reader_of
from reckoner.store.schema import Reference
from reckoner.store.terms import RegisterKind, Right
from tests.support.runs import looked_over, outside, tool_id

HC = "HC-0417"


@pytest.fixture
def without(demo, act):
    """Takes a right from the second person, and gives what that person does."""

    def take(right):
        with demo.session() as session:
            field = next(f for f in fields_of(RegisterKind.PERSON) if f.name == right.value)
            editing.change(session, RegisterKind.PERSON, 2, field, False, act)
        return Act(2, act.at)

    return take


def test_signing_and_standing_beside(demo, act, without):
    other = without(Right.SIGN)
    without(Right.SECOND)
    with demo.session() as session:
        run = outside(session, tool_id(demo, HC), act)
        with pytest.raises(ShopRefused, match="may not sign a run"):
            signing.sign(session, run.id, other)
        with pytest.raises(ShopRefused, match="may not stand beside"):
            signing.sign(session, run.id, act, second_person_id=2)
        everyone = people(reader_of(session))
        assert 2 not in {p.id for p in signing.second_people(everyone, act.person_id)}
        assert isinstance(everyone[0], PersonFacts)
        assert signing.sign(session, run.id, act).signed


def test_adding_to_the_register(demo, act, without):
    other = without(Right.EDIT)
    with demo.session() as session:
        for add in (
            lambda who: adding.add_person(session, "Q. Q.", "", who, who.at),
            lambda who: adding.add_tools(session, adding.ToolsDraft(("HC-0998",), 1), who),
        ):
            with pytest.raises(ShopRefused, match="may not change the register"):
                add(other)
            add(act)
    with demo.session() as session, pytest.raises(ShopRefused, match="Choose who is at the bench"):
        adding.add_person(session, "R. R.", "", None, act.at)  # nobody is at the bench, though people are registered


def test_allowing_what_departs_from_a_rule(demo, act, without):
    other = without(Right.ALLOW)
    wanted = tool_id(demo, HC)
    with demo.session() as session:
        fewer = replace(propose(session, wanted, act.at.date()).plan, readings=3, note="short of time")
        with pytest.raises(ShopRefused, match="may not allow"):
            opening.open_run(session, wanted, other, fewer)
        with pytest.raises(ShopRefused, match="may not allow"):
            correcting.allow(session, tool_id(demo, "HC-0404"), act.at.date(), "the only one", other)
        run = opening.open_run(session, wanted, act, fewer)
        line = run.inspection[0].line
        with pytest.raises(ShopRefused, match="may not allow"):
            setting_up.look_over(session, run.id, line, False, "light dirt", other)
        run = looked_over(session, run, other)
        wrong = session.query(Reference).filter_by(number="PM-5").one()
        cross_check(session, wrong.id, 81.0, 80.0, "PM-4", "", act)  # it stands too far off
        with pytest.raises(ShopRefused, match="may not allow"):
            setting_up.choose_reference(session, run.id, wrong.id, "the other is away", other)
        assert setting_up.choose_reference(session, run.id, wrong.id, "the other is away", act).reference is not None


def test_taking_over_what_another_shop_hands_on(demo, act, without):
    other = without(Right.KEEP)
    with demo.session() as session:
        content = exporting.exchange(reader_of(session), act.at)
        with pytest.raises(ShopRefused, match="may not take in files"):
            take_over(session, parse(json.dumps(content)), other, "all.json")


def test_archiving_and_putting_a_backup_back(demo, demo_folder, act, without, tmp_path):
    other = without(Right.KEEP)
    with demo.session() as session, pytest.raises(ShopRefused, match="may not take in files"):
        storage.archive(session, other)
    back_up(demo_folder, tmp_path / "kept.sqlite")
    demo.close()
    with pytest.raises(ShopRefused, match=r"M\. T\. may not take in files, archive, restore"):
        put_back(tmp_path / "kept.sqlite", demo_folder, act.at, "M. T.")
    with pytest.raises(ShopRefused, match="is not in the register"):
        put_back(tmp_path / "kept.sqlite", demo_folder, act.at, "")
    assert put_back(tmp_path / "kept.sqlite", demo_folder, act.at, "R. K.")


def test_settling_what_was_spoiled(demo, act, without):
    other = without(Right.SETTLE)
    with demo.session() as session:
        (found,) = reviews(reader_of(session))
        with pytest.raises(ShopRefused, match="may not settle"):
            reviewing.settle(session, found.id, 0, "all torqued again", other)


def test_what_others_may_do_is_said_by_who_may_grant_it_and_somebody_stays_who_may(demo, act, without):
    other = without(Right.GRANT)
    allow, grant, left = (
        next(f for f in fields_of(RegisterKind.PERSON) if f.name == name)
        for name in ("may_allow", "may_grant", "left_on")
    )
    with demo.session() as session:
        with pytest.raises(ShopRefused, match="may not say what others may do"):
            take_in(session, registerfile.parse('people = [{ initials = "N. N.", name = "N." }]'), act.at, other)
        for field, value in ((allow, False), (left, act.at.date())):
            with pytest.raises(ShopRefused, match="may not say what others may do"):
                editing.change(session, RegisterKind.PERSON, 3, field, value, other)
        editing.change(session, RegisterKind.PERSON, 3, grant, False, act)
        with pytest.raises(ShopRefused, match="Somebody has to be left who may say what others may do"):
            editing.change(session, RegisterKind.PERSON, 1, grant, False, act)
