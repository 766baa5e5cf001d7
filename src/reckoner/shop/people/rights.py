"""What a person may do, and asking for it where it is done.

To add a right: a member of ``store.terms.Right`` named as its column of the people's table, that column, and its words in
``RIGHT_WORDS``.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from reckoner.core.translation import tr
from reckoner.shop.people.authorship import Act, ShopRefused
from reckoner.store.schema import Person
from reckoner.store.terms import Right

if TYPE_CHECKING:
    from sqlalchemy.orm import Session


RIGHT_WORDS: dict[Right, str] = {
    Right.SIGN: tr("sign a run"),
    Right.ADJUST: tr("adjust tools"),
    Right.SECOND: tr("stand beside a signature"),
    Right.EDIT: tr("change the register"),
    Right.ALLOW: tr("allow what departs from a rule"),
}
"""Each completes "may not …"."""


def rights_of(person: Person) -> frozenset[Right]:
    """What a person may do, as the people's table has it."""
    return frozenset(right for right in Right if getattr(person, right))


def require(session: Session, act: Act, right: Right) -> None:
    """Raises ShopRefused when the person who acts has not the ``right``, or works here no more."""
    person = session.get(Person, act.person_id)
    if person is None or person.removed:
        raise ShopRefused(tr("Whoever does this is not in the register; choose a person at the top right."))
    refuse_without(person, right)


def require_here(session: Session, act: Act) -> None:
    """Raises ShopRefused when the person who acts is not in the register, or works here no more; whoever does may do this."""
    person = session.get(Person, act.person_id)
    if person is None or person.removed:
        raise ShopRefused(tr("Whoever does this is not in the register; choose a person at the top right."))
    if person.left_on is not None:
        raise ShopRefused(
            tr("{initials} works here no more; choose another person at the top right.", initials=person.initials)
        )


def require_own(session: Session, act: Act, person_id: int | None) -> None:
    """Raises ShopRefused unless the person who acts did what is to be taken back (``person_id``; None: nobody who is
    registered). Taking back is one's own; what others did is changed as anything is, under one's own initials."""
    if person_id in (None, act.person_id):
        return
    who = session.get(Person, person_id)
    raise ShopRefused(
        tr(
            "{initials} did that, and takes it back alone. Change it as you would change anything; it then stands under your "
            "initials.",
            initials=who.initials if who is not None else tr("somebody else"),
        )
    )


def refuse_without(person: Person, right: Right) -> None:
    """The same for a person at hand."""
    if person.left_on is not None:
        raise ShopRefused(
            tr("{initials} works here no more; choose another person at the top right.", initials=person.initials)
        )
    if not getattr(person, right.value):
        raise ShopRefused(
            tr(
                "{initials} may not {right_words}. Somebody who may has to do it, or grant it under Tools, People.",
                initials=person.initials,
                right_words=RIGHT_WORDS[right],
            )
        )
