"""Which Altana this is: its version, and the build it comes from."""

from __future__ import annotations

import subprocess
from functools import lru_cache
from pathlib import Path

from altana import __version__

#: Written by ``scripts/package``: the revision and its date, as they are said.
BUILD_FILE = Path(__file__).parent / "build.txt"


@lru_cache(maxsize=1)
def build_words() -> str:
    """The revision and its date; from the file that packages carry, else of the checkout it runs from; empty
    where neither is."""
    try:
        return BUILD_FILE.read_text(encoding="utf-8").strip()
    except OSError:
        pass
    root = Path(__file__).parents[2]
    if not (root / ".git").exists():
        return ""
    try:
        command = ["git", "-C", str(root), "log", "-1", "--format=%h of %cs"]
        output = subprocess.run(command, capture_output=True, text=True, check=True, timeout=5)
    except (OSError, subprocess.SubprocessError):
        return ""
    return output.stdout.strip()


def version_words() -> str:
    """``0.1.0 (build c2529fb of 2026-11-28)``."""
    return f"{__version__} (build {build_words()})" if build_words() else __version__
