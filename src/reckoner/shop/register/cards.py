"""Tools as every list shows them: the tool, where it stands, and the run it is in.

The one tool that is meant when somebody names it by its number, its serial, or the end of its number.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from reckoner.core.decision.states import State
from reckoner.core.history.due import Due, DueReason
from reckoner.core.quantities.printing import span
from reckoner.core.translation import tr
from reckoner.shop.events.standing import Condition, Loan, Standing, kept
from reckoner.shop.facts.tool import MERGED, ToolFacts, facts_from
from reckoner.shop.register.finding import ListQuestion, plain
from reckoner.store.reader import Reader, contains


@dataclass(frozen=True)
class ToolCard:
    """A tool as every list shows it; ``run_id`` of the run it is in."""

    tool: ToolFacts
    standing: Standing
    run_id: int | None = None

    @property
    def state(self) -> State | None:
        """Of its last result."""
        return self.standing.state

    @property
    def held(self) -> str:
        """Why it is held, or kept as evidence; empty when it may be used."""
        return self.standing.kept or self.standing.held

    @property
    def loan(self) -> Loan | None:
        return self.standing.loan

    @property
    def restricted(self) -> tuple[float, float] | None:
        return self.standing.restricted

    @property
    def retired(self) -> bool:
        return self.standing.retired

    @property
    def range_words(self) -> str:
        """Its range, or the part to which it is restricted: "only 120–200 N·m"."""
        if self.restricted is None:
            return self.tool.range_text
        return tr("only {restricted}", restricted=span(*self.restricted, self.tool.unit))

    def due(self, today: date) -> Due:
        """Its due date; today for one never tested."""
        return self.standing.due or Due(today, DueReason.NEVER_TESTED)

    def days_left(self, today: date) -> int:
        return self.due(today).days_left(today)

    def foremost(self, today: date) -> Condition:
        """The condition that its tag tells: any but that it is lent, which is told beside it."""
        return next(c for c in self.standing.conditions(today) if c is not Condition.LENT)

    def stopped(self, today: date) -> bool:
        """Whether what its tag tells keeps it from being used: held, retired or overdue."""
        return bool(self.held) or self.retired or self.foremost(today) is Condition.OVERDUE

    def due_words(self, today: date) -> str:
        """What its tag says: "12 d", "overdue 6 d", "new"; "retired", "evidence", "held" and "away" win."""
        left = self.days_left(today)
        match first := self.foremost(today):
            case Condition.HELD if self.standing.corrected(today):
                return tr("corrected")
            case Condition.RETIRED | Condition.HELD | Condition.AWAY | Condition.NEW:
                return tr(first)
            case Condition.EVIDENCE:
                return tr("evidence")
            case Condition.OVERDUE:
                return tr("overdue {value} d", value=-left)
            case _:
                return tr("today") if left == 0 else tr("{left} d", left=left)


FACTS = (
    """
SELECT t.id, t.number, t.serial, t.place, t.owner, t.rule_set, t.interval_months, t.cycles_per_year, t.model_id,
  m.maker, m.name, m.type, m.class AS class_, m.mechanism, m.minimum, m.maximum, m.unit, m.drive, m.directions, m.approach,
  m.storage, m.adjust_where, m.adjust_raises, m.adjust_lock, m.adjust_rate, m.adjust_most_turns, m.adjust_relieve,
  m.adjust_changes, m.second_unit, m.second_resolution, m.head_length, m.corrects_adapter, m.main_graduation,
"""
    + MERGED
    + """,
  s.state, s.last_run, s.due_on, s.due_reason, s.held, s.check_event_id, s.restricted_low, s.restricted_high,
  s.lent_to, s.lent_on, s.back_by, s.away_at, s.away_since, s.away_until,
  s.kept, s.retired, s.cycles, s.interval_ends, s.corrected_until, r.run_id
FROM ({page}) p JOIN tool t ON t.id = p.tool_id JOIN tool_model m ON m.id = t.model_id
  JOIN tool_standing s ON s.tool_id = t.id LEFT JOIN open_run r ON r.tool_id = t.id
