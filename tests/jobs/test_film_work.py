"""Films as a whole: folders of frames, stamps, a sun that moves, reading back, and a run killed again and
again."""

from __future__ import annotations

import json
import random
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest

from altana.core.errors import UserError
from altana.core.light.own import MomentLight
from altana.core.light.transport import LightMap
from altana.core.project import Project, Walk
from altana.jobs import film as film_module
from altana.jobs import film_encoding as encoding_module
from altana.jobs import light as light_module
from altana.jobs.estimates import about, bytes_for, expected_of, job_of, time_words
from altana.jobs.film_check import FilmCheck
from altana.jobs.light import MovingLight, moving_light
from altana.jobs.models import Opened
from altana.jobs.paces import Expected, Job, Paces, known_paces, learn
from altana.jobs.requests import Film, Part, request_for
from altana.jobs.run import Run
from altana.render.encode import Stamp, exr_light
from altana.render.film_file import film_facts
from altana.storage.project_file import read_project, write_project
from tests.conftest import picture_at

NO_PART = Part()


@pytest.fixture(scope="module")
def short(demo_project: Project) -> Project:
    """The demo with a walk of one second."""
    return replace(
        demo_project,
        walks=(replace(demo_project.walks[0], seconds=1.0, rate="12", width_px=96, height_px=54),),
    )


def run_of(project: Project, opened: Opened, out: Path, container: str = "mp4", part: Part = NO_PART) -> Run:
    request = request_for(
        project, (), project.walks, None, None, "proof", "png", container=container, part=part
    )
    run = Run(request, opened, out)
    run.go()
    return run


@pytest.mark.slow
@pytest.mark.parametrize(
    ("container", "suffix"), [("png-frames", "png"), ("jpg-frames", "jpg"), ("exr-frames", "exr")]
)
def test_a_folder_of_frames(
    short: Project, demo_opened: Opened, tmp_path: Path, container: str, suffix: str
) -> None:
    folder = tmp_path / f"up-the-stair-to-the-gallery-{suffix}-frames"
    folder.mkdir()
    (folder / f"000099.{suffix}").write_bytes(b"of an earlier, longer film")
    (folder / "notes.txt").write_text("mine")
    run = run_of(short, demo_opened, tmp_path, container)
    assert run.written == [folder]
    assert sorted(path.name for path in folder.iterdir()) == [
        *(f"{number:06d}.{suffix}" for number in range(12)),
        "notes.txt",
    ]
    assert [path.name for path in tmp_path.iterdir()] == [folder.name]
    check = run.checks[folder.name]
    assert (check.frames, check.seconds, check.differs) == (12, 1.0, ())
    if suffix == "exr":
        light = exr_light(folder / "000005.exr")
        assert light.shape == (54, 96, 3)
        assert light.mean() > 20.0
    else:
        assert picture_at(folder / f"000005.{suffix}").std() > 10


