"""Shader programs by name, compiled when they are first wanted."""

from __future__ import annotations

import moderngl
import numpy as np

from altana.render.context import shader

VERTEX_SHADERS = {
    "surface": "scene.vert",
    "cutout": "scene.vert",
    "glass": "scene.vert",
    "facts": "scene.vert",
    "count": "scene.vert",
    "pane": "scene.vert",
    "through": "scene.vert",
    "depth": "depth.vert",
    "plain": "depth.vert",
}


class Programs:
    """The programs of one context; ``switches`` are defined in all of them."""

    def __init__(self, context: moderngl.Context, switches: tuple[str, ...]) -> None:
        self._context, self._switches = context, switches
        self._programs: dict[str, moderngl.Program] = {}
        self._covers: dict[str, moderngl.VertexArray] = {}
        #: What is defined in the programs that draw a model.
        self._own: tuple[str, ...] = ()

    def suit(self, painted: bool, copies: bool, edges: bool) -> None:
        """Say whether vertices have colours of their own, whether objects are copies of others, and whether a
        picture goes on beyond its edges otherwise than by being repeated; programs made for another kind of
        model are forgotten."""
        switches = (("PAINTED", painted), ("COPIES", copies), ("EDGES", edges))
        own = tuple(switch for switch, wanted in switches if wanted)
        if own == self._own:
            return
        self._own = own
        for name in [name for name in self._programs if _vertex_shader(name) != "cover.vert"]:
            self._programs.pop(name).release()

    def of(self, name: str) -> moderngl.Program:
        """A program by its shader's name, with switches behind colons (``surface:BOUNDS``)."""
        if name not in self._programs:
            base, *switches = name.split(":")
            own = self._own if _vertex_shader(name) != "cover.vert" else ()
            defines = "".join(f"#define {switch}\n" for switch in (*switches, *own, *self._switches))
            vertex, fragment = (
                shader(part).replace("#version 330\n", f"#version 330\n{defines}", 1)
                for part in (_vertex_shader(name), f"{base}.frag")
            )
            self._programs[name] = self._context.program(vertex_shader=vertex, fragment_shader=fragment)
        return self._programs[name]

    def set(self, name: str, **values: object) -> None:
        """Give a program its values by the shader's names; what it does not use is left out."""
        program = self.of(name)
        for key, value in values.items():
            if key in program:
                uniform = program[key]
                assert isinstance(uniform, moderngl.Uniform)
                if isinstance(value, bytes):
                    uniform.write(value)
                elif isinstance(value, np.ndarray):
                    # Matrices go column by column.
                    uniform.write(value.T.astype(np.float32).tobytes())
                else:
                    uniform.value = value

    def cover(self, name: str) -> None:
        """Run a program over every pixel of the frame in use."""
        if name not in self._covers:
            self._covers[name] = self._context.vertex_array(self.of(name), [])
        self._covers[name].render(moderngl.TRIANGLES, vertices=3)


def _vertex_shader(name: str) -> str:
    """Of a program's name, switches and all."""
    return VERTEX_SHADERS.get(name.split(":")[0], "cover.vert")
