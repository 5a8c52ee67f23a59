"""Runs the tests: the longest classes first and in parts, and says at the end which took longest."""

from __future__ import annotations

import time
import unittest
from collections import defaultdict

from django.test.runner import (
    DiscoverRunner,
    ParallelTestSuite,
    RemoteTestResult,
    RemoteTestRunner,
)

#: About how many seconds a test takes, by folder.
USUAL = {"browser": 8.0, "reference": 3.0, "studio": 1.0, "core": 0.5}
#: Seconds that a part of a class is to take at most, and how many classes are shown.
PART = 30.0
SHOWN = 15


class TimedResult(RemoteTestResult):
    """Hands on how long each test took."""

    def startTest(self, test):  # noqa: N802
        super().startTest(test)
        self.began = time.monotonic()

    def stopTest(self, test):  # noqa: N802
        self.events.append(("addSeconds", self.test_index, time.monotonic() - self.began))
        super().stopTest(test)


class TimedRunner(RemoteTestRunner):
    resultclass = TimedResult


#: Seconds of each test that has run.
SECONDS = {}


def expected(test):
    """About how many seconds a test takes, by the folder that it is in."""
    folder = test.id().split(".")[1]
    return USUAL.get(folder, 1.0)


def slowest():
    """The classes that took longest, with their seconds."""
    classes = defaultdict(float)
    for name, seconds in SECONDS.items():
        classes[name.rpartition(".")[0]] += seconds
    return sorted(classes.items(), key=lambda item: -item[1])[:SHOWN]


def parts(suites, seconds=expected, longest=PART):
    """Suites of one class each, in parts of about ``longest`` seconds, the longest part first."""
    made = []
    for suite in suites:
        part, length = [], 0.0
        for test in suite:
            took = seconds(test)
            if part and length + took > longest:
                made.append((length, part))
                part, length = [], 0.0
            part.append(test)
            length += took
        made.append((length, part))
    made.sort(key=lambda item: -item[0])
    return [unittest.TestSuite(part) for _, part in made]


class EvenSuite(ParallelTestSuite):
    """Deals parts of classes out to the processes."""

    runner_class = TimedRunner

    def __init__(self, subsuites, processes, *args, **options):
        super().__init__(parts(subsuites), processes, *args, **options)


class TimedTextResult(unittest.TextTestResult):
    """Keeps how long each test took, here or in another process."""

    def startTest(self, test):  # noqa: N802
        super().startTest(test)
        self.began = time.monotonic()

    def stopTest(self, test):  # noqa: N802
        super().stopTest(test)
        SECONDS.setdefault(test.id(), time.monotonic() - self.began)

    def addSeconds(self, test, seconds):  # noqa: N802
        """Take over what another process measured."""
        SECONDS[test.id()] = seconds


class Runner(DiscoverRunner):
    """The runner of all tests."""

    parallel_test_suite = EvenSuite

    def get_resultclass(self):
        return super().get_resultclass() or TimedTextResult

    def run_suite(self, suite, **options):
        result = super().run_suite(suite, **options)
        self.log("Slowest classes, in seconds:")
        for name, seconds in slowest():
            self.log(f"{seconds:8.1f}  {name}")
        return result
