"""A model's triangles in blocks that have a tree each, built when a ray first comes near, or all of them in
one tree."""

from __future__ import annotations

import threading
from collections.abc import Iterator

import numpy as np

from altana.core.conventions import Bools, Floats32, Ints, Ints32
from altana.core.geometry.copied_trees import CopiedSurfaces, CopiedTree
from altana.core.geometry.runs import Runs
from altana.core.geometry.trees import Tree

#: So many triangles share one tree at most until all are in one: a sixth of a second's work where a single
#: ray asks for it.
BLOCK = 500_000
#: Up to so many triangles may all be in one tree, 1.5 gigabytes; rays then ask only that, ten times as
#: quickly.
WHOLE = 40_000_000
#: So many trees of blocks are kept; of a larger model those that were asked longest ago are given up.
MOST_TREES = 48
#: So many rays at a time are worth one tree of all where they meet the boxes of most blocks.
MANY = 1_024
#: Boxes are so much larger than what they hold, metres.
BOX_SKIN_M = 1e-3


class Block:
    """Triangles that share a tree, which is built when it is first asked."""

    __slots__ = ("high", "low", "numbers", "tree")

    def __init__(
        self, numbers: Ints | None, low: Floats32 | None = None, high: Floats32 | None = None
    ) -> None:
        #: Triangles by their number in the model; None where its tree names them so.
        self.numbers = None if numbers is None else numbers.astype(np.int32)
        # Without a box it is met by all rays.
        self.low = np.full(3, -np.inf, np.float32) if low is None else low - np.float32(BOX_SKIN_M)
        self.high = np.full(3, np.inf, np.float32) if high is None else high + np.float32(BOX_SKIN_M)
        self.tree: Tree | CopiedTree | None = None

    def named(self, found: Ints32) -> Ints32:
        """Numbers in the model of triangles that its tree found."""
        return found if self.numbers is None else self.numbers[found]


