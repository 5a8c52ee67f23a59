"""The recipes of docs/architecture.md and CONTRIBUTING.md, each carried out as written on a copy of the code."""

import json
import os
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

from django.test import SimpleTestCase

from tests.recipe_texts import CHECK, CLI, COMMAND, ROOM, RULE, SCENE, TARGET, TYPE

ROOT = Path(__file__).parents[2]
COPIED = ("prism", "studio", "tests", "demo", "manage.py", "pyproject.toml")

#: What is said in the tests of the copy: those that hold or list what is registered, and are not changed.
HELD = (
    "tests.core.test_edits.CommandTests.test_every_command_has_a_sample_here",
    "tests.core.expressions.test_token_types",
    "tests.studio.test_access.AccessTests",
    "tests.studio.test_templates",
)


class RecipeTests(SimpleTestCase):
    """Everything is added to one copy, as each recipe says and nowhere else."""

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        folder = tempfile.TemporaryDirectory(prefix="recipes-")
        cls.addClassCleanup(folder.cleanup)
        cls.copy = Path(folder.name)
        for name in COPIED:
            source = ROOT / name
            ignored = shutil.ignore_patterns("__pycache__")
            if source.is_dir():
                shutil.copytree(source, cls.copy / name, ignore=ignored)
            else:
                shutil.copy(source, cls.copy / name)
        cls.add_all()

    @classmethod
    def write(cls, path, text):
        file = cls.copy / path
        file.parent.mkdir(parents=True, exist_ok=True)
        file.write_text(text)

    @classmethod
    def put(cls, path, before, text):
        """Put a text before one that stands in a file."""
        file = cls.copy / path
        held = file.read_text()
        assert held.count(before) >= 1, (path, before)
        file.write_text(held.replace(before, text + before, 1))

    @classmethod
    def add_all(cls):
        """Each recipe: its own file, and what it says to touch."""
        # check
        cls.write("prism/hygiene/loud.py", CHECK)
        cls.put("prism/hygiene/capability.py", "    two_meanings,\n", "    loud,\n")
        cls.put(
            "prism/hygiene/capability.py", "        two_meanings.CHECK,\n", "        loud.CHECK,\n"
        )
        # edit command
        path = "prism/sheet/token_commands.py"
        cls.write(
            path,
            (cls.copy / path)
            .read_text()
            .replace("import dataclass\n", "import dataclass, replace\n", 1)
            + COMMAND,
        )
        samples = cls.copy / "tests/command_samples.py"
        samples.write_text(
            samples.read_text()
            .replace("    RemoveToken,\n", "    QuietToken,\n    RemoveToken,\n", 1)
            .replace(
                "\n)\n\n\ndef before",
                '\n    (QuietToken("text.main"), "Quieted text.main"),\n)\n\n\ndef before',
                1,
            )
        )
        # column of the sheet
        cls.put(
            "prism/sheet/grid.py",
            "@dataclass(frozen=True, slots=True)\nclass Block:",
            '    @property\n    def depth(self) -> int:\n        return self.token.path.count(".") + 1\n\n\n',
        )
        cls.put("studio/sheet/cells.py", "    cells: tuple[_Cell, ...]\n", "    depth: int\n")
        cls.put(
            "studio/sheet/cells.py",
            "            tuple(_cell(token.key",
            "            line.depth,\n",
        )
        cls.put("studio/sheet/columns.py", ', "roles")', ', "depth"')
        cls.put(
            "studio/rooms/tokens/templates/tokens/grid.html",
            "          {% if not part %}<col",
            '<col class="depth">',
        )
        cls.put(
            "studio/rooms/tokens/templates/tokens/grid.html",
            "            {% if not part %}<th",
            "<th>depth</th>",
        )
        cls.put(
            "studio/rooms/tokens/templates/tokens/line.html",
            "{% if line.in_roles %}",
            "<td>{{ line.depth }}</td>",
        )
        cls.put(
            "studio/rooms/tokens/templates/tokens/adder.html", "    {% if in_roles %}", "<td></td>"
        )
        # export target
        cls.write("prism/formats/name_list.py", TARGET)
        cls.put("prism/formats/files.py", "    palettes,\n", "    name_list,\n")
        cls.put(
            "prism/formats/files.py",
            "#: Readers of one file",
            'def _names(document: Document, theme: Theme) -> Written:\n    return Written({"names.txt": name_list.write(document)})\n\n\n',
        )
        cls.put(
            "prism/formats/files.py",
            '    Target(\n        "css",',
            '    Target("names", "Names", "one a line", "text/plain; charset=utf-8", _names),\n',
        )
        # command of the command line
        cls.write("prism/cli/count.py", CLI)
        cls.put(
            "prism/cli/group.py",
            '    "diff": (',
            '    "count": ("count", "Print how many tokens FILE has."),\n',
        )
        # token type with a number in it
        cls.write("prism/expressions/types/share.py", TYPE)
        cls.put(
            "prism/expressions/types/__init__.py", "    string,\n    stroke_style", "    share,\n"
        )
        cls.put("prism/expressions/types/__init__.py", ")  # fmt: skip", "    share,\n")
        cls.put("prism/model/document.py", '    "boolean",\n    "piece",', '    "share",\n')
        # word
        lexicon = cls.copy / "prism/roles/lexicon.toml"
        lexicon.write_text(
            lexicon.read_text().replace('[surface]\nen = "', '[surface]\nen = "zorbel ', 1)
        )
        # scene
        cls.write("studio/rooms/stage/templates/stage/scenes/quay.html", SCENE)
        known = cls.copy / "prism/roles/by_slot.py"
        known.write_text(known.read_text().replace('"parts")', '"parts", "quay")', 1))
        # rule that makes pairings
        cls.put("prism/roles/rules.py", "\n\n#: Pairings that rules make at most", RULE)
        cls.put(
            "prism/roles/rules.py",
            ")\nBY_ID = {rule.id",
            '    Rule("quotes", "Quotations on the page", "text", _quotes),\n',
        )
        # room with a long task
        for name, text in ROOM.items():
            cls.write(f"studio/rooms/notes/{name}", text)
        cls.put(
            "studio/rooms/registry.py",
            '    Room(6, "exchange", "Exchange"),',
            '    Room(7, "notes", "Notes"),\n',
        )
        cls.put(
            "tests/studio/test_access.py",
            '    "work:state":',
            '    "notes:room": {"GET": "viewer"},\n',
        )

    def run_in_copy(self, *arguments, data=None):
        server = os.environ["DATABASE_URL"].rpartition("/")[0]
        environment = os.environ | {
            "DATABASE_URL": f"{server}/{self.copy.name.replace('-', '_')}",
            "PYTHONPATH": str(self.copy),
            "NIMBLE_PRISM_VAR": os.environ.get("NIMBLE_PRISM_VAR", str(ROOT / "var")),
        }
        return subprocess.run(
            [sys.executable, *arguments], cwd=self.copy, env=environment, input=data,
            capture_output=True, text=True, timeout=400,
        )  # fmt: skip

    def test_the_tests_that_hold_what_is_registered_pass_as_they_are(self):
        told = self.run_in_copy("manage.py", "test", "--parallel", "1", *HELD)
        self.assertEqual(told.returncode, 0, told.stderr[-4000:])

    def test_each_part_works(self):
        sheet = self.copy / "a.css"
        sheet.write_text(":root { --LOUD: #fff; --zorbel: #eee; --text: #111 }")
        count = self.run_in_copy("-m", "prism.cli", "count", "a.css")
        self.assertEqual(count.stdout, "3\n", count.stderr)
        audit = self.run_in_copy("-m", "prism.cli", "audit", "a.css", "--json")
        self.assertIn("LOUD is in capitals.", audit.stdout, audit.stderr)
        export = self.run_in_copy(
            "-m", "prism.cli", "export", "a.css", "--format", "names", "-o", "out"
        )
        self.assertEqual(export.returncode, 0, export.stderr)
        self.assertEqual((self.copy / "out/names.txt").read_text(), "LOUD\nzorbel\ntext\n")
        commands = self.run_in_copy("-m", "prism.cli", "commands")
        self.assertIn("quiet-token", commands.stdout, commands.stderr)
        roles = self.run_in_copy("-m", "prism.cli", "roles", "a.css", "--json")
        known = {row["path"]: row["role"] for row in json.loads(roles.stdout)["roles"]}
        self.assertIn(known["zorbel"], ("surface", "page"))  # the only one is the page
        tasks = self.run_in_copy(
            "-c",
            "import django; django.setup(); from studio.work.kinds import KINDS; print('gather-notes' in KINDS)",
        )
        self.assertEqual(tasks.stdout, "True\n", tasks.stderr[-2000:])

    def test_a_column_stands_in_the_sheet(self):
        told = self.run_in_copy(
            "-c",
            "import django; django.setup()\n"
            "from demo import quillhaven\n"
            "from prism.resolution.resolver import Resolver\n"
            "from prism.sheet import grid\n"
            "from studio.sheet import cells, columns\n"
            "document = quillhaven.document()\n"
            "resolver, axis = Resolver(document), document.axes[0]\n"
            "tokens = [document.token_at('text.link')]\n"
            "(line,) = grid.lines(resolver, axis, resolver.default_theme, tokens)\n"
            "print(cells.markup(line, {mode.key: mode.name for mode in axis.modes}, '?').shown(frozenset()))\n"
            "print(columns.span(axis, in_palette=False) - len(axis.modes))",
        )
        self.assertEqual(told.returncode, 0, told.stderr[-2000:])
        row, _, count = told.stdout.strip().rpartition("\n")
        self.assertIn("<td>2</td>", row)
        self.assertEqual(count, "3")

    def test_a_scene_stands_on_the_stage(self):
        told = self.run_in_copy(
            "-c",
            "import django; django.setup()\n"
            "from studio.rooms.stage import library\n"
            "print([scene.title for scene in library.SCENES][-1])\n"
            "print([e.name for e in library.scene_of('quay', 'Quay').elements])",
        )
        self.assertEqual(told.returncode, 0, told.stderr[-2000:])
        title, elements = told.stdout.splitlines()
        self.assertEqual(title, "Quay")
        self.assertIn("pier", elements)

    def test_the_layers_hold(self):
        told = self.run_in_copy(
            "-c", "from importlinter.cli import lint_imports_command; lint_imports_command()"
        )
        self.assertEqual(told.returncode, 0, told.stdout[-3000:] + told.stderr[-1000:])
