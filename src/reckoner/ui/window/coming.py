"""A place that was gone to and is still being loaded: its name comes at once, and no key means anything yet."""

from __future__ import annotations

from reckoner.core.translation import tr
from reckoner.ui.layout import column
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import PlaceSpec
from reckoner.ui.theme import Type
from reckoner.ui.widgets.text import label


class ComingPlace(Place):
    """Stands in front until the place itself does."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self.name = label(self.theme, "", Type.HEADLINE)
        self.what = label(self.theme, "", Type.LEAD, "quiet", wrap=True)
        self.setLayout(column(self.name, self.what, 1, gap=1, margin=3))

    def show_spec(self, spec: PlaceSpec) -> None:
        """Say which place comes."""
        self.name.setText(spec.name)
        self.what.setText(tr("{what}. It is being loaded.", what=spec.tooltip))
