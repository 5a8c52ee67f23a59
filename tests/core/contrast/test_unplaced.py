"""What is left out of what is said of pairings: colors of which nobody knows where they stand."""

from dataclasses import replace

from click.testing import CliRunner
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism.analysis import Analysis
from prism.cli import main
from prism.contrast.unplaced import named, sentence, unplaced
from prism.model.document import Pairing
from prism.reports.report import report
from prism.roles.role import UNKNOWN
from tests import tried
from tests.builders import document, token

SHEET = ":root { --page: #ffffff; --text: #111111; --zorp: #777777; --quib: #eeeeee }"


def left(built):
    return [one.path for one in Analysis(built).once(unplaced)]


class UnplacedTests(SimpleTestCase):
    def setUp(self):
        self.tokens = (
            token("grey.1", "#777777", tier="raw"),
            token("page", "#ffffff"),
            token("text", "#111111"),
            token("zorp", "{grey.1}"),
            token("gap", "4px", type="dimension"),
        )

    def test_a_color_of_a_name_that_says_nothing_is_left_out(self):
        self.assertEqual(left(document(*self.tokens)), ["zorp"])

    def test_one_that_a_pairing_holds_is_judged(self):
        pairing = Pairing("p", "zorp", ("page",))
        self.assertEqual(left(replace(document(*self.tokens), pairings=(pairing,))), [])
        under = Pairing("p", "text", ("zorp",))
        self.assertEqual(left(replace(document(*self.tokens), pairings=(under,))), [])

    def test_one_that_a_person_gave_a_role_is_not_left_out(self):
        tokens = [replace(one, role="text") if one.path == "zorp" else one for one in self.tokens]
        self.assertEqual(left(document(*tokens)), [])

    def test_of_a_palette_alone_nobody_knows_where_any_color_stands(self):
        steps = [token(f"grey.{n}", f"#{n}{n}{n}", tier="raw") for n in (1, 5, 9)]
        self.assertEqual(left(document(*steps)), ["grey.1", "grey.5", "grey.9"])

    def test_words(self):
        self.assertEqual(sentence(0), "")
        self.assertEqual(sentence(1), "1 color has no known place, so it was not judged.")
        self.assertEqual(sentence(4), "4 colors have no known place, so they were not judged.")
        colors = [token(f"c{n}", "#000000") for n in range(5)]
        self.assertEqual(named(colors, 3), "c0, c1, c2 and 2 more")
        self.assertEqual(named(colors[:2], 3), "c0, c1")

    def test_the_report_says_what_it_left_out(self):
        pairing = Pairing("p", "text", ("page",))
        made = report(Analysis(replace(document(*self.tokens), pairings=(pairing,))), "2026-01-01")
        words = next(glance.words for glance in made.glances if glance.id == "contrast")
        self.assertEqual(
            words, "nothing found in 1 pairing; 1 color without a known place not judged"
        )

    @tried(40)
    @given(
        st.lists(
            st.sampled_from(("zorp", "text", "page", "quib.x", "link", "Vlak", "a1")), unique=True
        )
    )
    def test_every_color_is_in_a_pairing_has_a_role_or_is_left_out(self, names):
        built = document(*(token(name, f"#{n * 3}{n}0000"[:7]) for n, name in enumerate(names, 1)))
        analysis = Analysis(built)
        judged = {
            key for p in analysis.judged.pairings for key in (p.foreground, *p.backgrounds, p.page)
        }
        for one in built.tokens:
            known = one.key in judged or analysis.roles[one.key].role != UNKNOWN
            self.assertEqual(known, one not in analysis.once(unplaced))


class CommandLineTests(SimpleTestCase):
    def run_in(self, *arguments, sheet=SHEET):
        runner = CliRunner()
        with runner.isolated_filesystem():
            with open("a.css", "w") as file:
                file.write(sheet)
            return runner.invoke(main, arguments)

    def test_colors_that_nobody_judged_end_with_2_and_are_named(self):
        for arguments in (
            ("audit", "a.css"),
            ("propose", "a.css", "--as", "dark", "-o", "out"),
            ("fix", "a.css", "-o", "out"),
        ):
            with self.subTest(arguments[0]):
                told = self.run_in(*arguments)
                self.assertEqual(told.exit_code, 2, told.output)
                self.assertIn(
                    "2 colors have no known place, so they were not judged: zorp, quib.",
                    told.output,
                )
                allowed = self.run_in(*arguments, "--allow-unknown", "2")
                self.assertEqual(allowed.exit_code, 0, allowed.output)
                self.assertIn("2 colors have no known place", allowed.output)

    def test_what_falls_short_counts_for_more(self):
        sheet = SHEET.replace("#111111", "#999999")
        self.assertEqual(self.run_in("audit", "a.css", sheet=sheet).exit_code, 1)
        self.assertEqual(
            self.run_in("audit", "a.css", "--fail-on", "never", sheet=sheet).exit_code, 0
        )

    def test_json_lists_them(self):
        for arguments in (("audit", "a.css"), ("fix", "a.css", "-o", "out")):
            told = self.run_in(*arguments, "--json")
            self.assertIn('"unjudged": [\n  "zorp",\n  "quib"\n ]', told.stdout)
