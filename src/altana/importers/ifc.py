"""IFC: products as triangles with their storeys, spaces as rooms, surface styles as materials.

A fast geometry kernel takes everything except products whose shape is clipped by half-spaces, which it gets
wrong; those go to the exact one.
"""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

import ifcopenshell
import ifcopenshell.geom
import ifcopenshell.util.element
import ifcopenshell.util.placement
import ifcopenshell.util.unit
import numpy as np
import shapely

from altana.core.errors import UserError
from altana.core.model import Material, Problem, Room, Storey
from altana.importers.build import Part, RawModel
from altana.importers.meshes import kind_of

FAST_KERNEL, EXACT_KERNEL = "hybrid-manifold-opencascade", "opencascade"
#: IFC classes in plain words; others lose their prefix and get spaces.
WORDS = {
    "IfcSlab": "Floor",
    "IfcCurtainWall": "Curtain wall",
    "IfcFurnishingElement": "Furniture",
    "IfcFurniture": "Furniture",
    "IfcStairFlight": "Stair",
    "IfcLightFixture": "Light fixture",
    "IfcGeographicElement": "Terrain",
    "IfcPlate": "Glazing",
    "IfcSite": "Terrain",
    "IfcBuildingElementProxy": "Other",
    "IfcWallStandardCase": "Wall",
    "IfcSystemFurnitureElement": "Furniture",
}
MOST_ANNOTATIONS = 20_000
NOT_DRAWN = ("IfcOpeningElement", "IfcSpace", "IfcAnnotation", "IfcGrid", "IfcVirtualElement")


def read_ifc(path: Path) -> RawModel:
    """All drawn products of an IFC file.  Raises UserError when the file cannot be understood."""
    head = path.read_bytes()[:64]
    if not head.strip():
        raise UserError(f"{path.name} is empty. Nothing was changed. Export it again, or choose another file.")
    if b"ISO-10303-21" not in head:
        raise UserError(f"{path.name} is not an IFC file. Nothing was changed. Choose another file.")
    try:
        file = ifcopenshell.open(str(path))
        projects = file.by_type("IfcProject")
    except Exception as error:
        raise UserError(f"{path.name} is damaged and cannot be read as IFC. Nothing was changed. Export it again.") from error
    if not projects:
        raise UserError(f"{path.name} breaks off before its project is described. Nothing was changed. Export it again.")
    raw = RawModel(unit=_unit_name(file))
    storeys = _storeys(file, raw)
    products = [item for item in file.by_type("IfcProduct") if item.Representation and item.is_a() not in NOT_DRAWN]
    _geometry(file, products, storeys, raw)
    _rooms(file, storeys, raw)
    _linework(file, raw)
    if len({part.object_id for part in raw.parts}) < len(products):
        lost = len(products) - len({part.object_id for part in raw.parts})
        raw.problems.append(Problem("incomplete", f"{lost} of {len(products)} products have no shape that can be drawn."))
    if b"END-ISO-10303-21" not in path.read_bytes()[-200:]:
        raw.problems.append(Problem("incomplete-file", "The file breaks off before its end; what could be read is shown."))
    return raw


def _unit_name(file: Any) -> str:
    try:
        scale = float(ifcopenshell.util.unit.calculate_unit_scale(file))
    except Exception:
        return "metre"
    return {1.0: "metre", 0.001: "millimetre", 0.01: "centimetre", 0.3048: "foot"}.get(round(scale, 6), f"{scale:g} m")


def _storeys(file: Any, raw: RawModel) -> dict[int, str]:
    ids: dict[int, str] = {}
    try:
        scale = float(ifcopenshell.util.unit.calculate_unit_scale(file))
    except Exception:
        scale = 1.0
    for item in file.by_type("IfcBuildingStorey"):
        try:
            elevation = float(ifcopenshell.util.placement.get_storey_elevation(item)) * scale
        except Exception:
            continue
        ids[item.id()] = str(item.GlobalId)
        raw.storeys.append(Storey(str(item.GlobalId), str(item.Name or "Storey"), elevation))
    return ids


def _settings() -> Any:
    settings = ifcopenshell.geom.settings()
    settings.set("use-world-coords", True)
    return settings


