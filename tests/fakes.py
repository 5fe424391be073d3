"""Stand-ins for tests: children without processes, so that views are tested in milliseconds."""

from __future__ import annotations

from typing import TypeVar

import numpy as np
import numpy.typing as npt
from PySide6.QtCore import QObject, QTimer, Signal

from altana.app.workspace.scene import prepared
from altana.app.workspace.workspace import Workspace
from altana.core.model import Model
from altana.core.project import Project
from altana.jobs.orders import DrawPicture, Order, PictureDrawn
from altana.jobs.service import Answer, Task

Kind = TypeVar("Kind", bound=Order)


class FakeChild(QObject):
    """Remembers what it is asked for; pictures come at once, plain grey."""

    answered = Signal(object)
    restarted = Signal()
    given_up = Signal()

    def __init__(self, handler: str, name: str, pictures: bool = False, patience: int = 2) -> None:
        super().__init__()
        self.name = name
        self.tasks: list[Task] = []

    @property
    def service(self) -> FakeChild:
        return self

    def take_picture(self, drawn: PictureDrawn) -> npt.NDArray[np.uint8]:
        return np.full((drawn.height, drawn.width, 3), 128, np.uint8)

    def send(self, task: Task) -> None:
        self.tasks.append(task)
        order = task.order
        if isinstance(order, DrawPicture):
            reply = PictureDrawn(0, order.view.height_px, order.view.width_px, order.look)
            QTimer.singleShot(0, lambda: self.answered.emit(Answer(task.channel, task.revision, reply)))

    def send_again(self) -> None:
        """Nothing is ever lost."""

    def close(self) -> None:
        """There is no process to end."""

    def orders(self, kind: type[Kind], channel: str = "") -> list[Kind]:
        """What was asked for of a kind, on channels that begin so."""
        return [
            task.order
            for task in self.tasks
            if isinstance(task.order, kind) and task.channel.startswith(channel)
        ]


def workspace_with(project: Project, model: Model) -> Workspace:
    """A workspace in which a model is open, without any process."""
    space = Workspace.started(FakeChild)
    space.bridge.replace_document(project)
    space.studio.scene = prepared(model)
    space.state.select(project.cameras[0].id if project.cameras else "")
    space.studio.opened.emit()
    return space
