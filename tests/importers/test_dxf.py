"""Drawings that a small file makes endless: blocks in blocks, arrays of blocks."""

from __future__ import annotations

from pathlib import Path

import pytest

from altana.importers import dxf as dxf_module


def doubled(levels: int) -> str:
    """Blocks of which each holds the one before twice."""
    lines = ["0", "SECTION", "2", "BLOCKS"]
    for level in range(levels):
        lines += ["0", "BLOCK", "2", f"B{level}", "10", "0", "20", "0"]
        if level == 0:
            lines += ["0", "LINE", "8", "0", "10", "0", "20", "0", "11", "1", "21", "1"]
        else:
            for x in ("0", "1"):
                lines += ["0", "INSERT", "2", f"B{level - 1}", "10", x, "20", "0"]
        lines += ["0", "ENDBLK"]
    lines += [
        "0",
        "ENDSEC",
        "0",
        "SECTION",
        "2",
        "ENTITIES",
        "0",
        "INSERT",
        "2",
        f"B{levels - 1}",
        "10",
        "0",
        "20",
        "0",
    ]
    return "\n".join([*lines, "0", "ENDSEC", "0", "EOF", ""])


def test_blocks_in_blocks_and_arrays_of_blocks_come_to_an_end(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(dxf_module, "FEW_ENTITIES", 3_000)
    nested, array = tmp_path / "nested.dxf", tmp_path / "array.dxf"
    nested.write_text(doubled(30))
    once = doubled(1)
    array.write_text(
        once.replace(
            "INSERT\n2\nB0\n10\n0\n20\n0", "INSERT\n2\nB0\n10\n0\n20\n0\n70\n30000\n71\n30000\n44\n1\n45\n1"
        )
    )
    for path in (nested, array):
        raw, _ = dxf_module.read_dxf(path)
        assert any("thousand things once its blocks are placed" in item.sentence for item in raw.problems)
