"""A box of weights, each by its stamp, or a hanging scale, with the mouse alone; what they are worth can wait."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.printing import THIN, number
from reckoner.core.translation import tr
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.flow import Flow
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.text import label

REACHES = (10.0, 20.0, 30.0, 50.0, 100.0, 150.0, 300.0)
"""kg that hanging scales usually go to."""

STAMPS = (0.5, 1.0, 2.0, 2.5, 5.0, 10.0, 15.0, 20.0, 25.0)
"""kg that weights usually say they are."""

MOST = 20


class NewWeights(Form[tuple[float, ...]]):
    """What the weights say they are, in kg."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.stamps: list[float] = []
        words = label(
            theme, tr("Press what your weights say they are, one press for each weight."), Type.BODY, wrap=True
        )
        presses = QWidget()
        flow = Flow(presses)
        self.presses = {}
        for stamp in STAMPS:
            self.presses[stamp] = button(
                theme, tr("{stamp}{thin}kg", stamp=number(stamp), thin=THIN), partial(self._add, stamp)
            )
            flow.addWidget(self.presses[stamp])
        self.told = label(theme, "", Type.LEAD, wrap=True)
        self.back = button(theme, tr("Take the last back"), self._take_back, "link")
        caution = tr(
            "Until they are weighed their stamps are not to be believed: they can be 5 % out. Runs with "
            "them are shop checks; say under References what a scale says, and they decide."
        )
        note = label(theme, caution, Type.BODY, "quiet", wrap=True)
        self.setLayout(column(words, presses, self.told, row(self.back, 1), note, gap=2))
        self.shown(lambda: bool(self.stamps), self.back)
        self.look()

    def value(self) -> tuple[float, ...]:
        """Raises InputRefused while none stands there."""
        if not self.stamps:
            raise InputRefused("stamps", None, tr("Press at least one weight."))
        return tuple(self.stamps)

    def _add(self, stamp: float) -> None:
        if len(self.stamps) < MOST:
            self.stamps.append(stamp)
            self.look()

    def _take_back(self) -> None:
        if self.stamps:
            self.stamps.pop()
            self.look()

    def dress(self) -> None:
        """Say which stand there."""
        self.told.setText(
            " + ".join(number(s) for s in self.stamps) + tr("{thin}kg", thin=THIN) if self.stamps else tr("None yet.")
        )


class NewGauge(Form[float]):
    """A hanging scale by how far it goes, in kg."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.reaches = self.choice(
            "reaches",
            tr("It goes up to"),
            [(f"{kg:g}", tr("{kg}{thin}kg", kg=number(kg), thin=THIN)) for kg in REACHES],
        )
        caution = tr(
            "What it is worth is not known yet: runs with it are shop checks. Say its uncertainty under "
            "References, and hang a known weight on it before a run, and it decides."
        )
        self.setLayout(
            column(
                label(theme, tr("It goes up to"), Type.BODY),
                self.reaches,
                label(theme, caution, Type.BODY, "quiet", wrap=True),
                gap=2,
            )
        )

    def value(self) -> float:
        """Raises InputRefused while nothing is chosen."""
        if not self.reaches.one:
            raise InputRefused("reaches", None, tr("Press how far it goes."))
        return float(self.reaches.one)
