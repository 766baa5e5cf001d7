"""What stands beside the tools in their place: models, adapters, people, and the shop itself.

To add a shelf: its kind's name in ``SHELVES``, and what lists and adds its rows in ``OTHER_SHELVES``.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from reckoner.core.translation import tr
from reckoner.shop.changes import ChangeKind
from reckoner.shop.register.gear import gear_lines
from reckoner.shop.register.shelves import model_lines, people_lines
from reckoner.store.terms import RegisterKind
from reckoner.ui.place import Surroundings
from reckoner.ui.register.adders import GearAdder, ModelAdder, PersonAdder
from reckoner.ui.register.characterised import CharacterisedModel
from reckoner.ui.register.passphrase import Passphrase
from reckoner.ui.register.shelf import Above, RowAdder, Shelf, ShelfSpec
from reckoner.ui.work import call

SHELVES = {
    RegisterKind.TOOL: tr("Tools"),
    RegisterKind.MODEL: tr("Models"),
    RegisterKind.ADAPTER: tr("Adapters"),
    RegisterKind.PERSON: tr("People"),
    RegisterKind.SHOP: tr("Shop"),
}

OTHER_SHELVES: dict[RegisterKind, tuple[ShelfSpec, Callable[[Surroundings, Shelf], RowAdder]]] = {
    RegisterKind.MODEL: (
        ShelfSpec(
            RegisterKind.MODEL,
            tr("Models"),
            model_lines,
            (ChangeKind.MODELS, ChangeKind.TOOLS),
            tr("No model yet. Add one by its picture, or add a tool and describe it."),
            tr("Add a model…"),
        ),
        ModelAdder,
    ),
    RegisterKind.ADAPTER: (
        ShelfSpec(
            RegisterKind.ADAPTER,
            tr("Adapters"),
            call(gear_lines, RegisterKind.ADAPTER),
            (ChangeKind.GEAR,),
            tr("No adapter yet. Add a crow-foot or an offset ring, with its length between the centres."),
            tr("Add an adapter…"),
        ),
        partial(GearAdder, RegisterKind.ADAPTER),
    ),
    RegisterKind.PERSON: (
        ShelfSpec(
            RegisterKind.PERSON,
            tr("People"),
            people_lines,
            (ChangeKind.PEOPLE,),
            tr("Nobody yet. Add whoever signs."),
            tr("Add somebody…"),
        ),
        PersonAdder,
    ),
}
"""What stands beside the tools, and what adds a row there."""

ABOVE: dict[RegisterKind, Callable[[Surroundings], Above]] = {
    RegisterKind.MODEL: CharacterisedModel,
    RegisterKind.PERSON: Passphrase,
}
"""What stands above the fields of a row."""
