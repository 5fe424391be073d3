"""Altana asks nothing over a network: no address is looked up and none is connected to; without a network
everything works."""

from __future__ import annotations

import shutil
import subprocess
import sys
from pathlib import Path

import pytest

SCRIPT = """
import sys
met = []
sys.addaudithook(lambda name, told: met.append((name, str(told))) if name in ("socket.connect", "socket.getaddrinfo", "socket.gethostbyname", "urllib.Request") else None)
from click.testing import CliRunner
from altana.cli.main import commands
project, out = sys.argv[1:]
for words in (
    ["inspect", project], ["camera", "check", project, "cam-01"],
    ["render", project, "--camera", "cam-01", "--size", "64x36", "--quality", "proof", "--out", out], ["made", project],
    # Last, or the picture would need a light that nobody has computed.
    ["light", project, "--place", "Hamburg"],
):
    found = CliRunner().invoke(commands, words, catch_exceptions=False)
    assert found.exit_code == 0, found.output
print(len(met), met[:3])
"""


@pytest.mark.parametrize(
    "alone",
    [False, pytest.param(True, marks=pytest.mark.slow)],
    ids=["with a network", "in a network namespace of its own"],
)
def test_nothing_is_asked_over_a_network(alone: bool, demo_copy: Path, tmp_path: Path) -> None:
    before = ["unshare", "--map-root-user", "--net"] if alone else []
    if alone and (
        shutil.which("unshare") is None
        or subprocess.run([*before, "true"], capture_output=True, check=False).returncode
    ):
        pytest.skip("this machine allows no network namespaces")
    command = [*before, sys.executable, "-c", SCRIPT, str(demo_copy), str(tmp_path / "out")]
    done = subprocess.run(command, capture_output=True, text=True, timeout=600, check=False)
    assert done.returncode == 0, done.stderr
    assert done.stdout.splitlines()[-1] == "0 []"
