"""IFC: products as triangles with their storeys, spaces as rooms, surface styles as materials.

A fast geometry kernel takes everything except products whose shape is clipped by half-spaces, which it gets
wrong; those go to the exact one.
"""

from __future__ import annotations

import math
import re
import tempfile
import zipfile
from collections import Counter
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any

import ifcopenshell
import ifcopenshell.geom
import ifcopenshell.util.element
import ifcopenshell.util.placement
import ifcopenshell.util.unit
import numpy as np

from altana.core.conventions import Floats, Ints32
from altana.core.errors import UserError
from altana.core.light.lamps import FIXTURE
from altana.core.model import CLAMP, REPEAT, Material, Problem, Storey
from altana.importers.copying import HERE, Copies
from altana.importers.finish import SOLID_FROM, as_mirror, is_mirror, kind_of, pane_roughness
from altana.importers.folder import ModelFolder
from altana.importers.ifc_kernel import EXACT_KERNEL, FAST_KERNEL, Shape, clipped_products, shapes_of
from altana.importers.ifc_layers import resting, rests
from altana.importers.ifc_lights import gives_light, read_lights
from altana.importers.ifc_lines import add_linework
from altana.importers.ifc_paint import FacePaint
from altana.importers.ifc_place import metres_of, place_of, unit_of
from altana.importers.ifc_rooms import add_rooms
from altana.importers.ifcxml import read_ifcxml
from altana.importers.memory import WHILE_READING, check_archive, check_room
from altana.importers.pictures import keep_picture
from altana.importers.raw import Part, RawModel, layers_off
from altana.importers.units import UNITS, settle

#: IFC classes in plain words; others lose their prefix and get spaces.
WORDS = {
    "IfcSlab": "Floor",
    "IfcCurtainWall": "Curtain wall",
    "IfcFurnishingElement": "Furniture",
    "IfcFurniture": "Furniture",
    "IfcStairFlight": "Stair",
    "IfcLightFixture": FIXTURE,
    "IfcGeographicElement": "Terrain",
    "IfcPlate": "Glazing",
    "IfcSite": "Terrain",
    "IfcBuildingElementProxy": "Other",
    "IfcWallStandardCase": "Wall",
    "IfcSystemFurnitureElement": "Furniture",
}
#: How rough metal is of which a file says no more.
METAL_ROUGHNESS = 0.35
NOT_DRAWN = ("IfcOpeningElement", "IfcSpace", "IfcAnnotation", "IfcGrid", "IfcVirtualElement")


