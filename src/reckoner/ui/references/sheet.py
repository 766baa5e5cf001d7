"""One reference: its sentence, what it is worth where, its certificates, its cross-checks, and what it sends."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout

from reckoner.core.quantities.days import day_words
from reckoner.core.translation import tr, tr_count
from reckoner.shop.references.register import LEAST_OF_RANGE, CertificateLine, ReferenceSheet, reference_sheet
from reckoner.shop.register.adding import take_back_certificate
from reckoner.ui.drawings.worth import Worth, WorthState
from reckoner.ui.layout import column, empty, row
from reckoner.ui.place import Surroundings
from reckoner.ui.references.certify import Certify
from reckoner.ui.references.checking import CheckingPanel
from reckoner.ui.references.trying import LinkTrial
from reckoner.ui.register.linking import Linking
from reckoner.ui.register.shelf import AboveFields
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.question import QuestionChoice, QuestionPanel
from reckoner.ui.widgets.showmore import ShowMore
from reckoner.ui.widgets.text import ElidedLabel, label, set_tone
from reckoner.ui.work import call

LIMITS = (0.04, 0.06)
"""The limits of the tools for which it is drawn where it is good enough."""


class ReferenceSheetView(AboveFields):
    """Stands above the reference's fields."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        theme = around.theme
        self._shown = 0
        self.found: ReferenceSheet | None = None
        self.sentence = label(theme, "", Type.TITLE, wrap=True)
        self.used = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.worth = Worth(theme)
        self._lines = QGridLayout()
        self._lines.setHorizontalSpacing(2 * GRID)
        self._lines.setVerticalSpacing(GRID // 2)
        self._lines.setColumnStretch(3, 1)
        self._lines.setColumnStretch(4, 1)
        self.older = ShowMore(theme, self._show_certificates)
        self.new = button(theme, tr("Enter a certificate…"), self._certify)
        self.link = button(theme, tr("How it is linked…"), self._open_link)
        self.certify = Certify(around)
        self.certify.kept.connect(self._kept)
        self.certify.left.connect(self.certify.hide)
        self.back = QuestionPanel(theme)
        self._asked_back: CertificateLine | None = None
        self.back.answered.connect(self._answered)
        self.linking = Linking(around)
        self.linking.linked.connect(self.refresh)
        self.trying = LinkTrial(around)
        self.checking = CheckingPanel(around)
        self.checking.kept.connect(self.refresh)
        self.setLayout(
            column(
                self.sentence,
                self.used,
                self.worth,
                row(self.new, self.link, 1, gap=1),
                self.certify,
                self.linking,
                label(theme, tr("Its certificates"), Type.LEAD),
                self._lines,
                row(self.older.button, 1),
                self.back,
                label(theme, tr("Held against others"), Type.LEAD),
                self.checking,
                self.trying,
                gap=2,
            )
        )
        self.certify.hide()

    def show_row(self, row_id: int) -> None:
        if row_id != self._shown:
            self.certify.hide()
            self.linking.hide()
            self.back.withdraw()
            self.older.begin()
        self._shown = row_id
        self.refresh()

    def refresh(self) -> None:
        """Ask for it anew."""
        wanted, today = self._shown, self._around.today
        if wanted:
            self._around.work.browse(call(reference_sheet, wanted, today), self._show_sheet)

    def _show_sheet(self, found: ReferenceSheet) -> None:
        facts = found.facts
        if facts.id != self._shown:
            return
        self.found = found
        withdrawn = self.back.asks and self._asked_back not in found.certificates
        if withdrawn:
            self.back.withdraw()
        self.sentence.setText(found.sentence(self._around.today))
        ended = facts.proven and facts.due is not None and facts.due < self._around.today
        set_tone(self.sentence, "fault" if ended else "")
        times = tr_count("1 run", "{n} runs", found.runs)
        last = (
            tr(", the last on {last_used}", last_used=day_words(found.last_used)) if found.last_used is not None else ""
        )
        known = (
            tr("its known error is left in") if facts.error_left else tr("readings are corrected for its known error")
        )
        self.used.setText(tr("Used in {times}{last}", times=times, last=last) + (f" · {known}" if facts.proven else ""))
        self.worth.setVisible(facts.proven)
        self.worth.show_state(
            WorthState(
                tuple((p.torque, p.error, p.expanded_uncertainty) for p in facts.points),
                max(facts.maximum, *(p.torque for p in facts.points)) if facts.points else facts.maximum,
                LEAST_OF_RANGE * facts.maximum,
                tuple((limit, found.spans(limit)) for limit in LIMITS),
                found.unit,
            )
        )
        self._show_certificates()
        if withdrawn:  # the line that asked is another one by now
            self.new.setFocus()
        self.checking.show_checks(facts, found.unit, found.checks)
        self.trying.show_reference(facts, self._around.station.link_of(facts.number, found.link))

    def _show_certificates(self) -> None:
        found = self.found
        empty(self._lines)
        if found is None:
            return
        theme, middle = self._around.theme, Qt.AlignmentFlag.AlignVCenter
        for i, one in enumerate(self.older.part(found.certificates)):
            words = (
                day_words(one.issued) if one.issued else "",
                tr("to {due}", due=day_words(one.due)),
                one.number,
                one.laboratory,
                tr("taken back: {withdrawn}", withdrawn=one.withdrawn)
                if one.withdrawn
                else tr("{points} points", points=one.points) + (tr(", counts") if one.counts else ""),
            )
            for j, text in enumerate(words):
                role = Type.STRONG if one.counts and j < 3 else Type.BODY
                tone = "" if one.counts else "quiet"
                if j < 3:
                    self._lines.addWidget(label(theme, text, role, tone), i, j, middle)
                else:
                    self._lines.addWidget(ElidedLabel(theme, text, role, tone), i, j)
            if not one.withdrawn:
                back = button(theme, tr("Take it back…"), partial(self._ask_back, one), "link")
                self._lines.addWidget(back, i, len(words), middle)
        if not found.certificates:
            nothing = tr("None: it is unproven, and runs with it are shop checks.")
            self._lines.addWidget(label(theme, nothing, Type.BODY, "quiet"), 0, 0, 1, 5)

    def _ask_back(self, one: CertificateLine) -> None:
        called = one.number or tr("to {due}", due=day_words(one.due))
        if one.judged:
            stay = tr_count(
                "One signed run was judged by it and stays as it is",
                "{n} signed runs were judged by it and stay as they are",
                one.judged,
            )
            words = tr(
                "The certificate {called}: {stay}. It will count for nothing that comes.", called=called, stay=stay
            )
        else:
            words = tr(
                "No signed run was judged by the certificate {called}: it can be taken back, and entered again.",
                called=called,
            )
        self._asked_back = one
        back = QuestionChoice(one.id, tr("It no longer counts") if one.judged else tr("Take it back"), tr("Why"))
        self.back.ask(words, (back, QuestionChoice(None, tr("Leave it"))))

    def _answered(self, certificate_id: object, reason: str) -> None:
        if certificate_id is None:
            self.back.withdraw()
            return
        act = self._around.act()
        self._around.work.ask(
            call(take_back_certificate, int(str(certificate_id)), reason, act),
            lambda _none: self.refresh(),
            lambda refusal: self.back.refuse(str(refusal)),
        )

    def _certify(self) -> None:
        if self.found is not None:
            self.certify.show()
            self.certify.begin_for(self._shown, self.found.unit)

    def _kept(self) -> None:
        self.certify.hide()
        self._around.say(tr("The certificate is kept; it counts from its day on."))
        self.refresh()

    def _open_link(self) -> None:
        if self.found is not None:
            number = self.found.facts.number
            self.linking.open_for(number, self._around.station.link_of(number, self.found.link))

    def shut(self) -> None:
        """Let the meter go."""
        self.trying.stop()
