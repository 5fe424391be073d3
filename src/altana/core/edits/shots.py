"""Changes to the shot list."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import replace

from altana.core.edits.formats import in_use
from altana.core.edits.left_out import with_left_out
from altana.core.edits.settings import set_many
from altana.core.errors import Refused
from altana.core.file_kinds import FILES
from altana.core.light.own import checked_own, own_of
from altana.core.naming import FIELDS, folder_named, named
from altana.core.project import (
    BACKGROUNDS,
    FILM,
    GROUNDS,
    LINES,
    PANORAMA,
    PENCIL,
    QUALITY_WORDS,
    RENDITIONS,
    STILL,
    Camera,
    Making,
    Project,
    Qualities,
    Shot,
    Style,
    Tone,
    next_id,
)
from altana.core.ranges import (
    DPI,
    EYES_APART_M,
    LIGHT_RAYS,
    MINUTES,
    PASSES,
    SAMPLES,
    SCALE_PERCENT,
    SEED,
    SHADOW_PX,
    SHARE,
    SIDE_PX,
    STROKE_PX,
    TONE,
)

PANORAMA_WIDTHS = (1024, 4000, 6000, 12000)
#: What differs from row to row by itself is no part of a preset.
NOT_IN_PRESET = frozenset(
    {"id", "kind", "subject", "format_index", "on", "region", "note", "left_out", "front_deg"}
)


def start_values(project: Project, kind: str, subject: str) -> Shot:
    """A new row with sensible values: inside cameras and outside ones differ."""
    camera = project.camera(subject)
    if kind == FILM:
        return Shot("", FILM, subject, file="mp4", pattern="{order}-{camera}", folder="films")
    if kind == PANORAMA:
        return Shot(
            "",
            PANORAMA,
            subject,
            file="jpg",
            width_px=4000,
            pattern="{order}-{camera}-panorama",
            folder="panoramas",
            keep_master=True,
        )
    inside = camera is not None and camera.inside
    index = camera.format_index if camera is not None else 0
    return Shot(
        "", STILL, subject, index, folder="stills/inside" if inside else "stills/outside", keep_master=True
    )


def row_as_made(project: Project, kind: str, subject: str) -> Shot:
    """How a camera or walk is made wherever it is made: by its first row of this kind, of a camera in the
    format that it is in; with the usual values where it has none.  It is the whole picture, without what only
    the list's own file needs (region, master, layers)."""
    camera = project.camera(subject)
    rows = [
        item
        for item in project.shots
        if item.kind == kind
        and item.subject == subject
        and (kind != STILL or camera is None or item.format_index == camera.format_index)
    ]
    shot = rows[0] if rows else start_values(project, kind, subject)
    return replace(shot, region=None, keep_master=False, passes=False)


def checked_shot(shot: Shot) -> Shot:
    """The row itself, or Refused naming what makes no file."""
    if shot.kind not in FILES:
        raise Refused(f"“{shot.kind}” is no kind of row. Kinds: {', '.join(FILES)}.")
    if shot.file not in FILES[shot.kind]:
        raise Refused(f"“{shot.file}” is no file of a {shot.kind}. Files: {', '.join(FILES[shot.kind])}.")
    for value, choices, what in (
        (shot.rendition, RENDITIONS, "way to draw"),
        (shot.quality, QUALITY_WORDS, "quality"),
        (shot.background, BACKGROUNDS, "background"),
        (shot.ground, GROUNDS, "ground"),
    ):
        if value not in choices:
            raise Refused(f"“{value}” is no {what}. Choose {', '.join(choices)}.")
    if shot.kind == PANORAMA and shot.rendition in (LINES, PENCIL):
        raise Refused("A panorama is drawn as materials or white card.")
    if shot.background == "transparent" and shot.file == "jpg":
        raise Refused("A JPEG cannot be transparent. Choose PNG, TIFF or EXR.")
    SCALE_PERCENT.check("A scale", shot.scale)
    if shot.dpi != 0.0 and shot.dpi not in DPI:
        raise Refused(f"{shot.dpi:g} dpi is outside 1 to 4800 (0 writes none).")
    if shot.width_px:
        SIDE_PX.check("A width", shot.width_px)
    checked_own(own_of(shot), "The row")
    SAMPLES.check("Samples", shot.samples)
    MINUTES.check("A time", shot.minutes)
    if shot.region is not None:
        left, top, right, bottom = shot.region
        if not (0.0 <= left < right <= 1.0 and 0.0 <= top < bottom <= 1.0):
            raise Refused("A region lies within the frame: left, top, right, bottom from 0 to 1.")
    if shot.stereo_m not in EYES_APART_M:
        raise Refused("Eyes stand 0 to 50 cm apart; 0 makes one picture.")
    if shot.front_deg is not None and not -360.0 <= shot.front_deg <= 360.0:
        raise Refused(f"A front of {shot.front_deg:g}° is no heading. Write 0 for north, 90 for east.")
    for colour in (shot.background_colour, shot.ground_colour):
        _checked_colour(colour)
    anything = dict.fromkeys(FIELDS, "x")
    named(shot.pattern, anything)
    folder_named(shot.folder, anything)
    checked_style(shot.style)
    if shot.tone is not None:
        checked_tone(shot.tone)
    return shot


