"""Another language: what a person sees passes the translation, nothing is cut off where it is longer, records stay."""

import ast
import json
import os
import re
import string
import subprocess
import sys
from gettext import GNUTranslations
from pathlib import Path

import pytest

import reckoner
from reckoner.core import translation
from reckoner.core.translation import tr, tr_count, untranslated
from reckoner.formats import catalogues, languages
from reckoner.shop.papers.certificates import certificate_of
from reckoner.shop.papers.digital import digital_certificate
from reckoner.shop.papers.resultfiles import recomputed, result_file
from reckoner.shop.register.filters import listed
from reckoner.shop.runs import signing
from reckoner.shop.runs.judging import judged
from reckoner.shop.words.results import run_sentence
from reckoner.store.reader import reader_of
from tests.support.pseudo import catalogue, papers, pseudo
from tests.support.runs import TODAY, later, outside, tool_id

SOURCES = sorted(Path(reckoner.__file__).parent.rglob("*.py"))
WALK_S = 900
"""As long as a hang would be."""


@pytest.fixture(scope="module")
def folder(tmp_path_factory):
    """A translator's folder with the language that nobody speaks."""
    made = tmp_path_factory.mktemp("languages")
    (made / "eo.po").write_bytes(catalogue())
    (made / "eo.toml").write_text(papers(), encoding="utf-8")
    return made


def spoken(folder, **said):
    quiet = {name: value for name, value in os.environ.items() if name not in catalogues.ASKED}
    return {**quiet, "RECKONER_LANGUAGES": str(folder), "QT_QPA_PLATFORM": "offscreen", **said}


@pytest.mark.timeout(WALK_S)
@pytest.mark.parametrize(("part", "pages"), [("places", 40), ("run", 14)])
def test_every_place_speaks_the_language_and_no_label_is_cut_off_where_it_is_longer(folder, part, pages):
    walked = subprocess.run(
        [sys.executable, "-m", "tests.support.pseudo_walk", part],
        env=spoken(folder, LANG="eo"),
        cwd=Path(__file__).parents[2],
        capture_output=True,
        timeout=WALK_S,
        encoding="utf-8",
    )
    assert walked.returncode == 0, walked.stderr[-2000:]
    found = json.loads(walked.stdout.splitlines()[-1])
    assert found["pages"] > pages
    assert found["english"] == {}
    assert found["cut"] == {}


def test_what_was_signed_is_found_as_it_was_whoever_speaks(folder, demo_folder):
    def verify(**said):
        command = [sys.executable, "-m", "reckoner", "verify", "--data", str(demo_folder), "--records"]
        return subprocess.run(
            command, env=spoken(folder, **said), capture_output=True, timeout=WALK_S, encoding="utf-8"
        )

    english, other = verify(LANG="C.UTF-8"), verify(LANGUAGE="fr:eo_XX:de", LANG="de_DE.UTF-8")
    assert english.returncode == other.returncode == 0
    assert "Everything is as it was kept." in english.stdout
    assert pseudo("Everything is as it was kept.") in other.stdout


@pytest.fixture
def spoken_here(monkeypatch, folder):
    """The language that nobody speaks, in this program: what is said from now on, not what is fixed as modules load."""
    monkeypatch.setenv("RECKONER_LANGUAGES", str(folder))
    monkeypatch.setenv("RECKONER_LANGUAGE", "eo")
    monkeypatch.setattr(translation, "_window", translation._window)

    def speak():
        catalogues.install_language()
        assert tr("Sign") == pseudo("Sign")

    yield speak
    languages._file.cache_clear()
    languages.phrase.cache_clear()


def test_what_is_handed_on_is_the_same_whoever_speaks(demo, act, spoken_here):
    def handed():
        paper, file = certificate_of(session, run), result_file(session, run)
        digital = re.sub(b"dataBase64>[^<]*<", b"", digital_certificate(run, paper, file))
        return paper.mark, file.record, digital, listed(reader_of(session), "HC-04", TODAY)

    with demo.session() as session:
        run = signing.sign(session, outside(session, tool_id(demo, "HC-0417"), act).id, later(act, 2))
        english = handed()
        spoken_here()
        assert run_sentence(run.tool, judged(run).verdict).startswith("λ")
        assert handed() == english
        assert recomputed(result_file(session, run))[1] == ()
        session.rollback()


def test_a_language_counts_as_it_does(monkeypatch, tmp_path):
    (tmp_path / "pl.po").write_text(
        'msgid ""\nmsgstr "Content-Type: text/plain; charset=UTF-8\\nPlural-Forms: nplurals=3; plural=(n==1 ? 0 : '
        'n%10>=2 && n%10<=4 && (n%100<12 || n%100>14) ? 1 : 2);\\n"\n\n'
        'msgid "{n} tool"\nmsgid_plural "{n} tools"\nmsgstr[0] "{n} klucz"\nmsgstr[1] "{n} klucze"\n'
        'msgstr[2] "{n} kluczy"\n',
        encoding="utf-8",
    )
    monkeypatch.setenv("RECKONER_LANGUAGES", str(tmp_path))
    monkeypatch.setenv("RECKONER_LANGUAGE", "pl_PL.UTF-8")
    monkeypatch.setattr(translation, "_window", translation._window)  # given back afterwards
    catalogues.install_language()
    assert isinstance(translation._window[1], GNUTranslations)
    assert [tr_count("{n} tool", "{n} tools", n) for n in (1, 3, 5)] == ["1 klucz", "3 klucze", "5 kluczy"]
    assert tr("what it leaves out: {x}", x=1) == "what it leaves out: 1"
    with untranslated():
        assert tr_count("{n} tool", "{n} tools", 3) == "3 tools"


