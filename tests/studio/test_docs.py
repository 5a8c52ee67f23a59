"""What the pages of docs say of the code is there."""

import re
from pathlib import Path

from django.test import SimpleTestCase

ROOT = Path(__file__).parents[2]
PAGES = (ROOT / "README.md", ROOT / "CONTRIBUTING.md", *sorted((ROOT / "docs").glob("*.md")))
#: A file or folder of the checkout; not one of a server, nor one that stands for many.
_PATH = re.compile(r"(?<![\w/.<-])(?:prism|studio|bench|demo|tests|docs)/[\w/.-]*\w(?![\w*<]|/<)")
_MODULE = re.compile(r"(?<![\w.])(?:python -m |\./dev test )((?:bench|tests|prism)[\w.]*\w)")


class DocsTests(SimpleTestCase):
    def named(self, pattern):
        for page in PAGES:
            for match in pattern.finditer(page.read_text()):
                yield page.name, match[match.re.groups]

    def test_files_that_are_named_are_there(self):
        paths = list(self.named(_PATH))
        self.assertGreater(len(paths), 40)
        missing = [
            (page, path)
            for page, path in paths
            if not (ROOT / path).exists() and not self.is_module(path)
        ]
        self.assertEqual(missing, [])

    def is_module(self, path):
        return (ROOT / f"{path}.py").exists()

    def test_modules_that_are_run_are_there(self):
        for page, name in self.named(_MODULE):
            parts = name.split(".")
            while parts and not (
                ROOT.joinpath(*parts).is_dir() or ROOT.joinpath(*parts).with_suffix(".py").is_file()
            ):
                self.assertTrue(
                    parts[-1].lower().startswith("test") or parts[-1][0].isupper(), (page, name)
                )
                parts.pop()
            self.assertTrue(parts, (page, name))

    def test_links_between_pages_lead_somewhere(self):
        for page in PAGES:
            for target in re.findall(r"\]\(([^)#:\s]+)(?:#[^)]*)?\)", page.read_text()):
                self.assertTrue((page.parent / target).exists(), (page.name, target))
