"""Switching the machine off at the end: counted down, kept on, pretended, and what cannot be."""

from __future__ import annotations

import stat
import threading
from pathlib import Path

import pytest

from altana.jobs.job_files import KEEP_ON_FILE, SWITCH_OFF_FILE
from altana.jobs.power import switch_off, wanted


@pytest.fixture
def said() -> list[tuple[float, str]]:
    return []


def told_to(said: list[tuple[float, str]]):  # type: ignore[no-untyped-def]
    return lambda left, sentence: said.append((left, sentence))


def stand_in(tmp_path: Path, body: str) -> Path:
    """A command that takes the place of the system's own."""
    path = tmp_path / "off"
    path.write_text(f"#!/bin/sh\n{body}\n")
    path.chmod(path.stat().st_mode | stat.S_IXUSR)
    return path


def test_after_the_countdown_the_command_runs_once(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, said: list[tuple[float, str]]
) -> None:
    monkeypatch.setenv("ALTANA_SWITCH_OFF", f"{stand_in(tmp_path, 'echo x >> ' + str(tmp_path / 'log'))} now")
    assert switch_off(tmp_path, told_to(said), lambda: False, 0.3)
    assert (tmp_path / "log").read_text() == "x\n"
    lefts = [left for left, _ in said]
    assert lefts == sorted(lefts, reverse=True) and lefts[-1] == 0.0 and 0.0 < lefts[0] <= 0.3
    assert "switched off in" in said[0][1]


def test_a_person_or_a_signal_keeps_it_on(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, said: list[tuple[float, str]]
) -> None:
    monkeypatch.setenv("ALTANA_SWITCH_OFF", str(stand_in(tmp_path, f"touch {tmp_path / 'log'}")))
    threading.Timer(0.2, (tmp_path / KEEP_ON_FILE).touch).start()
    assert not switch_off(tmp_path, told_to(said), lambda: False, 30.0)
    assert said[-1] == (0.0, "The machine stays on.")
    assert not switch_off(None, told_to(said), lambda: True, 30.0)
    assert not (tmp_path / "log").exists()


def test_what_cannot_be_is_said(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, said: list[tuple[float, str]]
) -> None:
    for command, words in (
        (str(tmp_path / "not there"), "could not be switched off"),
        (str(stand_in(tmp_path, "echo 'not allowed' >&2; exit 1")), "not allowed"),
        ("'", "could not be switched off"),
    ):
        monkeypatch.setenv("ALTANA_SWITCH_OFF", command)
        assert not switch_off(None, told_to(said), lambda: False, 0.0)
        assert words in said[-1][1]
    monkeypatch.setenv("ALTANA_SWITCH_OFF", "pretend")
    assert switch_off(None, told_to(said), lambda: False, 0.0)
    assert said[-1][1] == "The machine would be switched off now."


def test_it_is_asked_for_by_option_or_by_a_file_of_the_job(tmp_path: Path) -> None:
    assert not wanted(tmp_path, False) and not wanted(None, False)
    assert wanted(None, True)
    (tmp_path / SWITCH_OFF_FILE).touch()
    assert wanted(tmp_path, False)
