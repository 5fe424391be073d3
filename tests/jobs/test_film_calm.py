"""Films of traced frames, as a whole: each is followed once, calmed by its neighbours, and kept where the
work is broken off.

What follows the light is stood in for by the quick renderer with grain of its own for every seed.
"""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from scipy.ndimage import gaussian_filter

from altana.core.conventions import Floats32
from altana.core.light.transport import Cancelled
from altana.core.progress import Progress
from altana.core.project import Light, Project, Shot
from altana.core.staging import Staging
from altana.jobs.film_files import raw_path
from altana.jobs.models import Opened
from altana.jobs.requests import Film, Part, request_for
from altana.jobs.rows.shared import Rows
from altana.jobs.rows.traced import TracedRows
from altana.jobs.run import Run
from altana.jobs.surroundings import sky_for
from altana.render.encode import Stamp, exr_light
from altana.render.outputs import Master
from altana.render.quality import Quality
from altana.render.traced.sights import FlatSights

#: Share of its light that grain adds to or takes from a pixel.
GRAIN = 0.05


class Lots:
    """Stands in for the path tracer; ``followed`` : which views, in order."""

    def __init__(self, patch: pytest.MonkeyPatch) -> None:
        self.followed: list[FlatSights] = []
        #: After so many frames somebody wants no more.
        self.patience = 10_000
        #: Added to every seed: another run with other lots.
        self.others = 0
        lots = self

        def trace_light(
            self: TracedRows,
            sights: FlatSights,
            shot: Shot,
            light: Light,
            staging: Staging,
            ev: float,
            samples: int,
            told: Progress,
            seed: int = 1,
        ) -> Master:
            if len(lots.followed) >= lots.patience or not told(0.0):
                raise Cancelled
            lots.followed.append(sights)
            return Master(lots.light(self.rows, sights, light, staging, ev, seed))

        patch.setattr(TracedRows, "traced", lambda self, shot, film=False: True)
        patch.setattr(TracedRows, "trace_light", trace_light)

    def light(
        self, rows: Rows, sights: FlatSights, light: Light, staging: Staging, ev: float, seed: int
    ) -> Floats32:
        master = rows.renderer.master(
            sights.view, sky_for(light, rows.base), Quality(passes=1), ev < 12.5, None, staging, ev
        )
        assert master is not None
        drawn = np.random.default_rng(seed + self.others)
        patches = gaussian_filter(drawn.normal(0.0, 1.0, master.light.shape[:2]), 2.0)
        grainy: Floats32 = master.light * (1.0 + GRAIN * patches / patches.std())[..., None].astype(
            np.float32
        )
        return grainy


@pytest.fixture
def lots(monkeypatch: pytest.MonkeyPatch) -> Lots:
    return Lots(monkeypatch)


@pytest.fixture(scope="module")
def short(demo_project: Project) -> Project:
    """The demo with a walk of eight film frames."""
    walk = replace(demo_project.walks[0], seconds=24.0, rate="24", width_px=160, height_px=90)
    return replace(demo_project, walks=(walk,))


EIGHT = Part(10.0, 10.0 + 8 / 24, keep_frames=True)


def run_of(project: Project, opened: Opened, out: Path, container: str = "mp4", part: Part = EIGHT) -> Run:
    request = request_for(
        project, (), project.walks, None, None, "final", "png", container=container, part=part
    )
    run = Run(request, opened, out, resume=True)
    run.go()
    return run


def frames_of(out: Path) -> list[np.ndarray]:
    frames = []
    for path in sorted(out.glob("*-frames/*.png")):
        with Image.open(path) as image:
            frames.append(np.asarray(image.convert("RGB"), float))
    return frames


