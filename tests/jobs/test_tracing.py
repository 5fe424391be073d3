"""The child that traces: what it makes once for many pictures."""

from __future__ import annotations

from dataclasses import replace
from multiprocessing import Pipe
from pathlib import Path

import numpy as np
import pytest

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.project import Light, ModelRef, Project
from altana.core.staging import WHOLE, Staging
from altana.jobs import tracing
from altana.jobs.orders import OpenModels
from altana.jobs.service import Desk, Task
from altana.jobs.traced_orders import Traced, TracePicture
from altana.jobs.tracing import TracingWorker
from altana.render.traced.engine import llvm_library
from altana.render.traced.scene import SceneMaker
from altana.render.traced.sights import FlatSights
from tests.conftest import box_between

pytestmark = pytest.mark.skipif(not llvm_library(), reason="LLVM 19 is not installed")


def test_from_hour_to_hour_the_scene_stays_and_from_staging_to_staging_the_vertices(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What a film whose sun moves asks for: pictures at two hours come from one scene, and are as from scenes
    of their own."""
    box_between((-1, 4, 0), (1, 6, 2)).export(tmp_path / "m.glb")
    project = Project("P", models=(ModelRef("model-01", "m.glb"),))
    scenes: list[object] = []
    receded: list[object] = []
    make, recede = SceneMaker.make, tracing.receded
    monkeypatch.setattr(SceneMaker, "make", lambda *told: scenes.append(told) or make(*told))
    monkeypatch.setattr(tracing, "receded", lambda model: receded.append(model) or recede(model))
    here, there = Pipe()

    def worker() -> TracingWorker:
        child = TracingWorker(Desk(there, None))
        child(Task("models", 1, 0, OpenModels(project, str(tmp_path / "p.altana"))))
        here.recv()
        return child

    def trace(child: TracingWorker, hour: float, staging: Staging = WHOLE) -> Traced:
        sights = FlatSights(View(Pose((0.0, 0.0, 1.6)), Lens(24), 32, 18))
        light = replace(Light(), hour=hour)
        child(Task("trace", 2, 0, TracePicture(sights, light, staging, 14.0, 2)))
        while True:
            reply = here.recv().reply
            if isinstance(reply, Traced):
                return reply

    child = worker()
    first, second = trace(child, 10.0), trace(child, 15.0)
    assert len(scenes) == 1 and not np.array_equal(first.light, second.light)
    assert np.array_equal(trace(worker(), 15.0).light, second.light)
    scenes.clear()
    receded.clear()
    # Without the box, another scene; its sun has set, another again.
    trace(child, 15.0, Staging(omitted=(0,)))
    trace(child, 1.0, Staging(omitted=(0,)))
    assert len(scenes) == 2 and not receded
