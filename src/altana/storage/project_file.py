"""The ``.altana`` file: one readable JSON document (see docs/formats.md and docs/project.schema.json)."""

from __future__ import annotations

import filecmp
import json
import logging
import os
import shutil
from dataclasses import replace
from pathlib import Path
from typing import Any

import msgspec
import platformdirs

from altana.core.edits.cameras import checked
from altana.core.edits.light import checked_light
from altana.core.edits.models import checked_model
from altana.core.edits.shots import checked_qualities, checked_shot, checked_tone, with_rows_for_marks
from altana.core.edits.walks import checked_walk
from altana.core.errors import Refused, UserError
from altana.core.project import USUAL_QUALITIES, VERSION, Making, ModelRef, Project
from altana.storage.files import explain, make_folder, write_atomically
from altana.storage.versions import keep_version

log = logging.getLogger(__name__)
SUFFIX = ".altana"
#: What final stood for before pictures were path traced.
DRAWN_FINAL = Making(32, 32, 4096)
#: And review before light was looked for at the very places that a still shows.
MAPPED_REVIEW = replace(USUAL_QUALITIES.review, light_rays=0)
LARGEST_BYTES = 64_000_000
KIND = "altana-project"
#: What msgspec learns of the types the first time must not be learnt by two threads at once, which ends the
#: process: it is learnt here.
_LEARNT = msgspec.json.Decoder(Project)


def to_json(project: Project) -> bytes:
    """The project as the bytes of its file; equal projects give equal bytes."""
    content = json.dumps(to_plain(project), ensure_ascii=False, allow_nan=False)
    # Indenting is not left to json, which then takes eight times as long.
    return msgspec.json.format(content.encode(), indent=1) + b"\n"


def to_plain(project: Project) -> dict[str, Any]:
    """The project as the plain values that its file holds."""
    return {"kind": KIND, **msgspec.to_builtins(project)}


def versions_folder() -> Path:
    """Where earlier saves are kept."""
    return autosave_folder() / "versions"


def autosave_folder() -> Path:
    """Where what was not saved yet and earlier saves are kept; ALTANA_AUTOSAVE in the environment puts them
    elsewhere."""
    return Path(os.environ.get("ALTANA_AUTOSAVE") or Path(platformdirs.user_data_dir("altana")) / "autosave")


def write_project(path: Path, project: Project, passing: bool = False) -> None:
    """Save; what was saved before becomes the newest version.  passing : a copy for a job, of which none are
    kept.

    Raises UserError with a sentence; the old file stays when anything fails, or is meant to stay as it is.
    """
    _checked(project, path.name)
    if path.exists() and not path.stat().st_mode & 0o222:
        raise UserError(
            f"{path.name} is write-protected and was not changed. Your changes are still open; save them under another name."
        )
    try:
        data = to_json(project)
    except (ValueError, UnicodeError) as error:
        raise UserError(
            f"{path.name} was not written: it holds something that no text file can ({error}). The project as last saved is unchanged."
        ) from error
    if not passing:
        keep_version(versions_folder(), path)
    write_atomically(path, data, "The project as last saved is unchanged, and your changes are still open.")


def read_project(path: Path) -> Project:
    """Open.  Raises UserError with a sentence that names the place of what is wrong."""
    try:
        if path.exists() and not path.is_file() and not path.is_dir():
            raise UserError(
                f"{path} is no file (a device or a pipe). Nothing was opened. Choose the project's file."
            )
        if path.stat().st_size > LARGEST_BYTES:
            raise UserError(
                f"{path.name} is too large to be a project ({path.stat().st_size // 1_000_000} MB). Nothing was opened."
            )
        data = path.read_bytes()
    except FileNotFoundError as error:
        raise UserError(
            f"{path} is not there. Nothing was opened. Find the file, or choose another."
        ) from error
    except IsADirectoryError as error:
        raise UserError(
            f"{path} is a folder. Choose the project file in it, which ends in {SUFFIX}."
        ) from error
    except OSError as error:
        raise UserError(
            f"{path} may not be read. Nothing was opened. Change its permissions, or copy it."
        ) from error
    return from_json(data, path.name)


def from_json(data: bytes, name: str) -> Project:
    """A project from the bytes of its file.  Raises UserError."""
    try:
        # Some editors put a mark in front of a text.
        content = msgspec.json.decode(data.removeprefix(b"\xef\xbb\xbf"))
    except (msgspec.DecodeError, RecursionError, UnicodeError) as error:
        raise UserError(
            f"{name} is damaged and is not read: {error}. The file was left as it is; open its newest copy."
        ) from error
    if not isinstance(content, dict) or content.pop("kind", None) != KIND:
        raise UserError(
            f"{name} is not an Altana project. Nothing was opened. Choose a file that ends in {SUFFIX}."
        )
    version = content.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise UserError(
            f"{name} says no version that Altana knows ({version}). The file was left as it is; open its newest copy."
        )
    if version > VERSION:
        raise UserError(
            f"{name} was written by a newer Altana (format {version}, this one reads {VERSION}). The file was left as it is; open it with the newer one."
        )
    # Earlier versions had none of what came later, all of which has a start value; what is written is of this
    # version.
    content["version"] = VERSION if version in range(1, VERSION) else version
    try:
        project = msgspec.convert(content, Project)
        if version < 7 and project.qualities.final == DRAWN_FINAL:
            # What nobody had set is what the word stands for now: light followed to its end.
            project = replace(project, qualities=replace(project.qualities, final=USUAL_QUALITIES.final))
        if project.qualities.review == MAPPED_REVIEW and not _says(
            content, "qualities", "review", "light_rays"
        ):
            project = replace(project, qualities=replace(project.qualities, review=USUAL_QUALITIES.review))
        if version < 4:
            project = with_rows_for_marks(project)
    except msgspec.ValidationError as error:
        raise UserError(
            f"{name} cannot be used: {error}. The file was left as it is; mend that place or open a copy."
        ) from error
    for place in _unknown(content, msgspec.to_builtins(project), ""):
        log.warning("%s: %s is not known and is not kept when the project is saved", name, place)
    return _checked(project, name)


