"""Universal Scene Description (usd, usda, usdc, usdz): meshes, plain solids, instances, preview materials,
curves, points, cameras.

Layers that a file refers to are followed within its own folder only; others are cut off before anything is
composed, and said.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
from pxr import Gf, Sdf, Usd, UsdGeom, UsdShade

from altana.core.conventions import Floats, Ints
from altana.core.distinct import distinct
from altana.core.errors import UserError
from altana.core.model import Problem
from altana.importers.copying import Copies
from altana.importers.extras import MOST_FOUND, as_camera, chained
from altana.importers.folder import ModelFolder
from altana.importers.naming import Names, category_of
from altana.importers.polygons import triangles_of
from altana.importers.raw import Part, RawModel
from altana.importers.units import settle
from altana.importers.usd_lights import add_usd_lamp, is_lamp
from altana.importers.usd_materials import PAINTED, Materials
from altana.importers.usd_shapes import Shape, Shapes, as_held, label_of

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
    metres = settle(raw, unit_m, up, float(UsdGeom.GetStageMetersPerUnit(stage)) or 0.01, told_up)
    reader.add_cameras(metres)
    reader.add_lamps(metres)
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
            inner_layer = Sdf.Layer.FindOrOpen(str(inside)) if inside is not None else None
            if inner_layer is None or inside is None:
                current.UpdateCompositionAssetDependency(name, "")
                folder.missing.append(name)
            else:
                folder.read.append(str(inside.relative_to(folder.base)))
                waiting.append(inner_layer)


def _leads_out(name: str) -> bool:
    return name.startswith(("/", "\\")) or ":" in name or ".." in name.replace("\\", "/").split("/")


def _inside(name: str, beside: Path, folder: ModelFolder) -> Path | None:
    """The file that a layer names, if it lies in the model's folder."""
    try:
        place = (beside / name.replace("\\", "/")).resolve()
        return place if place.is_relative_to(folder.base) and place.is_file() else None
    except OSError:
        return None


