"""What the papers and the derivation of a run say of its reference: one object for each kind."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from reckoner.core.decision.verdict import PointResult
from reckoner.core.quantities.printing import fixed, percent, quantity
from reckoner.core.translation import tr
from reckoner.formats.languages import say, written
from reckoner.formats.papers.contents import LeverPicture
from reckoner.shop.facts.judged import ReferenceFacts, head_words
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.runs.state import RunState
from reckoner.shop.setups.gauging import PullFacts
from reckoner.shop.setups.hanging import HungAt, LeverFacts, hung_words, torque_words
from reckoner.shop.setups.inline import InLineFacts, in_line_words
from reckoner.shop.setups.worth import SHARE_WORDS
from reckoner.store.terms import ReferenceKind

Row = tuple[str, str]


@dataclass(frozen=True)
class DerivationLine:
    """One step: what it is, the formula, the formula with values, and the result."""

    what: str
    formula: str
    values: str
    result: str


class Papers:
    """Of a reference with a certificate of its own: a torque meter."""

    def rows(self, run: RunState, reference: ReferenceFacts) -> tuple[Row, ...]:
        """The named lines of the certificate's block about it."""
        lines = [(say("name.number"), reference.number), (say("name.serial"), reference.serial)]
        lines += self._worth(reference)
        if any(reference.correction(series.target) != 1 for series in run.series):
            lines.append((say("name.error"), say("reference.error_off")))
        if head := head_words(run.tool):
            lines.append((say("name.head"), head))
        if reference.error_left:
            lines.append((say("name.error"), say("reference.error_left", why=reference.error_left)))
        return tuple(lines)

    def _worth(self, reference: ReferenceFacts) -> list[Row]:
        if not reference.points:
            return [(say("name.certificate"), say("reference.none"))]
        until = say("reference.until", due=written(reference.due)) if reference.due else ""
        worth = percent(reference.worst_uncertainty, 2)
        paper = ", ".join(words for words in (reference.certificate_number, reference.laboratory, until) if words)
        return [
            (say("name.certificate"), paper),
            (say("name.worth"), say("reference.worth", worth=worth, k=f"{reference.coverage_factor:g}")),
        ]

    def remarks(self, run: RunState) -> tuple[str, ...]:
        """What else has to be said of how it was used."""
        return ()

    def pictures(self, run: RunState) -> tuple[LeverPicture, ...]:
        """How it was set up at each point, where that is drawn."""
        return ()

    def derivation(self, tool: ToolFacts, reference: ReferenceFacts, point: PointResult) -> tuple[DerivationLine, ...]:
        """How its torque at a point came about, where it is worked out."""
        return ()

    def why_unproven(self, reference: ReferenceFacts) -> str:
        """Why it decides nothing, and what would let it."""
        return tr("nobody knows what {number} is worth; it decides once it has a certificate", number=reference.number)


class InLinePapers(Papers):
    """Of a torque meter in line with a stub or with a second meter."""

    def rows(self, run: RunState, reference: ReferenceFacts) -> tuple[Row, ...]:
        line = reference.line or InLineFacts()
        where = "stub" if not line.other else "over" if line.between else "under"
        said = [(say("name.in_line"), say(f"in_line.{where}", other=line.other))]
        if line.recoupling is not None:
            said.append((say("name.recoupling"), f"±{percent(line.recoupling, 2)}"))
        if line.apart is not None:
            said.append(
                (say("name.both"), say("in_line.apart", apart=percent(line.apart, 2, sign=True), other=line.other))
            )
        return (*super().rows(run, reference), *said)

    def derivation(self, tool: ToolFacts, reference: ReferenceFacts, point: PointResult) -> tuple[DerivationLine, ...]:
        line = reference.line
        if line is None or not line.recoupling or not reference.proven:
            return ()
        own = replace(reference, line=None).at(point.target).expanded_uncertainty
        return (
            DerivationLine(
                tr("The reference as it stands, {line}", line=in_line_words(line)),
                "W = √(W_certificate² + (2·b/√3)²)",
                f"√({percent(own, 3)}² + (2·{percent(line.recoupling, 3)}/√3)²)",
                percent(reference.at(point.target).expanded_uncertainty, 3),
            ),
        )


