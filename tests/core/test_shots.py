"""The shot list and its names; tone worked out on linear light."""

from __future__ import annotations

import string
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View, part_of
from altana.core.edits.cameras import add_camera
from altana.core.edits.formats import add_format
from altana.core.edits.shots import (
    add_shots,
    apply_preset,
    camera_in_format,
    change_shots,
    checked_tone,
    duplicate_shots,
    list_cameras,
    move_shots,
    preset_of,
    remove_shots,
    set_tone,
    start_values,
    with_rows_for_marks,
    without_subjects,
)
from altana.core.edits.walks import add_walk
from altana.core.errors import Refused
from altana.core.light.tone import (
    clipped,
    decoded,
    developed,
    encoded,
    gain,
    histogram,
    proposed_ev,
    white_balance,
    white_level,
)
from altana.core.naming import clashes, folder_named, named, print_width_mm, runs_of, size_for_print
from altana.core.project import (
    FILM,
    LINES,
    PANORAMA,
    STILL,
    TRANSPARENT,
    Camera,
    Project,
    Shot,
    Tone,
    Walk,
    WalkKey,
)


@pytest.fixture
def project() -> Project:
    house = Project(name="House")
    for name, inside in (("Hall", True), ("Street", False)):
        house, _ = add_camera(house, Camera("", name, inside=inside))
    house = add_format(house, "cam-01", "Square", 1000, 1000)
    return add_walk(house, Walk("", "Round", (WalkKey((0, 0, 1.6)), WalkKey((4, 0, 1.6)))))[0]


def rows(project: Project) -> list[str]:
    return [f"{shot.kind}:{shot.subject}" for shot in project.shots]


def test_rows_are_added_with_values_that_suit_inside_and_outside(project: Project) -> None:
    listed = list_cameras(project, ["cam-01", "cam-02"])
    assert rows(listed) == ["still:cam-01", "still:cam-02"]
    assert [shot.folder for shot in listed.shots] == ["stills/inside", "stills/outside"]
    # In the format it is in; twice the same is one row.
    assert listed.shots[0].format_index == 1
    assert list_cameras(listed, ["cam-01"]) == listed
    assert all(camera.in_shot_list for camera in listed.cameras)
    out = list_cameras(listed, ["cam-01"], wanted=False)
    assert rows(out) == ["still:cam-02"]
    assert [camera.in_shot_list for camera in out.cameras] == [False, True]
    film = add_shots(
        listed, [start_values(project, FILM, "walk-01"), start_values(project, PANORAMA, "cam-01")]
    )
    assert [shot.file for shot in film.shots] == ["png", "png", "mp4", "jpg"]
    with pytest.raises(Refused, match="no walk"):
        add_shots(project, [start_values(project, FILM, "walk-09")])


def test_rows_are_moved_duplicated_changed_and_removed(project: Project) -> None:
    listed = list_cameras(project, ["cam-01", "cam-02"])
    listed = add_shots(listed, [start_values(project, FILM, "walk-01")])
    ids = [shot.id for shot in listed.shots]
    assert [shot.id for shot in move_shots(listed, [ids[2]], 0).shots] == [ids[2], ids[0], ids[1]]
    assert [shot.id for shot in move_shots(listed, ids[:2], 3).shots] == [ids[2], ids[0], ids[1]]
    twice = duplicate_shots(listed, [ids[0]])
    assert [shot.subject for shot in twice.shots] == ["cam-01", "cam-01", "cam-02", "walk-01"]
    assert len({shot.id for shot in twice.shots}) == 4
    changed = change_shots(listed, ids[:2], rendition=LINES, dpi=300.0)
    assert [shot.rendition for shot in changed.shots] == [LINES, LINES, "materials"]
    assert changed.cameras is listed.cameras
    assert rows(remove_shots(changed, ids[:1])) == ["still:cam-02", "film:walk-01"]
    gone = without_subjects(replace(listed, cameras=listed.cameras[1:], walks=()))
    assert rows(gone) == ["still:cam-02"]
    assert without_subjects(listed) is listed


@pytest.mark.parametrize(
    ("values", "said"),
    [
        ({"file": "mp4"}, "no file of a still"),
        ({"file": "jpg", "background": TRANSPARENT}, "cannot be transparent"),
        ({"scale": 0.0}, "outside 1 to 400"),
        ({"dpi": 9000.0}, "outside 1 to 4800"),
        ({"rendition": "oil"}, "no way to draw"),
        ({"region": (0.5, 0.0, 0.4, 1.0)}, "within the frame"),
        ({"pattern": "{camera"}, "not closed"),
        ({"pattern": "{weather}"}, "no field"),
        ({"pattern": "///"}, "Nothing is left"),
        ({"background_colour": "red"}, "#rrggbb"),
        ({"tone": Tone(contrast=4.0)}, "Contrast 4"),
        ({"hour": 25.0}, "outside 0 to 24"),
    ],
)
def test_rows_that_make_no_file_are_refused(project: Project, values: dict[str, object], said: str) -> None:
    listed = list_cameras(project, ["cam-01"])
    with pytest.raises(Refused, match=said):
        change_shots(listed, ["shot-01"], **values)


