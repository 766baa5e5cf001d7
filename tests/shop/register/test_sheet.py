"""A tool's sheet reads the newest of a long history, and says the same as all of it would."""

import pytest

from reckoner.shop.register import sheet as sheets
from reckoner.shop.register.cards import cards
from reckoner.shop.register.trends import trends
from reckoner.store.reader import reader_of


@pytest.fixture
def short(monkeypatch):
    def cut():
        monkeypatch.setattr(sheets, "MOST_RUNS", 2)
        monkeypatch.setattr(sheets, "STORY_PAGE", 2)

    return cut


def test_the_pages_of_a_story_are_the_whole_of_it_and_drifts_are_fitted_to_all_results(demo, short):
    with demo.session() as session:
        reader = reader_of(session)
        tools = [card.tool for card in cards(reader)]
        whole = {tool.id: sheets.sheet(reader, tool.id) for tool in tools}
        drifts = {tool.id: trends(reader, whole[tool.id]) for tool in tools}
        short()
        cut = 0
        for tool in tools:
            found, all_of_it = sheets.sheet(reader, tool.id), whole[tool.id]
            assert found.runs == all_of_it.runs[-len(found.runs) :] if found.runs else not all_of_it.runs[-2:-1]
            assert found.dated == all_of_it.dated
            assert trends(reader, found) == drifts[tool.id]
            lines = list(found.happenings)
            while page := sheets.story(reader, tool.id, tool.unit, lines[-1].sequence if lines else 1):
                lines += page
            assert tuple(lines) == all_of_it.happenings
            cut += not found.whole
        assert cut > 3
