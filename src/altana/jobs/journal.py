"""The journal of a run: one line of JSON for each thing that happens, read by whoever follows it."""

from __future__ import annotations

import json
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from altana.core.progress import Telling


@dataclass(slots=True)
class Journal:
    """Appends events to the job's journal; without a folder it only passes progress on."""

    folder: Path | None
    telling: Telling | None = None
    started: float = field(default_factory=time.monotonic)

    def write(self, event: str, **facts: Any) -> None:
        """One line."""
        if self.folder is None:
            return
        line = json.dumps({"event": event, "seconds": round(time.monotonic() - self.started, 2), **facts})
        with (self.folder / "journal.jsonl").open("a", encoding="utf-8") as file:
            file.write(line + "\n")

    def progress(self, share: float, label: str, part: float = 0.0) -> None:
        """How far the run is, 0 to 1, what it works on, and how far that is."""
        self.write("progress", share=round(share, 4), label=label, part=round(part, 4))
        if self.telling is not None:
            self.telling(share, label)
