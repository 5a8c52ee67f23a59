"""Giving memory back to the machine after large work."""

from __future__ import annotations

import ctypes
import gc
import threading
from pathlib import Path

#: Megabytes that a process holds before what is free in it is given back, and how much more it takes until that
#: is tried again.
MUCH, MORE = 300.0, 60.0
_libc = ctypes.CDLL(None)
_lock = threading.Lock()
_held = [MUCH]


def resident() -> float:
    """Megabytes that this process holds."""
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    return pages * 4096 / 1e6


def give_back() -> bool:
    """Give free memory back where this process holds much; whether it was tried."""
    if resident() < _held[0] or not _lock.acquire(blocking=False):
        return False
    try:
        gc.collect()
        if hasattr(_libc, "malloc_trim"):
            _libc.malloc_trim(0)
        _held[0] = max(MUCH, resident() + MORE)
    finally:
        _lock.release()
    return True
