"""Going there: to a desk, a camera, a walk, a room, a storey, an object; and everything that search can
find."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QStackedWidget

from altana.app.compose.desk import ComposeDesk
from altana.app.hand_over.desk import RESULTS, HandOverDesk
from altana.app.model.desk import ModelDesk
from altana.app.shell.commands.table import CommandTable
from altana.app.shell.search import Entry, plain
from altana.app.shell.top_bar import COMPOSE, HAND_OVER, MODEL, WALK
from altana.app.theme.words import tr
from altana.app.walk.desk import WalkDesk
from altana.app.workspace.workspace import Workspace
from altana.core.errors import UserError
from altana.core.model import Storey
from altana.core.targets import view_of
from altana.core.walk.stair import STAIR
from altana.jobs.remembered import remembered


class Going:
    """shown : marks a desk as the one in sight."""

    def __init__(
        self,
        workspace: Workspace,
        desks: QStackedWidget,
        compose: ComposeDesk,
        model: ModelDesk,
        walk: WalkDesk,
        hand_over: HandOverDesk,
        shown: Callable[[int], object],
    ) -> None:
        self._workspace, self._desks, self._shown = workspace, desks, shown
        self._compose, self._model, self._walk, self._hand_over = compose, model, walk, hand_over

    @property
    def desk(self) -> int:
        """The desk in sight."""
        return self._desks.currentIndex()

    def choose_desk(self, index: int) -> None:
        """Go to a desk."""
        self._desks.setCurrentIndex(index)
        self._shown(index)

    def to_results(self, path: Path | None = None) -> None:
        """To what was made, and to one file of it."""
        self.choose_desk(HAND_OVER)
        self._hand_over.choose_page(RESULTS)
        if path is not None:
            self._hand_over.results.files.choose(path)

    def to_made_in(self, folder: Path) -> None:
        """To the newest file of a folder among the results, as soon as it is listed."""
        self.to_results()
        self._hand_over.results.files.seek(folder)

    def to_camera(self, camera_id: str) -> None:
        """To a camera on Compose."""
        self.choose_desk(COMPOSE)
        self._workspace.state.select(camera_id)
        # Its keys move the camera.
        self._compose.frame.setFocus()

    def next_camera(self, step: int) -> None:
        """The next (1) or last (-1) camera of the strip."""
        ids, active = self._compose.strip.ids(), self._workspace.state.active_id
        if ids:
            index = ids.index(active) + step if active in ids else 0
            self._workspace.state.select(ids[index % len(ids)])

    def to_planned(self, shot_id: str) -> None:
        """To Compose, where the next press stands a camera for a planned shot."""
        self.choose_desk(COMPOSE)
        self._compose.arm(True, shot_id)

    def to_walk(self, walk_id: str) -> None:
        """To a walk on Walk."""
        self.choose_desk(WALK)
        self._workspace.state.choose_walk(walk_id)

    def up_stair(self, object_id: str) -> None:
        """Begin a walk up a stair."""
        self._workspace.state.choose_object(object_id)
        self.choose_desk(WALK)
        self._walk.walks.add_stair()

    def look_all_along(self, object_id: str) -> None:
        """The walk that is shown looks at an object from beginning to end."""
        self._workspace.state.choose_object(object_id)
        self.choose_desk(WALK)
        self._walk.settings.looking.all_along_object()

    def to_room(self, room_id: str) -> None:
        """A room in sight on the plan of Compose."""
        scene = self._workspace.studio.scene
        room = (
            next((item for item in scene.model.rooms if item.id == room_id), None)
            if scene is not None
            else None
        )
        if scene is None or room is None:
            return
        self.choose_desk(COMPOSE)
        self._compose.plan.choose_storey(
            scene.model.storey(room.storey_id) or scene.model.storey_below(room.floor_m)
        )
        self._compose.plan.fit_to(room.outline)

    def to_storey(self, storey: Storey) -> None:
        """A storey on the plan of Compose."""
        self.choose_desk(COMPOSE)
        self._compose.plan.choose_storey(storey)

    def to_object(self, object_id: str) -> None:
        """An object in the list of Model."""
        self.choose_desk(MODEL)
        self._model.go_to(object_id)

    def to_chosen_object(self) -> None:
        """Look at the chosen object: on the Model desk there, elsewhere in the loose view."""
        space = self._workspace
        scene, chosen = space.studio.scene, space.state.object_id
        number = scene.lookup.index.get(chosen) if scene is not None else None
        if scene is None or number is None:
            space.notices.note(
                tr("Choose an object first: press on it in the Frame, or in the list of the Model desk.")
            )
        elif self.desk == MODEL:
            self._model.go_to(chosen)
        else:
            space.state.note_view()
            space.state.look(view_of(scene.model, scene.rays, number))

    def to_active_on_plan(self) -> None:
        """Change storey and move the sheet so that the camera is in sight."""
        camera, scene = self._workspace.state.active, self._workspace.studio.scene
        if camera is not None and scene is not None:
            self._compose.plan.choose_storey(scene.model.storey_of_eye(camera.eye))
            self._compose.plan.centre_on(camera)

    def to_picture(self, path: Path) -> bool:
        """Go to exactly the framing of a picture that Altana made: its camera, or a loose view where that
        stands otherwise now."""
        space = self._workspace
        try:
            camera = remembered(path).camera
        except UserError as error:
            space.notices.trouble(error.sentence)
            return False
        self.choose_desk(COMPOSE)
        match = space.bridge.project.camera(camera.id)
        if match is not None:
            space.state.select(match.id)
        if match is None or match.view() != camera.view():
            space.state.look(camera)
            space.notices.note(
                tr(
                    "This is how {camera} stood for {picture}. “Move camera here” puts it back.",
                    camera=camera.name,
                    picture=path.name,
                )
            )
        return True

    def entries(self, table: CommandTable, text: str = "") -> Iterable[Entry]:
        """Everything that search can find; what can be done with every object only where the text begins to
        ask for it."""
        project, scene = self._workspace.bridge.project, self._workspace.studio.scene
        for camera in project.cameras:
            yield Entry(camera.name, "camera", partial(self.to_camera, camera.id))
            if camera.intent:
                yield Entry(f"{camera.intent} ({camera.name})", "intent", partial(self.to_camera, camera.id))
        for shot in project.planned:
            yield Entry(shot.intent, tr("planned shot"), partial(self.to_planned, shot.id))
        for walk in project.walks:
            yield Entry(walk.name, "walk", partial(self.to_walk, walk.id))
        for command in table:
            yield Entry(command.title, "action", command.run, command.also)
        if scene is None:
            return
        for room in scene.model.rooms:
            yield Entry(room.name, "room", partial(self.to_room, room.id))
            yield Entry(
                tr("Stand in {name}", name=room.name), "room", partial(self._model.room_group.stand_in, room)
            )
        for storey in scene.model.storeys:
            yield Entry(storey.name, "storey", partial(self.to_storey, storey))
        looking = project.walks and _asks(text, tr("Look at {name}, all along the walk"))
        for item in scene.model.objects:
            yield Entry(item.name, item.category, partial(self.to_object, item.id))
            if item.category == STAIR:
                yield Entry(tr("Walk up {name}", name=item.name), "walk", partial(self.up_stair, item.id))
            if looking:
                words = tr("Look at {name}, all along the walk", name=item.name)
                yield Entry(words, "walk", partial(self.look_all_along, item.id))


def _asks(text: str, sentence: str) -> bool:
    """Whether a text begins as a sentence does: its first word and a second one, which tells of what."""
    words = plain(text).split()
    return len(words) > 1 and words[0] == plain(sentence).split()[0]
