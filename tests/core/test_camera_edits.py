"""Formats, variants, copied settings, order, planned shots, nudges: each edit changes what it says and
nothing else."""

from __future__ import annotations

from dataclasses import fields, replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from altana.core.document import Document
from altana.core.edits.cameras import add_camera, checked, tidy
from altana.core.edits.formats import (
    add_format,
    choose_format,
    edge_moved,
    parse_proportion,
    proportion_text,
    remove_format,
    resized,
    size_for,
    swapped,
)
from altana.core.edits.left_out import leave_out, nudge
from altana.core.edits.planned import drop_shot, plan_shot, stand_planned
from altana.core.edits.settings import SETTINGS, copy_settings, reorder, set_many
from altana.core.edits.variants import (
    LADDERS,
    add_variant,
    difference,
    keep_variant,
    remove_variant,
    set_ladder,
)
from altana.core.errors import Refused
from altana.core.project import Camera, LeftOut, Project
from altana.storage.project_file import from_json, to_json


def project_of(count: int = 3) -> Project:
    project = Project("P")
    for number in range(count):
        project, _ = add_camera(
            project, Camera("", f"C{number}", (float(number), 0.0, 1.6), focal_mm=20.0 + number)
        )
    return project


def only(before: Project, after: Project, *names: str) -> None:
    """Nothing but these fields of the first camera differs, and the other cameras are the identical
    objects."""
    assert [a is b for a, b in zip(before.cameras[1:], after.cameras[1:], strict=True)] == [True] * (
        len(before.cameras) - 1
    )
    changed = {
        f.name
        for f in fields(Camera)
        if getattr(before.cameras[0], f.name) != getattr(after.cameras[0], f.name)
    }
    assert changed <= set(names), changed


FORMAT_FIELDS = (
    "width_px",
    "height_px",
    "format_name",
    "formats",
    "format_index",
    "rise_mm",
    "cross_mm",
    "sensor_width_mm",
    "keep_sensor_height",
    "guides",
)


def test_formats_keep_their_own_size_shift_and_guides() -> None:
    start = project_of()
    project = add_format(start, "cam-01", "Square 1:1", 1080, 1080)
    only(start, project, *FORMAT_FIELDS)
    project = set_many(project, ["cam-01"], rise_mm=4.0, guides=("golden",))
    project = choose_format(project, "cam-01", 0)
    first = project.cameras[0]
    assert (first.width_px, first.rise_mm, first.guides) == (1920, 0.0, ("thirds",))
    project = choose_format(project, "cam-01", 1)
    second = project.cameras[0]
    assert (second.width_px, second.rise_mm, second.guides) == (1080, 4.0, ("golden",))
    assert second.eye == first.eye
    project = choose_format(remove_format(project, "cam-01", 0), "cam-01", 0)
    assert [item.name for item in project.cameras[0].all_formats] == ["Square 1:1"]
    assert project.cameras[0].rise_mm == 4.0
    with pytest.raises(Refused, match="at least one"):
        remove_format(project, "cam-01", 0)
    with pytest.raises(Refused, match="formats"):
        choose_format(project, "cam-01", 5)
    assert from_json(to_json(project), "x") == project


@settings(max_examples=150)
@given(st.lists(st.tuples(st.sampled_from(["add", "use", "remove", "rise"]), st.integers(0, 4)), max_size=12))
def test_formats_in_any_order_stay_whole(steps: list[tuple[str, int]]) -> None:
    project = project_of(1)
    for name, number in steps:
        count = len(project.cameras[0].all_formats)
        if name == "add":
            project = add_format(project, "cam-01", f"F{number}", 100 + number, 100)
        elif name == "use":
            project = choose_format(project, "cam-01", number % count)
        elif name == "remove" and count > 1:
            before = project.cameras[0].all_formats
            project = remove_format(project, "cam-01", number % count)
            gone = number % count
            assert project.cameras[0].all_formats == before[:gone] + before[gone + 1 :]
        else:
            project = set_many(project, ["cam-01"], rise_mm=float(number))
        camera = checked(project.cameras[0])
        assert camera.all_formats[camera.format_index] == camera.format


