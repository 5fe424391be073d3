"""The demo's walk up the stair: height, speed and acceleration of the eye before and after smoothing, as a
figure for the guide.

``python benchmarks/stair.py [OUT.svg]`` writes docs/stair.svg and prints the largest values.
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np

from altana.core.conventions import Floats
from altana.core.standing import standable
from altana.core.walk.path import STAIR_SMOOTHING_M, floor_profile
from altana.core.walk.sample import resolve
from altana.demo.project import PROJECT, write_demo
from altana.jobs.models import open_project_models
from altana.storage.project_file import read_project

ROOT = Path(__file__).parents[1]
WIDE, HIGH, LEFT, GAP = 760, 120, 74, 46
INK, PENCIL, GREEN, BRICK = "#24211C", "#8a8276", "#1E7B6D", "#B4452F"


def graph(number: int, name: str, unit: str, seconds: Floats, before: Floats, after: Floats) -> list[str]:
    """One graph: treads as they are in pencil, the eye's own line in green."""
    top = 34 + number * (HIGH + GAP)
    low, high = float(min(before.min(), after.min())), float(max(before.max(), after.max()))
    low, high = low - 0.06 * (high - low), high + 0.06 * (high - low)
    across = LEFT + (WIDE - LEFT - 16) * (seconds - seconds[0]) / (seconds[-1] - seconds[0])

    def line(values: Floats, colour: str, wide: float) -> str:
        up = top + HIGH * (high - values) / (high - low)
        points = " ".join(f"{x:.1f},{y:.1f}" for x, y in zip(across, up, strict=True))
        return f'<polyline points="{points}" fill="none" stroke="{colour}" stroke-width="{wide}"/>'

    zero = top + HIGH * high / (high - low)
    rows = [
        f'<rect x="{LEFT}" y="{top}" width="{WIDE - LEFT - 16}" height="{HIGH}" fill="#FBFAF6" stroke="#D8D2C6"/>'
    ]
    if low < 0 < high:
        rows.append(f'<line x1="{LEFT}" x2="{WIDE - 16}" y1="{zero:.1f}" y2="{zero:.1f}" stroke="#D8D2C6"/>')
    rows += [line(before, PENCIL, 1.0), line(after, GREEN, 2.2)]
    rows.append(f'<text x="{LEFT}" y="{top - 6}" fill="{INK}" font-weight="bold">{name}</text>')
    for value in (round(low + 0.06 * (high - low) / 1.12, 1) + 0.0, high - 0.06 * (high - low) / 1.12):
        y = top + HIGH * (high - value) / (high - low)
        rows.append(
            f'<text x="{LEFT - 6}" y="{y + 4:.1f}" fill="{PENCIL}" text-anchor="end">{value:.1f} {unit}</text>'
        )
    return rows


def main() -> None:
    """Write and print."""
    folder = ROOT / "build" / "benchmark-demo"
    path = folder / PROJECT if (folder / PROJECT).is_file() else write_demo(folder)
    project = read_project(path)
    floors = standable(open_project_models(project, path).model)
    walk = project.walks[0]
    line = resolve(walk, floors)
    profile = floor_profile(line.route, floors)
    assert profile is not None
    begin, end, step = 8.5, 18.0, 1.0 / 25.0
    seconds = np.arange(begin, end, step)
    distance = line.timing.distance_at(seconds)
    before = np.interp(distance, profile.along_m, profile.floor_m) + walk.eye_height_m
    after = line.route.at(distance)[:, 2]
    rows: list[str] = []
    for number, (name, unit, order) in enumerate(
        (("Height of the eye", "m", 0), ("Vertical speed", "m/s", 1), ("Vertical acceleration", "m/s²", 2))
    ):
        pair = [before, after]
        for _ in range(order):
            pair = [np.gradient(values, step) for values in pair]
        rows += graph(number, name, unit, seconds, *pair)
        print(
            f"{name:24} treads as they are: at most {np.abs(pair[0]).max():6.2f} {unit}, smoothed {np.abs(pair[1]).max():5.2f} {unit}"
        )
    print(
        f"smoothed over {profile.smoothing_for(line.pace_m_s):.2f} m (at least {STAIR_SMOOTHING_M} m) at {line.pace_m_s:.2f} m/s"
    )
    high = 34 + 3 * (HIGH + GAP)
    for second in range(9, 19, 1):
        x = LEFT + (WIDE - LEFT - 16) * (second - begin) / (seconds[-1] - begin)
        if x <= WIDE - 16:
            rows.append(
                f'<text x="{x:.1f}" y="{high - GAP + 16}" fill="{PENCIL}" text-anchor="middle">{second} s</text>'
            )
    out = Path(sys.argv[1]) if len(sys.argv) > 1 else ROOT / "docs" / "stair.svg"
    head = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDE} {high - 18}" width="{WIDE}" font-family="sans-serif" font-size="12">'
    out.write_text(
        "\n".join([head, f'<rect width="{WIDE}" height="{high}" fill="#F4F1EA"/>', *rows, "</svg>"]) + "\n"
    )


if __name__ == "__main__":
    main()
