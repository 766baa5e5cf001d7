"""The bench with the hands full: what is spoken, and what a foot does."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from reckoner.core.quantities.units import UNITS, Kind
from reckoner.shop.register.completing import MeasuredTool, keep_measured
from reckoner.shop.runs.records import Step
from reckoner.shop.words.spoken import SAID, aloud
from reckoner.store.station import Station
from reckoner.store.terms import ObservationKind, RunKind
from reckoner.ui.bench.pedals import KeyTaken, PedalUse
from reckoner.ui.places import PlaceId
from reckoner.ui.speech import Speech, SpeechAbsent
from tests.support.hands import ENTER, WAIT, click, go, press, pull, settle
from tests.support.pounds import IN, LB
from tests.support.runs import tool_id
from tests.ui.bench.test_simplesum import begin, typed_at_the_top


class KeptVoice:
    def __init__(self):
        self.said = []

    def stop(self):
        self.said.append("")

    def say(self, text):
        self.said.append(text)


def test_every_unit_of_the_bench_has_a_spoken_name():
    kinds = {Kind.TORQUE, Kind.LENGTH, Kind.MASS}
    assert {u.symbol for u in UNITS if u.kind in kinds and f"1 {u.symbol}" == aloud(f"1 {u.symbol}")} == set()
    assert all(name and name != symbol for symbol, name in SAID.items())


def test_without_a_voice_it_is_told_once_and_with_one_the_newest_words_are_heard(tmp_path, qapp):
    station, told = Station(tmp_path / "s.json"), []

    def none(_parent, _failed):
        raise SpeechAbsent("no voice is installed")

    mute = Speech(qapp, station, told.append, none)
    mute.speak("nothing")
    assert told == []
    mute.toggle()
    mute.speak("Pull again.")
    assert len(told) == 1
    assert "no speech service that can be reached (no voice is installed)" in told[0]
    assert Station(station.path).settings.speaks
    voice, failing = KeptVoice(), []
    speech = Speech(qapp, station, told.append, lambda _parent, failed: failing.append(failed) or voice)
    speech.speak("Pull again.")
    assert voice.said == ["", "Pull again."]
    failing[0]("the voice has gone")
    failing[0]("the voice has gone")
    speech.speak("Pull again.")
    assert len(told) == 2
    assert voice.said == ["", "Pull again."]


def test_results_and_what_to_do_next_are_spoken_in_a_few_words(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    go(window, "bench", tool=tool_id(demo, "HC-0417"), kind=RunKind.CHECK)
    bench = window.place(PlaceId.BENCH)
    speech = bench.presenter.speech = Speech(bench, window.around.station, window.say, lambda _p, _f: KeptVoice())
    bench.speaking._speech = speech
    speech.toggle()
    for words in ("Put it on the bench", "Nothing wrong", "Use PM-5"):
        qtbot.waitUntil(lambda w=words: bench.button.text() == w, timeout=WAIT)
        settle(qtbot, window)
        press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.step is Step.EXERCISE, timeout=WAIT)
    assert speech.spoken[-1].startswith("Set 200 newton metres")
    while bench.run.step is not Step.AS_FOUND:
        before = bench.run.stamp
        pull(qtbot, window, bench)
        qtbot.waitUntil(lambda b=before: bench.run.stamp != b, timeout=WAIT)
    assert "2 to go." in speech.spoken
    assert speech.spoken[-1].startswith("Set 1")
    pull(qtbot, window, bench)
    qtbot.waitUntil(lambda: bool(bench.run.found[0].pairs), timeout=WAIT)
    qtbot.waitUntil(lambda: speech.spoken[-1].endswith("Pull again."), timeout=WAIT)
    result = speech.spoken[-1].removesuffix(" Pull again.")
    assert result == "On the mark." or result.endswith((" per cent low.", " per cent high."))
    speech.toggle()
    count = len(speech.spoken)
    pull(qtbot, window, bench)
    qtbot.waitUntil(lambda: len(bench.run.found[0].pairs) == 2, timeout=WAIT)
    assert len(speech.spoken) == count


def test_a_foot_answers_goes_on_and_strikes_wherever_the_focus_is(qtbot, open_window, pounds, act):
    folder, database = pounds
    with database.session() as session:
        keep_measured(session, 1, MeasuredTool(own_mass=3 * LB, own_centre=8 * IN), act)
    window = open_window(folder)
    typed_at_the_top(qtbot, window, "35 lb at 18 in with T-1")
    bench = begin(qtbot, window)
    press(window, Qt.Key.Key_F1)
    click(window._key_sheet.pedals)
    window._key_sheet.close()
    sheet = bench.pedals.sheet
    for use, key in zip(PedalUse, (Qt.Key.Key_F13, Qt.Key.Key_F14, Qt.Key.Key_F15, Qt.Key.Key_PageDown), strict=True):
        click(sheet.buttons[use])
        assert sheet.buttons[use].text() == "Press the pedal now"
        QTest.keyClick(sheet, key)
    assert [one.text() for one in sheet.buttons.values()] == ["F13", "F14", "F15", "PgDown"]
    QTest.keyClick(sheet, Qt.Key.Key_F14)
    assert sheet.told[PedalUse.SILENT].text() == "It came. That pedal works."
    click(sheet.buttons[PedalUse.NEXT])
    for key, said in ((Qt.Key.Key_A, "a scanner types it too"), (Qt.Key.Key_F1, "Keys")):
        QTest.keyClick(sheet, key)
        assert said in sheet.told[PedalUse.NEXT].text()
        assert sheet.buttons[PedalUse.NEXT].text() == "F15"
        click(sheet.buttons[PedalUse.NEXT])
    click(sheet.buttons[PedalUse.NEXT])
    sheet.close()
    for step in (Step.SET_UP, Step.EXERCISE, Step.AS_FOUND):
        press(window, Qt.Key.Key_F15)
        settle(qtbot, window)
        qtbot.waitUntil(lambda s=step: bench.run.step is s, timeout=WAIT)
    asks = bench.panels.tripping.asks
    qtbot.waitUntil(lambda: asks.painted, timeout=WAIT)
    window.top_line.setFocus()
    press(window, Qt.Key.Key_F13)
    qtbot.waitUntil(lambda: len(bench.run.found[0].counted) == 1, timeout=WAIT)
    qtbot.waitUntil(lambda: asks.painted, timeout=WAIT)
    press(window, Qt.Key.Key_F14)
    qtbot.waitUntil(lambda: len(bench.run.found[0].counted) == 2, timeout=WAIT)
    settle(qtbot, window)
    kinds = [o.kind for o in bench.run.found[0].counted]
    assert kinds == [ObservationKind.CLICKED, ObservationKind.SILENT]
    press(window, Qt.Key.Key_PageDown)
    qtbot.waitUntil(lambda: bench.panels.tripping.striking.isVisible(), timeout=WAIT)
    with pytest.raises(KeyTaken, match="Backspace"):
        bench.pedals.give(PedalUse.NEXT, "Backspace")
    assert Station(window.around.station.path).settings.pedals["CLICKED"] == "F13"
