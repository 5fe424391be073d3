"""Pictures as drawings: lines of what bounds and breaks surfaces, and pencil.

Lines come from a picture of facts drawn at twice the size: an outline where an object, or its depth, ends
against another (the neighbour lies off the plane of what is seen), a crease where surfaces meet at an angle
or two objects lie flush.  Hidden lines and pencil strokes come from the model's own edges, told apart by the
depths of the same picture. Everything depends on places in the building and a seed, not on the clock: lines
stand still from film frame to film frame.
"""

from __future__ import annotations

import os
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace

import numpy as np
import scipy
from PIL import Image, ImageDraw

from altana.core.camera.view import View
from altana.core.conventions import Bools, Floats, Floats32, Ints, Ints32
from altana.core.geometry.edges import Edges
from altana.core.project import Style
from altana.render.hand import HEIGHT_PX, drawn_by_hand
from altana.render.outputs import Facts

#: Facts are drawn so many times larger than the picture, for smooth lines.
FINER = 2
#: A neighbour that lies off the plane by this share of its distance bounds the surface; a crease turns by
#: this much.
OFF_PLANE, CREASE = 0.012, np.cos(np.radians(24.0))
BAND_ROWS = 128
#: In small pictures lines grow thinner, and then fainter, but no fainter than this.
FAINTEST_PX = 0.6
#: Pencil strokes are made of pieces of this length (pixels at HEIGHT_PX).
PIECE_PX = 7.0


@dataclass(frozen=True, slots=True)
class Marks:
    """Where outlines and creases lie, (height, width) bool, at the size of the facts."""

    outline: Bools
    crease: Bools


def marks_of(view: View, facts: Facts) -> Marks:
    """Outlines and creases of a picture of facts; ``view`` has the size of the facts."""
    high, wide = facts.object_index.shape
    outline, crease = np.zeros((high, wide), bool), np.zeros((high, wide), bool)
    bands = [range(top, min(high, top + BAND_ROWS)) for top in range(0, high, BAND_ROWS)]
    with ThreadPoolExecutor(min(8, os.cpu_count() or 1)) as pool:
        # NumPy lets other threads work meanwhile; each band marks rows of its own.
        list(pool.map(lambda rows: _mark_band(view, facts, rows, outline, crease), bands))
    return Marks(outline, crease & ~outline)


@dataclass(frozen=True, slots=True)
class _PixelRows:
    """What is seen at the pixels of some rows: ``numbers`` and ``depth`` (rows, width), ``place`` and
    ``normal`` (3, rows, width)."""

    numbers: Ints32
    depth: Floats32
    place: Floats32
    normal: Floats32

    @classmethod
    def of(cls, view: View, facts: Facts, rows: slice) -> _PixelRows:
        depth = facts.depth_m[rows]
        y, x = np.mgrid[rows.start : rows.start + depth.shape[0], 0 : depth.shape[1]]
        rays = view.rays(np.column_stack([x.ravel() + 0.5, y.ravel() + 0.5])).astype(np.float32)
        ray = np.ascontiguousarray(rays.T).reshape(3, *depth.shape)
        ahead = np.maximum(_dot(ray, view.pose.forward.astype(np.float32)), 1e-6)
        away = (np.where(np.isfinite(depth), depth, 0.0) / ahead).astype(np.float32)
        normal = np.ascontiguousarray(np.moveaxis(facts.normal[rows], 2, 0))
        return cls(facts.object_index[rows], depth, ray * away, normal)

    def part(self, rows: slice, columns: slice) -> _PixelRows:
        """Some of these pixels."""
        return _PixelRows(
            self.numbers[rows, columns],
            self.depth[rows, columns],
            self.place[:, rows, columns],
            self.normal[:, rows, columns],
        )


def _dot(one: Floats32, other: Floats32) -> Floats32:
    product: Floats32 = one[0] * other[0] + one[1] * other[1] + one[2] * other[2]
    return product


def _mark_band(view: View, facts: Facts, rows: range, outline: Bools, crease: Bools) -> None:
    """Compare each pixel of some rows with its right and its lower neighbour."""
    high, whole = len(facts.depth_m), slice(None)
    seen = _PixelRows.of(view, facts, slice(rows.start, min(high, rows.stop + 1)))
    own, below = slice(0, len(rows)), slice(1, len(rows) + 1)
    above = slice(0, min(len(rows), high - 1 - rows.start))
    left, right = slice(0, -1), slice(1, None)
    for here, there in (((own, left), (own, right)), ((above, whole), (below, whole))):
        bounds, turns = _between(seen.part(*here), seen.part(*there))
        # The mark lies on the nearer side, so that outlines belong to what stands in front.
        at = slice(rows.start, rows.start + len(bounds)), here[1]
        outline[at] |= bounds
        crease[at] |= turns


