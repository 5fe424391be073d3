"""Trees of triangles that rays are cast into, built from arrays as they lie and without holding Python's
lock.

embreex takes triangles one by one, 1.2 microseconds each, and builds its tree holding Python's lock: a
million triangles kept a window silent. The library beneath it (Embree 4, which comes in the same package)
takes arrays as they are and needs no lock.  So a tree is filled through that library, and asked through
embreex.  Where the library is not found, or is laid out otherwise than here, embreex fills it.
"""

from __future__ import annotations

import ctypes
import mmap
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from importlib.metadata import PackageNotFoundError, files

import numpy as np
from embreex.mesh_construction import TriangleMesh
from embreex.rtcore_scene import EmbreeScene

from altana.core.conventions import Bools, Floats32, Ints32

#: From so many triangles on a tree is kept small (36 instead of 85 bytes a triangle); rays are then a tenth
#: slower.
COMPACT = 300_000
#: What Embree's own header calls these things.
_TRIANGLES, _INDEX, _VERTEX, _FLOAT3, _UINT3, COMPACT_FLAG = 0, 0, 1, 0x9003, 0x5003, 2
#: Where an EmbreeScene holds the scene's address, behind what every object of Python begins with; and how
#: large one then is.
_SCENE_AT, _SCENE_SIZE = 16, 40
_ADDRESS, _NUMBER, _SIZE = ctypes.c_void_p, ctypes.c_uint, ctypes.c_size_t
_CALLS = (
    ("rtcGetSceneDevice", _ADDRESS, (_ADDRESS,)),
    ("rtcReleaseDevice", None, (_ADDRESS,)),
    ("rtcGetDeviceError", ctypes.c_int, (_ADDRESS,)),
    ("rtcSetSceneFlags", None, (_ADDRESS, ctypes.c_int)),
    ("rtcNewGeometry", _ADDRESS, (_ADDRESS, ctypes.c_int)),
    (
        "rtcSetSharedGeometryBuffer",
        None,
        (_ADDRESS, ctypes.c_int, _NUMBER, ctypes.c_int, _ADDRESS, _SIZE, _SIZE, _SIZE),
    ),
    ("rtcCommitGeometry", None, (_ADDRESS,)),
    ("rtcAttachGeometry", _NUMBER, (_ADDRESS, _ADDRESS)),
    ("rtcReleaseGeometry", None, (_ADDRESS,)),
    ("rtcCommitScene", None, (_ADDRESS,)),
)


class Tree:
    """Triangles as rays meet them.

    vertices : (n, 3) float32 metres, faces : (m, 3) int32, m > 0, both contiguous.  They are kept, not
    copied, and must not change.  Raises IndexError where a face has a corner that is not there, MemoryError
    where there is no room for the tree.
    """

    def __init__(self, vertices: Floats32, faces: Ints32) -> None:
        self._scene = EmbreeScene()
        # Rays read them: whoever asks holds the tree, not only its scene.
        self._kept: tuple[object, ...] = (vertices, faces)
        library = embree()
        if library is None:
            # Shared corners are taken over twice as quickly as triangles of their own.
            used, own = np.unique(faces, return_inverse=True)
            self._kept = (TriangleMesh(self._scene, vertices[used], own.reshape(-1, 3).astype(np.int32)),)
            # The tree itself is built at the first ray.
            self._scene.run(np.zeros((1, 3), np.float32), np.ones((1, 3), np.float32))
        else:
            vertices, faces = readable_beyond(vertices), np.require(faces, requirements="A")
            self._kept = (vertices, faces)
            _fill(library, self._scene, vertices, faces)

    def nearest(self, start: Floats32, along: Floats32) -> tuple[Ints32, Floats32]:
        """Numbers of the faces that (n, 3) rays meet first, or -1, and how far along each."""
        hits = self._scene.run(start, along, output=1)
        return hits["primID"], hits["tfar"]

    def covered(self, start: Floats32, along: Floats32, reach_m: Floats32 | None = None) -> Bools:
        """(n,) bool: whether anything lies along each ray, or within ``reach_m`` (n,) of its beginning."""
        reach = () if reach_m is None else (reach_m,)
        met: Bools = np.asarray(self._scene.run(start, along, *reach, query="OCCLUDED")) == 0
        return met


