"""What a joint gets, as it is typed: one torque or both ends, and where in the band it is aimed."""

from __future__ import annotations

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.printing import percent, span
from reckoner.core.quantities.units import N_M, Unit
from reckoner.core.tightening.setting import Band, BandAim, band_text, read_band
from reckoner.core.translation import tr
from reckoner.ui.theme import Theme
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField


class BandEntry(EntryField[tuple[Band, Unit]]):
    """A bare number is in ``unit``, which becomes that of what is typed. A band that is shown and left alone stays what it
    is, whatever its text in that unit rounds."""

    def __init__(self, theme: Theme, name: str, placeholder: str = tr("such as 80 N·m, or 76 to 84")) -> None:
        self.unit: Unit = N_M
        self._shown: tuple[str, Band, Unit] | None = None
        super().__init__(theme, name, self._read, placeholder)

    def _read(self, text: str) -> tuple[tuple[Band, Unit], str]:
        if self._shown is not None and text == self._shown[0]:
            _, band, unit = self._shown
        else:
            band, unit = read_band(text, self.unit)
        words = span(band.low, band.high, unit)
        if not band.is_one:
            words += f", ±{percent((band.high - band.low) / (band.high + band.low), 1)}"
        return (band, unit), tr("understood: {words}", words=words)

    @property
    def band(self) -> Band | None:
        """What is said; None while nothing is, or it is not understood."""
        try:
            band, self.unit = self.value()
        except InputRefused:
            return None
        return band

    def show_band(self, band: Band | None, unit: Unit) -> None:
        """Say it as somebody types it; nothing for None."""
        self.unit = unit
        text = band_text(band, unit) if band is not None else ""
        self._shown = (text, band, unit) if band is not None else None
        self.line.setText(text)


class AimChips(Chips):
    """Where in its band a torque is aimed: the middle until somebody says otherwise."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme, tr("Where in its band"))
        self.offer([(aim.name, tr(aim)) for aim in BandAim], [BandAim.MIDDLE.name])

    @property
    def aim(self) -> BandAim:
        return BandAim[self.one or BandAim.MIDDLE.name]
