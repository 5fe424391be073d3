"""What is wrong with the model, each with a way there or a remedy."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidgetItem

from altana.app.model.files import ModelFiles, remedy_words
from altana.app.model.lists import short_list
from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import Group
from altana.app.theme.words import spoken, tr
from altana.app.workspace.workspace import Workspace
from altana.core.model import Model, Problem


class ProblemGroup:
    """The list of problems; more of them come once the model has been surveyed."""

    def __init__(self, workspace: Workspace, files: ModelFiles, go_to: Callable[[str], None]) -> None:
        self._state, self._files, self._go_to = workspace.state, files, go_to
        self.found: list[Problem] = []
        self.group = Group(tr("Problems"))
        self.problems = short_list(tr("Problems"), 128, self._chosen)
        self.group.add_wide(self.problems)
        workspace.studio.surveyed.connect(self._surveyed)

    def show_model(self, model: Model | None) -> None:
        """Another model."""
        self.found = list(model.problems) if model is not None else []
        self._show()

    def _surveyed(self, problems: tuple[Problem, ...]) -> None:
        known = {item.sentence for item in self.found}
        self.found += [item for item in problems if item.sentence not in known]
        self._show()

    def _show(self) -> None:
        self.problems.clear()
        for problem in self.found:
            words = remedy_words(problem)
            row = QListWidgetItem(
                spoken(problem.sentence)
                + (f"  {words}" if words else tr("  Go there ›") if problem.object_ids else "")
            )
            row.setData(Qt.ItemDataRole.UserRole, problem)
            press = (
                tr("Press: {words}", words=words.lower().removesuffix(" ›"))
                if words
                else tr("Press: goes there; press again: the next one")
            )
            row.setToolTip(
                tip_text(spoken(problem.sentence) + (f"\n{press}" if words or problem.object_ids else ""))
            )
            self.problems.addItem(row)
        if not self.found:
            self.problems.addItem(QListWidgetItem(tr("Nothing to report.")))
        self.group.show_figure(str(len(self.found)) if self.found else tr("none"))

    def _chosen(self, item: QListWidgetItem) -> None:
        problem = item.data(Qt.ItemDataRole.UserRole)
        if isinstance(problem, Problem) and problem.remedy:
            self._files.mend(problem)
            return
        if not isinstance(problem, Problem) or not problem.object_ids:
            return
        ids = problem.object_ids
        now = self._state.object_id
        self._go_to(ids[(ids.index(now) + 1) % len(ids)] if now in ids else ids[0])