def read_ifc_file(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """An IFC file, plain, in an archive or as XML, and the other files it was read from.  Raises UserError.

    Units and axes are as the file says, so ``unit_m`` and ``up`` set something only where they are not 0 and
    empty; a file that names no unit is judged as others are.
    """
    folder = ModelFolder(path)
    if zipfile.is_zipfile(path):
        with tempfile.TemporaryDirectory(prefix="altana-") as place:
            raw = read_ifc(_unpacked(path, Path(place)), folder, path.name)
    else:
        raw = read_ifc(path, folder, path.name)
    if unit_m or up:
        # Geometry comes in metres whatever the file's unit; a chosen one corrects a file that says another
        # than it means.
        unit_words, word = _told_unit(raw), raw.unit
        settle(raw, (unit_m or unit_words) / unit_words, up, 0.0, "z")
        raw.unit = f"{unit_m:g} m, as chosen" if unit_m else word
    elif not raw.unit:
        settle(raw, 0.0, "", 0.0, "z")
    folder.tell(raw)
    return raw, folder.read


def _told_unit(raw: RawModel) -> float:
    return next((metres for metres, (name, _, _) in UNITS.items() if name == raw.unit), 1.0)


def _unpacked(path: Path, place: Path) -> Path:
    """The first IFC file in an archive, in a folder of its own."""
    check_archive(path, path.name)
    try:
        with zipfile.ZipFile(path) as archive:
            entry = next(
                (
                    item
                    for item in archive.infolist()
                    if Path(item.filename).suffix.lower() in (".ifc", ".ifcxml")
                ),
                None,
            )
            if entry is None:
                raise UserError(
                    f"{path.name} is an archive without an IFC file. Nothing was changed. Choose another file."
                )
            inner = place / f"model{Path(entry.filename).suffix.lower()}"
            with archive.open(entry) as source, inner.open("wb") as target:
                while block := source.read(1 << 20):
                    target.write(block)
            return inner
    except (zipfile.BadZipFile, RuntimeError, EOFError, NotImplementedError) as error:
        raise UserError(
            f"{path.name} is damaged and cannot be unpacked. Nothing was changed. Export it again."
        ) from error


def _opened(path: Path, name: str) -> Any:
    with path.open("rb") as source:
        head = source.read(4096)
    check_room(path.stat().st_size * WHILE_READING, name)
    if b"<" in head[:64] or path.suffix.lower() == ".ifcxml":
        return read_ifcxml(path, name)
    if b"ISO-10303-21" not in head:
        raise UserError(f"{name} is not an IFC file. Nothing was changed. Choose another file.")
    return ifcopenshell.open(str(path), format=".ifc")


def read_ifc(path: Path, folder: ModelFolder, name: str) -> RawModel:
    """All drawn products of an IFC file.  Raises UserError when the file cannot be understood."""
    try:
        file = _opened(path, name)
        projects = file.by_type("IfcProject")
    except UserError:
        raise
    except Exception as error:
        raise UserError(
            f"{name} is damaged and cannot be read as IFC. Nothing was changed. Export it again."
        ) from error
    if not projects:
        raise UserError(
            f"{name} breaks off before its project is described. Nothing was changed. Export it again."
        )
    raw = RawModel(unit=unit_of(file), place=place_of(file))
    storeys = _storeys(file, raw)
    products = [
        item for item in file.by_type("IfcProduct") if item.Representation and item.is_a() not in NOT_DRAWN
    ]
    off, layers = resting(file)
    if off:
        products = [item for item in products if not rests(item, off)]
        raw.problems.append(layers_off(layers))
    _Shapes(file, storeys, raw, folder, name).read(products)
    read_lights(file, raw, metres_of(file))
    add_rooms(file, storeys, raw)
    add_linework(file, raw)
    if len({part.object_id for part in raw.parts}) < len(products):
        lost = len(products) - len({part.object_id for part in raw.parts})
        raw.problems.append(
            Problem("incomplete", f"{lost} of {len(products)} products have no shape that can be drawn.")
        )
    if path.suffix.lower() != ".ifcxml" and b"END-ISO-10303-21" not in _tail(path):
        raw.problems.append(
            Problem("incomplete-file", "The file breaks off before its end; what could be read is shown.")
        )
    return raw


def _tail(path: Path) -> bytes:
    """The last bytes of a file."""
    with path.open("rb") as source:
        source.seek(max(0, path.stat().st_size - 200))
        return source.read()


def _storeys(file: Any, raw: RawModel) -> dict[int, str]:
    ids: dict[int, str] = {}
    scale = metres_of(file)
    items = file.by_type("IfcBuildingStorey")
    names = Counter(str(item.Name or "Storey") for item in items)
    for item in items:
        try:
            elevation = float(ifcopenshell.util.placement.get_storey_elevation(item)) * scale
        except Exception:  # noqa: BLE001 - the border of a foreign parser
            # An elevation that cannot be told: the storey is left out.
            continue
        ids[item.id()] = str(item.GlobalId)
        name = str(item.Name or "Storey")
        house = ifcopenshell.util.element.get_aggregate(item) if names[name] > 1 else None
        if house is not None and house.Name:
            # Several buildings have a ground floor each.
            name = f"{name}, {house.Name}"
        raw.storeys.append(Storey(str(item.GlobalId), name, elevation))
    return ids


class _Shapes:
    """Reads products as triangles: the fast kernel first, the exact one for what it gets wrong or leaves."""

    def __init__(
        self, file: Any, storeys: dict[int, str], raw: RawModel, folder: ModelFolder, name: str
    ) -> None:
        self._file, self._storeys, self._raw, self._folder = file, storeys, raw, folder
        self._materials: dict[Any, int] = {}
        self._pictures: dict[str, int] = {}
        self._wraps: dict[int, tuple[str, str]] = {}
        self._done: set[int] = set()
        self._paint = FacePaint(file, raw)
        self._copies = Copies(name)
        #: Counts what the kernels hold: the exact one has all of it before any is placed.
        self._held = Copies(name)

    def read(self, products: list[Any]) -> None:
        """All products, each once."""
        clipped = clipped_products(self._file)
        fast = [item for item in products if item.id() not in clipped]
        self._iterate(fast, FAST_KERNEL)
        self._iterate([item for item in products if item.id() in clipped], EXACT_KERNEL)
        self._iterate([item for item in fast if item.id() not in self._done], EXACT_KERNEL)
        self._copies.settle()

    def _iterate(self, group: list[Any], kernel: str) -> None:
        for shape in shapes_of(self._file, group, kernel, self._held.count):
            if self._take(shape):
                self._done.add(shape.id)

    def _take(self, shape: Shape) -> bool:
        if not len(shape.faces):
            return False
        product = self._file.by_id(shape.id)
        label = str(product.GlobalId), str(product.Name or product.is_a()[3:])
        told = (*label, _word(product), self._storey(product))
        if self._paint.paints(product):
            self._copies.count(len(shape.faces))
            self._take_painted(product, told, shape)
        else:
            self._copies.read(shape.key, lambda: self._parts(shape))
            self._raw.parts += self._copies.of(shape.key, told, shape.place)
        return True

    def _take_painted(self, product: Any, told: tuple[str, str, str, str], shape: Shape) -> None:
        """A product of which faces have colours of their own."""
        vertices = shape.standing
        faces, which = self._paint.take(product, told, vertices, shape.faces, self._which(shape))
        for part in _parts_of(vertices, faces, which):
            self._raw.parts.append(self._copies.stood(part, told, HERE, False))

    def _parts(self, shape: Shape) -> Iterator[Part]:
        """A shape before it is placed."""
        return _parts_of(shape.vertices, shape.faces, self._which(shape))

    def _which(self, shape: Shape) -> Ints32:
        return self._materials_of(shape.styles, shape.which if len(shape.which) == len(shape.faces) else None)

    def _materials_of(self, styles: list[Any], which: Ints32 | None) -> Ints32:
        """(m,) the model's material of each triangle, or (1,) that of all.  which : (m,) numbers of styles,
        -1 for none.

        Some programs give every part of a product a style of its own, all alike: they are one material.
        """
        used = [-1] if which is None else sorted(set(which.tolist()))
        numbers = [self._material(styles[at] if 0 <= at < len(styles) else None) for at in used]
        if which is None or len(set(numbers)) == 1:
            return np.array(numbers[:1], np.int32)
        return np.array(numbers, np.int32)[np.searchsorted(used, which)]

    def _storey(self, product: Any) -> str:
        """The storey a thing belongs to, whatever else holds it in between: a room, a stair, a group of
        furniture."""
        holder = ifcopenshell.util.element.get_container(product)
        for _ in range(8):
            if holder is None or holder.id() in self._storeys:
                break
            holder = ifcopenshell.util.element.get_aggregate(
                holder
            ) or ifcopenshell.util.element.get_container(holder)
        return self._storeys.get(holder.id(), "") if holder is not None else ""

    def _material(self, style: Any) -> int:
        if style is not None and ("style", style.instance_id()) in self._materials:
            return self._materials["style", style.instance_id()]
        material = Material("Plain", (0.78, 0.76, 0.72, 1.0)) if style is None else self._converted(style)
        key = (material.name, material.colour, material.image, material.metal)
        if key not in self._materials:
            self._materials[key] = len(self._raw.materials)
            self._raw.materials.append(material)
        if style is not None:
            self._materials["style", style.instance_id()] = self._materials[key]
        return self._materials[key]

    def _converted(self, style: Any) -> Material:
        diffuse = style.diffuse
        red, green, blue = (
            min(1.0, max(0.0, float(value))) for value in (diffuse.r(), diffuse.g(), diffuse.b())
        )
        through = float(style.transparency) if style.has_transparency() else 0.0
        opacity = min(1.0, max(0.0, 1.0 - through)) if math.isfinite(through) else 1.0
        name = _style_name(self._file, style)
        image = self._picture(style)
        # What is all transparent was meant to be seen through, not to vanish.
        opacity = max(opacity, 0.03)
        material = Material(
            name,
            (red, green, blue, opacity) if image < 0 else (1.0, 1.0, 1.0, opacity),
            image,
            pane_roughness(name) if opacity < SOLID_FROM else 0.8,
            kind_of(name, opacity, image >= 0),
            wraps=self._wraps.get(image, (REPEAT, REPEAT)),
        )
        if image >= 0 or opacity < SOLID_FROM:
            return material
        method = self._reflecting(style)
        if method == "METAL":
            return replace(material, metal=1.0, roughness=METAL_ROUGHNESS)
        return as_mirror(material) if method == "MIRROR" or is_mirror(name) else material

    def _reflecting(self, style: Any) -> str:
        """How a surface style says that it throws light back (IfcReflectanceMethodEnum), empty where it says
        nothing."""
        try:
            source = self._file.by_id(style.instance_id())
        except RuntimeError:
            return ""
        parts = [source, *(getattr(source, "Styles", None) or ())]
        return next(
            (str(part.ReflectanceMethod) for part in parts if getattr(part, "ReflectanceMethod", None)), ""
        )

    def _picture(self, style: Any) -> int:
        """The picture of a surface style, laid on by its own size in metres."""
        try:
            source = self._file.by_id(style.instance_id())
            owners = [source, *self._file.get_inverse(source)]
        except RuntimeError:
            return -1
        for owner in owners:
            for part in getattr(owner, "Styles", None) or () if owner.is_a("IfcSurfaceStyle") else ():
                if not part.is_a("IfcSurfaceStyleWithTextures"):
                    continue
                for texture in part.Textures:
                    if texture.is_a("IfcImageTexture"):
                        name = str(
                            getattr(texture, "URLReference", None) or getattr(texture, "UrlReference", "")
                        )
                        if name not in self._pictures:
                            self._pictures[name] = keep_picture(
                                self._raw, re.split(r"[\\/]", name)[-1], self._folder.bytes_of(name)
                            )
                            u, v = (getattr(texture, word, True) for word in ("RepeatS", "RepeatT"))
                            self._wraps[self._pictures[name]] = REPEAT if u else CLAMP, REPEAT if v else CLAMP
                        return self._pictures[name]
        return -1


def _parts_of(vertices: Floats, faces: Ints32, which: Ints32) -> Iterator[Part]:
    """A part for each material, of nobody yet.  which : (m,) the material of each triangle, or (1,) that of
    all."""
    for material, mine in _by_material(faces, which):
        # Only the vertices in use go on, because every part carries its own.
        points, compact = (vertices, mine) if mine is faces else _in_use(vertices, mine)
        yield Part("", "", "", "", material, points, compact)


def _by_material(faces: Ints32, which: Ints32) -> Iterator[tuple[int, Ints32]]:
    """The triangles (m, 3) of each material.  which : (m,) the material of each, or (1,) that of all."""
    if len(which) == 1:
        yield int(which[0]), faces
        return
    for material in dict.fromkeys(which.tolist()):
        yield material, faces[which == material]


def _in_use(vertices: Floats, faces: Ints32) -> tuple[Floats, Ints32]:
    """The vertices (n, 3) that triangles (m, 3) use, in their order, and the triangles by these."""
    corners = faces.reshape(-1).astype(np.intp)
    used = np.zeros(len(vertices), np.bool_)
    used[corners] = True
    numbers = np.cumsum(used, dtype=np.int32) - np.int32(1)
    return vertices[used], numbers[corners].reshape(-1, 3)


def _word(product: Any) -> str:
    kind = product.is_a()
    object_type = str(getattr(product, "ObjectType", None) or "")
    if (
        kind in ("IfcBuildingElementProxy", "IfcGeographicElement", "IfcFurniture")
        and object_type
        and object_type != "USERDEFINED"
    ):
        return object_type
    if kind in ("IfcLamp", "IfcFlowTerminal") and gives_light(product):
        return FIXTURE
    return WORDS.get(kind) or re.sub(r"(?<=[a-z])(?=[A-Z])", " ", kind[3:]).capitalize()


def _style_name(file: Any, style: Any) -> str:
    """The name of the surface style or material that a rendering belongs to."""
    try:
        source = file.by_id(style.instance_id())
        owners = [source, *file.get_inverse(source)]
    except Exception:  # noqa: BLE001 - the border of a foreign parser
        return str(style.name)
    return next((str(item.Name) for item in owners if getattr(item, "Name", None)), str(style.name))
