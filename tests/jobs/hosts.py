"""Hosts of one machine: processes in network namespaces of their own, joined by a bridge; or all on the
loopback where that is not allowed."""

from __future__ import annotations

import contextlib
import itertools
import os
import shutil
import subprocess
from collections.abc import Iterator
from dataclasses import dataclass, field

#: Several may be there at a time.
_counted = itertools.count()


@dataclass
class Hosts:
    """Names of hosts with what a command is begun with there, and the address that others reach it at; none
    where all share one."""

    prefix: str = ""
    net: str = ""
    names: dict[str, int] = field(default_factory=dict)

    def on(self, name: str) -> list[str]:
        """What comes before a command that is to run on a host of this name; the host is made where there is
        none yet."""
        if not self.prefix:
            return []
        space = f"{self.prefix}-{name}"
        if name not in self.names:
            self.names[name] = number = len(self.names) + 2
            # A cable has two ends: one in the host, one at the bridge.
            here, there = f"{self.prefix}h{number}", f"{self.prefix}b{number}"
            _ip("netns", "add", space)
            _ip("link", "add", here, "type", "veth", "peer", "name", there)
            _ip("link", "set", there, "master", self.prefix, "up")
            _ip("link", "set", here, "netns", space)
            for words in (
                ["link", "set", "lo", "up"],
                ["addr", "add", f"{self.net}.{number}/24", "dev", here],
                ["link", "set", here, "up"],
            ):
                _ip("netns", "exec", space, "ip", *words)
        return ["ip", "netns", "exec", space]

    def address(self, name: str) -> str:
        """Where a host is reached."""
        return f"{self.net}.{self.names[name]}" if self.prefix else "127.0.0.1"


@contextlib.contextmanager
def hosts() -> Iterator[Hosts]:
    """Hosts that are gone afterwards, with this process on the same network."""
    count = next(_counted)
    network = Hosts(f"a{os.getpid() % 100000}x{count}", f"10.{200 + count}.{os.getpid() % 250}")
    try:
        _ip("link", "add", network.prefix, "type", "bridge")
        _ip("addr", "add", f"{network.net}.1/24", "dev", network.prefix)
        _ip("link", "set", network.prefix, "up")
        network.on("first")
    except (OSError, subprocess.CalledProcessError):
        # No right to do so here, or no iproute2.
        _gone(network)
        network = Hosts()
    try:
        yield network
    finally:
        _gone(network)


def _ip(*words: str) -> None:
    subprocess.run(["ip", *words], check=True, capture_output=True)


def _gone(made: Hosts) -> None:
    if not made.prefix or shutil.which("ip") is None:
        return
    for name in made.names:
        subprocess.run(["ip", "netns", "del", f"{made.prefix}-{name}"], check=False, capture_output=True)
    subprocess.run(["ip", "link", "del", made.prefix], check=False, capture_output=True)