@pytest.mark.parametrize("side", ["left", "right", "top", "bottom"])
@pytest.mark.parametrize("by", [120, -240])
def test_an_edge_moves_and_everything_seen_stays(side: str, by: int) -> None:
    camera = Camera("", "x", (1.0, 2.0, 1.6), 30.0, 4.0, rise_mm=2.0, cross_mm=-1.0)
    moved = edge_moved(camera, side, by)
    point = [[6.0, 9.0, 2.5]]
    px, py, _ = camera.view().project(point)[0]  # type: ignore[arg-type]
    qx, qy, _ = moved.view().project(point)[0]  # type: ignore[arg-type]
    shift = {"left": (by, 0), "top": (0, by)}.get(side, (0, 0))
    assert (qx - px, qy - py) == pytest.approx(shift, abs=1e-6)
    assert moved.eye == camera.eye
    assert (moved.width_px - camera.width_px, moved.height_px - camera.height_px) == (
        (by, 0) if side in ("left", "right") else (0, by)
    )


def test_resizing_shows_more_or_keeps_the_view() -> None:
    camera = Camera("", "x")
    same = resized(camera, 960, 540)
    assert same.view().angles_of_view() == pytest.approx(camera.view().angles_of_view())
    more = resized(camera, 3840, 1080, show_more=True)
    point = [[2.0, 10.0, 1.0]]
    centre, wider = camera.view().project(point)[0, 0] - 960, more.view().project(point)[0, 0] - 1920  # type: ignore[arg-type]
    assert wider == pytest.approx(centre)
    tall = swapped(camera)
    assert (tall.width_px, tall.height_px) == (1080, 1920)
    assert swapped(tall).view() == camera.view()


def test_two_of_three_are_given_and_one_follows() -> None:
    assert size_for(0, 0, width=1920, proportion=16 / 9) == (1920, 1080)
    assert size_for(0, 0, height=1350, proportion=0.8) == (1080, 1350)
    assert size_for(0, 0, width=100, height=200) == (100, 200)
    with pytest.raises(Refused, match="two of"):
        size_for(0, 0, width=100)
    assert [parse_proportion(text) for text in ("16:9", "2.39:1", "4/5", "1.85")] == pytest.approx(
        [16 / 9, 2.39, 0.8, 1.85]
    )
    for text in ("", "wide", "1:0", "1:2:3", "0", "-2"):
        with pytest.raises(Refused, match="not a proportion"):
            parse_proportion(text)
    assert [proportion_text(w, h) for w, h in ((1920, 1080), (1080, 1350), (2390, 1000), (1000, 2390))] == [
        "16:9",
        "4:5",
        "2.39:1",
        "1:2.39",
    ]


def test_variants_are_kept_and_nothing_is_lost() -> None:
    start = project_of()
    project = set_ladder(start, "cam-01", "lens")
    only(start, project, "variants")
    camera = project.cameras[0]
    assert [item.focal_mm for item in camera.variants] == [16.0, 18.0, 24.0, 28.0]
    assert all("mm" in item.name for item in camera.variants)
    kept = keep_variant(project, "cam-01", 2).cameras[0]
    assert (kept.focal_mm, kept.id, kept.name) == (24.0, "cam-01", "C0")
    assert kept.variants[2].view() == camera.view()
    back = keep_variant(replace(project, cameras=(kept, *project.cameras[1:])), "cam-01", 2).cameras[0]
    assert back.view() == camera.view()
    for kind in LADDERS:
        tried = set_ladder(start, "cam-01", kind).cameras[0]
        assert 3 <= len(tried.variants) <= 6
        assert len({item.name for item in tried.variants}) == len(tried.variants)
        assert all(not item.variants for item in tried.variants)
    for _ in range(8):
        start = add_variant(start, "cam-01")
    with pytest.raises(Refused, match="up to 8"):
        add_variant(start, "cam-01")
    assert len(remove_variant(start, "cam-01", 0).cameras[0].variants) == 7
    assert from_json(to_json(project), "x") == project


