"""Views that show pictures, without processes: each asks for a new one exactly when its picture is no longer
the same."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import pytest
from PySide6.QtWidgets import QApplication, QWidget

from altana.app.canvas.frame import FrameView
from altana.app.canvas.round_place import RoundPlace
from altana.app.canvas.variants import VariantsView
from altana.app.compose.strip import Strip
from altana.app.theme.tokens import LIGHT
from altana.app.workspace.workspace import Workspace
from altana.core.edits.cameras import add_camera, set_camera
from altana.core.edits.left_out import leave_out
from altana.core.edits.locks import UNLOCK
from altana.core.edits.variants import add_variant
from altana.core.model import Model
from altana.core.picture_key import KNOWN
from altana.core.project import Camera, Project
from altana.core.staging import WHOLE, Lookup
from altana.jobs.orders import DrawPicture, DrawRound, FindPlaces, LightPlaces, PlacesFound, PlacesLit
from altana.jobs.service import Answer
from tests.app.conftest import until
from tests.fakes import FakeChild, workspace_with


@pytest.fixture
def space(application: QApplication, room: Model) -> Workspace:
    project, _ = add_camera(Project("P"), Camera("", "A", eye=(3.0, 0.5, 1.6), inside=True))
    return workspace_with(add_variant(project, "cam-01"), room)


def child_of(space: Workspace) -> FakeChild:
    child = space.studio.pictures
    assert isinstance(child, FakeChild)
    return child


def settled(child: FakeChild) -> int:
    """How many orders there are once nothing more comes."""
    counts = [-1]

    def quiet() -> bool:
        counts.append(len(child.tasks))
        return len(counts) > 40 and counts[-1] == counts[-40]

    until(quiet, 10)
    return counts[-1]


#: Edits, and whether pictures of the camera are drawn anew by them.
EDITS: tuple[tuple[str, Callable[[Project], Project], bool], ...] = (
    ("a note", lambda p: set_camera(p, "cam-01", note="later"), False),
    ("a name", lambda p: set_camera(p, "cam-01", name="B"), False),
    ("done", lambda p: set_camera(p, "cam-01", done=True), False),
    ("another lens", lambda p: set_camera(p, "cam-01", focal_mm=50.0), True),
    ("exposure", lambda p: set_camera(p, "cam-01", ev=12.0), True),
    ("left out of all", lambda p: leave_out(p, [], "objects", "o1"), True),
    ("left out here", lambda p: leave_out(p, ["cam-01"], "objects", "o1"), True),
    ("the hour", lambda p: replace(p, light=replace(p.light, hour=9.0)), True),
)

VIEWS: tuple[tuple[str, Callable[[Workspace], QWidget], type[DrawPicture] | type[DrawRound], str], ...] = (
    ("frame", lambda space: FrameView(space, LIGHT), DrawPicture, "frame"),
    ("variants", lambda space: VariantsView(space, LIGHT), DrawPicture, "variant:0"),
    ("strip", lambda space: Strip(space, LIGHT), DrawPicture, "thumb:"),
    ("all round", lambda space: RoundPlace(space, LIGHT), DrawRound, "round"),
)


@pytest.mark.parametrize(("view", "make", "kind", "channel"), VIEWS, ids=[name for name, *_ in VIEWS])
def test_a_view_draws_anew_exactly_when_its_picture_changes(
    space: Workspace,
    view: str,
    make: Callable[[Workspace], QWidget],
    kind: type[DrawPicture] | type[DrawRound],
    channel: str,
) -> None:
    widget, child = make(space), child_of(space)
    widget.resize(640, 420)
    widget.show()
    settled(child)
    assert child.orders(kind, channel), "it asks for its first picture"
    for name, edit, changes in EDITS:
        before = len(child.orders(kind, channel))
        assert space.bridge.apply(name, edit)
        settled(child)
        asked = len(child.orders(kind, channel)) - before
        wanted = changes and not (view == "all round" and name == "another lens")
        assert (asked > 0) == wanted, f"{view}: {name} asked {asked} times"
    widget.close()
    widget.deleteLater()


def test_what_is_hidden_while_working_is_gone_from_frame_and_panorama(space: Workspace) -> None:
    child = child_of(space)
    for make, kind, channel in ((FrameView, DrawPicture, "frame"), (RoundPlace, DrawRound, "round")):
        widget = make(space, LIGHT)
        widget.resize(500, 300)
        widget.show()
        settled(child)
        space.state.hide(space.state.hiding.turned("objects", "o1", True))
        settled(child)
        assert child.orders(kind, channel)[-1].staging.omitted  # type: ignore[attr-defined]
        space.state.hide_as_before()
        widget.close()
        widget.deleteLater()


def test_a_locked_camera_says_how_it_is_unlocked(space: Workspace) -> None:
    said: list[str] = []
    space.notices.told.connect(lambda notice: said.append(notice.sentence))
    space.bridge.apply("lock", lambda p: set_camera(p, "cam-01", locked=True))
    assert not space.edits.usable
    assert not space.bridge.apply("x", lambda p: set_camera(p, "cam-01", focal_mm=80.0))
    assert said == [f"A is locked. {UNLOCK}"]


def test_what_a_camera_leaves_out_is_gone_before_the_window_is_ready(
    application: QApplication, room: Model
) -> None:
    project, _ = add_camera(Project("P"), Camera("", "A", eye=(3.0, 0.5, 1.6), inside=True))
    space = Workspace.started(FakeChild)
    space.bridge.replace_document(leave_out(project, ["cam-01"], "objects", "o1"))
    camera, studio = space.bridge.project.cameras[0], space.studio
    assert studio.scene is None and studio.staging(space.bridge.project, camera) == WHOLE
    # Models that were asked for once and are not any more say nothing.
    studio._readable.emit(studio._opening + 1, Lookup(room))
    assert studio.staging(space.bridge.project, camera) == WHOLE
    before = studio.scenery
    studio._readable.emit(studio._opening, Lookup(room))
    assert studio.staging(space.bridge.project, camera).omitted
    # Pictures of the model before are not taken for those of this one.
    assert studio.scenery != before
    space.studio.close()


def test_the_light_of_a_picture_at_rest_is_refined(space: Workspace, monkeypatch: pytest.MonkeyPatch) -> None:
    """Its places are asked for once it rests; it is drawn again whenever there is more to see; and whoever
    moves the camera leaves it off."""
    monkeypatch.setenv("ALTANA_PIXEL_LIGHT", "1")
    child, light = child_of(space), space.studio.lighting
    assert isinstance(light, FakeChild)
    space.studio._asked = (space.bridge.project, "/p.altana")
    told: list[float] = []
    space.studio.places_lit.connect(lambda channel, share, more: told.append(share))
    view = FrameView(space, LIGHT)
    view.resize(640, 420)
    view.show()
    settled(child)
    assert not child.orders(FindPlaces), "the light map itself is not known yet"
    space.studio.lit = KNOWN
    space.studio.relit.emit()
    until(lambda: child.orders(FindPlaces))
    asked = child.orders(FindPlaces)[-1]
    drawn = child.orders(DrawPicture, "frame")[-1]
    assert drawn.look == "still" and (asked.view, asked.light, asked.staging) == (
        drawn.view,
        drawn.light,
        drawn.staging,
    )
    found = PlacesFound(asked.view, asked.light, "name")
    child.answered.emit(Answer("places:frame", 1, found))
    order = light.orders(LightPlaces)[-1]
    assert order.found == found and order.picture == "frame"
    for share, more in ((0.1, False), (0.25, True), (0.6, False), (1.0, True)):
        before = len(child.orders(DrawPicture, "frame"))
        light.answered.emit(Answer("places", 1, PlacesLit("frame", share, more)))
        settled(child)
        assert len(child.orders(DrawPicture, "frame")) - before == int(more)
    assert len(child.orders(FindPlaces)) == 1 and told == [0.1, 0.25, 0.6, 1.0]
    space.bridge.apply("turn", lambda p: set_camera(p, "cam-01", heading_deg=20.0))
    until(lambda: len(child.orders(FindPlaces)) == 2)
    assert light.orders(LightPlaces)[-1].found is None and told[-1] == 1.0
    # A larger window shows other places.
    view.resize(800, 500)
    until(lambda: len(child.orders(FindPlaces)) == 3)
    assert child.orders(FindPlaces)[-1].view.width_px > asked.view.width_px
    monkeypatch.setenv("ALTANA_PIXEL_LIGHT", "0")
    space.bridge.apply("turn", lambda p: set_camera(p, "cam-01", heading_deg=40.0))
    settled(child)
    until(lambda: child.orders(DrawPicture, "frame")[-1].look == "still")
    assert len(child.orders(FindPlaces)) == 3
    view.close()
    view.deleteLater()
