"""A spreadsheet of tools: what each row says. What columns mean stands in ``columns``; ``bringing`` brings the good ones
in."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.errors import InputRefused
from reckoner.core.history.due import add_months
from reckoner.core.quantities.days import DayOrder, day_orders, day_words, month_said, read_day
from reckoner.core.quantities.entry import Quantity, read, read_plain, read_range
from reckoner.core.quantities.printing import percent, span
from reckoner.core.quantities.units import N_M, PERCENT, Kind, Unit, unit_named
from reckoner.core.translation import tr
from reckoner.formats.tables import FORMULA, Table
from reckoner.shop.facts.shapes import SHAPES, Shape
from reckoner.shop.register.adding import ModelDraft
from reckoner.shop.register.columns import (
    AS_SCREWDRIVER,
    DRIVERS,
    FAILED,
    GONE,
    IN_USE,
    LOCKED,
    LOOKS,
    PASSED,
    UNKNOWN,
    ColumnMeaning,
    unit_in,
)
from reckoner.shop.register.fields import DRIVES
from reckoner.store.schema import Tool, ToolModel


@dataclass(frozen=True)
class BroughtTool:
    """What a row says of a tool: its model, which is in the register already where it has a ``model_id``, and what is
    known of its last test. ``locked`` is the word for which it is not to be used."""

    number: str
    model: ModelDraft
    serial: str = ""
    place: str = ""
    owner: str = ""
    first_used: date | None = None
    months: int | None = None
    resolution: float | None = None
    last: date | None = None
    passed: bool | None = None
    due: date | None = None
    limit: float | None = None
    remarks: str = ""
    model_id: int | None = None
    locked: str = ""

    @property
    def words(self) -> str:
        """What was understood, in a line."""
        model = self.model
        parts = [
            self.number, f"{model.maker} {model.name}".strip(), str(model.shape),
            span(model.minimum or model.maximum, model.maximum, model.unit), model.drive, self.place,
        ]  # fmt: skip
        if self.last is not None:
            result = {True: tr(", passed"), False: tr(", failed"), None: ""}[self.passed]
            parts.append(tr("last tested {last}{result}", last=day_words(self.last), result=result))
        if self.due is not None:
            parts.append(tr("due {due}", due=day_words(self.due)))
        if self.limit is not None:
            parts.append(f"±{percent(self.limit, 2)}")
        parts += [f"“{self.locked}”" if self.locked else "", self.remarks]
        return " · ".join(part for part in parts if part)


@dataclass(frozen=True)
class ReadRow:
    """A row of the spreadsheet: its line and cells, and the tool that it says; or ``faults``, what is wrong and with what."""

    line: int
    cells: tuple[str, ...]
    tool: BroughtTool | None
    faults: tuple[str, ...] = ()


def understood(
    session: Session,
    table: Table,
    columns: Sequence[ColumnMeaning],
    usual: Shape = Shape.CLICK_WRENCH,
    unit: Unit = N_M,
    order: DayOrder | None = None,
) -> tuple[ReadRow, ...]:
    """Each row as it was understood; ``usual`` is the kind of a tool whose row does not say, ``unit`` that of bare
    torques, ``order`` that of days with slashes where their column does not tell (``asks_order``)."""
    taken = {n.casefold() for n in session.scalars(select(Tool.number).where(Tool.removed.is_(False)))}
    units: dict[ColumnMeaning, Unit | None] = {
        m: unit_in(table.columns[i]) for i, m in enumerate(columns) if m is not ColumnMeaning.NOTHING
    }
    headings: dict[ColumnMeaning, str] = {
        m: table.columns[i] for i, m in enumerate(columns) if m is not ColumnMeaning.NOTHING
    }
    orders = {m: only if (only := _order(table, i)) is not None else order for i, m in enumerate(columns) if m in DAYS}
    rows, seen = [], dict[str, int]()
    named: dict[tuple[str, str], tuple[int, ModelDraft]] = {}
    for line, cells in table.rows:
        read_row = _SheetRow(cells, columns, units, usual, unit, headings, orders).read(line)
        if read_row.tool is not None:
            number = read_row.tool.number.casefold()
            fault = ""
            if number in taken:
                fault = tr("there is already a tool {number} in the register", number=read_row.tool.number)
            elif number in seen:
                fault = tr("line {seen} has the number {number} too", seen=seen[number], number=read_row.tool.number)
            seen.setdefault(number, line)
            tool, other = _of_its_model(session, read_row.tool, line, named)
            read_row, fault = replace(read_row, tool=tool), fault or other
            if fault:
                read_row = replace(read_row, tool=None, faults=(fault,))
        rows.append(read_row)
    return tuple(rows)


DAYS = (ColumnMeaning.LAST, ColumnMeaning.DUE, ColumnMeaning.FIRST_USED)


def _order(table: Table, place: int) -> DayOrder | None:
    """In which order the days of a column are written, as far as they tell."""
    found = day_orders(cells[place] for _line, cells in table.rows)
    return next(iter(found)) if len(found) == 1 else None


def asks_order(table: Table, columns: Sequence[ColumnMeaning]) -> bool:
    """Whether days stand there that can be read in two ways, and nothing in their column says which."""
    return any(
        m in DAYS
        and _order(table, i) is None
        and any(re.match(r"\d{1,2}[/-]\d{1,2}[/-]\d{4}", cells[i]) for _line, cells in table.rows)
        for i, m in enumerate(columns)
    )


def _of_its_model(
    session: Session, tool: BroughtTool, line: int, named: dict[tuple[str, str], tuple[int, ModelDraft]]
) -> tuple[BroughtTool, str]:
    """The tool with the model of that name as the register or an earlier line has it; or why it cannot be of it."""
    model = tool.model
    if not model.name:
        return tool, ""
    key = (model.maker, model.name)
    words = f"{model.maker} {model.name}".strip()
    there = session.scalars(
        select(ToolModel).where(
            ToolModel.maker == model.maker, ToolModel.name == model.name, ToolModel.removed.is_(False)
        )
    ).first()
    if there is not None:
        same = abs(there.maximum - model.maximum) <= SAME * there.maximum
        reach = span(there.minimum or there.maximum, there.maximum, unit_named(there.unit, Kind.TORQUE))
        return replace(tool, model_id=there.id), "" if same else tr(
            "model: {words} is in the register with {reach}", words=words, reach=reach
        )
    first, known = named.setdefault(key, (line, model))
    if abs(known.maximum - model.maximum) > SAME * known.maximum:
        reach = span(known.minimum or known.maximum, known.maximum, known.unit)
        return tool, tr("model: line {first} says that {words} has {reach}", first=first, words=words, reach=reach)
    return replace(tool, model=known), ""


SAME = 1e-6
"""Full scales are the same within this fraction of them."""


class _SheetRow:
    """One row being read: each fault is noted, and reading goes on to the next cell."""

    def __init__(
        self,
        cells: tuple[str, ...],
        columns: Sequence[ColumnMeaning],
        units: Mapping[ColumnMeaning, Unit | None],
        usual: Shape,
        unit: Unit,
        headings: Mapping[ColumnMeaning, str],
        orders: Mapping[ColumnMeaning, DayOrder | None],
    ) -> None:
        self._headings, self._orders = headings, orders
        self._cells, self._units, self._usual, self._unit = cells, units, usual, unit
        self._at: dict[ColumnMeaning, int] = {m: i for i, m in enumerate(columns) if m is not ColumnMeaning.NOTHING}
        self._faults: list[str] = []

    def read(self, line: int) -> ReadRow:
        tool = self._tool()
        return ReadRow(line, self._cells, None if self._faults else tool, tuple(self._faults))

    def _text(self, meaning: ColumnMeaning) -> str:
        place = self._at.get(meaning)
        text = " ".join(self._cells[place].split()) if place is not None and place < len(self._cells) else ""
        if text == FORMULA or text.startswith("="):
            self._faults.append(
                tr("{meaning}: the cell is {formula}; write its value", meaning=meaning, formula=FORMULA)
            )
            return ""
        return "" if text.casefold() in UNKNOWN else text

    def _tool(self) -> BroughtTool | None:
        number = self._text(ColumnMeaning.NUMBER)
        if not number and ColumnMeaning.NUMBER in self._at:
            self._faults.append(tr("number: the cell is empty"))
        elif not number:
            self._faults.append(tr("number: no column says it; choose the one that does"))
        shape = self._shape()
        ends = self._ends(shape)
        last, due = self._day(ColumnMeaning.LAST), self._day(ColumnMeaning.DUE)
        if last is not None and due is not None and due < last:
            self._faults.append(
                tr("due: {due} is before the last test on {last}", due=day_words(due), last=day_words(last))
            )
        months = self._months()
        if due is None and last is not None:
            due = add_months(last, months or 12)
        if ends is None:
            return None
        low, high, unit = ends
        model = ModelDraft(
            shape, None if SHAPES[shape].fixed or low >= high else low, high, unit, self._drive(),
            self._text(ColumnMeaning.MAKER), self._text(ColumnMeaning.MODEL),
        )  # fmt: skip
        return BroughtTool(
            number, model, self._text(ColumnMeaning.SERIAL), self._text(ColumnMeaning.PLACE), self._text(ColumnMeaning.OWNER),
            self._day(ColumnMeaning.FIRST_USED), months, self._resolution(unit, high), last, self._passed(), due,
            self._limit(), self._remarks(), locked=self._locked(),
        )  # fmt: skip

    def _shape(self) -> Shape:
        words = f"{self._text(ColumnMeaning.LOOK)} {self._text(ColumnMeaning.MODEL)}".casefold()
        found = next((shape for said, shape in LOOKS if re.search(rf"\b{said}", words)), None)
        if any(word in words for word in DRIVERS):
            return AS_SCREWDRIVER.get(found or Shape.CLICK_WRENCH, Shape.SCREWDRIVER)
        return found or self._usual

    def _bare(self, *meanings: ColumnMeaning) -> Unit:
        """The unit of a number without one: its column's, the row's, or the usual one."""
        for meaning in meanings:
            unit = self._units.get(meaning)
            if unit is not None:
                return unit
        said = self._text(ColumnMeaning.UNIT)
        if said:
            try:
                return unit_named(said, Kind.TORQUE)
            except InputRefused as refusal:
                self._faults.append(tr("unit: {reason}", reason=refusal.reason))
        return self._unit

    def _ends(self, shape: Shape) -> tuple[float, float, Unit] | None:
        """The range in N·m and the unit of its scale."""
        text, low, high = (
            self._text(ColumnMeaning.RANGE),
            self._text(ColumnMeaning.MINIMUM),
            self._text(ColumnMeaning.MAXIMUM),
        )
        if not high and (match := UP_TO.match(text)) is not None:
            high = text[match.end() :]
        try:
            if high:
                top = read(
                    high,
                    Kind.TORQUE,
                    default=self._bare(ColumnMeaning.MAXIMUM, ColumnMeaning.MINIMUM),
                    field=tr("full scale"),
                )
                bottom = (
                    read(low, Kind.TORQUE, default=self._units.get(ColumnMeaning.MINIMUM) or top.unit) if low else None
                )
                if bottom is not None and bottom.si == 0:  # a scale that begins at nothing says no smallest torque
                    bottom = read(repr(LEAST_SHARE * top.unit.from_si(top.si)), Kind.TORQUE, default=top.unit)
                if bottom is not None and bottom.si >= top.si and not SHAPES[shape].fixed:
                    raise InputRefused(
                        "range", low, tr("it stands upside down: {low} is not below {high}", low=low, high=high)
                    )
                ends = (bottom.si if bottom is not None else top.si, top.si, top.unit)
            elif text:
                first, last = self._range(text)
                ends = (first.si or LEAST_SHARE * last.si, last.si, last.unit)
            else:
                raise InputRefused("range", "", tr("neither a range nor a full scale is there"))
            if ends[1] <= 0:
                raise InputRefused("range", text, tr("its full scale has to be above 0"))
            return ends
        except InputRefused as refusal:
            self._faults.append(tr("range: {reason}", reason=refusal.reason))
            return None

    def _range(self, text: str) -> tuple[Quantity, Quantity]:
        """The range in a cell; of a tool with two scales the first, where the second says the same."""
        bare, two = self._bare(ColumnMeaning.RANGE), TWO_SCALES.fullmatch(text)
        if two is None:
            return read_range(text, default=bare)
        first, second = read_range(two[1], default=bare), read_range(two[2])
        if any(abs(one.si - other.si) > ROUNDED * one.si for one, other in zip(first, second, strict=True)):
            raise InputRefused("range", text, tr('"{text}" are two ranges that differ; write one', text=text))
        return first

    def _resolution(self, unit: Unit, high: float) -> float | None:
        text = self._text(ColumnMeaning.RESOLUTION)
        if not text:
            return None
        try:
            found = read(
                text, Kind.TORQUE, default=self._units.get(ColumnMeaning.RESOLUTION) or unit, field="graduation"
            ).si
            if not 0 < found <= 0.2 * high:
                raise InputRefused("graduation", text, tr("{text} cannot be the graduation of this range", text=text))
            return found
        except InputRefused as refusal:
            self._faults.append(tr("graduation: {reason}", reason=refusal.reason))
            return None

    def _day(self, meaning: ColumnMeaning) -> date | None:
        text = self._text(meaning)
        if not text:
            return None
        try:
            day = text.split(" ")[0] if re.match(r"\d{4}-\d\d-\d\d ", text) else text
            return read_day(day, order=self._orders.get(meaning))
        except InputRefused as refusal:
            month = month_said(text)
            if month is None:
                self._faults.append(f"{meaning}: {refusal.reason}")
            elif meaning is ColumnMeaning.DUE:
                return add_months(month, 1) - timedelta(days=1)
            return month

    def _months(self) -> int | None:
        text = self._text(ColumnMeaning.INTERVAL)
        match = re.fullmatch(r"(\d+(?:[.,]\d+)?)\s*(.*)", text)
        if not text:
            return None
        try:
            if match is None:
                raise InputRefused("interval", text, tr('"{text}" is not a number of months', text=text))
            heading = self._headings.get(ColumnMeaning.INTERVAL, "").casefold()
            unit = match[2].casefold() or next((u for u in UNITS_OF_TIME if u in heading), "m")
            value = read_plain(match[1], 0.1, 5000, field="interval") * _months_in(unit)
            if unit[:1] in ("d", "t", "w"):
                value = max(1, round(value))
            if value != int(value) or not 1 <= value <= 120:
                raise InputRefused("interval", text, tr('"{text}" is not a number of months from 1 to 120', text=text))
            return int(value)
        except InputRefused as refusal:
            self._faults.append(tr("interval: {reason}", reason=refusal.reason))
            return None

    def _limit(self) -> float | None:
        text = self._text(ColumnMeaning.LIMIT).lstrip("±+ ").replace("+/-", "").strip()
        if not text:
            return None
        try:
            limit = read(text, Kind.RATIO, default=PERCENT, field="limit").si
            if not 0 < limit <= 0.25:
                raise InputRefused("limit", text, tr("{text} cannot be the limit of a torque tool", text=text))
            return limit
        except InputRefused as refusal:
            self._faults.append(tr("limit: {reason}", reason=refusal.reason))
            return None

    def _remarks(self) -> str:
        named, said = self._text(ColumnMeaning.CLASS), self._text(ColumnMeaning.RESULT)
        understood = said.casefold() in (*PASSED, *FAILED, *LOCKED, *IN_USE)
        parts = (
            tr("class {named}", named=named) if named else "",
            "" if understood else said,
            self._text(ColumnMeaning.REMARKS),
        )
        return "; ".join(words for words in parts if words)

    def _passed(self) -> bool | None:
        said = self._text(ColumnMeaning.RESULT)
        text = said.casefold()
        if text in GONE:
            self._faults.append(tr('last result: "{said}", so it is not brought in', said=said))
        return True if text in PASSED else False if text in FAILED else None

    def _locked(self) -> str:
        said = self._text(ColumnMeaning.RESULT)
        return said if said.casefold() in LOCKED else ""

    def _drive(self) -> str:
        """What its column says, or where there is none, its description."""
        found = None if ColumnMeaning.DRIVE in self._at else DRIVE_SIZE.search(self._text(ColumnMeaning.LOOK))
        if found is None:
            return self._text(ColumnMeaning.DRIVE)
        size = f"{FRACTIONS.get(found[1], found[1])} in"
        return size if size in DRIVES else ""


DRIVE_SIZE = re.compile(r"(?<![\d/])([13]/[248]|1)\s*(?:\"|″|''|in\b|inch|zoll)", re.IGNORECASE)
FRACTIONS = {"1/4": "¼", "3/8": "⅜", "1/2": "½", "3/4": "¾"}

TWO_SCALES = re.compile(r"(.*\d.*[^\W\d_])\.?\s*[/(|;]\s*(\d.*?)\)?")
"""A range with its unit, and after it another one."""

ROUNDED = 0.15
"""How much of a range its second scale may differ, for each is marked in round figures."""

UP_TO = re.compile(r"(?:up to|bis(?: zu)?|max\.?|jusqu'à|fino a|hasta)\s+(?=\d)", re.IGNORECASE)
"""What stands before a full scale where nothing is said of the smallest torque."""


LEAST_SHARE = 0.2
"""Of the full scale: where the smallest torque is said to be 0 (ISO 6789-1:2017, 5.1.3: tools are tested from 20 % up)."""

UNITS_OF_TIME = ("tag", "day", "jour", "giorn", "week", "woche", "jahr", "year", "ans", "monat", "month")


def _months_in(unit: str) -> float:
    """How many months such a unit of time is; a month where it is none."""
    match unit[:1]:
        case "y" | "j" | "a":
            return 12.0
        case "d" | "t" | "g":
            return 12 / 365.25
        case "w":
            return 84 / 365.25
        case _:
            return 1.0
