"""Letting everybody sit down again, where a shop asks for passphrases that nobody knows any more."""

from __future__ import annotations

from sqlalchemy.orm import Session

from reckoner.core.translation import tr
from reckoner.shop.people.authorship import Act, note
from reckoner.shop.people.rights import command
from reckoner.shop.register import editing
from reckoner.shop.register.shopfields import SHOP_FIELDS
from reckoner.store.terms import RegisterKind


@command
def unlock(session: Session, login: str, act: Act) -> None:
    """Sitting down asks for no passphrase from now on. It is not proved who acts: the ``login`` that the machine knows is
    kept beside. Raises ShopRefused where none is asked for. Changes: the register."""
    field = next(field for field in SHOP_FIELDS if field.name == "asks_at_sitting")
    editing.change(session, RegisterKind.SHOP, editing.the_shop(session), field, False, act)
    note(session, act, tr("let everybody sit down without a passphrase"), "", login=login)
