"""Film frames that were drawn already, kept so that playing again is smooth.

Kept are coarse pictures by film frame, as long as nothing that they show has changed and they fit the memory
set aside; what a first play left out is drawn while nothing else is.
"""

from __future__ import annotations

from collections.abc import Hashable

from PySide6.QtGui import QImage

#: Memory set aside for kept film frames.
MOST_BYTES = 300_000_000


class Reel:
    """Pictures by number of the film frame.  ``key`` is all that they depend on; another key empties the
    reel."""

    def __init__(self, most_bytes: int = MOST_BYTES) -> None:
        self._most = most_bytes
        self._key: Hashable = None
        self._pictures: dict[int, QImage] = {}
        self._bytes = 0
        self._looked = 0

    def __len__(self) -> int:
        return len(self._pictures)

    def about(self, key: Hashable) -> None:
        """What the pictures depend on; when it is another than before, they are forgotten."""
        if key != self._key:
            self._key = key
            self._pictures.clear()
            self._bytes = self._looked = 0

    def take(self, number: int) -> QImage | None:
        """The picture of a film frame, None where there is none yet."""
        return self._pictures.get(number)

    def keep(self, key: Hashable, number: int, picture: QImage) -> bool:
        """Keep a picture; False where it is of something else by now, or the memory is used up."""
        if key != self._key or self._bytes + picture.sizeInBytes() > self._most:
            return False
        if number not in self._pictures:
            self._bytes += picture.sizeInBytes()
            self._pictures[number] = picture
        return True

    def missing(self, count: int) -> int | None:
        """The next film frame without a picture among the first ``count``: every fourth first, then those
        between."""
        if self._bytes >= self._most:
            return None
        order = _spread(count)
        while self._looked < len(order) and order[self._looked] in self._pictures:
            self._looked += 1
        return order[self._looked] if self._looked < len(order) else None


def _spread(count: int) -> list[int]:
    return [number for begin, step in ((0, 4), (2, 4), (1, 2)) for number in range(begin, count, step)]
