"""One analysis of a document: what is carried over is what would be computed afresh."""

import random
import threading

from django.test import SimpleTestCase

from demo import quillhaven
from prism import checks
from prism.analysis import Analysis, computed
from prism.checks import CHECKS
from prism.contrast.check import falling_short
from prism.coverage.needs import coverage_of
from prism.model.values import Condition
from prism.sheet.cell_commands import SetValue
from tests.builders import counter_keys
from tests.edits import edited, start

RESULTS = tuple(name for name, what in vars(Analysis).items() if isinstance(what, computed))
ONCE = (checks.findings, falling_short, coverage_of)
PLAIN = ("failing", "axis_names", "mode_names", "types", "groups",
         "guessed", "bindings", "stage_sheet")  # fmt: skip


class AnalysisTests(SimpleTestCase):
    def test_nothing_carried_over_differs_from_what_is_computed_afresh(self):
        new_key = counter_keys("n")
        for seed in range(12):
            analysis = Analysis(start())
            rng = random.Random(seed)
            for step in range(8):
                for name in rng.sample(RESULTS, 5):
                    getattr(analysis, name)
                analysis = Analysis(edited(rng, analysis.document, new_key), analysis)
                fresh = Analysis(analysis.document)
                for name in PLAIN:
                    carried, computed_afresh = getattr(analysis, name), getattr(fresh, name)
                    self.assertEqual(carried, computed_afresh, (seed, step, name))
                for compute in ONCE:
                    self.assertEqual(
                        analysis.once(compute), fresh.once(compute), (seed, step, compute)
                    )
                self.assertEqual(analysis.rows.rows, fresh.rows.rows)

    def test_an_edit_of_a_value_keeps_the_answers_it_does_not_reach(self):
        analysis = Analysis(quillhaven.document())
        guessed, before = analysis.guessed, analysis.resolver.evaluations
        dark = Condition.of({"appearance": "dark"})
        after = Analysis(SetValue("text.main", "ink.9", dark).apply(analysis.document), analysis)
        self.assertLess(after.resolver.evaluations, before / 3)
        self.assertIs(after.guessed, guessed)

    def test_threads_compute_each_result_once(self):
        counts = []

        class Counted(Analysis):
            @computed
            def slow(self):
                counts.append(1)
                barrier.wait(0.2) if not barrier.broken else None
                return object()

        barrier = threading.Barrier(2)
        analysis = Counted(start())
        seen = []

        def ask():
            try:
                seen.append(analysis.slow)
            except threading.BrokenBarrierError:
                seen.append(analysis.slow)

        threads = [threading.Thread(target=ask) for _ in range(8)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(len({id(one) for one in seen}), 1)
        self.assertLessEqual(len(counts), 2)  # one more where the first was interrupted


class CheckTests(SimpleTestCase):
    def test_every_check_says_what_it_is_and_why_and_finds_under_its_own_id(self):
        analysis = Analysis(quillhaven.document())
        self.assertEqual(len({check.id for check in CHECKS}), len(CHECKS))
        for check in CHECKS:
            self.assertTrue(check.title and check.why.endswith("."), check.id)
            for finding in check.run(analysis):
                self.assertEqual(finding.check, check.id)
                self.assertTrue(finding.what.endswith(".") and finding.fixes)
