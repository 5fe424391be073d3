"""A journal is read while it is written: whole lines, each once."""

from __future__ import annotations

from pathlib import Path

from altana.jobs.following import JOURNAL, JournalFollower


def test_lines_come_whole_and_once_and_damaged_ones_are_passed_over(tmp_path: Path) -> None:
    follower = JournalFollower(tmp_path)
    assert follower.events() == []
    with (tmp_path / JOURNAL).open("wb") as file:
        file.write(b'{"event": "start"}\n{"event": "prog')
        file.flush()
        assert [event["event"] for event in follower.events()] == ["start"]
        assert follower.events() == []
        file.write(b'ress", "share": 0.5}\nnonsense\n[1]\n{"event": "done"}\n')
        file.flush()
        assert [event["event"] for event in follower.events()] == ["progress", "done"]
    assert follower.events() == []
    # Another one begins from the beginning.
    assert len(JournalFollower(tmp_path).events()) == 3
