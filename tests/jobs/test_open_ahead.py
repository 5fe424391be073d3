"""A project that is about to be opened: its models are ready when the window asks, and only where they were
read before."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest

from altana.core.project import Project
from altana.core.staging import WHOLE
from altana.jobs import models
from altana.jobs.children.pictures import PicturesWorker
from altana.jobs.models import are_kept
from altana.jobs.orders import DrawPicture, ModelsOpened, OpenAhead, OpenModels
from altana.jobs.service import Task
from altana.render.renderer import Renderer
from altana.storage.project_file import read_project, write_project
from tests.jobs.test_drawn_before import FakeDesk


@pytest.fixture
def shown(monkeypatch: pytest.MonkeyPatch) -> list[int]:
    """How many triangles each model had that was put before the renderer."""
    counted: list[int] = []
    plain = Renderer.show

    def show(self: Renderer, model: object, light: object = None) -> None:
        counted.append(len(model.faces))  # type: ignore[attr-defined]
        plain(self, model, light)  # type: ignore[arg-type]

    monkeypatch.setattr(Renderer, "show", show)
    return counted


@pytest.fixture
def worker() -> Iterator[PicturesWorker]:
    pictures_worker = PicturesWorker(FakeDesk())  # type: ignore[arg-type]
    yield pictures_worker
    if pictures_worker._stage is not None:
        pictures_worker._stage.renderer.close()


def asked(worker: PicturesWorker, project: Project, path: Path) -> list[object]:
    """What comes back when the window asks for the models."""
    desk = worker._desk
    assert isinstance(desk, FakeDesk)
    worker(Task("models", 1, -10, OpenModels(replace(project, cameras=(), walks=(), planned=()), str(path))))
    return desk.answers


def test_what_is_ready_is_not_made_again(
    worker: PicturesWorker, shown: list[int], demo_copy: Path, demo_project: Project
) -> None:
    worker(Task("ahead", 0, -20, OpenAhead(str(demo_copy))))
    desk, stage = worker._desk, worker._stage
    assert isinstance(desk, FakeDesk) and stage is not None
    # Nobody asked yet, so nothing is answered and no picture is sent; but one was drawn.
    assert (desk.answers, desk.pictures) == ([], []) and stage.renderer.views_drawn > 0
    renderer = stage.renderer
    (answer,) = asked(worker, demo_project, demo_copy)
    assert isinstance(answer, ModelsOpened) and worker._stage is not None
    assert worker._stage.renderer is renderer and shown == []
    camera = demo_project.cameras[0]
    order = DrawPicture("full", camera.view(96, 54), demo_project.light, camera.ev, camera.inside, WHOLE)
    worker(Task("frame", 2, 0, order))
    assert len(desk.pictures) == 1
    # Asked again, as after a model was reloaded, everything is put up anew.
    asked(worker, demo_project, demo_copy)
    assert len(shown) == 1


def test_another_model_than_was_foreseen_is_shown(
    worker: PicturesWorker, shown: list[int], demo_copy: Path, demo_project: Project
) -> None:
    worker(Task("ahead", 0, -20, OpenAhead(str(demo_copy))))
    moved = replace(demo_project.models[0], move=(5.0, 0.0, 0.0))
    asked(worker, replace(demo_project, models=(moved, *demo_project.models[1:])), demo_copy)
    assert len(shown) == 1


def test_models_that_were_never_read_are_left_to_the_window(
    worker: PicturesWorker, demo_copy: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert are_kept(read_project(demo_copy), demo_copy)
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path / "empty"))
    assert not are_kept(read_project(demo_copy), demo_copy)
    read: list[str] = []
    monkeypatch.setattr(models, "read_in_child", lambda *told: read.append(str(told)))
    worker(Task("ahead", 0, -20, OpenAhead(str(demo_copy))))
    assert read == [] and worker._stage is None


def test_what_cannot_be_opened_is_said_by_the_window_alone(
    worker: PicturesWorker, demo_copy: Path, demo_files: Path, tmp_path: Path
) -> None:
    desk = worker._desk
    assert isinstance(desk, FakeDesk)
    damaged, gone = tmp_path / "damaged.altana", tmp_path / "gone.altana"
    damaged.write_text('{"models": [')
    lost = tmp_path / "lost" / "lost.altana"
    lost.parent.mkdir()
    write_project(lost, read_project(demo_copy), passing=True)
    shutil.copyfile(demo_files / "larkwater.glb", tmp_path / "model.glb")
    for path in (damaged, gone, lost, tmp_path / "model.glb", tmp_path):
        worker(Task("ahead", 0, -20, OpenAhead(str(path))))
    assert worker._stage is None and desk.answers == []
