"""Tries kept with a camera: variants and ladders, and what each differs in."""

from __future__ import annotations

import math
from dataclasses import replace

from altana.core.conventions import COMMON_FOCALS_MM
from altana.core.edits.cameras import change_camera, checked
from altana.core.edits.formats import DESTINATIONS
from altana.core.errors import Refused
from altana.core.lens import hold_subject
from altana.core.project import Camera, Project, free_name
from altana.core.ranges import FOCAL_MM

#: What a variant may differ in, with the words that name the difference.
_DIFFERENCES: tuple[tuple[str, str], ...] = (
    ("focal_mm", "{:.4g} mm"),
    ("tilt_deg", "tilt {:.1f}°"),
    ("rise_mm", "rise {:.1f} mm"),
    ("cross_mm", "cross {:.1f} mm"),
    ("ev", "EV {:.1f}"),
    ("heading_deg", "heading {:.1f}°"),
    ("roll_deg", "roll {:.1f}°"),
)


MOST_VARIANTS = 8


def difference(camera: Camera, other: Camera) -> str:
    """What a variant differs in from the camera it belongs to, in a few words."""
    words = [
        form.format(getattr(other, field))
        for field, form in _DIFFERENCES
        if getattr(camera, field) != getattr(other, field)
    ]
    for name in ("near", "far"):
        before, after = getattr(camera, name), getattr(other, name)
        if before != after:
            words.append(f"{name} off" if after is None else f"{name} {after:.2f} m")
    if camera.wall_cuts != other.wall_cuts:
        words.append(
            f"{len(other.cuts)} wall cut{'s' if len(other.cuts) > 1 else ''}" if other.cuts else "no wall cut"
        )
    if camera.eye != other.eye:
        words.append(_moved_words(camera, other))
    if (camera.width_px, camera.height_px) != (other.width_px, other.height_px):
        words.append(
            other.format_name
            if other.format_name != camera.format_name
            else f"{other.width_px} × {other.height_px}"
        )
    return ", ".join(words) or "the same"


def _moved_words(camera: Camera, other: Camera) -> str:
    east, north, lifted = (b - a for a, b in zip(camera.eye, other.eye, strict=True))
    if math.hypot(east, north) < 1e-6:
        return f"eye {lifted:+.2f} m"
    turn = math.radians(camera.heading_deg)
    ahead, aside = (
        east * math.sin(turn) + north * math.cos(turn),
        east * math.cos(turn) - north * math.sin(turn),
    )
    if abs(aside) > 0.01 or abs(lifted) > 0.01 + abs(ahead):
        return "another place"
    return f"{abs(ahead):.2f} m {'closer' if ahead > 0 else 'back'}"


def add_variant(project: Project, camera_id: str, variant: Camera | None = None, name: str = "") -> Project:
    """Keep a try with a camera: the given one, or the camera as it is.  Raises Refused for one too many."""

    def change(camera: Camera) -> Camera:
        if len(camera.variants) >= MOST_VARIANTS:
            raise Refused(f"A camera holds up to {MOST_VARIANTS} variants. Remove one first.")
        tried = replace(variant or camera, variants=(), id=camera.id, locked=False)
        label = name or (difference(camera, tried) if variant is not None else "as it was")
        label = free_name(label, tuple(item.name for item in camera.variants))
        return replace(camera, variants=(*camera.variants, checked(replace(tried, name=label))))

    return change_camera(project, camera_id, change)


def remove_variant(project: Project, camera_id: str, index: int) -> Project:
    """Without this try."""
    return change_camera(
        project, camera_id, lambda c: replace(c, variants=c.variants[:index] + c.variants[index + 1 :])
    )


def keep_variant(project: Project, camera_id: str, index: int) -> Project:
    """The camera becomes this try; what it was becomes a try in its place, so that nothing is lost."""

    def change(camera: Camera) -> Camera:
        if not 0 <= index < len(camera.variants):
            raise Refused("There is no such variant.")
        chosen = camera.variants[index]
        before = replace(camera, variants=(), name=difference(chosen, camera))
        others = (*camera.variants[:index], before, *camera.variants[index + 1 :])
        return replace(
            chosen,
            id=camera.id,
            name=camera.name,
            intent=camera.intent,
            note=camera.note,
            group=camera.group,
            done=camera.done,
            in_shot_list=camera.in_shot_list,
            hidden=camera.hidden,
            variants=others,
        )

    return change_camera(project, camera_id, change)


