"""What a format module hands over: parts of meshes, lines, points of scans and cameras, in double
precision."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Floats
from altana.core.extent import extent
from altana.core.model import EncodedImage, FoundCamera, Lamp, Material, Place, Problem, Room, Storey
from altana.importers.placing import Placing

#: Numbers beyond this are damage, metres.
LARGEST_M = 1e9


@dataclass(slots=True)
class Part:
    """One material's share of one object.  vertices (n, 3), faces (m, 3), normals (n, 3) or None, uvs (n, 2)
    or None, colours (n, 4) sRGB and opacity or None."""

    object_id: str
    name: str
    category: str
    storey: str
    material: int
    vertices: npt.NDArray[np.floating]
    faces: npt.NDArray[np.integer]
    normals: npt.NDArray[np.floating] | None = None
    uvs: npt.NDArray[np.floating] | None = None
    colours: npt.NDArray[np.uint8] | None = None
    #: Whether the file asks for smooth directions without giving them.
    smooth: bool = False
    #: Where vertices and normals have yet to be brought: copies share theirs.
    placing: Placing | None = None
    #: Lowest and highest corner, (3,), where it stands; found where parts are looked at for damage.
    low: npt.NDArray[np.floating] = field(init=False)
    high: npt.NDArray[np.floating] = field(init=False)

    def placed(self) -> tuple[npt.NDArray[np.floating], npt.NDArray[np.floating] | None]:
        """Vertices and normals where they stand."""
        if self.placing is None:
            return self.vertices, self.normals
        normals = None if self.normals is None else self.placing.directions(self.normals)
        return self.placing.points(self.vertices), normals

    def settle(self) -> None:
        """Have vertices and normals of its own, where they stand."""
        self.vertices, self.normals = self.placed()
        self.placing = None

    def box(self, own: npt.NDArray[np.floating]) -> None:
        """Say its lowest and highest corner from those of its vertices, (2, 3); of a copy those of its
        box."""
        if self.placing is not None:
            corners = np.array([(x, y, z) for x in (0, 1) for y in (0, 1) for z in (0, 1)])
            own = extent(self.placing.points(np.take_along_axis(own, corners, axis=0).astype(float)))
        self.low, self.high = own


@dataclass(frozen=True, slots=True)
class Cloud:
    """Points of a scan: places (n, 3) metres, colours (n, 4) uint8 or None."""

    name: str
    points: Floats
    colours: npt.NDArray[np.uint8] | None = None


@dataclass(slots=True)
class RawModel:
    """What a format module hands over."""

    parts: list[Part] = field(default_factory=list)
    materials: list[Material] = field(default_factory=list)
    images: list[EncodedImage] = field(default_factory=list)
    storeys: list[Storey] = field(default_factory=list)
    rooms: list[Room] = field(default_factory=list)
    problems: list[Problem] = field(default_factory=list)
    unit: str = "metre"
    #: Reference lines by layer: (k, 2, 3) float64 metres each.
    lines: dict[str, list[Floats]] = field(default_factory=dict)
    cameras: list[FoundCamera] = field(default_factory=list)
    rooms_wanted: bool = True
    clouds: list[Cloud] = field(default_factory=list)
    place: Place | None = None
    lamps: list[Lamp] = field(default_factory=list)
    #: What light fixtures give, by object: lumens and kelvin, 0 where the file does not say.
    fixtures: dict[str, tuple[float, float]] = field(default_factory=dict)

    def add_lines(self, layer: str, points: Floats) -> None:
        """Keep (k, 2, 3) segments; those that are not finite are dropped."""
        points = np.asarray(points, float).reshape(-1, 2, 3)
        sound = (np.abs(points) < LARGEST_M).all(axis=(1, 2))
        if sound.any():
            self.lines.setdefault(layer, []).append(points[sound])

    def add_points(self, name: str, points: Floats, colours: npt.NDArray[np.uint8] | None = None) -> None:
        """Keep the points of a scan, (n, 3) metres, with their (n, 4) colours."""
        self.clouds.append(Cloud(name, np.asarray(points, float), colours))


def layers_off(names: list[str]) -> Problem:
    """What is said of layers of a file that are not shown."""
    return Problem(
        "layers-off", f"Layers that are off or frozen in the file are not shown: {', '.join(names)}."
    )
