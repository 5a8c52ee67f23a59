"""Which classes of tests run which lines, and how long each class takes.

    python -m bench.test_lines FILE LABEL...

writes JSON to FILE: ``seconds`` by class, and ``lines`` by file and line number, each with the
classes that run it; ``""`` stands for what runs as modules are loaded. Caches of functions are
emptied before each class, so that none profits from what another has computed.
"""

from __future__ import annotations

import gc
import json
import sys
import time
import unittest
from collections import defaultdict
from functools import _lru_cache_wrapper
from pathlib import Path
from typing import Any

import coverage
import django
from django.test.runner import DiscoverRunner

ROOT = Path(__file__).resolve().parents[1]


def main(file: str, labels: list[str]) -> int:
    measuring = coverage.Coverage(source=["prism", "studio"], data_file=None, messages=False)
    seconds: dict[str, float] = defaultdict(float)
    started = time.monotonic()

    class Suite(unittest.TestSuite):
        """Says which class of tests begins."""

        def _handleClassSetUp(self, test: Any, result: Any) -> None:  # noqa: N802
            nonlocal started
            if getattr(result, "_previousTestClass", None) is not test.__class__:
                for cache in gc.get_objects():
                    if type(cache) is _lru_cache_wrapper:
                        cache.cache_clear()
                measuring.switch_context(unittest.util.strclass(test.__class__))
            started = time.monotonic()
            super()._handleClassSetUp(test, result)  # type: ignore[misc]

        def run(self, result: unittest.TestResult, debug: bool = False) -> unittest.TestResult:
            stop = result.stopTest

            def stopped(test: unittest.TestCase) -> None:
                nonlocal started
                now = time.monotonic()
                seconds[unittest.util.strclass(test.__class__)] += now - started
                started = now
                stop(test)

            result.stopTest = stopped  # type: ignore[method-assign]
            return super().run(result, debug)

    measuring.start()
    django.setup()
    runner = DiscoverRunner(verbosity=0, keepdb=True, parallel=0, interactive=False)
    runner.test_suite = Suite
    failures = runner.run_tests(labels)
    measuring.stop()
    data = measuring.get_data()
    lines = {
        str(Path(name).relative_to(ROOT)): {
            line: sorted(classes) for line, classes in data.contexts_by_lineno(name).items()
        }
        for name in data.measured_files()
    }
    Path(file).write_text(json.dumps({"seconds": seconds, "lines": lines}))
    return int(bool(failures))


if __name__ == "__main__":
    sys.exit(main(sys.argv[1], sys.argv[2:]))
