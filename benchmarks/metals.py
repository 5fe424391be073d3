"""A project of balls and sheets of gold and steel of four roughnesses, outside and in a room with a window,
for live_final.py.

python benchmarks/metals.py FOLDER
python benchmarks/live_final.py FOLDER/metals.altana --samples 48
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np
import trimesh
from click.testing import CliRunner
from trimesh.visual.material import PBRMaterial

from altana.cli.main import commands

ROUGH = (0.1, 0.3, 0.5, 0.8)
STEEL, GOLD, SHEET, PLASTER, GROUND = (
    [200, 200, 205, 255],
    [190, 140, 60, 255],
    [170, 170, 175, 255],
    [225, 220, 210, 255],
    [140, 135, 125, 255],
)
#: The room's walls, with the opening of its window left out, and its roof.
WALLS = (
    ((6, 0, 0), (6.2, 6, 3)), ((12, 0, 0), (12.2, 6, 1)), ((12, 0, 2.4), (12.2, 6, 3)), ((6.2, 6, 0), (12, 6.2, 3)),
    ((6.2, -0.2, 0), (12, 0, 3)), ((6, -0.2, 3), (12.2, 6.2, 3.2)),
)  # fmt: skip
CAMERAS = (
    ("outside", "1.5,-3.2,1.6", "1.5,1.2,0.5", "28"),
    ("in the room", "9,0.5,1.6", "8.8,5,0.6", "22"),
    ("from behind", "5,4.5,1.6", "1.5,0.8,0.4", "28"),
)


def scene() -> trimesh.Scene:
    """All of it, with Y up as glTF has it."""
    made = trimesh.Scene()

    def add(name: str, mesh: trimesh.Trimesh, colour: list[int], rough: float, metal: float) -> None:
        surface = PBRMaterial(name=name, baseColorFactor=colour, roughnessFactor=rough, metallicFactor=metal)
        mesh.visual = trimesh.visual.TextureVisuals(material=surface)
        made.add_geometry(mesh, node_name=name, geom_name=name)

    def box(low: tuple[float, ...], high: tuple[float, ...]) -> trimesh.Trimesh:
        mesh = trimesh.creation.box(bounds=[low, high])
        mesh.unmerge_vertices()
        return mesh

    add("Ground", box((-20, -20, -0.2), (20, 20, 0)), GROUND, 0.9, 0.0)
    for number, (low, high) in enumerate(WALLS):
        add(f"Wall {number}", box(low, high), PLASTER, 0.9, 0.0)
    for number, rough in enumerate(ROUGH):
        for row, colour in enumerate((STEEL, GOLD)):
            for place, (x, y) in (("outside", (0.0, 0.0)), ("inside", (7.2, 1.5))):
                ball = trimesh.creation.icosphere(4, 0.35)
                ball.apply_translation((x + number, y + 1.1 * row, 0.36))
                add(f"Ball {rough} {row} {place}", ball, colour, rough, 1.0)
        for place, (x, y) in (("outside", (0.0, 2.4)), ("inside", (7.2, 5.0))):
            add(
                f"Sheet {rough} {place}",
                box((x + number - 0.4, y, 0), (x + number + 0.4, y + 0.1, 1.2)),
                SHEET,
                rough,
                1.0,
            )
    made.apply_transform(np.array([[1, 0, 0, 0], [0, 0, 1, 0], [0, -1, 0, 0], [0, 0, 0, 1.0]]))
    return made


def main() -> None:
    """Write the model and a project with three cameras."""
    folder = Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    model, project = folder / "metals.glb", folder / "metals.altana"
    scene().export(model)
    words = [["new", str(model), "--out", str(project), "--force"]]
    for name, eye, aim, focal in CAMERAS:
        words.append(
            ["camera", "add", str(project), "--name", name, "--eye", eye, "--aim", aim, "--focal", focal]
        )
    for told in words:
        found = CliRunner().invoke(commands, told, catch_exceptions=False)
        assert found.exit_code == 0, found.output


if __name__ == "__main__":
    main()