def test_a_ladder_of_lenses_of_ones_own_keeps_the_eye_or_the_subject() -> None:
    start = replace(project_of(), own_focals_mm=(18.0, 30.0, 40.0))
    here = set_ladder(start, "cam-01", "lens-here").cameras[0]
    assert [item.focal_mm for item in here.variants] == [18.0, 30.0, 40.0]
    assert all(item.eye == here.eye for item in here.variants)
    assert [item.name.split(" · ")[0] for item in here.variants] == ["18 mm", "30 mm", "40 mm"]
    assert here.variants[0].name.endswith("°")
    ladder = set_ladder(start, "cam-01", "lens").cameras[0]
    assert all(
        "closer" in item.name or "back" in item.name for item in ladder.variants if item.eye != ladder.eye
    )
    named = set_ladder(start, "cam-01", "lens-here", (18.0, 24.0, 85.0)).cameras[0]
    assert [item.focal_mm for item in named.variants] == [18.0, 24.0, 85.0]
    for wrong in ((1.0, 20.0), tuple(float(value) for value in range(20, 30))):
        with pytest.raises(Refused):
            set_ladder(start, "cam-01", "lens-here", wrong)


def test_differences_are_named() -> None:
    camera = Camera("", "x", aim_m=8.0)
    assert difference(camera, camera) == "the same"
    assert difference(camera, replace(camera, focal_mm=50.0, ev=9.0)) == "50 mm, EV 9.0"
    assert difference(camera, replace(camera, eye=(0.0, 0.0, 2.0))) == "eye +0.40 m"
    assert difference(camera, replace(camera, eye=(0.0, 1.5, 1.6))) == "1.50 m closer"
    assert difference(camera, replace(camera, eye=(3.0, 1.5, 1.6))) == "another place"


def test_settings_are_copied_to_others_but_not_to_locked_ones() -> None:
    start = project_of(4)
    start = set_many(start, ["cam-04"], locked=True)
    start = set_many(start, ["cam-01"], ev=7.5, near_m=0.9)
    project = copy_settings(start, "cam-01", ["cam-02", "cam-04"], ["lens", "exposure", "bounds"])
    assert [camera.focal_mm for camera in project.cameras] == [20.0, 20.0, 22.0, 23.0]
    assert [camera.ev for camera in project.cameras][:2] == [7.5, 7.5]
    assert project.cameras[1].near_m == 0.9
    assert project.cameras[0] is start.cameras[0]
    assert project.cameras[2] is start.cameras[2]
    assert project.cameras[1].eye == start.cameras[1].eye
    with pytest.raises(Refused, match="no settings"):
        copy_settings(start, "cam-01", ["cam-02"], ["colour"])
    assert {name for names in SETTINGS.values() for name in names} <= {f.name for f in fields(Camera)}


@settings(max_examples=60)
@given(st.sets(st.integers(1, 6), min_size=1), st.one_of(st.none(), st.integers(1, 6)))
def test_reordering_keeps_every_camera(moved: set[int], before: int | None) -> None:
    start = project_of(6)
    ids = [f"cam-0{number}" for number in sorted(moved)]
    project = reorder(start, ids, f"cam-0{before}" if before else None)
    assert sorted(camera.id for camera in project.cameras) == sorted(camera.id for camera in start.cameras)
    order = [camera.id for camera in project.cameras]
    first = order.index(ids[0])
    assert order[first : first + len(ids)] == ids
    assert [item for item in order if item not in ids] == [c.id for c in start.cameras if c.id not in ids]


def test_planned_shots_become_cameras() -> None:
    project, shot = plan_shot(project_of(1), "  The lake at noon ", "with ferry")
    assert project.planned[0].intent == "The lake at noon"
    stood, new_id = stand_planned(project, shot, Camera("", "New"))
    camera = stood.camera(new_id)
    assert camera is not None
    assert (camera.intent, camera.note, stood.planned) == ("The lake at noon", "with ferry", ())
    assert drop_shot(project, shot).planned == ()
    with pytest.raises(Refused, match="what it should show"):
        plan_shot(project, "  ")


