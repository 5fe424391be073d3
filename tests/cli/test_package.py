"""The files by which a desktop knows Altana, its man pages and completion; what `altana doctor` and
`--version` say."""

from __future__ import annotations

import json
import os
import re
import shutil
import subprocess
import sys
import tomllib
from pathlib import Path
from xml.etree import ElementTree

import click
import pytest

from altana.cli import doctor as doctor_module
from altana.cli.main import commands
from altana.render.traced import engine
from altana.storage import presets, project_file
from altana.version import version_words

ROOT = Path(__file__).parents[2]
PACKAGE = ROOT / "package"
ID = "org.example.Altana"
ALTANA = [sys.executable, "-m", "altana"]


def checked(*words: str, **settings: str) -> str:
    """What a checking program says; it must be content."""
    done = subprocess.run(words, capture_output=True, text=True, check=False, env={**os.environ, **settings})
    assert done.returncode == 0, done.stdout + done.stderr
    return done.stdout + done.stderr


def test_the_desktop_knows_it(tmp_path: Path) -> None:
    assert checked("desktop-file-validate", str(PACKAGE / f"{ID}.desktop")) == ""
    checked("appstreamcli", "validate", "--no-net", str(PACKAGE / f"{ID}.metainfo.xml"))
    (tmp_path / "packages").mkdir()
    shutil.copy(PACKAGE / f"{ID}.mime.xml", tmp_path / "packages" / f"{ID}.xml")
    told = checked(
        "update-mime-database", str(tmp_path), XDG_DATA_DIRS=str(tmp_path), XDG_DATA_HOME=str(tmp_path)
    )
    assert "Unknown" not in told and "error" not in told.lower()
    kinds = (tmp_path / "globs2").read_text()
    for suffix in (project_file.SUFFIX, presets.SUFFIX, presets.STYLE_SUFFIX):
        assert f":*{suffix}\n" in kinds
    # What is opened by a double press is what the window opens, and the icon is there.
    entry = (PACKAGE / f"{ID}.desktop").read_text()
    assert "application/x-altana-project" in entry and "Exec=altana open %f" in entry
    assert ElementTree.parse(PACKAGE / f"{ID}.svg").getroot().get("viewBox") == "0 0 128 128"


def test_versions_agree() -> None:
    told = checked(*ALTANA, "--version").strip()
    assert re.fullmatch(r"altana, version \d+\.\d+\.\d+( \(build [0-9a-f]{7,} of \d{4}-\d\d-\d\d\))?", told)
    assert told == f"altana, version {version_words()}"
    version = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]["version"]
    assert version_words().startswith(version)
    releases = ElementTree.parse(PACKAGE / f"{ID}.metainfo.xml").getroot().findall("releases/release")
    assert releases[0].get("version") == version


def test_every_command_has_a_man_page_without_warnings(tmp_path: Path) -> None:
    checked(sys.executable, str(ROOT / "scripts" / "man-pages"), str(tmp_path))
    context = click.Context(commands)
    names = {path.stem for path in tmp_path.glob("*.1")}
    assert {f"altana-{name}" for name in commands.list_commands(context)} <= names
    assert "altana-shots-set" in names
    for name in ("altana", "altana-render", "altana-worker", "altana-camera-mend", "altana-shots-set"):
        words = ["man", "--warnings", "-E", "UTF-8", "-l", "-Tutf8", "-Z", str(tmp_path / f"{name}.1")]
        done = subprocess.run(
            words,
            capture_output=True,
            text=True,
            check=True,
            env={**os.environ, "MANWIDTH": "80", "LC_ALL": "C.UTF-8"},
        )
        assert done.stderr == ""
    assert "--plan\\-machines" in (tmp_path / "altana-render.1").read_text().replace("\\-\\-plan", "--plan")


@pytest.mark.parametrize("shell", ["bash", "zsh", "fish"])
def test_shells_complete_it(shell: str) -> None:
    told = checked(*_program(), _ALTANA_COMPLETE=f"{shell}_source")
    assert "_ALTANA_COMPLETE" in told
    words = {"COMP_WORDS": "altana wor", "COMP_CWORD": "wor" if shell == "fish" else "1"}
    result = checked(*_program(), _ALTANA_COMPLETE=f"{shell}_complete", **words)
    assert "worker" in result


def _program() -> list[str]:
    return [str(Path(sys.executable).parent / "altana")]


def test_the_doctor_looks_at_everything_and_makes_a_picture() -> None:
    done = subprocess.run([*ALTANA, "doctor", "--json"], capture_output=True, text=True, check=True)
    rows = {item["about"]: item for item in json.loads(done.stdout)["findings"]}
    assert set(rows) == {
        "Altana", "Python", "Machine", "Drawing", "Compiler", "Fonts", "Window", "Caches", "Test picture", "Log",
    }  # fmt: skip
    assert re.search(r"320 × 180 px .* in \d+\.\d\d s", rows["Test picture"]["found"])
    assert not any(item["needed"] for item in rows.values())
    assert f"{os.cpu_count()} cores" in rows["Machine"]["found"]


@pytest.mark.slow
def test_the_doctor_says_what_is_missing(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    # Without OpenGL, without a compiler, without fonts, with a cache that cannot be written.
    settings = {"__EGL_VENDOR_LIBRARY_FILENAMES": "/nowhere.json", "ALTANA_TRACE_PLAIN": "1"}
    done = subprocess.run(
        [*ALTANA, "doctor"], capture_output=True, text=True, check=False, env={**os.environ, **settings}
    )
    assert done.returncode == 1
    assert (
        done.stderr.strip()
        .splitlines()[-1]
        .startswith("Altana cannot make pictures here: Pictures cannot be drawn: OpenGL 3.3")
    )
    assert "! Final pictures cannot be made. Install Debian's libllvm19, or choose review." in done.stdout
    assert "Traceback" not in done.stdout + done.stderr
    monkeypatch.setattr(doctor_module, "FONTS", tmp_path)
    assert "Lato-Regular.ttf" in doctor_module._fonts().missing
    monkeypatch.setenv(engine.LLVM_SETTING, str(tmp_path / "libLLVM-1.so"))
    assert "libllvm19" in doctor_module._compiler().missing


def test_the_package_script_names_what_the_lists_name() -> None:
    script = (ROOT / "scripts" / "package").read_text()
    assert "packages-debian.txt" in script and "requirements.txt" in script
    for name in re.findall(r"package/([\w$.-]+)", script):
        assert (PACKAGE / name.replace("$id", ID)).is_file(), name
    manifest = json.loads((PACKAGE / f"{ID}.flatpak.json").read_text())
    assert manifest["id"] == ID and "--share=network" not in manifest["finish-args"]
