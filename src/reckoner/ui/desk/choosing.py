"""Which tool for a torque: the ranking, with why each other one was passed over."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.tightening.jobcard import JobCard
from reckoner.core.tightening.setting import BandAim
from reckoner.core.translation import tr, tr_count
from reckoner.shop.using.cards import CardLine, card_lines, stage_words
from reckoner.shop.using.choosing import Criticality, RankedTool, choose, is_narrow
from reckoner.shop.using.fitting import Fitted, ShopAdapter, adapters
from reckoner.shop.using.setting import SettingQuestion
from reckoner.ui.latest import LatestQuery
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.shelves import PlaceShelf
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.bandentry import AimChips, BandEntry
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.lineslist import LinesList, ListLine
from reckoner.ui.widgets.puton import PutOn
from reckoner.ui.widgets.text import label
from reckoner.ui.work import both, call

WIDE = 46 * GRID
NARROW, OVER, HANDS = "narrow", "over", "hands"
NOTHING = tr("Say what the joint gets, and the tools stand here in their order, the best first.")
NONE = tr("No tool of the shop has this torque in its range.")


class ChooseShelf(PlaceShelf):
    """``primary()`` sets the chosen tool in the Setting place."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self._asking = LatestQuery(around.work)
        self._reading = LatestQuery(around.work)
        self.found: tuple[RankedTool, ...] = ()
        theme = around.theme
        self.torque = BandEntry(theme, tr("The joint gets"))
        self.torque.line.textChanged.connect(lambda _text: self._band_changed())
        self.torque.line.textEdited.connect(lambda _text: self._no_card())
        self.aim = AimChips(theme)
        self.cards = Chips(theme, tr("Job cards"))
        self.stages = Chips(theme, tr("Stages of the job card"))
        self.adapters = PutOn(theme)
        self.adapters.changed.connect(self.refresh)
        self._hand: float | None = None
        self.cards_words = label(theme, tr("Or for a job card"), Type.LEAD)
        self._kept: tuple[CardLine, ...] = ()
        self.cards.chosen.connect(self._card_chosen)
        self.stages.chosen.connect(self._stage_chosen)
        self.critical = Chips(theme, tr("What is critical"), several=True)
        self.critical.offer(
            [
                (NARROW, tr("its band is narrow")),
                (OVER, tr("too much would break it")),
                (HANDS, tr("many hands share it")),
            ],
            [],
        )
        for chips in (self.aim, self.critical):
            chips.chosen.connect(self.refresh)
        self.told = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.missing = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.missing.setFixedHeight(5 * GRID)  # room for two lines: the button does not move by them
        self.button = PrimaryButton(theme, tr("Set this one"))
        self.button.clicked.connect(self.primary)
        self.lend_button = button(theme, tr("Lend this one"), self._lend)
        asked = QWidget()
        asked.setLayout(
            column(
                self.torque, self.aim, self.adapters, self.cards_words, self.cards, self.stages,
                label(theme, tr("What is critical?"), Type.LEAD), self.critical, self.told, 1, gap=2,
            )
        )  # fmt: skip
        left = column(scrolling(asked), column(self.missing, self.button, self.lend_button, gap=1), gap=2, margin=2)
        left.setStretch(0, 1)
        paper = surface(left)
        paper.setFixedWidth(WIDE)
        self.title = label(theme, NOTHING, Type.LEAD, wrap=True)
        self.list = LinesList(theme, tr("Tools, the best first"), 500)
        self.list.changed.connect(self._update_state)
        right = column(self.title, self.list, gap=1, margin=2)
        right.setStretch(1, 1)
        self.setLayout(row(paper, surface(right), gap=2))
        self._update_state()

    def arrive(self, torque: str, fitted: tuple[Fitted, ...], hand: float | None) -> None:
        """A torque was said elsewhere, and what is on the tool."""
        self._hand = hand
        self.adapters.put(fitted)
        self.torque.line.setText(torque)

    def _band_changed(self) -> None:
        """A narrow band asks for a good tool; the person may say otherwise."""
        band = self.torque.band
        on = [key for key in self.critical.on if key != NARROW]
        if band is not None and is_narrow(band):
            on.append(NARROW)
        self.critical.offer([(key, chip.text()) for key, chip in self.critical.chips.items()], on)
        self.refresh()

    def _offer(self, read: tuple[tuple[CardLine, ...], tuple[ShopAdapter, ...]]) -> None:
        """The job cards and adapters that there are, the chosen card still chosen."""
        kept, shelf = read
        self.adapters.offer(shelf)
        self._kept = tuple(line for line in kept if line.card is not None)
        self.cards.offer([(str(line.id), line.number) for line in self._kept], self.cards.on)
        self._offer_stages()

    def _offer_stages(self) -> None:
        card = self._card
        shares = card.plan.stages if card is not None else ()
        self.stages.offer(
            [(str(i), stage_words(card, share)) for i, share in enumerate(shares) if card], self.stages.on
        )
        self.stages.setVisible(bool(shares))
        self.cards_words.setVisible(bool(self._kept))
        self.cards.setVisible(bool(self._kept))

    @property
    def _card(self) -> JobCard | None:
        return next((line.card for line in self._kept if str(line.id) == self.cards.one), None)

    def _card_chosen(self) -> None:
        """Its whole torque first, the band with it; the stages before it can be asked one by one."""
        self.stages.offer([], [])
        self._offer_stages()
        if self._card is not None:
            self.stages.choose(str(len(self._card.plan.stages) - 1))
            self._stage_chosen()

    def _no_card(self) -> None:
        """Another torque than the card's is being typed."""
        self.cards.choose("")
        self._offer_stages()

    def _stage_chosen(self) -> None:
        card, stage = self._card, self.stages.one
        if card is None or not stage:
            return
        share = card.plan.stages[int(stage)]
        self._hand = None
        named = card.tool_of(int(stage))
        try:
            self.adapters.put(self.adapters.read(named.adapters) if named is not None else ())
        except InputRefused as refusal:
            self.adapters.adapter.refuse(refusal.reason)
        if share == 1:
            self.aim.choose(card.plan.aim.name)
            self.torque.show_band(card.plan.band, card.unit)
        else:
            self.torque.line.setText(quantity(card.plan.wanted * share, card.unit))

    def refresh(self) -> None:
        """Rank them anew."""
        self._reading.look(both(call(card_lines), call(adapters)), self._offer)
        band, on, today = self.torque.band, self.critical.on, self.around.today
        self.aim.setVisible(band is not None and not band.is_one)
        if band is None:
            self.found = ()
            self._show_ranking(())
            return
        ask = SettingQuestion(band, self.aim.aim, self.torque.unit, fitted=self.adapters.fitted, hand=self._hand)
        critical = Criticality(NARROW in on, OVER in on, HANDS in on)
        self._asking.look(call(choose, ask, today, critical), self._show_ranking)

    def _show_ranking(self, found: tuple[RankedTool, ...]) -> None:
        self.found = found
        usable = [one for one in found if one.usable]
        if self.torque.band is None:
            self.title.setText(NOTHING)
        elif not found:
            self.title.setText(NONE)
        else:
            count = tr_count("1 tool suits", "{n} tools suit", len(usable))
            rest = len(found) - len(usable)
            self.title.setText(tr("{count}, {rest} passed over", count=count, rest=rest) if rest else count)
        self.list.lines.show(
            tuple(
                ListLine(
                    ("", i),
                    one.card.tool.id,
                    f"{one.card.tool.number}  {one.card.tool.description}, {one.card.tool.range_text}",
                    one.words,
                    tr("set {setting_words}", setting_words=one.setting_words) if one.usable else "",
                    one.card.state,
                    marked=True,
                    past=not one.usable,
                )
                for i, one in enumerate(found)
            )
        )
        if found:
            self.list.choose_first()
        self._tell()
        self._update_state()

    def _tell(self) -> None:
        band, unit = self.torque.band, self.torque.unit
        if band is None or NARROW not in self.critical.on or band.is_one:
            self.told.setText("")
            return
        quarter = (band.high - band.low) / 4
        part = quarter / band.aimed(BandAim.MIDDLE)
        self.told.setText(
            tr(
                "A quarter of its band is {quarter}: a tool's error and W may take {part} at most.",
                quarter=quantity(quarter, unit),
                part=percent(part, 1),
            )
        )

    @property
    def one(self) -> RankedTool | None:
        """The tool in front."""
        chosen = self.list.chosen
        return next((s for s in self.found if chosen and s.card.tool.id == chosen[0].id), None)

    def _update_state(self) -> None:
        one = self.one
        on = one is not None and one.usable
        self.button.setEnabled(on)
        self.missing.setText("" if on else self._missing(one))
        self.lend_button.setVisible(on)
        self.button.say(
            tr("Set {number}", number=one.card.tool.number) if one is not None and on else tr("Set this one")
        )

    def _missing(self, one: RankedTool | None) -> str:
        if one is not None:
            return tr("This one cannot be used for it; choose another.")
        return tr("Choose one of the tools first.") if self.found else tr("Type what the joint gets first.")

    def primary(self) -> None:
        """Set the tool in front for this torque."""
        one = self.one
        if one is not None and one.usable:
            fitted, hand = self.adapters.fitted, self._hand
            number, torque = one.card.tool.number, self.torque.text
            self.around.go(Target(PlaceId.SETTING, number=number, torque=torque, fitted=fitted, hand=hand))

    def _lend(self) -> None:
        one = self.one
        if one is not None and one.usable:
            self.around.go(Target(PlaceId.DESK, number=one.card.tool.number))
