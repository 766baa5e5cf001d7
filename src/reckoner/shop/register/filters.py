"""Filters of the list of tools that are kept, to be chosen again."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.translation import tr
from reckoner.shop.acts import Act, ShopRefused, note
from reckoner.shop.changes import ChangeKind, changed
from reckoner.store.reader import Reader
from reckoner.store.schema import SavedFilter

MOST = 12
"""How many a shop keeps: more are not found again."""


def kept_filters(reader: Reader) -> tuple[str, ...]:
    """The words of each, in the order of the alphabet."""
    return tuple(row.words for row in reader.rows("SELECT words FROM saved_filter ORDER BY words"))


def keep_filter(session: Session, words: str, act: Act) -> None:
    """Keep a filter. Raises ShopRefused for one that says nothing, is kept already, or would be one too many."""
    words = " ".join(words.split())
    if not words:
        raise ShopRefused(tr("The filter is empty; type what it should find first."))
    rows = session.scalars(select(SavedFilter)).all()
    if any(row.words == words for row in rows):
        raise ShopRefused(tr("The filter “{words}” is kept already.", words=words))
    if len(rows) >= MOST:
        raise ShopRefused(tr("{most} filters are kept; forget one that is not needed first.", most=MOST))
    made = SavedFilter(words=words)
    session.add(made)
    session.flush()
    changed(session, ChangeKind.FILTERS, made.id, act.person_id)
    note(session, act, tr("kept a filter"), words)


def forget_filter(session: Session, words: str, act: Act) -> None:
    """Keep it no longer; one that is gone already is gone."""
    row = session.scalar(select(SavedFilter).where(SavedFilter.words == words))
    if row is None:
        return
    changed(session, ChangeKind.FILTERS, row.id, act.person_id)
    session.delete(row)
    note(session, act, tr("forgot a filter"), words)
