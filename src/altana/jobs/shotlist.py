"""From the shot list to what is made: sizes, names, folders, and what is wrong with a row before a night of
rendering."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import PurePosixPath

import numpy as np

from altana.core.conventions import Ints32, Vec3, parse_rate
from altana.core.edits.shots import camera_in_format
from altana.core.errors import UserError
from altana.core.file_kinds import KINDS
from altana.core.geometry.rays import RayScene
from altana.core.model import Model
from altana.core.naming import clashes, folder_named, named, plain
from altana.core.project import FILM, PANORAMA, Camera, Project, Shot, Walk
from altana.jobs.models import MISSING
from altana.jobs.requests import Film, Item, Pano, Part, Picture, Request
from altana.render.encode import check_film_size
from altana.storage.made import TEST


@dataclass(frozen=True, slots=True)
class Row:
    """One row as it will be made: what is drawn at which size, and its file; ``wrong`` says in a sentence
    what cannot be."""

    shot: Shot
    item: Item | None
    file: str
    wrong: str = ""
    #: What is worth knowing, but does not keep it from being made.
    note: str = ""


def rows_of(
    project: Project, model: Model | None = None, today: str = "", version: str = ""
) -> tuple[Row, ...]:
    """All rows of the shot list, on or off, in their order.  model : for the names of storeys and rooms, and
    for what is missing of it."""
    rows = []
    missing = [item.sentence for item in model.problems if item.code in MISSING] if model is not None else []
    lacking = f"Made without something: {missing[0]}" if missing else ""
    for number, shot in enumerate(project.shots, 1):
        try:
            item = _item(project, shot, number, model, today, version)
            notes = [set_aside(item.camera) if isinstance(item, Pano) else "", lacking]
            rows.append(Row(shot, item, item.file, note=" ".join(note for note in notes if note)))
        except UserError as error:
            rows.append(Row(shot, None, "", error.sentence))
    twice = clashes(row.file for row in rows if row.shot.on and row.file)
    return tuple(
        replace(
            row,
            wrong=f"{row.file} would be written twice. Change the name of one row, with {{order}} for example.",
        )
        if row.shot.on and row.file.lower() in twice
        else row
        for row in rows
    )


def asked_so(item: Item, quality: str) -> Item:
    """An item in another quality than its row's."""
    return replace(item, shot=replace(item.shot or Shot(""), quality=quality))


def shot_request(rows: Sequence[Row], project: Project, quality: str = "") -> Request:
    """A request for rows, all in this quality instead of their own where one is named.  Raises UserError for
    the first row that cannot be made, or where there is none."""
    for row in rows:
        if row.wrong:
            raise UserError(f"Row {project.shots.index(row.shot) + 1}: {row.wrong}")
    items = tuple(row.item for row in rows if row.item is not None)
    if not items:
        raise UserError("No row of the shot list is on. Put cameras in the list, or switch rows on.")
    if quality:
        items = tuple(asked_so(item, quality) for item in items)
    return Request(project, items)


def chosen_rows(rows: Sequence[Row], wanted: Sequence[str] = ()) -> tuple[Row, ...]:
    """Rows by number (from 1) or id; all that are on where none is named.  Raises UserError."""
    if not wanted:
        return tuple(row for row in rows if row.shot.on)
    chosen = []
    for name in wanted:
        row = next((row for number, row in enumerate(rows, 1) if name in (str(number), row.shot.id)), None)
        if row is None:
            raise UserError(f"There is no row “{name}” in the shot list, which has {len(rows)}.")
        chosen.append(row)
    return tuple(chosen)


def trial(rows: Sequence[Row], project: Project, scale: float = 25.0, quality: str = "proof") -> Request:
    """The same rows as test pictures: a quarter of the size in exactly the same proportion, as proofs, with
    names of their own."""
    items = tuple(item for row in rows if (item := tried(row, scale, quality)) is not None)
    if not items:
        raise UserError("No row of the shot list can be tried. Put cameras in the list, or switch rows on.")
    return Request(project, items, quality, way=TEST)


def tried(row: Row, scale: float = 25.0, quality: str = "proof") -> Item | None:
    """A row as a test picture; None where it cannot be made."""
    item = row.item
    if item is None or row.wrong:
        return None
    shot = replace(row.shot, quality=quality, keep_master=False, passes=False, dpi=0.0)
    return replace(sized(item, scale / 100.0), shot=shot, file=_test_name(item.file))


def fitted(item: Item, largest: tuple[int, int]) -> Item:
    """The same in the largest size of its own proportion that lies within a width and height in pixels."""
    return sized(item, min(largest[0] / item.width_px, largest[1] / item.height_px))


def sized(item: Item, share: float) -> Item:
    """The same at a share of its size; the sides of films are even."""
    step = 2 if isinstance(item, Film) else 1
    width, height = (
        min(LARGEST_PX, max(LEAST_PX, step * round(side * share / step)))
        for side in (item.width_px, item.height_px)
    )
    return replace(item, width_px=width, height_px=height)


def _test_name(file: str) -> str:
    path = PurePosixPath(file)
    return str(PurePosixPath("tests") / f"{path.stem}-test{path.suffix}")


