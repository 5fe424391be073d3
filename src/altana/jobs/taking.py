"""Taking in what others sent: what a file holds is looked at first, and only what is chosen becomes part of
the project."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from altana.core.conventions import EV_INSIDE, EV_OUTSIDE
from altana.core.edits.cameras import add_camera
from altana.core.edits.planned import plan_shot
from altana.core.edits.remarks import keep_remark
from altana.core.edits.walks import add_walk
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.model import Model
from altana.core.project import Camera, LeftOut, Project
from altana.exchange.incoming import CAMERA, REMARK, WALK, Offer
from altana.jobs.requests import file_stem
from altana.storage.files import make_folder, write_atomically

#: What things are taken as, besides as what they are.
AS_CAMERAS, AS_PLANNED, AS_WALKS = "cameras", "planned", "walks"
WAYS = (AS_CAMERAS, AS_PLANNED, AS_WALKS)
#: Where pictures of remarks lie, beside the project.
REMARKS = "remarks"


def chosen_of(offers: Sequence[Offer], names: Sequence[str]) -> list[Offer]:
    """Those of these names, or numbers from 1.  Raises Refused with a sentence that lists what there is."""
    chosen = []
    for name in names:
        hits = [item for number, item in enumerate(offers, 1) if name in (item.name, str(number))]
        if not hits:
            known = ", ".join(f"“{item.name}”" for item in offers[:20])
            raise Refused(f"There is nothing called “{name}” in the file. It holds: {known}.")
        chosen += hits
    return chosen


def take_in_all(
    project: Project, home: Path, items: Sequence[Offer], model: Model | None, way: str = ""
) -> tuple[Project, list[str], list[str]]:
    """The project with these things, the ids of cameras and walks that they became, and what of them was
    lost.

    home : the project's file; pictures of remarks are written beside it.  way : one of WAYS, or what each
    thing is.  Raises UserError.
    """
    rays = RayScene.of(model) if model is not None else None
    ids: list[str] = []
    lost: list[str] = []
    for item in items:
        lost += item.lost
        if item.kind == WALK and item.walk is not None and way != AS_CAMERAS:
            project, added = add_walk(project, item.walk)
            ids.append(added)
            continue
        if way == AS_WALKS:
            lost.append(f"“{item.name}” does not move and is no walk; it is not taken.")
            continue
        if way == AS_PLANNED:
            project = _planned(project, home, item)
            continue
        camera = item.camera
        if camera is None and item.walk is not None:
            camera = _first_of(item)
        if camera is not None:
            stood = _stood(camera, item, rays, model)
            project, added = add_camera(project, stood)
            ids.append(added)
        if item.kind == REMARK and item.remark is not None:
            remark = replace(
                item.remark, picture=_kept(home, item), camera=ids[-1] if camera is not None else ""
            )
            project = keep_remark(project, remark)
    return project, ids, lost


def _first_of(item: Offer) -> Camera:
    walk = item.walk
    assert walk is not None
    key = walk.keys[0]
    return Camera(
        "",
        item.name,
        key.eye,
        key.heading_deg,
        key.tilt_deg,
        focal_mm=key.focal_mm,
        rise_mm=key.rise_mm,
        cross_mm=key.cross_mm,
        width_px=walk.width_px,
        height_px=walk.height_px,
        ev=key.ev,
    )


def _stood(camera: Camera, item: Offer, rays: RayScene | None, model: Model | None) -> Camera:
    """With inside or outside found out, and what the remark does not show left out."""
    if rays is not None:
        inside = rays.roofed(camera.eye)
        usual = camera.ev in (EV_INSIDE, EV_OUTSIDE)
        camera = replace(
            camera, inside=inside, ev=(EV_INSIDE if inside else EV_OUTSIDE) if usual else camera.ev
        )
    if item.kind == CAMERA or model is None or not item.hidden:
        return camera
    known = [item.id for item in model.objects]
    hidden = (
        [name for name in known if name not in set(item.hidden)]
        if item.only
        else [name for name in item.hidden if name in set(known)]
    )
    return replace(camera, left_out=LeftOut(objects=tuple(hidden)), group="Remarks")


def _planned(project: Project, home: Path, item: Offer) -> Project:
    words = item.remark.words if item.remark is not None else ""
    project, planned = plan_shot(project, item.name, words)
    if item.remark is None:
        return project
    return keep_remark(project, replace(item.remark, picture=_kept(home, item), planned=planned))


def _kept(home: Path, item: Offer) -> str:
    """The snapshot of a remark as a file beside the project, by its relative path; empty where it has
    none."""
    if not item.snapshot or item.remark is None:
        return ""
    # The name follows from the remark's id, of which only what a file name may hold is used.
    relative = f"{REMARKS}/{file_stem(item.remark.id)}.png"
    make_folder(home.parent / REMARKS)
    write_atomically(home.parent / relative, item.snapshot)
    return relative