class HungPapers(Papers):
    """Of known weights on the tool's own lever."""

    def rows(self, run: RunState, reference: ReferenceFacts) -> tuple[Row, ...]:
        lever = _lever(reference)
        names = sorted({w.number for at in lever.points for w in at.weights})
        return (
            (say("name.weights"), ", ".join(names)),
            (say("name.gravity"), f"{fixed(lever.gravity, 5)} m/s²"),
        )

    def remarks(self, run: RunState) -> tuple[str, ...]:
        lever = _lever(run.reference)
        return tuple(
            say(
                "remark.disc",
                target=quantity(at.target, run.tool.unit),
                weights=at.words,
                radius=run.tool.own_units.length_words(at.hook),
                torque=torque_words(lever, at, run.tool.unit),
                worth=percent(lever.worth(at), 2),
            )
            for at in (lever.points if lever.disc else ())
        )

    def pictures(self, run: RunState) -> tuple[LeverPicture, ...]:
        lever = _lever(run.reference)
        if lever.disc or lever.grip is None:
            return ()
        tilt = f"{fixed(abs(math.degrees(lever.tilt)), 1)}°"
        off = f" {say('lever.tilt', tilt=tilt)}" if lever.tilt else ""
        return tuple(
            LeverPicture(
                say("lever.title", target=quantity(at.target, run.tool.unit), hung=hung_words(at, run.tool.own_units)),
                lever.grip,
                lever.pivot,
                at.hook,
                (lever.own_centre or None) if lever.own_known else None,
                tuple(w.number for w in at.weights),
                say("lever.makes", torque=torque_words(lever, at, run.tool.unit), worth=percent(lever.worth(at), 2))
                + off,
                run.tool.own_units,
            )
            for at in lever.points
        )

    def derivation(self, tool: ToolFacts, reference: ReferenceFacts, point: PointResult) -> tuple[DerivationLine, ...]:
        lever = _lever(reference)
        at = lever.at(point.target)
        if at is None:
            return ()
        shares = lever.shares(at)
        unsure = "; ".join(f"{SHARE_WORDS[name]} {quantity(share, tool.unit, 3)}" for name, share in shares if share)
        torque = quantity(lever.made(at).at_grip, tool.unit)
        return (
            DerivationLine(tr("What hangs: {words}", words=at.words), *_moment(lever, at, tool), torque),
            DerivationLine(
                tr("What it leaves unsure, u"), "u = √Σ u_i²; W_ref = 2u / T", unsure, percent(lever.worth(at), 3)
            ),
        )

    def why_unproven(self, reference: ReferenceFacts) -> str:
        lever = _lever(reference)
        if not lever.own_known:
            return tr(
                "nobody has weighed the tool and balanced it, and its own weight pulls too; do both, and it decides"
            )
        if not lever.at_the_pin:
            return tr("where its pin is nobody knows, and it hangs off the grip mark; find the pin, and it decides")
        stacks = (stack for at in lever.points for stack in (at.weights, *at.rungs))
        lack = dict.fromkeys(w.number for stack in stacks for w in stack if w.uncertainty is None)
        return tr(
            "how far {list} may be off is not known; weigh what hangs, under References, and it decides",
            list=", ".join(lack),
        )


def _lever(reference: ReferenceFacts | None) -> LeverFacts:
    """Raises TypeError for a reference that hangs nothing."""
    found = reference.set_up if reference is not None else None
    if not isinstance(found, LeverFacts):
        raise TypeError(f"{found!r} is no set-up with weights")
    return found


def _moment(lever: LeverFacts, at: HungAt, tool: ToolFacts) -> tuple[str, str]:
    """The torque of what hangs as a formula, and with its values."""
    mass, hook = fixed(at.mass + lever.hanger, 3), fixed(at.hook, 4)
    g, own = fixed(lever.gravity, 5), f"{fixed(lever.own_mass, 3)} · {fixed(lever.own_centre, 3)}"
    if lever.pivot and lever.grip is not None:
        formula = "T = [m·(d − p) + m_own·(x_own − p)]·g·L/(L − p)"
        p, grip = fixed(lever.pivot, 4), fixed(lever.grip, 4)
        values = (
            f"[{mass} · ({hook} − {p}) + {fixed(lever.own_mass, 3)} · ({fixed(lever.own_centre, 3)} − {p})] · {g} · "
            f"{grip} / ({grip} − {p})"
        )
    elif lever.disc:
        formula, values = "T = m·g·r", f"{mass} · {g} · {hook}"
    elif lever.own_torque is not None:
        formula = "T = m·g·d + T_own"
        values = f"{mass} · {g} · {hook} + {quantity(lever.own_torque, tool.unit, 3)}"
    else:
        formula, values = "T = m·g·d + m_own·g·x_own", f"{mass} · {g} · {hook} + {own} · {g}"
    if lever.tilt:
        formula, values = (
            tr("{formula}, times cos θ", formula=formula),
            tr("({values}) · cos {degrees}°", values=values, degrees=fixed(math.degrees(lever.tilt), 1)),
        )
    return formula, values


class PulledPapers(Papers):
    """Of a force gauge or hanging scale: what it is worth follows from the set-up."""

    def _worth(self, reference: ReferenceFacts) -> list[Row]:
        return []

    def derivation(self, tool: ToolFacts, reference: ReferenceFacts, point: PointResult) -> tuple[DerivationLine, ...]:
        pull = reference.set_up
        if not isinstance(pull, PullFacts):
            raise TypeError(f"{pull!r} is no set-up with a gauge")
        hook, grip, p = fixed(pull.hook, 4), fixed(pull.grip, 4), fixed(pull.pivot, 4)
        pinned = pull.pivot > 0
        force = fixed(pull.force_for(point.budget.mean_reading), 2)
        return (
            DerivationLine(
                tr("A pull of {number}, in the mean", number=pull.gauge.number),
                "T = F·(d − p)·L/(L − p)" if pinned else "T = F·d",
                f"{force} · ({hook} − {p}) · {grip} / ({grip} − {p})" if pinned else f"{force} · {hook}",
                quantity(point.budget.mean_reading, tool.unit),
            ),
            DerivationLine(
                tr("What it leaves unsure"),
                "W_ref = √(W_gauge² + (U_d/(d − p))² + W_square²)",
                tr(
                    "gauge {uncertainty}, length {length} mm",
                    uncertainty=percent(pull.gauge.uncertainty or 0.0, 2),
                    length=fixed(pull.length * 1000, 1),
                ),
                percent(reference.at(point.target).expanded_uncertainty, 3),
            ),
        )


PAPERS: dict[ReferenceKind, Papers] = {
    ReferenceKind.METER: Papers(),
    ReferenceKind.WEIGHTS: HungPapers(),
    ReferenceKind.GAUGE: PulledPapers(),
    ReferenceKind.IN_LINE: InLinePapers(),
}
