"""The pin from two hooks: where nobody said where it is, the same setting tripped by two weights tells."""

from __future__ import annotations

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.printing import quantity, uncertainty_decimals
from reckoner.core.quantities.units import Kind
from reckoner.core.reference.trips import FoundPin, HookTrip, pin_of_two
from reckoner.core.translation import tr
from reckoner.shop.facts.tool import ToolFacts
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.text import label

HOW = tr(
    "Set the tool and leave it so. Hang one weight and bring its hook outwards, lifting it off between tries, until the tool "
    "clicks; then do the same with another, half as heavy or less. Weigh all that hangs, hook and rope with it."
)


TOOL, MODEL = "tool", "model"


class PinForm(Form[FoundPin]):
    """``found`` is the pin, as soon as both trips stand there; ``hooks_uncertainty`` (m, expanded) is that of a length."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self._tool: ToolFacts | None = None
        self.found: FoundPin | None = None
        self.hooks_uncertainty = 0.001
        self.mass_uncertainty = 0.02
        self.open_button = button(theme, tr("Find its pin with two hooks…"), self._unfold, "link")
        self.heavy = self.length_or_mass(12.0, "heavy", tr("The heavy one weighs"), Kind.MASS)
        self.heavy_hook = self.length_or_mass(0.24, "heavy_hook", tr("It trips, from the drive"))
        self.light = self.length_or_mass(6.0, "light", tr("The light one weighs"), Kind.MASS)
        self.light_hook = self.length_or_mass(0.41, "light_hook", tr("It trips, from the drive"))
        self.told = label(theme, "", Type.STRONG, wrap=True)
        self.kept_for = self.choice("kept_for", tr("Kept for"))
        how = label(theme, HOW, Type.BODY, "quiet", wrap=True)
        self._fields = column(
            how,
            row(self.heavy, self.heavy_hook, gap=2),
            row(self.light, self.light_hook, gap=2),
            self.told,
            self.kept_for,
            gap=1,
        )
        self._open = False
        self.setLayout(column(row(self.open_button, 1), self._fields, gap=1))
        self.shown(lambda: self._open, how, *self._asked_fields, self.told)
        self.shown(lambda: self._open and self.found is not None, self.kept_for)

    @property
    def _asked_fields(self) -> tuple[EntryField[float], ...]:
        return self.heavy, self.heavy_hook, self.light, self.light_hook

    def start(self, tool: ToolFacts) -> None:
        """A tool, of whose pin nothing is said yet."""
        with self.filling():
            self._tool, self.found, self._open = tool, None, False
            self.measure_in(tool.own_units)
            for field in self._asked_fields:
                field.clear()
            model = tr("every {maker} {model}", maker=tool.maker, model=tool.model).replace("  ", " ")
            self.kept_for.offer([(TOOL, tr("this tool")), (MODEL, model)], [TOOL])
        self.setVisible(tool.pin_unknown and not tool.kind.is_screwdriver)

    @property
    def of_model(self) -> bool:
        """Whether it is said to hold for every tool of the model."""
        return self.kept_for.one == MODEL

    def _unfold(self) -> None:
        self._open = not self._open
        self.look()
        if self._open:
            self.heavy.setFocus()

    def value(self) -> FoundPin:
        tool = self._tool
        heavy, light = (
            HookTrip(mass.value(), hook.value(), self.mass_uncertainty / 2, self.hooks_uncertainty / 2)
            for mass, hook in ((self.heavy, self.heavy_hook), (self.light, self.light_hook))
        )
        found = pin_of_two(heavy, light)
        lever = tool.lever if tool is not None else None
        if found.offset < 0 or (lever is not None and found.offset >= lever / 2):
            raise InputRefused(
                "light_hook", light.hook, tr("so the pin would not lie in the tool's head: measure both hooks again")
            )
        return found

    def update_state(self) -> None:
        self.found = None
        self.told.setText("")
        tool = self._tool
        if tool is None or not self._open or not all(field.text.strip() for field in self._asked_fields):
            return
        try:
            self.found = found = self.value()
        except InputRefused as refusal:
            self.told.setText(f"{refusal.reason[:1].upper()}{refusal.reason[1:]}.")
            return
        length, doubt = tool.own_units.length, 2 * found.standard_uncertainty
        decimals = uncertainty_decimals(length.from_si(doubt))
        pin, unsure = quantity(found.offset, length, decimals), quantity(doubt, length, decimals)
        self.told.setText(tr("Its pin is {pin} from the drive, ±{unsure}.", pin=pin, unsure=unsure))
