"""The References place: the list, and the chosen one's sheet."""

from __future__ import annotations

from functools import partial

from PyQt6.QtGui import QHideEvent

from reckoner.shop.changes import Change, ChangeKind
from reckoner.shop.register.references import reference_lines
from reckoner.store.terms import RegisterKind
from reckoner.ui.layout import column
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import Target
from reckoner.ui.references.sheet import Sheet
from reckoner.ui.register.adders import Adder, MeterAdder
from reckoner.ui.register.shelf import Shelf, ShelfSpec
from reckoner.ui.theme import Type
from reckoner.ui.widgets.text import label

SPEC = ShelfSpec(
    RegisterKind.REFERENCE,
    "References",
    reference_lines,
    (ChangeKind.REFERENCES,),
    "None yet. Add what you test with: a torque meter, with its certificate or unproven.",
    "Add a meter…",
)


class ReferencesPlace(Place):
    """A target's row opens its sheet."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self.sheet = Sheet(around)
        head = label(self.theme, "References", Type.HEADLINE)
        self.shelf = Shelf(around, SPEC, head, partial(MeterAdder, around), self.sheet)
        self.setLayout(column(self.shelf, margin=2))

    def arrive(self, target: Target) -> None:
        self.shelf.arrive(target.row)
        self.new_screen()

    def look_again(self) -> None:
        self.shelf.look_again()
        self.shelf.sheet.look_again()

    def changes(self, made: tuple[Change, ...]) -> None:
        if self.isVisible():
            self.shelf.changes(made)

    def primary(self) -> None:
        adder = self.shelf.adder
        if self.shelf.is_adding and isinstance(adder, Adder):
            adder.add()

    def shut(self) -> None:
        self.sheet.shut()

    def hideEvent(self, event: QHideEvent | None) -> None:
        """Nothing is listened to behind another place: the bench may want the meter."""
        self.sheet.trying.stop()
        super().hideEvent(event)
