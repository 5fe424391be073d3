"""Where the chosen cameras stand: eye height, place, and the ways to stand by the building."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMenu, QSizePolicy

from altana.app.compose.fields import CameraFields, FieldSpec
from altana.app.theme.lengths import length
from altana.app.theme.widgets import Group, Segments, button, label, menu_button
from altana.app.theme.words import spoken, tr
from altana.app.workspace.workspace import Workspace
from altana.core.camera.bounds import place_of_sight
from altana.core.conventions import LOW_M, SEATED_M, STANDING_M
from altana.core.edits.cameras import tidy
from altana.core.edits.settings import kept_value
from altana.core.errors import Refused
from altana.core.project import Camera
from altana.core.standing import clearances, floor_under, mid_height, place_stood_in
from altana.core.standing_tools import TOOLS, back_to_wall
from altana.core.wall_rays import WallCaster

PRESETS = (
    (tr("Standing"), STANDING_M, tr("Eye 1.60 m above the floor under it")),
    (tr("Seated"), SEATED_M, tr("Eye 1.20 m above the floor under it")),
    (tr("Child"), LOW_M, tr("Eye 1.00 m above the floor under it")),
    (tr("Middle"), 0.0, tr("Eye in the middle of the room's height")),
)
BACK_TO_WALL = tr("Back to wall")


class StandpointGroup:
    """Eye above floor, place, free distance to the walls, and the ways to stand by them."""

    def __init__(self, workspace: Workspace, fields: CameraFields) -> None:
        self._edits, self._bridge, self._state, self._studio = (
            workspace.edits,
            workspace.bridge,
            workspace.state,
            workspace.studio,
        )
        self._fits = workspace.fits
        self.group = group = Group(tr("Standpoint"))
        self.presets = Segments([(name, tip) for name, _, tip in PRESETS])
        self.presets.chosen.connect(self.take_preset)
        group.add_wide(self.presets)
        tip = tr("Height of the eye above the floor that is really under it")
        self.eye_height = fields.field(
            FieldSpec(
                tr("Eye above floor"),
                tip,
                "m",
                2,
                0.05,
                tr("Eye height"),
                self._height_of,
                self._with_eye_height,
                costly=True,
            )
        )
        heights = menu_button(tr("heights ▾"), tr("Heights of the eye: your own"), self._fill_heights)
        group.add_pair(tr("Eye above floor"), heights, self.eye_height)
        east, north = (
            _place_field(0, tr("East, x"), tr("east")),
            _place_field(1, tr("North, y"), tr("north")),
        )
        self.eye_x, self.eye_y = fields.field(east), fields.field(north)
        group.add_pair(tr("Place x, y"), self.eye_x, self.eye_y)
        self._walls = label("–")
        self._walls.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self._walls.setToolTip(tr("Free distance to the left and to the right, at eye height"))
        group.add_field(tr("To side walls"), self._walls)
        self._add_tools()

    def _add_tools(self) -> None:
        self.tools = {
            name: button(text, "small", tip, partial(self.use_tool, name))
            for name, text, tip in (
                (
                    "Between walls",
                    tr("Between walls"),
                    tr("Slide until the side walls are equally far (key B)"),
                ),
                ("Corner", tr("Corner"), tr("Into the nearest corner behind, looking across the room")),
                ("Middle of the room", tr("Middle of room"), tr("To the middle both ways")),
                (
                    BACK_TO_WALL,
                    BACK_TO_WALL,
                    tr("Step back to the wall behind; outdoors as far as there is free ground"),
                ),
            )
        }
        self.group.add_wide(self.tools["Between walls"], self.tools["Corner"])
        self.group.add_wide(self.tools["Middle of the room"], self.tools[BACK_TO_WALL])

    def add_back(self, fill: Callable[[QMenu], object]) -> None:
        """The menu of *Back through wall*, and below it what is wrong with the place."""
        tip = tr(
            "Back, out through the wall behind if need be, until a width of the far wall fits; the bound lands on the wall's inner face"
        )
        self.back = menu_button(tr("Back through wall ▾"), tip, fill)
        self.back.setAccessibleName(tr("Back through wall"))
        self.back.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.group.add_wide(self.back)
        self.trouble = label("", "trouble")
        self.trouble.setWordWrap(True)
        self.group.add_wide(self.trouble)
        self.trouble.hide()

    # ------------------------------------------------------------------ heights

    def _height_of(self, camera: Camera) -> float:
        scene = self._studio.scene
        floor = scene.floor_m(camera) if scene is not None else 0.0
        return camera.eye[2] - (floor or 0.0)

    def _with_eye_height(self, camera: Camera, height: float) -> Camera:
        scene = self._studio.scene
        floor = floor_under(scene.floors, place_stood_in(scene.rays, camera)) if scene is not None else 0.0
        if floor is None:
            raise Refused(tr("There is no floor under the eye; move it over a floor first."))
        return replace(camera, eye=(camera.eye[0], camera.eye[1], floor + height))

    def _with_mid_height(self, camera: Camera) -> Camera:
        scene = self._studio.scene
        if scene is None:
            raise Refused(tr("No model is open yet."))
        return self._with_eye_height(camera, mid_height(scene.rays, scene.floors, camera.eye))

    def take_height(self, height_m: float) -> None:
        """The eye so high above the floor that is under it."""
        self._edits.commit(tr("Eye height"), self._with_eye_height, height_m)

    def take_preset(self, index: int) -> None:
        """One of PRESETS."""
        _, height, _ = PRESETS[index]
        if height:
            self.take_height(height)
        else:
            self._edits.do(tr("Eye in the middle"), self._with_mid_height)

    def _fill_heights(self, menu: QMenu) -> None:
        own, active = self._bridge.project.own_heights_m, self._state.active
        for height in own:
            menu.addAction(f"{length(height)}", lambda height=height: self.take_height(height))
        menu.addSeparator()
        if active is not None:
            here = round(self._height_of(active), 3)
            menu.addAction(tr("Keep {here} as an own height", here=length(here)), lambda: self._own(here))
        for height in own:
            menu.addAction(
                tr("Forget {height}", height=length(height)), lambda height=height: self._own(height)
            )
        menu.addSeparator()
        menu.addAction(tr("Tidy the place to 1 cm"), lambda: self._edits.commit(tr("Tidy place"), tidy, 0.01))
        menu.addAction(tr("Tidy the place to 10 cm"), lambda: self._edits.commit(tr("Tidy place"), tidy, 0.1))

    def _own(self, height: float) -> None:
        self._bridge.apply(tr("Own values"), lambda project: kept_value(project, "own_heights_m", height))

    # ------------------------------------------------------------------ by the building

    def use_tool(self, name: str) -> None:
        """Stand the chosen cameras by the building: between walls, into a corner, square to a wall and so
        on."""
        scene = self._studio.scene
        if scene is None:
            return
        walls = scene.walls or scene.rays
        if name == BACK_TO_WALL:
            self._edits.do(name, lambda camera: back_to_wall(camera, walls, scene.floors))
        else:
            self._edits.do(name, lambda camera: self._by_building(name, camera, walls))

    def _by_building(self, name: str, camera: Camera, walls: WallCaster) -> Camera:
        result = TOOLS[name](camera, walls)
        fit = self._fits.of(camera)
        # Squared after fitting, what it was fitted to stays in the middle of the picture.
        return result if fit is None or name != "Square to wall" else fit.squared(result.heading_deg)

    def show_camera(self, camera: Camera) -> None:
        """Follow the shown camera."""
        scene = self._studio.scene
        if scene is None:
            return
        height = self._height_of(camera)
        self.presets.take(next((i for i, (_, h, _) in enumerate(PRESETS) if abs(h - height) < 0.005), -1))
        _, right, _, left = clearances(scene.rays, camera.eye, camera.heading_deg)
        self._walls.setText(
            " · ".join(tr("open") if value > 99 else length(value) for value in (left, right))
        )
        place = place_of_sight(camera)
        trouble = spoken(scene.footing(place).trouble)
        if trouble != self.trouble.text() or self.trouble.isHidden() == bool(trouble):
            self.trouble.setText(f"! {trouble}" if trouble else "")
            self.trouble.setVisible(bool(trouble))
        room, storey = scene.model.room_at(place), scene.model.storey_of_eye(place)
        where = room.name if room else (storey.name if storey and camera.inside else "outside")
        count = len(self._state.selected)
        self.group.show_figure(tr("%n cameras", "", count) if count > 1 else where)


def _place_field(axis: int, name: str, way: str) -> FieldSpec:
    def moved(camera: Camera, value: float) -> Camera:
        eye = [value if index == axis else coordinate for index, coordinate in enumerate(camera.eye)]
        return replace(camera, eye=(eye[0], eye[1], eye[2]))

    return FieldSpec(
        name,
        tr("Place of the eye: {way}", way=way),
        "m",
        2,
        0.1,
        tr("Move eye"),
        lambda camera: camera.eye[axis],
        moved,
    )
