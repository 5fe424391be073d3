"""Every command of the window by its id: menus, keys, search and the page of keys are all made from this
table."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMenu, QWidget

from altana.app.shell.commands.other_words import OTHER_WORDS
from altana.app.theme.plain_text import tip_text
from altana.app.theme.words import tr

MENUS = (
    tr("Project"),
    tr("Edit"),
    tr("Camera"),
    tr("Standing"),
    tr("Lens and format"),
    tr("Verticals and cut-away"),
    tr("Frame"),
    tr("Light"),
    tr("Plan and section"),
    tr("Model"),
    tr("Walk"),
    tr("Hand over"),
    tr("Help"),
)


@dataclass(frozen=True, slots=True)
class Command:
    """One thing that can be done.  ``id`` is for machines and stays; ``title`` is what is read, ``menu``
    where it stands."""

    id: str
    title: str
    menu: str
    run: Callable[[], object]
    keys: str = ""
    tip: str = ""
    enabled: Callable[[], bool] = lambda: True
    #: Whether it begins another group of its menu.
    begins: bool = False

    @property
    def also(self) -> str:
        """Other words for it, by which it is found."""
        return OTHER_WORDS.get(self.id, "")


class CommandTable:
    """The commands of one window, by id."""

    def __init__(
        self, window: QWidget, chosen_keys: Callable[[str, str], str] = lambda _, usual: usual
    ) -> None:
        """chosen_keys : the keys that a person gave a command (its id, its usual keys)."""
        self._window, self._chosen_keys = window, chosen_keys
        self.commands: dict[str, Command] = {}
        self._actions: dict[str, QAction] = {}

    def add(self, *commands: Command) -> None:
        """Put commands into the table, with their keys in force at once."""
        for command in commands:
            assert command.id not in self.commands, command.id
            action = QAction(command.title, self._window)
            action.setShortcuts(QKeySequence.listFromString(self._chosen_keys(command.id, command.keys)))
            action.setToolTip(tip_text(command.tip or command.title))
            action.triggered.connect(lambda _=False, run=command.run: run())
            # On the window itself the keys work in every desk and without an open menu.
            self._window.addAction(action)
            self.commands[command.id] = command
            self._actions[command.id] = action

    def __iter__(self) -> Iterator[Command]:
        return iter(self.commands.values())

    def keys_of(self, command_id: str) -> str:
        """The keys of a command as they are read, with commas between."""
        native = QKeySequence.SequenceFormat.NativeText
        return ", ".join(keys.toString(native) for keys in self._actions[command_id].shortcuts())

    def set_keys(self, command_id: str, keys: str) -> None:
        """Give a command other keys (several with semicolons between), or none."""
        self._actions[command_id].setShortcuts(QKeySequence.listFromString(keys))

    def with_keys(self, keys: str) -> list[Command]:
        """The commands that these keys belong to."""
        wanted = QKeySequence(keys)
        return [command for command in self if keys and wanted in self._actions[command.id].shortcuts()]

    def run(self, command_id: str) -> None:
        """Do what a command does.  Raises KeyError."""
        self.commands[command_id].run()

    def fill(self, menu: QMenu) -> None:
        """Fill a menu with a submenu for each of MENUS."""
        for name in MENUS:
            self.fill_one(menu.addMenu(name), name)

    def fill_one(self, menu: QMenu, name: str) -> None:
        """Fill a menu with the commands that belong to it."""
        for command in self:
            if command.menu == name:
                action = self._actions[command.id]
                if command.begins:
                    menu.addSeparator()
                action.setEnabled(command.enabled())
                menu.addAction(action)
        # What cannot be done now is only greyed while the menu is open; a key that does nothing says so
        # itself.
        menu.aboutToHide.connect(self._enable_all)

    def _enable_all(self) -> None:
        for action in self._actions.values():
            action.setEnabled(True)