def _between(one: _PixelRows, other: _PixelRows) -> tuple[Bools, Bools]:
    """Whether a surface ends between pixels and their neighbours, and whether it turns there, or two objects
    lie flush."""
    known, beside = np.isfinite(one.depth), np.isfinite(other.depth)
    both = known & beside
    step = other.place - one.place
    near = np.where(both, np.minimum(one.depth, other.depth), np.float32(1.0))
    off = np.minimum(np.abs(_dot(one.normal, step)), np.abs(_dot(other.normal, step)))
    apart = (off > OFF_PLANE * near) & (np.sqrt(_dot(step, step)) > 0.03 * near)
    bounds: Bools = (known != beside) | (both & apart)
    turns = both & ((_dot(one.normal, other.normal) < CREASE) | (one.numbers != other.numbers))
    return bounds, turns & ~bounds


def ink_of(marks: Marks, style: Style) -> Floats32:
    """(height, width) coverage with ink, at half the size of the marks."""
    high = marks.outline.shape[0] // FINER
    scale = high / HEIGHT_PX * FINER
    inked = _widened(marks.outline, style.outline_px * scale)
    if style.crease_px > 0.0:
        inked = np.maximum(inked, 0.75 * _widened(marks.crease, style.crease_px * scale))
    # Where lines lie so close that they would run together (leaves, grilles far away), a draughtsman draws
    # lighter.
    close = scipy.ndimage.uniform_filter(
        (marks.outline | marks.crease).astype(np.float32), max(5, round(11.0 * scale / FINER) * 2 + 1)
    )
    return _halved(inked * np.clip(1.35 - 1.6 * close, 0.3, 1.0).astype(np.float32))


def _widened(mask: Bools, width_px: float) -> Floats32:
    """A mask as a line of a width; below one pixel it is fainter instead."""
    size = max(1, round(width_px))
    wide = scipy.ndimage.maximum_filter(mask, footprint=_disk(size)) if size > 1 else mask
    ink: Floats32 = wide.astype(np.float32) * np.float32(min(1.0, max(width_px, FAINTEST_PX) / size))
    return ink


def _disk(size: int) -> Bools:
    place = np.arange(size) - (size - 1) / 2.0
    disk: Bools = np.hypot(*np.meshgrid(place, place)) <= size / 2.0
    return disk