@pytest.mark.parametrize(
    "said", [{"LANG": "zz_ZZ"}, {"LANG": "C"}, {"RECKONER_LANGUAGE": "en", "LANG": "eo"}, {"LANGUAGE": "en:eo"}, {}]
)
def test_where_there_is_no_catalogue_of_the_language_english_is_spoken(monkeypatch, folder, said):
    for name in catalogues.ASKED:
        monkeypatch.delenv(name, raising=False)
    for name, value in {**said, "RECKONER_LANGUAGES": str(folder)}.items():
        monkeypatch.setenv(name, value)
    monkeypatch.setattr(translation, "_window", ("en", translation._ENGLISH, b""))
    catalogues.install_language()
    assert translation.window_language() == "en"
    assert catalogues.folders() == (folder, catalogues.SHIPPED)  # a translator's own comes first


BROKEN = {
    "no text at all": b"\xff\xfe\x00garbage\x80",
    "plural forms that are none": b'msgid ""\nmsgstr "Plural-Forms: nplurals=2; plural=(n+;\\n"\n',
}


@pytest.mark.parametrize("broken", BROKEN.values(), ids=list(BROKEN))
def test_a_catalogue_that_cannot_be_read_is_told_of_and_english_is_spoken(monkeypatch, caplog, tmp_path, broken):
    (tmp_path / "eo.po").write_bytes(broken)
    monkeypatch.setenv("RECKONER_LANGUAGES", str(tmp_path))
    monkeypatch.setenv("RECKONER_LANGUAGE", "eo")
    monkeypatch.setattr(translation, "_window", ("en", translation._ENGLISH, b""))
    catalogues.install_language()
    assert translation.window_language() == "en"
    assert "eo.po cannot be read" in caplog.text
    caplog.clear()


def test_a_translation_that_fills_in_what_its_text_does_not_is_said_in_english(monkeypatch, tmp_path):
    (tmp_path / "eo.po").write_text(
        'msgid "{tool} is due"\nmsgstr "{ilo} baldaŭ"\n\nmsgid "{a:.1f} °C"\nmsgstr "{a:d} gradoj"\n\n'
        'msgid "{x} left"\nmsgstr "{x restas"\n\nmsgid "{y} right"\nmsgstr "dekstre"\n',
        encoding="utf-8",
    )
    monkeypatch.setenv("RECKONER_LANGUAGES", str(tmp_path))
    monkeypatch.setenv("RECKONER_LANGUAGE", "eo")
    monkeypatch.setattr(translation, "_window", ("en", translation._ENGLISH, b""))
    catalogues.install_language()
    assert translation.window_language() == "eo"
    said = tr("{tool} is due", tool="T-1"), tr("{a:.1f} °C", a=21.44), tr("{x} left", x=2), tr("{y} right", y=1)
    assert said == ("T-1 is due", "21.4 °C", "2 left", "dekstre")


def unpassed(tree):
    """The sentences of refusals and of the command line that do not pass the translation."""
    for node in ast.walk(tree):
        match node:
            case ast.Raise(exc=ast.Call(func=ast.Name(id=name)) as call) if not name.endswith(("Error", "OurFault")):
                left = [call]
            case ast.Call(func=ast.Attribute(attr="echo")):
                left = [node]
            case ast.keyword(arg="help", value=value):
                left = [value]
            case _:
                continue
        while left:
            match left.pop():
                case ast.Call(func=ast.Name(id="tr" | "tr_count" | "say")):
                    pass
                case ast.Constant(value=str(text)) if " " in text.strip():
                    yield text
                case other:
                    left += ast.iter_child_nodes(other)


OUR_FAULTS = {
    ", by what only reads",
    "list of values",
}


def test_every_refusal_and_every_word_of_the_command_line_passes_the_translation():
    found = {text for path in SOURCES for text in unpassed(ast.parse(path.read_text(encoding="utf-8")))}
    assert found == OUR_FAULTS


def blanks(text):
    return {re.match(r"\w+", name)[0] for _text, name, _spec, _how in string.Formatter().parse(text) if name}


def test_what_is_filled_in_is_what_a_text_has_blanks_for():
    wrong = []
    for path in SOURCES:
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            match node:
                case ast.Call(func=ast.Name(id="tr"), args=[ast.Constant(value=text)], keywords=given) if given:
                    found, wanted = {one.arg for one in given}, blanks(text)
                case ast.Call(func=ast.Name(id="tr_count"), args=[one, many, _n], keywords=given):
                    found, wanted = {a.arg for a in given} | {"n"}, blanks(one.value) | blanks(many.value) | {"n"}
                case _:
                    continue
            if found != wanted:
                wrong.append((path.name, node.lineno, found ^ wanted))
    assert wrong == []
