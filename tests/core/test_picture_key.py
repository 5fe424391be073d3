"""One key says for every kind of picture whether it is still the same: over a table of edits of every
field."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import fields, replace

import pytest

from altana.core.camera.wall_cut import WallCut
from altana.core.hiding import NOTHING_HIDDEN, Hiding
from altana.core.picture_key import PictureKey, Scenery, camera_key, check_key, round_key, row_key, walk_key
from altana.core.project import (
    Camera,
    Format,
    LeftOut,
    Light,
    Nudge,
    OwnLight,
    Patch,
    Project,
    Tone,
    Walk,
    WalkKey,
)

#: A camera keeps its id; another one is another camera.
MISSING = {"id"}
START = Project(
    "P",
    cameras=(Camera("cam-01", "A", aim_m=4.0),),
    walks=(Walk("walk-01", "W", (WalkKey((0, 0, 1)), WalkKey((5, 0, 1)))),),
)
OUT = LeftOut(objects=("bench",))

#: An edit, and which pictures it changes: c camera, k check, r panorama, w walk.
EDITS: tuple[tuple[str, Callable[[Project], Project], str], ...] = (
    ("name", lambda p: _camera(p, name="B"), ""),
    ("note", lambda p: _camera(p, note="later"), ""),
    ("intent", lambda p: _camera(p, intent="the lake"), ""),
    ("done", lambda p: _camera(p, done=True), ""),
    ("locked", lambda p: _camera(p, locked=True), ""),
    ("hidden on plan", lambda p: _camera(p, hidden=True), ""),
    ("group", lambda p: _camera(p, group="G"), ""),
    ("in shot list", lambda p: _camera(p, in_shot_list=True), ""),
    ("aim", lambda p: _camera(p, aim_m=9.0), ""),
    ("looks at a point", lambda p: _camera(p, looks_at_point=not p.cameras[0].looks_at_point), ""),
    ("guides", lambda p: _camera(p, guides=("horizon",)), ""),
    ("kept plumb", lambda p: _camera(p, kept_plumb=True), ""),
    ("a variant", lambda p: _camera(p, variants=(Camera("cam-01", "try"),)), ""),
    (
        "another format kept",
        lambda p: _camera(p, formats=(Format("16:9", 1920, 1080), Format("1:1", 900, 900))),
        "",
    ),
    ("light of its own", lambda p: _camera(p, light=OwnLight(hour=9.0)), "cr"),
    ("depth of field", lambda p: _camera(p, blur=True), "c"),
    ("f-number", lambda p: _camera(p, f_number=2.8), ""),
    ("focus", lambda p: _camera(p, focus_m=3.0), ""),
    ("eye", lambda p: _camera(p, eye=(1.0, 0.0, 1.6)), "ckr"),
    ("height", lambda p: _camera(p, eye=(0.0, 0.0, 1.2)), "ckr"),
    ("heading", lambda p: _camera(p, heading_deg=5.0), "ck"),
    ("tilt", lambda p: _camera(p, tilt_deg=5.0), "ck"),
    ("roll", lambda p: _camera(p, roll_deg=5.0), "ck"),
    ("focal length", lambda p: _camera(p, focal_mm=50.0), "ck"),
    ("sensor", lambda p: _camera(p, sensor_width_mm=24.0), "ck"),
    ("rise", lambda p: _camera(p, rise_mm=3.0), "ck"),
    ("cross", lambda p: _camera(p, cross_mm=3.0), "ck"),
    ("width", lambda p: _camera(p, width_px=1000), "ck"),
    ("height of the picture", lambda p: _camera(p, height_px=700), "ck"),
    ("near bound", lambda p: _camera(p, near_m=2.0), "ck"),
    ("far bound", lambda p: _camera(p, far_m=20.0), "ck"),
    ("wall cut", lambda p: _camera(p, wall_cuts=(WallCut((1.0, 2.0, 0.0), 90.0),)), "ck"),
    ("near bound fixed", lambda p: _camera(p, near_m=2.0, near_at=(0.0, 2.5, 1.6)), "ck"),
    ("far bound fixed", lambda p: _camera(p, far_m=20.0, far_at=(0.0, 25.0, 1.6)), "ck"),
    (
        "the format in use",
        lambda p: _camera(p, formats=(Format("16:9", 1920, 1080), Format("1:1", 900, 900)), format_index=1),
        "",
    ),
    ("the format's name", lambda p: _camera(p, format_name="Cover"), ""),
    ("the sensor's height kept", lambda p: _camera(p, keep_sensor_height=True), "ck"),
    ("cap", lambda p: _camera(p, cap=True), "ckr"),
    ("dark beyond", lambda p: _camera(p, far_dark=True), "c"),
    ("exposure", lambda p: _camera(p, ev=12.0), "cr"),
    ("inside", lambda p: _camera(p, inside=not p.cameras[0].inside), "cr"),
    ("left out here", lambda p: _camera(p, left_out=OUT), "ckr"),
    ("nudge", lambda p: _camera(p, nudges=(Nudge("bench", (1.0, 0.0, 0.0)),)), "ckr"),
    ("left out of all", lambda p: replace(p, left_out=OUT), "ckrw"),
    (
        "a mend",
        lambda p: replace(
            p, patches=(Patch("patch-01", "panel", "Panel", ((0, 0, 0), (1, 0, 0), (1, 1, 0))),)
        ),
        "ckrw",
    ),
    ("hour", lambda p: replace(p, light=replace(p.light, hour=9.0)), "crw"),
    ("date", lambda p: replace(p, light=replace(p.light, date="2026-12-01")), "crw"),
    ("place", lambda p: replace(p, light=Light(latitude_deg=10.0)), "crw"),
    ("tone", lambda p: replace(p, tone=Tone(contrast=0.5)), ""),
    ("project's name", lambda p: replace(p, name="Q"), ""),
    ("limits", lambda p: replace(p, limits=replace(p.limits, wide_mm=20.0)), ""),
    ("own lens", lambda p: replace(p, own_focals_mm=(21.0,)), ""),
    ("walk's name", lambda p: _walk(p, name="X"), ""),
    ("walk's note", lambda p: _walk(p, note="X"), ""),
    ("walk locked", lambda p: _walk(p, locked=True), ""),
    ("walk hidden", lambda p: _walk(p, hidden=True), ""),
    ("walk's length", lambda p: _walk(p, seconds=9.0), "w"),
    ("walk's rate", lambda p: _walk(p, rate="30"), "w"),
    ("walk's left out", lambda p: _walk(p, left_out=OUT), "w"),
    ("walk's place", lambda p: _walk(p, keys=(WalkKey((0, 0, 1)), WalkKey((6, 0, 1)))), "w"),
)


def _camera(project: Project, **values: object) -> Project:
    return replace(project, cameras=(replace(project.cameras[0], **values),))  # type: ignore[arg-type]


def _walk(project: Project, **values: object) -> Project:
    return replace(project, walks=(replace(project.walks[0], **values),))  # type: ignore[arg-type]


def keys(
    project: Project, scene: int = 1, lit: bool = True, hiding: Hiding = NOTHING_HIDDEN
) -> dict[str, PictureKey]:
    scenery, camera = Scenery.of(project, scene, lit), project.cameras[0]
    return {
        "c": camera_key(camera, scenery, hiding),
        "k": check_key(camera, scenery),
        "r": round_key(camera, scenery, hiding),
        "w": walk_key(project.walks[0], (640.0, 360.0), scenery, hiding),
    }


@pytest.mark.parametrize(("name", "edit", "changes"), EDITS, ids=[name for name, _, _ in EDITS])
def test_an_edit_makes_exactly_those_pictures_old_that_it_changes(
    name: str, edit: Callable[[Project], Project], changes: str
) -> None:
    before, after = keys(START), keys(edit(START))
    assert edit(START) != START
    assert "".join(kind for kind in before if before[kind] != after[kind]) == changes
    # What is equal is found in a table.
    assert all(hash(before[kind]) == hash(keys(START)[kind]) for kind in before)


def test_every_field_of_a_camera_stands_in_the_table() -> None:
    start = START.cameras[0]
    changed = {
        field.name
        for _, edit, _ in EDITS
        for field in fields(Camera)
        if getattr(edit(START).cameras[0], field.name) != getattr(start, field.name)
    }
    assert {field.name for field in fields(Camera)} - changed == MISSING


def test_another_model_its_soft_light_and_what_is_hidden_make_pictures_old() -> None:
    before = keys(START)
    assert all(before[kind] != keys(START, scene=2)[kind] for kind in before)
    assert [kind for kind in before if before[kind] != keys(START, lit=False)[kind]] == ["c", "r", "w"]
    hidden = NOTHING_HIDDEN.turned("objects", "bench", True)
    assert [kind for kind in before if before[kind] != keys(START, hiding=hidden)[kind]] == ["c", "r", "w"]


def test_a_row_depends_on_tone_and_what_its_words_stand_for() -> None:
    scenery = Scenery.of(START, 1, True)
    one = row_key("item", START.tone, START.qualities, scenery)
    assert one == row_key("item", START.tone, START.qualities, scenery)
    assert one != row_key("item", Tone(contrast=0.4), START.qualities, scenery)
    assert one != row_key("other", START.tone, START.qualities, scenery)
