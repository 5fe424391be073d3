"""What the desktop is told (recent documents, all is made), and keeping the machine awake."""

from __future__ import annotations

import os
import subprocess
import sys
import time
from pathlib import Path

import pytest
from lxml import etree

from altana.app.hand_over.desk import HandOverDesk
from altana.app.shell.desktop import MOST, recent_file, remember_recent
from altana.jobs.awake import INHIBITOR, kept_awake
from tests.app.conftest import menu_of

#: Stands in for the system's inhibitor: writes what it was asked, and holds as the real one does.
STAND_IN = """#!/bin/sh
echo "$@" > {log}
while [ "$1" != cat ]; do shift; done
"$@"
echo over >> {log}
"""


@pytest.fixture
def inhibitor(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    program, log = tmp_path / INHIBITOR, tmp_path / "asked"
    program.write_text(STAND_IN.format(log=log))
    program.chmod(0o755)
    monkeypatch.setenv("PATH", f"{tmp_path}:{os.environ['PATH']}")
    return log


def test_the_machine_is_kept_awake_while_something_is_made(inhibitor: Path) -> None:
    with kept_awake(True, "Pictures are being made") as awake:
        assert awake
        asked = inhibitor.read_text()
        assert (
            "--what=idle:sleep" in asked and "--why=Pictures are being made" in asked and "over" not in asked
        )
    assert inhibitor.read_text().endswith("over\n")
    inhibitor.unlink()
    with kept_awake(False, "x") as awake:
        assert not awake
    assert not inhibitor.exists()


def test_it_ends_with_a_run_that_is_killed(inhibitor: Path) -> None:
    code = "import time; from altana.jobs.awake import kept_awake\nwith kept_awake(True, 'x'): print('on', flush=True); time.sleep(60)"
    process = subprocess.Popen([sys.executable, "-c", code], stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None and process.stdout.readline() == "on\n"
    process.kill()
    process.wait()
    process.stdout.close()
    until = time.monotonic() + 60
    while not inhibitor.read_text().endswith("over\n") and time.monotonic() < until:
        time.sleep(0.05)
    assert inhibitor.read_text().endswith("over\n")


def test_a_system_that_refuses_or_has_none(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    (tmp_path / INHIBITOR).write_text("#!/bin/sh\nexit 1\n")
    (tmp_path / INHIBITOR).chmod(0o755)
    monkeypatch.setenv("PATH", str(tmp_path))
    with kept_awake(True, "x") as awake:
        assert not awake
    monkeypatch.setenv("PATH", "/nowhere")
    with kept_awake(True, "x") as awake:
        assert not awake


def test_it_is_asked_for_and_shown_in_the_run_bar(desk: HandOverDesk) -> None:
    bar = desk.run_bar
    menu = menu_of(bar.end_menu)
    action = menu.actions()[-1]
    assert action.text() == "Keep the machine awake meanwhile" and action.isChecked()
    action.trigger()
    assert not desk.production.keep_awake and not bar.tests.keep_awake
    menu_of(bar.end_menu).actions()[-1].trigger()
    assert desk.production.keep_awake
    state = desk.production.state
    state.take({"event": "start", "awake": True})
    # As if it were made: the clock that follows a run is left at its own pace.
    desk.production._timer.start()
    try:
        bar.show_run()
        assert bar.told.text().endswith("The machine stays awake")
    finally:
        desk.production._timer.stop()


def bookmarks() -> list[str]:
    root = etree.parse(str(recent_file())).getroot()
    return [str(item.get("href")) for item in root.iterfind("bookmark")]


def test_projects_stand_in_the_desktops_list(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    one, other = tmp_path / "one & only.altana", tmp_path / "other.altana"
    for path in (one, other, one):
        path.touch()
        remember_recent(path)
    assert bookmarks() == [other.as_uri(), one.as_uri()]
    assert b"application/x-altana-project" in recent_file().read_bytes()
    # What others wrote stays; what cannot be read is left as it is.
    for number in range(MOST + 5):
        if number % 101 == 0:
            remember_recent(tmp_path / f"{number}.altana")
    assert len(bookmarks()) == 7
    recent_file().write_bytes(b"<xbel><book")
    remember_recent(one)
    assert recent_file().read_bytes() == b"<xbel><book"


_TELL = """
import time
from PySide6.QtCore import QCoreApplication
application = QCoreApplication([])
from altana.app.shell.desktop import notify
print(notify("Altana", "3 files <b>made</b>"))
until = time.monotonic() + 0.3
while time.monotonic() < until:
    application.processEvents()
"""


def test_the_desktop_is_told_when_all_is_made(tmp_path: Path, desk: HandOverDesk) -> None:
    log = tmp_path / "bus"
    listening = f"dbus-monitor --session > {log} & while [ ! -s {log} ]; do sleep 0.05; done"
    heard = f"for _ in $(seq 400); do grep -q 'files <b>made' {log} && break; sleep 0.05; done"
    script = f"{listening}; {sys.executable} -c '{_TELL}'; {heard}; kill $!"
    done = subprocess.run(
        ["dbus-run-session", "--", "bash", "-c", script],
        capture_output=True,
        text=True,
        timeout=600,
        check=False,
    )
    assert "True" in done.stdout, done.stderr
    told = log.read_text()
    assert "interface=org.freedesktop.portal.Notification; member=AddNotification" in told
    assert 'string "3 files <b>made</b>"' in told
    # Without a session nobody is told, and nothing breaks.
    settings = {**os.environ, "DBUS_SESSION_BUS_ADDRESS": "unix:path=/nowhere"}
    alone = subprocess.run(
        [sys.executable, "-c", _TELL], capture_output=True, text=True, check=True, env=settings
    )
    assert alone.stdout.strip() == "False"
    # In the window it is the end that somebody chose.
    heard: list[str] = []
    desk.run_bar.told_all.connect(heard.append)
    before, desk.production.end_action = desk.production.end_action, "notify"
    desk.run_bar.finished(True)
    desk.production.end_action = "nothing"
    desk.run_bar.finished(True)
    desk.production.end_action = before
    assert len(heard) == 1 and "made in" in heard[0]
