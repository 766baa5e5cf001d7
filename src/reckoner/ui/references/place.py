"""The References place: meters, and what stands beside them, each a list beside the sheet of the chosen one."""

from __future__ import annotations

from functools import partial

from PyQt6.QtGui import QHideEvent
from PyQt6.QtWidgets import QStackedWidget

from reckoner.core.translation import tr
from reckoner.shop.changes import Change, ChangeKind
from reckoner.shop.references.register import reference_lines
from reckoner.shop.register.gear import GEAR, gear_lines
from reckoner.store.terms import RegisterKind
from reckoner.ui.layout import column
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import Target
from reckoner.ui.references.sheet import ReferenceSheetView
from reckoner.ui.register.adders import Adder, GearAdder, MeterAdder
from reckoner.ui.register.shelf import Shelf, ShelfSpec
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.work import call

METERS = ShelfSpec(
    RegisterKind.REFERENCE,
    tr("Meters"),
    reference_lines,
    (ChangeKind.REFERENCES,),
    tr("None yet. Add what you test with: a torque meter, with its certificate or unproven."),
    tr("Add a meter…"),
)

SHELVES = {RegisterKind.REFERENCE: tr("Meters"), **{kind: words for kind, (words, _) in GEAR.items()}}


def _spec(kind: RegisterKind) -> ShelfSpec:
    """The shelf of a kind of gear."""
    many, one = GEAR[kind]
    return ShelfSpec(
        kind,
        many,
        call(gear_lines, kind),
        (ChangeKind.GEAR,),
        tr("None yet. Add {one}.", one=one),
        tr("Add {one}…", one=one),
    )


class ReferencesPlace(Place):
    """A target's row opens its sheet; its ``register`` says on which shelf."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self.sheet = ReferenceSheetView(around)
        self._stack = QStackedWidget()
        self.shelves: dict[RegisterKind, Shelf] = {}
        self._open(RegisterKind.REFERENCE)
        self.setLayout(column(self._stack, margin=2))

    @property
    def shelf(self) -> Shelf:
        """The one in front."""
        found = self._stack.currentWidget()
        return found if isinstance(found, Shelf) else self.shelves[RegisterKind.REFERENCE]

    def arrive(self, target: Target) -> None:
        kind = target.register if target.register in SHELVES else self.shelf.spec.kind
        self._open(kind if target.row is None or target.register else RegisterKind.REFERENCE)
        self.shelf.arrive(target.row)
        self.new_screen()

    def refresh(self) -> None:
        self.shelf.refresh()
        self.shelf.sheet.refresh()

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

    def _open(self, kind: RegisterKind) -> None:
        """Bring a shelf to the front."""
        if kind not in self.shelves:
            if kind is RegisterKind.REFERENCE:
                made = Shelf(self.around, METERS, self._head(kind), partial(MeterAdder, self.around), self.sheet)
            else:
                made = Shelf(self.around, _spec(kind), self._head(kind), partial(GearAdder, kind, self.around))
            self.shelves[kind] = made
            self._stack.addWidget(made)
        if kind is not RegisterKind.REFERENCE:
            self.sheet.trying.stop()
        self._stack.setCurrentWidget(self.shelves[kind])

    def _head(self, kind: RegisterKind) -> Chips:
        """What stands above a shelf's list: its own name, and the others to go to."""
        head = Chips(self.theme, tr("What tools are compared with"))
        head.offer([(one.value, words) for one, words in SHELVES.items()], [kind.value])

        def chosen() -> None:
            wanted = RegisterKind(head.one)
            head.choose(kind.value)
            self._open(wanted)
            self.shelf.arrive(None)
            self.new_screen()

        head.chosen.connect(chosen)
        return head