def unknown_fields(path: Path) -> tuple[str, ...]:
    """Places of a project's file that this Altana does not know, and that a save would drop; none where it
    cannot be read."""
    try:
        project = read_project(path)
    except UserError:
        return ()
    content = msgspec.json.decode(path.read_bytes().removeprefix(b"\xef\xbb\xbf"))
    content.pop("kind", None)
    return tuple(_unknown(content, msgspec.to_builtins(project), ""))


def _says(content: Any, *path: str) -> bool:
    """Whether a file says anything at this place."""
    for name in path:
        if not isinstance(content, dict) or name not in content:
            return False
        content = content[name]
    return True


def _unknown(content: Any, known: Any, where: str) -> list[str]:
    """Names in a document that what was read of it does not have."""
    if isinstance(content, dict) and isinstance(known, dict):
        names = []
        for name, value in content.items():
            place = f"{where}.{name}" if where else str(name)
            names += _unknown(value, known[name], place) if name in known else [place]
        return names
    if isinstance(content, list) and isinstance(known, list | tuple):
        pairs = zip(content, known, strict=False)
        return [
            place
            for number, (one, two) in enumerate(pairs, 1)
            for place in _unknown(one, two, f"{where} {number}")
        ]
    return []


def _checked(project: Project, name: str) -> Project:
    where = "the project"
    try:
        for group in (project.cameras, project.walks, project.shots):
            ids = [item.id for item in group]
            if len(set(ids)) != len(ids):
                raise Refused("two cameras, walks or rows have the same id.")
        for camera in project.cameras:
            where = f"“{camera.name}”"
            checked(camera)
        for walk in project.walks:
            where = f"“{walk.name}”"
            checked_walk(walk)
        where = "the light"
        checked_light(project.light)
        where = "the tone"
        checked_tone(project.tone)
        where = "the figures of proof, review and final"
        checked_qualities(project.qualities)
        for tone in (project.tone, *(shot.tone for shot in project.shots if shot.tone is not None)):
            where = "the tone"
            if tone.table:
                _inside(tone.table)
        for number, shot in enumerate(project.shots, 1):
            where = f"row {number} of the shot list"
            checked_shot(shot)
            if shot.background_file:
                _inside(shot.background_file)
        for reference in project.models:
            where = f"the model {reference.id}"
            _inside(reference.path)
            checked_model(reference)
    except Refused as error:
        raise UserError(
            f"{name} cannot be used: {where}: {error} The file was left as it is; mend that place or open a copy."
        ) from error
    return project


def _inside(path: str) -> None:
    parts = Path(path)
    if parts.is_absolute() or ".." in parts.parts or not path.strip() or "\\" in path or "\0" in path:
        raise Refused(f"its file “{path}” does not lie in the project's folder.")


def model_path(project_path: Path, reference: ModelRef) -> Path:
    """Where a model file lies.  Raises UserError when it would leave the project's folder, also by a link."""
    base = project_path.parent.resolve()
    wanted = (base / reference.path).resolve()
    if not wanted.is_relative_to(base):
        raise UserError(
            f"{reference.path} leads out of the project's folder and is not read. Copy the model into the folder."
        )
    return wanted


def take_in(file: Path, others: list[str], project_path: Path, into: str = "models") -> str:
    """A file's path as the project stores it; one from elsewhere is copied into a folder beside the project,
    with the others that belong to it.  What lies there under the same name stays: the copy then goes into a
    folder of its own."""
    base = project_path.parent.resolve()
    source = file.resolve()
    if source.is_relative_to(base):
        return source.relative_to(base).as_posix()
    names, folder, number = (source.name, *others), base / into, 2
    while any(
        (folder / name).exists() and not filecmp.cmp(folder / name, source.parent / name, shallow=False)
        for name in names
    ):
        folder, number = base / into / f"{source.stem}-{number}", number + 1
    make_folder(folder)
    try:
        for name in names:
            target = folder / name
            target.parent.mkdir(parents=True, exist_ok=True)
            shutil.copyfile(source.parent / name, target)
    except OSError as error:
        raise explain(error, folder / source.name, "The file itself is unchanged.") from error
    return (folder / source.name).relative_to(base).as_posix()


def beside(base: Path, relative: str, what: str) -> Path:
    """Where a file that a project names lies.  Raises UserError when it would leave the project's folder,
    also by a link."""
    path = (base / relative).resolve()
    if not relative or not path.is_relative_to(base.resolve()):
        raise UserError(
            f"The {what} “{relative}” does not lie in the project's folder and is not read. Copy it there, or choose another."
        )
    return path


def schema() -> dict[str, Any]:
    """The JSON schema of the file."""
    document = msgspec.json.schema(Project)
    document["title"] = "Altana project"
    project = document["$defs"]["Project"]
    project["properties"] = {"kind": {"const": KIND}, **project["properties"]}
    project["required"] = ["kind"]
    for part in document["$defs"].values():
        # What a class says of itself, however its lines are broken.
        if "description" in part:
            part["description"] = " ".join(part["description"].split())
    return document