def _halved(values: Floats32) -> Floats32:
    high, wide = values.shape[0] // FINER * FINER, values.shape[1] // FINER * FINER
    half: Floats32 = (
        values[:high, :wide]
        .reshape(high // FINER, FINER, wide // FINER, FINER)
        .mean(axis=(1, 3), dtype=np.float32)
    )
    return half


# ---------------------------------------------------------------------- strokes along the model's edges


@dataclass(frozen=True, slots=True)
class Strokes:
    """Runs along edges: ``ends`` (k, 2, 2) pixels, ``edge`` (k,) the edge of each, ``hidden`` (k,) bool."""

    ends: Floats
    edge: Ints
    hidden: Bools


def strokes_of(view: View, edges: Edges, facts: Facts) -> Strokes:
    """The edges of a model as they lie in a picture, in runs that are wholly seen or wholly hidden.

    facts : of the same view, at any size.
    """
    points = _before(view, edges.points.astype(np.float64))
    first, second = view.project(points[:, 0]), view.project(points[:, 1])
    inside = _crossing_frame(first, second, view)
    number = np.flatnonzero(inside)
    first, second = first[number], second[number]
    length = np.hypot(*(second - first)[:, :2].T)
    count = np.clip(np.ceil(length / (PIECE_PX * view.height_px / HEIGHT_PX)), 1, 400).astype(int)
    index = np.repeat(np.arange(len(number)), count)
    place = (np.arange(len(index)) - np.repeat(np.cumsum(count) - count, count)).astype(float)
    share = np.stack([place, place + 1.0]) / count[index]
    # Along a line in space it is the reciprocal of the depth that goes evenly across the picture.
    far = 1.0 / first[index, 2] + (1.0 / second[index, 2] - 1.0 / first[index, 2]) * share.mean(axis=0)
    ends = np.stack(
        [first[index, :2] + (second[index, :2] - first[index, :2]) * part[:, None] for part in share], axis=1
    )
    middle = ends.mean(axis=1)
    hidden = _behind(middle, 1.0 / far, view, facts)
    within = (middle >= 0).all(axis=1) & (middle[:, 0] < view.width_px) & (middle[:, 1] < view.height_px)
    return _runs(ends[within], number[index[within]], hidden[within])


def _before(view: View, points: Floats) -> Floats:
    """Edges cut off at the eye's plane, where nothing can be projected."""
    near = 0.05
    eye, forward = np.asarray(view.pose.eye), view.pose.forward
    depth = (points - eye) @ forward
    cut = points.copy()
    for place, other in ((0, 1), (1, 0)):
        behind = (depth[:, place] < near) & (depth[:, other] > near)
        share = (near - depth[behind, other]) / (depth[behind, place] - depth[behind, other])
        cut[behind, place] = points[behind, other] + share[:, None] * (
            points[behind, place] - points[behind, other]
        )
    return cut


def _crossing_frame(first: Floats, second: Floats, view: View) -> Bools:
    seen = (
        np.isfinite(first).all(axis=1)
        & np.isfinite(second).all(axis=1)
        & (first[:, 2] > 0.04)
        & (second[:, 2] > 0.04)
    )
    low, high = np.minimum(first, second), np.maximum(first, second)
    with np.errstate(invalid="ignore"):
        is_crossing: Bools = (
            seen
            & (low[:, 0] < view.width_px)
            & (high[:, 0] > 0)
            & (low[:, 1] < view.height_px)
            & (high[:, 1] > 0)
        )
    return is_crossing


def _behind(places: Floats, depth: Floats, view: View, facts: Facts) -> Bools:
    """Whether something lies in front of places (pixels) at depths; the farthest of the pixels around
    decides."""
    high, wide = facts.depth_m.shape
    farthest = scipy.ndimage.maximum_filter(np.where(np.isfinite(facts.depth_m), facts.depth_m, 1e6), size=3)
    x = np.clip((places[:, 0] * wide / view.width_px).astype(int), 0, wide - 1)
    y = np.clip((places[:, 1] * high / view.height_px).astype(int), 0, high - 1)
    is_behind: Bools = depth > farthest[y, x] * 1.004 + 0.02
    return is_behind


def _runs(ends: Floats, edge: Ints, hidden: Bools) -> Strokes:
    """Pieces that follow each other on an edge, alike seen or hidden, as one stroke."""
    if not len(ends):
        return Strokes(ends, edge, hidden)
    new = np.concatenate([[True], (edge[1:] != edge[:-1]) | (hidden[1:] != hidden[:-1])])
    begin = np.flatnonzero(new)
    last = np.append(begin[1:], len(ends)) - 1
    return Strokes(np.stack([ends[begin, 0], ends[last, 1]], axis=1), edge[begin], hidden[begin])


def dashed(view: View, strokes: Strokes, width_px: float) -> Floats32:
    """(height, width) coverage with the hidden strokes, dashed."""
    scale = view.height_px / HEIGHT_PX
    dash, gap = 9.0 * scale * FINER, 7.0 * scale * FINER
    sheet = Image.new("L", (view.width_px * FINER, view.height_px * FINER), 0)
    draw = ImageDraw.Draw(sheet)
    for (ax, ay), (bx, by) in (strokes.ends[strokes.hidden] * FINER).tolist():
        length = float(np.hypot(bx - ax, by - ay))
        begin = 0.0
        while begin < length:
            end = min(length, begin + dash)
            a, b = begin / length, end / length
            line = (ax + (bx - ax) * a, ay + (by - ay) * a, ax + (bx - ax) * b, ay + (by - ay) * b)
            draw.line(line, fill=150, width=max(1, round(width_px * scale * FINER)))
            begin = end + gap
    return _halved(np.asarray(sheet, np.float32) / 255.0)


def pencilled(view: View, strokes: Strokes, style: Style) -> Floats32:
    """(height, width) coverage with pencil: each seen stroke as a hand draws it."""
    scale = view.height_px / HEIGHT_PX
    sheet = Image.new("L", (view.width_px * FINER, view.height_px * FINER), 0)
    draw = ImageDraw.Draw(sheet)
    seen = ~strokes.hidden
    lines = drawn_by_hand(strokes.ends[seen], strokes.edge[seen], style, view.height_px)
    begin = (2 * lines.begin).tolist()
    places = (lines.points * FINER).reshape(-1).tolist()
    twice, once = (max(1, round(style.crease_px * wide * scale * FINER)) for wide in (0.9, 1.35))
    for number, (grey, first) in enumerate(zip(lines.grey.tolist(), lines.first.tolist(), strict=True)):
        draw.line(places[begin[number] : begin[number + 1]], fill=grey, width=once if first else twice)
    return _halved(np.asarray(sheet, np.float32) / 255.0)


def paper_grain(high: int, wide: int, seed: int) -> Floats32:
    """(height, width) unevenness of drawing paper, about 0, in the same places for every picture of a
    size."""
    grain = np.random.default_rng(seed).normal(0.0, 1.0, (high, wide)).astype(np.float32)
    fine = scipy.ndimage.gaussian_filter(grain, 0.9)
    return fine / max(float(fine.std()), 1e-6)


def hatched(tone: Floats32, style: Style, grain: Floats32) -> Floats32:
    """(height, width) coverage with hatching: one layer of strokes for half tones, a second across it for
    shadows.

    tone : displayed brightness 0 to 1.
    """
    high, wide = tone.shape
    scale = high / HEIGHT_PX
    y, x = np.mgrid[0:high, 0:wide].astype(np.float32)
    cover = np.zeros((high, wide), np.float32)
    soft = scipy.ndimage.gaussian_filter(tone, 1.5 * scale)
    bend = _bend(high, wide, style)
    for layer, (angle, from_tone) in enumerate(((52.0, 0.5), (128.0, 0.3), (20.0, 0.14))):
        turn = np.radians(angle)
        across = x * np.cos(turn) + y * np.sin(turn) + bend * (layer + 1)
        wave = 0.5 + 0.5 * np.cos(across * np.float32(2.0 * np.pi / (7.5 * scale)))
        dark = np.clip((from_tone - soft) / 0.3, 0.0, 1.0)
        cover = np.maximum(cover, dark * np.clip(wave * 1.7 - 0.75, 0.0, 1.0))
    ink: Floats32 = np.clip(cover * style.hatching * (0.75 + 0.22 * grain), 0.0, 1.0).astype(np.float32)
    return ink


def _bend(high: int, wide: int, style: Style) -> Floats32:
    """Hatching is not ruled: its strokes bend a little, the same way in every picture."""
    coarse = np.random.default_rng(style.seed + 7).normal(
        0.0, 3.0 * style.roughness, (high // 64 + 3, wide // 64 + 3)
    )
    bend: Floats32 = scipy.ndimage.zoom(coarse, 64, order=3)[:high, :wide].astype(np.float32)
    return bend * np.float32(high / HEIGHT_PX)


def colour_of(text: str) -> Floats32:
    """``#rrggbb`` as (3,) displayed values 0 to 1."""
    return np.array([int(text[place : place + 2], 16) for place in (1, 3, 5)], np.float32) / 255.0


def line_drawing(
    view: View, facts_at: Callable[[View], Facts], style: Style, edges: Edges | None
) -> tuple[Floats32, Floats32]:
    """Lines on paper: displayed values (height, width, 3), and the (height, width) coverage with ink.

    facts_at : draws the facts of a view.  edges : the model's, where hidden lines are wanted.
    """
    fine = replace(view, width_px=view.width_px * FINER, height_px=view.height_px * FINER)
    facts = facts_at(fine)
    ink = ink_of(marks_of(fine, facts), style)
    if style.hidden and edges is not None:
        ink = np.maximum(ink, dashed(view, strokes_of(view, edges, facts), style.crease_px))
    return inked(ink, style), ink


def inked(ink: Floats32, style: Style) -> Floats32:
    """Ink on paper, displayed values."""
    paper, colour = colour_of(style.paper), colour_of(style.ink)
    picture: Floats32 = (paper + (colour - paper) * ink[..., None]).astype(np.float32)
    return picture


def pencil_drawing(
    view: View, facts_at: Callable[[View], Facts], style: Style, edges: Edges, brightness: Floats32
) -> tuple[Floats32, Floats32]:
    """Pencil on paper: displayed values (height, width, 3), and the (height, width) coverage with graphite.

    brightness : (height, width) displayed brightness of the same picture, 0 to 1, which decides the hatching.
    """
    fine = replace(view, width_px=view.width_px * FINER, height_px=view.height_px * FINER)
    facts = facts_at(fine)
    grain = paper_grain(view.height_px, view.width_px, style.seed)
    strokes = pencilled(view, strokes_of(view, edges, facts), style)
    # Outlines of what has no edges, such as leaves and ropes, are lightly drawn as they are.
    outline = 0.45 * _halved(
        _widened(marks_of(fine, facts).outline, style.crease_px * view.height_px / HEIGHT_PX * FINER)
    )
    covered = _halved(np.isfinite(facts.depth_m).astype(np.float32))
    hatching = hatched(brightness, style, grain) * covered
    lines = np.clip(np.maximum(strokes, outline) * (0.86 + 0.2 * grain), 0.0, 1.0)
    graphite = (1.0 - (1.0 - lines) * (1.0 - 0.62 * hatching)).astype(np.float32)
    shown = inked(graphite, style) + (0.008 * grain)[..., None]
    return np.clip(shown, 0.0, 1.0).astype(np.float32), graphite
