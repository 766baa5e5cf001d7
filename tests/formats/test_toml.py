"""Files that people write: a sentence for each mistake."""

from dataclasses import replace

import pytest

from reckoner.core.errors import InputRefused
from reckoner.formats import rulesets
from reckoner.shop.register import registerfile as register


def test_every_mistake_in_a_rule_set_is_named():
    text = """
    name = "Our own"
    title = "Ours"
    limits_of = "iso-6789-2017"
    colour = "blue"
    [points]
    of_maximum = ["60", "140 %"]
    [readings]
    each = 0
    by_tool = { "II Z" = 5 }
    [decision]
    rule = "majority"
    """
    with pytest.raises(rulesets.RuleSetRefused) as refusal:
        rulesets.parse(text, "ours.toml")
    said = "\n".join(refusal.value.mistakes)
    for words in (
        "source: is missing",
        "colour: is not a known key here",
        'points.of_maximum[0]: "60" has no unit',
        "points.of_maximum[1]:",
        "readings.each:",
        'readings.by_tool.II Z.[key]: "II Z" is not a type and class',
        "decision.rule:",
        "name:",
    ):
        assert words in said


def test_a_users_own_rule_set_may_build_on_a_shipped_one():
    own = rulesets.parse(
        'name="ours"\ntitle="Ours"\nsource="the shop"\nlimits_of="iso-6789-2003"\n[points]\nof_maximum=["50 %"]'
    )
    assert own.limits == rulesets.shipped("iso-6789-2003").limits
    with pytest.raises(rulesets.RuleSetRefused, match='no rule set named "nowhere"'):
        rulesets.parse('name="ours"\ntitle="O"\nsource="s"\nlimits_of="nowhere"\n[points]\nof_maximum=["50 %"]')
    with pytest.raises(rulesets.RuleSetRefused, match="not a TOML file"):
        rulesets.parse("= nothing")


def test_every_mistake_in_a_register_is_named(tmp_path):
    text = '[[tools]]\nnumer = "1"\nmodel = "x"\n[[references]]\nnumber = "M"\nminimum = 5\nmaximum = "fifty"'
    with pytest.raises(register.RegisterRefused) as refusal:
        register.parse(text)
    said = "\n".join(refusal.value.mistakes)
    for words in (
        "tools[0].number: is missing",
        "tools[0].numer: is not a known key here",
        "references[0].minimum: write it",
    ):
        assert words in said
    assert 'references[0].maximum: "fifty" is not a torque' in said
    beyond = '[[lengths]]\nnumber = "R"\ngraduation = "9 m"\n[[levels]]\nnumber = "L"\nangle_uncertainty = "0 deg"'
    with pytest.raises(
        register.RegisterRefused, match=r"cannot be more than 5000\u202fmm.*has to be more than 0\u202f°"
    ):
        register.parse(beyond)
    with pytest.raises(register.RegisterRefused, match="cannot be read"):
        register.read_tables(tmp_path / "nowhere.toml")


def test_a_rule_set_of_ones_own_is_checked_at_the_command_line_and_used_by_the_verdict(tmp_path):
    from click.testing import CliRunner

    from reckoner.cli.calculators import rules
    from reckoner.formats.calculators import calculate

    file = tmp_path / "ours.toml"
    file.write_text(
        'name="ours"\ntitle="Ours"\nsource="the shop"\nlimits_of="iso-6789-2003"\n[points]\nof_maximum=["5"]'
    )
    refused = CliRunner().invoke(rules, [str(file)])
    assert (refused.exit_code, refused.stdout) == (2, "")
    assert 'points.of_maximum[0]: "5" has no unit' in refused.stderr
    request = {
        "tool": {"type": "I", "class": "B", "max": "10 N.m"},
        "reference": {"expanded_uncertainty": "0.9 %"},
        "points": [{"target": "5 N.m", "readings": ["5 N.m", "5.01 N.m"]}],
        "rule_set": str(file),
    }
    with pytest.raises(InputRefused, match="rule_set: points"):
        calculate("verdict", request)
    file.write_text(file.read_text().replace('"5"', '"50 %"'))
    assert "Ours (ours): points 50 %; 5 readings each" in CliRunner().invoke(rules, [str(file)]).output
    assert calculate("verdict", request)["limit_percent"] == pytest.approx(4)


@pytest.mark.parametrize(
    ("name", "of_tool", "as_in"),
    [
        ("iso-6789-2003", "iso-6789-2017", "iso-6789-2003"),
        ("quick-check", "iso-6789-2003", "iso-6789-2003"),
        ("quick-check", "working-range", "iso-6789-2017"),
        ("working-range", "iso-6789-2003", "iso-6789-2017"),
    ],
)
def test_the_text_kept_with_a_run_needs_no_other_rule_set_and_a_quick_check_follows_the_tools(name, of_tool, as_in):
    kept = rulesets.whole_text(name, of_tool)
    assert "limits_of" not in kept
    assert rulesets.parse(kept) == replace(rulesets.shipped(name), limits=rulesets.shipped(as_in).limits)
