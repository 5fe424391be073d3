"""Stills and panoramas of review are drawn in the light of the very places they show."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from altana.core.conventions import Floats32
from altana.core.edits.cameras import add_camera
from altana.core.edits.shots import set_making, start_values
from altana.core.errors import Refused
from altana.core.light.transport import Cancelled
from altana.core.progress import Progress
from altana.core.project import LINES, PANORAMA, STILL, Camera, Light, Project
from altana.core.staging import Lookup
from altana.jobs.children import pictures as pictures_module
from altana.jobs.children.pictures import REFINING, PicturesWorker
from altana.jobs.estimates import NOT_SKY, job_of
from altana.jobs.light import known_light, light_of
from altana.jobs.models import Opened
from altana.jobs.orders import DrawFinished, OpenModels
from altana.jobs.picture import PictureWork
from altana.jobs.requests import Pano, Picture
from altana.jobs.rows.shared import Rows
from altana.jobs.service import Task
from altana.render.encode import exr_light
from altana.render.panorama import light_places
from altana.render.quality import MOST_PLACES, rays_of
from altana.render.renderer import Renderer
from tests.jobs.sheds import NOON, shed_of
from tests.jobs.test_drawn_before import FakeDesk

SIZE = 96, 64


@pytest.fixture
def shed(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Opened:
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path))
    monkeypatch.setenv("ALTANA_LIGHT_POINTS", "1000")
    monkeypatch.setenv("ALTANA_PIXEL_LIGHT", "1")
    return shed_of(tmp_path)


@pytest.fixture
def project() -> Project:
    camera = Camera("", "Shelves", (2.0, 0.4, 1.5), 0.0, focal_mm=20.0, width_px=SIZE[0], height_px=SIZE[1])
    shown, _ = add_camera(Project(light=NOON), replace(camera, inside=True))
    return set_making(shown, "review", replace(shown.qualities.review, light_rays=16))


@pytest.fixture
def work(shed: Opened, project: Project) -> Iterator[PictureWork]:
    made = work_of(shed, project)
    yield made
    made.close()
    made.rows.renderer.close()


def work_of(shed: Opened, project: Project) -> PictureWork:
    soft = known_light(shed, NOON)
    return PictureWork(Rows(project, shed, Lookup(shed.model), Renderer(shed.model, soft), shed.base, soft))


def still(project: Project, **values: object) -> Picture:
    shot = replace(start_values(project, STILL, project.cameras[0].id), **{"quality": "review", **values})
    return Picture(shot, project.cameras[0], *SIZE, "")


def yes(_share: float) -> bool:
    return True


def test_review_has_the_light_of_its_places_and_proof_that_of_the_map(
    work: PictureWork, project: Project
) -> None:
    told: list[float] = []

    def tell(share: float) -> bool:
        told.append(share)
        return True

    item = still(project)
    review = work.stills.master(item, tell).light
    assert told == sorted(told) and told[0] < 0.1 and told[-1] == 1.0
    assert any(0.1 < share < 0.8 for share in told)
    assert work.rows.renderer.pixel_light.uniforms() == {}
    # Looked at before its light is found: that of the map, as a proof has it.
    work.rows.hurried = True
    hurried, proof = (
        work.stills.master(one, yes).light.mean(axis=2) for one in (item, still(project, quality="proof"))
    )
    assert np.abs(hurried / proof - 1.0).mean() < 0.01
    other = review.mean(axis=2) / hurried
    assert np.abs(other - 1.0).mean() > 0.02 and np.median(other) == pytest.approx(1.0, abs=0.12)


def test_made_again_it_is_the_same_kept_or_not(
    shed: Opened, work: PictureWork, project: Project, tmp_path: Path
) -> None:
    item = still(project)
    assert not work.places.known(item)
    first = work.stills.master(item, yes).light
    assert work.places.known(item) and not work.rows.other_samples
    other = work_of(shed, project)
    assert other.places.known(item)
    assert np.array_equal(other.stills.master(item, yes).light, first)
    # How long it took says nothing of one whose light is not known.
    assert other.rows.other_samples
    for file in (tmp_path / "pixels").iterdir():
        file.unlink()
    again = work_of(shed, project)
    assert np.array_equal(again.stills.master(item, yes).light, first)
    tile, _ = again.stills.tile(item, 0, yes)
    assert np.allclose(tile, first, rtol=1e-3, atol=1e-3)
    for made in (other, again):
        made.close()
        made.rows.renderer.close()


def test_a_row_of_another_hour_has_the_light_of_that_hour(
    shed: Opened, work: PictureWork, project: Project
) -> None:
    evening = still(project, hour=19.0)
    light = work.stills.master(evening, yes).light
    noon = work.stills.master(still(project), yes).light
    assert light.mean() < 0.8 * noon.mean()
    # What only its light map says is told by a work that begins with that light.
    later = replace(project, light=Light(hour=19.0))
    soft = light_of(shed, later.light)
    alone = PictureWork(Rows(later, shed, Lookup(shed.model), Renderer(shed.model, soft), shed.base, soft))
    assert np.array_equal(alone.stills.master(still(later), yes).light, light)
    alone.rows.renderer.close()


def test_broken_off_nothing_is_kept(work: PictureWork, project: Project) -> None:
    work.rows.project = project = set_making(
        project, "review", replace(project.qualities.review, light_rays=56)
    )
    assert work.places.rounds_of(still(project)) == 7
    with pytest.raises(Cancelled):
        work.stills.master(still(project), lambda share: share < 0.3)
    assert not work.places.known(still(project))
    assert work.rows.renderer.pixel_light.uniforms() == {}


def test_drawings_and_slow_machines_do_without(
    work: PictureWork, project: Project, monkeypatch: pytest.MonkeyPatch
) -> None:
    places = work.places
    assert places.rounds_of(still(project)) > 0
    assert (
        places.rounds_of(still(project, rendition=LINES))
        == places.rounds_of(still(project, quality="proof"))
        == 0
    )
    reckoned = job_of(still(project), "review", project.qualities)
    assert reckoned.light_rays == pytest.approx(SIZE[0] * SIZE[1] * rays_of(16, SIZE[0] * SIZE[1]), abs=1)
    drawn = job_of(still(project, rendition=LINES), "review", project.qualities)
    assert drawn.light_rays == 0 and reckoned.reckoned_s > drawn.reckoned_s
    # A model too large for a light map, or one whose light is not known yet.
    soft, work.rows.soft = work.rows.soft, None
    assert places.rounds_of(still(project)) == 0 and places.known(still(project))
    work.rows.soft = soft
    assert places.rounds_of(still(project)) > 0 and not places.known(still(project))
    monkeypatch.setenv("ALTANA_PIXEL_LIGHT", "0")
    assert places.rounds_of(still(project)) == 0
    assert job_of(still(project), "review", project.qualities).light_rays == 0


def test_small_pictures_get_more_rays_a_place() -> None:
    assert rays_of(32, MOST_PLACES) == rays_of(32, 10 * MOST_PLACES) == 32.0
    assert rays_of(32, MOST_PLACES * 2 // 3) == 48.0
    assert rays_of(32, MOST_PLACES // 8) == rays_of(32, 0) == 64.0
    assert rays_of(0, 100) == 0.0


def test_so_many_rays_and_no_more(project: Project) -> None:
    for rays in (-1, 1025):
        with pytest.raises(Refused, match="0 to 1024"):
            set_making(project, "review", replace(project.qualities.review, light_rays=rays))


def test_as_it_will_be_made_is_seen_before_its_light_is_found(
    shed: Opened, project: Project, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(pictures_module, "open_project_models", lambda project, path: shed)

    class Desk(FakeDesk):
        def __init__(self) -> None:
            super().__init__()
            self.notes: list[str] = []

        def picture(self, task: Task, pixels: np.ndarray, note: str) -> None:
            super().picture(task, pixels, note)
            self.notes.append(note)

    desk = Desk()
    worker = PicturesWorker(desk)  # type: ignore[arg-type]
    worker(Task("models", 0, 0, OpenModels(project, str(tmp_path / "p.altana"))))
    order = DrawFinished(still(project), project, str(tmp_path))
    worker(Task("made", 1, 2, order))
    assert desk.notes == [f"review|{REFINING}", "review|"]
    assert (desk.pictures[0] != desk.pictures[1]).any()
    # What is known is shown at once.
    worker(Task("made", 2, 2, order))
    assert desk.notes[2:] == ["review|"] and np.array_equal(desk.pictures[1], desk.pictures[2])
    assert worker._stage is not None
    worker._stage.renderer.close()


def panorama(project: Project, **values: object) -> Pano:
    shot = replace(start_values(project, PANORAMA, project.cameras[0].id), **{"quality": "review", **values})
    return Pano(shot, project.cameras[0], 128, 64, "")


def round_of(work: PictureWork, item: Pano, told: Progress = yes) -> Floats32:
    _, _, master = work.panoramas.panorama(item, told)
    assert master is not None
    path = work.rows.base / "round.exr"
    path.write_bytes(master)
    return exr_light(path)


def test_panoramas_of_review_have_the_light_of_their_places(work: PictureWork, project: Project) -> None:
    told: list[float] = []

    def tell(share: float) -> bool:
        told.append(share)
        return True

    item = panorama(project)
    assert not work.places.known(item)
    review = round_of(work, item, tell)
    assert work.places.known(item) and told == sorted(told) and told[-1] <= 1.0
    assert any(0.1 < share < 0.7 for share in told)
    assert work.rows.renderer.pixel_light.uniforms() == {}
    assert np.array_equal(round_of(work, item), review)
    # A row made face by face on other machines has the same.
    alone = work_of(work.rows.opened, project)
    face = alone.panoramas.face(item, "left", yes)
    assert np.array_equal(face, work.panoramas.face(item, "left", yes))
    alone.close()
    alone.rows.renderer.close()
    work.rows.hurried = True
    hurried, proof = (round_of(work, one).mean(axis=2) for one in (item, panorama(project, quality="proof")))
    assert np.abs(hurried / proof - 1.0).mean() < 0.02
    other = review.mean(axis=2) / hurried
    assert np.abs(other - 1.0).mean() > 0.02 and np.median(other) == pytest.approx(1.0, abs=0.12)


def test_panoramas_for_two_eyes_have_the_light_of_the_map(work: PictureWork, project: Project) -> None:
    assert work.places.rounds_of(panorama(project)) == work.places.rounds_of(still(project)) == 2
    assert work.places.rounds_of(panorama(project, stereo_m=0.064)) == 0
    reckoned = job_of(panorama(project), "review", project.qualities).light_rays
    assert reckoned == round(NOT_SKY * light_places(128) * 32)
    assert job_of(panorama(project, stereo_m=0.064), "review", project.qualities).light_rays == 0


def test_a_panorama_broken_off_leaves_the_light_of_whole_faces(work: PictureWork, project: Project) -> None:
    item = panorama(project)
    with pytest.raises(Cancelled):
        work.panoramas.panorama(item, lambda share: share < 0.4)
    assert not work.places.known(item) and work.rows.renderer.pixel_light.uniforms() == {}
    # Those that were done are not looked for again.
    again: list[float] = []
    work.places.find(item, lambda share: again.append(share) is None)
    assert work.places.known(item) and again[0] > 0.3
