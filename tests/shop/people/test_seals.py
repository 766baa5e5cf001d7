"""A signature bound to a passphrase: only its person makes it, anybody checks it."""

from dataclasses import replace
from datetime import timedelta

import pytest
from sqlalchemy import func, select, text
from sqlalchemy.orm import Session

from reckoner.shop.people import seals
from reckoner.shop.people.authorship import Act, ShopRefused
from reckoner.shop.records import checking
from reckoner.shop.records.checking import CheckFinding, ProjectionFault
from reckoner.shop.register import editing
from reckoner.shop.register.fields import fields_of
from reckoner.shop.runs import signing
from reckoner.store import chain
from reckoner.store.database import Database
from reckoner.store.migrate import standing_guards
from reckoner.store.schema import Audit, Person
from reckoner.store.schema.links import PassphraseTry, Seal
from reckoner.store.terms import LinkKind, RegisterKind, SealMeaning
from tests.support.runs import outside, tool_id

WORDS = "a crow-foot is not a bird"


@pytest.fixture
def without_key(demo, act):
    """A run that can be signed, by someone with initials only."""
    with demo.session() as session:
        return outside(session, tool_id(demo, "HC-0417"), act)


@pytest.fixture
def complete(demo, act, without_key):
    """The same, by someone with a passphrase."""
    with demo.session() as session:
        seals.set_passphrase(session, act.person_id, WORDS, act)
    return without_key


def wrong(session):
    return [f.wrong for f in checking.walk(session) if isinstance(f, CheckFinding)]


def test_a_person_with_a_passphrase_signs_with_it_and_with_nothing_else(demo, act, complete):
    for passphrase, words in ((None, "type it"), ("", "type it"), (f"{WORDS}.", "not the passphrase")):
        with demo.session() as session:
            with pytest.raises(ShopRefused, match=words):
                signing.sign(session, complete.id, act, passphrase=passphrase)
            session.rollback()
    with demo.session() as session:
        signing.sign(session, complete.id, act, passphrase=WORDS)
    with demo.session() as session:
        (checked,) = seals.check(session)  # what was signed before there was a passphrase bears none
        assert (checked.run_id, checked.sealed, checked.fits) == (complete.id, True, True)
        assert wrong(session) == []
        links = session.connection()
        assert chain.newest(links).kind is LinkKind.AUDIT
        for kind in (LinkKind.KEY, LinkKind.SEAL):
            assert chain.link_of(links, kind, 1) is not None
    assert WORDS.encode() not in demo.path.read_bytes() + demo.path.with_suffix(".sqlite-wal").read_bytes()


def test_a_short_passphrase_is_refused(demo, act):
    with demo.session() as session, pytest.raises(ShopRefused, match="at least 10 characters"):
        seals.set_passphrase(session, act.person_id, "too short  ", act)


@pytest.mark.parametrize(
    ("change", "found"),
    [
        ("UPDATE signature SET sentence = 'fine' WHERE run_id = :run", ProjectionFault.SEAL),
        ("UPDATE seal SET mark = zeroblob(64)", ProjectionFault.SEAL),
        ("UPDATE signing_key SET person_id = 2", ProjectionFault.SEAL),
        ("DELETE FROM seal", ProjectionFault.UNSEALED),
    ],
)
def test_what_is_changed_after_the_signature_breaks_its_seal_even_if_the_chain_is_made_anew(
    demo, act, complete, change, found
):
    with demo.session() as session:
        signing.sign(session, complete.id, act, passphrase=WORDS)
    with demo.engine.connect() as connection:
        connection.begin()
        links = connection.execute(text("SELECT kind, row_id FROM chain_link ORDER BY place")).all()
        for name in standing_guards(connection):
            connection.exec_driver_sql(f"DROP TRIGGER {name}")
        connection.execute(text(change), {"run": complete.id} if ":run" in change else {})
        connection.execute(text("DELETE FROM chain_link"))
        chain.extend(connection, [(chain.LinkKind(kind), row_id) for kind, row_id in links])
        if "person_id" not in change:
            assert wrong(Session(connection)) == [found]
        else:
            assert [
                c.fits for c in seals.check(Session(connection))
            ] == []  # nobody's any more: only the noted link tells