def _geometry(file: Any, products: list[Any], storeys: dict[int, str], raw: RawModel) -> None:
    clipped = _clipped_products(file)
    exact = [item for item in products if item.id() in clipped]
    fast = [item for item in products if item.id() not in clipped]
    materials: dict[Any, int] = {}
    done: set[int] = set()
    for group, kernel in ((fast, FAST_KERNEL), (exact, EXACT_KERNEL)):
        _iterate(file, group, kernel, storeys, raw, materials, done)
    left = [item for item in fast if item.id() not in done]
    _iterate(file, left, EXACT_KERNEL, storeys, raw, materials, done)


def _iterate(
    file: Any, group: list[Any], kernel: str, storeys: dict[int, str], raw: RawModel, materials: dict[Any, int], done: set[int]
) -> None:
    if not group:
        return
    iterator = ifcopenshell.geom.iterator(_settings(), file, 1, include=group, geometry_library=kernel)
    if not iterator.initialize():
        return
    while True:
        shape = iterator.get()
        if _take(file, shape, storeys, raw, materials):
            done.add(shape.id)
        if not iterator.next():
            return


def _take(file: Any, shape: Any, storeys: dict[int, str], raw: RawModel, materials: dict[Any, int]) -> bool:
    geometry = shape.geometry
    # The buffers belong to the iterator and are gone after its next step.
    vertices = np.frombuffer(geometry.verts_buffer, np.float64).reshape(-1, 3).copy()
    faces = np.frombuffer(geometry.faces_buffer, np.int32).reshape(-1, 3).astype(np.int64)
    which = np.frombuffer(geometry.material_ids_buffer, np.int32)
    if not len(faces):
        return False
    product = file.by_id(shape.id)
    container = ifcopenshell.util.element.get_container(product)
    storey = storeys.get(container.id(), "") if container is not None else ""
    styles = list(geometry.materials)
    for index in np.unique(which) if len(which) == len(faces) else [-1]:
        mine = faces if index == -1 and len(which) != len(faces) else faces[which == index]
        style = styles[index] if 0 <= index < len(styles) else None
        # Only the vertices in use go on, because every part carries its own.
        if len(styles) > 1:
            used, compact = np.unique(mine, return_inverse=True)
        else:
            used, compact = np.arange(len(vertices)), mine
        raw.parts.append(
            Part(
                str(product.GlobalId),
                str(product.Name or product.is_a()[3:]),
                _word(product),
                storey,
                _material(file, style, materials, raw),
                vertices[used],
                compact.reshape(-1, 3),
            )
        )
    return True


def _word(product: Any) -> str:
    kind = product.is_a()
    told = str(getattr(product, "ObjectType", None) or "")
    if kind in ("IfcBuildingElementProxy", "IfcGeographicElement", "IfcFurniture") and told and told != "USERDEFINED":
        return told
    return WORDS.get(kind) or re.sub(r"(?<=[a-z])(?=[A-Z])", " ", kind[3:]).capitalize()


def _material(file: Any, style: Any, materials: dict[Any, int], raw: RawModel) -> int:
    if style is not None and ("style", style.instance_id()) in materials:
        return materials["style", style.instance_id()]
    if style is None:
        key: Any = "plain"
        made = Material("Plain", (0.78, 0.76, 0.72, 1.0))
    else:
        diffuse = style.diffuse
        rgb = (float(diffuse.r()), float(diffuse.g()), float(diffuse.b()))
        opacity = 1.0 - float(style.transparency) if style.has_transparency() else 1.0
        name = _style_name(file, style)
        rough = 0.2 if opacity < 0.9 else 0.8
        made = Material(name, (*(min(1.0, max(0.0, v)) for v in rgb), opacity), -1, rough, kind_of(name, opacity))  # type: ignore[arg-type]
        key = (made.name, made.colour)
    if key not in materials:
        materials[key] = len(raw.materials)
        raw.materials.append(made)
    if style is not None:
        materials["style", style.instance_id()] = materials[key]
    return materials[key]


def _style_name(file: Any, style: Any) -> str:
    """The name of the surface style or material that a rendering belongs to."""
    try:
        source = file.by_id(style.instance_id())
        owners = [source, *file.get_inverse(source)]
    except Exception:
        return str(style.name)
    return next((str(item.Name) for item in owners if getattr(item, "Name", None)), str(style.name))


