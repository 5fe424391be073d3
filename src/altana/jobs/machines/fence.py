"""What Dask may do here: its own bookkeeping, and one function of Altana's.

Dask sends tasks between machines as pickles, which may name any function of any library.  Here every pickle
is read with a list of what may be named in it; anything else is refused before it is made.  Of the many
things that a scheduler and a worker do when somebody who is connected asks, only those that a run needs are
left.
"""

from __future__ import annotations

import io
import logging
import pickle
from types import SimpleNamespace
from typing import Any

import distributed.protocol.pickle as dask_pickle

log = logging.getLogger(__name__)

#: What pickles may name: module, and names in it.
MAY_BE_NAMED = {
    "altana.jobs.machines.bench": {"do_piece"},
    "builtins": {"bytes", "bytearray", "memoryview", "str", "int", "float", "bool", "tuple", "list", "dict", "set", "frozenset", "complex", "slice", "Exception", "RuntimeError", "ValueError", "TypeError", "KeyError", "OSError"},
    "collections": {"OrderedDict", "defaultdict"},
    "dask._task_spec": {"Task", "Alias", "DataNode", "TaskRef", "List", "Tuple", "Dict", "NestedContainer"},
    "dask.highlevelgraph": {"HighLevelGraph", "MaterializedLayer"},
    "dask._expr": {"HLGExpr", "LLGExpr", "Expr._reconstruct"},
    "tblib.pickling_support": {"unpickle_exception_with_attrs", "unpickle_exception"},
    "distributed.protocol.serialize": {"Serialize", "Serialized", "ToPickle"},
    "distributed.scheduler": {"KilledWorker", "NoWorkerError", "NoValidWorkerError"},
    "distributed.exceptions": {"FutureCancelledError"},
}  # fmt: skip

#: What a scheduler does when it is asked.
SCHEDULER_DOES = {
    "register-client", "register-worker", "unregister", "gather", "heartbeat_worker", "identity", "ping", "who_has", "has_what",
    "ncores", "ncores_running", "processing", "get_task_status", "get_metadata", "versions", "connection_stream", "stream-start",
    "subscribe_worker_status", "nbytes", "terminate", "retry",
    "altana_missing", "altana_put", "altana_get",
}  # fmt: skip
#: What a worker does when it is asked.
WORKER_DOES = {"gather", "get_data", "free_keys", "ping", "identity", "keys", "versions", "connection_stream", "stream-start", "terminate"}  # fmt: skip


class _Fenced(pickle.Unpickler):
    def find_class(self, module: str, name: str) -> Any:
        if name in MAY_BE_NAMED.get(module, ()):
            return super().find_class(module, name)
        raise pickle.UnpicklingError(f"{module}.{name} is not among what may be named between machines")


def _loads(data: Any, *, buffers: Any = ()) -> Any:
    return _Fenced(io.BytesIO(data), buffers=buffers or None).load()


def fence() -> None:
    """From now on Dask in this process reads no pickle that names anything else."""
    pickling: Any = dask_pickle
    pickling.pickle = SimpleNamespace(
        loads=_loads,
        dumps=pickle.dumps,
        Pickler=pickle.Pickler,
        HIGHEST_PROTOCOL=pickle.HIGHEST_PROTOCOL,
        UnpicklingError=pickle.UnpicklingError,
    )


def keep_only(server: Any, does: set[str]) -> None:
    """Forget everything that a scheduler or a worker does besides."""
    for name in set(server.handlers) - does:
        del server.handlers[name]
