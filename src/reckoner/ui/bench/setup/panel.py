"""Set up: the reference, the room, the reference's zero and the tool's own, in that order."""

from __future__ import annotations

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QButtonGroup, QWidget

from reckoner.core.quantities.printing import number, percent, quantity, span
from reckoner.core.quantities.units import N_M
from reckoner.core.reference.plan import HungWish
from reckoner.core.translation import tr
from reckoner.meters.protocol import RoomReport
from reckoner.shop.procedure import ReferenceCandidate
from reckoner.shop.procedures import PROCEDURES
from reckoner.shop.procedures.choosing import candidates
from reckoner.shop.runs import setting_up
from reckoner.shop.runs.loading import room_fits
from reckoner.shop.runs.needs import Need
from reckoner.shop.runs.records import Step
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import needs_pointer, wants
from reckoner.shop.setups.equipment import Equipment, means
from reckoner.store.terms import ReferenceKind, ZeroMoment
from reckoner.ui.bench.meter.toollink import link_name
from reckoner.ui.bench.panel import Action, BenchAccess, Panel
from reckoner.ui.bench.setup.otherways import OtherWays, candidate_worth, reference_words
from reckoner.ui.bench.setup.room import RoomForm, leave_room_unmeasured, take_room, take_zero
from reckoner.ui.layout import column, empty, row, scrolling, surface
from reckoner.ui.register.linking import Linking
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.cautions import Cautions
from reckoner.ui.widgets.choice import ChoiceRow
from reckoner.ui.widgets.entry import EntryField, numbers_of, torque_reader, words_reader
from reckoner.ui.widgets.text import label, set_tone
from reckoner.ui.work import both, call


def room_decides(run: RunState) -> bool:
    """Whether a verdict hangs on the room: a shop check has none, and other kinds of run ask nothing of it."""
    return run.policy.renews and (run.reference is None or run.reference.proven)


def unmeasured_costs(run: RunState) -> str:
    """What it costs not to measure the room."""
    if not room_decides(run):
        what = tr("a shop check") if run.policy.renews else tr("a {kind}", kind=run.policy.words.lower())
        return tr("{what} loses nothing by it", what=what)
    title = run.rules.title
    return tr("then the run decides nothing by {title}: it is told in numbers, without a verdict", title=title)


MOST_UNSUITABLE = 4
"""Shown at once where none suits."""


