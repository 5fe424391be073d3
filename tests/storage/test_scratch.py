"""Folders for a while are gone afterwards, and those of processes that were killed are cleared away by the
next."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from pathlib import Path

import pytest

from altana.storage.scratch import PREFIX, new_scratch, scratch_folder

USER = """
import sys
from pathlib import Path
from altana.storage.scratch import new_scratch
print(new_scratch(Path(sys.argv[1])), flush=True)
sys.stdin.read()
"""


def test_it_is_gone_afterwards_whatever_happens(tmp_path: Path) -> None:
    def stumble() -> None:
        with scratch_folder(tmp_path) as folder:
            (folder / "half.png").write_bytes(b"x")
            raise RuntimeError("stumbled")

    with pytest.raises(RuntimeError, match="stumbled"):
        stumble()
    assert list(tmp_path.iterdir()) == []


def test_what_a_killed_process_left_is_cleared_away_and_nothing_else(tmp_path: Path) -> None:
    elsewhere = tmp_path / f"{PREFIX}h0123456789ab.1.x"
    elsewhere.mkdir()
    (tmp_path / "mine.txt").write_text("stays")
    with subprocess.Popen(
        [sys.executable, "-c", USER, str(tmp_path)], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
    ) as process:
        assert process.stdout is not None
        left = Path(process.stdout.readline().strip())
        (left / "half.png").write_bytes(b"x")
        own = new_scratch(tmp_path)
        assert left.is_dir(), "its process lives"
        process.send_signal(signal.SIGKILL)
        process.wait()
    with scratch_folder(tmp_path):
        assert left.exists(), "somebody who outlives it may still write there"
    for path in (left / "half.png", left):
        os.utime(path, (0, 0))
    with scratch_folder(tmp_path):
        assert not left.exists()
    assert sorted(tmp_path.iterdir()) == sorted([elsewhere, own, tmp_path / "mine.txt"])
