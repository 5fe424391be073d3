"""A run as it was ordered: written, read again, and told to the command."""

from __future__ import annotations

import json
import os
from dataclasses import replace
from pathlib import Path

import pytest

from altana.app.workspace.ordered import ORDERED_FILE, Ordered, Where, read_ordered, write_ordered

ORDERED = Ordered("/made", "/project", ("shot-01",), ("one.png",), True, "proof", "larkwater.altana")


def test_it_is_read_as_it_was_written_whatever_its_folders_are_called(tmp_path: Path) -> None:
    odd = replace(ORDERED, out=os.fsdecode(b"/made/\xff\xfe"), where=Where(3))
    write_ordered(tmp_path, odd)
    assert read_ordered(tmp_path) == odd


@pytest.mark.parametrize(
    "content",
    ["", "{", "[]", '{"out": "/made"}', json.dumps({"out": "a", "base": "b", "shots": 3, "files": []})],
)
def test_what_cannot_be_read_is_no_order(tmp_path: Path, content: str) -> None:
    assert read_ordered(tmp_path) is None
    (tmp_path / ORDERED_FILE).write_text(content)
    assert read_ordered(tmp_path) is None


def test_the_command_is_told_all_of_it() -> None:
    job = Path("/job")
    words = ORDERED.words(job)
    assert words[0] == "/job/project.altana"
    assert words[words.index("--shot") + 1] == "shot-01" and words[words.index("--quality") + 1] == "proof"
    assert "--test" in words and "--machines" not in words
    assert replace(ORDERED, where=Where(3)).words(job)[-2:] == ["--machines", "3"]
    lent = replace(ORDERED, where=Where(address="tcp://other:8786", shared="/common")).words(job)
    assert lent[-4:] == ["--on", "tcp://other:8786", "--shared", "/common"]
