"""A small slice of the torture of files (`scripts/torture`): nothing fails in a few seconds of each kind."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
KINDS = ("kills while saving", "full disks", "cameras added by several at once", "mutated projects")


@pytest.mark.slow
def test_a_few_seconds_of_torture_break_nothing(demo_files: Path, tmp_path: Path) -> None:
    known = {**os.environ, "ALTANA_DEMO": str(demo_files), "ALTANA_SEED": "7", "TMPDIR": str(tmp_path)}
    command = [sys.executable, str(ROOT / "benchmarks" / "torture.py"), "0.04", *KINDS]
    done = subprocess.run(command, env=known, capture_output=True, text=True, timeout=600, check=False)
    assert done.returncode == 0, done.stdout + done.stderr
    rows = [
        line.split("|") for line in done.stdout.splitlines() if line.startswith("| ") and "what" not in line
    ]
    assert [row[1].strip() for row in rows] == list(KINDS)
    assert all(int(row[2]) >= 3 and int(row[3]) == 0 for row in rows), done.stdout
