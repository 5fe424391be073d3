"""Several machines: one run against the same run in two processes, and how far more of them would help.

``benchmarks/machines.py PROJECT`` makes the project's list as test pictures once in one process and once in
two, each with one core of two, after everything was kept; prints both times as a ratio, and what sending a
piece and a byte costs.  From the times and sizes of the pieces of that run, those of a night (the same list
in full and ten times as many film frames), it simulates 1 to 1000 machines.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np

from altana.jobs.machines import files
from altana.jobs.machines.bench import do_piece
from altana.jobs.machines.fleet import Fleet
from altana.jobs.machines.local import local_cluster
from altana.jobs.machines.pieces import Result, packed, packed_array, read_result
from altana.jobs.machines.plan import NETWORK, Cost, simulate

COUNTS = (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000)
#: Pieces of the list in full take about so many times as long as those of its test pictures (a quarter of the
#: size each way); a night has ten lists.
LARGER, LONGER = 16.0, 10


def make(project: Path, out: Path, *more: str) -> float:
    """Seconds that a run of the list takes."""
    words = [
        "render",
        str(project),
        "--shots",
        "--test",
        "--out",
        str(out),
        "--job",
        str(out / "job"),
        "--unlisted",
    ]
    began = time.monotonic()
    command = [sys.executable, "-m", "altana", *words, "--json", *more]
    subprocess.run(command, check=True, stdout=subprocess.DEVNULL)
    return time.monotonic() - began


def overheads() -> tuple[float, float, float]:
    """Seconds that a piece costs beside its making, and bytes a second that come from the scheduler, and that
    are read back."""
    with local_cluster(2) as address:
        fleet = Fleet(address)
        while len(fleet.machines()[0]) < 2:
            time.sleep(0.1)
        began = time.monotonic()
        sent = [
            fleet.client.submit(do_piece, b"none", key=f"none-{n}", resources={fleet.kind: 1}, pure=False)
            for n in range(300)
        ]
        for future in sent:
            future.result()
        a_piece = (time.monotonic() - began) / len(sent)
        data = np.random.default_rng(0).bytes(100_000_000)
        digest = files.digest_of(data)
        for start in range(0, len(data), files.CHUNK):
            last = start + files.CHUNK >= len(data)
            fleet._call(
                "altana_put", digest=digest, start=start, data=data[start : start + files.CHUNK], last=last
            )
        began = time.monotonic()
        for start in range(0, len(data), files.CHUNK):
            fleet._call("altana_get", digest=digest, start=start)
        wire = len(data) / (time.monotonic() - began)
        fleet.close()
    values = np.random.default_rng(0).random((2000, 4000, 3), np.float32)
    result = packed(Result("m", 0.0, arrays={"light": packed_array(values)}))
    began = time.monotonic()
    whole = np.empty_like(values)
    whole[:] = read_result(result).array("light")
    return a_piece, wire, values.nbytes / (time.monotonic() - began)


def pieces_of(out: Path) -> list[Cost]:
    """What the pieces of a run took and what came back: a film frame as PNG, a picture as its file."""
    events = [json.loads(line) for line in (out / "job" / "journal.jsonl").read_text().splitlines()]
    return [Cost(event["took"], 3e6) for event in events if event["event"] == "helped"]


def main() -> None:
    """Print it all."""
    project = Path(sys.argv[1])
    with tempfile.TemporaryDirectory() as folder:
        make(project, Path(folder) / "warm")
        took = [
            (
                make(project, Path(folder) / f"one{n}"),
                make(project, Path(folder) / f"two{n}", "--machines", "2"),
            )
            for n in range(2)
        ]
        one, two = (float(np.median([pair[k] for pair in took])) for k in (0, 1))
        print(
            f"the list as test pictures: one process {one:.1f} s, two processes {two:.1f} s, {two / one:.2f} x ({os.cpu_count()} cores)"
        )
        measured = pieces_of(Path(folder) / "two0")
    a_piece, wire, read = overheads()
    print(
        f"a piece costs {a_piece * 1e3:.1f} ms beside its making; files come at {wire / 1e6:.0f} MB/s; arrays are read back at {read / 1e6:.0f} MB/s"
    )
    night = [Cost(piece.seconds * LARGER, piece.size) for _ in range(LONGER) for piece in measured]
    print(
        f"{len(measured)} pieces, {sum(p.seconds for p in measured):.0f} s; a night of {len(night)} pieces, {sum(p.seconds for p in night) / 3600:.1f} h on one machine"
    )
    print("machines  list, s  night, min  times as fast  at work  network busy  own machine busy")
    alone = simulate(night, 1, 8.0, 50e6).seconds
    for count in COUNTS:
        short = simulate(measured, count, 3.0, 50e6)
        long = simulate(night, count, 8.0, 50e6)
        print(
            f"{count:8}  {short.seconds:7.1f}  {long.seconds / 60:10.1f}  {alone / long.seconds:13.1f}  {long.busy:7.0%}  {long.network_s / long.seconds:12.0%}  {long.head_s / long.seconds:16.0%}"
        )
    longest = max(piece.seconds for piece in night)
    luggage = 50e6 / NETWORK
    print(
        f"It cannot be faster than its longest piece ({longest:.0f} s) after the last machine has its files ({luggage:.2f} s each, one after the other)."
    )


if __name__ == "__main__":
    main()
