"""A small house with every fault that models have, for trying light, checks and importers on.

Nothing in it is as a careful modeller would leave it: bodies turned inside out, single triangles turned over,
walls that are one sheet seen from both sides, solids that stand in each other and faces that lie in the same
plane, slabs that do not meet the walls, a ground of two huge triangles beside a finely cut basin, parts
without a material, a room without a window.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
import trimesh
from trimesh.visual.material import PBRMaterial

from altana.core.camera.pose import direction_to
from altana.core.conventions import Vec3
from altana.core.edits.cameras import add_camera
from altana.core.project import Camera, ModelRef, Project
from altana.storage.project_file import write_project

#: glTF looks up along Y.
Y_UP = np.array([[1.0, 0, 0, 0], [0, 0, 1, 0], [0, -1, 0, 0], [0, 0, 0, 1]])
MODEL, PROJECT = "faulty-house.glb", "faulty-house.altana"
_COLOURS: dict[str, tuple[float, float, float, float, float]] = {
    "Plaster": (0.80, 0.79, 0.76, 1.0, 0.9),
    "Oak": (0.48, 0.30, 0.16, 1.0, 0.6),
    "Tile": (0.30, 0.42, 0.46, 1.0, 0.35),
    "Ceramic": (0.86, 0.86, 0.84, 1.0, 0.25),
    "Clay": (0.55, 0.22, 0.12, 1.0, 0.8),
    "Grass": (0.16, 0.26, 0.09, 1.0, 0.9),
    "Stone": (0.42, 0.41, 0.39, 1.0, 0.7),
    "Glass": (0.75, 0.82, 0.82, 0.12, 0.05),
    "Frosted glass": (0.86, 0.90, 0.90, 0.35, 0.6),
}


def box(low: Vec3, high: Vec3) -> trimesh.Trimesh:
    """An upright box between two corners."""
    cuboid: trimesh.Trimesh = trimesh.creation.box(np.subtract(high, low))
    cuboid.apply_translation(np.add(low, high) / 2)
    return cuboid


def sheet(*corners: Vec3) -> trimesh.Trimesh:
    """Four corners as two triangles, seen from both sides and with no thickness."""
    return trimesh.Trimesh(corners, [(0, 1, 2), (0, 2, 3)], process=False)


def inside_out(mesh: trimesh.Trimesh) -> trimesh.Trimesh:
    """The same with all triangles turned over."""
    return trimesh.Trimesh(mesh.vertices, mesh.faces[:, ::-1], process=False)


def some_turned(mesh: trimesh.Trimesh) -> trimesh.Trimesh:
    """The same with every other triangle turned over."""
    faces = np.array(mesh.faces)
    faces[::2] = faces[::2, ::-1]
    return trimesh.Trimesh(mesh.vertices, faces, process=False)


def basin(middle: Vec3, radius: float) -> trimesh.Trimesh:
    """A finely cut half ball, open above, wound as seen from within."""
    ball = trimesh.creation.icosphere(4, radius)
    ball.apply_translation(middle)
    keep = ball.triangles_center[:, 2] < middle[2]
    return trimesh.Trimesh(ball.vertices, ball.faces[keep][:, ::-1], process=False)


def parts() -> list[tuple[str, str, trimesh.Trimesh]]:
    """Name, material (empty: none) and mesh of everything; metres, Z up."""
    column = trimesh.creation.cylinder(0.16, 2.6, sections=28)
    column.apply_translation((3.4, 2.2, 1.3))
    return [
        # Two triangles of 400 m each way, and a slab that ends 6 mm before the walls.
        ("Ground", "Grass", sheet((-200, -200, 0), (200, -200, 0), (200, 200, 0), (-200, 200, 0))),
        ("Floor", "Stone", box((0.256, 0.256, -0.1), (9.744, 7.744, 0.12))),
        *_walls(),
        # It hangs 8 mm above the walls; its underside is turned up.
        ("Ceiling", "Plaster", inside_out(box((0.0, 0.0, 2.728), (10.0, 8.0, 2.95)))),
        ("Roof", "Clay", sheet((-0.5, -0.5, 2.9), (-0.5, 4.0, 5.2), (10.5, 4.0, 5.2), (10.5, -0.5, 2.9))),
        (
            "Roof behind",
            "Clay",
            sheet((-0.5, 8.5, 2.9), (10.5, 8.5, 2.9), (10.5, 4.0, 5.2), (-0.5, 4.0, 5.2)),
        ),
        # Turned inside out; the next with every other triangle turned over; both stand a hand deep in the
        # wall.
        ("Cupboard", "Oak", inside_out(box((0.15, 4.9, 0.12), (0.85, 6.2, 1.0)))),
        ("Cupboard 2", "Oak", some_turned(box((0.15, 6.2, 0.12), (0.85, 7.6, 2.1)))),
        ("Worktop", "", box((0.15, 4.85, 0.98), (0.9, 6.2, 1.04))),
        ("Table", "Oak", box((4.0, 5.0, 0.82), (5.8, 6.0, 0.87))),
        # Its upper side lies in the very plane of the table's.
        ("Cloth", "Plaster", box((4.4, 5.2, 0.84), (5.4, 5.8, 0.87))),
        *(
            (f"Leg {number}", "Oak", box((x, y, 0.12), (x + 0.07, y + 0.07, 0.83)))
            for number, (x, y) in enumerate(((4.05, 5.05), (5.68, 5.05), (4.05, 5.88), (5.68, 5.88)), 1)
        ),
        ("Column", "Stone", column),
        ("Basin", "Ceramic", basin((8.9, 6.6, 1.0), 0.32)),
        (
            "Basin's shelf",
            "",
            sheet((8.4, 6.2, 1.005), (9.74, 6.2, 1.005), (9.74, 7.0, 1.005), (8.4, 7.0, 1.005)),
        ),
        (
            "Tiles",
            "Tile",
            sheet((9.748, 4.3, 0.12), (9.748, 7.7, 0.12), (9.748, 7.7, 1.8), (9.748, 4.3, 1.8)),
        ),
        ("Handle", "", trimesh.creation.icosphere(1, 0.04).apply_translation((6.93, 6.1, 1.1))),
    ]


def _walls() -> list[tuple[str, str, trimesh.Trimesh]]:
    # South front with a wide window, made of pieces that overlap at their ends.
    return [
        ("South wall", "Plaster", box((0, 0, 0), (2.0, 0.25, 2.72))),
        ("South wall 2", "Plaster", box((1.9, 0, 0), (6.1, 0.25, 0.75))),
        ("South wall 3", "Plaster", inside_out(box((1.9, 0, 2.3), (6.1, 0.25, 2.72)))),
        ("South wall 4", "Plaster", box((6.0, 0, 0), (10.0, 0.25, 2.72))),
        ("Window", "Glass", sheet((2.0, 0.12, 0.75), (6.0, 0.12, 0.75), (6.0, 0.12, 2.3), (2.0, 0.12, 2.3))),
        ("West wall", "Plaster", box((0, 0, 0), (0.25, 8.0, 2.72))),
        ("North wall", "Plaster", inside_out(box((0, 7.75, 0), (10.0, 8.0, 2.72)))),
        # The east wall is a sheet within and another without, and nothing between them.
        ("East wall", "Plaster", sheet((9.75, 0.25, 0), (9.75, 5.0, 0), (9.75, 5.0, 2.72), (9.75, 0.25, 2.72))),
        ("East wall 2", "Plaster", sheet((9.75, 6.0, 0), (9.75, 7.75, 0), (9.75, 7.75, 2.72), (9.75, 6.0, 2.72))),
        ("East wall 3", "Plaster", sheet((9.75, 5.0, 0), (9.75, 6.0, 0), (9.75, 6.0, 1.1), (9.75, 5.0, 1.1))),
        ("East wall 4", "Plaster", sheet((9.75, 5.0, 2.1), (9.75, 6.0, 2.1), (9.75, 6.0, 2.72), (9.75, 5.0, 2.72))),
        ("East front", "Plaster", sheet((10, 0, 0), (10, 5, 0), (10, 5, 2.72), (10, 0, 2.72))),
        ("East front 2", "Plaster", sheet((10, 6, 0), (10, 8, 0), (10, 8, 2.72), (10, 6, 2.72))),
        ("East front 3", "Plaster", sheet((10, 5, 0), (10, 6, 0), (10, 6, 1.1), (10, 5, 1.1))),
        ("East front 4", "Plaster", sheet((10, 5, 2.1), (10, 6, 2.1), (10, 6, 2.72), (10, 5, 2.72))),
        ("Bath window", "Frosted glass", sheet((9.9, 5, 1.1), (9.9, 6, 1.1), (9.9, 6, 2.1), (9.9, 5, 2.1))),
        # A partition of no thickness, with a doorway; and a room without any opening behind one of 10 cm.
        ("Partition", "Plaster", sheet((6.9, 4.2, 0.12), (6.9, 6.6, 0.12), (6.9, 6.6, 2.728), (6.9, 4.2, 2.728))),
        ("Partition 2", "Plaster", sheet((6.9, 7.5, 0.12), (6.9, 7.75, 0.12), (6.9, 7.75, 2.728), (6.9, 7.5, 2.728))),
        ("Partition 3", "Plaster", sheet((6.9, 6.6, 2.2), (6.9, 7.5, 2.2), (6.9, 7.5, 2.728), (6.9, 6.6, 2.728))),
        ("Bath's south wall", "Plaster", box((6.9, 4.1, 0.12), (9.75, 4.2, 2.72))),
        ("Store's west wall", "Plaster", some_turned(box((7.4, 0.25, 0.12), (7.5, 4.1, 2.72)))),
    ]  # fmt: skip


def write_faulty_house(folder: Path) -> Path:
    """Write the model and a project with cameras into a folder; the project's path."""
    folder.mkdir(parents=True, exist_ok=True)
    scene = trimesh.Scene()
    for name, material, mesh in parts():
        shape = mesh.copy()
        if material:
            red, green, blue, alpha, rough = _COLOURS[material]
            shape.visual = trimesh.visual.TextureVisuals(  # type: ignore[no-untyped-call]
                material=PBRMaterial(  # type: ignore[no-untyped-call]
                    name=material,
                    baseColorFactor=[red, green, blue, alpha],
                    roughnessFactor=rough,
                    metallicFactor=0.0,
                    alphaMode="BLEND" if alpha < 1.0 else "OPAQUE",
                )
            )
        scene.add_geometry(shape, node_name=name, geom_name=name, transform=Y_UP)
    data = trimesh.exchange.gltf.export_glb(scene, include_normals=False)  # type: ignore[no-untyped-call]
    (folder / MODEL).write_bytes(data)
    path = folder / PROJECT
    write_project(path, faulty_project())
    return path


def faulty_project() -> Project:
    """Cameras in each of the rooms that have light, and one outside."""
    project = Project("House with every fault", models=(ModelRef("model-1", MODEL),))
    for name, eye, aim, focal in (
        ("Living room, to the window", (6.4, 7.2, 1.6), (2.4, 0.4, 1.3), 20.0),
        ("Living room, cupboards", (6.2, 1.0, 1.6), (1.0, 6.6, 1.1), 20.0),
        ("Bath", (7.3, 4.6, 1.6), (9.6, 7.2, 1.1), 18.0),
        ("From the garden", (-7.0, -9.0, 1.7), (5.0, 3.0, 1.8), 26.0),
    ):
        heading, _, away = direction_to(eye, aim)
        camera = Camera("", name, eye, heading, aim_m=away, focal_mm=focal, width_px=1280, height_px=720)
        project, _ = add_camera(project, camera)
    return project
