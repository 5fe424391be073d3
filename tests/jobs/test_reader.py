"""Processes that read one file and end."""

from __future__ import annotations

import subprocess
import sys
import weakref

import pytest

from altana.importers import memory
from altana.importers.memory import done_with, leave_to_the_end


class Held:
    """Stands for what a parser holds."""


def test_what_a_parser_holds_is_left_to_the_end_where_there_is_room(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(memory, "_until_the_end", None)

    def lives_on() -> bool:
        holder = Held()
        seen = weakref.ref(holder)
        done_with(holder)
        del holder
        return seen() is not None

    assert not lives_on()
    leave_to_the_end()
    monkeypatch.setattr(memory, "free_bytes", lambda: memory.PLENTY + 1)
    assert lives_on()
    monkeypatch.setattr(memory, "free_bytes", lambda: memory.PLENTY - 1)
    assert not lives_on()


def test_a_process_that_ends_at_once_has_said_everything() -> None:
    script = (
        "import sys; from altana.jobs.reader import end_at_once\n"
        "out, sys.stdout = sys.stdout.buffer, sys.stderr\n"
        "out.write(b'found'); print('said'); end_at_once(3)"
    )
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=False)
    assert (done.returncode, done.stdout, done.stderr) == (3, "found", "said\n")
