"""Models against independent parsers, and pictures of them: the table in docs/formats.md, and a book to look
through.

    python benchmarks/model_book.py table                 writes the table into docs/formats.md
    python benchmarks/model_book.py compare FOLDER …      the same figures of other files, to the terminal
    python benchmarks/model_book.py book OUT FOLDER …     pages of small pictures, twenty to a page

The independent parsers are trimesh (OBJ, glTF, STL, PLY, OFF, 3MF, DAE), IfcOpenShell with its exact kernel
(IFC), usd-core (USD), ezdxf (DXF) and laspy (scans).  They read the same bytes and share none of Altana's
code.
"""

from __future__ import annotations

import logging
import sys
import tempfile
import warnings
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import ezdxf
import ifcopenshell
import ifcopenshell.geom
import laspy
import numpy as np
import trimesh
from PIL import Image, ImageDraw
from pxr import Usd, UsdGeom

from altana.core.camera.view import View
from altana.core.errors import UserError
from altana.core.light.sky import sky_of
from altana.core.model import Model
from altana.core.project import Light
from altana.core.targets import overview
from altana.importers.table import KINDS, read_model
from altana.render.quality import Quality
from altana.render.renderer import Renderer

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))
BEGIN, END = "<!-- models: begin -->", "<!-- models: end -->"
CELL, COLUMNS, ROWS = (300, 200), 5, 4


@dataclass(frozen=True)
class Figures:
    """What two parsers can agree on: triangles, surface in m2, and the sides of the box in metres, smallest
    first."""

    triangles: int
    area: float
    size: tuple[float, ...]


def area_of(points: Any, faces: Any) -> float:
    """Surface of triangles, in square units."""
    corner = np.asarray(points, float)[np.asarray(faces, int)]
    return float(
        np.linalg.norm(np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0]), axis=1).sum() / 2
    )


def own(model: Model) -> Figures:
    """Altana's figures."""
    size = np.sort(np.ptp(model.bounds, axis=0)).tolist()
    return Figures(
        len(model.faces), area_of(model.vertices, model.faces) if len(model.faces) else 0.0, tuple(size)
    )


def by_trimesh(path: Path) -> Figures:
    """Everything in one mesh, in the file's own units."""
    mesh = trimesh.load_scene(path, process=False).to_mesh()
    return Figures(len(mesh.faces), float(mesh.area), tuple(np.sort(np.ptp(mesh.bounds, axis=0)).tolist()))


def by_ifc(path: Path) -> Figures:
    """All products but openings, spaces and annotation, by the exact kernel, always in metres."""
    file = ifcopenshell.open(str(path))
    settings = ifcopenshell.geom.settings()
    settings.set("use-world-coords", True)
    left = ["IfcOpeningElement", "IfcSpace", "IfcAnnotation", "IfcGrid"]
    iterator = ifcopenshell.geom.iterator(settings, file, 1, exclude=left, geometry_library="opencascade")
    count, area, low, high = 0, 0.0, np.full(3, np.inf), np.full(3, -np.inf)
    if iterator.initialize():
        while True:
            shape = iterator.get().geometry
            points, faces = np.array(shape.verts).reshape(-1, 3), np.array(shape.faces).reshape(-1, 3)
            if len(faces):
                count, area = count + len(faces), area + area_of(points, faces)
                low, high = np.minimum(low, points.min(axis=0)), np.maximum(high, points.max(axis=0))
            if not iterator.next():
                break
    return Figures(count, area, tuple(np.sort(high - low).tolist()))