class Blocks:
    """The triangles of a model that count, in blocks; any thread may ask.

    vertices : (n, 3) float32 metres, faces : (m, 3) int32; runs : the runs of the model that the triangles
    are, where they are known.
    chosen : (m,) the triangles that count.  copied : surfaces that stand there many times, where they are
    most of it.
    """

    def __init__(
        self,
        vertices: Floats32,
        faces: Ints32,
        runs: Runs | None = None,
        chosen: Bools | None = None,
        copied: CopiedSurfaces | None = None,
    ) -> None:
        self._vertices, self._faces, self._chosen, self._copied = vertices, faces, chosen, copied
        self._building = threading.Lock()
        # Blocks that have a tree, in the order in which they were last asked.
        self._asked: dict[Block, None] = {}
        self.all: list[Block] = self._parted(runs)
        counted = len(faces) if chosen is None else int(np.count_nonzero(chosen))
        self._may_join = counted <= WHOLE

    def __bool__(self) -> bool:
        return bool(self.all)

    @property
    def alone(self) -> Block | None:
        """The block that has all triangles, where there is one."""
        return self.all[0] if len(self.all) == 1 else None

    def _parted(self, runs: Runs | None) -> list[Block]:
        if self._copied is not None:
            return [Block(None)]
        if runs is None or len(self._faces) <= BLOCK:
            numbers = self._numbers()
            if len(numbers) <= BLOCK:
                return [Block(numbers)] if len(numbers) else []
            return [self._boxed(numbers[at : at + BLOCK]) for at in range(0, len(numbers), BLOCK)]
        blocks = []
        for group in _near_together(runs.low + runs.high, runs.count, BLOCK):
            numbers = runs.triangles(group)
            if self._chosen is not None:
                numbers = numbers[self._chosen[numbers]]
            if len(numbers):
                blocks.append(Block(numbers, runs.low[group].min(axis=0), runs.high[group].max(axis=0)))
        return blocks

    def _numbers(self) -> Ints:
        return np.arange(len(self._faces)) if self._chosen is None else np.flatnonzero(self._chosen)

    def _boxed(self, numbers: Ints) -> Block:
        corner = self._vertices[self._faces[numbers]].reshape(-1, 3)
        return Block(numbers, corner.min(axis=0), corner.max(axis=0))

    def join(self) -> None:
        """All in one tree from now on, unless there is too much of it, or too little memory."""
        with self._building:
            if len(self.all) < 2 or not self._may_join:
                return
            # First what there is goes, so that both are never held.
            for block in self._asked:
                block.tree = None
            self._asked.clear()
            whole = Block(self._numbers())
            try:
                whole.tree = self._built(whole)
            except MemoryError:
                self._may_join = False
                return
            self.all, self._asked = [whole], {whole: None}

    def warm(self) -> None:
        """Build what rays will ask, now.  Raises MemoryError."""
        self.join()
        for block in self.all[:MOST_TREES]:
            self.tree(block)

    def tree(self, block: Block) -> Tree | CopiedTree:
        """The tree of a block, built where it is not there; whoever holds an older one may go on with it.
        Raises MemoryError."""
        # Two threads that want the same tree would each build it.
        with self._building:
            if block not in self.all:
                # Another thread joined them meanwhile.
                return self._built(block)
            tree = block.tree = block.tree or self._built(block)
            self._asked.pop(block, None)
            self._asked[block] = None
            if len(self._asked) > MOST_TREES:
                oldest = next(iter(self._asked))
                self._asked.pop(oldest)
                oldest.tree = None
        return tree

    def _built(self, block: Block) -> Tree | CopiedTree:
        if block.numbers is None:
            assert self._copied is not None
            return CopiedTree(self._vertices, self._faces, self._copied, self._chosen)
        whole = len(block.numbers) == len(self._faces)
        return Tree(
            self._vertices, self._faces if whole else np.ascontiguousarray(self._faces[block.numbers])
        )

    def met(self, start: Floats32, along: Floats32) -> Iterator[tuple[Block, Ints, Floats32]]:
        """Blocks that some of the (n, 3) rays meet, nearest first: the block, the rays, and where each enters
        the block's box."""
        blocks = self.all
        if len(blocks) > 1:
            entered = _entered(blocks, start, along)
            first = entered.min(axis=1, initial=np.inf)
            # Blocks that would be asked: all that have been, and of many rays those whose boxes they meet.
            asked = np.array([block.tree is not None for block in blocks])
            wanted = asked | np.isfinite(first) if len(start) >= MANY else asked
            if 2 * wanted.sum() > len(blocks):
                self.join()
            if self.all is blocks:
                for number in np.argsort(first).tolist():
                    rays = np.flatnonzero(np.isfinite(entered[number]))
                    if not len(rays):
                        return
                    yield blocks[number], rays, entered[number, rays]
                return
        for block in self.all:
            yield block, np.arange(len(start)), np.zeros(len(start), np.float32)


def _entered(blocks: list[Block], start: Floats32, along: Floats32) -> Floats32:
    """(blocks, n) where along each ray it enters a block's box, metres; infinite where it does not meet
    it."""
    entered = np.full((len(blocks), len(start)), np.inf, np.float32)
    with np.errstate(divide="ignore", invalid="ignore"):
        share = 1.0 / along
        for number, block in enumerate(blocks):
            one, other = (block.low - start) * share, (block.high - start) * share
            enters = np.nanmax(np.minimum(one, other), axis=1)
            leaves = np.nanmin(np.maximum(one, other), axis=1)
            entered[number] = np.where((leaves >= enters) & (leaves >= 0.0), np.maximum(enters, 0.0), np.inf)
    return entered


def _near_together(middle: Floats32, weight: Ints, most: int) -> list[Ints]:
    """Groups of (n, 3) places that lie near each other, each of about ``most`` weight: halves of halves along
    the longest side."""
    waiting, done = [np.arange(len(middle))], []
    while waiting:
        group = waiting.pop()
        total = int(weight[group].sum())
        if total <= most or len(group) == 1:
            done.append(group)
            continue
        axis = int(np.argmax(np.ptp(middle[group], axis=0)))
        order = group[np.argsort(middle[group, axis], kind="stable")]
        at = int(np.clip(np.searchsorted(np.cumsum(weight[order]), total / 2), 1, len(order) - 1))
        waiting += [order[at:], order[:at]]
    return done
