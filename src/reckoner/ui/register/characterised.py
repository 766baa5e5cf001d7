"""What was characterised of a model, above its fields."""

from __future__ import annotations

from reckoner.shop.register.characterised import of_model
from reckoner.ui.layout import column
from reckoner.ui.place import Surroundings
from reckoner.ui.register.shelf import Above
from reckoner.ui.theme import Type
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class CharacterisedModel(Above):
    """A line of words."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self.words = label(around.theme, "", Type.BODY, "quiet", wrap=True)
        self.setLayout(column(self.words, gap=0))

    def show_row(self, row_id: int) -> None:
        self._around.work.look(call(of_model, row_id), self.words.setText)