@pytest.mark.slow
def test_frames_of_two_seeds_are_nearer_than_what_is_followed(
    short: Project, demo_opened: Opened, tmp_path: Path, lots: Lots, monkeypatch: pytest.MonkeyPatch
) -> None:
    one = run_of(short, demo_opened, tmp_path / "one")
    assert len(lots.followed) == 8
    assert {check.differs for check in one.checks.values()} == {()}
    lots.others = 77
    run_of(short, demo_opened, tmp_path / "two")
    calm = [np.abs(a - b).mean() for a, b in zip(frames_of(tmp_path / "one"), frames_of(tmp_path / "two"), strict=True)]  # fmt: skip
    monkeypatch.setattr("altana.jobs.film_calm.REACH", 0)
    run_of(short, demo_opened, tmp_path / "bare")
    lots.others = 0
    run_of(short, demo_opened, tmp_path / "bare-too")
    bare = [np.abs(a - b).mean() for a, b in zip(frames_of(tmp_path / "bare"), frames_of(tmp_path / "bare-too"), strict=True)]  # fmt: skip
    assert np.mean(calm) < 0.55 * np.mean(bare)


@pytest.mark.slow
def test_a_film_broken_off_goes_on_with_what_was_followed(
    short: Project, demo_opened: Opened, tmp_path: Path, lots: Lots
) -> None:
    run_of(short, demo_opened, tmp_path / "whole")
    lots.followed.clear()
    lots.patience = 6
    with pytest.raises(Cancelled):
        run_of(short, demo_opened, tmp_path / "broken")
    assert not list((tmp_path / "broken").glob("*.mp4"))
    lots.patience = 10_000
    run = run_of(short, demo_opened, tmp_path / "broken")
    assert len(lots.followed) == 8
    (film,) = (path for path in run.written if path.suffix == ".mp4")
    assert film.read_bytes() == (tmp_path / "whole" / film.name).read_bytes()
    assert not list((tmp_path / "broken").rglob("*.raw.png"))


def test_a_pause_is_followed_once_and_all_its_frames_are_the_same(
    short: Project, demo_opened: Opened, tmp_path: Path, lots: Lots
) -> None:
    walk = short.walks[0]
    paused = replace(walk, keys=(replace(walk.keys[0], dwell_s=1.0), *walk.keys[1:]))
    run_of(
        replace(short, walks=(paused,)),
        demo_opened,
        tmp_path,
        part=Part(0.5, 0.5 + 16 / 24, keep_frames=True),
    )
    frames = frames_of(tmp_path)
    views = [sights.view for sights in lots.followed]
    assert len(views) == len(set(views)) < 10 and len(frames) == 16
    still = 16 - len(views) + 1
    assert all(np.array_equal(frames[0], frame) for frame in frames[:still])
    assert not np.array_equal(frames[0], frames[still])


@pytest.mark.slow
@pytest.mark.parametrize("kind", ["png-frames", pytest.param("exr-frames", marks=pytest.mark.slow)])
def test_folders_of_frames_are_calmed_too(
    short: Project,
    demo_opened: Opened,
    tmp_path: Path,
    lots: Lots,
    monkeypatch: pytest.MonkeyPatch,
    kind: str,
) -> None:
    part = Part(10.0, 10.0 + 8 / 24, stamp=Stamp(("frame",)))
    means = []
    for reach in (3, 0):
        monkeypatch.setattr("altana.jobs.film_calm.REACH", reach)
        frames = []
        for others in (0, 77):
            lots.others = others
            out = tmp_path / f"{reach}-{others}"
            run = run_of(short, demo_opened, out, kind, part)
            (folder,) = run.written
            assert run.checks[folder.name].differs == ()
            assert sorted(path.name for path in folder.iterdir()) == [
                f"{240 + n:06d}.{kind[:3]}" for n in range(8)
            ]
            path = folder / f"000244.{kind[:3]}"
            if kind == "exr-frames":
                frames.append(np.log(exr_light(path) + 1.0))
            else:
                with Image.open(path) as image:
                    frames.append(np.asarray(image.convert("RGB"), float))
        means.append(np.abs(frames[0] - frames[1]).mean())
    assert means[0] < 0.6 * means[1]


def test_raw_frames_have_names_of_their_own(demo_project: Project) -> None:
    walk = demo_project.walks[0]
    film = Film(walk, 96, 54, "24", "walk.mp4")
    assert raw_path(Path("f"), film, 7) == Path("f/000007.raw.png")
    assert raw_path(Path("f"), replace(film, container="exr-frames"), 7) == Path("f/000007.raw.exr")