def by_usd(path: Path) -> Figures:
    """Meshes as fans, which is right for the triangles that the samples hold; in metres."""
    stage = Usd.Stage.Open(str(path))
    unit = UsdGeom.GetStageMetersPerUnit(stage)
    count, area, low, high = 0, 0.0, np.full(3, np.inf), np.full(3, -np.inf)
    for prim in stage.Traverse():
        if not prim.IsA(UsdGeom.Mesh):
            continue
        mesh = UsdGeom.Mesh(prim)
        world = np.array(UsdGeom.XformCache().GetLocalToWorldTransform(prim)).T
        points = (np.asarray(mesh.GetPointsAttr().Get(), float) @ world[:3, :3].T + world[:3, 3]) * unit
        faces, at = [], 0
        corners = mesh.GetFaceVertexIndicesAttr().Get()
        for size in mesh.GetFaceVertexCountsAttr().Get():
            faces += [(corners[at], corners[at + k], corners[at + k + 1]) for k in range(1, size - 1)]
            at += size
        count, area = count + len(faces), area + area_of(points, faces)
        low, high = np.minimum(low, points.min(axis=0)), np.maximum(high, points.max(axis=0))
    return Figures(count, area, tuple(np.sort(high - low).tolist()))


def by_dxf(path: Path) -> Figures:
    """3D faces of the model space, two triangles each."""
    faces = [
        np.array([tuple(p) for p in item.wcs_vertices()])
        for item in ezdxf.readfile(path).modelspace().query("3DFACE")
    ]
    area = sum(area_of(face, [(0, k, k + 1) for k in range(1, len(face) - 1)]) for face in faces)
    points = np.concatenate(faces) if faces else np.zeros((1, 3))
    return Figures(
        sum(len(face) - 2 for face in faces), area, tuple(np.sort(np.ptp(points, axis=0)).tolist())
    )


def by_laspy(path: Path) -> Figures:
    """The box of a scan's points; one triangle a point, whose surface has no counterpart."""
    scan = laspy.read(path)
    return Figures(
        len(scan.x), float("nan"), tuple(np.sort([np.ptp(scan.x), np.ptp(scan.y), np.ptp(scan.z)]).tolist())
    )


PARSERS: dict[str, tuple[str, Callable[[Path], Figures]]] = {
    **dict.fromkeys(
        (".obj", ".glb", ".gltf", ".stl", ".ply", ".off", ".3mf", ".dae"), ("trimesh", by_trimesh)
    ),
    ".ifc": ("IfcOpenShell", by_ifc),
    **dict.fromkeys((".usd", ".usda", ".usdc", ".usdz"), ("usd-core", by_usd)),
    ".dxf": ("ezdxf", by_dxf),
    **dict.fromkeys((".las", ".laz"), ("laspy", by_laspy)),
}


def difference(path: Path, mine: Figures) -> tuple[str, str]:
    """Which parser, and how its figures differ in words; empty where there is none for this kind."""
    if path.suffix.lower() not in PARSERS:
        return "none", ""
    name, parser = PARSERS[path.suffix.lower()]
    theirs = parser(path)
    told = []
    if theirs.triangles != mine.triangles:
        told.append(f"{theirs.triangles} triangles")
    if theirs.area == theirs.area and abs(theirs.area - mine.area) > 1e-3 * max(theirs.area, 1e-9):
        told.append(f"{theirs.area:.2f} m²")
    # A scan's triangles reach a little beyond its points.
    slack = 0.4 if name == "laspy" else 2e-3 * max(theirs.size[-1], 1e-9)
    if np.abs(np.subtract(theirs.size, mine.size)).max() > slack:
        told.append("box " + " × ".join(f"{side:.2f}" for side in theirs.size))
    return name, ", ".join(told) or "the same"


def samples(folder: Path) -> Iterator[tuple[str, Path, float]]:
    """The files of the table: name in it, path, and the unit to read it with (0 for what it says)."""
    from tests.importers.samples import SUFFIXES, write, write_faces_dxf, write_scan

    house = ROOT.parent / "shared/models/real-house.ifc"
    if house.is_file():
        yield "a real two-storey house (IFC)", house, 0.0
    demo = next(iter(sorted((ROOT / "build").glob("demo-*"))), None)
    if demo is not None:
        yield "the demo (IFC)", demo / "larkwater.ifc", 0.0
        yield "the demo (GLB)", demo / "larkwater.glb", 0.0
    for suffix in SUFFIXES:
        if suffix not in (".dxf", ".las", ".laz"):
            yield (
                f"slab and post ({suffix[1:]})",
                write(folder, suffix),
                1.0 if suffix in (".obj", ".stl", ".ply", ".off") else 0.0,
            )
    write_faces_dxf(folder / "faces.dxf")
    yield "wall of 3D faces (dxf)", folder / "faces.dxf", 0.0
    write_scan(folder / "scan.laz")
    yield "scan of a room (laz)", folder / "scan.laz", 0.0


