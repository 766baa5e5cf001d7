"""The words of papers: each asked for is there, none stands idle, and no paper has words of another place."""

import ast
import io
import re
import string
from dataclasses import asdict
from pathlib import Path

import pytest
from pypdf import PdfReader

import reckoner
from reckoner.core.translation import ENGLISH
from reckoner.formats import languages
from reckoner.formats.languages import in_language, phrase, say
from reckoner.formats.papers.certificate_pdf import certificate_pdf
from reckoner.shop.papers.certificates import certificate_of
from reckoner.shop.papers.labels import tool_labels
from reckoner.shop.register.editing import the_shop
from reckoner.shop.register.rows import edit
from reckoner.shop.runs import amending, setting_up, signing, taking
from reckoner.store.reader import reader_of
from reckoner.store.schema import Shop
from reckoner.store.terms import RegisterKind, ZeroMoment
from tests.shop.runs.test_weights import answered, set_up
from tests.support.runs import TODAY, later, prepared, read_all, tool_id

ENGLISH_WORDS = {
    f"{section}.{name}": words
    for section, names in languages._file(ENGLISH).items()
    if isinstance(names, dict)
    for name, words in names.items()
}
OTHERS = [code for code in languages.languages() if code != ENGLISH]


def asked_for():
    """The keys that the product asks for whole, and the sections of those that it puts together."""
    whole, sections = set(), set()
    for path in Path(reckoner.__file__).parent.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Constant) and isinstance(node.value, str) and node.value in ENGLISH_WORDS:
                whole.add(node.value)
            if not (isinstance(node, ast.Call) and getattr(node.func, "id", "") == "say"):
                continue
            for part in ast.walk(node.args[0]):
                if isinstance(part, ast.JoinedStr) and isinstance(part.values[0], ast.Constant):
                    sections.add(part.values[0].value.partition(".")[0])
                elif isinstance(part, ast.Constant) and "." in str(part.value) and not str(part.value).endswith("."):
                    whole.add(part.value)
    return whole, sections


def test_what_is_asked_for_is_there_and_nothing_stands_idle():
    whole, sections = asked_for()
    assert whole <= set(ENGLISH_WORDS)
    assert {key for key in ENGLISH_WORDS if key.partition(".")[0] not in sections} <= whole


def blanks(words):
    return {name for _text, name, _spec, _how in string.Formatter().parse(words) if name}


@pytest.mark.parametrize("code", OTHERS)
def test_another_language_fills_in_what_english_does_and_leaves_nothing_out(code):
    said = {f"{s}.{n}": w for s, ns in languages._file(code).items() if isinstance(ns, dict) for n, w in ns.items()}
    assert set(said) <= set(ENGLISH_WORDS)
    assert {key for key, words in said.items() if not blanks(words) <= blanks(ENGLISH_WORDS[key])} == set()
    # a signal's verb is in the sentence itself where a language splits it
    assert {key for key in set(ENGLISH_WORDS) - set(said) if not key.startswith("signal.")} == set()


def test_what_a_language_leaves_out_is_said_in_english_and_so_is_one_without_a_file(masked):
    del masked["label"]["overdue"]
    with in_language("xx"):
        assert say("label.overdue") == "OVERDUE"
        assert say("label.held") != "HELD: DO NOT USE"
    with in_language("zz"):
        assert say("label.held") == "HELD: DO NOT USE"
    assert say("label.held") == "HELD: DO NOT USE"


@pytest.fixture
def masked(monkeypatch):
    """A language "xx" in which each letter of a word is a Greek one, and what is filled in stays as it is."""

    def greek(words):
        parts = re.split(r"(\{\w+\})", words)
        return "".join(p if p.startswith("{") else re.sub("[A-Za-z]", "λ", p) for p in parts)

    file, known = languages._file, languages.languages()
    made = {k: {n: greek(w) for n, w in v.items()} if isinstance(v, dict) else v for k, v in file(ENGLISH).items()}
    made["months"] = [greek(month) for month in made["months"]]
    monkeypatch.setattr(languages, "_file", lambda code: made if code == "xx" else file(code))
    monkeypatch.setattr(languages, "languages", lambda: {**known, "xx": "λλλ"})
    phrase.cache_clear()
    yield made
    phrase.cache_clear()


def latin(text):
    return set(re.findall("[A-Za-z]{3,}", text))


def strings(facts):
    match facts:
        case dict():
            return " ".join(strings(value) for value in facts.values())
        case list() | tuple():
            return " ".join(strings(value) for value in facts)
        case _:
            return str(facts)


