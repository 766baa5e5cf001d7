"""A job card as it is made and changed: each field read as one types, the pattern drawn beside."""

from __future__ import annotations

import math
import re

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read, read_plain
from reckoner.core.quantities.printing import enumerated, percent, quantity
from reckoner.core.quantities.units import DEGREE, Kind
from reckoner.core.tightening.jobcard import JobCard, StageTool
from reckoner.core.tightening.jobs import (
    PATTERNS,
    Fasteners,
    JobPlan,
    Layout,
    OverBandRule,
    Pattern,
    in_a_circle,
    in_rows,
    named,
)
from reckoner.core.tightening.setting import BandAim
from reckoner.core.translation import tr
from reckoner.shop.using.cards import PATTERN_WORDS, fasteners_words
from reckoner.shop.using.fitting import read_fitted
from reckoner.ui.layout import column
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.bandentry import AimChips, BandEntry
from reckoner.ui.widgets.entry import words_reader
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.text import label

LAYOUT_WORDS = {Layout.CIRCLE: tr("a circle"), Layout.ROWS: tr("rows"), Layout.LIST: tr("by name")}
LAST, MEASURED, NEW, LOCKS = "last", "measured", "new", "locks"
ALSO = (
    (LAST, tr("a last pass over all")),
    (MEASURED, tr("measure each afterwards")),
    (NEW, tr("new bolts")),
    (LOCKS, tr("a second nut locks each")),
)


def read_fasteners(text: str, layout: Layout) -> Fasteners:
    """What is typed for the fasteners. Raises InputRefused."""
    match layout:
        case Layout.CIRCLE:
            return in_a_circle(_whole(text, "fasteners"))
        case Layout.ROWS:
            parts = text.lower().replace("×", "x").replace("by", "x").split("x")
            if len(parts) != 2:
                raise InputRefused(
                    "fasteners", text, tr('"{text}" are no rows; write such as 2 x 4: two rows of four', text=text)
                )
            return in_rows(_whole(parts[0], "rows"), _whole(parts[1], "columns"))
        case Layout.LIST:
            return named(text.replace(";", ",").split(","))


def _whole(text: str, field: str) -> int:
    value = read_plain(text, 0, 10_000, field=field)
    if value != int(value):
        raise InputRefused(field, text, tr('"{strip}" is not a whole number', strip=text.strip()))
    return int(value)


