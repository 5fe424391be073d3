"""What is found out about the chosen walk: flags at once, then what its film frames show and its long
section."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal

from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.core.project import Walk
from altana.core.walk.checks import Flag
from altana.core.walk.unrolled import Unrolled

#: What takes long is asked when nothing has changed for so long.
ASK_MS = 500


class Findings(QObject):
    """``changed`` when there are other flags; ``unrolled(sheet)`` when the long section has come."""

    changed = Signal()
    unrolled = Signal(object)

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self.flags_of: Walk | None = None
        self.flags: tuple[Flag, ...] = ()
        self.film_flags: tuple[Walk | None, tuple[Flag, ...]] = (None, ())
        self.sheets: tuple[Walk | None, Unrolled | None] = (None, None)
        #: Whether anybody looks.
        self.wanted = False
        self._ask = Soon(self, ASK_MS, self._ask_about)
        self._studio.opened.connect(self._forget)
        self._studio.walk_checked.connect(self._take_flags)
        self._studio.film_checked.connect(self._take_film_flags)
        self._studio.unrolled.connect(self._take_sheet)

    def _forget(self) -> None:
        """In another model the same walk passes other things."""
        self.flags_of, self.flags = None, ()
        self.film_flags, self.sheets = (None, ()), (None, None)

    def ask(self, walk: Walk) -> None:
        """Look at the walk as it is now."""
        self._studio.order_walk_check(walk, self._bridge.project.limits)
        self.ask_later()

    def ask_later(self) -> None:
        """What takes long, when the walk has rested."""
        self._ask.start()

    @property
    def sheet(self) -> Unrolled | None:
        """The long section: a cut of the same walk as it was a moment ago is nearer than none; one of another
        is not."""
        of, walk = self.sheets[0], self._state.walk
        return self.sheets[1] if of is not None and walk is not None and of.id == walk.id else None

    def _ask_about(self) -> None:
        """What takes longer is asked when the walk has rested: the long section, and what its film frames
        show."""
        walk, scene = self._state.walk, self._studio.scene
        if walk is None or scene is None or self._bridge.in_gesture or not self.wanted:
            return
        if self.film_flags[0] != walk:
            self._studio.order_film_check(walk, self._bridge.project)
        if walk.turntable is None and self.sheets[0] != walk:
            self._studio.order_unrolled(walk)

    def _take_flags(self, walk: Walk, flags: tuple[Flag, ...]) -> None:
        self.flags_of, self.flags = walk, flags
        if walk == self._state.walk:
            self.changed.emit()

    def _take_film_flags(self, walk: Walk, flags: tuple[Flag, ...]) -> None:
        self.film_flags = walk, flags
        if walk == self._state.walk:
            self.changed.emit()

    def _take_sheet(self, walk: Walk, sheet: Unrolled) -> None:
        if self._state.walk is not None and walk.id == self._state.walk.id:
            self.sheets = walk, sheet
            self.unrolled.emit(sheet)

    def known_flags(self) -> tuple[Flag, ...] | None:
        """All flags of the walk as it is; None while the quick checks are still looking."""
        walk = self._state.walk
        if self.flags_of is None or self.flags_of != walk:
            return None
        more = self.film_flags[1] if self.film_flags[0] == walk else ()
        return tuple(sorted((*self.flags, *more), key=lambda flag: (flag.begin_s, flag.code)))