def _checked_colour(colour: str) -> None:
    if not re.fullmatch(r"#[0-9a-fA-F]{6}", colour):
        raise Refused(f"“{colour}” is no colour. Write it as #rrggbb.")


def checked_style(style: Style) -> Style:
    """The style itself, or Refused naming what cannot be drawn."""
    for colour in (style.ink, style.paper):
        _checked_colour(colour)
    if style.seed not in SEED:
        raise Refused("The seed of a hand is a number from 0 to 999999.")
    if style.outline_px not in STROKE_PX or not 0.0 <= style.crease_px <= STROKE_PX.high:
        raise Refused("Lines are 0.2 to 40 px wide; creases may be 0.")
    if style.roughness not in SHARE or style.hatching not in SHARE:
        raise Refused("Roughness and hatching lie between 0 and 1.")
    return style


def checked_qualities(qualities: Qualities) -> Qualities:
    """The figures themselves, or Refused naming what is out of range."""
    for word in QUALITY_WORDS:
        making = qualities.of(word)
        for passes in (making.passes, making.film_passes):
            if passes not in PASSES:
                raise Refused(f"{passes} passes for {word} are outside 1 to 256.")
        for samples in (making.samples, making.film_samples):
            SAMPLES.check(f"Samples for {word}: a number", samples)
        LIGHT_RAYS.check(f"Rays of light for {word}: a number", making.light_rays)
        if making.shadow_px not in SHADOW_PX:
            raise Refused(f"A shadow map of {making.shadow_px} px for {word} is outside 256 to 8192.")
    return qualities


def set_qualities(project: Project, qualities: Qualities) -> Project:
    """What all words of quality stand for, in this project."""
    return replace(project, qualities=checked_qualities(qualities))


def set_making(project: Project, word: str, making: Making) -> Project:
    """What a word of quality stands for, in this project."""
    if word not in QUALITY_WORDS:
        raise Refused(f"“{word}” is no quality. Choose {', '.join(QUALITY_WORDS)}.")
    return set_qualities(project, replace(project.qualities, **{word: making}))


def checked_tone(tone: Tone) -> Tone:
    """The tone itself, or Refused naming what is out of range."""
    for name, allowed in TONE.items():
        value = getattr(tone, name)
        if value not in allowed:
            raise Refused(
                f"{name.replace('_', ' ').capitalize()} {value:g} is outside {allowed.low:g} to {allowed.high:g}."
            )
    places = [x for x, _ in tone.curve]
    if places != sorted(set(places)) or any(not (0.0 <= x <= 1.0 and 0.0 <= y <= 1.0) for x, y in tone.curve):
        raise Refused("The points of a curve follow each other from 0 to 1.")
    return tone


def add_shots(project: Project, rows: Iterable[Shot]) -> Project:
    """Append rows under free ids; cameras with rows are marked as in the shot list."""
    shots = list(project.shots)
    for row in rows:
        if row.kind == FILM and project.walk(row.subject) is None:
            raise Refused(f"There is no walk {row.subject}.")
        if row.kind != FILM and project.camera(row.subject) is None:
            raise Refused(f"There is no camera {row.subject}.")
        shots.append(checked_shot(replace(row, id=next_id("shot", tuple(item.id for item in shots)))))
    return _marked(replace(project, shots=tuple(shots)))


def list_cameras(project: Project, camera_ids: Sequence[str], wanted: bool = True) -> Project:
    """Put cameras in the shot list in the format they are in, or take all their rows out."""
    if not wanted:
        return _marked(
            replace(
                project,
                shots=tuple(
                    item for item in project.shots if item.kind == FILM or item.subject not in camera_ids
                ),
            )
        )
    known = {(item.subject, item.format_index) for item in project.shots if item.kind == STILL}
    rows = [start_values(project, STILL, camera_id) for camera_id in camera_ids]
    return add_shots(project, [row for row in rows if (row.subject, row.format_index) not in known])