#: The sides of anything made, pixels.
LEAST_PX, LARGEST_PX = 16, 32768
#: What stands nearer to a panorama's eye than this is large and in the way.
NEAR_M = 0.5


@dataclass(frozen=True, slots=True)
class NearThing:
    """An object nearer to a panorama's eye than it likes: its name, its distance (metres) and the unit
    direction there."""

    name: str
    away_m: float
    towards: Vec3


def near_things(
    rays: RayScene, owner: Ints32, model: Model, camera: Camera, within_m: float = NEAR_M
) -> tuple[NearThing, ...]:
    """Objects nearer to a place than a panorama likes, nearest first.

    Looked for along directions spread evenly over the sphere (Fibonacci's spiral).
    """
    count = 2000
    up = 1.0 - 2.0 * (np.arange(count) + 0.5) / count
    turn = np.pi * (3.0 - np.sqrt(5.0)) * np.arange(count)
    level = np.sqrt(1.0 - up * up)
    along = np.stack([level * np.sin(turn), level * np.cos(turn), up], axis=1)
    hits = rays.cast(np.tile(camera.eye, (count, 1)), along)
    near = np.flatnonzero(hits.distance_m < within_m)
    things: dict[int, NearThing] = {}
    for index in near[np.argsort(hits.distance_m[near])].tolist():
        number = int(owner[hits.face[index]])
        if number not in things:
            x, y, z = along[index].tolist()
            things[number] = NearThing(model.objects[number].name, float(hits.distance_m[index]), (x, y, z))
    return tuple(things.values())


def set_aside(camera: Camera) -> str:
    """What of its camera a panorama does not heed, in a sentence."""
    parts = [f"the {camera.focal_mm:g} mm lens"]
    if abs(camera.tilt_deg) > 0.05 or abs(camera.roll_deg) > 0.05:
        parts.append("its tilt")
    if camera.rise_mm or camera.cross_mm:
        parts.append("its shift")
    if camera.bounded:
        parts.append("its bounds")
    return f"Set aside: {', '.join(parts)}. The camera keeps {'them' if len(parts) > 1 else 'it'}."


def _item(project: Project, shot: Shot, number: int, model: Model | None, today: str, version: str) -> Item:
    if shot.kind == FILM:
        walk = project.walk(shot.subject)
        if walk is None:
            raise UserError("Its walk is no longer there. Take the row out.")
        return _film(project, shot, walk, number, today, version)
    camera = project.camera(shot.subject)
    if camera is None:
        raise UserError("Its camera is no longer there. Take the row out.")
    if shot.kind == PANORAMA:
        width = max(64, round((shot.width_px or 4000) * shot.scale / 100.0 / 4) * 4)
        file = _file(
            project,
            shot,
            camera.name,
            "panorama",
            number,
            KINDS[shot.file].suffix,
            camera,
            model,
            today,
            version,
        )
        return Pano(shot, camera, width, width // 2, file)
    framed = camera_in_format(camera, shot.format_index)
    wide = (shot.width_px or framed.width_px) * shot.scale / 100.0
    size = (max(16, round(wide)), max(16, round(wide * framed.height_px / framed.width_px)))
    if max(size) > 32768:
        raise UserError(f"{size[0]} × {size[1]} px is larger than 32768 px a side. Choose a smaller scale.")
    file = _file(
        project,
        shot,
        camera.name,
        framed.format_name,
        number,
        KINDS[shot.file].suffix,
        camera,
        model,
        today,
        version,
    )
    return Picture(shot, framed, *size, file)


def _film(project: Project, shot: Shot, walk: Walk, number: int, today: str, version: str) -> Film:
    width, height = ((shot.width_px or walk.width_px) * shot.scale / 100.0, 0.0)
    height = width * walk.height_px / walk.width_px
    size = (max(16, 2 * round(width / 2)), max(16, 2 * round(height / 2)))
    check_film_size(*size, shot.file)
    parse_rate(walk.rate)
    # A folder of frames: no suffix, so that it is not taken for a file.
    suffix = "" if KINDS[shot.file].frames else KINDS[shot.file].suffix
    file = _file(project, shot, walk.name, "film", number, suffix, None, None, today, version)
    return Film(
        walk, *size, walk.rate, file, shot.file, Part(step=shot.step, strip_every=shot.strip_every), shot
    )


def _file(
    project: Project,
    shot: Shot,
    name: str,
    form: str,
    number: int,
    suffix: str,
    camera: Camera | None,
    model: Model | None,
    today: str,
    version: str,
) -> str:
    storey = room = ""
    if camera is not None and model is not None:
        at = model.room_at(camera.eye)
        below = model.storey_of_eye(camera.eye)
        room, storey = at.name if at is not None else "outside", below.name if below is not None else ""
    values = {
        "project": project.name,
        "author": project.author,
        "date": today,
        "version": version,
        "storey": storey,
        "room": room,
        "order": f"{number:02d}",
        "camera": name,
        "format": plain(form),
        "kind": shot.rendition,
    }
    stem, folder = named(shot.pattern, values), folder_named(shot.folder, values)
    whole = f"{folder}/{stem}" if folder else stem
    return f"{whole}.{suffix}" if suffix else f"{whole}-frames"
