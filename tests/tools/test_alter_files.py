"""Files from elsewhere that were altered at random are read, or refused in a sentence: a sample of what the tool tries."""

import sys
from pathlib import Path

sys.path.append(str(Path(__file__).parents[2] / "tools"))
from alter_files import main


def test_none_ends_otherwise(capsys):
    assert main(25, []) == 0, capsys.readouterr().out
    told = capsys.readouterr().out.splitlines()
    assert len(told) == 13
    assert all(line.endswith(" 0 otherwise") for line in told)
