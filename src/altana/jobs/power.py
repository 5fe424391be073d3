"""Switching the machine off when a run is over, after a countdown in which anyone may say no.

``ALTANA_SWITCH_OFF`` names another command than the system's own; ``pretend`` is a stand-in that only says
so.
"""

from __future__ import annotations

import os
import shlex
import subprocess
import time
from collections.abc import Callable
from pathlib import Path

from altana.core.progress import Telling
from altana.jobs.job_files import KEEP_ON_FILE, SWITCH_OFF_FILE

COUNTDOWN_S = 60.0
PRETEND = "pretend"
#: What the countdown's sentences are told to: the seconds left, and what is to be said.


def wanted(job: Path | None, asked: bool) -> bool:
    """Whether a run is to end with switching off."""
    return asked or (job is not None and (job / SWITCH_OFF_FILE).exists())


def switch_off(
    job: Path | None, progress: Telling, stop: Callable[[], bool], seconds: float = COUNTDOWN_S
) -> bool:
    """Count down and switch the machine off; False where someone kept it on, or it could not be.

    progress : often, with the seconds left; at the end with 0 and what came of it.
    """
    until = time.monotonic() + seconds
    while (left := until - time.monotonic()) > 0.0:
        if stop() or (job is not None and (job / KEEP_ON_FILE).exists()):
            progress(0.0, "The machine stays on.")
            return False
        progress(left, f"The machine is switched off in {left:.0f} s.")
        time.sleep(min(1.0, left))
    command = os.environ.get("ALTANA_SWITCH_OFF") or "systemctl poweroff"
    if command == PRETEND:
        progress(0.0, "The machine would be switched off now.")
        return True
    try:
        done = subprocess.run(shlex.split(command), check=False, capture_output=True, text=True, timeout=30)
        wrong = done.stderr.strip().splitlines()[-1] if done.returncode and done.stderr.strip() else ""
        good = done.returncode == 0
    except (OSError, ValueError, subprocess.TimeoutExpired) as error:
        good, wrong = False, str(error)
    progress(
        0.0,
        "The machine is switched off."
        if good
        else f"The machine could not be switched off: {wrong or 'its command failed'}.",
    )
    return good
