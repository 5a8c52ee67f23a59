"""The command line as it is installed: a wheel, its declared dependencies, and nothing else."""

import json
import re
import subprocess
import sys
import tempfile
import zipfile
from importlib.metadata import distribution
from pathlib import Path

from django.test import SimpleTestCase

from prism.cli.group import COMMANDS, main
from prism.formats import files

ROOT = Path(__file__).parents[3]
_NAME = re.compile(r"[A-Za-z0-9._-]+")


def required(name, of=()):
    """A distribution and all that it requires, by name."""
    found = {name}
    for line in of or distribution(name).requires or ():
        if "extra ==" not in line and 'sys_platform == "win32"' not in line:
            other = _NAME.match(line)[0].lower()
            found |= required(other)
    return found


class InstalledTests(SimpleTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.folder = Path(folder.name)
        source = cls.folder / "source"
        source.mkdir()
        for name in ("pyproject.toml", "README.md", "LICENSE"):
            (source / name).write_bytes((ROOT / name).read_bytes())
        subprocess.run(["cp", "-r", str(ROOT / "prism"), str(source)], check=True)
        subprocess.run(
            [sys.executable, "-m", "pip", "wheel", "--quiet", "--no-deps", "--no-index",
             "--no-build-isolation", "--disable-pip-version-check", "-w", str(cls.folder), str(source)],
            check=True, capture_output=True, timeout=120,
        )  # fmt: skip
        (cls.wheel,) = cls.folder.glob("nimble_prism-*.whl")
        cls.site = cls.folder / "site"
        with zipfile.ZipFile(cls.wheel) as archive:
            archive.extractall(cls.site)
            cls.metadata = archive.read(
                next(name for name in archive.namelist() if name.endswith("METADATA"))
            ).decode()
        wanted = [
            line.partition(": ")[2]
            for line in cls.metadata.splitlines()
            if line.startswith("Requires-Dist")
        ]
        cls.needed = required("nimble-prism", wanted) - {"nimble-prism"}
        for name in cls.needed:
            for path in distribution(name).files or ():
                top = cls.site / path.parts[0]
                if path.parts[0] != ".." and not top.exists():
                    top.symlink_to(distribution(name).locate_file(path.parts[0]))

    def run_installed(self, *arguments):
        """The command as its entry point runs it, with no other packages than those that it declares."""
        program = (
            "import sys; sys.path[:] = [p for p in sys.path if 'site-packages' not in p] + [sys.argv.pop(1)];"
            "from prism.cli import main; main()"
        )
        return subprocess.run(
            [sys.executable, "-I", "-c", program, str(self.site), *arguments],
            capture_output=True, text=True, timeout=120, cwd=self.folder,
        )  # fmt: skip

    def test_no_web_framework_is_declared(self):
        self.assertEqual(self.needed & {"django", "psycopg", "gunicorn", "whitenoise"}, set())
        self.assertIn("coloraide", self.needed)
        with zipfile.ZipFile(self.wheel) as archive:
            names = archive.namelist()
        self.assertEqual(
            {name.split("/")[0] for name in names if "dist-info" not in name}, {"prism"}
        )

    def test_it_works_with_what_it_declares(self):
        sheet = self.folder / "a.css"
        sheet.write_text(":root { --page: #fff; --text: #777 } [data-theme=dark] { --page: #000 }")
        told = self.run_installed("resolve", "a.css", "--json")
        self.assertEqual(told.returncode, 0, told.stderr)
        self.assertIn("text", json.dumps(json.loads(told.stdout)))
        audit = self.run_installed("audit", "a.css")
        self.assertIn(audit.returncode, (0, 1), audit.stderr)
        fixed = self.run_installed("fix", "a.css", "-o", "out")
        self.assertIn(fixed.returncode, (0, 1), fixed.stderr)  # the solver is there

    def test_nothing_large_is_loaded_before_a_command_is_called(self):
        program = (
            "import sys; from prism.cli import main\n"
            "try: main(['--help'])\n"
            "except SystemExit: pass\n"
            "print(*sorted(sys.modules), file=sys.stderr)"
        )
        told = subprocess.run(
            [sys.executable, "-c", program], capture_output=True, text=True, timeout=60, cwd=ROOT
        )
        self.assertEqual({"numpy", "coloraide", "PIL", "ortools"} & {*told.stderr.split()}, set())

    def test_the_help_says_what_each_command_says_of_itself(self):
        for name, (module, words) in COMMANDS.items():
            command = main.get_command(None, name)
            self.assertEqual(command.callback.__module__, f"prism.cli.{module}")
            self.assertEqual(words, command.get_short_help_str(len(words)), name)
        for kind in (*files.KINDS, *files.ENDINGS):
            self.assertIn(kind, main.epilog)