def test_presets_carry_how_a_row_is_made_and_nothing_of_what(project: Project) -> None:
    listed = list_cameras(project, ["cam-01", "cam-02"])
    listed = add_shots(listed, [start_values(project, FILM, "walk-01")])
    listed = change_shots(
        listed, ["shot-01"], rendition=LINES, file="tif", dpi=300.0, pattern="x-{camera}", on=False
    )
    preset = preset_of(listed.shots[0])
    assert not {"subject", "kind", "format_index", "on"} & set(preset)
    after = apply_preset(listed, ["shot-02", "shot-03"], preset)
    assert (after.shots[1].rendition, after.shots[1].file, after.shots[1].on) == (LINES, "tif", True)
    # A film stays a film.
    assert (after.shots[2].rendition, after.shots[2].file, after.shots[2].pattern) == (
        LINES,
        "mp4",
        "{order}-{camera}",
    )


def test_an_older_project_gets_rows_for_its_marks(project: Project) -> None:
    marked = replace(project, cameras=(replace(project.cameras[0], in_shot_list=True), project.cameras[1]))
    assert rows(with_rows_for_marks(marked)) == ["still:cam-01"]
    assert with_rows_for_marks(with_rows_for_marks(marked)) == with_rows_for_marks(marked)


def test_a_camera_in_another_format(project: Project) -> None:
    camera = project.cameras[0]
    wide = camera_in_format(camera, 0)
    assert (wide.width_px, wide.height_px, wide.format_name) == (1920, 1080, "Screen 16:9")
    assert camera_in_format(camera, 1) is camera
    assert camera_in_format(camera, 9) is camera


# ---------------------------------------------------------------------- names


def test_names_are_filled_in_and_made_plain() -> None:
    values = {"camera": "Café – Gallery / 2", "order": "07", "format": "Tall 9:16", "project": "A B"}
    assert named("{order}-{camera}-{format}", values) == "07-cafe-gallery-2-tall-9-16"
    assert named("{room}-{camera}", values) == "cafe-gallery-2"
    assert named("con", {}) == "con-"
    assert folder_named("../{project}//./x", values) == "a-b/x"
    assert clashes(["a.png", "A.png", "b.png"]) == {"a.png"}
    assert size_for_print(150.0, 600.0) == 3543
    assert print_width_mm(3543, 600.0) == pytest.approx(150.0, abs=0.02)


@given(st.text(max_size=60), st.text(alphabet=string.printable, max_size=60))
def test_no_name_leaves_its_folder(camera: str, folder: str) -> None:
    stem = named("x{camera}", {"camera": camera})
    assert stem.isascii() and "/" not in stem and "\\" not in stem and not stem.startswith(".")
    try:
        name = folder_named(folder, {"camera": camera})
    except Refused:
        return
    assert ".." not in name.split("/")
    assert not name.startswith("/")


# ---------------------------------------------------------------------- tone


LIGHT = np.random.default_rng(3).uniform(1.0, 4000.0, (40, 60, 3)).astype(np.float32)


def test_one_more_ev_doubles_the_light() -> None:
    assert gain(9.0) == pytest.approx(2.0 * gain(10.0))
    assert developed(LIGHT, 10.0, Tone(exposure_ev=1.0)) == pytest.approx(
        developed(LIGHT * 2.0, 10.0), abs=1e-6
    )
    assert developed(LIGHT, 10.0, Tone(exposure_ev=1.0)) == pytest.approx(developed(LIGHT, 9.0), abs=1e-6)


def test_srgb_there_and_back() -> None:
    values = np.linspace(0.0, 1.0, 400, dtype=np.float32)
    assert decoded(encoded(values)) == pytest.approx(values, abs=2e-6)
    assert encoded(np.float32([0.18]))[0] == pytest.approx(0.4614, abs=1e-3)


