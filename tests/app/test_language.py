"""Everything that the window says passes through one place, and is said in German too."""

from __future__ import annotations

import ast
import json
import os
import re
import shutil
import subprocess
import sys
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path
from xml.etree import ElementTree

import pytest
from PySide6.QtCore import QSettings

from altana.app.shell.window import MainWindow
from altana.app.theme.lengths import wording
from altana.app.theme.words import CATALOGUES, KEY, language, moment, spoken, tr, wanted
from altana.app.workspace.preferences import Preferences
from altana.demo.project import DRAWING, PROJECT

ROOT = Path(__file__).parents[2]
APP = ROOT / "src" / "altana" / "app"
PLACE = re.compile(r"\{[^}]*\}")
#: What shows a text, and at which place of its arguments the text stands.
SHOWS = {
    "label": 0, "button": 0, "menu_button": 0, "check_box": 0, "relabel": 1, "setText": 0, "setToolTip": 0, "setAccessibleName": 0,
    "setPlaceholderText": 0, "setWindowTitle": 0, "addAction": 0, "addMenu": 0, "addItem": 0, "show_figure": 0, "tell": 0, "Group": 0,
    "add_field": 0, "add_pair": 0, "note": 0, "done": 0, "trouble": 0, "drawText": -1, "NumberField": 0, "apply": 0, "do": 0, "commit": 0,
}  # fmt: skip
#: Spelled alike everywhere.
ALIKE = re.compile(r"^(Altana|tcp:.*|EV|f-number|[\W\d]*|(mm|px|m|s|EV|°|UTC|ISO|dpi|PNG|JPEG|{}|\W|\d)+)$")


@pytest.fixture
def german() -> Iterator[None]:
    language.choose("de")
    yield
    language.choose("en")


def messages() -> Iterator[ElementTree.Element]:
    return ElementTree.parse(CATALOGUES / "altana_de.ts").iter("message")


def test_one_and_several_by_the_language() -> None:
    assert (tr("%n cameras", "", 1), tr("%n cameras", "", 0)) == ("1 camera", "0 cameras")
    assert tr("far {depth:.0f} m", depth=7.4) == "far 7 m"


def test_german_sentences_plurals_and_numbers(german: None) -> None:
    assert (tr("%n cameras", "", 1), tr("%n cameras", "", 12)) == ("1 Kamera", "12 Kameras")
    assert tr("Stand a camera") == "Kamera aufstellen"
    wording.comma = True
    try:
        assert tr("lean {lean:.1f}°", lean=1.5) == "schief 1,5°"
    finally:
        wording.comma = False
    # A name is a name, whatever it is called.
    assert tr("Go to {name}", name="Wall {2}") == "Zu Wall {2}"


def test_moments_are_written_as_the_language_writes_them_and_stay_on_one_line() -> None:
    at = datetime(2026, 10, 9, 8, 5, 7).astimezone().timestamp()
    assert moment(at) == "9\xa0Oct\xa008:05" and moment(at, exact=True) == "9\xa0October\xa008:05:07"
    language.choose("de")
    try:
        assert moment(at) == "9.\xa0Okt.\xa008:05" and moment(at, exact=True) == "9.\xa0Oktober\xa008:05:07"
    finally:
        language.choose("en")


def test_sentences_from_behind_are_known_by_their_pattern(german: None) -> None:
    assert spoken("There is no camera 7.") == "Es gibt keine Kamera 7."
    assert spoken("Forecourt is locked. Unlock it (key Ctrl+L), then change it.") == (
        "Forecourt ist gesperrt. Entsperren (Strg+L), dann ändern."
    )
    assert spoken("At 3.2 s the walk comes within 0.23 m of something.") == (
        "Bei 3.2 s: der Rundgang kommt etwas auf 0.23 m nahe."
    )
    full = "a.altana was not written: the disk is full. Nothing was changed. Make room and do it again."
    assert spoken(full) == (
        "a.altana wurde nicht geschrieben: die Platte ist voll. Nichts wurde geändert. Schaffen Sie Platz und versuchen Sie es wieder."
    )
    assert spoken("Quay in the morning") == "Quay in the morning"


