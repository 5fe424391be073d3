"""The run's side of a cluster: sends files and pieces, keeps the machines busy in the run's own order, and
puts together what comes back."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any

import distributed

from altana.core.conventions import parse_rate
from altana.core.errors import UserError
from altana.core.light.own import light_for
from altana.core.light.transport import Cancelled
from altana.core.progress import Progress
from altana.core.project import Light
from altana.core.standing import standable
from altana.core.walk.sample import resolve, sample
from altana.jobs.following import MachineShare
from altana.jobs.light import film_lights, light_name, light_of
from altana.jobs.machines import files
from altana.jobs.machines.lent import NOT_THERE, LentWork, gone
from altana.jobs.machines.pieces import Common, PackedFile, packed
from altana.jobs.machines.places import anybody_at, security_of
from altana.jobs.machines.serving import kind, settle
from altana.jobs.picture import PictureWork
from altana.jobs.requests import Film, Item, Request
from altana.storage.cache import light_file

#: So long a scheduler may take to answer, also on a machine that has much to do.
ANSWER_S = 30


class Fleet:
    """Machines that were lent.  ``close`` lets them go."""

    def __init__(self, address: str, certificates: Path | None = None) -> None:
        """Raises UserError where no scheduler answers."""
        settle()
        nobody = UserError(
            f"No scheduler answers at {address}. Nothing was begun. Start one there with `altana scheduler`."
        )
        if not anybody_at(address, ANSWER_S):
            raise nobody
        makes: Any = distributed.Client
        try:
            self.client = makes(
                address,
                security=security_of(certificates),
                timeout=ANSWER_S,
                set_as_default=False,
                name="altana",
            )
        except (OSError, TimeoutError, ValueError, RuntimeError) as error:
            raise nobody from error
        self.kind = kind()
        self.done: dict[str, MachineShare] = {}

    def machines(self) -> tuple[list[str], list[str]]:
        """Names of the machines that can make the same pictures as this one, and of those that cannot."""
        try:
            workers: dict[str, Any] = self.client.scheduler_info(n_workers=-1).get("workers", {})
        except NOT_THERE as error:
            raise gone() from error
        same: list[str] = []
        others: list[str] = []
        for item in workers.values():
            (same if self.kind in item.get("resources", {}) else others).append(str(item["name"]))
        return sorted(same), sorted(others)

    def lend(
        self,
        request: Request,
        work: PictureWork,
        items: list[Item],
        progress: Progress,
        journal: Callable[..., None],
    ) -> LentWork:
        """Send what is needed for some items of a request, its light included.  Raises UserError or
        Cancelled."""
        common = self._sent(request, work, items, progress)
        return LentWork(self, request, work, common, journal)

    def _sent(self, request: Request, work: PictureWork, items: list[Item], progress: Progress) -> str:
        parcels = files.packed_files(request.project, items, work.rows.base)
        lights = {}
        for light in _lights(work, items):
            if light_of(work.rows.opened, light, progress, work.rows.base, work.rows.lighting) is None:
                continue
            name = light_name(work.rows.opened, light)
            path = light_file(name)
            if path.is_file():
                lights[PackedFile(name, files.digest_of_file(path), path.stat().st_size)] = path
        project = replace(request.project, shots=(), planned=())
        common = packed(
            Common(project, request.quality, request.samples, request.minutes, tuple(parcels), tuple(lights))
        )
        name = files.digest_of(common)
        self._put({name: common}, {item.digest: path for item, path in (parcels | lights).items()}, progress)
        return name

    def _put(self, contents: dict[str, bytes], paths: dict[str, Path], progress: Progress) -> None:
        """Files to the scheduler that are not there yet, nor in a folder that both see."""
        for digest, data in (contents | paths).items():
            files.share(digest, data)
        wanted: list[str] = self._call("altana_missing", digests=[*contents, *paths])
        for number, digest in enumerate(wanted):
            start = 0
            for data, last in _chunks(contents.get(digest), paths.get(digest)):
                sentence: str = self._call("altana_put", digest=digest, start=start, data=data, last=last)
                start += len(data)
                if sentence:
                    raise UserError(sentence)
                if not progress(number / len(wanted)):
                    raise Cancelled

    def _call(self, what: str, **values: Any) -> Any:
        try:
            return self.client.sync(getattr(self.client.scheduler, what), **values)
        except NOT_THERE as error:
            raise gone() from error

    def facts(self) -> list[dict[str, Any]]:
        """Who did what, how fast, and what failed where, as plain values."""
        return [
            {
                "name": name,
                "pieces": machine.pieces,
                "seconds": round(machine.seconds, 2),
                "fetched_bytes": machine.fetched,
                "trouble": machine.trouble,
            }
            for name, machine in sorted(self.done.items())
        ]

    def close(self) -> None:
        """Let the machines go."""
        with contextlib.suppress(OSError, TimeoutError, RuntimeError):
            self.client.close(timeout=2)


def _chunks(data: bytes | None, path: Path | None) -> Iterator[tuple[bytes, bool]]:
    """What a file holds in parts, and whether a part is the last."""
    whole = len(data) if data is not None else path.stat().st_size if path is not None else 0
    if data is not None:
        yield data, True
        return
    assert path is not None
    with path.open("rb") as file:
        at = 0
        while True:
            block = file.read(files.CHUNK)
            at += len(block)
            yield block, at >= whole or not block
            if at >= whole or not block:
                return


def _lights(work: PictureWork, items: list[Item]) -> list[Light]:
    """Every light that some items are drawn in, once."""
    project, lights = work.rows.project, [work.rows.project.light]
    for item in items:
        if not isinstance(item, Film):
            light = work.rows.light_of(item)
            lights += [light] if not work.tracer.traced(item.shot) else []
            continue
        still = light_for(project.light, None, item.shot)
        line = resolve(item.walk, standable(work.rows.opened.model))
        rows, frames = sample(line, parse_rate(item.rate)), list(item.frames)
        lights += film_lights(still, rows.hour[frames], rows.lamps[frames]).all or (still,)
    return list(dict.fromkeys(lights))
