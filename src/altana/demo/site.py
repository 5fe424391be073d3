"""The terminal's measures, and what a building element is made of.

Metres; x runs east, y north to the lake.  The waiting hall's floor is zero, the quay a step below it.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field

import shapely

from altana.demo.shapes import Mesh, WallRun, merged, prism

GROUND, GALLERY, LOOKOUT, ROOFS = "Ground storey", "Gallery storey", "Lookout", "Roofs"
GALLERY_M, LOOKOUT_M, HALL_M, QUAY_M, LAKE_M = 3.60, 17.00, 7.20, -0.15, -1.45
ROOFS_M = 7.20
STOREYS = ((GROUND, 0.0), (GALLERY, GALLERY_M), (ROOFS, ROOFS_M), (LOOKOUT, LOOKOUT_M))

#: The hall inside its walls, the gallery in it, the ticket office under the gallery.
HALL = (0.0, 0.0, 14.0, 18.0)
GALLERY_EDGE_X, GALLERY_SOUTH_Y = 4.5, 5.41
OFFICE = (0.0, 9.0, 2.2, 12.6)
OFFICE_HIGH_M = 2.4
WALL = 0.36
TOWER = (-9.0, 7.0, -4.0, 12.0)
TOWER_TOP_M = 22.0


@dataclass(frozen=True, slots=True)
class Piece:
    """One material of an element."""

    surface: str
    mesh: Mesh


@dataclass(frozen=True, slots=True)
class Slab:
    """An upright extrusion that IFC can hold as such."""

    outline: shapely.Polygon
    bottom: float
    top: float


@dataclass(frozen=True, slots=True)
class Element:
    """A building element: name, category in plain words, storey, and its shape."""

    name: str
    category: str
    storey: str
    pieces: tuple[Piece, ...]
    wall: WallRun | None = None
    slab: Slab | None = None


@dataclass(frozen=True, slots=True)
class Space:
    """A room: rectangle on the plan, floor and ceiling."""

    name: str
    storey: str
    rect: tuple[float, float, float, float]
    floor: float
    ceiling: float


@dataclass(slots=True)
class Site:
    """Collects elements while the description runs."""

    elements: list[Element] = field(default_factory=list)

    def add(self, name: str, category: str, storey: str, *pieces: tuple[str, Iterable[Mesh]]) -> None:
        """An element of one or several materials."""
        parts = tuple(Piece(surface, merged(list(meshes))) for surface, meshes in pieces)
        self.elements.append(Element(name, category, storey, parts))

    def wall(self, name: str, storey: str, surface: str, run: WallRun) -> None:
        """A straight wall with openings."""
        self.elements.append(Element(name, "Wall", storey, (Piece(surface, run.mesh()),), wall=run))

    def slab(
        self,
        name: str,
        category: str,
        storey: str,
        surface: str,
        outline: shapely.Geometry,
        bottom: float,
        top: float,
    ) -> None:
        """A flat body of even thickness; its outline is one polygon, which may have holes."""
        assert isinstance(outline, shapely.Polygon)
        piece = Piece(surface, prism(outline, bottom, top))
        self.elements.append(Element(name, category, storey, (piece,), slab=Slab(outline, bottom, top)))


SPACES = (
    Space("Waiting hall", GROUND, HALL, 0.0, HALL_M),
    Space("Ticket office", GROUND, OFFICE, 0.0, OFFICE_HIGH_M),
    Space("Luggage room", GROUND, (14.36, 2.0, 20.0, 7.0), 0.0, 3.0),
    Space("Staff room", GROUND, (14.36, 7.2, 20.0, 12.0), 0.0, 3.0),
    Space("Café gallery", GALLERY, (0.0, GALLERY_SOUTH_Y, GALLERY_EDGE_X, 18.0), GALLERY_M, HALL_M),
    Space("Tower stair", GROUND, (-8.7, 7.3, -4.3, 11.7), 0.0, LOOKOUT_M - 0.3),
    Space("Lookout", LOOKOUT, (-9.3, 6.7, -3.7, 12.3), LOOKOUT_M, 20.4),
)


def rect(x0: float, y0: float, x1: float, y1: float) -> shapely.Polygon:
    """A rectangle on the plan."""
    return shapely.box(x0, y0, x1, y1)