def test_each_control_does_what_it_says_and_nothing_at_its_start_value() -> None:
    plain = developed(LIGHT, 10.0)
    assert (developed(LIGHT, 10.0, Tone()) == plain).all()
    straight = developed(LIGHT, 10.0, Tone(rolloff=0.0))
    assert (straight >= plain).all() and straight.mean() > plain.mean()
    contrast = developed(LIGHT, 10.0, Tone(contrast=0.5))
    assert (contrast[plain > 0.55] >= plain[plain > 0.55]).all()
    assert (contrast[plain < 0.45] <= plain[plain < 0.45]).all()
    grey = developed(LIGHT, 10.0, Tone(saturation=-1.0))
    assert np.ptp(grey, axis=2).max() < 1e-3
    dark = developed(LIGHT, 10.0, Tone(vignette=0.8)) / np.maximum(plain, 1e-6)
    assert dark[0, 0].max() < 0.85 < 0.97 < dark[20, 30].min()
    lamp = np.full((60, 60, 3), 10.0, np.float32)
    lamp[30, 30] = 60_000.0
    glowing = developed(lamp, 10.0, Tone(glow=0.5))
    assert glowing[30, 33].min() > developed(lamp, 10.0)[30, 33].max()
    curve = developed(LIGHT, 10.0, Tone(curve=((0.5, 0.7),)))
    at_half = np.abs(plain - 0.5) < 0.01
    assert curve[at_half].mean() == pytest.approx(0.7, abs=0.02)
    sharp = developed(LIGHT, 10.0, Tone(sharpen=1.0))
    assert sharp.std() > plain.std()
    for wrong in (Tone(curve=((0.5, 0.1), (0.4, 0.2))), Tone(white_k=500.0)):
        with pytest.raises(Refused):
            checked_tone(wrong)


def test_only_what_is_brighter_than_white_glows() -> None:
    """A sunlit wall just below white shines over nothing, a lamp does; of a panorama it goes on round its
    edge."""
    plain, glow = Tone(), Tone(glow=0.5)
    level = white_level(plain) / gain(10.0)
    wall = np.full((40, 80, 3), 10.0, np.float32)
    wall[15:25, :6] = level * 0.99
    assert (developed(wall, 10.0, glow) == developed(wall, 10.0, plain)).all()
    assert developed(wall, 10.0, plain)[20, 2].max() == pytest.approx(1.0, abs=0.01)
    lamp = wall.copy()
    lamp[15:25, :6] = level * 40.0
    flat, round_ = developed(lamp, 10.0, glow), developed(lamp, 10.0, glow, around=True)
    unlit = developed(lamp, 10.0, plain)
    assert flat[20, 6].mean() > unlit[20, 6].mean() + 0.05
    assert flat[20, -3:] == pytest.approx(unlit[20, -3:], abs=1e-4)
    assert round_[20, -1].mean() > unlit[20, -1].mean() + 0.05
    assert developed(wall, 10.0, Tone(vignette=0.8), around=True) == pytest.approx(developed(wall, 10.0))


def test_white_balance_makes_lamp_light_white() -> None:
    warm = white_balance(3000.0)
    # Warm light is red: to make it white the blue is raised and the red lowered.
    assert warm[0] < 1.0 < warm[2]
    assert white_balance(6500.0) == pytest.approx([1.0, 1.0, 1.0], abs=1e-6)
    assert white_balance(12000.0)[2] < 1.0


def test_a_proposed_exposure_brings_the_middle_to_middle_grey() -> None:
    for level in (3.0, 300.0, 30_000.0):
        flat = np.full((10, 10, 3), level, np.float32)
        shown = decoded(developed(flat, proposed_ev(flat)))
        assert shown.mean() == pytest.approx(0.18, abs=0.01)
    assert proposed_ev(np.zeros((4, 4, 3), np.float32)) == 10.0


def test_clipping_and_histogram() -> None:
    shown = np.zeros((10, 10, 3), np.float32)
    shown[:5] = 1.0
    assert clipped(shown) == (0.5, 0.5)
    counts = histogram(shown, 16)
    assert counts.shape == (3, 16)
    assert counts[:, [0, -1]] == pytest.approx(np.full((3, 2), 0.5))


def test_the_tone_of_rows_and_of_the_project(project: Project) -> None:
    listed = list_cameras(project, ["cam-01", "cam-02"])
    one = set_tone(listed, Tone(contrast=0.2), ["shot-02"])
    assert [shot.tone for shot in one.shots] == [None, Tone(contrast=0.2)]
    assert set_tone(listed, Tone(glow=0.1)).tone == Tone(glow=0.1)
    with pytest.raises(Refused):
        set_tone(listed, Tone(glow=7.0))


def test_a_region_is_the_same_rays_through_the_same_pixels() -> None:
    view = View(Pose((1, 2, 1.6), 30.0, -5.0, 2.0), Lens(24.0, rise_mm=3.0, cross_mm=-2.0), 1600, 1000)
    part = part_of(view, (0.25, 0.1, 0.75, 0.6))
    assert (part.width_px, part.height_px) == (800, 500)
    pixels = np.array([[0.5, 0.5], [400.0, 250.0], [799.5, 499.5]])
    assert part.rays(pixels) == pytest.approx(view.rays(pixels + (400.0, 100.0)), abs=1e-12)
    assert part_of(view, None) is view


def test_a_shot_of_a_still_has_no_stereo_by_itself() -> None:
    assert Shot("", STILL).stereo_m == 0.0


def test_numbers_are_told_as_short_as_may_be() -> None:
    assert runs_of([5, 1, 3]) == "1, 3, 5" and runs_of([2, 1]) == "1, 2"
    assert runs_of([9, 4, 5, 6, 1]) == "1, 4–6, 9" and runs_of([]) == ""
