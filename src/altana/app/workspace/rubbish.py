"""When Python looks for rubbish: not through what stays.

With a building open, looking through all objects takes a tenth of a second in which the window stands still; it came every ten seconds
while a walk played.  What is there once models are open is left out until others are opened.
"""

from __future__ import annotations

import gc

from PySide6.QtCore import QObject

from altana.app.workspace.soon import Soon
from altana.app.workspace.studio import Studio

#: So long after models were opened everything that stays is there.
SETTLED_MS = 3000


class Rubbish(QObject):
    """Follows what a window opens."""

    def __init__(self, studio: Studio) -> None:
        super().__init__(studio)
        #: Whether models were left out.
        self.settled = False
        self._soon = Soon(self, SETTLED_MS, self._settle)
        studio.opened.connect(self._look)

    def _look(self) -> None:
        if self.settled:
            # What belonged to the models before goes now; behind something that opens a pause is hardly seen.
            self.settled = False
            gc.unfreeze()
            gc.collect()
        self._soon.start()

    def _settle(self) -> None:
        self.settled = True
        gc.freeze()
