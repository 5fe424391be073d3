"""Universal Scene Description (usd, usda, usdc, usdz): meshes, plain solids, instances, preview materials, curves, points, cameras.

Layers that a file refers to are followed within its own folder only; others are cut off before anything is composed, and said.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import trimesh
from pxr import Ar, Gf, Sdf, Usd, UsdGeom, UsdShade

from altana.core.conventions import Floats, Ints
from altana.core.errors import UserError
from altana.core.model import GLASS, MASK, OPAQUE, SOLID, Maps, Material, Problem
from altana.importers.extras import MOST_FOUND, as_camera, chained
from altana.importers.finish import SOLID_FROM, kind_of, pane_roughness
from altana.importers.folder import ModelFolder
from altana.importers.memory import check_triangles
from altana.importers.naming import Names, category_of
from altana.importers.pictures import encoded_has_opacity, keep_picture
from altana.importers.polygons import triangles_of
from altana.importers.raw import Part, RawModel
from altana.importers.units import settle

#: Names that tools give by themselves; what holds such a thing says more.
NAMELESS = frozenset({"mesh", "geometry", "geom", "shape", "default", "obj", "object", "root", "scope"})
MOST_LAYERS = 2_000


def read_usd(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The parts of a USD stage and the other files it was read from.  Raises UserError."""
    raw, folder = RawModel(), ModelFolder(path)
    try:
        layer = Sdf.Layer.FindOrOpen(str(path))
        if layer is None:
            raise UserError(
                f"{path.name} is damaged and cannot be read as USD. Nothing was changed. Export it again, or choose another file."
            )
        _fence(layer, folder)
        stage = Usd.Stage.Open(layer)
    except (RuntimeError, ValueError) as error:
        raise UserError(
            f"{path.name} is damaged and cannot be read as USD. Nothing was changed. Export it again, or choose another file."
        ) from error
    reader = _Reader(stage, folder, raw, path.name)
    reader.read()
    told_up = "y" if UsdGeom.GetStageUpAxis(stage) == UsdGeom.Tokens.y else "z"
    reader.add_cameras(settle(raw, unit_m, up, float(UsdGeom.GetStageMetersPerUnit(stage)) or 0.01, told_up))
    folder.tell(raw)
    return raw, folder.read


def _fence(layer: Any, folder: ModelFolder) -> None:
    """Cut off every layer outside the model's folder, following those within."""
    waiting, seen = [layer], set[str]()
    while waiting and len(seen) < MOST_LAYERS:
        current = waiting.pop()
        if current.identifier in seen:
            continue
        seen.add(current.identifier)
        for name in list(current.GetCompositionAssetDependencies()):
            if ".usdz" in current.identifier and not _leads_out(name):
                continue  # a package holds its own layers
            inside = _inside(name, Path(str(current.realPath)).parent, folder)
            found = Sdf.Layer.FindOrOpen(str(inside)) if inside is not None else None
            if found is None or inside is None:
                current.UpdateCompositionAssetDependency(name, "")
                folder.missing.append(name)
            else:
                folder.read.append(str(inside.relative_to(folder.base)))
                waiting.append(found)


def _leads_out(name: str) -> bool:
    return name.startswith(("/", "\\")) or ":" in name or ".." in name.replace("\\", "/").split("/")


def _inside(name: str, beside: Path, folder: ModelFolder) -> Path | None:
    """The file that a layer names, if it lies in the model's folder."""
    try:
        place = (beside / name.replace("\\", "/")).resolve()
        return place if place.is_relative_to(folder.base) and place.is_file() else None
    except OSError:
        return None


@dataclass(frozen=True, slots=True)
class _Shape:
    """points (n, 3), corner counts and numbers of faces, and what goes with every corner."""

    points: Floats
    counts: Ints
    corners: Ints
    normals: Any = None
    uvs: Any = None
    colours: Any = None
    smooth: bool = False


