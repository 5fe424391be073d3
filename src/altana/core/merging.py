"""Two people changed one project: what each changed, and both changes as one project where they do not touch
the same thing.

Three states are compared: the one both began with, ours and theirs.  Cameras, walks, rows and the like are
told apart by their ids; within one of them every field stands for itself.  Two new things with the same id
are two things: ours gets another.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from typing import Any

from altana.core.project import FILM, Project

#: The lists of a project whose parts have ids, with what one part is called.
PARTS = {
    "cameras": "camera",
    "walks": "walk",
    "shots": "row",
    "models": "model",
    "planned": "planned shot",
    "patches": "mend",
    "remarks": "remark",
}
#: Fields of a part that follow from others or hold the whole of it again.
_NAMES = {
    "light": "light",
    "tone": "tone",
    "qualities": "the figures of proof, review and final",
    "limits": "limits",
}


@dataclass(frozen=True, slots=True)
class Difference:
    """One thing that is another: what it is, its name, and how (``new``, ``gone``, or the fields that
    differ)."""

    kind: str
    name: str
    how: str

    @property
    def words(self) -> str:
        """In a line."""
        return f"{self.kind} “{self.name}”: {self.how}" if self.name else f"{self.kind}: {self.how}"


@dataclass(frozen=True, slots=True)
class Merged:
    """Both changes in one project, and what both changed otherwise, of which the project has ours."""

    project: Project
    clashes: tuple[str, ...] = ()


def differences(before: Project, after: Project) -> tuple[Difference, ...]:
    """What is another in a project than before, by camera, walk, row and so on."""
    differences: list[Difference] = []
    for part, kind in PARTS.items():
        old, new = _by_id(getattr(before, part)), _by_id(getattr(after, part))
        for item_id in [*old, *(other for other in new if other not in old)]:
            one, two = old.get(item_id), new.get(item_id)
            if one is None:
                differences.append(Difference(kind, _called(two, after), "new"))
            elif two is None:
                differences.append(Difference(kind, _called(one, before), "gone"))
            elif one != two:
                changed = [
                    item.name.replace("_", " ")
                    for item in fields(one)
                    if getattr(one, item.name) != getattr(two, item.name)
                ]
                differences.append(Difference(kind, _called(two, after), ", ".join(changed)))
        if [item for item in old if item in new] != [item for item in new if item in old]:
            differences.append(Difference(f"{kind}s", "", "in another order"))
    for item in fields(Project):
        if item.name not in PARTS and getattr(before, item.name) != getattr(after, item.name):
            differences.append(Difference("project", "", _NAMES.get(item.name, item.name.replace("_", " "))))
    return tuple(differences)


def merged(base: Project, ours: Project, theirs: Project) -> Merged:
    """Both changes as one project.  base : what both began with."""
    if theirs == base:
        return Merged(ours)
    if ours == base:
        return Merged(theirs)
    ours = _apart(base, ours, theirs)
    clashes: list[str] = []
    values: dict[str, Any] = {}
    for item in fields(Project):
        name = item.name
        one, two, three = getattr(base, name), getattr(ours, name), getattr(theirs, name)
        if name in PARTS:
            values[name] = _merged_list(PARTS[name], one, two, three, clashes, ours)
        else:
            values[name] = _merged_value(f"project: {_NAMES.get(name, name)}", one, two, three, clashes)
    new_project = replace(ours, **values)
    kept = tuple(
        shot
        for shot in new_project.shots
        if (new_project.walk(shot.subject) if shot.kind == FILM else new_project.camera(shot.subject))
        is not None
    )
    return Merged(replace(new_project, shots=kept), tuple(clashes))


def _by_id(items: Sequence[Any]) -> dict[str, Any]:
    return {item.id: item for item in items}


def _called(item: Any, project: Project) -> str:
    """The name of a part; a row is called by its camera or walk, a model by its file."""
    subject = getattr(item, "subject", "")
    if subject:
        owner = project.camera(subject) or project.walk(subject)
        return owner.name if owner is not None else str(item.id)
    return str(
        getattr(item, "name", "") or getattr(item, "intent", "") or getattr(item, "path", "") or item.id
    )


def _apart(base: Project, ours: Project, theirs: Project) -> Project:
    """Ours with other ids for what is new in both under the same id; rows follow their cameras and walks."""
    renamed: dict[str, str] = {}
    for part in PARTS:
        known, new = _by_id(getattr(base, part)), _by_id(getattr(theirs, part))
        taken = {*known, *new, *_by_id(getattr(ours, part))}
        items = []
        for item in getattr(ours, part):
            other = new.get(item.id)
            if item.id not in known and other is not None and other != item:
                stem, number = item.id.rpartition("-")[0] or item.id, 1
                while f"{stem}-{number:02}" in taken:
                    number += 1
                renamed[item.id] = f"{stem}-{number:02}"
                taken.add(renamed[item.id])
                item = replace(item, id=renamed[item.id])
            items.append(item)
        values: dict[str, Any] = {part: tuple(items)}
        ours = replace(ours, **values)
    known_rows = _by_id(base.shots)
    rows = tuple(
        replace(shot, subject=renamed[shot.subject])
        if shot.id not in known_rows and shot.subject in renamed
        else shot
        for shot in ours.shots
    )
    return replace(ours, shots=rows)


def _merged_list(
    kind: str,
    base: Sequence[Any],
    ours: Sequence[Any],
    theirs: Sequence[Any],
    clashes: list[str],
    project: Project,
) -> tuple[Any, ...]:
    one, two, three = _by_id(base), _by_id(ours), _by_id(theirs)
    items: dict[str, Any] = {}
    for item_id in [*three, *(item for item in two if item not in three)]:
        old, mine, other = one.get(item_id), two.get(item_id), three.get(item_id)
        if old is None:
            items[item_id] = mine if mine is not None else other
        elif mine is None or other is None:
            # Taken away by one, and if the other changed it meanwhile it stays: nothing that someone worked
            # on is lost.
            kept_item = mine if mine is not None else other
            if kept_item is not None and kept_item != old:
                items[item_id] = kept_item
                clashes.append(
                    f"{kind} “{_called(kept_item, project)}”: changed by one and removed by the other; it stays"
                )
        else:
            items[item_id] = _merged_part(kind, old, mine, other, clashes, project)
    order = (
        list(three)
        if [item for item in two if item in one] == [item for item in one if item in two]
        else list(two)
    )
    places = {item_id: place for place, item_id in enumerate(order)}
    return tuple(
        items[item_id] for item_id in sorted(items, key=lambda item_id: places.get(item_id, len(places)))
    )


def _merged_part(kind: str, old: Any, mine: Any, other: Any, clashes: list[str], project: Project) -> Any:
    if mine in (old, other):
        return other
    if other == old:
        return mine
    called = _called(mine, project)
    values = {
        item.name: _merged_value(
            f"{kind} “{called}”: {item.name.replace('_', ' ')}",
            getattr(old, item.name),
            getattr(mine, item.name),
            getattr(other, item.name),
            clashes,
        )
        for item in fields(old)
    }
    return replace(mine, **values)


def _merged_value(what: str, old: Any, mine: Any, other: Any, clashes: list[str]) -> Any:
    if mine in (old, other):
        return other
    if other != old:
        clashes.append(what)
    return mine