def test_a_seal_of_somebody_else_is_no_seal(demo, act, complete):
    with demo.session() as session:
        signing.sign(session, complete.id, act, passphrase=WORDS)
        seals.set_passphrase(session, 2, "another person's words", act)
    with demo.engine.connect() as connection:
        connection.begin()
        for name in standing_guards(connection):
            connection.exec_driver_sql(f"DROP TRIGGER {name}")
        session = Session(connection)
        key = seals.key_of(session, 2)
        secret = seals._secret("another person's words", key.salt, key.cost)
        content = chain.content_of(connection, LinkKind.RUN, complete.id)
        change = text("UPDATE seal SET key_id = :key, mark = :mark")
        connection.execute(change, {"key": key.id, "mark": secret.sign(seals._sealed(content, SealMeaning.TESTED))})
        assert [c.fits for c in seals.check(session)] == [False]


def test_a_passphrase_is_the_same_however_its_accents_are_typed(demo, act, complete):
    with demo.session() as session:
        seals.set_passphrase(session, act.person_id, "clé à cliquet", act, before=WORDS)
    with demo.session() as session:
        signing.sign(session, complete.id, act, passphrase="cle\u0301 a\u0300 cliquet")


def test_a_shop_that_demands_passphrases_lets_nobody_sign_without_one(demo, act, without_key):
    run = without_key
    with demo.session() as session:
        shop = editing.the_shop(session)
        field = next(f for f in fields_of(RegisterKind.SHOP) if f.name == "demands_passphrase")
        editing.change(session, RegisterKind.SHOP, shop, field, True, act)
    with demo.session() as session:
        with pytest.raises(ShopRefused, match=r"signs with passphrases, and R\. K\. has none yet"):
            signing.sign(session, run.id, act)
        session.rollback()
    with demo.session() as session:
        seals.set_passphrase(session, act.person_id, WORDS, act)
        signing.sign(session, run.id, act, passphrase=WORDS)


def test_only_the_person_or_who_may_change_the_register_sets_a_passphrase(demo, act):
    with demo.session() as session:
        field = next(f for f in fields_of(RegisterKind.PERSON) if f.name == "may_edit")
        editing.change(session, RegisterKind.PERSON, 2, field, False, act)
        seals.set_passphrase(session, 2, WORDS, Act(2, act.at))
        with pytest.raises(ShopRefused, match="may not change the register"):
            seals.set_passphrase(session, 1, WORDS, Act(2, act.at))


def refused(demo, act, run, passphrase, at):
    """A try of a passphrase as the window makes it: a unit of work of its own, which is refused."""
    with pytest.raises(ShopRefused) as told, demo.session() as session:
        signing.sign(session, run.id, replace(act, at=at), passphrase=passphrase)
    return str(told.value)


def test_wrong_passphrases_are_kept_slow_down_over_restarts_and_a_right_one_forgets_them(demo, act, complete):
    at, waits = act.at, []
    for number in range(6):
        with demo.session() as session:
            waits.append(seals.wait_after(session, 1, at))
            assert seals.wait_after(session, 2, at) == 0
        at += timedelta(seconds=waits[-1])
        assert "not the passphrase" in refused(demo, act, complete, f"wrong {number}", at)
    assert waits == [0, 0, 2, 4, 8, 16]
    again = Database(demo.path.parent)  # as after a restart
    try:
        with again.session() as session:
            assert seals.wait_after(session, 1, at) == 32
            assert seals.wait_after(session, 1, at - timedelta(days=1)) == 32  # a clock set back gains nothing
            assert seals.wait_after(session, 1, at + timedelta(seconds=40)) == 0
            lines = session.scalars(select(Audit.action).where(Audit.action.like("%wrong%"))).all()
            assert lines == ["typed a wrong passphrase"] * 6
    finally:
        again.close()
    assert "Wrong ones slow down: wait 32 s" in refused(demo, act, complete, WORDS, at)
    with demo.session() as session:
        assert session.scalar(select(func.count()).select_from(PassphraseTry)) == 6
        signing.sign(session, complete.id, replace(act, at=at + timedelta(seconds=33)), passphrase=WORDS)
    with demo.session() as session:
        assert seals.wait_after(session, 1, at) == 0  # a right one ends it, and not the time alone
        assert wrong(session) == []


