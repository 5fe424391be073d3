"""What stands in many places of a file: it is read once, and its copies share its surface until the model is
put together."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable, Iterator

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Floats
from altana.importers.memory import check_triangles
from altana.importers.placing import Placing, Turn, turn_of
from altana.importers.raw import Part

_Faces = npt.NDArray[np.integer]
#: Where nothing is moved.
HERE: Floats = np.eye(4)


class Copies:
    """Brings surfaces to where they stand, and counts their triangles.  name : of the file."""

    def __init__(self, name: str) -> None:
        self._name = name
        self._turns: dict[bytes, Turn] = {}
        #: What was read, as it lies in the file, and what of it stands somewhere.
        self._made: dict[Hashable, list[Part]] = {}
        self._stood: dict[Hashable, list[Part]] = {}
        #: Faces turned over for copies that are mirrored, with those they were made of.
        self._mirrored: dict[int, tuple[_Faces, _Faces]] = {}
        self._triangles = self._copies = self._checked = 0

    def turn(self, world: Floats) -> Turn:
        """What a (4, 4) matrix does beside moving."""
        linear = world[:3, :3]
        key = linear.tobytes()
        if key not in self._turns:
            self._turns[key] = turn_of(linear.copy())
        return self._turns[key]

    def count(self, triangles: int, copied: int = 0) -> None:
        """Raises UserError where there are more triangles than can be held.  copied : how many of them share
        their surface."""
        self._triangles += triangles
        self._copies += copied
        if self._triangles > 1.2 * self._checked:
            self._checked = self._triangles
            check_triangles(self._triangles, self._name, self._copies)

    def stood(self, part: Part, told: tuple[str, str, str, str], world: Floats, shared: bool = True) -> Part:
        """A part where a (4, 4) matrix brings it, of the object that is ``told``: its id, name, category and
        storey.  shared : whether others share its surface."""
        turn = self.turn(world)
        copy = Part(
            *told,
            part.material,
            part.vertices,
            self._over(part.faces) if turn.mirrors else part.faces,
            part.normals,
            part.uvs,
            part.colours,
            part.smooth,
            Placing(turn, world[:3, 3].copy()),
        )
        if not shared:
            copy.settle()
        return copy

    def _over(self, faces: _Faces) -> _Faces:
        if id(faces) not in self._mirrored:
            self._mirrored[id(faces)] = faces, faces[:, ::-1]
        return self._mirrored[id(faces)][1]

    def read(self, key: Hashable, make: Callable[[], Iterable[Part]]) -> bool:
        """Whether what ``key`` stands for shows anything.  make : reads it, the first time, as it lies in the
        file."""
        if key not in self._made:
            self._made[key] = list(make())
        return bool(self._made[key])

    def of(self, key: Hashable, told: tuple[str, str, str, str], world: Floats) -> Iterator[Part]:
        """The parts of one more thing that shows what was read.  Raises UserError where there are more
        triangles than can be held."""
        again = key in self._stood
        copies = []
        for part in self._made[key]:
            self.count(len(part.faces), len(part.faces) if again else 0)
            copies.append(self.stood(part, told, world))
            yield copies[-1]
        self._stood[key] = [] if again else copies

    def settle(self) -> None:
        """All is read: what stands once only has its own surface where it stands."""
        alone = [part for parts in self._stood.values() for part in parts]
        # What they were made from goes as soon as each has its own: nothing is held twice.
        self._stood, self._made = {}, {}
        for part in alone:
            part.settle()
