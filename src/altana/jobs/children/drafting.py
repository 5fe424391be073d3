"""The child that draws plans and sections, and looks at walks."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from altana.core.checks.survey import survey
from altana.core.geometry.drawing import Drafter
from altana.core.geometry.rays import RayScene
from altana.core.geometry.snapping import snap_grid
from altana.core.model import Model
from altana.core.picture_key import KNOWN
from altana.core.standing import standable
from altana.core.walk.checks import check_walk
from altana.core.walk.sample import resolve
from altana.core.walk.unrolled import unroll
from altana.jobs.models import open_project_models
from altana.jobs.orders import (
    CheckWalk,
    DrawPlan,
    DrawSection,
    ModelsOpened,
    OpenModels,
    PlanDrawn,
    RouteUnrolled,
    SectionDrawn,
    Survey,
    Surveyed,
    Unroll,
    WalkChecked,
)
from altana.jobs.service import Desk, Task, Work


@dataclass(frozen=True, slots=True)
class _Building:
    """What the plans' child has open."""

    model: Model
    drafter: Drafter


class DraftingWorker:
    """Draws plans and sections, and looks for what is wrong with the model and with walks."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._building: _Building | None = None
        #: Rays against everything, and against what one stands on; only walks need them.
        self._space: tuple[RayScene, RayScene] | None = None

    def __call__(self, task: Task) -> None:
        """Do one task."""
        if isinstance(task.order, OpenModels):
            model = open_project_models(task.order.project, Path(task.order.path)).model
            self._building, self._space = _Building(model, Drafter(model)), None
            self._desk.answer(task, ModelsOpened(KNOWN))
        elif self._building is not None:
            self._do(self._building, task)

    def _do(self, building: _Building, task: Task) -> None:
        match task.order:
            case Survey() as order:
                self._survey(building, task, order)
            case DrawPlan() as order:
                self._draw_plan(building, task, order)
            case DrawSection() as order:
                self._draw_section(building, task, order)
            case CheckWalk() as order:
                self._check_walk(building, task, order)
            case Unroll() as order:
                self._unroll(building, task, order)
            case order:
                raise TypeError(f"no such order: {type(order).__name__}")

    def _survey(self, building: _Building, task: Task, order: Survey) -> None:
        self._desk.answer(task, Surveyed(survey(building.model)))

    def _draw_plan(self, building: _Building, task: Task, order: DrawPlan) -> None:
        building.drafter.hide(order.hidden)
        drawing = building.drafter.plan(order.floor_m, order.cut_m)
        self._desk.answer(task, PlanDrawn(drawing, snap_grid(drawing.outlines)))

    def _draw_section(self, building: _Building, task: Task, order: DrawSection) -> None:
        building.drafter.hide(order.hidden)
        self._desk.answer(
            task, SectionDrawn(building.drafter.section(order.origin, order.heading_deg, order.quick))
        )

    def _rays(self, building: _Building) -> tuple[RayScene, RayScene]:
        if self._space is None:
            self._space = RayScene.of(building.model), standable(building.model)
        return self._space

    def _check_walk(self, building: _Building, task: Task, order: CheckWalk) -> None:
        rays, floors = self._rays(building)
        line = resolve(order.walk, floors)
        self._desk.answer(task, WalkChecked(line.walk, check_walk(line, rays, floors, order.limits)))

    def _unroll(self, building: _Building, task: Task, order: Unroll) -> None:
        rays, floors = self._rays(building)
        line = resolve(order.walk, floors)
        self._desk.answer(task, RouteUnrolled(line.walk, unroll(building.model, rays, floors, line.route)))


def drafting(desk: Desk) -> Work:
    """The child that draws plans and sections."""
    return DraftingWorker(desk)
