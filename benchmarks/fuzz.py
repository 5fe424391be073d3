# ruff: noqa: BLE001 - whatever fails here, however it does, is what is looked for
"""Readers under coverage-guided fuzzing: files are bent until new lines of the reader are reached, for so
many minutes.

    .venv/bin/pip install atheris==3.0.0
    .venv/bin/python benchmarks/fuzz.py READER [MINUTES]

What counts as failed: an exception that is no sentence, a sentence with a word of Python in it, a file (16 KB
at most) that takes longer than 5 s or more than 3 GB, a process that dies, and a model that is read but is
not sound.  Each kind of failure is told once; its file stays in ``build/fuzz/READER/failed``, the files that
reach new lines in ``build/fuzz/READER/corpus``.
"""

from __future__ import annotations

import logging
import re
import sys
import tempfile
import time
import traceback
import warnings
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

import atheris

with atheris.instrument_imports(include=["altana"]):
    import numpy as np

    from altana.core.errors import UserError
    from altana.core.light.tables import table_of
    from altana.core.model import Model
    from altana.core.radiance import read_radiance
    from altana.exchange.bcf_in import read_bcf
    from altana.exchange.gltf_in import read_gltf_cameras
    from altana.exchange.tables_in import read_table
    from altana.importers import cityjson, dae, dxf, obj, off, ply, scans, stl, threemf  # noqa: F401 - loaded while lines are counted
    from altana.importers.gltf import read as gltf_read  # noqa: F401
    from altana.importers.ifcxml import read_ifcxml
    from altana.importers.table import read_model
    from altana.render.metadata import read_xmp
    from altana.storage.presets import read_preset, read_style
    from altana.storage.project_file import from_json, to_json

ROOT = Path(__file__).parents[1] / "build" / "fuzz"
SLOWEST_S, LARGEST_MB, LONGEST_BYTES = 20, 3000, 16_384
PYTHON_WORDS = re.compile(r"Traceback|Error:|Exception|NoneType|object at 0x|<class")
HERE = (0.0, 0.0, 0.0)


@dataclass
class Target:
    """A reader, what a file of its kind is called, and files to begin with."""

    read: Callable[[Path], object]
    suffix: str
    seeds: list[bytes] = field(default_factory=list)


def model(path: Path) -> object:
    return sound(read_model(path)[0])


def sound(found: Model) -> Model:
    """What everything else counts on.  Raises AssertionError."""
    assert np.isfinite(found.vertices).all(), "places that are no numbers"
    assert len(found.face_material) == len(found.faces) == sum(item.face_count for item in found.objects)
    if len(found.faces):
        assert 0 <= found.faces.min() and found.faces.max() < len(found.vertices), (
            "corners that are not there"
        )
        assert 0 <= found.face_material.min() and found.face_material.max() < len(found.materials)
    return found


def project(path: Path) -> object:
    """What is read can be written and read again, and is the same."""
    first = from_json(path.read_bytes(), path.name)
    again = from_json(to_json(first), path.name)
    assert again == first, "another project when written and read again"
    return again


def text(path: Path) -> str:
    return path.read_bytes().decode("utf-8", "replace")


