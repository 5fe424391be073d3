"""Pictures drawn a moment ago: found again by all they depend on, let go when there are too many, forgotten
with their light."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest

from altana.core.project import Project
from altana.core.staging import WHOLE
from altana.jobs.children.pictures import PicturesWorker
from altana.jobs.drawn_before import DrawnBefore
from altana.jobs.orders import DrawPicture, ModelsOpened, OpenModels, ShowLight
from altana.jobs.service import Task


def picture(value: int) -> np.ndarray:
    return np.full((10, 10, 3), value, np.uint8)


def test_what_was_looked_at_longest_ago_goes_first() -> None:
    before = DrawnBefore(most_bytes=900)
    for value in range(3):
        before.keep(value, picture(value))
    assert before.find(0) is not None
    before.keep(3, picture(3))
    assert [before.find(value) is not None for value in range(4)] == [True, False, True, True]
    before.keep("large", np.zeros((40, 40, 3), np.uint8))
    assert before.find("large") is None and before.find(3) is not None
    # Kept twice it counts once.
    before.keep(3, picture(9))
    newest = before.find(3)
    assert newest is not None and newest[0, 0, 0] == 9 and before.find(0) is not None
    before.forget()
    assert all(before.find(value) is None for value in range(4))


class FakeDesk:
    """Takes answers instead of a pipe."""

    def __init__(self) -> None:
        self.pictures: list[np.ndarray] = []
        self.answers: list[object] = []

    def outdated(self, task: Task) -> bool:
        return False

    def picture(self, task: Task, pixels: np.ndarray, note: str) -> None:
        self.pictures.append(pixels.copy())

    def answer(self, task: Task, reply: object) -> None:
        self.answers.append(reply)

    def later(self, task: Task) -> None:
        raise AssertionError("nothing breaks it off")


@pytest.fixture(scope="module")
def worker(demo_files: Path, demo_project: Project) -> Iterator[PicturesWorker]:
    pictures_worker = PicturesWorker(FakeDesk())  # type: ignore[arg-type]
    pictures_worker(Task("models", 1, 0, OpenModels(demo_project, str(demo_files / "larkwater.altana"))))
    yield pictures_worker
    assert pictures_worker._stage is not None
    pictures_worker._stage.renderer.close()


def desk_of(worker: PicturesWorker) -> FakeDesk:
    desk = worker._desk
    assert isinstance(desk, FakeDesk)
    return desk


@pytest.mark.slow
def test_going_back_draws_nothing_and_shows_the_same(worker: PicturesWorker, demo_project: Project) -> None:
    desk = desk_of(worker)
    assert isinstance(desk.answers[0], ModelsOpened) and worker._stage is not None
    renderer, light = worker._stage.renderer, demo_project.light
    one, other = (
        DrawPicture("full", camera.view(96, 54), light, camera.ev, camera.inside, WHOLE)
        for camera in demo_project.cameras[:2]
    )
    drawn = renderer.views_drawn
    for number, order in enumerate((one, other, one)):
        worker(Task("frame", 2 + number, 0, order))
    assert renderer.views_drawn - drawn == 2
    assert (desk.pictures[-1] == desk.pictures[-3]).all()
    assert (desk.pictures[-2] != desk.pictures[-1]).any()
    # While something is dragged no picture comes back, so none is kept.
    coarse = DrawPicture("coarse", one.view, light, one.ev, one.inside, WHOLE)
    drawn = renderer.views_drawn
    for _ in range(2):
        worker(Task("frame", 9, 0, coarse))
    assert renderer.views_drawn - drawn == 2
    # Another soft light: nothing of before is shown.
    worker(Task("light", 10, 0, ShowLight(light, worker._stage.lit, (light,))))
    drawn = renderer.views_drawn
    worker(Task("frame", 11, 0, one))
    assert renderer.views_drawn - drawn == 1
