"""Buffers that pictures are drawn into; those of the last few sizes are kept."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import moderngl

from altana.render.depth import depth_buffer

#: So many sizes are kept.
MOST = 6


def colour_of(frame: moderngl.Framebuffer) -> moderngl.Texture:
    """The first picture that a framebuffer draws into."""
    attachment = frame.color_attachments[0]
    assert isinstance(attachment, moderngl.Texture)
    return attachment


@dataclass(slots=True)
class Targets:
    """The buffers of one picture, or of one tile of it."""

    size: tuple[int, int]
    light: moderngl.Framebuffer
    surface: moderngl.Framebuffer
    open_rough: moderngl.Framebuffer
    open_soft: moderngl.Framebuffer
    sum: moderngl.Framebuffer
    picture: moderngl.Framebuffer
    smooth: moderngl.Framebuffer

    def release(self) -> None:
        """Give all of them back."""
        self.light.depth_attachment.release()
        for frame in (
            self.light,
            self.surface,
            self.open_rough,
            self.open_soft,
            self.sum,
            self.picture,
            self.smooth,
        ):
            colour_of(frame).release()
            frame.release()


class TargetShelf:
    """The buffers of each size of picture."""

    def __init__(self, context: moderngl.Context) -> None:
        self._context = context
        self._held: dict[tuple[int, int], Targets] = {}

    def of(self, width: int, height: int) -> Targets:
        """The buffers of a size, made when they are first wanted."""
        size = (width, height)
        if size in self._held:
            # What was used last is let go last.
            self._held[size] = self._held.pop(size)
        else:
            if len(self._held) >= MOST:
                self._held.pop(next(iter(self._held))).release()
            make = self._context
            half = (max(1, width // 2), max(1, height // 2))
            surface = make.texture(size, 4, dtype="u4")
            surface.filter = (moderngl.NEAREST, moderngl.NEAREST)
            depth = depth_buffer(make, size)
            opens = []
            for _ in range(2):
                texture = make.texture(half, 1, dtype="f1")
                texture.filter = (moderngl.LINEAR, moderngl.LINEAR)
                texture.repeat_x = texture.repeat_y = False
                opens.append(make.framebuffer([texture]))
            self._held[size] = Targets(
                size,
                make.framebuffer([make.texture(size, 4, dtype="f2")], depth),
                make.framebuffer([surface], depth),
                opens[0],
                opens[1],
                make.framebuffer([make.texture(size, 4, dtype="f4")]),
                make.framebuffer([make.texture(size, 4, dtype="f1")]),
                make.framebuffer([make.texture(size, 4, dtype="f1")]),
            )
        return self._held[size]


def kept(
    frames: dict[tuple[int, int], moderngl.Framebuffer],
    size: tuple[int, int],
    make: Callable[[], moderngl.Framebuffer],
) -> moderngl.Framebuffer:
    """The buffer of a size, made when it is first wanted; a few sizes are kept."""
    if size not in frames:
        if len(frames) >= MOST:
            old = frames.pop(next(iter(frames)))
            for attachment in (
                *old.color_attachments,
                *([old.depth_attachment] if old.depth_attachment else []),
            ):
                attachment.release()
            old.release()
        frames[size] = make()
    return frames[size]
