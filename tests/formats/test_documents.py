"""Records as documents: what a document lacks has its default, what is wrong in it is named by its place."""

import pytest

from reckoner.core.quantities.units import N_M, Kind, unit_named
from reckoner.core.requirements.limits import read_limit
from reckoner.core.requirements.tooltypes import Approach, Direction, Mechanism, ToolKind, ToolType
from reckoner.formats.documents import DocumentUnreadable, from_plain, to_plain
from reckoner.shop.facts.tool import SecondScale, ToolFacts

KIND = ToolKind(ToolType.SETTING, "A", 200.0, 40.0, 1.0, (read_limit("6 % below 20 %, 4 % above", "limit"),))
TOOL = ToolFacts(
    7, "W-1", "S 1", "Skerrivane", "X-200", KIND, Mechanism.CLICK, N_M, "½ in", (Direction.CW,), Approach.FROM_BELOW,
    "Workshop", "iso-6789-2017", None, second=SecondScale(unit_named("lbf.ft", Kind.TORQUE), None), lever=0.412,
)  # fmt: skip


def test_a_record_comes_back_as_it_was_a_unit_by_its_name():
    told = to_plain(TOOL)
    assert (told["unit"], told["second"], told["kind"]["type"]) == ("N.m", {"unit": "lbf.ft", "resolution": None}, "II")
    assert from_plain(ToolFacts, told) == TOOL


def test_a_field_that_comes_later_leaves_the_documents_before_it_readable():
    told = to_plain(TOOL)
    del told["main_graduation"], told["storage"]
    assert from_plain(ToolFacts, told | {"of_a_newer_one": 1}) == TOOL


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda told: told.pop("number"), "it lacks 'number'"),
        (lambda told: told.update(lever="long"), "^a document that was kept cannot be read: lever: "),
        (lambda told: told["kind"].update(maximum=-1.0), "max"),
        (lambda told: told["kind"]["limits"][0].update(zones=[]), "tolerance_percent"),
        (lambda told: told.update(unit="furlong"), "furlong"),
    ],
)
def test_what_is_wrong_is_named(change, words):
    told = to_plain(TOOL)
    change(told)
    with pytest.raises(DocumentUnreadable, match=words):
        from_plain(ToolFacts, told)