class _Reader:
    def __init__(self, stage: Any, folder: ModelFolder, raw: RawModel, name: str) -> None:
        self._stage, self._folder, self._raw = stage, folder, raw
        self._time = Usd.TimeCode.EarliestTime()
        self._places = UsdGeom.XformCache(self._time)
        self._names = Names()
        self._shapes, self._materials = Shapes(raw, self._time), Materials(raw, folder, self._time)
        self._copies = Copies(name)
        self._found: list[tuple[str, Floats, float, float]] = []
        self._lamps: list[tuple[Any, Floats]] = []
        #: Shapes of kinds that are not drawn.
        self._unknown: Counter[str] = Counter()

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
            elif is_lamp(prim):
                self._lamps.append((prim, self._world(prim)))
            else:
                self._shape(prim, self._world(prim), None)
        self._copies.settle()
        if self._unknown:
            kinds = ", ".join(f"{count} “{kind}”" for kind, count in sorted(self._unknown.items()))
            self._raw.problems.append(
                Problem(
                    "incomplete", f"Some shapes in the file are not shown: {kinds}. Export them as meshes."
                )
            )

    def _world(self, prim: Any) -> Floats:
        return np.array(self._places.GetLocalToWorldTransform(prim), float).T

    def _shape(self, prim: Any, world: Floats, label: tuple[str, str] | None) -> None:
        if prim.IsA(UsdGeom.Points):
            points = UsdGeom.Points(prim).GetPointsAttr().Get(self._time)
            if points:
                places = np.asarray(points, float) @ world[:3, :3].T + world[:3, 3]
                self._raw.add_points(label_of(prim), places, self._shapes.point_shades(prim, len(places)))
        elif prim.IsA(UsdGeom.Curves):
            self._curves(UsdGeom.Curves(prim), world)
        elif prim.IsA(UsdGeom.Gprim):
            bound = UsdShade.MaterialBindingAPI(prim).ComputeBoundMaterial()[0]
            looks = str(as_held(bound.GetPrim()).GetPath()) if bound else ""
            key = (looks, *self._shapes.told_by(prim))
            if self._copies.read(key, lambda: self._parts(prim, bound)):
                name, number = label or self._names.of(label_of(prim))
                self._raw.parts += self._copies.of(key, (number, name, category_of(name), ""), world)
            elif not prim.IsA(UsdGeom.Mesh):
                self._unknown[str(prim.GetTypeName())] += 1

    def _parts(self, prim: Any, bound: Any) -> Iterator[Part]:
        """A mesh or solid as it lies in its own axes, a part for each of its materials."""
        mesh = UsdGeom.Mesh(prim) if prim.IsA(UsdGeom.Mesh) else None
        shape = self._shapes.solid(prim) if mesh is None else self._shapes.mesh(mesh)
        if shape is None or not len(shape.counts):
            return
        cut, face = triangles_of(shape.points, shape.counts, shape.corners)
        if UsdGeom.Gprim(prim).GetOrientationAttr().Get(self._time) == UsdGeom.Tokens.leftHanded:
            cut = cut[:, ::-1]
        holes = mesh.GetHoleIndicesAttr().Get(self._time) if mesh is not None else None
        shown = ~np.isin(face, np.asarray(holes, np.int64)) if holes else np.ones(len(face), bool)
        by_face = np.full(len(shape.counts), self._materials.of(bound, shape), np.int64)
        for subset in UsdGeom.Subset.GetAllGeomSubsets(UsdGeom.Imageable(prim)):
            own = UsdShade.MaterialBindingAPI(subset.GetPrim()).ComputeBoundMaterial()[0]
            indices = np.asarray(subset.GetIndicesAttr().Get(self._time) or [], np.int64)
            if own:
                by_face[indices[(indices >= 0) & (indices < len(by_face))]] = self._materials.of(own, shape)
        for material in distinct(by_face[face[shown]]).tolist():
            yield self._part(shape, cut[shown & (by_face[face] == material)], material)

    def _part(self, shape: Shape, cut: Ints, material: int) -> Part:
        used = cut.reshape(-1)
        loose = shape.normals is not None or shape.uvs is not None or shape.colours is not None
        if loose:
            rows, places = used, np.arange(len(used))
        else:
            numbers, places = np.unique(shape.corners[used], return_inverse=True)
            rows = numbers
        points = shape.points[shape.corners[rows] if loose else rows]
        normals = None
        if shape.normals is not None and shape.normals.shape[1] == 3:
            normals = shape.normals[rows]
            normals = normals / np.maximum(np.linalg.norm(normals, axis=1, keepdims=True), 1e-12)
        uvs = shape.uvs[rows][:, :2] if shape.uvs is not None and shape.uvs.shape[1] >= 2 else None
        painted = (
            shape.colours[rows]
            if shape.colours is not None and self._raw.materials[material].name == PAINTED
            else None
        )
        surface = points, places.reshape(-1, 3), normals, uvs, painted
        return Part("", "", "", "", material, *surface, smooth=shape.smooth)

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
                self._raw.add_lines(label_of(curves.GetPrim()), chained(place[at : at + count]))
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
                f"{label_of(prim)} {label_of(prototype)}" if number == 0 else label_of(prototype)
            )
            base = np.linalg.inv(self._world(prototype)) if prototype else np.eye(4)
            own = (
                np.array(UsdGeom.Xformable(prototype).GetLocalTransformation(self._time), float).T
                if prototype.IsA(UsdGeom.Xformable)
                else np.eye(4)
            )
            for below in Usd.PrimRange(prototype, Usd.TraverseInstanceProxies()):
                self._shape(below, above @ np.array(matrix, float).T @ own @ base @ self._world(below), label)

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
            self._found.append((label_of(prim), self._world(prim), across, aspect))

    def add_lamps(self, matrix: Floats) -> None:
        """Keep the file's lights that have a place, once units and axes are known."""
        for prim, placed in self._lamps:
            world = matrix @ placed
            size = abs(float(np.linalg.det(world[:3, :3]))) ** (1 / 3)
            add_usd_lamp(self._raw, prim, label_of(prim), world, self._time, size)

    def add_cameras(self, matrix: Floats) -> None:
        """Offer the file's cameras, once units and axes are known."""
        for name, placed, across, aspect in self._found:
            camera = as_camera(name, matrix @ placed, across, aspect)
            if camera is not None:
                self._raw.cameras.append(camera)