def change_shots(project: Project, shot_ids: Iterable[str], **values: object) -> Project:
    """Set named fields of rows.  Raises Refused with a sentence."""
    wanted = set(shot_ids)
    missing = wanted - {item.id for item in project.shots}
    if missing:
        raise Refused(f"There is no row {min(missing)} in the shot list.")

    def changed(shot: Shot) -> Shot:
        return checked_shot(replace(shot, **values)) if shot.id in wanted else shot  # type: ignore[arg-type]

    return replace(project, shots=tuple(changed(shot) for shot in project.shots))


def remove_shots(project: Project, shot_ids: Iterable[str]) -> Project:
    """Without these rows."""
    gone = set(shot_ids)
    return _marked(replace(project, shots=tuple(item for item in project.shots if item.id not in gone)))


def duplicate_shots(project: Project, shot_ids: Iterable[str]) -> Project:
    """A copy of each row behind it."""
    wanted = set(shot_ids)
    shots: list[Shot] = []
    taken = [item.id for item in project.shots]
    for item in project.shots:
        shots.append(item)
        if item.id in wanted:
            taken.append(next_id("shot", tuple(taken)))
            shots.append(replace(item, id=taken[-1]))
    return replace(project, shots=tuple(shots))


def move_shots(project: Project, shot_ids: Sequence[str], to: int) -> Project:
    """These rows together, in their order, before the row that stands at an index now."""
    moving = [item for item in project.shots if item.id in set(shot_ids)]
    before = [item for item in project.shots[:to] if item not in moving]
    after = [item for item in project.shots[to:] if item not in moving]
    return replace(project, shots=(*before, *moving, *after))


def leave_out_of_rows(
    project: Project, shot_ids: Iterable[str], kind: str, name: str, out: bool = True
) -> Project:
    """Leave objects, categories or storeys out of what these rows make alone, or show them again."""
    wanted = set(shot_ids)
    shots = tuple(
        replace(item, left_out=with_left_out(item.left_out, kind, name, out)) if item.id in wanted else item
        for item in project.shots
    )
    return replace(project, shots=shots)


def set_tone(project: Project, tone: Tone, shot_ids: Iterable[str] = ()) -> Project:
    """The tone of rows, or of the project where none is named."""
    ids = tuple(shot_ids)
    if ids:
        return change_shots(project, ids, tone=checked_tone(tone))
    return replace(project, tone=checked_tone(tone))


def preset_of(shot: Shot) -> dict[str, object]:
    """What a preset keeps of a row: how it is made, not what of."""
    return {name: getattr(shot, name) for name in Shot.__slots__ if name not in NOT_IN_PRESET}


def apply_preset(project: Project, shot_ids: Iterable[str], preset: dict[str, object]) -> Project:
    """Rows made as a preset says; a kind of file that a row cannot be stays as it was."""
    for shot_id in shot_ids:
        shot = project.shot(shot_id)
        if shot is None:
            raise Refused(f"There is no row {shot_id} in the shot list.")
        values = {
            name: value
            for name, value in preset.items()
            if name in Shot.__slots__ and name not in NOT_IN_PRESET
        }
        if values.get("file") not in FILES[shot.kind]:
            values.pop("file", None)
        if shot.kind == PANORAMA and values.get("rendition") in (LINES, PENCIL):
            values.pop("rendition")
        if shot.kind != STILL:
            # A still's pattern names a format, which nothing else has.
            values.pop("pattern", None)
        project = change_shots(project, [shot_id], **values)
    return project


def without_subjects(project: Project) -> Project:
    """Without rows whose camera or walk is no longer there."""
    kept = tuple(
        item
        for item in project.shots
        if (project.walk(item.subject) if item.kind == FILM else project.camera(item.subject)) is not None
    )
    return project if len(kept) == len(project.shots) else replace(project, shots=kept)


def _marked(project: Project) -> Project:
    """Cameras know whether they are in the shot list."""
    listed = {item.subject for item in project.shots if item.kind != FILM}
    changed = [camera for camera in project.cameras if camera.in_shot_list != (camera.id in listed)]
    for wanted in (True, False):
        ids = [camera.id for camera in changed if (camera.id in listed) == wanted]
        if ids:
            project = set_many(project, ids, in_shot_list=wanted)
    return project


def with_rows_for_marks(project: Project) -> Project:
    """Rows for cameras that an older project only marked as in the shot list."""
    listed = {item.subject for item in project.shots}
    return list_cameras(
        project, [camera.id for camera in project.cameras if camera.in_shot_list and camera.id not in listed]
    )


def camera_in_format(camera: Camera, index: int) -> Camera:
    """The camera with one of its formats in its own fields; the one in use where there is no such format."""
    formats = camera.all_formats
    if not 0 <= index < len(formats) or index == camera.format_index:
        return camera
    return in_use(camera, formats[index], index)
