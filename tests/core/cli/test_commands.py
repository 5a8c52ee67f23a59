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

    def test_colors_outside_srgb_mapped_or_as_browsers_show_them(self):
        file = self.file("x.css", ":root { --a: color(display-p3 0 1 0); --b: var(--a) }")
        shown = []
        for options in ((), ("--clipped",)):
            result = self.run_cli("resolve", file, "--json", *options)
            (theme,) = json.loads(result.stdout)["themes"]
            shown.append([token["hex"] for token in theme["tokens"].values()])
        # Clipped: CSS Color 4 conversion of that color to sRGB is (-0.51 1.02 -0.31), cut off.
        self.assertEqual(shown[1], ["#00ff00", "#00ff00"])
        self.assertNotEqual(shown[0], shown[1])

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
        told = self.run_cli("audit", OBSERVATORY, "--pairings", good)
        self.assertEqual(told.exit_code, 2)
        told = self.run_cli("audit", OBSERVATORY, "--pairings", good, "--allow-unknown", "99")
        self.assertEqual(told.exit_code, 0)

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
        by_rule = self.run_cli("audit", OBSERVATORY)
        self.assertIn("pairings by rule, as the file names none.", by_rule.stderr)

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
                "names\ttoken b removed",
                "names\ttoken c added",
                "values\ta: appearance dark #333 → #444",
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

    def test_diff_knows_spelling_and_order_and_what_counts(self):
        one = self.file("a.css", ":root { --a: #ff0000; --b: #222; --c: 1px }")
        two = self.file("b.css", ":root { --a: red; --c: 1px; --b: rgb(34 34 34) }")
        result = self.run_cli("diff", one, two)
        kinds = [line.split("\t")[0] for line in result.stdout.splitlines()]
        self.assertEqual(sorted(kinds), ["order", "spelling", "spelling"])
        for counting, code in (("values", 0), ("values,order", 1), ("spelling", 1), ("none", 0)):
            result = self.run_cli("diff", one, two, "--exit-code", counting)
            self.assertEqual(result.exit_code, code, counting)
        self.assertEqual(self.run_cli("diff", one, two, "--exit-code", "all").exit_code, 2)

    def test_help_and_version(self):
        text = self.run_cli("--help").output
        for words in (".resolver.json", "css-in-place", "Exit codes: 0", "nimble-prism diff"):
            self.assertIn(words, text)
        self.assertRegex(self.run_cli("--version").output, r"^nimble-prism, version \d+\.\d+\.\d+$")

    def test_audit_says_everything_as_json(self):
        path = self.file(
            "a.css", ":root { --ink: #777; --page: #fff; --gone: #111 } .dark { --gone: initial }"
        )
        pairs = self.file(
            "p.json",
            '[{"foreground": "ink", "background": "page"}, {"foreground": "gone", "background": "page"}]',
        )
        result = self.run_cli("audit", path, "--pairings", pairs, "--json")
        self.assertEqual(result.exit_code, 1)
        read = json.loads(result.stdout)
        self.assertEqual(read["summary"], {"readings": 4, "passing": 1, "failing": 2, "missing": 1})
        first = read["pairings"][0]
        self.assertEqual((first["foreground"], first["backgrounds"]), ("ink", ["page"]))
        self.assertEqual(first["colors"], {"foreground": "#777777", "background": "#ffffff"})
        self.assertEqual((first["use"], first["required"], first["shown"]), ("text", 4.5, "4.47"))
        self.assertTrue(first["key"])
        only = self.file("q.json", '[{"foreground": "gone", "background": "page"}]')
        result = self.run_cli("audit", path, "--pairings", only, "--theme", "appearance=dark")
        self.assertEqual(result.exit_code, 1)

    def test_link_works_on_flat_sheets(self):
        path = self.file(
            "a.css", ":root { --blue-5: #3366cc; --text-link: #3366cc; --odd: #123456 }"
        )
        bare = json.loads(self.run_cli("link", path, "--json").stdout)["literals"]
        self.assertEqual(bare, [])
        result = self.run_cli(
            "link", path, "--tier", "blue-*=raw", "--tier", "*=semantic", "--json"
        )
        found = {row["token"]: row["palette"] for row in json.loads(result.stdout)["literals"]}
        self.assertEqual(found, {"text-link": "blue-5", "odd": ""})
        self.assertEqual(self.run_cli("link", path, "--tier", "x=odd").exit_code, 2)

    def test_folders_are_read_as_they_are_asked_for(self):
        self.file("base.css", ":root { --a: #111 }")
        self.file("top.css", '@import "base.css"; :root { --b: var(--a) }')
        result = self.run_cli("resolve", self.folder, "--json")
        tokens = json.loads(result.stdout)["themes"][0]["tokens"]
        self.assertEqual(tokens["b"]["hex"], "#111111")
        (self.folder / "beside").mkdir()
        (self.folder / "beside" / "broken.tokens.json").write_text("{")
        self.file("c.tokens.json", '{"a": {"$type": "color", "$value": "#222222"}}')
        resolver = self.file(
            "d.resolver.json",
            '{"version": "2025.10", "sets": {"all": {"sources": [{"$ref": "c.tokens.json"}]}},'
            ' "resolutionOrder": [{"$ref": "#/sets/all"}]}',
        )
        self.assertEqual(self.run_cli("resolve", resolver).exit_code, 0)

    def test_nothing_ends_in_a_traceback(self):
        deep = self.file("deep.json", "[" * 100_000)
        binary = self.folder / "x.css"
        binary.write_bytes(b"\xff\xfe\x00")
        for arguments in (
            ("resolve", deep),
            ("resolve", binary),
            ("resolve", self.folder / "none"),
            ("resolve", "/dev/null"),
            ("export", deep, "--format", "css", "-o", "/proc/none"),
            ("diff", binary, deep),
        ):
            result = self.run_cli(*arguments)
            self.assertEqual(result.exit_code, 2, arguments)
            self.assertNotIn("Traceback", result.output)
            self.assertEqual(len(result.output.strip().splitlines()), 1, result.output)

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
