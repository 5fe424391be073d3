"""Hiding while working: what the window leaves away or shows faintly, which never changes a picture."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from altana.core.edits.left_out import with_left_out
from altana.core.project import LeftOut
from altana.core.staging import Lookup, Staging

NOTHING = LeftOut()


@dataclass(frozen=True, slots=True)
class Hiding:
    """``hidden`` things, and, when ``only`` names something, nothing but that; with ``faint`` the rest shows
    faintly."""

    hidden: LeftOut = NOTHING
    only: LeftOut = NOTHING
    faint: bool = False

    def __bool__(self) -> bool:
        return bool(self.hidden or self.only)

    def turned(self, kind: str, name: str, hide: bool) -> Hiding:
        """With one object, category or storey hidden, or shown again."""
        return replace(self, hidden=with_left_out(self.hidden, kind, name, hide))

    def applied(self, picture: Staging, lookup: Lookup) -> Staging:
        """What the window shows of a picture: the picture's own staging with what is hidden taken away."""
        if not self:
            return picture
        gone = lookup.mask(self.hidden)
        faint = np.zeros(len(gone), bool)
        if self.only:
            rest = ~lookup.mask(self.only)
            if self.faint:
                faint = rest & ~gone
            else:
                gone |= rest
        gone[list(picture.omitted)] = True
        faint[list(picture.omitted)] = False
        moved = tuple(item for item in picture.moved if not gone[item.index])
        return replace(
            picture,
            omitted=tuple(np.flatnonzero(gone).tolist()),
            faint=tuple(np.flatnonzero(faint).tolist()),
            moved=moved,
        )

    def differs(self, picture: Staging, lookup: Lookup) -> int:
        """How many objects the picture shows and the window does not show in full."""
        if not self:
            return 0
        shown = self.applied(picture, lookup)
        return len(set(shown.omitted) - set(picture.omitted)) + len(shown.faint)


NOTHING_HIDDEN = Hiding()