def targets() -> dict[str, Target]:
    """Every reader of our own."""
    box = "v 0 0 0\nv 3 0 0\nv 3 2 0\nv 0 2 0\nv 0 0 3\nvt 0 0\nvn 0 0 1\n"
    obj_text = (
        f"mtllib a.mtl\n{box}o Wall\ng A B\nusemtl x\ns 1\nf 1/1/1 2/1/1 3/1/1 4/1/1\nf -1 -2 -3\nl 1 2\n"
    )
    gltf = (
        '{"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"mesh":0,"children":[1],"name":"a"},{"camera":0,'
        '"rotation":[0,0,0,1],"extensions":{"KHR_lights_punctual":{"light":0}}}],"cameras":[{"type":"perspective","perspective":{"yfov":1,'
        '"znear":0.1}}],"extensions":{"KHR_lights_punctual":{"lights":[{"type":"spot","intensity":9,"spot":{}}]}},'
        '"materials":[{"pbrMetallicRoughness":{"baseColorFactor":[1,1,1,1]},"alphaMode":"BLEND","extensions":{"KHR_materials_ior":{"ior":1.4}}}],'
        '"meshes":[{"primitives":[{"attributes":{"POSITION":0},"indices":1,"material":0,"mode":4}]}],"accessors":[{"bufferView":0,'
        '"componentType":5126,"count":3,"type":"VEC3","max":[1,1,0],"min":[0,0,0]},{"bufferView":1,"componentType":5123,"count":3,'
        '"type":"SCALAR"}],"bufferViews":[{"buffer":0,"byteLength":36},{"buffer":0,"byteOffset":36,"byteLength":6}],"buffers":[{"byteLength":42,'
        '"uri":"data:application/octet-stream;base64,AAAAAAAAAAAAAAAAAACAPwAAAAAAAAAAAAAAAAAAgD8AAAAAAAABAAIA"}]}'
    )
    city = (
        '{"type":"CityJSON","version":"1.1","transform":{"scale":[0.001,0.001,0.001],"translate":[0,0,0]},"CityObjects":{"a":{"type":"Building",'
        '"geometry":[{"type":"MultiSurface","lod":"2","boundaries":[[[0,1,2,3]]],"semantics":{"surfaces":[{"type":"RoofSurface"}],"values":[0]}}]}},'
        '"vertices":[[0,0,0],[9000,0,0],[9000,9000,0],[0,9000,0]]}'
    )
    ply = "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0 9\n1 0 0 9\n0 1 0 9\n3 0 1 2\n"
    dxf_text = "0\nSECTION\n2\nENTITIES\n0\nLINE\n8\nA\n10\n0\n20\n0\n11\n5\n21\n5\n0\n3DFACE\n8\nB\n10\n0\n20\n0\n30\n0\n11\n1\n21\n0\n31\n0\n12\n1\n22\n1\n32\n0\n13\n0\n23\n1\n33\n0\n0\nINSERT\n2\nX\n10\n1\n20\n1\n0\nENDSEC\n0\nEOF\n"
    ifcxml = '<?xml version="1.0"?><ifcXML xmlns="http://www.buildingsmart-tech.org/ifcXML/IFC4/final"><IfcProject id="i1" GlobalId="0" Name="x"/><IfcCartesianPoint id="i2" Coordinates="0. 1. 2."/></ifcXML>'
    collada = (
        '<?xml version="1.0"?><COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1"><asset><unit meter="0.01"/><up_axis>Y_UP'
        '</up_axis></asset><library_effects><effect id="e"><profile_COMMON><technique sid="c"><phong><diffuse><color>1 0 0 1</color></diffuse>'
        "<transparency><float>0.5</float></transparency></phong></technique></profile_COMMON></effect></library_effects><library_materials>"
        '<material id="m" name="Red"><instance_effect url="#e"/></material></library_materials><library_geometries><geometry id="g"><mesh><source id="p">'
        '<float_array id="a" count="12">0 0 0 1 0 0 1 1 0 0 1 0</float_array><technique_common><accessor source="#a" count="4" stride="3"><param name="X" '
        'type="float"/><param name="Y" type="float"/><param name="Z" type="float"/></accessor></technique_common></source><vertices id="v"><input '
        'semantic="POSITION" source="#p"/></vertices><triangles count="1" material="m"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2</p>'
        '</triangles><polylist count="1" material="m"><input semantic="VERTEX" source="#v" offset="0"/><vcount>4</vcount><p>0 1 2 3</p></polylist></mesh>'
        '</geometry></library_geometries><library_visual_scenes><visual_scene id="s"><node id="n" name="Wall"><matrix>1 0 0 0 0 1 0 0 0 0 1 0 0 0 0 1'
        '</matrix><instance_geometry url="#g"/></node></visual_scene></library_visual_scenes><scene><instance_visual_scene url="#s"/></scene></COLLADA>'
    )
    hdr = b"#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 2 +X 4\n" + bytes(range(32))
    cube = b'TITLE "x"\nLUT_3D_SIZE 2\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 1 1\n' + b"0 0 0\n1 1 1\n" * 4
    table = b"name,x,y,z,heading,tilt,focal\nA,0,1,1.6,90,0,24\nB,2,1,1.6,80,0,24\n"
    xmp = b'<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description altana:Camera="{}" xmlns:altana="urn:altana:camera:1.0"/></rdf:RDF></x:xmpmeta>'
    made = {
        "project": Target(project, ".altana", [_project()]),
        "obj": Target(model, ".obj", [obj_text.encode()]),
        "gltf": Target(model, ".gltf", [gltf.encode()]),
        "cityjson": Target(model, ".city.json", [city.encode()]),
        "ply": Target(model, ".ply", [ply.encode()]),
        "off": Target(model, ".off", [b"COFF\n3 1 0\n0 0 0 9 9 9\n1 0 0 9 9 9\n0 1 0 9 9 9\n3 0 1 2 255 0 0\n"]),
        "dxf": Target(model, ".dxf", [dxf_text.encode()]),
        "collada": Target(model, ".dae", [collada.encode()]),
        "ifcxml": Target(lambda path: read_ifcxml(path, path.name), ".ifcxml", [ifcxml.encode()]),
        "radiance": Target(lambda path: read_radiance(path.read_bytes()), ".hdr", [hdr]),
        "colour table": Target(lambda path: table_of(text(path)), ".cube", [cube]),
        "places": Target(lambda path: read_table(path, HERE), ".csv", [table]),
        "gltf cameras": Target(lambda path: read_gltf_cameras(path, HERE), ".gltf", [gltf.encode()]),
        "remarks": Target(lambda path: read_bcf(path, HERE), ".bcf", _remarks()),
        "presets": Target(
            lambda path: read_preset(path) if path.stat().st_size % 2 else read_style(path), ".json", [*_presets()]
        ),
        "picture tags": Target(lambda path: read_xmp(path.read_bytes()), ".xmp", [xmp]),
    }  # fmt: skip
    return made


