"""Commands of the shot list, its making and what was made."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from altana.app.hand_over.desk import LIST
from altana.app.shell.commands.table import Command
from altana.app.shell.parts import Parts
from altana.app.shell.top_bar import HAND_OVER
from altana.app.theme.words import tr
from altana.core.project import PANORAMA, STILL

MENU = tr("Hand over")


def commands(parts: Parts) -> list[Command]:
    """The commands of this menu, in its order."""
    desk, going = parts.hand_over, parts.going

    def to_list() -> None:
        going.choose_desk(HAND_OVER)
        desk.choose_page(LIST)

    def add(kind: str) -> None:
        to_list()
        desk.side.add(kind)

    def on_list(run: Callable[[], object]) -> None:
        to_list()
        run()

    return [
        Command("list.show", tr("Shot list"), MENU, to_list),
        Command("list.results", tr("Results: everything that was made"), MENU, going.to_results),
        Command(
            "list.add-cameras",
            tr("Add the chosen cameras to the shot list"),
            MENU,
            partial(add, STILL),
            "F12",
            begins=True,
        ),
        Command(
            "list.add-panoramas",
            tr("Add panoramas from the chosen cameras' places"),
            MENU,
            partial(add, PANORAMA),
            "Shift+F12",
        ),
        Command(
            "list.send", tr("Send cameras and walks to other tools…"), MENU, parts.exchange.send, begins=True
        ),
        Command("list.send-model", tr("Send the model as it is shown…"), MENU, parts.exchange.send_model),
        Command("list.take-in", tr("Take in cameras, walks, remarks…"), MENU, parts.exchange.take_in),
        Command("list.remarks", tr("Remarks…"), MENU, parts.exchange.remarks),
        *_making(parts, on_list),
    ]


def _making(parts: Parts, on_list: Callable[[Callable[[], object]], None]) -> list[Command]:
    """What is made of the list."""
    desk = parts.hand_over
    return [
        Command(
            "list.make-all",
            tr("Make all rows that are on"),
            MENU,
            partial(on_list, desk.run_bar.make),
            begins=True,
        ),
        Command(
            "list.make-chosen",
            tr("Make the chosen rows"),
            MENU,
            partial(on_list, desk.run_bar.make_chosen),
            "Ctrl+Shift+M",
        ),
        Command(
            "list.make-late",
            tr("Make what is out of date or missing"),
            MENU,
            partial(on_list, desk.row_menu.make_late),
        ),
        Command("list.make-tests", tr("Make test pictures"), MENU, partial(on_list, desk.run_bar.test.click)),
        Command(
            "list.pages",
            tr("Contact sheet of the list (PNG)"),
            MENU,
            partial(desk.client_pages.make_pages, ("sheet",)),
        ),
    ]
