"""Several processes of this machine as a cluster of its own: a scheduler and workers that end with whoever
started them."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager

from altana.core.errors import UserError
from altana.storage.cache import cache_folder

#: So long the scheduler may take to begin.
BEGIN_S = 60
MOST = 256


@contextmanager
def local_cluster(count: int) -> Iterator[str]:
    """The address of a scheduler with ``count`` workers, each with its share of the cores.  Raises
    UserError."""
    if not 1 <= count <= MOST:
        raise UserError(f"{count} machines are outside 1 to {MOST}. Nothing was begun.")
    own, started = str(os.getpid()), []
    threads = max(1, (os.cpu_count() or 1) // count)
    try:
        scheduler = _started("scheduler", "--listen", "tcp://127.0.0.1:0", "--json", "--parent", own)
        started.append(scheduler)
        assert scheduler.stdout is not None
        line = scheduler.stdout.readline()
        if not line:
            raise UserError(
                "The processes that share the work did not begin. Nothing was made. Leave --machines away."
            )
        address: str = json.loads(line)["address"]
        for number in range(count):
            # They are this machine's own, and share what it keeps.
            cache = ("--cache", str(cache_folder()))
            words = ("--threads", str(threads), "--name", f"process {number + 1}", "--parent", own, *cache)
            started.append(_started("worker", address, *words))
        yield address
    finally:
        for process in reversed(started):
            process.terminate()
        for process in started:
            try:
                process.wait(5)
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()
            if process.stdout is not None:
                process.stdout.close()


def _started(*words: str) -> subprocess.Popen[str]:
    return subprocess.Popen(
        [sys.executable, "-m", "altana", *words], stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True
    )
