"""Every kind of file against a parser that shares no code with Altana: triangles, surface, box.  The table in
docs/formats.md comes from the same."""

from __future__ import annotations

from pathlib import Path

import pytest

from altana.core.model import Model
from altana.importers.table import read_model
from benchmarks.model_book import BEGIN, END, PARSERS, difference, own, picture
from tests.conftest import ROOT
from tests.importers.samples import SUFFIXES, write, write_faces_dxf, write_scan

HOUSE = ROOT.parent / "shared/models/real-house.ifc"
COMPARED = [
    suffix for suffix in SUFFIXES if suffix in PARSERS and suffix not in (".dxf", ".las", ".laz", ".ifc")
]


@pytest.mark.parametrize("suffix", COMPARED)
def test_another_parser_finds_the_same(suffix: str, tmp_path: Path) -> None:
    path = write(tmp_path, suffix)
    model = read_model(path, 1.0 if suffix in (".obj", ".stl", ".ply", ".off") else 0.0)[0]
    assert difference(path, own(model))[1] == "the same"


def test_another_parser_finds_the_same_faces_and_points(tmp_path: Path) -> None:
    write_faces_dxf(tmp_path / "f.dxf")
    write_scan(tmp_path / "s.las")
    for name in ("f.dxf", "s.las"):
        assert difference(tmp_path / name, own(read_model(tmp_path / name)[0]))[1] == "the same"


@pytest.mark.slow
@pytest.mark.skipif(not HOUSE.is_file(), reason="a model that nobody here made is not on this machine")
def test_the_real_house() -> None:
    model = read_model(HOUSE)[0]
    told = difference(HOUSE, own(model))[1]
    # Two kernels cut faces into triangles each in its own way; surface and box are the same.
    assert "m²" not in told and "box" not in told
    by_name = {room.name: room for room in model.rooms}
    assert len(by_name) == 7
    upper = by_name["Galerie"]
    assert upper.storey_id == model.storeys[1].id and upper.ceiling_m - upper.floor_m > 2.0
    furniture = [item for item in model.objects if item.category == "Furniture"]
    assert len(furniture) == 21 and {item.storey_id for item in furniture} <= {
        storey.id for storey in model.storeys
    }
    assert (
        model.place is not None
        and model.place.latitude_deg == pytest.approx(52.5167, abs=1e-3)
        and model.place.longitude_deg == pytest.approx(13.4)
    )


def test_the_table_in_the_docs_is_there() -> None:
    text = (ROOT / "docs/formats.md").read_text()
    table = text[text.index(BEGIN) : text.index(END)]
    assert all(f"({suffix[1:]})" in table for suffix in COMPARED)


def test_a_picture_of_a_model_shows_it(room: Model) -> None:
    seen = picture(room)
    assert len(seen.getcolors(1_000_000) or ()) > 50