def test_linear_light_is_the_picture_before_exposure(
    short: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    run_of(short, demo_opened, tmp_path / "a", "exr-frames", Part(0.0, 0.1))
    brighter = tuple(replace(key, ev=key.ev - 1.0) for key in short.walks[0].keys)
    run_of(
        replace(short, walks=(replace(short.walks[0], keys=brighter),)),
        demo_opened,
        tmp_path / "b",
        "exr-frames",
        Part(0.0, 0.1),
    )
    one, two = (exr_light(next((tmp_path / name).glob("*/*.exr"))) for name in "ab")
    # The light is what it is, whatever the exposure.
    assert np.allclose(two, one, rtol=2e-3, atol=0.5)


def test_every_film_is_read_back_and_compared_with_the_frame(
    short: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    run = run_of(short, demo_opened, tmp_path)
    (check,) = run.checks.values()
    assert [number for number, _ in check.compared] == [0, 6, 11]
    assert check.differs == ()
    assert check.sentence.startswith("Checked: 12 film frames, 1.00 s at 12")
    assert max(off for _, off in check.compared) < 5.0


def test_a_film_that_shows_something_else_is_told(
    short: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    write = encoding_module.write_film

    def upside_down(path, frames, *more):  # type: ignore[no-untyped-def]
        return write(path, (frame[::-1] for frame in frames), *more)

    monkeypatch.setattr(encoding_module, "write_film", upside_down)
    (check,) = run_of(short, demo_opened, tmp_path).checks.values()
    assert len(check.differs) == 3
    assert "differs from the Frame" in check.sentence


def test_a_film_that_lost_frames_is_not_kept(
    short: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    write = encoding_module.write_film

    def losing(path, frames, *more):  # type: ignore[no-untyped-def]
        return write(path, list(frames)[:-2], *more)

    monkeypatch.setattr(encoding_module, "write_film", losing)
    request = request_for(short, (), short.walks, None, None, "proof", "png")
    with pytest.raises(UserError, match="10 of 12 frames and was not kept"):
        Run(request, demo_opened, tmp_path / "out", tmp_path / "job").go()
    assert not list((tmp_path / "out").iterdir())
    assert len(list((tmp_path / "job").glob(".frames-*/*.png"))) == 12


def test_an_encoder_that_fails_ends_the_run_with_its_reason(
    short: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def full(path, frames, *more):  # type: ignore[no-untyped-def]
        next(iter(frames))
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(encoding_module, "write_film", full)
    before = threading.active_count()
    with pytest.raises(UserError, match=r"full|space"):
        run_of(short, demo_opened, tmp_path)
    assert threading.active_count() <= before


def test_a_film_is_drawn_as_lines(short: Project, demo_opened: Opened, tmp_path: Path) -> None:
    request = request_for(
        short, (), short.walks, None, None, "proof", "png", container="png-frames", drawn="lines"
    )
    run = Run(request, demo_opened, tmp_path)
    run.go()
    picture = picture_at(run.written[0] / "000005.png")
    assert np.median(picture) > 235
    assert picture.min() < 225
    assert next(iter(run.checks.values())).differs == ()
    with pytest.raises(UserError, match="no way to draw"):
        request_for(short, (), short.walks, None, None, "proof", "png", drawn="oil")


@pytest.mark.slow
def test_a_stamp_says_frame_second_sun_walk_and_project(
    short: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    stamp = Stamp(("project", "camera", "frame", "time", "sun"), "top left", 0.1)
    plain = run_of(short, demo_opened, tmp_path / "a", "png-frames")
    said = run_of(short, demo_opened, tmp_path / "b", "png-frames", Part(stamp=stamp))
    one, two = (picture_at(run.written[0] / "000003.png").astype(int) for run in (plain, said))
    changed = np.abs(one - two).max(axis=2) > 8
    assert changed[:20].mean() > 0.3
    assert not changed[30:].any()
    samples = film_module.sample(film_module.resolve(short.walks[0], None))
    item = said.request.items[0]
    assert isinstance(item, Film)
    assert (
        film_module.stamp_text(short, item, samples, short.light, 3)
        == "Larkwater ferry terminal   Up the stair to the gallery   frame 3   0.25 s   21 June 2026 10:12"
    )
    with pytest.raises(UserError, match="nothing that a stamp shows"):
        request_for(short, (), short.walks, None, None, "proof", "png", part=Part(stamp=Stamp(("weather",))))


def test_soft_light_moves_with_the_sun(
    demo_opened: Opened, short: Project, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked: list[float] = []

    def known(opened: Opened, light, progress: Callable[[float], bool], base: Path, kept: object) -> LightMap:  # type: ignore[no-untyped-def]
        asked.append(light.hour)
        return LightMap(np.full((1, 1, 3), light.hour, np.float32), np.zeros((1, 3, 2), np.float32))

    monkeypatch.setattr(light_module, "light_of", known)
    hours = np.linspace(8.0, 10.5, 60)
    still = np.full(60, np.nan)
    moving = moving_light(demo_opened, short.light, (hours, still))
    assert isinstance(moving, MovingLight)
    # Never more than an hour apart, both ends included.
    assert asked == pytest.approx([8.0, 8.8333, 9.6667, 10.5], abs=1e-3)
    light, pixels = moving.at(MomentLight(9.25))
    assert light.hour == 9.25
    assert pixels[0, 0] == pytest.approx([9.25] * 3, abs=1e-3)
    assert moving_light(demo_opened, short.light, (still, still)) is None


@pytest.mark.slow
def test_a_film_with_a_moving_sun(
    short: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    keys = short.walks[0].keys
    moving = (replace(keys[0], hour=9.2), *keys[1:-1], replace(keys[-1], hour=11.2))
    still_light = light_module.light_of(demo_opened, short.light)
    monkeypatch.setattr(light_module, "light_of", lambda opened, light, *_: still_light)
    first = run_of(short, demo_opened, tmp_path / "a", "png-frames")
    second = run_of(
        replace(short, walks=(replace(short.walks[0], keys=moving),)),
        demo_opened,
        tmp_path / "b",
        "png-frames",
    )
    apart = []
    for number in (0, 6):
        one, two = (picture_at(run.written[0] / f"{number:06d}.png").astype(int) for run in (first, second))
        apart.append(float(np.abs(one - two).mean()))
    # In the middle of the film the sun stands as the project has it; at its beginning it does not.
    assert apart[1] < 0.3 < apart[0]
    assert next(iter(second.checks.values())).differs == ()


def test_estimates_learn_from_what_was_made(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, short: Project
) -> None:
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path))
    assert known_paces().measured == []
    (item,) = request_for(short, (), short.walks, None, None, "review", "png").items
    assert isinstance(item, Film)
    job = job_of(item, "review")
    frames = len(item.frames)
    assert job == Job("frame materials review", frames, frames * item.width_px * item.height_px)
    before = expected_of(item, "review")
    assert before.seconds == pytest.approx(job.reckoned_s) and not before.sure
    assert time_words(replace(before, seconds=6.0)) == "3 to 12 s"
    assert time_words(replace(before, seconds=80.0)) == "1 to 3 min"
    # Less than an hour is told in minutes, whatever the longer of the two is told in.
    assert time_words(replace(before, seconds=3000.0)) == "25 min to 1.7 h"
    assert time_words(replace(before, seconds=12_600.0)) == "1.8 to 7.0 h"
    for _ in range(20):
        learn(job, 3.0 * job.reckoned_s, "here")
    after = expected_of(item, "review", scene="here")
    assert after.sure and after.seconds == pytest.approx(3.0 * job.reckoned_s, rel=0.03)
    # In another model it is a good guess; for another way of drawing the machine's speed is one.
    other = expected_of(item, "review", scene="there")
    assert other.seconds == pytest.approx(3.0 * job.reckoned_s, rel=0.1)
    row = Job("row materials review", 1, job.pixels // frames)
    assert known_paces().expected(row, "here").seconds > 1.5 * row.reckoned_s
    assert not known_paces().expected(row, "here").sure
    # Of each way of drawing the newest are kept: a machine that became faster is believed soon.
    for _ in range(24):
        learn(job, job.reckoned_s, "here")
    assert len(known_paces().measured) == 24
    assert expected_of(item, "review", scene="here").seconds == pytest.approx(job.reckoned_s, rel=0.03)
    assert bytes_for(item, "final") > bytes_for(item, "proof")
    assert about(Expected(20 * 60, True), 12e6) == "about 20 min, 12 MB"
    assert about(Expected(3.2, True), 4000) == "about 3 s, 4 kB"
    assert about(Expected(3 * 3600, False), 4e9) == "1.5 to 6.0 h, 4000 MB"
    for damaged in ("[1, 2", "[[1, 2]]", '[["row materials proof", "x", "nan", 0, 1e99]]', "{}"):
        (tmp_path / "measured.json").write_text(damaged)
        assert known_paces().measured == []


def test_small_pictures_say_little_of_large_ones() -> None:
    """Quarter-size tests must not make the estimate of the whole list absurd."""
    small, large = (Job("row materials proof", 1, pixels) for pixels in (160 * 90, 1920 * 1080))
    paces = Paces()
    for _ in range(20):
        paces = paces.with_measured(small, 4.0 * small.reckoned_s, "")
    assert paces.expected(small).seconds == pytest.approx(4.0 * small.reckoned_s, rel=0.02)
    assert paces.expected(large).seconds < 1.6 * large.reckoned_s and not paces.expected(large).sure
    # One that took a thousand times as long, because the machine slept, is not believed.
    slept = paces.with_measured(small, 1000.0 * small.reckoned_s, "")
    assert slept.expected(small).seconds < 6.0 * small.reckoned_s
    # A machine of another speed is learnt by large and small pictures each by itself.
    for _ in range(30):
        for job, times in ((small, 0.5), (large, 0.1)):
            paces = paces.with_measured(job, times * job.reckoned_s, "")
    assert paces.expected(small).seconds == pytest.approx(0.5 * small.reckoned_s, rel=0.1)
    assert paces.expected(large).seconds == pytest.approx(0.1 * large.reckoned_s, rel=0.1)


def test_films_of_a_few_frames_say_little_of_long_ones(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What begins a film (its first shadows, the encoder) makes each of ten frames slow, and none of a
    thousand."""
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path))
    few, many = (Job("frame materials proof", frames, frames * 160 * 90) for frames in (8, 1000))
    for _ in range(12):
        learn(few, 5.0 * few.reckoned_s)
    assert known_paces().expected(few).seconds == pytest.approx(5.0 * few.reckoned_s, rel=0.05)
    assert known_paces().expected(many).seconds < 2.0 * many.reckoned_s
    assert not known_paces().expected(many).sure
    learn(many, 0.7 * many.reckoned_s)
    learn(many, 0.7 * many.reckoned_s)
    assert known_paces().expected(many).seconds < 1.1 * many.reckoned_s and known_paces().expected(many).sure
    # What an older Altana kept has no number of pictures; it is read, and counts as made of one.
    (tmp_path / "measured.json").write_text('[["row materials proof", "x", 12.0, 0.0, 2.0]]')
    (old,) = known_paces().measured
    assert (old.times, old.long) == (2.0, 0.0)


def test_a_check_says_what_differs() -> None:
    check = FilmCheck(12, 1.0, "12", 96, 54, ((0, 1.0),), ("It lasts 1.00 s, not 2.00.",))
    assert check.sentence == "Differs: It lasts 1.00 s, not 2.00."
    assert check.facts()["differs"] == ["It lasts 1.00 s, not 2.00."]


@pytest.mark.slow
@pytest.mark.parametrize("kills", [1, 10])
def test_killed_again_and_again_the_film_is_the_same(demo_copy: Path, tmp_path: Path, kills: int) -> None:
    project = read_project(demo_copy)
    walk: Walk = replace(project.walks[0], seconds=float(kills), rate="12", width_px=96, height_px=54)
    write_project(demo_copy, replace(project, walks=(walk,)))

    def command(out: Path, job: Path, *more: str) -> list[str]:
        ask = [
            sys.executable,
            "-m",
            "altana",
            "render",
            str(demo_copy),
            "--all-walks",
            "--quality",
            "proof",
            "--json",
        ]
        return [*ask, "--out", str(out), "--job", str(job), *more]

    whole = subprocess.run(
        command(tmp_path / "whole", tmp_path / "j0"), capture_output=True, text=True, timeout=600
    )
    assert whole.returncode == 0, whole.stderr
    out, job = tmp_path / "out", tmp_path / "job"
    rng = random.Random(11)
    killed = 0
    for _ in range(kills):
        child = subprocess.Popen(
            command(out, job, "--resume"), stdout=subprocess.PIPE, stderr=subprocess.PIPE
        )
        wanted, since = len(list(job.glob(".frames-*/*.png"))) + rng.randint(2, 8), time.monotonic()
        while (
            len(list(job.glob(".frames-*/*.png"))) < wanted
            and child.poll() is None
            and time.monotonic() - since < 300
        ):
            time.sleep(0.003)
        time.sleep(rng.uniform(0.0, 0.06))
        killed += child.poll() is None
        child.kill()
        child.communicate(timeout=600)
        assert all(path.suffix == ".mp4" for path in out.glob("[!.]*"))
    assert killed == kills
    last = subprocess.run(command(out, job, "--resume"), capture_output=True, text=True, timeout=600)
    assert last.returncode == 0, last.stderr
    (one,), (two,) = list((tmp_path / "whole").glob("*.mp4")), list(out.glob("*.mp4"))
    assert film_facts(two).frames == 12 * kills
    assert film_facts(two).rate == Fraction(12)
    assert one.read_bytes() == two.read_bytes()
    assert not list(out.glob(".*"))
    assert json.loads(last.stdout)["checks"][two.name]["differs"] == []
