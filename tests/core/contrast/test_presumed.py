"""Pairings of colors of which it is not sure what they are for: judged, told apart, and no errors."""

import json

from click.testing import CliRunner
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism.analysis import Analysis
from prism.cli import main
from prism.contrast.check import run
from prism.contrast.pairing_commands import RequireOfPairing
from prism.contrast.presumed import presumed
from prism.contrast.rule_commands import PairByRule
from prism.sheet.token_commands import MarkTokens
from tests import roles, tried
from tests.builders import document, token

#: “text zorp” is a text, of something that no list has; it is pale.
NAMES = (token("page", "#ffffff"), token("text", "#111111"), token("text.zorp", "#bbbbbb"))
SHEET = ":root { --page: #ffffff; --text: #111111; --text-zorp: #bbbbbb }"


def paired(*tokens):
    return PairByRule("k").apply(document(*tokens))


def found(document, before=None):
    """The findings of pairings that fall short, by the key of the pairing."""
    analysis = Analysis(document, before)
    return {one.part: one for one in run(analysis)}, analysis


class PresumedTests(SimpleTestCase):
    def test_what_is_not_sure_is_a_warning_that_says_why(self):
        findings, analysis = found(paired(*NAMES))
        (key,) = analysis.once(presumed)
        self.assertEqual(key, "text.zorp page")
        self.assertEqual(findings[key].severity, "warning")
        self.assertIn("presumed, as it is not sure what text.zorp is for", findings[key].what)

    def test_what_a_person_says_makes_it_known(self):
        built = paired(*NAMES)
        _, before = found(built)
        said = MarkTokens(("text.zorp",), role="text quiet").apply(built)
        findings, analysis = found(said, before)
        self.assertEqual(analysis.once(presumed), frozenset())
        self.assertEqual(findings["text.zorp page"].severity, "error")
        self.assertNotIn("presumed", findings["text.zorp page"].what)

    def test_one_that_a_person_adds_or_drops_is_known(self):
        built = paired(*NAMES)
        meets = RequireOfPairing("p", "text.zorp page", 4.5).apply(built)
        findings, analysis = found(meets)
        self.assertEqual(analysis.once(presumed), frozenset())
        self.assertEqual([one.severity for one in findings.values()], ["error"])
        never = RequireOfPairing("p", "text.zorp page", 0, "They never meet").apply(built)
        self.assertEqual(found(never)[0], {})

    @tried(60)
    @given(st.integers(0, 10**6))
    def test_an_error_is_of_colors_that_are_sure_or_that_somebody_paired(self, seed):
        built = PairByRule("k").apply(roles.random_document(seed))
        findings, analysis = found(built)
        for key, one in findings.items():
            pairing = analysis.paired.pairing(key)
            doubts = [
                color
                for color in (pairing.foreground, *pairing.backgrounds)
                if not analysis.roles[color].is_sure
            ]
            if one.about == "no color":
                continue
            self.assertEqual(one.severity, "warning" if doubts else "error", one)

    def test_the_command_line_tells_them_apart(self):
        runner = CliRunner()
        with runner.isolated_filesystem():
            with open("a.css", "w") as file:
                file.write(SHEET)
            plain = runner.invoke(main, ("audit", "a.css"))
            told = runner.invoke(main, ("audit", "a.css", "--json"))
            strict = runner.invoke(main, ("audit", "a.css", "--fail-on", "warning"))
        self.assertEqual((plain.exit_code, strict.exit_code), (0, 1), plain.output)
        self.assertIn("presumed, as it is not sure what text-zorp is for", plain.output)
        pairings = json.loads(told.stdout)["pairings"]
        self.assertEqual(
            {one["pairing"]: one["presumed"] for one in pairings},
            {"text on page": False, "text-zorp on page": True},
        )
