"""A beam's scale on paper: its size is true, its marks stand where they should, and its words can be read."""

import io
import math
import re
from itertools import pairwise

import pytest
from pypdf import PdfReader

from reckoner.core.adjusting.beamscale import Mark
from reckoner.core.quantities.units import N_M
from reckoner.formats.files import FileNotWritten, write_whole
from reckoner.formats.papers.beamscale_pdf import ScalePage, ScaleTooLong, scale_pdf

MM = 72 / 25.4


def page(radius=None, step=0.0031, count=13):
    marks = tuple(Mark(5.0 * i, 0.0001 + step * i) for i in range(count))
    return ScalePage("Scale of B-1", ("Made on 24 Nov 2026 by R. K., against PM-5.", "straight"), marks, N_M, radius)


def drawn(data):
    """The lines on the page in mm, as (x, y, x, y), and its size in mm."""
    sheet = PdfReader(io.BytesIO(data)).pages[0]
    content = sheet.get_contents().get_data().decode("latin-1")
    scale = re.findall(r"([\d.]+) 0 0 \1 0 0 cm", content)[-1]
    assert float(scale) == pytest.approx(MM, rel=1e-5)
    lines = re.findall(r"n ([-\d.]+) ([-\d.]+) m ([-\d.]+) ([-\d.]+) l S", content)
    size = float(sheet.mediabox.width) / MM, float(sheet.mediabox.height) / MM
    return [tuple(map(float, line)) for line in lines], size


def test_a_straight_scale_has_its_true_size_and_a_line_to_verify_it_by():
    lines, size = drawn(scale_pdf(page()))
    assert size == pytest.approx((210, 297), abs=0.1)
    flat = [round(x2 - x1, 3) for x1, y1, x2, y2 in lines if y1 == y2]
    assert 100.0 in flat  # the line that is measured on the print
    assert pytest.approx(37.2, abs=1e-3) in flat  # twelve steps of 3.1 mm
    marks = [x1 for x1, y1, x2, y2 in lines if x1 == x2][-13:]
    between = [b - a for a, b in pairwise(marks)]
    assert between == pytest.approx([3.1] * 12, abs=1e-3)
    text = PdfReader(io.BytesIO(scale_pdf(page()))).pages[0].extract_text()
    for words in ("Scale of B-1", "against PM-5", "it is 100 mm long", "50", "N·m"):
        assert words in text
    assert "5\n10\n15" not in text  # three millimetres apart not every mark is numbered


def test_marks_along_an_arc_stand_at_their_angles_and_where_it_turns_is_marked():
    lines, _size = drawn(scale_pdf(page(radius=0.12)))
    spokes = lines[-15:-2]
    cx, cy = lines[-1][0], (lines[-1][1] + lines[-1][3]) / 2  # the cross where the pointer turns
    for x1, y1, _x2, _y2 in spokes:
        assert math.hypot(x1 - cx, y1 - cy) == pytest.approx(120, abs=0.01)
    angles = [math.atan2(y1 - cy, x1 - cx) for x1, y1, _x2, _y2 in spokes]
    steps = [a - b for a, b in pairwise(angles)]
    assert steps == pytest.approx([3.1 / 120] * 12, rel=1e-3)


def test_what_does_not_fit_is_said_and_a_longer_one_lies_across():
    _lines, size = drawn(scale_pdf(page(step=0.018)))
    assert size == pytest.approx((297, 210), abs=0.1)
    with pytest.raises(ScaleTooLong, match=r"300.mm long, and a page has room for 259.mm"):
        scale_pdf(page(step=0.025))
    with pytest.raises(ScaleTooLong):
        scale_pdf(page(radius=0.02, step=0.006))


def test_a_file_that_cannot_be_written_leaves_what_was_there(tmp_path):
    there = tmp_path / "scale.pdf"
    write_whole(there, b"one")
    write_whole(there, b"two")
    assert there.read_bytes() == b"two"
    with pytest.raises(FileNotWritten, match="Choose another place"):
        write_whole(tmp_path / "none" / "scale.pdf", b"three")
    assert [p.name for p in tmp_path.iterdir()] == ["scale.pdf"]
