"""Shapes of USD: meshes with what goes with their corners, and the plain solids of the standard."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

import numpy as np
from pxr import UsdGeom

from altana.core.conventions import Floats, Ints
from altana.core.light.tone import encoded
from altana.core.model import Problem
from altana.importers.raw import RawModel

if TYPE_CHECKING:
    import trimesh

#: The plain solids of the standard.
SOLIDS = (UsdGeom.Cube, UsdGeom.Sphere, UsdGeom.Cylinder, UsdGeom.Cone, UsdGeom.Capsule, UsdGeom.Plane)
#: What places on pictures are called, the first that there is.
PLACES_ON_PICTURES = ("st", "st0", "UVMap", "map1")
#: What a shape may take over from what holds it.
TAKEN_OVER = ("normals", "displayColor", "displayOpacity", *PLACES_ON_PICTURES)
#: Names that tools give by themselves; what holds such a thing says more.
NAMELESS = frozenset({"mesh", "geometry", "geom", "shape", "default", "obj", "object", "root", "scope"})


@dataclass(frozen=True, slots=True)
class Shape:
    """points (n, 3), corner counts and numbers of faces, what goes with every corner, and how dense it is
    where no material says so."""

    points: Floats
    counts: Ints
    corners: Ints
    normals: Any = None
    uvs: Any = None
    colours: Any = None
    smooth: bool = False
    opacity: float = 1.0


def label_of(prim: Any) -> str:
    """What a thing is called: by what holds it, where its own name says nothing."""
    while (
        prim.GetName().rstrip("_0123456789").lower() in NAMELESS
        and prim.GetParent()
        and not prim.GetParent().IsPseudoRoot()
    ):
        prim = prim.GetParent()
    return str(prim.GetDisplayName() or prim.GetName() or "Object")


def as_held(prim: Any) -> Any:
    """A part of a copy as it stands in what is copied; others as they are."""
    return prim.GetPrimInPrototype() if prim.IsInstanceProxy() else prim


class Shapes:
    """Reads the shapes of one stage; what is wrong with them goes to ``raw``."""

    def __init__(self, raw: RawModel, time: Any) -> None:
        self._raw, self._time = raw, time

    @staticmethod
    def told_by(prim: Any) -> tuple[str, ...]:
        """The paths of what a shape is told by: its own, and those of others that it takes something over
        from; copies have the same."""
        api = UsdGeom.PrimvarsAPI(prim)
        found = (api.FindPrimvarWithInheritance(name) for name in TAKEN_OVER)
        above = [primvar.GetAttr().GetPrim() for primvar in found if primvar]
        return tuple(str(as_held(one).GetPath()) for one in (prim, *above))

    def mesh(self, mesh: Any) -> Shape | None:
        """A mesh; None for an empty one, and for one that is damaged, which is said."""
        points = mesh.GetPointsAttr().Get(self._time)
        counts = mesh.GetFaceVertexCountsAttr().Get(self._time)
        corners = mesh.GetFaceVertexIndicesAttr().Get(self._time)
        if not points or not counts or not corners:
            return None
        place, count, corner = (
            np.asarray(points, float),
            np.asarray(counts, np.int64),
            np.asarray(corners, np.int64),
        )
        if (count < 0).any() or count.sum() != len(corner) or corner.min() < 0 or corner.max() >= len(place):
            self._raw.problems.append(
                Problem(
                    "damaged-faces",
                    f"“{label_of(mesh.GetPrim())}” names corners that it does not have; it was left out.",
                )
            )
            return None
        normals = self._per_corner(
            mesh.GetNormalsAttr().Get(self._time), mesh.GetNormalsInterpolation(), count, corner, len(place)
        )
        api = UsdGeom.PrimvarsAPI(mesh.GetPrim())
        own = api.FindPrimvarWithInheritance("normals")
        if own and own.HasValue():
            normals = self._per_corner(
                own.ComputeFlattened(self._time), own.GetInterpolation(), count, corner, len(place)
            )
        uvs = None
        for name in PLACES_ON_PICTURES:
            primvar = api.FindPrimvarWithInheritance(name)
            if primvar and primvar.HasValue():
                uvs = self._per_corner(
                    primvar.ComputeFlattened(self._time),
                    primvar.GetInterpolation(),
                    count,
                    corner,
                    len(place),
                )
                break
        smooth = normals is None and mesh.GetSubdivisionSchemeAttr().Get(self._time) != UsdGeom.Tokens.none
        shades = self._shades(api, count, corner, len(place))
        return Shape(place, count, corner, normals, uvs, shades, smooth, self._opacity(api))

    def _shades(self, api: Any, counts: Ints, corners: Ints, points: int) -> Any:
        primvar = api.FindPrimvarWithInheritance("displayColor")
        if not primvar or not primvar.HasValue():
            return None
        values = self._per_corner(
            primvar.ComputeFlattened(self._time), primvar.GetInterpolation(), counts, corners, points
        )
        if values is None:
            return None
        colours = np.full((len(corners), 4), 255, np.uint8)
        colours[:, :3] = np.rint(255 * encoded(values[:, :3]))
        return colours

    def _opacity(self, api: Any) -> float:
        """How dense a shape is; the mean where its parts differ."""
        primvar = api.FindPrimvarWithInheritance("displayOpacity")
        values = primvar.ComputeFlattened(self._time) if primvar and primvar.HasValue() else None
        opacities = np.asarray(values, float) if values is not None and len(values) else np.ones(1)
        return float(np.clip(np.nan_to_num(opacities, nan=1.0), 0.0, 1.0).mean())

    def point_shades(self, prim: Any, count: int) -> Any:
        """(n, 4) colours of the points of a scan, None where they have none."""
        each = np.ones(count, np.int64)
        return self._shades(UsdGeom.PrimvarsAPI(prim), each, np.arange(count), count)

    @staticmethod
    def _per_corner(values: Any, kind: str, counts: Ints, corners: Ints, points: int) -> Any:
        """(corners, k): values given once, by face, by point or by corner; None where their number does not
        fit."""
        if values is None or not len(values):
            return None
        rows = np.asarray(values, float).reshape(len(values), -1)
        if kind == UsdGeom.Tokens.constant or len(rows) == 1:
            return np.repeat(rows[:1], len(corners), axis=0)
        if kind == UsdGeom.Tokens.uniform:
            return np.repeat(rows, counts, axis=0) if len(rows) == len(counts) else None
        if kind in (UsdGeom.Tokens.vertex, UsdGeom.Tokens.varying):
            return rows[corners] if len(rows) == points else None
        return rows if len(rows) == len(corners) else None

    def solid(self, prim: Any) -> Shape | None:
        """The plain solids of the standard."""
        if not any(prim.IsA(kind) for kind in SOLIDS):
            return None
        shape = self._surface(prim)
        points = np.asarray(shape.vertices, float)
        axis = prim.GetAttribute("axis").Get() if prim.HasAttribute("axis") else "Z"
        if axis in ("X", "Y"):
            points = points[:, [2, 0, 1]] if axis == "X" else points[:, [1, 2, 0]]
        corners = np.asarray(shape.faces, np.int64).reshape(-1)
        counts, api = np.full(len(corners) // 3, 3, np.int64), UsdGeom.PrimvarsAPI(prim)
        return Shape(
            points,
            counts,
            corners,
            colours=self._shades(api, counts, corners, len(points)),
            opacity=self._opacity(api),
        )

    def _surface(self, prim: Any) -> trimesh.Trimesh:
        # Takes a second to load, and most stages have none of these.
        import trimesh

        shape: trimesh.Trimesh
        if prim.IsA(UsdGeom.Cube):
            shape = trimesh.creation.box((self._value(prim, "size", 2.0),) * 3)
        elif prim.IsA(UsdGeom.Sphere):
            shape = trimesh.creation.icosphere(3, self._value(prim, "radius", 1.0))
        elif prim.IsA(UsdGeom.Plane):
            wide, long = self._value(prim, "width", 2.0) / 2, self._value(prim, "length", 2.0) / 2
            shape = trimesh.Trimesh(
                [(-wide, -long, 0), (wide, -long, 0), (wide, long, 0), (-wide, long, 0)],
                [(0, 1, 2), (0, 2, 3)],
                process=False,
            )
        elif prim.IsA(UsdGeom.Cylinder):
            shape = trimesh.creation.cylinder(
                self._value(prim, "radius", 1.0), self._value(prim, "height", 2.0), 48
            )
        elif prim.IsA(UsdGeom.Cone):
            high = self._value(prim, "height", 2.0)
            shape = trimesh.creation.cone(self._value(prim, "radius", 1.0), high, sections=48)
            shape.apply_translation((0, 0, -high / 2))
        else:
            shape = trimesh.creation.capsule(
                self._value(prim, "height", 1.0), self._value(prim, "radius", 0.5)
            )
        return shape

    def _value(self, prim: Any, name: str, usual: float) -> float:
        value = prim.GetAttribute(name).Get(self._time) if prim.HasAttribute(name) else None
        return float(value) if value is not None and abs(float(value)) < 1e9 else usual
