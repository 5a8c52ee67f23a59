"""What asks for roles: rules, coverage, slots of scenes, and the command line."""

import json
import subprocess
import sys
import tempfile
from dataclasses import replace
from pathlib import Path

from django.test import SimpleTestCase

from demo import quillhaven
from prism.analysis import Analysis
from prism.coverage.needs import coverage_of
from prism.model.document import shown_path
from prism.model.values import Condition
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver
from prism.roles import by_slot, rules
from prism.roles.guess import guess
from prism.sheet.cell_commands import SetValue
from prism.sheet.token_commands import RenameToken
from tests import roles
from tests.roles import colors

ROOT = Path(__file__).parents[3]


class RuleTests(SimpleTestCase):
    def made(self, **values):
        document = colors(**values)
        by_rule = rules.pairings(document, guess(document, Resolver(document)))
        return {
            (m.rule, m.pairing.foreground, m.pairing.backgrounds[0]): m.pairing.required
            for m in by_rule
        }

    def test_labels_on_every_state_without_a_label_of_its_own(self):
        made = self.made(
            page="#fff", button__fill="#005", button__fill__hover="#003",
            button__fill__pressed="#001", button__fill__disabled="#ddd", button__label="#fff",
            button__label__pressed="#eee", button__label__disabled="#aaa",
        )  # fmt: skip
        self.assertEqual(
            made,
            {
                ("labels", "button__label", "button__fill"): 4.5,
                ("labels", "button__label", "button__fill__hover"): 4.5,
                ("labels", "button__label__pressed", "button__fill__pressed"): 4.5,
            },
        )

    def test_texts_lines_focus_and_statuses(self):
        made = self.made(
            bg__page="#fff", bg__card="#eee", text__main="#111", text__disabled="#aaa",
            line__control="#777", line__soft="#ddd", focus="#005", error__text="#900",
            error__bg="#fee", chart__1="#777",
        )  # fmt: skip
        self.assertEqual(
            {name: required for (_, *name), required in made.items() for name in [tuple(name)]},
            {
                ("text__main", "bg__page"): 4.5, ("text__main", "bg__card"): 4.5,
                ("focus", "bg__page"): 3.0, ("focus", "bg__card"): 3.0,
                ("error__text", "bg__page"): 4.5, ("error__text", "error__bg"): 4.5,
                ("chart__1", "bg__page"): 3.0,
                ("line__control", "bg__page"): 3.0, ("line__control", "bg__card"): 3.0,
            },
        )  # fmt: skip

    def test_pairings_that_are_there_stay_as_they_are(self):
        document = colors(page="#fff", text="#111")
        made = rules.pairings(document, guess(document, Resolver(document)))
        again = replace(document, pairings=tuple(m.pairing for m in made))
        self.assertEqual(rules.pairings(again, guess(again, Resolver(again))), [])
        (reading,) = audit(Resolver(again), again.pairings, [()])
        self.assertTrue(reading.passes)


class CoverageTests(SimpleTestCase):
    def test_foreign_documents_have_what_they_have(self):
        missing = {}
        for name in ("german", "portuguese", "french", "camel", "component", "three_hundred"):
            gaps = Analysis(roles.read(name).document).once(coverage_of).gaps
            missing[name] = [gap.name for gap in gaps]
        self.assertEqual(
            missing,
            {
                "german": ["information"],
                "portuguese": ["information", "veils"],
                "french": ["warning", "information", "veils"],
                "camel": ["warning", "error"],
                "component": ["warning", "information"],
                "three_hundred": [],
            },
        )


class SlotTests(SimpleTestCase):
    def test_a_scene_takes_foreign_names_by_what_they_are_for(self):
        keyed = roles.read("german")
        bound = Analysis(keyed.document).bindings
        self.assertEqual(
            {slot: bound[slot].path for slot in ("page", "card", "ink", "muted", "action", "stop")},
            {
                "page": "Farbe.Fläche.Seite", "card": "Farbe.Fläche.Karte",
                "ink": "Farbe.Text.Haupttext", "muted": "Farbe.Text.Nebentext",
                "action": "Farbe.Schaltfläche.Füllung", "stop": "Farbe.Fehler.Text",
            },
        )  # fmt: skip
        self.assertEqual(bound["action-label"].path, "Farbe.Schaltfläche.Beschriftung")

    def test_roles_are_carried_over_where_an_edit_cannot_change_them(self):
        document = roles.read("dashed").document
        first = Analysis(document)
        known = first.roles
        dark = SetValue("fg-muted", "#cccccc", Condition.of({"look": "dark"})).apply(document)
        self.assertIs(Analysis(dark, first).roles, known)
        light = SetValue("fg-muted", "#dddddd").apply(document)
        renamed = RenameToken("fg-muted", "bg-muted").apply(document)
        for changed in (light, renamed):
            again = Analysis(changed, first).roles
            self.assertIsNot(again, known)
            self.assertEqual(again, Analysis(changed).roles)

    def test_every_slot_of_the_scene_finds_its_token_in_the_demo(self):
        bound = Analysis(quillhaven.document()).bindings
        # The demo has no family of letters and no color of links under the pointer.
        self.assertEqual(set(by_slot.SLOTS) - bound.keys(), {"font", "link-hover"})
        paths = {slot: shown_path(token.path) for slot, token in bound.items()}
        self.assertEqual(
            {slot: paths[slot] for slot in ("sunken", "action", "action-quiet", "veil-strong")},
            {
                "sunken": "surface.sunken", "action": "action.fill",
                "action-quiet": "action.quiet", "veil-strong": "veil.pressed",
            },
        )  # fmt: skip
        self.assertEqual((paths["gap"], paths["lift"]), ("space.row", "shadow.card"))


class CommandTests(SimpleTestCase):
    def run_command(self, *arguments):
        return subprocess.run(
            [sys.executable, "-m", "prism.cli", *arguments],
            capture_output=True, text=True, cwd=ROOT, timeout=60, check=False,
        )  # fmt: skip

    def file(self, text):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        path = Path(folder.name) / "x.css"
        path.write_text(text)
        return str(path)

    def test_roles_with_the_least_sure_first(self):
        file = self.file(
            ":root { --page: #fff; --text-main: #111; --fig: #123; --success: #1b6e3c }"
        )
        printed = json.loads(self.run_command("roles", file, "--json").stdout)["roles"]
        self.assertEqual([r["path"] for r in printed], ["fig", "success", "page", "text-main"])
        self.assertEqual(printed[2]["role"], "page")
        self.assertEqual([r["sure"] for r in printed], sorted(r["sure"] for r in printed))
        self.assertIn("text-main\ttext\t\t95%", self.run_command("roles", file).stdout)

    def test_audit_by_rule_says_what_it_could_not_judge(self):
        file = self.file(":root { --page: #fff; --text-main: #bbb; --fig: #123 }")
        done = self.run_command("audit", file, "--json")
        self.assertEqual(done.returncode, 1)
        (pairing,) = json.loads(done.stdout)["pairings"]
        self.assertEqual((pairing["rule"], pairing["passes"]), ("texts", False))
        self.assertIn("1 color is in no known pairing, so it was not judged: fig.", done.stderr)

    def test_nothing_to_judge_is_no_success(self):
        done = self.run_command("audit", self.file(":root { --fig: #123; --plum: #fff }"))
        self.assertEqual(done.returncode, 2)
        self.assertIn("do not say what stands on what", done.stderr)

    def test_shown_paths(self):
        self.assertEqual(shown_path("action.fill.$root"), "action.fill")