class _Reader:
    def __init__(self, stage: Any, folder: ModelFolder, raw: RawModel, name: str) -> None:
        self._stage, self._folder, self._raw, self._name = stage, folder, raw, name
        self._time = Usd.TimeCode.EarliestTime()
        self._places = UsdGeom.XformCache(self._time)
        self._names = Names()
        self._materials: dict[str, int] = {}
        self._pictures: dict[str, int] = {}
        self._triangles = 0
        self._found: list[tuple[str, Floats, float, float]] = []

    def read(self) -> None:
        walk = iter(Usd.PrimRange(self._stage.GetPseudoRoot(), Usd.TraverseInstanceProxies()))
        for prim in walk:
            if prim.IsA(UsdGeom.Imageable):
                shown = UsdGeom.Imageable(prim)
                if shown.ComputeVisibility(
                    self._time
                ) == UsdGeom.Tokens.invisible or shown.ComputePurpose() in ("proxy", "guide"):
                    walk.PruneChildren()
                    continue
            if prim.IsA(UsdGeom.PointInstancer):
                self._instances(prim)
                walk.PruneChildren()
            elif prim.IsA(UsdGeom.Camera):
                self._camera(prim)
            else:
                self._shape(prim, self._world(prim), None)

    def _world(self, prim: Any) -> Floats:
        return np.array(self._places.GetLocalToWorldTransform(prim), float).T

    def _label(self, prim: Any) -> str:
        while (
            prim.GetName().rstrip("_0123456789").lower() in NAMELESS
            and prim.GetParent()
            and not prim.GetParent().IsPseudoRoot()
        ):
            prim = prim.GetParent()
        return str(prim.GetDisplayName() or prim.GetName() or "Object")

    def _shape(self, prim: Any, world: Floats, label: tuple[str, str] | None) -> None:
        if prim.IsA(UsdGeom.Mesh):
            shape = self._mesh(UsdGeom.Mesh(prim))
        elif prim.IsA(UsdGeom.Points):
            points = UsdGeom.Points(prim).GetPointsAttr().Get(self._time)
            if points:
                self._raw.add_points(
                    self._label(prim), np.asarray(points, float) @ world[:3, :3].T + world[:3, 3]
                )
            return
        elif prim.IsA(UsdGeom.Curves):
            self._curves(UsdGeom.Curves(prim), world)
            return
        else:
            shape = self._solid(prim)
        if shape is not None and len(shape.counts):
            self._add(prim, shape, world, label or self._names.of(self._label(prim)))

    # ------------------------------------------------------------------ shapes

    def _mesh(self, mesh: Any) -> _Shape | None:
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
                    f"“{self._label(mesh.GetPrim())}” names corners that it does not have; it was left out.",
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
        for name in ("st", "st0", "UVMap", "map1"):
            held = api.FindPrimvarWithInheritance(name)
            if held and held.HasValue():
                uvs = self._per_corner(
                    held.ComputeFlattened(self._time), held.GetInterpolation(), count, corner, len(place)
                )
                break
        smooth = normals is None and mesh.GetSubdivisionSchemeAttr().Get(self._time) != UsdGeom.Tokens.none
        return _Shape(
            place, count, corner, normals, uvs, self._shades(api, count, corner, len(place)), smooth
        )

    def _shades(self, api: Any, counts: Ints, corners: Ints, points: int) -> Any:
        held = api.FindPrimvarWithInheritance("displayColor")
        if not held or not held.HasValue():
            return None
        values = self._per_corner(
            held.ComputeFlattened(self._time), held.GetInterpolation(), counts, corners, points
        )
        if values is None:
            return None
        made = np.full((len(corners), 4), 255, np.uint8)
        made[:, :3] = np.rint(255 * np.clip(values[:, :3], 0, 1) ** (1 / 2.2))
        return made

    @staticmethod
    def _per_corner(values: Any, kind: str, counts: Ints, corners: Ints, points: int) -> Any:
        """(corners, k): values given once, by face, by point or by corner; None where their number does not fit."""
        if values is None or not len(values):
            return None
        held = np.asarray(values, float).reshape(len(values), -1)
        if kind == UsdGeom.Tokens.constant or len(held) == 1:
            return np.repeat(held[:1], len(corners), axis=0)
        if kind == UsdGeom.Tokens.uniform:
            return np.repeat(held, counts, axis=0) if len(held) == len(counts) else None
        if kind in (UsdGeom.Tokens.vertex, UsdGeom.Tokens.varying):
            return held[corners] if len(held) == points else None
        return held if len(held) == len(corners) else None

    def _solid(self, prim: Any) -> _Shape | None:
        """The plain solids of the standard."""
        made: trimesh.Trimesh | None = None
        if prim.IsA(UsdGeom.Cube):
            made = trimesh.creation.box((self._value(prim, "size", 2.0),) * 3)
        elif prim.IsA(UsdGeom.Sphere):
            made = trimesh.creation.icosphere(3, self._value(prim, "radius", 1.0))
        elif prim.IsA(UsdGeom.Cylinder):
            made = trimesh.creation.cylinder(
                self._value(prim, "radius", 1.0), self._value(prim, "height", 2.0), 48
            )
        elif prim.IsA(UsdGeom.Cone):
            high = self._value(prim, "height", 2.0)
            made = trimesh.creation.cone(self._value(prim, "radius", 1.0), high, sections=48)
            made.apply_translation((0, 0, -high / 2))
        elif prim.IsA(UsdGeom.Capsule):
            high = self._value(prim, "height", 1.0)
            made = trimesh.creation.capsule(high, self._value(prim, "radius", 0.5))
            made.apply_translation((0, 0, -high / 2))
        elif prim.IsA(UsdGeom.Plane):
            wide, long = self._value(prim, "width", 2.0) / 2, self._value(prim, "length", 2.0) / 2
            made = trimesh.Trimesh(
                [(-wide, -long, 0), (wide, -long, 0), (wide, long, 0), (-wide, long, 0)],
                [(0, 1, 2), (0, 2, 3)],
                process=False,
            )
        if made is None:
            return None
        points = np.asarray(made.vertices, float)
        axis = prim.GetAttribute("axis").Get() if prim.HasAttribute("axis") else "Z"
        if axis in ("X", "Y"):
            points = points[:, [2, 0, 1]] if axis == "X" else points[:, [1, 2, 0]]
        corners = np.asarray(made.faces, np.int64).reshape(-1)
        counts = np.full(len(corners) // 3, 3, np.int64)
        return _Shape(
            points,
            counts,
            corners,
            colours=self._shades(UsdGeom.PrimvarsAPI(prim), counts, corners, len(points)),
        )

    def _value(self, prim: Any, name: str, usual: float) -> float:
        value = prim.GetAttribute(name).Get(self._time) if prim.HasAttribute(name) else None
        return float(value) if value is not None and abs(float(value)) < 1e9 else usual

    def _add(self, prim: Any, shape: _Shape, world: Floats, label: tuple[str, str]) -> None:
        cut, face = triangles_of(shape.points, shape.counts, shape.corners)
        self._triangles += len(cut)
        check_triangles(self._triangles, self._name)
        turned = np.linalg.det(world[:3, :3]) < 0
        if (
            UsdGeom.Gprim(prim)
            and UsdGeom.Gprim(prim).GetOrientationAttr().Get(self._time) == UsdGeom.Tokens.leftHanded
        ):
            turned = not turned
        if turned:
            cut = cut[:, ::-1]
        holes = UsdGeom.Mesh(prim).GetHoleIndicesAttr().Get(self._time) if prim.IsA(UsdGeom.Mesh) else None
        shown = ~np.isin(face, np.asarray(holes, np.int64)) if holes else np.ones(len(face), bool)
        own = self._material(UsdShade.MaterialBindingAPI(prim).ComputeBoundMaterial()[0], shape)
        by_face = np.full(len(shape.counts), own, np.int64)
        for subset in UsdGeom.Subset.GetAllGeomSubsets(UsdGeom.Imageable(prim)):
            bound = UsdShade.MaterialBindingAPI(subset.GetPrim()).ComputeBoundMaterial()[0]
            indices = np.asarray(subset.GetIndicesAttr().Get(self._time) or [], np.int64)
            if bound:
                by_face[indices[(indices >= 0) & (indices < len(by_face))]] = self._material(bound, shape)
        for material in np.unique(by_face[face[shown]]).tolist():
            mine = cut[shown & (by_face[face] == material)]
            self._part(shape, mine, world, label, material)

    def _part(self, shape: _Shape, cut: Ints, world: Floats, label: tuple[str, str], material: int) -> None:
        used = cut.reshape(-1)
        loose = shape.normals is not None or shape.uvs is not None or shape.colours is not None
        if loose:
            rows, places = used, np.arange(len(used))
        else:
            numbers, places = np.unique(shape.corners[used], return_inverse=True)
            rows = numbers
        points = shape.points[shape.corners[rows] if loose else rows]
        linear = world[:3, :3]
        normals = None
        if shape.normals is not None and shape.normals.shape[1] == 3:
            normals = shape.normals[rows] @ np.linalg.pinv(linear)
            normals = normals / np.maximum(np.linalg.norm(normals, axis=1, keepdims=True), 1e-12)
        name, key = label
        uvs = shape.uvs[rows][:, :2] if shape.uvs is not None and shape.uvs.shape[1] >= 2 else None
        painted = (
            shape.colours[rows]
            if shape.colours is not None and self._raw.materials[material].name == "Painted"
            else None
        )
        self._raw.parts.append(
            Part(
                key,
                name,
                category_of(name),
                "",
                material,
                points @ linear.T + world[:3, 3],
                places.reshape(-1, 3),
                normals,
                uvs,
                painted,
                shape.smooth,
            )
        )

    def _curves(self, curves: Any, world: Floats) -> None:
        points, counts = (
            curves.GetPointsAttr().Get(self._time),
            curves.GetCurveVertexCountsAttr().Get(self._time),
        )
        if not points or not counts:
            return
        place = np.asarray(points, float) @ world[:3, :3].T + world[:3, 3]
        at = 0
        for count in counts:
            if 1 < count <= len(place) - at:
                self._raw.add_lines(self._label(curves.GetPrim()), chained(place[at : at + count]))
            at += count

    def _instances(self, prim: Any) -> None:
        instancer = UsdGeom.PointInstancer(prim)
        matrices = instancer.ComputeInstanceTransformsAtTime(self._time, self._time)
        which = instancer.GetProtoIndicesAttr().Get(self._time) or []
        targets = instancer.GetPrototypesRel().GetForwardedTargets()
        above = self._world(prim)
        for number, (matrix, index) in enumerate(zip(matrices or [], which, strict=False)):
            if not 0 <= index < len(targets):
                continue
            prototype = self._stage.GetPrimAtPath(targets[index])
            label = self._names.of(
                f"{self._label(prim)} {self._label(prototype)}" if number == 0 else self._label(prototype)
            )
            base = np.linalg.inv(self._world(prototype)) if prototype else np.eye(4)
            own = (
                np.array(UsdGeom.Xformable(prototype).GetLocalTransformation(self._time), float).T
                if prototype.IsA(UsdGeom.Xformable)
                else np.eye(4)
            )
            for below in Usd.PrimRange(prototype, Usd.TraverseInstanceProxies()):
                self._shape(below, above @ np.array(matrix, float).T @ own @ base @ self._world(below), label)

    # ------------------------------------------------------------------ materials

    def _material(self, bound: Any, shape: _Shape) -> int:
        key = str(bound.GetPath()) if bound else ("painted" if shape.colours is not None else "plain")
        if key not in self._materials:
            made = (
                self._converted(bound)
                if bound
                else Material("Painted", (1, 1, 1, 1))
                if shape.colours is not None
                else Material("Plain", (0.78, 0.76, 0.72, 1.0))
            )
            self._materials[key] = len(self._raw.materials)
            self._raw.materials.append(made)
        return self._materials[key]

    def _converted(self, bound: Any) -> Material:
        name = str(bound.GetPrim().GetName())
        surface = bound.ComputeSurfaceSource()[0]
        if not surface or surface.GetIdAttr().Get() != "UsdPreviewSurface":
            self._raw.problems.append(
                Problem(
                    "unread-material",
                    f"The material “{name}” is of a kind that Altana does not read; a plain colour stands in.",
                )
            )
            return Material(name, (0.78, 0.76, 0.72, 1.0))
        colour, image = self._input(surface, "diffuseColor", (0.18, 0.18, 0.18))
        solid, holes = self._input(surface, "opacity", (1.0,))
        rough, finish = self._input(surface, "roughness", (0.5,))
        metal, _ = self._input(surface, "metallic", (0.0,))
        glow, glowing = self._input(surface, "emissiveColor", (0.0, 0.0, 0.0))
        threshold, _ = self._input(surface, "opacityThreshold", (0.0,))
        ior, _ = self._input(surface, "ior", (1.5,))
        opacity = 1.0 if holes >= 0 else float(solid[0])
        cut = holes >= 0 and (holes != image or encoded_has_opacity(self._raw.images[holes].data))
        kind = kind_of(name, opacity, image >= 0)
        shown = np.ones(3) if image >= 0 else np.clip(np.asarray(colour[:3], float), 0, 1) ** (1 / 2.2)
        return Material(
            name,
            tuple(np.clip([*shown, opacity], 0, 1).tolist()),
            image,
            # Half is what the format has where nothing is said.
            pane_roughness(name, float(rough[0]) if rough[0] != 0.5 else None)
            if kind == GLASS
            else float(np.clip(rough[0], 0, 1))
            if finish < 0
            else 0.6,
            SOLID if cut and opacity >= SOLID_FROM else kind,
            float(np.clip(metal[0], 0, 1)),
            tuple(np.clip(np.asarray(glow[:3], float), 0, 1e4).tolist())
            if len(glow) >= 3
            else (0.0, 0.0, 0.0),
            MASK if cut else OPAQUE,
            float(threshold[0]) or 0.5,
            float(np.clip(ior[0], 1.0, 4.0)),
            Maps(
                normal=self._input(surface, "normal", (0.0,))[1],
                emission=glowing,
                opacity=holes if cut and holes != image else -1,
            ),
        )

    def _input(self, surface: Any, name: str, usual: tuple[float, ...]) -> tuple[tuple[float, ...], int]:
        """The plain value of an input, and the picture connected to it or -1."""
        held = surface.GetInput(name)
        if not held:
            return usual, -1
        for attribute in UsdShade.Utils.GetValueProducingAttributes(held):
            source = UsdShade.Shader(attribute.GetPrim())
            if source and source.GetIdAttr().Get() == "UsdUVTexture":
                asset = source.GetInput("file").Get(self._time) if source.GetInput("file") else None
                return usual, self._picture(asset)
            value = attribute.Get(self._time)
            if value is not None:
                return (tuple(float(v) for v in value) if hasattr(value, "__len__") else (float(value),)), -1
        return usual, -1

    def _picture(self, asset: Any) -> int:
        if asset is None or not asset.path:
            return -1
        key = asset.resolvedPath or asset.path
        if key not in self._pictures:
            name = asset.path.replace("\\", "/").rsplit("/", 1)[-1]
            packed = "[" in key and Path(key.split("[")[0]).resolve().is_relative_to(self._folder.base)
            self._pictures[key] = keep_picture(
                self._raw, name, self._packed(key) if packed else self._folder.bytes_of(asset.path)
            )
        return self._pictures[key]

    @staticmethod
    def _packed(path: str) -> bytes | None:
        """The bytes of a picture within a package."""
        held = Ar.GetResolver().OpenAsset(Ar.ResolvedPath(path))
        return bytes(held.GetBuffer()) if held else None

    # ------------------------------------------------------------------ cameras

    def _camera(self, prim: Any) -> None:
        camera = UsdGeom.Camera(prim)
        gf = camera.GetCamera(self._time)
        if gf.projection != Gf.Camera.Perspective:
            self._raw.problems.append(
                Problem(
                    "camera-skipped", f"“{prim.GetName()}” in the file is a parallel view and is not offered."
                )
            )
            return
        across = math.degrees(2 * math.atan(gf.horizontalAperture / 2 / max(gf.focalLength, 1e-6)))
        aspect = gf.horizontalAperture / max(gf.verticalAperture, 1e-6)
        if len(self._found) < MOST_FOUND:
            self._found.append((self._label(prim), self._world(prim), across, aspect))

    def add_cameras(self, matrix: Floats) -> None:
        """Offer the file's cameras, once units and axes are known."""
        for name, placed, across, aspect in self._found:
            made = as_camera(name, matrix @ placed, across, aspect)
            if made is not None:
                self._raw.cameras.append(made)