def readable_beyond(vertices: Floats32) -> Floats32:
    """The same, where four bytes behind the last corner may be read as well: Embree takes corners four
    numbers at a time.  What a file has at odd places of memory is copied, too."""
    if vertices.flags.aligned and (vertices.ctypes.data + vertices.nbytes) % mmap.PAGESIZE:
        return vertices
    longer = np.zeros((len(vertices) + 1, 3), np.float32)
    longer[:-1] = vertices
    return longer[:-1]


def handle_of(scene: EmbreeScene) -> ctypes.c_void_p:
    """The library's own address of a scene."""
    return _ADDRESS.from_address(id(scene) + _SCENE_AT)


def attach_triangles(
    library: ctypes.CDLL, device: int, handle: ctypes.c_void_p | int, vertices: Floats32, faces: Ints32
) -> None:
    """Put triangles into a scene, which keeps the arrays as they lie.  Raises IndexError where a face has a
    corner that is not there."""
    # The library looks at nothing twice: it would read what lies beyond the corners.
    if int(faces.min()) < 0 or int(faces.max()) >= len(vertices):
        raise IndexError("a face has a corner that is not there")
    mesh = library.rtcNewGeometry(device, _TRIANGLES)
    for kind, form, array in ((_VERTEX, _FLOAT3, vertices), (_INDEX, _UINT3, faces)):
        library.rtcSetSharedGeometryBuffer(mesh, kind, 0, form, array.ctypes.data, 0, 12, len(array))
    library.rtcCommitGeometry(mesh)
    library.rtcAttachGeometry(handle, mesh)
    library.rtcReleaseGeometry(mesh)


@contextmanager
def filling(library: ctypes.CDLL, scene: EmbreeScene, compact: bool) -> Iterator[tuple[int, ctypes.c_void_p]]:
    """The device and the handle of a scene that is filled meanwhile, and built then.  Raises MemoryError
    where there is no room for its tree."""
    handle = handle_of(scene)
    device = library.rtcGetSceneDevice(handle)
    try:
        if compact:
            library.rtcSetSceneFlags(handle, COMPACT_FLAG)
        yield device, handle
        library.rtcCommitScene(handle)
        trouble = library.rtcGetDeviceError(device)
    finally:
        library.rtcReleaseDevice(device)
    if trouble:
        raise MemoryError(f"the ray caster's tree: error {trouble}")
    scene.is_committed = 1


def _fill(library: ctypes.CDLL, scene: EmbreeScene, vertices: Floats32, faces: Ints32) -> None:
    with filling(library, scene, len(faces) >= COMPACT) as (device, handle):
        attach_triangles(library, device, handle, vertices, faces)


@cache
def embree() -> ctypes.CDLL | None:
    """The library that embreex itself uses, if it can be spoken to and a ray then finds what it should."""
    if EmbreeScene.__basicsize__ != _SCENE_SIZE:
        return None
    try:
        (path,) = (item for item in files("embreex") or () if item.name.startswith("libembree4"))
        library = ctypes.CDLL(str(path.locate()))
        for name, result, takes in _CALLS:
            call = getattr(library, name)
            call.restype, call.argtypes = result, takes
    except (PackageNotFoundError, ValueError, OSError, AttributeError):
        return None
    scene = EmbreeScene()
    corners = np.array([(0, 0, 1), (1, 0, 1), (0, 1, 1), (0, 0, 0)], np.float32)
    _fill(library, scene, corners, np.array([(0, 1, 2)], np.int32))
    start, along = np.array([(0.2, 0.2, 0)], np.float32), np.array([(0, 0, 1)], np.float32)
    hits = scene.run(start, along, output=1)
    return library if hits["primID"][0] == 0 and abs(hits["tfar"][0] - 1.0) < 1e-5 else None
