"""What comes from outside is bounded: a sentence within a moment, whatever the path names and whatever stands in it."""

import os
import subprocess
import sys

import pytest

from reckoner.formats import rulesets
from reckoner.formats.files import TextRefused, read_text, read_toml
from reckoner.shop.register import registerfile as register
from tests.support.runs import REGISTER


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("x = " + "[" * 5000 + "]" * 5000, "nested too deeply"),
        ("x = " + "7" * 5000, "a number that cannot be read"),
        ("x = ", "not a TOML file"),
    ],
)
def test_a_text_beyond_all_use_is_refused(text, words):
    with pytest.raises(TextRefused, match=words):
        read_toml(text)
    with pytest.raises(register.RegisterRefused, match=words):
        register.parse(text)
    with pytest.raises(rulesets.RuleSetRefused, match=words):
        rulesets.parse(text)


def test_a_byte_order_mark_is_no_part_of_the_text(tmp_path):
    file = tmp_path / "shop.toml"
    file.write_text(REGISTER, encoding="utf-8-sig")
    assert register.validate(register.read_tables(file)) == register.parse(REGISTER)


def test_what_is_no_plain_small_text_is_refused_by_the_command_at_once(tmp_path):
    large, binary, folder = tmp_path / "large", tmp_path / "binary", tmp_path / "folder"
    with large.open("wb") as file:
        file.truncate(30_000_000)
    binary.write_bytes(b"\xff\xfe\x00")
    folder.mkdir()
    for path, words in (("/dev/zero", "a device"), (large, "larger than 20 MB"), (binary, "not UTF-8")):
        done = subprocess.run(
            [sys.executable, "-m", "reckoner", "import", str(path), "--data", str(tmp_path / "data")],
            capture_output=True, text=True, timeout=120,
        )  # fmt: skip
        assert (done.returncode, "Traceback" in done.stderr) == (2, False)
        assert words in done.stderr
    os.mkfifo(tmp_path / "pipe")
    for path in (folder, tmp_path / "pipe"):
        with pytest.raises(TextRefused, match="a pipe or a folder"):
            read_text(path)


def test_a_register_names_only_links_of_known_kinds(tmp_path):
    file = tmp_path / "shop.toml"
    file.write_text(REGISTER + 'link = "spy:///dev/ttyS0?file=/etc/hosts"\n')
    done = subprocess.run(
        [sys.executable, "-m", "reckoner", "import", str(file), "--data", str(tmp_path / "data")],
        capture_output=True, text=True, timeout=120,
    )  # fmt: skip
    assert done.returncode == 2
    assert "is of no known kind" in done.stderr
