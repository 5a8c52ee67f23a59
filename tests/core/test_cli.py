"""The command line as a person or a script uses it."""

import json
import tempfile
from pathlib import Path

from click.testing import CliRunner
from django.test import SimpleTestCase

from prism.cli import main
from tests.builders import DATA, observatory_expected

OBSERVATORY = str(DATA / "observatory" / "observatory.resolver.json")


class CliTests(SimpleTestCase):
    def run_cli(self, *arguments, data=None):
        return CliRunner().invoke(main, [str(argument) for argument in arguments], input=data)

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def file(self, name, text):
        path = self.folder / name
        path.write_text(text)
        return path

    def test_resolve_gives_all_themes_as_json(self):
        result = self.run_cli("resolve", OBSERVATORY, "--json")
        self.assertEqual(result.exit_code, 0, result.output)
        themes = json.loads(result.stdout)["themes"]
        for found, expected in zip(themes, observatory_expected(), strict=True):
            self.assertEqual(found["theme"], expected["theme"])
            self.assertEqual(found["tokens"].keys(), expected["tokens"].keys())
            for path, said in expected["tokens"].items():
                here = found["tokens"][path]
                self.assertEqual(here["type"], said["type"])
                self.assertEqual("hex" in here, "hex" in said)
                self.assertIsNone(here["broken"])
                self.assertTrue(here["css_name"].startswith("--"))

    def test_a_folder_and_standard_input_are_read_too(self):
        whole = self.run_cli("resolve", DATA / "observatory", "--theme", "sky=night")
        self.assertIn(
            "Glow.rim\tcolor\trgb(255 255 255 / 0.501961)",
            whole.stdout.replace("#ffffff80", "rgb(255 255 255 / 0.501961)"),
        )
        piped = self.run_cli(
            "resolve", "-", "--json", data=":root { --a: #123 } .dark { --a: #456 }"
        )
        self.assertEqual(
            [one["tokens"]["a"]["hex"] for one in json.loads(piped.stdout)["themes"]],
            ["#112233", "#445566"],
        )

    def test_a_bare_theme_names_what_it_does_not_know(self):
        for word, sentence in (
            ("sky=noon", "sky has no mode “noon”."),
            ("moon=new", "There is no axis “moon”."),
            ("sky", "sky has no mode “”."),
        ):
            result = self.run_cli("resolve", OBSERVATORY, "--theme", word)
            self.assertEqual(result.exit_code, 2)
            self.assertIn(sentence, result.stderr)

    def test_trace_hop_by_hop(self):
        result = self.run_cli("trace", OBSERVATORY, "Text.link", "--theme", "sky=night")
        lines = result.stdout.splitlines()[1:]
        self.assertEqual(
            [line.strip().split("\t")[0] for line in lines],
            ["Text.link", "Accent.$root", "Deep Sky.pale"],
        )
        self.assertTrue(lines[-1].endswith("#aed7f5"))
        missing = self.run_cli("trace", OBSERVATORY, "Text.lnk")
        self.assertEqual((missing.exit_code, "Nearest: {Text.link}" in missing.stderr), (2, True))

    def test_audit_fails_with_1_where_a_pairing_does(self):
        pairs = self.file(
            "p.json",
            json.dumps(
                [
                    {"foreground": "Text.main", "background": "Ground.page"},
                    {
                        "foreground": "Text.main",
                        "background": ["Ground.veil", "Ground.card"],
                        "use": "large text",
                    },
                ]
            ),
        )
        result = self.run_cli("audit", OBSERVATORY, "--pairings", pairs, "--json")
        self.assertEqual(result.exit_code, 1)
        found = json.loads(result.stdout)["pairings"]
        self.assertEqual(len(found), 12)
        self.assertEqual(found[0]["shown"], "17.05")
        self.assertTrue(any(not one["passes"] for one in found))
        good = self.file(
            "q.json", '[{"foreground": "white", "background": "black", "required": 21}]'
        )
        self.assertEqual(self.run_cli("audit", OBSERVATORY, "--pairings", good).exit_code, 0)

    def test_bad_pairings_are_named(self):
        for text, sentence in (
            ("{", "not JSON"),
            ("[1]", "pairing 1"),
            ('[{"foreground": "Text.mian", "background": "white"}]', "Nearest: {Text.main}"),
            ('[{"foreground": "space.base", "background": "white"}]', "is not a color"),
            ('[{"foreground": "white", "background": []}]', "list of paths"),
            (
                '[{"foreground": "white", "background": "black", "use": "poster"}]',
                "“poster” is not a use.",
            ),
            ('[{"foreground": "white", "background": "black", "required": 40}]', "from 0 to 21"),
        ):
            result = self.run_cli("audit", OBSERVATORY, "--pairings", self.file("p.json", text))
            self.assertEqual(result.exit_code, 2)
            self.assertIn(sentence, result.stderr)
        self.assertIn("There are no pairings.", self.run_cli("audit", OBSERVATORY).stderr)

    def test_export_in_every_format_and_back(self):
        for kind, ending in (
            ("css", "css"),
            ("flat-css", "css"),
            ("json", "json"),
            ("csv", "csv"),
            ("gpl", "gpl"),
            ("svg", "svg"),
            ("design-tokens", "resolver.json"),
        ):
            with self.subTest(kind):
                out = self.folder / kind
                result = self.run_cli("export", OBSERVATORY, "--format", kind, "-o", out)
                self.assertEqual(result.exit_code, 0, result.output)
                (made,) = out.glob(f"*.{ending}")
                again = self.run_cli("resolve", made, "--json")
                self.assertEqual(again.exit_code, 0, again.output)
                tokens = json.loads(again.stdout)["themes"][0]["tokens"]
                self.assertIn("#f6f8fb", {token.get("hex") for token in tokens.values()})

    def test_diff_says_what_differs_in_words(self):
        one = self.file("a.css", ":root { --a: #111; --b: #222 } .dark { --a: #333 }")
        two = self.file("b.css", ":root { --a: #111; --c: #222 } .dark { --a: #444 }")
        result = self.run_cli("diff", one, two)
        self.assertEqual(result.exit_code, 1)
        self.assertEqual(
            sorted(result.stdout.splitlines()),
            [
                "a: appearance dark #333 → #444",
                "b: every mode no longer #222",
                "c: every mode now #222",
                "token b removed",
                "token c added",
            ],
        )
        self.assertEqual(self.run_cli("diff", one, one).exit_code, 0)

    def test_link_lists_each_with_its_distance_and_writes(self):
        text = {
            "$type": "color",
            "ink": {"1": {"$value": "#111111"}},
            "use": {
                "a": {"$value": "{ink.1}"},
                "b": {"$value": "#121212"},
                "c": {"$value": "#ff00aa"},
                "d": {"$value": "{ink.1}"},
                "e": {"$value": "{ink.1}"},
            },
        }
        path = self.file("x.tokens.json", json.dumps(text))
        result = self.run_cli("link", path, "-o", self.folder / "out")
        self.assertIn("use.b\tevery mode\t#121212\tink.1\t0.24", result.stdout)
        self.assertIn("use.c\tevery mode\t#ff00aa\t\t\tno match", result.stdout)
        written = json.loads((self.folder / "out" / "x.tokens.json").read_text())
        self.assertEqual(written["use"]["b"]["$value"], "{ink.1}")

    def test_a_file_is_edited_by_the_commands_of_the_application(self):
        out = self.folder / "edited"
        path = self.file("x.tokens.json", '{"a": {"$type": "color", "$value": "#111111"}}')
        result = self.run_cli("edit", path, "rename-token", "token=a", "path=ink.1", "-o", out)
        self.assertEqual(result.exit_code, 0, result.stderr)
        self.assertIn("Renamed a to ink.1.", result.stderr)
        written = json.loads((out / "x.tokens.json").read_text())
        self.assertEqual(list(written["ink"]), ["1"])
        for words, sentence in (
            (["fly"], "There is no command “fly”."),
            (["rename-token", "path"], "“path” is not a field."),
            (["rename-token", "token=gone", "path=b"], "no longer there"),
            (["set-opacity", "percent=50"], "cells: Something is missing here."),
            (["set-cells", "cells={", "text=x"], "cells: This is not JSON."),
            (["set-cells", "cells=[1]", "text=x"], "cells: Only tokens, axis"),
            (["import-colors", 'colors=[["a"]]'], "colors: 3 values are needed."),
            (["set-value", "token=a", "text=#111", "condition=x"], "This is not a condition."),
        ):
            refused = self.run_cli("edit", path, *words, "-o", out)
            self.assertEqual(refused.exit_code, 2)
            self.assertIn(sentence, refused.stderr)
        result = self.run_cli(
            "edit", OBSERVATORY, "copy-mode", "tokens=Text.main", "axis=sky", "source=night",
            "target=day", "-o", out,
        )  # fmt: skip
        self.assertEqual(result.exit_code, 0, result.stderr)
        self.assertIn("Copied sky night to day for 1 token.", result.stderr)
        colors = 'colors=[["sea", "#003366", "add"]]'
        self.assertEqual(
            self.run_cli("edit", path, "import-colors", colors, "-o", out).exit_code, 0
        )
        self.assertIn("rename-token\ttoken path\t", self.run_cli("commands").stdout)

    def test_maps_give_selectors_a_meaning(self):
        path = self.file("x.css", ":root { --a: #111 } .gloom { --a: #222 }")
        plain = self.run_cli("resolve", path, "--json")
        self.assertIn("the class .gloom names no mode", plain.stderr)
        self.assertEqual(len(json.loads(plain.stdout)["themes"]), 1)
        mapped = self.run_cli("resolve", path, "--json", "--map", ".gloom=sky:night")
        self.assertEqual(json.loads(mapped.stdout)["themes"][1]["theme"], {"sky": "night"})
        self.assertEqual(self.run_cli("resolve", path, "--map", "nothing").exit_code, 2)

    def test_bad_input_is_one_sentence_and_exit_code_2(self):
        for name, text, sentence in (
            ("a.json", "{", "line 1, column 2"),
            ("b.tokens.json", '{"a": {"$value": "{x}"}}', "{x} does not exist."),
            (
                "d.tokens.json",
                '{"a": {"$type": "color", "$value": "#12"}}',
                "“#12” is not a color.",
            ),
            ("e.css", "p {}", "declares no custom property"),
            ("f.gpl", "x", "not “GIMP Palette”"),
            ("g.svg", "<!DOCTYPE svg><svg/>", "document type declaration"),
            ("h.csv", "only", "A row has a name and a value."),
        ):
            with self.subTest(name):
                result = self.run_cli("resolve", self.file(name, text))
                self.assertEqual(result.exit_code, 2)
                self.assertEqual(len(result.stderr.strip().splitlines()), 1)
                self.assertIn(sentence, result.stderr)
                self.assertIn(name, result.stderr)
        self.assertEqual(self.run_cli("resolve", self.folder / "none").exit_code, 2)
        self.assertIn(
            "no supported file",
            self.run_cli("resolve", tempfile.mkdtemp(dir=self.folder)).stderr,
        )
