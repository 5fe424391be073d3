"""Keeping the machine awake while something is made, by the system's own inhibitor; it ends with whoever
asked, however that ends."""

from __future__ import annotations

import shutil
import subprocess
from collections.abc import Iterator
from contextlib import contextmanager

#: The program that holds the machine awake as long as the one that it starts lives.
INHIBITOR = "systemd-inhibit"


@contextmanager
def kept_awake(wanted: bool, why: str) -> Iterator[bool]:
    """Whether the machine is kept awake inside: not where nobody wants it, or the system has no inhibitor.
    why : told to people."""
    program = shutil.which(INHIBITOR) if wanted else None
    if program is None:
        yield False
        return
    # It waits for the end of its input, which comes when this process ends, also by a kill.
    words = [program, "--what=idle:sleep", "--who=Altana", f"--why={why}", "--mode=block", "cat"]
    try:
        holder = subprocess.Popen(
            words, stdin=subprocess.PIPE, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )
    except OSError:
        yield False
        return
    try:
        # Where the system refuses, it says so at once.
        try:
            holder.wait(0.3)
            awake = False
        except subprocess.TimeoutExpired:
            awake = True
        yield awake
    finally:
        if holder.stdin is not None:
            holder.stdin.close()
        try:
            holder.wait(5)
        except subprocess.TimeoutExpired:
            holder.kill()
            holder.wait()