class CardForm(Form[JobCard]):
    """A card as it stands there."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.number = self.field("number", tr("Number of the card"), words_reader, tr("such as JC-12"))
        self.title = self.field("title", tr("What is tightened"), words_reader, tr("such as tower flange nuts"))
        self.where = self.field("place", tr("Where"), words_reader)
        circle = Layout.CIRCLE.value
        self.layout_ = self.choice(
            "layout", tr("How they stand"), [(o.value, w) for o, w in LAYOUT_WORDS.items()], [circle]
        )
        self.fasteners = self.field(
            "fasteners", tr("Fasteners"), self._fasteners, tr("such as 12; 2 x 4; or names, with commas")
        )
        self.fasteners.line.textEdited.connect(self._stand_as_typed)
        self.pattern = self.choice("pattern", tr("In which order"))
        self.torque = self.take(BandEntry(theme, tr("Each gets")), "torque")
        self.aim = self.take(AimChips(theme), "aim")
        self.reason = self.field("reason", tr("Why there"), words_reader, tr("such as the lock nut adds to it"))
        self.stages = self.field(
            "stages", tr("Stages, in percent or torques"), self._stages, tr("such as 30 %, 70 %, 100 %")
        )
        self.also = self.choice("also", tr("And also"), ALSO, [LAST], several=True)
        self.angle = self.field("angle", tr("Then turn on by an angle"), self._angle, tr("such as 90°; empty for none"))
        self.marks = self.field(
            "marks", tr("Seen by which marks"), words_reader, tr("such as a paint line from nut to flange")
        )
        running = BandEntry(theme, tr("Running torque, its band"), tr("such as 0.5 to 3 N·m; empty: not measured"))
        self.running = self.take(running, "running")
        self.running_tool = self.field(
            "running_tool", tr("Running torque is measured with"), words_reader, tr("its number")
        )
        self.tool = self.field(
            "tool", tr("Tool"), words_reader, tr("number; for other stages such as 1: 0417, 3: 0418")
        )
        self.adapters = self.field(
            "adapters", tr("Adapters on it"), self._adapters, tr("such as 45 mm at 90°; by stage 1: 45 mm; 3: CF-19")
        )
        self.lubricant = self.field("lubricant", tr("Lubricant, as the joint's maker says"), words_reader)
        self.over = self.choice(
            "over", tr("One that goes past its band"), [(o.name, tr(o)) for o in OverBandRule], [OverBandRule.ASK.name]
        )
        self.instructions = self.field("instructions", tr("Where the maker's instructions stand"), words_reader)
        groups = (
            (tr("What"), (self.number, self.title, self.where)),
            (tr("The fasteners"), (self.layout_, self.fasteners, self.pattern)),
            (tr("The torque"), (self.torque, self.aim, self.reason, self.stages)),
            (tr("Also"), (self.also, self.angle, self.marks, self.running, self.running_tool)),
            (tr("With"), (self.tool, self.adapters, self.lubricant)),
            (tr("Past its band"), (self.over, self.instructions)),
        )
        lines = column(gap=1, margin=0)
        for words, widgets in groups:
            lines.addWidget(label(theme, words, Type.LEAD))
            for widget in widgets:
                lines.addWidget(widget)
        lines.addStretch(1)
        self.setLayout(lines)
        self.shown(lambda: self._aimed, self.aim, self.reason)
        self.shown(lambda: bool(self.angle.text.strip()), self.marks)
        self.shown(lambda: len(PATTERNS[self.stand]) > 1, self.pattern)
        self.look()

    @property
    def _aimed(self) -> bool:
        band = self.torque.band
        return band is not None and not band.is_one

    # Reading

    def _stand_as_typed(self, text: str) -> None:
        """What is typed says how they stand: "2 x 4" are rows, names have commas between them."""
        rows = re.fullmatch(r"\s*\d+\s*(x|×|by)\s*\d+\s*", text, re.IGNORECASE)
        stand = Layout.ROWS if rows else Layout.LIST if re.search("[,;]", text) else None
        if stand is not None and stand.value in self.layout_.chips:
            self.layout_.choose(stand.value)

    def _fasteners(self, text: str) -> tuple[Fasteners, str]:
        found = read_fasteners(text, self.stand)
        return found, tr("understood: {fasteners_words}", fasteners_words=fasteners_words(found))

    def _stages(self, text: str) -> tuple[tuple[float, ...], str]:
        from reckoner.formats.jobcard import read_stage  # only when it is wanted

        band = self.torque.band
        wanted = band.aimed(self.aim.aim) if band is not None else 100.0
        shares = tuple(read_stage(part, wanted, None) for part in text.replace(";", ",").split(",") if part.strip())
        words = ", ".join(
            f"{percent(s, 0)}{f' ({quantity(s * wanted, self.torque.unit)})' if band is not None else ''}"
            for s in shares
        )
        return shares, tr("understood: {words}", words=words)

    def _angle(self, text: str) -> tuple[float, str]:
        found = read(text, Kind.ANGLE, default=DEGREE, field="angle")
        return found.si, tr("understood: {si}", si=quantity(found.si, DEGREE))

    def _adapters(self, text: str) -> tuple[dict[int, tuple[str, ...]], str]:
        """What is on the tool: of every stage (under 0), or "1: 45 mm; 3: CF-19" of each by its number."""
        found: dict[int, tuple[str, ...]] = {}
        words = []
        for part in text.split(";"):
            stage, divided, listed = part.partition(":")
            on = tuple(one.strip() for one in (listed if divided else part).split(",") if one.strip())
            if not on:
                continue
            at = _whole(stage, "adapters") if divided else 0
            found[at] = (*found.get(at, ()), *on)
            told = enumerated([read_fitted(one).words if one[:1].isdigit() else one for one in on])
            words.append(tr("stage {at}: {told}", at=at, told=told) if divided else told)
        return found, tr("understood: {list}", list="; ".join(words))

    @property
    def stand(self) -> Layout:
        """How the fasteners stand."""
        return Layout(self.layout_.one or Layout.CIRCLE.value)

    def value(self) -> JobCard:
        """The card as it stands. Raises InputRefused with what is missing or not understood."""
        if not self.fasteners.text.strip() or not self.torque.text.strip():
            raise InputRefused("card", None, tr("Say how many fasteners there are, and what each gets."))
        stand, band = self.fasteners.value(), self.torque.band
        if band is None:
            raise InputRefused("card", None, tr("What each gets is not understood."))
        patterns = PATTERNS[stand.layout]
        chosen = next((p for p in patterns if p.name == self.pattern.one), patterns[0])
        if self.running.text.strip():
            self.running.value()  # what is not understood is said
        on = self.also.on
        plan = JobPlan(
            fasteners=stand,
            band=band,
            aim=self.aim.aim,
            pattern=chosen,
            stages=self.stages.value_or_none() or (1.0,),
            last_pass=LAST in on,
            angle=self.angle.value_or_none(),
            new_bolts=NEW in on,
            locks=LOCKS in on,
            running=self.running.band,
            measured=MEASURED in on,
            over=OverBandRule[self.over.one or OverBandRule.ASK.name],
        )
        return JobCard(
            number=" ".join(self.number.text.split()),
            plan=plan,
            title=self.title.text.strip(),
            place=self.where.text.strip(),
            unit=self.torque.unit,
            reason=self.reason.text.strip(),
            marks=self.marks.text.strip(),
            lubricant=self.lubricant.text.strip(),
            instructions=self.instructions.text.strip(),
            tools=self._tools(len(plan.stages)),
            running_unit=self.running.unit,
            running_tool=self.running_tool.text.strip(),
        )

    def _tools(self, stages: int) -> tuple[StageTool, ...]:
        """One number for all stages, or "1: 0417, 3: 0418"."""
        adapters = self.adapters.value_or_none() or {}
        found = []
        for part in self.tool.text.replace(";", ",").split(","):
            stage, divided, number = part.partition(":")
            if not divided:
                stage, number = "1", part
            if not number.strip():
                continue
            at = _whole(stage, "tool")
            if not 1 <= at <= stages:
                raise InputRefused(
                    "tool", part, tr("there is no stage {at}; the card has {stages}", at=at, stages=stages)
                )
            found.append(StageTool(at - 1, number.strip(), adapters.get(at, adapters.get(0, ()))))
        return tuple(found)

    # Filling

    def show_card(self, card: JobCard | None, number: str = "") -> None:
        """A card to be changed; None for a new one."""
        with self.filling():
            self.clear()
            self.number.line.setText(card.number if card is not None else number)
            self.also.offer(ALSO, [LAST])
            self.over.choose(OverBandRule.ASK.name)
            self.aim.choose(BandAim.MIDDLE.name)
            if card is not None:
                self._fill(card)

    def _fill(self, card: JobCard) -> None:
        plan, unit = card.plan, card.unit
        self.title.line.setText(card.title)
        self.where.line.setText(card.place)
        self.layout_.choose(plan.fasteners.layout.value)
        match plan.fasteners.layout:
            case Layout.CIRCLE:
                self.fasteners.line.setText(str(plan.fasteners.count))
            case Layout.ROWS:
                self.fasteners.line.setText(f"{plan.fasteners.rows} x {plan.fasteners.columns}")
            case Layout.LIST:
                self.fasteners.line.setText(", ".join(plan.fasteners.names))
        self._offer_patterns(plan.pattern)
        self.torque.show_band(plan.band, unit)
        self.aim.choose(plan.aim.name)
        self.reason.line.setText(card.reason)
        self.stages.line.setText(", ".join(f"{stage * 100:.10g} %" for stage in plan.stages))
        flags = ((LAST, plan.last_pass), (MEASURED, plan.measured), (NEW, plan.new_bolts), (LOCKS, plan.locks))
        self.also.offer(ALSO, [key for key, on in flags if on])
        self.angle.line.setText(f"{math.degrees(plan.angle):.10g}°" if plan.angle is not None else "")
        self.marks.line.setText(card.marks)
        self.running.show_band(plan.running, card.running_unit)
        self.running_tool.line.setText(card.running_tool)
        self.lubricant.line.setText(card.lubricant)
        self.over.choose(plan.over.name)
        self.instructions.line.setText(card.instructions)
        one = len(card.tools) == 1 and card.tools[0].stage == 0
        self.tool.line.setText(
            card.tools[0].number if one else ", ".join(f"{t.stage + 1}: {t.number}" for t in card.tools)
        )
        alike = len({t.adapters for t in card.tools}) <= 1
        on = [
            ", ".join(t.adapters) if alike else f"{t.stage + 1}: {', '.join(t.adapters)}"
            for t in card.tools
            if t.adapters
        ]
        self.adapters.line.setText("; ".join(dict.fromkeys(on)))

    def _offer_patterns(self, on: Pattern | None = None) -> None:
        patterns = PATTERNS[self.stand]
        now = on or next((p for p in patterns if p.name == self.pattern.one), patterns[0])
        self.pattern.offer([(p.name, PATTERN_WORDS[p]) for p in patterns], [now.name])

    def update_state(self) -> None:
        """What depends on how the fasteners stand, and on what each gets."""
        self._offer_patterns()
        for field in (self.fasteners, self.stages):
            field.refresh()
        try:
            self.value()
        except InputRefused as refusal:
            self.mark(refusal)