def _project() -> bytes:
    from altana.core.edits.cameras import add_camera
    from altana.core.project import Camera, Project, Walk, WalkKey

    made, _ = add_camera(Project("Fuzz"), Camera("", "A", (1.0, 2.0, 1.6)))
    walk = Walk("walk-01", "W", (WalkKey((0.0, 0.0, 1.6)), WalkKey((5.0, 0.0, 1.6))))
    return to_json(Project(made.name, cameras=made.cameras, walks=(walk,)))


def _presets() -> list[bytes]:
    from altana.core.project import Shot
    from altana.core.styles import STYLES
    from altana.storage.presets import preset_json, style_json

    made = [preset_json(Shot("", "still", "")), style_json(STYLES[0])]
    # Which reader takes a file goes by whether its length is odd.
    return [made[0] + b" " * (1 - len(made[0]) % 2), made[1] + b" " * (len(made[1]) % 2)]


def _remarks() -> list[bytes]:
    import io
    import zipfile

    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        archive.writestr("bcf.version", '<Version VersionId="2.1"/>')
        archive.writestr(
            "a/markup.bcf",
            '<Markup><Topic Guid="a"><Title>x</Title></Topic><Viewpoints Guid="b"><Viewpoint>v.bcfv</Viewpoint></Viewpoints></Markup>',
        )
        archive.writestr("a/v.bcfv", '<VisualizationInfo Guid="b"/>')
    return [buffer.getvalue()]


class Fuzzing:
    """One reader, and what was found."""

    def __init__(self, name: str, target: Target) -> None:
        self.target, self.folder = target, ROOT / name.replace(" ", "-")
        (self.folder / "failed").mkdir(parents=True, exist_ok=True)
        self.path = Path(tempfile.mkdtemp(prefix="altana-fuzz-")) / f"f{target.suffix}"
        self.tried = self.refused = 0
        self.failed: dict[str, str] = {}
        self.begun = self.told = time.monotonic()

    def one(self, data: bytes) -> None:
        """Read a file of these bytes."""
        self.tried += 1
        self.path.write_bytes(data)
        began = time.monotonic()
        try:
            self.target.read(self.path)
        except UserError as error:
            self.refused += 1
            if PYTHON_WORDS.search(error.sentence):
                self._fail("a word of Python: " + error.sentence[:160], data)
        except Exception as error:
            last = traceback.extract_tb(error.__traceback__)[-1]
            self._fail(f"{type(error).__name__} {Path(last.filename).name}:{last.lineno} {error}"[:200], data)
        spent = time.monotonic() - began
        if spent > SLOWEST_S / 4:
            self._fail(f"slow at {len(data)} bytes", data)
        if time.monotonic() - self.told > 5.0:
            # The fuzzer ends the process without asking: what was done is told on the way.
            self.told = time.monotonic()
            minutes = (self.told - self.begun) / 60.0
            (self.folder / "told.txt").write_text(
                f"| {self.folder.name} | {minutes:.1f} min | {self.tried} | {self.refused} | {len(self.failed)} |\n"
            )

    def _fail(self, told: str, data: bytes) -> None:
        kind = re.sub(r"\d+", "#", told)[:90]
        if kind not in self.failed:
            self.failed[kind] = told
            (self.folder / "failed" / f"{len(self.failed)}{self.target.suffix}").write_bytes(data)
            print(f"  ! {told}", flush=True)


def main() -> int:
    """Fuzz one reader; ``told.txt`` beside its corpus has the line for the table: time, tried, refused with a
    sentence, failed."""
    logging.disable(logging.CRITICAL)
    warnings.simplefilter("ignore")
    name, minutes = sys.argv[1], float(sys.argv[2]) if len(sys.argv) > 2 else 20.0
    fuzzing = Fuzzing(name, targets()[name])
    corpus = fuzzing.folder / "corpus"
    corpus.mkdir(exist_ok=True)
    for number, seed in enumerate(fuzzing.target.seeds):
        (corpus / f"seed-{number}").write_bytes(seed)
    limits = [f"-max_total_time={int(60 * minutes)}", f"-timeout={SLOWEST_S}", f"-rss_limit_mb={LARGEST_MB}"]
    words = [sys.argv[0], str(corpus), *limits, f"-max_len={LONGEST_BYTES}", "-print_final_stats=0", "-verbosity=0"]  # fmt: skip
    words.append(f"-artifact_prefix={fuzzing.folder}/failed/")

    atheris.Setup(words, fuzzing.one)
    atheris.Fuzz()
    return 0


if __name__ == "__main__":
    sys.exit(main())
