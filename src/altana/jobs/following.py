"""Reading the journal of a run while it is written: whole lines only, each once; a damaged line is passed
over; and what it comes to."""

from __future__ import annotations

import json
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

JOURNAL = "journal.jsonl"
WAITING, DRAWING, MADE, ASIDE, OUT = "waiting", "drawing", "made", "set aside", "taken out"


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


@dataclass(slots=True)
class Piece:
    """What is known of one file: its state, the share done, how long it took, and why it was set aside."""

    state: str = WAITING
    share: float = 0.0
    took: float = 0.0
    sentence: str = ""


@dataclass(slots=True)
class MachineShare:
    """What one of several machines did in a run: pieces, seconds in them, bytes that came to it, what it did
    last, and what failed."""

    pieces: int = 0
    seconds: float = 0.0
    fetched: int = 0
    last: str = ""
    trouble: str = ""


@dataclass(slots=True)
class State:
    """A run as its journal tells it."""

    pieces: dict[str, Piece] = field(default_factory=dict)
    share: float = 0.0
    label: str = ""
    #: How far the piece in hand is.
    part: float = 0.0
    paused: str = ""
    ended: str = ""
    sentence: str = ""
    process: int = 0
    #: Seconds since the process began, by its last line.
    spent: float = 0.0
    #: All is made and the machine is about to be switched off: what is said of it; empty while that is not
    #: so.
    off: str = ""
    #: Who did what, by name, where several machines make it; and what is said of all of them.
    machines: dict[str, MachineShare] = field(default_factory=dict)
    waiting: str = ""
    #: Whether the machine is kept from falling asleep.
    awake: bool = False

    def take(self, event: dict[str, Any]) -> None:
        """One line of the journal."""
        kind, file = event.get("event"), str(event.get("file", ""))
        self.spent = float(event.get("seconds", self.spent))
        if kind == "start":
            self.process, self.ended, self.paused = int(event.get("process", 0)), "", ""
            self.awake = bool(event.get("awake", False))
        elif kind == "progress":
            self.share, self.label, self.part = (
                float(event["share"]),
                str(event["label"]),
                float(event.get("part", 0.0)),
            )
        elif kind == "begin":
            self.pieces.setdefault(file, Piece()).state = DRAWING
        elif kind == "piece":
            piece = self.pieces.setdefault(file, Piece())
            piece.state, piece.share, piece.took = MADE, 1.0, float(event.get("took", 0.0))
        elif kind == "aside":
            piece = self.pieces.setdefault(file, Piece())
            piece.state, piece.sentence = ASIDE, str(event.get("sentence", ""))
        elif kind == "out":
            self.pieces.setdefault(file, Piece()).state = OUT
        elif kind in ("helped", "trouble"):
            self._of_machine(kind, event)
        elif kind == "paused":
            self.paused = str(event.get("sentence", "Paused."))
        elif kind == "going":
            self.paused = ""
        elif kind == "off":
            self.off = str(event.get("sentence", ""))
            if float(event.get("left", 0.0)) <= 0.0:
                self.sentence, self.off = self.off, ""
        elif kind in ("done", "failed", "cancelled"):
            self.ended, self.sentence = str(kind), str(event.get("sentence", ""))

    def _of_machine(self, kind: str, event: dict[str, Any]) -> None:
        name, sentence = str(event.get("machine", "")), str(event.get("sentence", ""))
        if not name:
            self.waiting = sentence
            return
        share = self.machines.setdefault(name, MachineShare())
        if kind == "trouble":
            share.trouble = sentence
            return
        self.waiting = ""
        share.pieces, share.last = share.pieces + 1, str(event.get("label", ""))
        share.seconds += float(event.get("took", 0.0))
        share.fetched += int(event.get("fetched", 0))

    def count(self, state: str) -> int:
        """How many files are in a state."""
        return sum(piece.state == state for piece in self.pieces.values())

    def summary(self, out: Path) -> str:
        """What it came to: how many files in a folder, in how long, and what was set aside and why."""
        aside = [piece.sentence for piece in self.pieces.values() if piece.state == ASIDE]
        count = self.count(MADE)
        spent = f"{self.spent / 60:.0f} min" if self.spent >= 90 else f"{self.spent:.0f} s"
        text = f"{count} {'file' if count == 1 else 'files'} made in {spent}, in {out}."
        return f"{text} {len(aside)} set aside: {' '.join(aside[:3])}" if aside else text