ORDER BY {order}
"""
)
"""All that a card shows, of the tools that a page names."""


def cards_of(reader: Reader, page: str, order: str, **values: object) -> tuple[ToolCard, ...]:
    """The cards of the tools that the query ``page`` finds as ``tool_id``, in its ``order`` over its columns ``p``."""
    rows = reader.rows(FACTS.format(page=page, order=order), **values)
    return tuple(ToolCard(facts_from(row, row), kept(row), row.run_id) for row in rows)


def cards_at(reader: Reader, tool_ids: Sequence[int]) -> tuple[ToolCard, ...]:
    """The cards of some tools, by number; a page of them at most."""
    if not tool_ids:
        return ()
    names = ", ".join(f":t{i}" for i in range(len(tool_ids)))
    page = f"SELECT l.tool_id, l.number FROM tool_listing l WHERE l.tool_id IN ({names})"
    return cards_of(reader, page, "p.number", **{f"t{i}": tool_id for i, tool_id in enumerate(tool_ids)})


def card(reader: Reader, tool_id: int) -> ToolCard:
    """One tool's card."""
    return cards_of(reader, "SELECT :tool AS tool_id", "p.tool_id", tool=tool_id)[0]


class ToolOrder(StrEnum):
    """What a list of tools is sorted by, then by number; the value is the column of tool_listing."""

    NUMBER = "number"
    KIND = "kind"
    FULL_SCALE = "full_scale"
    PLACE = "place"
    DUE = "due_on"


def where_and_order(found: ListQuestion, order: ToolOrder, *, down: bool = False) -> str:
    """The end of a statement over ``tool_listing l``: what a question finds, sorted, ``:size`` rows from ``:start`` on."""
    return f"{found.where} ORDER BY {_sorted(order, 'l', down=down)} LIMIT :size OFFSET :start"


def _sorted(order: ToolOrder, table: str, *, down: bool) -> str:
    way = " DESC" if down else ""
    columns = dict.fromkeys((order.value, ToolOrder.NUMBER.value))
    return ", ".join(f"{table}.{column}{way}" for column in columns)


def cards(
    reader: Reader,
    start: int = 0,
    size: int = 100,
    found: ListQuestion = ListQuestion(),  # noqa: B008
    order: ToolOrder = ToolOrder.NUMBER,
    *,
    down: bool = False,
) -> tuple[ToolCard, ...]:
    """The tools from row ``start`` of those that a question finds, in an ``order``, ``down`` from its end."""
    columns = ", ".join(f"l.{column}" for column in dict.fromkeys(("tool_id", "number", order.value)))
    page = f"SELECT {columns} FROM tool_listing l WHERE {where_and_order(found, order, down=down)}"
    return cards_of(reader, page, _sorted(order, "p", down=down), size=size, start=start, **found.values)


def count(reader: Reader, found: ListQuestion = ListQuestion()) -> int:  # noqa: B008
    """How many tools a question finds."""
    return int(reader.value(f"SELECT count(*) FROM tool_listing l WHERE {found.where}", **found.values))


def row_of(reader: Reader, tool_id: int, found: ListQuestion = ListQuestion()) -> int | None:  # noqa: B008
    """At which row of those that a question finds a tool stands; None when it is not among them."""
    number = reader.value(
        f"SELECT l.number FROM tool_listing l WHERE l.tool_id = :tool AND {found.where}", tool=tool_id, **found.values
    )
    if number is None:
        return None
    before = f"SELECT count(*) FROM tool_listing l WHERE l.number < :number AND {found.where}"
    return int(reader.value(before, number=number, **found.values))


def is_called(reader: Reader, named: str) -> bool:
    """Whether the number or serial of any tool holds what was typed: it is then not the number of a new one."""
    asked = f"{contains('l.plain_number', 'named')} OR {contains('l.plain_serial', 'named')}"
    return bool(reader.value(f"SELECT EXISTS (SELECT 1 FROM tool_listing l WHERE {asked})", named=plain(named)))


def tool_called(reader: Reader, named: str) -> ToolCard | None:
    """The one tool that is so called: by its number or serial in full, or by the end of its number."""
    wanted = plain(named)
    if not wanted:
        return None
    exact = ListQuestion("(l.plain_number = :exact OR l.plain_serial = :exact)", {"exact": wanted})
    ends = ListQuestion(contains("l.plain_number", "exact"), {"exact": wanted})
    for asked in (exact, ends):
        found = cards(reader, 0, 50, asked) if asked is ends else cards(reader, 0, 2, asked)
        if asked is ends:
            found = tuple(c for c in found if plain(c.tool.number).endswith(wanted))
            if len(found) != 1 or count(reader, asked) > 50:
                return None
        if len(found) == 1:
            return found[0]
    return None
