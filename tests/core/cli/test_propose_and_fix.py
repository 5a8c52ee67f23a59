"""The commands propose and fix, on style sheets."""

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from click.testing import CliRunner
from django.test import SimpleTestCase

from prism.cli import main
from prism.color import space
from prism.color.contrast import ratio_of
from prism.formats import files
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver
from prism.roles.guess import guess
from tests.builders import counter_keys

ROOT = Path(__file__).parents[3]


class CommandTests(SimpleTestCase):
    def run_command(self, *arguments):
        return subprocess.run(
            [sys.executable, "-m", "prism.cli", "propose", *arguments],
            capture_output=True, text=True, cwd=ROOT, timeout=60, check=False,
        )  # fmt: skip

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def file(self, text):
        path = self.folder / "x.css"
        path.write_text(text)
        return str(path)

    def test_a_file_without_the_axis_gets_it_and_is_read_again(self):
        file = self.file(":root { --page: #fff; --text-main: #222; --card-bg: #fff }")
        out = self.folder / "out"
        done = self.run_command(file, "--as", "dark", "-o", str(out), "--json")
        self.assertEqual((done.returncode, json.loads(done.stdout)["after"]), (0, []))
        written = {path.name: path.read_bytes() for path in out.iterdir()}
        document = files.read(written, counter_keys()).document
        (axis,) = document.axes
        self.assertEqual([mode.name for mode in axis.modes], ["light", "dark"])
        resolver = Resolver(document)
        dark = resolver.theme({axis.key: axis.modes[1].key})
        pairs = guess(document, resolver)
        self.assertEqual(str(pairs[document.token_at("page").key].role), "page")
        values = json.loads(done.stdout)["values"]
        self.assertEqual(values["page"][0]["when"], {"appearance": "dark"})
        for path, (stated,) in values.items():
            stored = resolver.resolve(document.token_at(path).key, dark).hex
            self.assertEqual(stored, space.hex_text(space.parse(stated["value"])))
        self.assertEqual(audit(resolver, [], [dark]), [])

    def test_what_cannot_be_judged_or_is_not_there(self):
        nothing = self.file(":root { --fig: #123; --plum: #fff }")
        out = str(self.folder / "out")
        for arguments, sentence in (((nothing, "--as", "dark"), "nothing can be judged"),):
            done = self.run_command(*arguments, "-o", out)
            self.assertEqual(done.returncode, 2)
            self.assertIn(sentence, done.stderr)

    def test_what_is_held_stays_and_what_cannot_pass_is_said_with_what_would_free_it(self):
        file = self.file(":root { --page: #fff; --text-main: #222; --text-hint: #777 }")
        out = str(self.folder / "out")
        done = self.run_command(
            file,
            "--as",
            "dark",
            "-o",
            out,
            "--json",
            "--hold",
            "text-hint=#444",
            "--hold",
            "page=#111",
        )
        self.assertEqual(done.returncode, 1)
        said = json.loads(done.stdout)
        self.assertEqual(said["values"]["text-hint"][0]["value"], "#444")
        (short,) = said["after"]
        self.assertEqual((short["foreground"], short["required"]), ("text-hint", 4.5))
        self.assertIn("another value for", short["why"])
        self.assertTrue(said["contradictions"])
        kept = self.run_command(file, "--as", "dark", "-o", out, "--hold", "page=", "--json")
        self.assertNotIn("page", json.loads(kept.stdout)["values"])
        for held, sentence in (("gone=#fff", "no token “gone”"), ("page", "names no value")):
            done = self.run_command(file, "--as", "dark", "-o", out, "--hold", held)
            self.assertEqual(done.returncode, 2)
            self.assertIn(sentence, done.stderr)

    def fix(self, *arguments):
        done = subprocess.run(
            [sys.executable, "-m", "prism.cli", "fix", *arguments],
            capture_output=True, text=True, cwd=ROOT, timeout=60, check=False,
        )  # fmt: skip
        return done

    def test_what_fails_is_fixed_in_every_mode(self):
        file = self.file(
            ":root { --page: #fff; --text-main: #222; --text-hint: #aaa }"
            "[data-theme=dark] { --page: #111; --text-main: #eee; --text-hint: #333 }"
        )
        out = self.folder / "out"
        self.assertEqual(self.fix(file, "-o", str(out)).returncode, 0)
        document = files.read(
            {path.name: path.read_bytes() for path in out.iterdir()}, counter_keys()
        ).document
        resolver = Resolver(document)
        themes = list(resolver.themes())
        self.assertEqual(len(themes), 2)
        for theme in themes:
            page, hint, main = (
                resolver.resolve(document.token_at(path).key, theme).color
                for path in ("page", "text-hint", "text-main")
            )
            self.assertGreaterEqual(ratio_of(hint, page), 4.5)
            self.assertLess(ratio_of(hint, page), 5.5)  # no further than it must
            self.assertIn(space.hex_text(main), ("#222222", "#eeeeee"))
        done = self.fix(file, "-o", str(out), "--hold", "text-hint", "--hold", "page")
        self.assertEqual(done.returncode, 1)
        self.assertIn("text-hint on page", done.stdout)


class ExitTests(SimpleTestCase):
    def test_a_proposal_that_falls_short_ends_with_1(self):
        css = ":root { --bg-page: #ffffff; --text-main: rgb(0 0 0 / 40%); --fig: #808080 }"
        runner = CliRunner()
        with runner.isolated_filesystem():
            with open("a.css", "w", encoding="utf-8") as file:
                file.write(css)
            result = runner.invoke(main, ["propose", "a.css", "--as", "dark", "-o", "out"])
        self.assertEqual(result.exit_code, 1, result.output)
