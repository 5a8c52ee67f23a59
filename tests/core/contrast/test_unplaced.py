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
from tests import tried
from tests.builders import document, token

NAMES = ("zorp", "text", "page", "quib.x", "link", "Vlak", "a1", "line-soft", "text-disabled")
PAIRING = Pairing("p", "text", ("page",))
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

    def paired(self, *more, pairing=PAIRING):
        return replace(document(*self.tokens, *more), pairings=(pairing,))

    def test_what_no_pairing_holds_is_left_out_whether_its_role_is_known_or_not(self):
        self.assertEqual(left(document(*self.tokens)), ["page", "text", "zorp"])
        self.assertEqual(left(self.paired()), ["zorp"])
        self.assertEqual(left(self.paired(token("text-link", "#0000ee"))), ["zorp", "text-link"])
        under = Pairing("p", "text", ("zorp",), page="page")
        self.assertEqual(left(self.paired(pairing=under)), [])

    def test_what_only_refers_to_what_is_judged_is_judged_with_it(self):
        more = (
            token("button.text", "{text}"),
            token("button.text.night", "{button.text}", ({"appearance": "dark"}, "{page}")),
            token("half", "{text}", ({"appearance": "dark"}, "{zorp}")),
            token("mixed", "color-mix(in oklab, {text}, {page})"),
            token("round.a", "{round.b}"),
            token("round.b", "{round.a}"),
        )
        self.assertEqual(left(self.paired(*more)), ["zorp", "half", "mixed", "round.a", "round.b"])
        chain = [token(f"t{n}", "{text}" if n == 0 else f"{{t{n - 1}}}") for n in range(3000)]
        self.assertEqual(left(self.paired(*chain)), ["zorp"])

    def test_what_surely_needs_none_is_not_left_out(self):
        more = token("line-soft", "#dddddd"), token("text-disabled", "#bbbbbb")
        self.assertEqual(left(self.paired(*more)), ["zorp"])

    def test_of_a_palette_alone_nobody_knows_where_any_color_stands(self):
        steps = [token(f"grey.{n}", f"#{n}{n}{n}", tier="raw") for n in (1, 5, 9)]
        self.assertEqual(left(document(*steps)), ["grey.1", "grey.5", "grey.9"])

    def test_words(self):
        self.assertEqual(sentence(0), "")
        self.assertEqual(sentence(1), "1 color is in no known pairing, so it was not judged.")
        self.assertEqual(sentence(4), "4 colors are in no known pairing, so they were not judged.")
        colors = [token(f"c{n}", "#000000") for n in range(5)]
        self.assertEqual(named(colors, 3), "c0, c1, c2 and 2 more")
        self.assertEqual(named(colors[:2], 3), "c0, c1")

    def test_the_report_says_what_it_left_out(self):
        made = report(Analysis(self.paired()), "2026-01-01")
        words = next(glance.words for glance in made.glances if glance.id == "contrast")
        self.assertEqual(
            words, "nothing found in 1 pairing; 1 color in no known pairing not judged"
        )

    @tried(40)
    @given(st.lists(st.sampled_from(NAMES), unique=True), st.booleans())
    def test_every_color_is_judged_needs_none_or_is_left_out(self, names, is_paired):
        built = document(*(token(name, f"#{n * 3}{n}0000"[:7]) for n, name in enumerate(names, 1)))
        if is_paired and len(names) > 1:
            built = replace(built, pairings=(Pairing("p", names[0], (names[1],)),))
        analysis = Analysis(built)
        judged = {
            k for p in analysis.paired.pairings for k in (p.foreground, *p.backgrounds, p.page)
        }
        for one in built.tokens:
            known = analysis.roles[one.key]
            exempt = known.is_sure and str(known.role) in (
                "line",
                "line soft",
                "shadow",
                "text disabled",
            )
            self.assertEqual(one in analysis.once(unplaced), one.key not in judged and not exempt)


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
                    "2 colors are in no known pairing, so they were not judged: zorp, quib.",
                    told.output,
                )
                allowed = self.run_in(*arguments, "--allow-unknown", "2")
                self.assertEqual(allowed.exit_code, 0, allowed.output)
                self.assertIn("2 colors are in no known pairing", allowed.output)

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
