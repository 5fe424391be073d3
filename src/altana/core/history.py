"""What was done and can be undone: labels with the project before and after."""

from __future__ import annotations

from dataclasses import dataclass, field

from altana.core.project import Project


@dataclass(frozen=True, slots=True)
class Step:
    """One undoable change."""

    label: str
    before: Project
    after: Project


@dataclass(slots=True)
class History:
    """Two stacks of steps.  Projects share what did not change, so a step costs little."""

    limit: int = 500
    done: list[Step] = field(default_factory=list)
    undone: list[Step] = field(default_factory=list)

    def record(self, step: Step) -> None:
        """Add a step; what had been undone can no longer be redone."""
        self.done.append(step)
        del self.done[: -self.limit]
        self.undone.clear()

    def amend(self, after: Project) -> None:
        """The newest step led here instead."""
        newest = self.done[-1]
        self.done[-1] = Step(newest.label, newest.before, after)

    def back(self) -> Step | None:
        """Take the newest step back, or None."""
        if not self.done:
            return None
        self.undone.append(self.done.pop())
        return self.undone[-1]

    def forth(self) -> Step | None:
        """Do the newest undone step again, or None."""
        if not self.undone:
            return None
        self.done.append(self.undone.pop())
        return self.done[-1]
