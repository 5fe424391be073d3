"""A page that turns panoramas in any browser, offline."""

from __future__ import annotations

import base64
import html
import io
import json
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import numpy as np

from altana.core.conventions import Vec3
from altana.core.errors import UserError
from altana.core.geometry.drawing import building_extent
from altana.core.geometry.rays import RayScene
from altana.core.project import PANORAMA, Project
from altana.jobs.plans import MARGIN_M, Plans
from altana.jobs.shown import ClientPicture, small


def look_round_page(
    project: Project,
    pictures: Sequence[ClientPicture],
    rays: RayScene | None,
    plans: Plans | None,
    longest: int = 4096,
) -> bytes:
    """One HTML file that turns panoramas in any browser, offline: pictures, plan and script are in it.

    Panoramas whose places see each other are linked.  rays : the model, for that; plans : for the plan to
    press on. Raises UserError where there is no panorama.
    """
    rounds = [shown for shown in pictures if shown.row.shot.kind == PANORAMA and shown.camera is not None]
    if not rounds:
        raise UserError(
            "No panorama was made yet. Add one to the shot list and make it; the page shows what was made."
        )
    scenes = [_scene(shown, longest) for shown in rounds]
    eyes = [camera.eye for shown in rounds if (camera := shown.camera) is not None]
    for a, one in enumerate(scenes):
        one["links"] = [b for b in range(len(scenes)) if a != b and _in_sight(rays, eyes[a], eyes[b])]
    plan = _plan_svg(plans, rounds) if plans is not None else ""
    script = (Path(__file__).parent / "look_round.js").read_text(encoding="utf-8")
    style = (Path(__file__).parent / "look_round.css").read_text(encoding="utf-8")
    # No name can end the script or begin a comment in it.
    data = json.dumps({"scenes": scenes}, ensure_ascii=True).replace("<", "\\u003c").replace(">", "\\u003e")
    title = html.escape(project.name)
    return (
        f'<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><title>{title}</title>\n'
        '<meta name="viewport" content="width=device-width, initial-scale=1">\n'
        "<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; img-src data:; script-src 'unsafe-inline'; style-src 'unsafe-inline'\">\n"
        f'<style>\n{style}</style></head>\n<body>\n<canvas id="view" tabindex="0" aria-label="Panorama"></canvas>\n'
        f'<header><h1>{title}</h1><p id="name"></p></header>\n<nav id="links" aria-label="Go to"></nav>\n<aside id="plan">{plan}</aside>\n'
        f'<button id="two" type="button">Two eyes</button>\n<script>\nconst DATA = {data};\n{script}</script>\n</body></html>\n'
    ).encode()


def _scene(shown: ClientPicture, longest: int) -> dict[str, Any]:
    """A panorama as the page's script has it; one eye's where it is for two."""
    camera = shown.camera
    assert camera is not None
    image = small(shown.path, longest * (2 if shown.row.shot.stereo_m else 1))
    if shown.row.shot.stereo_m:
        image = image.crop((0, 0, image.width, image.height // 2))
    buffer = io.BytesIO()
    image.save(buffer, "JPEG", quality=88)
    return {
        "name": shown.title,
        "caption": shown.caption,
        "eye": [round(value, 3) for value in camera.eye],
        "heading": round(camera.heading_deg, 3),
        "picture": "data:image/jpeg;base64," + base64.b64encode(buffer.getvalue()).decode(),
        "links": [],
    }


def _in_sight(rays: RayScene | None, one: Vec3, other: Vec3) -> bool:
    """Whether two places see each other; without a model all do."""
    if rays is None:
        return True
    run = np.asarray(other) - np.asarray(one)
    length = float(np.linalg.norm(run))
    return length > 0.05 and not bool(
        rays.blocked(np.array([one]), (run / length)[None], np.array([length - 0.02]))[0]
    )


def _plan_svg(plans: Plans, rounds: Sequence[ClientPicture]) -> str:
    """The plan of the first panorama's storey, with a dot to press on for each panorama there."""
    first = rounds[0].camera
    assert first is not None
    storey = plans.storey_of(first.eye)
    if storey is None:
        return ""
    drawing = plans.drawing(storey)
    (x0, y0), (x1, y1) = building_extent(drawing, MARGIN_M)
    parts = []
    for outline in drawing.outlines:
        points = " ".join(f"{x - x0:.2f},{y1 - y:.2f}" for x, y in outline.points.tolist())
        fill = "#24211c" if outline.closed and not outline.glass else "none"
        parts.append(f'<polyline points="{points}" fill="{fill}" stroke="#24211c" stroke-width="0.06"/>')
    for number, shown in enumerate(rounds):
        camera = shown.camera
        assert camera is not None
        x, y = camera.eye[0] - x0, y1 - camera.eye[1]
        title = html.escape(shown.title)
        parts.append(
            f'<circle data-scene="{number}" cx="{x:.2f}" cy="{y:.2f}" r="0.7" tabindex="0"><title>{title}</title></circle>'
        )
    return (
        f'<svg viewBox="0 0 {x1 - x0:.2f} {y1 - y0:.2f}" role="img" aria-label="Plan">{"".join(parts)}</svg>'
    )
