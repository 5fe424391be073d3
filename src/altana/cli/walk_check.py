"""``altana walk check`` and ``mend``: what is wrong with a walk, and what helps."""

from __future__ import annotations

from pathlib import Path

import click
import msgspec
import numpy as np

from altana.cli.shared import JSON, ProjectPath, edited, opened_models, say
from altana.cli.walk import walk_group
from altana.core.edits.walks import set_walk, timed
from altana.core.errors import UserError
from altana.core.geometry.rays import RayScene
from altana.core.model import Model
from altana.core.project import Project, Walk
from altana.core.standing import standable
from altana.core.walk.checks import Flag, check_walk
from altana.core.walk.mends import WORDS as MEND_WORDS
from altana.core.walk.mends import mended, mends_for
from altana.core.walk.sample import WalkLine, resolve, sample
from altana.jobs.looking import check_film
from altana.storage.project_file import read_project


@walk_group.command("check")
@click.argument("project", type=ProjectPath)
@click.argument("walk")
@JSON
def check(project: Path, walk: str, as_json: bool) -> None:
    """Length, pace and frames of a walk, and everything on it that a client would notice, with its time and
    place."""
    before = read_project(project)
    chosen = before.walk_named(walk)
    model = opened_models(before, project).model
    line, flags = _flagged(before, chosen, model, RayScene.of(model))
    rows = sample(line)
    turn = float(np.abs(np.diff(rows.heading_deg)).max() * float(rows.rate)) if len(rows) > 1 else 0.0
    climb = float(np.abs(np.diff(rows.eye[:, 2])).max() * float(rows.rate)) if len(rows) > 1 else 0.0
    facts = {
        "name": chosen.name,
        "kind": "turntable" if chosen.turntable is not None else "walkthrough",
        "seconds": chosen.seconds,
        "rate": chosen.rate,
        "frames": len(rows),
        "length_m": line.route.length_m,
        "pace_m_s": line.pace_m_s,
        "fastest_turn_deg_s": turn,
        "fastest_climb_m_s": climb,
        "key_seconds": line.timing.key_s.tolist(),
        "dwells": line.timing.dwells.tolist(),
        "flags": [{**msgspec.to_builtins(item), "mends": mends_for(item, line)} for item in flags],
    }
    lines = [
        f"{chosen.name}: {line.route.length_m:.2f} m in {chosen.seconds:g} s, {line.pace_m_s:.2f} m/s, {len(rows)} film frames, turning at most {turn:.0f}°/s"
    ]
    say(as_json, facts, lines + [f"! {item.sentence}" for item in flags])


def _flagged(project: Project, walk: Walk, model: Model, rays: RayScene) -> tuple[WalkLine, tuple[Flag, ...]]:
    """A walk in its building, and all its flags in the order of time."""
    floors = standable(model)
    line = resolve(walk, floors)
    flags = (*check_walk(line, rays, floors, project.limits), *check_film(model, project, line, rays))
    return line, tuple(sorted(flags, key=lambda item: (item.begin_s, item.code)))


@walk_group.command("mend")
@click.argument("project", type=ProjectPath)
@click.argument("walk")
@click.argument("flag", type=int)
@click.argument("how", type=click.Choice(list(MEND_WORDS)), required=False)
@JSON
def mend(project: Path, walk: str, flag: int, how: str | None, as_json: bool) -> None:
    """Mend a flag of a walk, by its number in `walk check`; the likeliest way when none is named."""
    before = read_project(project)
    walk_before = before.walk_named(walk)
    model = opened_models(before, project).model
    rays = RayScene.of(model)
    line, flags = _flagged(before, walk_before, model, rays)
    if not 1 <= flag <= len(flags):
        raise UserError(f"{walk_before.name} has {len(flags)} flags; there is no flag {flag}.")
    ways = mends_for(flags[flag - 1], line)
    if not ways:
        raise UserError(f"{flags[flag - 1].sentence} Nothing mends that by itself; change the route.")

    def edit(current: Project) -> Project:
        mended_walk = mended(line, flags[flag - 1], how or ways[0], rays)
        fields = {name: getattr(mended_walk, name) for name in ("keys", "seconds", "anticipation_m")}
        return timed(set_walk(current, walk_before.id, **fields), walk_before.id)

    after = edited(project, edit).walk(walk_before.id)
    assert after is not None
    words = MEND_WORDS[how or ways[0]][0]
    say(
        as_json,
        msgspec.to_builtins(after),
        [f"{words}: {after.name} lasts {after.seconds:g} s, {len(after.keys)} places"],
    )
