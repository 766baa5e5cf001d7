"""Send, test here, or replace: each model's yearly cost by the owner's own figures."""

from __future__ import annotations

from dataclasses import dataclass

from reckoner.core.history.costs import CostFigures, Yearly, yearly
from reckoner.core.quantities.printing import fixed, percent
from reckoner.core.translation import tr
from reckoner.store.reader import Reader


@dataclass(frozen=True)
class Upkeep:
    """A model: its ways with their costs, ``tools`` of it, and what was reckoned with (``told``)."""

    model_id: int
    model: str
    tools: int
    figures: CostFigures
    ways: tuple[Yearly, ...]
    currency: str
    told: str

    @property
    def cheapest(self) -> Yearly | None:
        """The way that costs least, of those that are known."""
        known = [way for way in self.ways if way.cost is not None]
        return min(known, key=lambda way: way.cost or 0.0) if known else None


_MODELS = """
SELECT m.id, m.maker, m.name, m.fee, m.freight, m.days_away, m.price, m.bench_minutes,
  (SELECT count(*) FROM tool t WHERE t.model_id = m.id AND NOT t.removed) AS tools
FROM tool_model m WHERE NOT m.removed ORDER BY m.maker, m.name
"""

_RUNS = """
SELECT t.model_id, count(DISTINCT g.id) AS runs,
  count(DISTINCT CASE WHEN p.state IN ('outside', 'outside-near') THEN g.id END) AS failed
FROM signature g JOIN run r ON r.id = g.run_id JOIN tool t ON t.id = r.tool_id
JOIN point_result p ON p.signature_id = g.id JOIN series s ON s.id = p.series_id
WHERE r.kind = 'full' AND s.phase = 'found' AND p.state NOT IN ('undecided', 'compared') GROUP BY t.model_id
"""

_MONTHS = """
SELECT t.model_id, avg(COALESCE(t.interval_months, 12)) AS months FROM tool t WHERE NOT t.removed GROUP BY t.model_id
"""


def upkeep(reader: Reader) -> tuple[Upkeep, ...]:
    """Every model that has tools."""
    shop = reader.row("SELECT currency, hour_cost FROM shop ORDER BY id LIMIT 1")
    runs = {row.model_id: row for row in reader.rows(_RUNS)}
    months = {row.model_id: row.months for row in reader.rows(_MONTHS)}
    found = []
    for row in reader.rows(_MODELS):
        if not row.tools:
            continue
        tried = runs.get(row.id)
        failing = tried.failed / tried.runs if tried is not None and tried.runs else 0.0
        figures = CostFigures(
            fee=row.fee,
            freight=row.freight,
            days_away=row.days_away,
            price=row.price,
            minutes=row.bench_minutes,
            hour=shop.hour_cost if shop is not None else None,
            months=months.get(row.id, 12.0),
            failing=failing,
        )
        told = tr("every {months} months", months=fixed(figures.months, 0))
        if tried is not None and tried.runs:
            told += tr(
                "; {failed} of {runs} full runs here found it outside ({failing})",
                failed=tried.failed,
                runs=tried.runs,
                failing=percent(failing, 0),
            )
        name = f"{row.maker} {row.name}".strip()
        currency = shop.currency if shop is not None else ""
        found.append(Upkeep(row.id, name, row.tools, figures, yearly(figures), currency, told))
    return tuple(found)


def money(amount: float, currency: str) -> str:
    """An amount as it is told."""
    words = fixed(amount, 0 if amount >= 100 else 2)
    return f"{words}\u202f{currency}" if currency else words