def test_nudges_and_leaving_out_are_listed_and_taken_back() -> None:
    start = project_of()
    project = nudge(start, "cam-01", "lamp", (0.5, 0.0, 0.0), 30.0)
    only(start, project, "nudges")
    project = nudge(project, "cam-01", "bench", out=True)
    assert [item.object_id for item in project.cameras[0].nudges] == ["lamp", "bench"]
    assert nudge(project, "cam-01", "lamp").cameras[0].nudges == project.cameras[0].nudges[1:]
    assert leave_out(start, [], "categories", "Planting").left_out == LeftOut(categories=("Planting",))
    one = leave_out(start, ["cam-01"], "objects", "a")
    only(start, one, "left_out")
    assert leave_out(one, ["cam-01"], "objects", "a", False).cameras[0].left_out == LeftOut()


def test_tidied_places() -> None:
    camera = Camera("", "x", (1.2345, -3.456, 1.6), 33.0, aim_m=7.0)
    tidied = tidy(camera, 0.1)
    assert tidied.eye == (1.2, -3.5, 1.6)
    assert tidied.aim[0] * 10 == pytest.approx(round(tidied.aim[0] * 10), abs=1e-9)
    ahead = tidy(replace(camera, looks_at_point=False), 0.01)
    assert (ahead.eye, ahead.heading_deg) == ((1.23, -3.46, 1.6), 33.0)


@settings(max_examples=40)
@given(st.lists(st.sampled_from(["variant", "format", "nudge", "plan", "group"]), min_size=1, max_size=8))
def test_undo_gives_back_the_identical_project(steps: list[str]) -> None:
    document = Document(project_of())
    seen = [document.project]
    edits = {
        "variant": lambda p: add_variant(p, "cam-01") if len(p.cameras[0].variants) < 6 else p,
        "format": lambda p: add_format(p, "cam-02", "F", 300, 200),
        "nudge": lambda p: nudge(p, "cam-03", f"o{len(p.cameras[2].nudges)}", (1.0, 0.0, 0.0)),
        "plan": lambda p: plan_shot(p, "More")[0],
        "group": lambda p: set_many(p, ["cam-01", "cam-02"], group=p.cameras[0].group + "x"),
    }
    for name in steps:
        if document.apply(name, edits[name]):
            seen.append(document.project)
    for expected in reversed(seen[:-1]):
        document.undo()
        assert document.project is expected


def test_an_older_file_is_read() -> None:
    data = to_json(project_of()).replace(b'"version": 2', b'"version": 1')
    assert from_json(data, "x") == project_of()


def test_values_that_make_no_picture() -> None:
    for values in ({"guides": ("spiral",)}, {"format_index": 3, "formats": (Camera("", "x").format,)}):
        with pytest.raises(Refused, match=r"guide|formats"):
            checked(replace(Camera("", "x"), **values))  # type: ignore[arg-type]
    with pytest.raises(Refused, match="no variants of its own"):
        checked(replace(Camera("", "x"), variants=(replace(Camera("", "y"), variants=(Camera("", "z"),)),)))


def test_what_a_variant_cuts_away_is_part_of_its_name() -> None:
    from altana.core.camera.wall_cut import WallCut
    from altana.core.edits.bounds import with_far, with_near

    camera = Camera("", "x")
    assert difference(camera, with_near(camera, 1.234)) == "near 1.23 m"
    assert difference(with_near(camera, 1.0), camera) == "near off"
    cut = WallCut((0.0, 0.0, 0.0), 0.0)
    assert difference(camera, with_far(replace(camera, wall_cuts=(cut,)), 30.0)) == "far 30.00 m, 1 wall cut"
    assert difference(replace(camera, wall_cuts=(cut,)), camera) == "no wall cut"
