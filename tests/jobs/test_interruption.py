"""A run that is killed leaves whole files or none, and goes on where it was; what is asked for decides the
name of a piece."""

from __future__ import annotations

import json
import signal
import subprocess
import sys
import time
from dataclasses import replace
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from altana.core.light.transport import LightMap
from altana.core.project import Light, Project
from altana.jobs.journal import Journal
from altana.jobs.light import known_light, light_of
from altana.jobs.models import Opened
from altana.jobs.requests import file_stem, request_for
from altana.jobs.run import Run
from altana.render.encode import write_film
from altana.storage import cache
from tests.conftest import picture_at

#: So many pictures, the first of the demo.
CAMERAS = 9


def command(project: Path, out: Path, job: Path, *more: str) -> list[str]:
    return [
        sys.executable,
        "-m",
        "altana",
        "render",
        str(project),
        *(word for number in range(1, CAMERAS + 1) for word in ("--camera", f"cam-{number:02d}")),
        "--scale",
        "8",
        "--quality",
        "proof",
        "--out",
        str(out),
        "--job",
        str(job),
        "--json",
        *more,
    ]


@pytest.mark.parametrize("number", [signal.SIGKILL, pytest.param(signal.SIGTERM, marks=pytest.mark.slow)])
def test_a_killed_run_is_resumed(demo_copy: Path, tmp_path: Path, number: signal.Signals) -> None:
    out, job = tmp_path / "out", tmp_path / "job"
    child = subprocess.Popen(
        command(demo_copy, out, job), stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True
    )
    started = time.monotonic()
    while len(list(out.glob("*.png"))) < 3 and time.monotonic() - started < 300:
        time.sleep(0.02)
    child.send_signal(number)
    said = child.communicate(timeout=600)[1]
    pictures = sorted(out.glob("*.png"))
    assert 3 <= len(pictures) < CAMERAS
    assert all(picture_at(path).size for path in pictures)
    if number == signal.SIGTERM:
        assert (child.returncode, said.count("\n")) == (1, 1)
        assert "Stopped" in said
    stamps = {path: path.stat().st_mtime_ns for path in pictures}
    again = subprocess.run(
        command(demo_copy, out, job, "--resume"), capture_output=True, text=True, timeout=600
    )
    assert again.returncode == 0, again.stderr
    assert len(json.loads(again.stdout)["files"]) == CAMERAS
    finished = [path for path in pictures if (job / f"{path.name}.done").is_file()]
    assert len(finished) >= len(pictures) - 1
    assert sum(path.stat().st_mtime_ns == stamp for path, stamp in stamps.items()) >= len(pictures) - 1
    events = [json.loads(line)["event"] for line in (job / "journal.jsonl").read_text().splitlines()]
    assert events.count("start") == 2
    assert events[-1] == "done"


@pytest.mark.parametrize("moment", ["before it is told", "after it was told"])
def test_killed_at_the_end_of_a_piece_it_is_told_once(
    demo_project: Project,
    demo_opened: Opened,
    demo_files: Path,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    moment: str,
) -> None:
    """Between the note that a file is whole and the line in the journal; and right behind that."""
    camera = demo_project.camera_named("Quay, morning")
    assert camera is not None
    request = request_for(demo_project, (camera,), (), (64, 36), None, "proof", "png")
    out, job = tmp_path / "out", tmp_path / "job"

    class Killed(BaseException):
        """As a kill would end it: nothing cleans up behind it."""

    write = Journal.write

    def dying(journal: Journal, event: str, **facts: Any) -> None:
        if event != "piece" or moment == "after it was told":
            write(journal, event, **facts)
        if event == "piece":
            raise Killed

    with monkeypatch.context() as patched:
        patched.setattr(Journal, "write", dying)
        with pytest.raises(Killed):
            Run(request, demo_opened, out, job, base=demo_files).go()
    (picture,) = out.rglob("*.png")
    stamp = picture.stat().st_mtime_ns
    again = Run(request, demo_opened, out, job, resume=True, base=demo_files)
    assert again.go() == [picture]
    assert picture.stat().st_mtime_ns == stamp
    events = [json.loads(line) for line in (job / "journal.jsonl").read_text().splitlines()]
    assert [event["file"] for event in events if event["event"] == "piece"] == [
        picture.relative_to(out).as_posix()
    ]


def test_a_request_is_named_by_its_content(demo_project: Project) -> None:
    def digest(**values: object) -> str:
        camera = replace(demo_project.cameras[0], **values)  # type: ignore[arg-type]
        return request_for(demo_project, (camera,), (), (96, 54), None, "proof", "png").digest()

    assert digest() == digest()
    assert len({digest(), digest(ev=1.0), digest(focal_mm=25.0), digest(rise_mm=0.1)}) == 4


@given(st.text(max_size=200))
def test_file_names_are_plain_whatever_a_camera_is_called(name: str) -> None:
    stem = file_stem(name)
    assert 1 <= len(stem) <= 80
    assert stem.isascii()
    assert not set(stem) & set('/\\:*?"<>|. \0')


def test_light_is_kept_by_model_and_sun(demo_opened: Opened, demo_project: Project) -> None:
    first = light_of(demo_opened, demo_project.light)
    second = known_light(demo_opened, demo_project.light)
    assert second is not None
    assert (first.pixels == second.pixels).all()
    assert known_light(demo_opened, replace(demo_project.light, hour=3.21)) is None
    assert cache.light_key(["a"], Light()) != cache.light_key(["b"], Light())


def test_a_light_map_survives_its_file(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path))
    light_map = LightMap(np.array([[[1.0, 2000.0, 90_000.0]]], np.float32), np.zeros((1, 3, 2), np.float32))
    cache.keep_light("k", light_map)
    kept_light = cache.load_light("k")
    assert kept_light is not None
    assert kept_light.pixels[0, 0] == pytest.approx((1.0, 2000.0, 60_000.0), rel=1e-3)
    (tmp_path / "light" / "k.npz").write_bytes(b"PK")
    assert cache.load_light("k") is None


@pytest.mark.parametrize("rate", [Fraction(25), Fraction(30000, 1001), Fraction(12)])
def test_seeking_finds_the_right_frame(tmp_path: Path, rate: Fraction) -> None:
    """Each film frame carries its number as three grey levels; seeking to a moment shows the frame of that
    moment."""

    def numbered(index: int) -> np.ndarray:
        frame = np.zeros((48, 96, 3), np.uint8)
        for place, digit in enumerate((index // 36, index // 6 % 6, index % 6)):
            frame[:, place * 32 : place * 32 + 32] = 20 + digit * 40
        return frame

    path = tmp_path / "n.mp4"
    write_film(path, (numbered(i) for i in range(150)), rate, 96, 48)
    with av.open(str(path)) as container:
        stream = container.streams.video[0]
        for index in np.random.default_rng(5).integers(0, 150, 10).tolist():
            wanted = int(index / rate / stream.time_base)
            container.seek(wanted, stream=stream)
            for frame in container.decode(stream):
                if frame.pts is not None and frame.pts >= wanted:
                    break
            shown = frame.to_ndarray(format="gray")
            digits = [
                round((float(shown[:, p * 32 + 8 : p * 32 + 24].mean()) - 16) / 219 * 255 / 40 - 0.5)
                for p in range(3)
            ]
            assert digits[0] * 36 + digits[1] * 6 + digits[2] == pytest.approx(index, abs=0)