LADDERS = ("lens", "lens-here", "height", "aspect", "exposure")
#: What they are called.
LADDER_WORDS = {
    "lens": "lenses, the subject as large",
    "lens-here": "lenses from this place",
    "height": "eye heights",
    "aspect": "proportions",
    "exposure": "exposures",
}


def ladder(camera: Camera, kind: str, focals_mm: tuple[float, ...] = ()) -> tuple[Camera, ...]:
    """Quick tries in even steps: lenses with the subject held or from the same place, eye heights,
    proportions, or exposures.

    focals_mm : the lenses; the four common ones nearest to the camera's where none are named.  Raises
    Refused.
    """
    if kind in ("lens", "lens-here"):
        tries = [
            hold_subject(camera, value) if kind == "lens" else replace(camera, focal_mm=value)
            for value in _steps(camera, focals_mm)
        ]
        return tuple(_named(item, f"{_lens_words(item)}{_beside(camera, item)}") for item in tries)
    if kind == "height":
        x, y, z = camera.eye
        tries = [replace(camera, eye=(x, y, z + step)) for step in (-0.4, -0.2, 0.2, 0.4)]
    elif kind == "aspect":
        sizes = [
            item
            for item in DESTINATIONS
            if item[1:] != (camera.width_px, camera.height_px) and item[0] in _ASPECTS
        ]
        tries = [
            replace(camera, format_name=name, width_px=width, height_px=height, formats=(), format_index=0)
            for name, width, height in sizes[:4]
        ]
    elif kind == "exposure":
        tries = [replace(camera, ev=camera.ev + step) for step in (-1.0, -0.5, 0.5, 1.0)]
    else:
        raise Refused(f"There is no ladder “{kind}”. Ladders: {', '.join(LADDERS)}.")
    return tuple(_named(item, difference(camera, item)) for item in tries)


_ASPECTS = ("Screen 16:9", "Square 1:1", "Tall 4:5", "Tall 9:16", "Wide 2:1", "Wide 2.39:1")


def _named(camera: Camera, name: str) -> Camera:
    return replace(camera, name=name, variants=(), locked=False)


def _steps(camera: Camera, focals_mm: tuple[float, ...]) -> list[float]:
    """The lenses of a ladder, the shortest first."""
    wanted = sorted(set(focals_mm)) or sorted(
        sorted(COMMON_FOCALS_MM, key=lambda value: abs(value - camera.focal_mm))[:4]
    )
    for value in wanted:
        FOCAL_MM.check("A focal length", value)
    steps = [value for value in wanted if value != camera.focal_mm]
    if focals_mm and not 1 <= len(steps) <= MOST_VARIANTS:
        raise Refused(
            f"A ladder has 2 to {MOST_VARIANTS} lenses. Write them with commas between: 18, 24, 35."
        )
    return steps


def _lens_words(camera: Camera) -> str:
    return f"{camera.focal_mm:.4g} mm · {camera.view().angles_of_view()[0]:.1f}°"


def _beside(camera: Camera, other: Camera) -> str:
    """What else than its lens differs, after a comma."""
    more = difference(replace(camera, focal_mm=other.focal_mm), other)
    return f", {more}" if more != "the same" else ""


def set_ladder(project: Project, camera_id: str, kind: str, focals_mm: tuple[float, ...] = ()) -> Project:
    """Put the camera and the steps of a ladder beside each other, in place of the variants before.
    focals_mm : lenses; the project's own ones where none are named and two or more are kept."""
    own = project.own_focals_mm if len(project.own_focals_mm) >= 2 else ()
    lenses = focals_mm or tuple(own[:MOST_VARIANTS])
    return change_camera(
        project, camera_id, lambda c: replace(c, variants=ladder(c, kind, lenses)[:MOST_VARIANTS])
    )
