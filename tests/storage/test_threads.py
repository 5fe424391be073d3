"""Files read for the first time by several threads at once."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import pytest

from altana.core.model import Material
from altana.storage.cache import keep_model
from tests.conftest import box_between, model_of

READ = """
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from threading import Barrier
sys.setswitchinterval(1e-6)
from altana.storage.cache import load_model
path, key = Path(sys.argv[1]), sys.argv[2]
together = Barrier(8)
def read(_):
    together.wait()
    return load_model(path, key)
with ThreadPoolExecutor(8) as pool:
    assert all(found is not None for found in pool.map(read, range(8)))
"""


@pytest.mark.slow
def test_the_first_models_of_a_process_are_read_by_several_threads(tmp_path: Path) -> None:
    path = tmp_path / "house.stl"
    path.write_bytes(b"x")
    keep_model(path, "first", model_of(("Box", box_between((0, 0, 0), (1, 1, 1)), Material("M"))), [])
    for _ in range(6):
        subprocess.run([sys.executable, "-c", READ, str(path), "first"], check=True, timeout=600)
