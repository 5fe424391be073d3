"""The small pictures of the shot list: each row in its own format, drawn as it will be made."""

from __future__ import annotations

from collections.abc import Hashable
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QObject, QSize, Qt, Signal
from PySide6.QtGui import QImage

from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import parse_rate
from altana.core.errors import Refused
from altana.core.light.own import light_for
from altana.core.picture_key import row_key
from altana.core.project import LINES, PENCIL
from altana.core.walk.sample import resolve
from altana.jobs.orders import Failure
from altana.jobs.requests import Film, Item, Pano, Picture
from altana.jobs.shotlist import Row

#: Pixels that a small picture fits into, and one that a region is drawn in.  Strokes would run together if
#: they were drawn so small.
SMALL_PX, STROKES_PX, WHOLE_PX = (208, 117), (520, 292), (960, 720)
#: The table is looked at when they are asked for: before the strip's small pictures, after what is worked
#: with.
URGENCY, WHOLE_URGENCY = 3, 2
#: So many are on order at once, so that what is scrolled past is not drawn first.
MOST_ASKED = 2
LATER_MS = 40


class RowPictures(QObject):
    """Draws the rows that are looked at; ``changed()`` when one is there, ``whole_drawn(shot id, picture)``
    for one to draw in."""

    changed = Signal()
    whole_drawn = Signal(str, QImage)

    def __init__(self, workspace: Workspace) -> None:
        bridge, studio = workspace.bridge, workspace.studio
        super().__init__()
        self._bridge, self._studio = bridge, studio
        self._base = Path()
        self.images: dict[str, QImage] = {}
        #: What each picture shows, and what each is that is on order, with its revision.
        self.drawn: dict[str, Hashable] = {}
        self._asked: dict[str, tuple[int, Hashable]] = {}
        #: What was on order when something could not be drawn: tried once more.
        self._wanted: dict[str, Row] = {}
        self._whole = (0, "")
        self._later = Soon(self, LATER_MS, self._order)
        studio.picture.connect(self._arrived)
        studio.order_failed.connect(self._give_up)
        studio.opened.connect(self._forget)
        studio.relit.connect(self.changed)

    def follow_project(self, path: Path) -> None:
        """Another project: its rows may have the names of those before."""
        self._base = path.parent
        self.images.clear()
        self._forget()

    def image_of(self, row: Row) -> QImage | None:
        """The picture of a row as far as it is drawn; a better one is asked for."""
        if row.item is not None and self.drawn.get(row.shot.id) != self.key_of(row.item):
            self._wanted[row.shot.id] = row
            if not self._later.isActive():
                self._later.start()
        return self.images.get(row.shot.id)

    def ask_whole(self, row: Row) -> None:
        """Have the whole picture of a row drawn, large enough to draw its region in."""
        if isinstance(row.item, Picture):
            item = _plain(replace(row.item, shot=replace(row.item.shot, region=None)), WHOLE_PX)
            assert isinstance(item, Picture)
            self._whole = (
                self._studio.order_finished(
                    "row whole", item, self._bridge.project, self._base, WHOLE_URGENCY
                ),
                row.shot.id,
            )

    def key_of(self, item: Item) -> Hashable:
        """What the picture of a row depends on."""
        project = self._bridge.project
        return row_key(_plain(item, SMALL_PX), project.tone, project.qualities, self._studio.scenery)

    def _order(self) -> None:
        if self._studio.scene is None or self._bridge.in_gesture:
            return
        wanted, self._wanted = self._wanted, {}
        for shot_id, row in wanted.items():
            if row.item is None:
                continue
            key = self.key_of(row.item)
            if self._asked.get(shot_id, (0, None))[1] == key or self.drawn.get(shot_id) == key:
                continue
            if len(self._asked) >= MOST_ASKED and shot_id not in self._asked:
                # It is wanted again when the table is painted after the next picture has come.
                continue
            revision = self._send(f"row:{shot_id}", row.item)
            if revision:
                self._asked[shot_id] = (revision, key)
            else:
                self.drawn[shot_id] = key

    def _send(self, channel: str, item: Item) -> int:
        """The revision on order; 0 where there is nothing to draw."""
        project, studio = self._bridge.project, self._studio
        if isinstance(item, Pano):
            camera = replace(item.camera, heading_deg=item.front_deg)
            return studio.order_round(
                channel,
                "full",
                camera,
                light_for(project.light, camera, item.shot),
                URGENCY,
                studio.staging(project, camera),
                SMALL_PX[0],
            )
        still = self._middle(item) if isinstance(item, Film) else item
        if not isinstance(still, Picture):
            return 0
        small = _plain(still, STROKES_PX if still.shot.rendition in (LINES, PENCIL) else SMALL_PX)
        assert isinstance(small, Picture)
        return studio.order_finished(channel, small, project, self._base, URGENCY)

    def _middle(self, item: Film) -> Picture | None:
        """The film frame in the middle of a film, as a still of its row."""
        scene, walk = self._studio.scene, item.walk
        if scene is None or item.shot is None or not item.frames:
            return None
        try:
            line = resolve(walk, scene.floors)
        except Refused:
            return None
        seconds = float(item.frames[len(item.frames) // 2] / parse_rate(item.rate))
        camera = replace(line.camera_at(seconds), left_out=walk.left_out)
        moment, shot = line.light_at(seconds), item.shot
        if moment.hour is not None:
            shot = replace(shot, hour=moment.hour)
        if moment.lamps is not None:
            shot = replace(shot, lamps=moment.lamps >= 0.5)
        return Picture(shot, camera, item.width_px, item.height_px, "")

    def _arrived(self, channel: str, revision: int, image: QImage, _: str) -> None:
        if channel == "row whole" and revision == self._whole[0]:
            self.whole_drawn.emit(self._whole[1], image)
        if not channel.startswith("row:"):
            return
        shot_id = channel[4:]
        asked = self._asked.get(shot_id)
        if asked is not None and asked[0] == revision:
            small = image.size().scaled(*SMALL_PX, Qt.AspectRatioMode.KeepAspectRatio)
            self.images[shot_id] = image.scaled(small, mode=Qt.TransformationMode.SmoothTransformation)
            self.drawn[shot_id] = self._asked.pop(shot_id)[1]
            self.changed.emit()

    def _give_up(self, channel: str, revision: int, _: Failure) -> None:
        """A row's picture could not be drawn, which has been told; it is left so until something about it
        changes."""
        shot_id = channel.removeprefix("row:")
        asked = self._asked.get(shot_id)
        if channel.startswith("row:") and asked is not None and asked[0] == revision:
            self.drawn[shot_id] = self._asked.pop(shot_id)[1]
            self.changed.emit()

    def _forget(self) -> None:
        """Another model, or the same one read anew."""
        for pictures in (self.drawn, self._asked):
            pictures.clear()
        self.changed.emit()


def _plain(item: Item, within: tuple[int, int]) -> Item:
    """An item without what changes nothing in its picture, as small as this."""
    size = QSize(item.width_px, item.height_px).scaled(*within, Qt.AspectRatioMode.KeepAspectRatio)
    plain = replace(item, width_px=max(16, size.width()), height_px=max(16, size.height()), file="")
    if plain.shot is None:
        return plain
    quality = plain.shot.quality if plain.shot.rendition == LINES else "proof"
    shot = replace(
        plain.shot,
        id="",
        on=True,
        folder="",
        pattern="",
        file="png",
        dpi=0.0,
        keep_master=False,
        note="",
        quality=quality,
    )
    return replace(plain, shot=shot)
