"""What rows leave out of their pictures."""

from __future__ import annotations

from functools import partial

from PySide6.QtGui import QAction
from PySide6.QtWidgets import QMenu

from altana.app.hand_over.chosen_rows import ChosenRows
from altana.app.theme.widgets import Group, label, menu_button
from altana.app.theme.words import tr
from altana.core.edits.shots import leave_out_of_rows
from altana.core.project import Shot


class RowLeftOut:
    """What these rows alone leave out, beside what the project and the camera leave out."""

    def __init__(self, chosen: ChosenRows) -> None:
        self._chosen = chosen
        self.group = Group(tr("Left out"))
        self.menu = menu_button(
            tr("Leave out ▾"),
            tr("Leave out of these rows alone: categories, storeys, the chosen object"),
            self._fill,
        )
        self.group.add_wide(self.menu)
        self.names = label("", "quiet")
        self.names.setWordWrap(True)
        self.group.add_wide(self.names)

    def _fill(self, menu: QMenu) -> None:
        scene = self._chosen.studio.scene
        if scene is None or not self._chosen.rows:
            menu.addAction(tr("The model is not open yet")).setEnabled(False)
            return
        left_out = self._chosen.rows[0].shot.left_out
        chosen = scene.lookup.index.get(self._chosen.state.object_id or "")
        objects = [scene.model.objects[chosen].id] if chosen is not None else []
        for object_id in dict.fromkeys([*objects, *left_out.objects]):
            self._offer(menu, "objects", object_id, object_id in left_out.objects)
        categories, storeys = menu.addMenu(tr("A whole category")), menu.addMenu(tr("A whole storey"))
        for name in sorted({item.category for item in scene.model.objects}):
            self._offer(categories, "categories", name, name in left_out.categories)
        for storey in scene.model.storeys:
            self._offer(storeys, "storeys", storey.id, storey.id in left_out.storeys)

    def _offer(self, menu: QMenu, kind: str, name: str, out: bool) -> None:
        action: QAction = menu.addAction(
            self._called(kind, name), partial(self.leave_out, kind, name, not out)
        )
        action.setCheckable(True)
        action.setChecked(out)

    def leave_out(self, kind: str, name: str, out: bool) -> None:
        """Leave something out of the chosen rows, or show it again."""
        ids = self._chosen.ids
        self._chosen.apply(
            tr("Leave out") if out else tr("Show again"), lambda p: leave_out_of_rows(p, ids, kind, name, out)
        )

    def _called(self, kind: str, name: str) -> str:
        scene = self._chosen.studio.scene
        if kind == "categories" or scene is None:
            return name
        if kind == "storeys":
            storey = scene.model.storey(name)
            return storey.name if storey is not None else name
        number = scene.lookup.index.get(name)
        return (
            scene.model.objects[number].name
            if number is not None
            else tr("{name} (not in the model now)", name=name)
        )

    def show(self, shots: list[Shot]) -> None:
        """Follow the chosen rows."""
        outs = {shot.left_out for shot in shots}
        left_out = shots[0].left_out
        names = [
            self._called(kind, name)
            for kind in ("objects", "categories", "storeys")
            for name in getattr(left_out, kind)
        ]
        text = ", ".join(names) if len(outs) == 1 else tr("Rows differ")
        self.names.setText(text)
        self.names.setVisible(bool(text))
        self.group.show_figure(
            tr("differ")
            if len(outs) > 1
            else tr("{names} here", names=len(names))
            if names
            else tr("nothing here")
        )
