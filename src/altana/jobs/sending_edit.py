"""The shot list as an edit: OpenTimelineIO with the exact seconds of every clip, and captions from intents as
WebVTT and SubRip."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

from altana.core.conventions import frame_count, parse_rate
from altana.core.errors import UserError
from altana.core.project import Project
from altana.jobs.models import open_project_models
from altana.jobs.requests import Film, Pano
from altana.jobs.shotlist import Row, rows_of
from altana.storage.files import make_folder, write_atomically

EDIT_KINDS = (".otio", ".vtt", ".srt")
#: Of stills in a list without a film.
USUAL_RATE = "25"


@dataclass(frozen=True, slots=True)
class Clip:
    """One row in the edit: its words, its file relative to the deliveries, and from when on and how long it
    stands; ``rate`` of its own."""

    name: str
    words: str
    file: str
    begin_s: float
    seconds: float
    frames: int
    rate: Fraction
    moves: bool

    @property
    def end_s(self) -> float:
        """When it ends."""
        return self.begin_s + self.seconds


def clips_of(project: Project, rows: list[Row], still_s: float) -> list[Clip]:
    """The rows that are on, one after the other; panoramas turn elsewhere and are left out."""
    films = [row.item for row in rows if isinstance(row.item, Film) and row.shot.on]
    usual = parse_rate(films[0].rate if films else USUAL_RATE)
    clips: list[Clip] = []
    begin = 0.0
    for row in rows:
        item = row.item
        if not row.shot.on or row.wrong or item is None or isinstance(item, Pano):
            continue
        if isinstance(item, Film):
            rate = parse_rate(item.rate)
            frames = frame_count(item.walk.seconds, rate)
            name, words = item.walk.name, item.walk.note
        else:
            rate = usual
            frames = max(1, round(still_s * rate))
            name, words = item.camera.name, item.camera.intent
        seconds = float(frames / rate)
        clips.append(
            Clip(name, words.strip() or name, row.file, begin, seconds, frames, rate, isinstance(item, Film))
        )
        begin += seconds
    return clips


def send_timeline(project: Project, project_path: Path, out: Path, still_s: float = 5.0) -> list[Clip]:
    """Write the list as an edit or as captions.  Raises UserError."""
    kind = out.suffix.lower()
    if kind not in EDIT_KINDS:
        raise UserError(f"{out.name} is no edit. Choose a file that ends in {', '.join(EDIT_KINDS)}.")
    if not 0.1 <= still_s <= 3600.0:
        raise UserError(f"A still stands 0.1 to 3600 s, not {still_s:g} s.")
    model = open_project_models(project, project_path).model
    clips = clips_of(project, list(rows_of(project, model)), still_s)
    if not clips:
        raise UserError("The shot list has no still and no film that is on. Nothing was written.")
    make_folder(out.parent)
    text = {".otio": _otio, ".vtt": _vtt, ".srt": _srt}[kind](project, clips)
    write_atomically(out, text.encode())
    return clips


def _otio(project: Project, clips: list[Clip]) -> str:
    # Loaded when used.
    import opentimelineio as otio

    def time(value: float, rate: Fraction) -> Any:
        return otio.opentime.RationalTime(value, float(rate))

    timeline = otio.schema.Timeline(name=project.name)
    track = otio.schema.Track(name="Shot list", kind=otio.schema.TrackKind.Video)
    for clip in clips:
        whole = otio.opentime.TimeRange(time(0, clip.rate), time(clip.frames, clip.rate))
        otio_clip = otio.schema.Clip(
            name=clip.name,
            media_reference=otio.schema.ExternalReference(target_url=clip.file, available_range=whole),
            source_range=whole,
            metadata={"altana": {"intent": clip.words, "rate": str(clip.rate), "still": not clip.moves}},
        )
        track.append(otio_clip)
    timeline.tracks.append(track)
    return str(otio.adapters.write_to_string(timeline, "otio_json"))


def _clock(seconds: float, mark: str) -> str:
    whole = round(seconds * 1000.0)
    return f"{whole // 3_600_000:02d}:{whole // 60_000 % 60:02d}:{whole // 1000 % 60:02d}{mark}{whole % 1000:03d}"


def _cue(text: str) -> str:
    """The words of a caption: no line of its own that would end it, and no arrow that would begin another."""
    return " ".join(text.replace("-->", "→").split())


def _vtt(project: Project, clips: list[Clip]) -> str:
    parts = ["WEBVTT", ""]
    for number, clip in enumerate(clips, 1):
        words = _cue(clip.words).replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
        parts += [str(number), f"{_clock(clip.begin_s, '.')} --> {_clock(clip.end_s, '.')}", words, ""]
    return "\n".join(parts)


def _srt(project: Project, clips: list[Clip]) -> str:
    parts = []
    for number, clip in enumerate(clips, 1):
        parts += [
            str(number),
            f"{_clock(clip.begin_s, ',')} --> {_clock(clip.end_s, ',')}",
            _cue(clip.words),
            "",
        ]
    return "\n".join(parts)