def rows(folder: Path) -> Iterator[str]:
    """Rows of the table."""
    for name, path, unit in samples(folder):
        model = read_model(path, unit)[0]
        mine = own(model)
        parser, told = difference(path, mine)
        box = " × ".join(f"{side:.2f}" for side in mine.size)
        pictured = sum(item.image >= 0 for item in model.materials)
        counts = f"{mine.triangles} | {box} | {mine.area:.1f} | {len(model.materials)} | {pictured} | {len(model.rooms)}"
        yield f"| {name} | {counts} | {parser} | {told} |"


def table() -> str:
    """The whole table."""
    with tempfile.TemporaryDirectory() as folder:
        made = list(rows(Path(folder)))
    head = "| file | triangles | box, m | surface, m² | materials | with pictures | rooms | compared with | which finds |\n"
    return head + "|---|---|---|---|---|---|---|---|---|\n" + "\n".join(made) + "\n"


def write_table() -> None:
    """Put the table into docs/formats.md between its marks."""
    path = ROOT / "docs/formats.md"
    before, _, rest = path.read_text().partition(BEGIN)
    path.write_text(f"{before}{BEGIN}\n{table()}{rest[rest.index(END) :]}")


def found(folders: list[str]) -> Iterator[Path]:
    """Model files below some folders."""
    for folder in folders:
        yield from sorted(
            path for path in Path(folder).rglob("*") if path.suffix.lower() in KINDS and path.is_file()
        )


def compare(folders: list[str]) -> None:
    """Figures and differences of files, a line each."""
    for path in found(folders):
        try:
            mine = own(
                read_model(path, 1.0 if path.suffix.lower() in (".obj", ".stl", ".ply", ".off") else 0.0)[0]
            )
            print(path.name, mine.triangles, f"{mine.area:.3f}", *difference(path, mine), sep=" | ")
        except UserError as error:
            print(path.name, error.sentence, sep=" | ")


def picture(model: Model) -> Image.Image:
    """The whole of a model from the south-east."""
    renderer = Renderer(model)
    try:
        camera = overview(model)
        view = View(camera.pose, camera.view().lens, *CELL)
        made = renderer.picture(view, sky_of(Light()), 14.0, Quality(passes=4))
        assert made is not None
        return Image.fromarray(made)
    finally:
        renderer.close()


def book(out: Path, folders: list[str]) -> None:
    """Pages of pictures with names."""
    out.mkdir(parents=True, exist_ok=True)
    page, number, sheet = Image.new("RGB", (CELL[0] * COLUMNS, (CELL[1] + 18) * ROWS), "white"), 0, 1
    for path in found(folders):
        try:
            model = read_model(path)[0]
            shown = picture(model) if len(model.faces) else Image.new("RGB", CELL, "lightgrey")
        except UserError:
            continue
        at = ((number % COLUMNS) * CELL[0], (number // COLUMNS) * (CELL[1] + 18))
        page.paste(shown, at)
        ImageDraw.Draw(page).text(
            (at[0] + 4, at[1] + CELL[1] + 2),
            f"{path.name}: {len(model.faces)}, {model.unit}"[:48],
            fill="black",
        )
        number += 1
        if number == COLUMNS * ROWS:
            page.save(out / f"page-{sheet:02}.png")
            page, number, sheet = Image.new("RGB", page.size, "white"), 0, sheet + 1
    if number:
        page.save(out / f"page-{sheet:02}.png")


def main() -> None:
    """Do what the first word says."""
    warnings.simplefilter("ignore")
    logging.disable(logging.CRITICAL)
    what, *rest = sys.argv[1:] or ["table"]
    if what == "book":
        book(Path(rest[0]), rest[1:])
    elif what == "compare":
        compare(rest)
    else:
        write_table()


if __name__ == "__main__":
    main()
