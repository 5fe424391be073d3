"""What is done to a walk along its time axis: places and looks dragged, copied, mended."""

from __future__ import annotations

from altana.app.theme.words import spoken, tr
from altana.app.walk.player import PlayBar
from altana.app.walk.settings import WalkSettings
from altana.app.walk.timeline import Timeline
from altana.app.workspace.workspace import Workspace
from altana.core.edits.walks import (
    change_key,
    change_look,
    paste_key_camera,
    paste_keys,
    set_walk,
    shift_keys,
    timed,
)
from altana.core.project import Project, WalkKey
from altana.core.walk.checks import Flag
from altana.core.walk.mends import WORDS as MEND_WORDS
from altana.core.walk.mends import mended


class TimeEdits:
    """Edits of the chosen walk."""

    def __init__(
        self, workspace: Workspace, timeline: Timeline, bar: PlayBar, settings: WalkSettings
    ) -> None:
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self._timeline, self._bar, self._settings = timeline, bar, settings
        self._copied: tuple[WalkKey, ...] = ()
        self._dragged_from: list[float] = []
        timeline.key_moving.connect(self.drag_in_time)
        timeline.key_moved.connect(lambda: self._bridge.commit(tr("Second of a place")))
        timeline.look_moving.connect(self.drag_look)
        timeline.look_moved.connect(lambda: self._bridge.commit(tr("Span of looking")))
        for source in (timeline, settings.places):
            source.copy_wanted.connect(self.copy_places)
            source.paste_wanted.connect(self.paste_places)
        settings.flags.mend_wanted.connect(self.mend)

    def drag_in_time(self, index: int, second: float) -> None:
        """A place is dragged along the time axis, and the other chosen ones with it: from now on they have
        their seconds."""
        walk, line = self._state.walk, self._bar.line
        if walk is None or line is None or walk.locked:
            return
        if not self._bridge.in_gesture:
            self._bridge.begin()
            self._dragged_from = line.timing.key_s.tolist()
        shift = second - self._dragged_from[index]
        wanted = [(number, self._dragged_from[number] + shift) for number in self._timeline.keys | {index}]
        self._bridge.preview(lambda project: timed(shift_keys(project, walk.id, wanted), walk.id))

    def drag_look(self, index: int, start: float, end: float) -> None:
        """A span of looking is dragged."""
        walk = self._state.walk
        if walk is None or walk.locked:
            return
        if not self._bridge.in_gesture:
            self._bridge.begin()
        self._bridge.preview(
            lambda project: change_look(project, walk.id, index, start=round(start, 5), end=round(end, 5))
        )

    def lift(self, index: int, z: float) -> None:
        """A place is dragged up or down."""
        walk = self._state.walk
        if walk is None or walk.locked:
            return
        if not self._bridge.in_gesture:
            self._bridge.begin()
        x, y, _ = walk.keys[index].eye
        self._bridge.preview(
            lambda project: timed(change_key(project, walk.id, index, eye=(x, y, round(z, 2))), walk.id)
        )

    def copy_places(self) -> None:
        """Remember the chosen places, to put them in elsewhere."""
        walk = self._state.walk
        if walk is not None and self._timeline.keys:
            self._copied = tuple(walk.keys[index] for index in sorted(self._timeline.keys))
            self._settings.places.show_copied(len(self._copied))

    def paste_places(self, camera_only: bool) -> None:
        """Put the copied places in behind the chosen one; or give the chosen ones the first one's camera."""
        walk, timeline = self._state.walk, self._timeline
        if walk is None or not self._copied or not timeline.keys:
            self._bridge.notices.note(
                tr("Choose places in the timeline and copy them (Control C), then choose where they go.")
            )
            return
        if camera_only:
            chosen, first = sorted(timeline.keys), self._copied[0]
            self._bridge.change_walk(
                tr("Camera of a place"),
                walk,
                lambda project: paste_key_camera(project, walk.id, chosen, first),
            )
            return
        after, copied = max(timeline.keys), self._copied
        self._bridge.change_walk(
            tr("Put in places"), walk, lambda project: paste_keys(project, walk.id, after, copied)
        )

    def mend(self, flag: Flag, how: str) -> None:
        """Mend what a flag says."""
        walk, line, scene = self._state.walk, self._bar.line, self._studio.scene
        if walk is None or line is None or scene is None:
            return

        def edit(project: Project) -> Project:
            new_walk = mended(line, flag, how, scene.rays)
            return set_walk(
                project,
                walk.id,
                **{name: getattr(new_walk, name) for name in ("keys", "seconds", "anticipation_m")},
            )

        self._bridge.change_walk(spoken(MEND_WORDS[how][0]), walk, edit)
