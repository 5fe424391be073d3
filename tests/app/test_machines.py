"""Where the list is made, chosen in the run bar: several processes, machines elsewhere, and who does what."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest

from altana.app.hand_over.desk import HandOverDesk
from altana.app.hand_over.where_menu import OtherMachines
from altana.app.shell.window import MainWindow
from altana.app.workspace.ordered import Where
from altana.jobs.following import MachineShare
from altana.jobs.machines.places import make_certificates
from tests.app.conftest import menu_of, press, shots_of, until


def entries(desk: HandOverDesk) -> dict[str, bool]:
    menu = menu_of(desk.run_bar.where.button)
    return {action.text(): action.isChecked() for action in menu.actions() if action.text()}


@pytest.mark.slow
def test_several_processes_make_it_and_it_is_seen_who_does_what(
    window: MainWindow, desk: HandOverDesk
) -> None:
    one = replace(shots_of(window)[0], width_px=96, quality="proof", keep_master=False)
    rows = tuple(replace(one, id=f"shot-9{number}", pattern=f"{{camera}}-{number}") for number in range(3))
    window.workspace.bridge.apply("x", lambda project: replace(project, shots=rows))
    desk.refresh()
    bar = desk.run_bar
    bar.where.choose(Where(processes=2))
    assert bar.where.button.text() == "In 2 processes ▾"
    assert [on for name, on in entries(desk).items() if name.startswith("This machine, ")] in (
        [True],
        [False],
    )
    bar.where.show_who()
    page = bar.where.page
    assert page is not None and page.table.rowCount() == 0 and "One process" in page.told.text()
    press(bar.go)
    until(lambda: not desk.production.running, 90)
    state = desk.production.state
    assert state.ended == "done" and len(list(desk.production.out.rglob("*.png"))) == 3
    assert sum(share.pieces for share in state.machines.values()) == 3
    assert set(state.machines) <= {"process 1", "process 2"}
    assert page.table.rowCount() == len(state.machines)
    assert page.table.item(0, 0).text().startswith("process ")
    assert page.told.text() == ""
    page.close()


def test_what_failed_where_and_why_nothing_goes_on_is_told(desk: HandOverDesk) -> None:
    state = desk.production.state
    state.machines = {"studio-2": MachineShare()}
    state.take({"event": "helped", "machine": "studio-1", "label": "Hall", "took": 2.0, "fetched": 3_000_000})
    state.take({"event": "trouble", "machine": "studio-2", "sentence": "Hall failed there."})
    state.take({"event": "trouble", "machine": "", "sentence": "Waiting: no machine is lent."})
    desk.run_bar.where.show_who()
    page = desk.run_bar.where.page
    assert page is not None
    assert [page.table.item(row, 0).text() for row in range(2)] == ["studio-1", "studio-2"]
    assert [page.table.item(0, column).text() for column in (1, 2, 3, 4)] == ["1", "2.0 s", "3.0 MB", "Hall"]
    assert page.table.item(1, 5).text() == "Hall failed there."
    assert page.told.text() == "Waiting: no machine is lent."
    page.close()


@pytest.mark.slow
def test_other_machines_are_asked_for_and_remembered(
    window: MainWindow, desk: HandOverDesk, tmp_path: Path
) -> None:
    where = desk.run_bar.where
    where.ask()
    dialog = next(item for item in window.findChildren(OtherMachines) if item.isVisible())
    dialog.address.setText("8.8.8.8")
    dialog.use()
    assert "not on a private network" in dialog.told.text() and dialog.isVisible()
    dialog.certificates.setText(str(tmp_path))
    dialog.use()
    assert "altana certificates" in dialog.told.text()
    dialog.certificates.setText("")
    dialog.address.setText("127.0.0.1:9")
    press(dialog.look)
    until(lambda: dialog.told.text() != "Asking…", 60)
    assert dialog.told.text().startswith("No scheduler answers at tcp://127.0.0.1:9.")
    make_certificates(tmp_path / "c")
    dialog.certificates.setText(str(tmp_path / "c"))
    dialog.address.setText("studio.example:9000")
    dialog.use()
    assert not dialog.isVisible()
    assert desk.production.where == Where(1, "tls://studio.example:9000", str(tmp_path / "c"))
    assert desk.production.where.words() == [
        "--on",
        "tls://studio.example:9000",
        "--certificates",
        str(tmp_path / "c"),
    ]
    assert entries(desk)["Machines at tls://studio.example:9000"]