def amended(session, demo, act):
    """A run outside, and its amendment: another room, another reading, one reading fewer."""
    first = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.93)
    first = signing.sign(session, first.id, later(act, 2))
    again = amending.amend(session, first.id, "λ", later(act, 3))
    again = setting_up.record_room(session, again.id, 22.0, 0.46, "", later(act, 3))
    struck = again.series[0].observations[0]
    again = taking.strike(session, again.id, (struck.id,), "jerked", later(act, 3))
    again = taking.observe(session, again.id, taking.typed(37.3), later(act, 3))
    again = setting_up.record_zero(session, again.id, ZeroMoment.AFTER, 0.0, later(act, 3))
    return signing.sign(session, again.id, later(act, 4))


def by_weights(session, demo, act):
    run, _tries = answered(session, set_up(session, "HC-0125", demo, act), act, 0.02)
    return signing.sign(session, run.id, later(act, 9))


@pytest.mark.parametrize("make", [amended, by_weights])
def test_a_certificate_has_no_word_of_its_own_but_from_the_file(make, demo, act, masked):
    with demo.session() as session:
        run = make(session, demo, act)
        english = certificate_of(session, run).mark
        session.get(Shop, the_shop(session)).language = "xx"
        made = io.BytesIO(certificate_pdf(certificate_of(session, run)))
        assert certificate_of(session, run).mark == english  # its digest is of the record, whatever speaks
        words = " ".join(page.extract_text() for page in PdfReader(made).pages)
        words = re.sub(r"SHA-256|[0-9a-f]{16,}|\b[0-9a-f]*[0-9][0-9a-f]*\b", "", words)
        facts = (run.tool, run.reference, run.plan, run.room, run.signature, *run.inspection)
        shop = session.get(Shop, the_shop(session))
        reasons = [o.struck for series in run.all_series for o in series.observations]
        data = strings([*(asdict(known) for known in facts), *reasons, run.rules.title, shop.name, shop.address])
        session.rollback()
    assert "λ" in words
    assert latin(words) - latin(data) == set()


def test_labels_are_in_the_language_that_the_shop_chose(demo, act):
    with demo.session() as session:
        edit(session, RegisterKind.SHOP, the_shop(session), {"language": "de"}, act)
    with demo.session() as session:
        label = tool_labels(reader_of(session), "HC-0417", TODAY)[0]
        assert "fällig" in " ".join(label.lines) or "NICHT BENUTZEN" in label.banner
        held = tool_labels(reader_of(session), "held", TODAY)[0]
        assert held.banner.startswith(("GESPERRT", "BEWEIS"))


WRONG = {
    "no name of its own": (b'date = "{day}"\n', "say what it calls itself"),
    "a blank that reaches inside": (b'language = "x"\n[title]\ntest = "{now.__class__}"\n', "title.test: it fills in"),
    "a brace that opens nothing": (b'language = "x"\ndate = "{day"\n', "date: it fills in"),
    "a word where words are wanted": (b'language = "x"\ntitle = "y"\n', "title: it is written as in en.toml"),
    "eleven months": (b'language = "x"\nmonths = ["J", "F", "M", "A", "M", "J", "J", "A", "S", "O", "N"]\n', "give 12"),
    "words that nothing asks for": (b'language = "x"\n[titel]\n', "titel: there is no such word"),
    "no text": (b"\xff\xfe", "not UTF-8 text"),
    "nothing but depth": (b"x = " + b"[" * 100_000, "nested too deeply"),
}


@pytest.mark.parametrize(("content", "told"), WRONG.values(), ids=list(WRONG))
def test_words_of_a_folder_of_ones_own_that_could_not_be_said_are_told_of_and_english_is_said(
    monkeypatch, tmp_path, caplog, content, told
):
    (tmp_path / "xx.toml").write_bytes(content)
    monkeypatch.setenv("RECKONER_LANGUAGES", str(tmp_path))
    languages.languages.cache_clear()
    languages._file.cache_clear()
    try:
        assert list(languages.languages()) == ["en", "de"]
        assert told in caplog.text
        with in_language("xx"):
            assert say("label.overdue") == "OVERDUE"
    finally:
        languages.languages.cache_clear()
        languages._file.cache_clear()
        phrase.cache_clear()


def test_words_of_a_folder_of_ones_own_are_said_and_what_they_leave_out_is_english(monkeypatch, tmp_path):
    (tmp_path / "xx.toml").write_text('language = "x"\n[label]\noverdue = "ZU SPAET"\n', encoding="utf-8")
    monkeypatch.setenv("RECKONER_LANGUAGES", str(tmp_path))
    languages.languages.cache_clear()
    languages._file.cache_clear()
    try:
        with in_language("xx"):
            assert say("label.overdue") == "ZU SPAET"
            assert languages.written(TODAY) == "24 Nov 2026"
    finally:
        languages.languages.cache_clear()
        languages._file.cache_clear()
        phrase.cache_clear()
