"""Pictures of the window that were drawn a moment ago: going back to a camera, or undoing, shows them at
once."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Hashable

from altana.render.outputs import Pixels

#: What is kept in memory altogether, bytes; a Frame of 1900 × 1000 px takes 6 MB, a small picture of the
#: strip a quarter.
MOST_BYTES = 128 << 20


class DrawnBefore:
    """The pictures drawn last, by all that they depend on; ``forget`` when models or soft light become
    others."""

    def __init__(self, most_bytes: int = MOST_BYTES) -> None:
        self._most, self._bytes = most_bytes, 0
        self._kept: OrderedDict[Hashable, Pixels] = OrderedDict()

    def find(self, key: Hashable) -> Pixels | None:
        """The picture drawn for this, (height, width, 3) uint8; None where it is not kept."""
        picture = self._kept.get(key)
        if picture is not None:
            self._kept.move_to_end(key)
        return picture

    def keep(self, key: Hashable, pixels: Pixels) -> None:
        """Keep a picture, and let go of those that were not looked at for longest."""
        self.drop(key)
        if pixels.nbytes > self._most:
            return
        self._kept[key] = pixels
        self._bytes += pixels.nbytes
        while self._bytes > self._most:
            self.drop(next(iter(self._kept)))

    def drop(self, key: Hashable) -> None:
        """Let go of one."""
        old = self._kept.pop(key, None)
        if old is not None:
            self._bytes -= old.nbytes

    def forget(self) -> None:
        """Let go of all."""
        self._kept.clear()
        self._bytes = 0
