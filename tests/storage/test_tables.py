"""Colour tables of a project's folder, kept and read again."""

from __future__ import annotations

import os
from pathlib import Path

import pytest

from altana.core.errors import UserError
from altana.core.light.tables import ColourTable
from altana.core.project import NO_TONE, Tone
from altana.storage import tables
from altana.storage.tables import KeptTables

TURNED, PLAIN = "LUT_1D_SIZE 2\n1 1 1\n0 0 0\n", "LUT_1D_SIZE 2\n0 0 0\n1 1 1\n"


def first_of(table: ColourTable | None) -> float:
    assert table is not None
    return float(table.values.reshape(-1)[0])


def test_a_table_is_read_once_and_again_when_its_file_has_changed(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    reads = []
    monkeypatch.setattr(
        tables, "read_table", lambda path, read=tables.read_table: (reads.append(path.name), read(path))[1]
    )
    tone, kept = Tone(table="a.cube", table_share=0.5), KeptTables(tmp_path)
    assert kept.of(NO_TONE) is None
    assert kept.of(Tone(table="a.cube", table_share=0.0)) is None
    # One that is not there is looked for once, until it comes.
    for _ in range(2):
        with pytest.raises(UserError, match=r"a\.cube is not there"):
            kept.of(tone)
        kept.recheck()
    assert reads == ["a.cube"]
    path = tmp_path / "a.cube"
    path.write_text(TURNED)
    kept.recheck()
    assert first_of(kept.of(tone)) == 1.0
    path.write_text(PLAIN)
    os.utime(path, ns=(1, 1))
    # A run keeps what it has read; only who asks for it sees the change.
    assert first_of(kept.of(tone)) == 1.0
    kept.recheck()
    assert first_of(kept.of(tone)) == 0.0
    assert reads == ["a.cube"] * 3


def test_a_table_outside_the_projects_folder_is_never_looked_at(tmp_path: Path) -> None:
    (tmp_path / "a.cube").write_text(PLAIN)
    (tmp_path / "project").mkdir()
    kept = KeptTables(tmp_path / "project")
    with pytest.raises(UserError, match="does not lie in the project's folder"):
        kept.of(Tone(table="../a.cube", table_share=1.0))
    kept.recheck()
