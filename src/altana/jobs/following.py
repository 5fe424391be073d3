"""Reading the journal of a run while it is written: whole lines only, each once; a damaged line is passed over."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

JOURNAL = "journal.jsonl"


class JournalFollower:
    """Follows the journal in a job's folder from its beginning."""

    def __init__(self, job: Path) -> None:
        self.job = job
        self._read_to = 0

    def events(self) -> list[dict[str, Any]]:
        """What was written since the last time; nothing while there is no journal."""
        try:
            with (self.job / JOURNAL).open("rb") as file:
                file.seek(self._read_to)
                data = file.read()
        except OSError:
            return []
        whole = data[: data.rfind(b"\n") + 1]
        self._read_to += len(whole)
        return [event for line in whole.splitlines() if (event := _event(line)) is not None]


def _event(line: bytes) -> dict[str, Any] | None:
    try:
        event = json.loads(line)
    except ValueError:
        return None
    return event if isinstance(event, dict) else None
