"""What is known of each machine, and what is said when none is there any more."""

from __future__ import annotations

from dataclasses import dataclass

from altana.jobs.elsewhere import MachinesGone


@dataclass(slots=True)
class MachineFacts:
    """What one machine did: pieces, seconds in them, bytes that came to it, and what failed there last."""

    pieces: int = 0
    seconds: float = 0.0
    fetched: int = 0
    trouble: str = ""


def gone() -> MachinesGone:
    """The error for a run whose scheduler does not answer any more."""
    return MachinesGone(
        "The scheduler is gone. What was finished is kept; start the run once more with --resume."
    )