def test_another_passphrase_wants_the_one_before_or_two_other_people(demo, act):
    later = Act(2, act.at)
    with demo.session() as session:
        seals.set_passphrase(session, 1, WORDS, act)
        third = session.scalars(select(Person.id).where(Person.id > 2, Person.may_edit)).first()
    for change, said in (
        ({}, "has a passphrase already"),
        ({"before": "another one"}, "not the passphrase"),
        ({"beside": seals.Vouching(1, WORDS)}, "two other people"),
        ({"beside": seals.Vouching(2)}, "two other people"),
    ):
        with pytest.raises(ShopRefused, match=said), demo.session() as session:
            seals.set_passphrase(session, 1, "quite another one", later, **change)
    with demo.session() as session:
        seals.set_passphrase(session, 1, "quite another one", later, before=WORDS)  # who knows it is its person
        key = seals.key_of(session, 1)
        assert (key.set_by_id, key.beside_id) == (2, None)
        seals.set_passphrase(session, third, "the third one's words", Act(third, act.at))
    with pytest.raises(ShopRefused, match="type it"), demo.session() as session:
        seals.set_passphrase(session, 1, "forgotten and anew", later, beside=seals.Vouching(third))
    with demo.session() as session:
        beside = seals.Vouching(third, "the third one's words")
        seals.set_passphrase(session, 1, "forgotten and anew", later, beside=beside)
        key = seals.key_of(session, 1)
        assert (key.set_by_id, key.beside_id) == (2, third)
    with demo.session() as session:
        assert wrong(session) == []


def test_where_passphrases_are_demanded_both_signatures_bear_a_seal_with_its_meaning(demo, act, without_key):
    run = without_key
    with demo.session() as session:
        shop = editing.the_shop(session)
        field = next(f for f in fields_of(RegisterKind.SHOP) if f.name == "demands_passphrase")
        editing.change(session, RegisterKind.SHOP, shop, field, True, act)
        seals.set_passphrase(session, 1, WORDS, act)
        other = next(p.id for p in session.query(Person) if p.may_second and p.id != 1)

    def sign(**given):
        with demo.session() as session:
            return signing.sign(session, run.id, act, second_person_id=other, passphrase=WORDS, **given)

    with pytest.raises(ShopRefused, match="has none yet"):
        sign()
    with demo.session() as session:
        seals.set_passphrase(session, other, "the second one's words", Act(other, act.at))
    for given, said in (({}, "type it"), ({"second_passphrase": WORDS}, "not the passphrase")):
        with pytest.raises(ShopRefused, match=said):
            sign(**given)
    sign(second_passphrase="the second one's words")
    with demo.session() as session:
        assert {(s.meaning, s.signature_id) for s in session.query(Seal)} == {
            (SealMeaning.TESTED, session.query(Seal).first().signature_id),
            (SealMeaning.CHECKED, session.query(Seal).first().signature_id),
        }
        assert [(c.sealed, c.fits) for c in seals.check(session)] == [(True, True), (True, True)]
        assert wrong(session) == []
    with demo.engine.connect() as connection:
        connection.begin()
        for name in standing_guards(connection):
            connection.exec_driver_sql(f"DROP TRIGGER {name}")
        connection.execute(text("UPDATE seal SET meaning = 'x' WHERE meaning = 'tested'"))
        connection.execute(text("UPDATE seal SET meaning = 'tested' WHERE meaning = 'checked'"))
        assert [c.fits for c in seals.check(Session(connection)) if c.sealed] == [False]  # a check is no test
