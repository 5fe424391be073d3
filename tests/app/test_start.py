"""What the window loads before it shows anything: the children draw, so it needs none of what draws or writes
films."""

from __future__ import annotations

import subprocess
import sys

NOT_NEEDED = {
    "moderngl",
    "av",
    "tifffile",
    "scipy.spatial",
    "distributed",
    "reportlab",
    "ifcopenshell",
    "trimesh",
    "mitsuba",
    "altana.render.renderer",
    "altana.jobs.run",
    "altana.jobs.film",
}


def test_the_window_loads_nothing_that_draws() -> None:
    script = "import sys, altana.app.shell.window; print('\\n'.join(sys.modules))"
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
    loaded = set(done.stdout.split())
    assert "altana.app.compose.desk" in loaded
    assert loaded & NOT_NEEDED == set()


def test_the_child_that_draws_is_started_before_the_window_loads_anything() -> None:
    script = "import sys, altana.app.shell.main; print('\\n'.join(sys.modules))"
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
    loaded = set(done.stdout.split())
    assert "altana.jobs.service" in loaded
    assert loaded & {"PySide6", "numpy", "msgspec", "altana.core.project", "altana.jobs.orders"} == set()
