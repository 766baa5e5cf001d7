"""A reference that was proven here: what a check over its range must have shown to be kept as its certificate."""

from __future__ import annotations

from dataclasses import replace

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.history.due import add_months
from reckoner.core.quantities.checks import at_most
from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.quantities.units import N_M, Unit
from reckoner.core.translation import tr
from reckoner.shop.people.authorship import Act, ShopRefused
from reckoner.shop.people.rights import command
from reckoner.shop.references.crossruns import READINGS, CrossState, state_of
from reckoner.shop.register.adding import CertificateDraft, certify
from reckoner.store.schema import CrossCheck

TRUSTED_TORQUES = 3


TRUSTED_SPAN = (0.3, 0.7)
"""Of what the reference reaches: the lowest torque lies below the first, the highest above the second."""


TRUSTED_UNCERTAINTY = 0.01
"""A quarter of a ±4 % tool's limit."""


TRUSTED_MONTHS = 12


def lacks_for_trust(state: CrossState, unit: Unit) -> tuple[str, ...]:
    """What a check still lacks to be kept as the certificate of its reference; empty when it suffices."""
    facts, found = state.reference, state.found
    said = []
    full = [t for t, one in found if one.count >= READINGS]
    if len(full) < TRUSTED_TORQUES:
        said.append(
            tr(
                "{readings} readings each at {trusted_torques} torques or more",
                readings=READINGS,
                trusted_torques=TRUSTED_TORQUES,
            )
        )
    if full and min(full) > TRUSTED_SPAN[0] * facts.maximum:
        said.append(
            tr("a torque of at most {trusted_span}", trusted_span=quantity(TRUSTED_SPAN[0] * facts.maximum, unit))
        )
    if full and max(full) < TRUSTED_SPAN[1] * facts.maximum:
        said.append(
            tr("a torque of at least {trusted_span}", trusted_span=quantity(TRUSTED_SPAN[1] * facts.maximum, unit))
        )
    loose = [t for t, one in found if not at_most(one.expanded_uncertainty, TRUSTED_UNCERTAINTY)]
    if loose:
        at = ", ".join(quantity(t, unit) for t in loose)
        said.append(
            tr(
                "less doubt at {at}: at most {trusted_uncertainty}",
                at=at,
                trusted_uncertainty=percent(TRUSTED_UNCERTAINTY, 0),
            )
        )
    return tuple(said)


@command
def trust(session: Session, cross_id: int, act: Act) -> CrossState:
    """Keep a check as the certificate of its reference, for a year. Raises ShopRefused where it does not suffice. Changes:
    references."""
    state = state_of(session, cross_id)
    if not any(c.cross_run_id == cross_id for c in _checks(session, state.reference.id)):
        raise ShopRefused(tr("Keep the check first."))
    if lacks_for_trust(state, N_M):
        raise ShopRefused(tr("It does not suffice to trust it yet."))
    bare = replace(state, reference=replace(state.reference, points=()))
    day = act.at.date()
    certify(
        session,
        state.reference.id,
        CertificateDraft(
            day,
            add_months(day, TRUSTED_MONTHS),
            tuple((t, one.difference, one.expanded_uncertainty) for t, one in bare.found),
            tr("check {cross_id}", cross_id=cross_id),
            tr("this shop, against {name}", name=state.other.name),
        ),
        act,
    )
    return state_of(session, cross_id)


def _checks(session: Session, reference_id: int) -> list[CrossCheck]:
    return list(session.scalars(select(CrossCheck).where(CrossCheck.reference_id == reference_id)))