class SetUpPanel(Panel):
    def __init__(self, desk: BenchAccess) -> None:
        super().__init__(desk)
        self._run: RunState | None = None
        self._wish: HungWish | None = None
        self.candidates: tuple[ReferenceCandidate, ...] = ()
        self._reference = self._build_reference()
        self._room = self._build_room()
        self._zero = self._build_zero()
        self._pointer = self._build_pointer()
        self.cautions = Cautions(self.theme, PROCEDURES[ReferenceKind.METER].cautions)
        inner = QWidget()
        inner.setLayout(column(self._reference, self._room, self._zero, self._pointer, 1, gap=2))
        area = scrolling(inner)
        layout = column(area, self.cautions, gap=2)
        layout.setStretchFactor(area, 1)
        self.setLayout(layout)

    def _build_room(self) -> QWidget:
        self.room = RoomForm(self.theme)
        self.room.entered.connect(self._act)
        self.room.unmeasured.connect(lambda: leave_room_unmeasured(self.desk, self._run))
        self.room.changed.connect(self.desk.offer)
        self._room_done = label(self.theme, "", Type.LEAD)
        return surface(
            column(
                row(label(self.theme, tr("The room"), Type.TITLE), 1, self._room_done),
                self.room,
                gap=1,
                margin=3,
            )
        )

    def _build_reference(self) -> QWidget:
        self._choices, self._unsuitable = column(gap=1), column(gap=1)
        self._unsuitable_rows = QWidget()
        self._unsuitable_rows.setLayout(self._unsuitable)
        self._others = button(self.theme, "", self._unfold, "link")
        self._choice_group = QButtonGroup(self)
        self._choice_group.buttonToggled.connect(lambda *_: self._chosen_changed())
        self._reason = EntryField(self.theme, tr("It does not suit; why use it all the same"), words_reader)
        self._reason.given.connect(lambda _v: self._act())
        self._reason.hide()
        self.ways = OtherWays(self.desk, self._choice_group)
        self.ways.hanging.changed.connect(self._mind_the_way)
        self.ways.entered.connect(self._act)
        self._reference_done = label(self.theme, "", Type.LEAD)
        self._reference_fields = QWidget()
        self.link_button = button(self.theme, tr("How it is linked…"), self._open_linking, "link")
        self.tool_link = button(self.theme, tr("The tool's own link…"), self._open_tool_linking, "link")
        self.tool_link.hide()
        self.linking = Linking(self.desk.around)
        self.linking.linked.connect(self._fetch)
        self._reference_fields.setLayout(
            column(
                self._choices,
                row(self._others, 1),
                self._unsuitable_rows,
                self._reason,
                self.ways,
                row(self.link_button, self.tool_link, 1, gap=2),
                self.linking,
                gap=1,
            )
        )
        return surface(
            column(
                row(label(self.theme, tr("The reference"), Type.TITLE), 1, self._reference_done),
                self._reference_fields,
                gap=1,
                margin=3,
            )
        )

    def _build_zero(self) -> QWidget:
        self._zero_shows = label(self.theme, "", Type.LEAD)
        self._zero_words = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self.zero_field = EntryField(self.theme, tr("The meter shows, with nothing on it"), torque_reader(N_M))
        self._zero_button = button(self.theme, tr("Zero the meter"), lambda: self.desk.meter.send("zero"))
        self.zero_field.awaits_number = True
        self.zero_field.offer_pad(self.theme)
        self.zero_field.given.connect(lambda _v: self._act())
        self._zero_fields = QWidget()
        self._zero_fields.setLayout(column(self._zero_words, row(self._zero_button, 1), self.zero_field, gap=1))
        return surface(
            column(
                row(label(self.theme, tr("Its zero"), Type.TITLE), 1, self._zero_shows),
                self._zero_fields,
                gap=1,
                margin=3,
            )
        )

    def _build_pointer(self) -> QWidget:
        self._pointer_done = label(self.theme, "", Type.LEAD)
        self._pointer_field = EntryField(self.theme, tr("The tool shows, with nothing on it"), torque_reader(N_M))
        self._pointer_field.awaits_number = True
        self._pointer_field.offer_pad(self.theme)
        self._pointer_field.given.connect(lambda _v: self._act())
        words = tr("Look at the tool's own pointer or display. Enter takes zero; type what it shows if it is off.")
        self._pointer_fields = QWidget()
        self._pointer_fields.setLayout(
            column(label(self.theme, words, Type.BODY, "quiet", wrap=True), self._pointer_field, gap=1)
        )
        title = row(label(self.theme, tr("The tool's zero"), Type.TITLE), 1, self._pointer_done)
        return surface(column(title, self._pointer_fields, gap=1, margin=3))

    def show_run(self, run: RunState) -> None:
        fresh = self._run is None or self._run.id != run.id or self._wish is not self.desk.wishes.now
        self._run, self._wish = run, self.desk.wishes.now
        if fresh:
            self.zero_field.read_with(torque_reader(run.tool.unit))
            self._pointer_field.read_with(torque_reader(run.tool.unit))
            self._pointer_field.clear()
            self.candidates = ()
            self.room.start(run.tool.own_units)
            self._reason.clear()
            self.linking.hide()
            self.tool_link.setVisible(run.paired)
            self._fetch()
        self.room.costs.setText(unmeasured_costs(run))
        self.room.setVisible(run.reference is not None and not run.room_said)
        if run.room is not None:
            degrees = run.tool.own_units.temperature_words(run.room.temperature)
            self._room_done.setText(f"{degrees}, {percent(run.room.humidity, 0)}")
        else:
            self._room_done.setText(tr("not measured") if run.room_said else "")
        self._reference_fields.setVisible(run.reference is None)
        self._reference_done.setText(reference_words(run))
        kind = run.reference.kind if run.reference is not None else self.ways.kind
        self.cautions.show_cautions(PROCEDURES[kind].cautions if run.reference is not None else self.ways.cautions)
        hung = run.reference is not None and run.reference.by_hand
        self._zero.setVisible(not hung)
        self._zero_fields.setVisible(run.reference is not None and run.room_said and run.zeros.before is None)
        self._pointer.setVisible(needs_pointer(run))
        ready = run.room_said if hung else run.zeros.before is not None
        self._pointer_fields.setVisible(ready and run.zeros.pointer_before is None)
        self._pointer_done.setText(
            f"{number(run.tool.unit.from_si(run.zeros.pointer_before))}\u202f{run.tool.unit.symbol}"
            if run.zeros.pointer_before is not None
            else ""
        )
        if not fresh:
            self.arrive()
        self.meter_changed()

    def _fetch(self) -> None:
        run, today = self._run, self.desk.around.today
        if run is not None:
            points = tuple(sorted({s.target for s in run.found}))
            self.desk.around.work.browse(
                both(call(candidates, run.tool, run.rules, today, points), call(means)),
                lambda found: self._show_candidates(*found),
            )

    def _open_linking(self) -> None:
        chosen, linked = self._chosen(), self.ways.linked
        if linked is not None:
            number, usual = linked
            self.linking.open_for(number, self.desk.around.station.link_of(number, usual))
        elif chosen is not None:
            number = chosen.reference.number
            self.linking.open_for(number, self.desk.around.station.link_of(number, chosen.link))

    def _open_tool_linking(self) -> None:
        if self._run is not None:
            name = link_name(self._run.tool.number)
            self.linking.open_for(name, self.desk.around.station.link_of(name, ""))

    def roomed(self, report: RoomReport) -> None:
        """The meter says what the room is: fill it in; Enter takes it."""
        if self._run is None or self._run.room_said or not self.room.untouched:
            return
        if self._run.policy.glance and self._run.reference is not None:
            take_room(self.desk, self._run, report)
            return
        self.room.bring(report)

    def beat(self) -> None:
        self.meter_changed()
        if self._run is not None:
            take_zero(self.desk, self._run)

    def meter_changed(self) -> None:
        run = self._run
        if run is None or run.reference is None or run.reference.by_hand:
            self._zero_shows.setText("")
            return
        allowed = run.reference.zero_tolerance
        shown = self.desk.meter.zero() if run.zeros.before is None else run.zeros.before
        live = shown is not None
        self._zero_button.setVisible(live)
        self.zero_field.setVisible(not live)
        self._zero_words.setText(
            tr("Nothing may hang on the meter. Allowed: ±{allowed}.", allowed=quantity(allowed, run.tool.unit))
            + ("" if live else tr(" No meter is connected: type what it shows."))
        )
        if shown is None:
            self._zero_shows.setText("")
        else:
            decimals = 3 if allowed < 0.01 else 2
            self._zero_shows.setText(f"{number(run.tool.unit.from_si(shown), decimals)}\u202f{run.tool.unit.symbol}")
            set_tone(self._zero_shows, "fault" if abs(shown) > allowed else "good")

    def _show_candidates(self, found: tuple[ReferenceCandidate, ...], means: Equipment) -> None:
        self.candidates = found
        for old in self._choice_group.buttons():
            self._choice_group.removeButton(old)
        empty(self._choices)
        empty(self._unsuitable)
        in_sight = sum(c.suits for c in found) or min(len(found), MOST_UNSUITABLE)
        for i, candidate in enumerate(found):
            reference = candidate.reference
            unit = self._run.tool.unit if self._run else None
            reach = span(reference.minimum, reference.maximum, unit) if unit else ""
            choice = ChoiceRow(
                self.theme,
                reference.number,
                f"{reach} · {candidate_worth(candidate)}",
                "; ".join(candidate.against),
            )
            self._choice_group.addButton(choice, i)
            (self._choices if i < in_sight else self._unsuitable).addWidget(choice)
        self._others.setText(tr("{count} more, not suitable…", count=len(found) - in_sight))
        self._others.setVisible(in_sight < len(found))
        self._unsuitable_rows.hide()
        by_lever = self._run is not None and self.ways.offer(self._run, means, found, self._choices, len(found))
        if found or by_lever:
            first = self._choice_group.button(self.ways.wished or 0)
            if first is not None:
                first.setChecked(True)
                if self._run is not None and self._run.reference is None:
                    self.arrive()
                    QTimer.singleShot(0, self._focus_choice)  # once the row is shown
        else:
            self._choices.addWidget(
                label(
                    self.theme, tr("No reference is in the register. Add one with its certificate."), Type.BODY, "fault"
                )
            )
        self.desk.offer()

    def _mind_the_way(self) -> None:
        """What could hurt follows what is chosen of the way."""
        if self._run is not None and self._run.reference is None:
            self.cautions.show_cautions(self.ways.cautions)

    def _unfold(self) -> None:
        """Show those that do not suit, with why."""
        self._others.hide()
        self._unsuitable_rows.show()

    def _focus_choice(self) -> None:
        """The chosen row takes the focus, unless the person has gone elsewhere meanwhile."""
        if self.hasFocus() and self._run is not None and self._run.reference is None:
            self.arrive()

    def _chosen(self) -> ReferenceCandidate | None:
        index = self._choice_group.checkedId()
        return self.candidates[index] if 0 <= index < len(self.candidates) else None

    def _chosen_changed(self) -> None:
        chosen = self._chosen()
        self._reason.setVisible(chosen is not None and not chosen.suits)
        self.ways.show_chosen()
        self.link_button.setVisible(self.ways.sheet is None or self.ways.linked is not None)
        if self._run is not None and self._run.reference is None:
            self.cautions.show_cautions(self.ways.cautions)
        self.desk.offer()

    def action(self) -> Action | None:
        run = self._run
        wanted = wants(run, Step.SET_UP) if run is not None else ()
        if run is None or not wanted:
            return None
        chosen = self._chosen()
        match wanted[0].need:
            case Need.REFERENCE if self.ways.sheet is not None:
                return self.ways.action(run)
            case Need.REFERENCE if chosen is not None:
                return Action(
                    tr("Use {number}", number=chosen.reference.number), lambda: self._use_reference(run, chosen)
                )
            case Need.REFERENCE:
                return Action(
                    tr("Choose a reference"), allowed=False, why_not=tr("None is in the register, or none is chosen.")
                )
            case Need.ROOM if self.room.untouched and not room_decides(run):
                return Action(tr("Go on; it was not measured"), lambda: leave_room_unmeasured(self.desk, run))
            case Need.ROOM:
                return Action(tr("Record the room"), lambda: self._record_room(run))
            case Need.ZERO:
                return Action(tr("Take this zero"), lambda: self._take_zero(run))
            case _:
                words = tr("Record its zero") if self._pointer_field.text.strip() else tr("The tool stands at zero")
                return Action(words, lambda: self._take_pointer(run))

    def _act(self) -> None:
        """What the primary button does."""
        action = self.action()
        if action is not None and action.allowed and action.call is not None:
            action.call()

    def _record_room(self, run: RunState) -> None:
        said = self.room.given()
        if said is None:
            return
        if not room_fits(said.temperature, said.humidity, run.rules) and not self.room.reason.isVisible():
            self.room.ask_why()
        act = self.desk.around.act()
        self.desk.do(
            call(setting_up.record_room, run.id, said.temperature, said.humidity, said.reason, act, said.source),
            refused=self.room.reason.refuse if self.room.reason.isVisible() else None,
        )

    def _use_reference(self, run: RunState, chosen: ReferenceCandidate) -> None:
        reason = self._reason.text
        if not chosen.suits and not reason.strip():
            self._reason.refuse(tr("Give the reason, or take another reference."))
            self._reason.setFocus()
            return
        self.desk.do(call(setting_up.choose_reference, run.id, chosen.reference.id, reason, self.desk.around.act()))

    def _take_zero(self, run: RunState) -> None:
        live = self.desk.meter.zero()
        seen = (live,) if live is not None else numbers_of(self.zero_field)
        if seen is None:
            return
        shown = seen[0]
        self.desk.do(call(setting_up.record_zero, run.id, ZeroMoment.BEFORE, shown, self.desk.around.act()))

    def _take_pointer(self, run: RunState) -> None:
        seen = numbers_of(self._pointer_field) if self._pointer_field.text.strip() else (0.0,)
        if seen is None:
            return
        value = seen[0]
        self.desk.do(
            call(setting_up.record_pointer, run.id, ZeroMoment.BEFORE, value, self.desk.around.act()),
            refused=self._pointer_field.refuse,
        )

    def arrive(self) -> None:
        run = self._run
        if run is None:
            return
        if run.reference is None:
            checked = self._choice_group.checkedButton()
            if checked is not None and checked.isVisible():
                checked.setFocus()
            else:
                self.setFocus()  # Enter does the primary thing meanwhile
        elif not run.room_said:
            self.room.temperature.setFocus()
        elif run.zeros.before is None and self.zero_field.isVisible():
            self.zero_field.setFocus()
        elif needs_pointer(run) and run.zeros.pointer_before is None:
            self._pointer_field.setFocus()
        else:
            self.setFocus()