def test_a_fault_in_a_catalogue_is_said_in_english(german: None, monkeypatch: pytest.MonkeyPatch) -> None:
    class Wrong:
        def translate(self, *_: object) -> str:
            return "zu {niemand}"

    monkeypatch.setattr(language, "catalogue", Wrong())
    assert tr("Go to {name}", name="Quay") == "Go to Quay"


def test_the_german_catalogue_is_whole_and_keeps_every_place() -> None:
    lacking, wrong = [], []
    for message in messages():
        source, said = message.findtext("source", ""), message.find("translation")
        assert said is not None
        forms = [form.text or "" for form in said] or [said.text or ""]
        if said.get("type") == "unfinished" or not all(form.strip() for form in forms):
            lacking.append(source)
        wrong += [form for form in forms if sorted(PLACE.findall(form)) != sorted(PLACE.findall(source))]
    assert not lacking
    assert not wrong


def test_the_catalogues_are_up_to_date() -> None:
    done = subprocess.run(
        [sys.executable, str(ROOT / "scripts" / "translate.py"), "--check"],
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, done.stdout + done.stderr


def test_no_sentence_escapes_translation() -> None:
    """What is shown is no bare text; and what is passed to ``tr`` can be found by the tools: a constant,
    outside other texts."""
    escaped = []
    for path in sorted(APP.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            where = f"{path.relative_to(APP)}:{getattr(node, 'lineno', 0)}"
            if isinstance(node, ast.JoinedStr):
                inner = [part for part in ast.walk(node) if isinstance(part, ast.Call)]
                escaped += [f"{where} tr in a text" for call in inner if _called(call) == "tr"]
            if not isinstance(node, ast.Call) or not node.args:
                continue
            name = _called(node)
            if name == "tr" and not isinstance(node.args[0], ast.Constant):
                escaped.append(f"{where} tr of what is no constant")
            if name in SHOWS and SHOWS[name] < len(node.args):
                text = _bare(node.args[SHOWS[name]])
                if re.search(r"[A-Za-z]{3}", text) and not ALIKE.match(text):
                    escaped.append(f"{where} {text}")
    assert not escaped


def _called(node: ast.Call) -> str:
    return node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")


def _bare(node: ast.expr) -> str:
    if isinstance(node, ast.Constant):
        return node.value if isinstance(node.value, str) else ""
    if isinstance(node, ast.JoinedStr):
        return "".join(str(part.value) if isinstance(part, ast.Constant) else "{}" for part in node.values)
    return ""


def test_the_language_is_chosen_in_the_preferences(window: MainWindow, tmp_path: Path) -> None:
    settings = QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat)
    preferences = Preferences(settings)
    assert preferences.language == "" and wanted(settings) in ("en", "de")
    preferences.language = "de"
    assert settings.value(KEY) == "de" and wanted(settings) == "de"
    settings.setValue(KEY, "xx")
    assert preferences.language == ""


@pytest.mark.slow
def test_the_window_speaks_german(demo_files: Path, tmp_path: Path) -> None:
    for name in (PROJECT, "larkwater.glb", DRAWING):
        shutil.copyfile(demo_files / name, tmp_path / name)
    done = subprocess.run(
        [sys.executable, "-m", "tests.app.german_window", str(tmp_path / PROJECT), str(tmp_path)],
        cwd=ROOT,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
        capture_output=True,
        text=True,
        timeout=600,
        check=False,
    )
    assert done.returncode == 0, done.stderr[-2000:]
    seen = json.loads(done.stdout.splitlines()[-1])
    assert len(seen["texts"]) > 800
    german: dict[str, str] = {}
    for message in messages():
        if message.get("numerus") != "yes":
            german[message.findtext("source", "")] = message.findtext("translation", "")
    said = set(german.values())
    english = [text for text in seen["texts"] if text and german.get(text, text) != text and text not in said]
    # Rooms, storeys and things of the demo keep their names.
    assert not [text for text in english if text not in ("Inside", "Outside")], english
    assert not seen["wide"]
    assert (tmp_path / "compose.png").stat().st_size > 50_000