def _clipped_products(file: Any) -> set[int]:
    """Products whose representation reaches a half-space."""
    found: set[int] = set()
    seen: set[int] = set()
    try:
        waiting = list(file.by_type("IfcHalfSpaceSolid"))
    except Exception:
        return found
    while waiting:
        item = waiting.pop()
        for user in file.get_inverse(item):
            if user.id() in seen:
                continue
            seen.add(user.id())
            if user.is_a("IfcProduct"):
                found.add(user.id())
            elif (
                user.is_a("IfcRepresentationItem")
                or user.is_a("IfcRepresentation")
                or user.is_a("IfcProductRepresentation")
                or user.is_a("IfcRepresentationMap")
            ):
                waiting.append(user)
    return found


def _rooms(file: Any, storeys: dict[int, str], raw: RawModel) -> None:
    spaces = [item for item in file.by_type("IfcSpace") if item.Representation]
    if not spaces:
        return
    iterator = ifcopenshell.geom.iterator(_settings(), file, 1, include=spaces, geometry_library=FAST_KERNEL)
    if not iterator.initialize():
        return
    while True:
        shape = iterator.get()
        vertices = np.frombuffer(shape.geometry.verts_buffer, np.float64).reshape(-1, 3).copy()
        faces = np.frombuffer(shape.geometry.faces_buffer, np.int32).reshape(-1, 3)
        outline = _footprint(vertices, faces)
        if outline:
            item = file.by_id(shape.id)
            above = ifcopenshell.util.element.get_aggregate(item)
            name = str(item.LongName or item.Name or "Room")
            storey = storeys.get(above.id(), "") if above is not None else ""
            raw.rooms.append(Room(str(item.GlobalId), name, storey, outline, float(vertices[:, 2].min()), float(vertices[:, 2].max())))
        if not iterator.next():
            return


def _linework(file: Any, raw: RawModel) -> None:
    """Annotation curves and building grids, kept apart from the building."""
    settings = _settings()
    settings.set("dimensionality", ifcopenshell.ifcopenshell_wrapper.CURVES_SURFACES_AND_SOLIDS)
    for item in file.by_type("IfcAnnotation")[:MOST_ANNOTATIONS]:
        try:
            geometry = ifcopenshell.geom.create_shape(settings, item).geometry
            points = np.array(geometry.verts, float).reshape(-1, 3)
            raw.add_lines(str(item.Name or "Annotation"), points[np.array(geometry.edges, int).reshape(-1, 2)])
        except RuntimeError:
            continue  # a text or a shape without curves: nothing to draw
    scale = float(ifcopenshell.util.unit.calculate_unit_scale(file)) if file.by_type("IfcGrid") else 1.0
    for grid in file.by_type("IfcGrid"):
        place = np.eye(4)
        if grid.ObjectPlacement is not None:
            place = np.asarray(ifcopenshell.util.placement.get_local_placement(grid.ObjectPlacement), float)
            place[:3, 3] *= scale
        for axis in (*(grid.UAxes or ()), *(grid.VAxes or ()), *(grid.WAxes or ())):
            try:
                curve = ifcopenshell.geom.create_shape(settings, axis.AxisCurve)
            except RuntimeError:
                continue
            points = np.array(curve.verts, float).reshape(-1, 3) @ place[:3, :3].T + place[:3, 3]
            raw.add_lines(f"Grid {grid.Name or ''}".strip(), points[np.array(curve.edges, int).reshape(-1, 2)])


def _footprint(vertices: np.ndarray, faces: np.ndarray) -> tuple[tuple[float, float], ...]:
    corner = vertices[faces]
    normal = np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0])
    top = normal[:, 2] > 0.9 * np.linalg.norm(normal, axis=1)
    if not top.any():
        return ()
    merged = shapely.union_all([shapely.Polygon(triangle[:, :2]) for triangle in corner[top]])
    if not isinstance(merged, shapely.Polygon):
        merged = max(getattr(merged, "geoms", [merged]), key=lambda part: part.area)
    if not isinstance(merged, shapely.Polygon):
        return ()
    return tuple((float(x), float(y)) for x, y in list(merged.simplify(0.001).exterior.coords)[:-1])
