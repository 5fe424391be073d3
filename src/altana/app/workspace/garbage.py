"""Python's garbage collection, kept out of the window's way.

With a building open, a full collection takes a tenth of a second in which the window stands still; it came
every ten seconds while a walk played.  What is there once models are open is frozen, which takes it out of
collections, until others are opened.
"""

from __future__ import annotations

import gc

from PySide6.QtCore import QObject

from altana.app.workspace.soon import Soon
from altana.app.workspace.studio import Studio

#: So long after models were opened everything that stays is there.
SETTLED_MS = 3000


class Garbage(QObject):
    """Follows what a window opens, in its own thread: widgets must not be collected in another."""

    def __init__(self, studio: Studio) -> None:
        super().__init__(studio)
        #: Whether what is open is frozen.
        self.settled = False
        self._soon = Soon(self, SETTLED_MS, self._settle)
        studio.opened.connect(self.look)

    def look(self) -> None:
        """Models were opened: what belonged to those before goes, and what is there once they are open is set
        aside."""
        if self.settled:
            # What belonged to the models before goes now; behind something that opens a pause is hardly seen.
            self.settled = False
            gc.unfreeze()
            gc.collect()
        self._soon.start()

    def _settle(self) -> None:
        self.settled = True
        gc.freeze()
