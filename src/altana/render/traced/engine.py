"""Starting the path tracer: with LLVM where it is installed, otherwise one ray after the other."""

from __future__ import annotations

import ctypes.util
import os
from pathlib import Path
from types import ModuleType

#: Where Debian and its kin put the library; only versions that the compiler behind it works with.
LLVM_PLACES = (
    "/usr/lib/x86_64-linux-gnu/libLLVM.so.19.1",
    "/usr/lib/x86_64-linux-gnu/libLLVM-19.so",
    "/usr/lib/aarch64-linux-gnu/libLLVM.so.19.1",
    "/usr/lib/aarch64-linux-gnu/libLLVM-19.so",
    "/usr/lib64/libLLVM.so.19.1",
    "/usr/lib/llvm-19/lib/libLLVM.so.19.1",
)
LLVM_SETTING = "DRJIT_LIBLLVM_PATH"
#: Puts it off, for machines where it fails, and for tests.
PLAIN_SETTING = "ALTANA_TRACE_PLAIN"
FAST, PLAIN = "llvm_ad_rgb", "scalar_rgb"


def llvm_library() -> str:
    """The library of LLVM 19, empty where there is none; older ones end the process and are not taken."""
    if os.environ.get(PLAIN_SETTING):
        return ""
    setting = os.environ.get(LLVM_SETTING)
    if setting:
        return setting
    for place in LLVM_PLACES:
        if Path(place).is_file():
            return place
    return ctypes.util.find_library("LLVM-19") or ""


def start_engine() -> tuple[ModuleType, bool]:
    """The path tracer's module, ready, and whether it follows many rays at a time."""
    library = llvm_library()
    if library:
        os.environ[LLVM_SETTING] = library
    import mitsuba

    mitsuba.set_variant(FAST if library else PLAIN)
    mitsuba.set_log_level(mitsuba.LogLevel.Error)
    return mitsuba, bool(library)
