"""Whether what was made is still what would be made: what a file depends on, part by part, as short
digests."""

from __future__ import annotations

import hashlib
import time
from collections.abc import Mapping, Sequence
from dataclasses import replace
from pathlib import Path

import msgspec

from altana.core.edits.shots import row_as_made
from altana.core.errors import UserError
from altana.core.project import FILM, NOTHING_LEFT_OUT, PANORAMA, STILL, Project, Shot
from altana.jobs.requests import Film, Item, Pano, Part, Picture, Request, target
from altana.jobs.shotlist import Row, asked_so, tried
from altana.storage.made import ASIDE, DIRECT, TEST, MadeFile, all_made, name_in, note_made
from altana.storage.project_file import model_path

#: What a model file that is not there counts as.
GONE = "gone"
_digests: dict[tuple[str, int, int], str] = {}


def models_digest(project: Project, base: Path) -> str:
    """A name for the content and the places of the models shown; a file is read anew only when its size or
    time is another."""
    parts = []
    for item in project.models:
        if not item.shown:
            continue
        try:
            path = model_path(base / "project.altana", item)
            at = path.stat()
            key = (str(path), at.st_size, at.st_mtime_ns)
            if key not in _digests:
                # Of the content alone: how it is read may change with Altana, and the file is still the same.
                with path.open("rb") as file:
                    _digests[key] = hashlib.file_digest(file, "sha256").hexdigest()[:24]
            parts.append((item.unit_m, item.up, item.move, item.turn_deg, _digests[key]))
        except (OSError, UserError):
            parts.append((0.0, "", (0.0, 0.0, 0.0), 0.0, GONE))
    return _short(parts)


def parts_of(project: Project, item: Item, models: str) -> dict[str, str]:
    """What the file of an item depends on, by name: equal digests, equal files.  models :
    ``models_digest``."""
    shot = item.shot or Shot("")
    bare = replace(
        shot,
        id="",
        subject="",
        on=True,
        folder="",
        pattern="",
        keep_master=False,
        passes=False,
        note="",
        tone=None,
        scale=100.0,
        width_px=0,
        region=None,
        left_out=NOTHING_LEFT_OUT,
        kind=STILL,
        quality="",
    )
    left_out = [project.left_out, shot.left_out]
    size: tuple[object, ...] = (item.width_px, item.height_px, shot.region)
    if isinstance(item, Film):
        seen: object = replace(item.walk, name="", note="", locked=False, hidden=False)
        size = (*size, item.rate, item.part)
    else:
        camera = item.camera
        left_out.append(camera.left_out)
        view = camera.view() if isinstance(item, Picture) else (camera.eye, item.front_deg)
        lens = (camera.blur, camera.f_number, camera.focus_m, camera.aim_m) if camera.blur else None
        lit = camera.ev, camera.inside, camera.far_dark, camera.light
        seen = (view, *lit, camera.nudges, camera.cap, lens)
    return {
        "camera": _short(seen),
        "size": _short(size),
        "how it is drawn": _short(bare),
        "quality": _short((shot.quality, project.qualities.of(shot.quality))),
        "tone": _short(shot.tone or project.tone),
        "light": _short(project.light),
        "left out": _short(left_out),
        "mends": _short([item for item in project.patches if item.on]),
        "model": models,
    }


def _short(value: object) -> str:
    return hashlib.blake2b(repr(value).encode(), digest_size=6).hexdigest()


def note(
    request: Request, item: Item, out: Path, base: Path, models: str, took_s: float, sentence: str = ""
) -> None:
    """Write down that an item was made, or set aside for the reason in the sentence."""
    shot = item.shot or Shot("")
    row = request.project.shot(shot.id)
    other = shot.quality if request.way != TEST and row is not None and row.quality != shot.quality else ""
    note_made(
        base,
        MadeFile(
            name_in(base, target(out, item)),
            request.of,
            ASIDE if sentence else "made",
            round(time.time(), 1),
            round(took_s, 2),
            item.name,
            request.way,
            shot,
            item.width_px,
            item.height_px,
            parts_of(request.project, item, models),
            other,
            request.drawn,
            {"rate": item.rate, "part": msgspec.to_builtins(item.part)} if isinstance(item, Film) else {},
            sentence,
        ),
    )


def changed_since(record: MadeFile, project: Project, rows: Sequence[Row], models: str) -> tuple[str, ...]:
    """What is another now than when a file was made: names of parts, none where it is still current.

    rows : the shot list as it would be made now, for what was made of it.
    """
    item = _now(record, project, rows)
    if item is None:
        return ("its row",) if record.shot.id and record.way != DIRECT else ("its camera",)
    now = parts_of(project, item, models)
    return tuple(name for name, digest in now.items() if record.parts.get(name) != digest)


def _now(record: MadeFile, project: Project, rows: Sequence[Row]) -> Item | None:
    """What would be made now in place of a file."""
    if record.way == DIRECT:
        return _direct(record, project)
    row = next((row for row in rows if row.shot.id == record.shot.id), None)
    if row is None or row.item is None:
        return None
    if record.way == TEST:
        return tried(row)
    return asked_so(row.item, record.quality) if record.quality else row.item


def _direct(record: MadeFile, project: Project) -> Item | None:
    """A picture or film straight from its camera or walk, as it would be made now at the same size and
    quality."""
    kind, subject = record.shot.kind, record.shot.subject
    shot = replace(row_as_made(project, kind, subject), quality=record.shot.quality, file=record.shot.file)
    shot = replace(shot, rendition=record.drawn) if record.drawn else shot
    if kind == FILM:
        walk = project.walk(subject)
        if walk is None:
            return None
        part, asked = (
            msgspec.convert(record.film.get("part", {}), Part),
            str(record.film.get("rate", walk.rate)),
        )
        # A rate that is not the walk's own was asked for then, and is asked for again.
        return Film(walk, record.width_px, record.height_px, asked, "", shot.file, part, shot)
    camera = project.camera(subject)
    if kind == PANORAMA:
        return (
            Pano(record.shot, camera, record.width_px, record.height_px, "") if camera is not None else None
        )
    return Picture(shot, camera, record.width_px, record.height_px, "") if camera is not None else None


def states_of(
    project: Project, rows: Sequence[Row], base: Path, name: str
) -> tuple[tuple[MadeFile, tuple[str, ...]], ...]:
    """All that was made for a project, oldest first, each with what has changed since."""
    models = models_digest(project, base)
    records = all_made(base, name).values()
    return tuple((record, changed_since(record, project, rows, models)) for record in records)


def outdated_rows(
    project: Project, rows: Sequence[Row], out: Path, base: Path, records: Mapping[str, MadeFile], models: str
) -> tuple[Row, ...]:
    """The rows that are on and whose file is missing, or would be another now.  records : ``all_made``."""
    return tuple(
        row
        for row in rows
        if row.shot.on
        and row.item is not None
        and not row.wrong
        and is_outdated(project, row, out, base, records, models)
    )


def is_outdated(
    project: Project, row: Row, out: Path, base: Path, records: Mapping[str, MadeFile], models: str
) -> bool:
    """Whether a row's file is missing, was set aside, or would be another now."""
    if row.item is None:
        return False
    path = target(out, row.item)
    record = records.get(name_in(base, path))
    if record is None or record.state == ASIDE or not path.exists() or record.quality:
        return True
    now = parts_of(project, row.item, models)
    return any(record.parts.get(part) != digest for part, digest in now.items())
