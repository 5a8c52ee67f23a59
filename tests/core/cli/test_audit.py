"""The command audit in continuous integration: formats, exit codes, baselines, waivers by their day."""

import contextlib
import csv
import io
import json
import tempfile
from pathlib import Path

import jsonschema
from click.testing import CliRunner
from django.test import SimpleTestCase

from demo import quillhaven
from prism.cli import main
from prism.contrast.waiver_commands import WaivePairing
from prism.formats import resolver_writer
from tests.builders import DATA, document, token

#: SARIF 2.1.0, JSON schema of the OASIS committee, as the npm package @microsoft/jest-sarif 1.0.0-beta.0 carries it.
SCHEMA = json.loads((DATA / "sarif-2.1.0.json").read_text())
SHEET = ":root {\n  --text-main: #777;\n  --page: #fff;\n  --surface-card: #fdfdfd;\n}\n"


class AuditTests(SimpleTestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def audit(self, *arguments):
        with contextlib.chdir(self.folder):
            return CliRunner().invoke(main, ["audit", *map(str, arguments)])

    def file(self, name, text):
        path = self.folder / name
        path.write_text(text)
        return path

    def stored(self, built):
        """The resolver document of a project among its files."""
        for old in self.folder.iterdir():
            old.unlink()
        for name, text in resolver_writer.write(built).files.items():
            self.file(name, text)
        return next(self.folder.glob("*.resolver.json"))

    def test_sarif_is_valid_and_names_file_and_line(self):
        sheet = self.file("a.css", SHEET)
        log = json.loads(self.audit(sheet, "--format", "sarif").stdout)
        jsonschema.validate(log, SCHEMA)
        (run,) = log["runs"]
        rules = [rule["id"] for rule in run["tool"]["driver"]["rules"]]
        places = {}
        for result in run["results"]:
            self.assertEqual(rules[result["ruleIndex"]], result["ruleId"])
            for location in result.get("locations", ()):
                physical = location["physicalLocation"]
                self.assertEqual(
                    physical["artifactLocation"], {"uri": "a.css", "uriBaseId": "CALLED_FROM"}
                )
                path = location["logicalLocations"][0]["fullyQualifiedName"]
                places[path] = physical["region"]["startLine"]
        self.assertEqual(places["text-main"], 2)
        base = run["originalUriBaseIds"]["CALLED_FROM"]["uri"]
        self.assertEqual(base, f"{self.folder.resolve().as_uri()}/")

    def test_sarif_names_files_from_where_it_was_called(self):
        (self.folder / "sub").mkdir()
        sheet = self.file("sub/a.css", SHEET)
        for place, uri in ((self.folder, "sub/a.css"), (Path("/"), None)):
            with contextlib.chdir(place):
                done = CliRunner().invoke(main, ["audit", str(sheet), "--format", "sarif"])
            results = json.loads(done.stdout)["runs"][0]["results"]
            named = {
                where["physicalLocation"]["artifactLocation"]["uri"]
                for result in results
                for where in result.get("locations", ())
            }
            self.assertEqual(named, {uri or str(sheet.resolve()).lstrip("/")})
        other = self.folder / "other"
        other.mkdir()
        with contextlib.chdir(other):
            done = CliRunner().invoke(main, ["audit", "../sub/a.css", "--format", "sarif"])
        self.assertIn(f'"{sheet.resolve().as_uri()}"', done.stdout)

    def test_a_sheet_that_refers_to_nothing_or_in_a_circle_is_found_and_fails(self):
        sheet = self.file(
            "b.css",
            ":root { --page: #fff; --text: #111;\n --a: var(--b); --b: var(--a);\n --c: var(--none) }",
        )
        done = self.audit(sheet, "--json")
        self.assertEqual(done.exit_code, 1)
        told = json.loads(done.stdout)
        broken = [f["what"] for f in told["findings"] if f["check"] == "broken"]
        self.assertEqual(
            broken,
            ["--a in :root, line 2, is a circular reference.", "--b in :root, line 2, is a circular reference.",
             "--c in :root, line 3, needs --none, which is not there."],
        )  # fmt: skip
        self.assertEqual([s["name"] for s in told["skipped"]], ["--a", "--b", "--c"])
        self.assertEqual(self.audit(sheet, "--fail-on", "never").exit_code, 0)

    def test_sarif_of_token_files_points_into_them(self):
        file = self.stored(quillhaven.document())
        log = json.loads(self.audit(file, "--format", "sarif").stdout)
        jsonschema.validate(log, SCHEMA)
        results = log["runs"][0]["results"]
        for result in results:
            for location in result.get("locations", ()):
                physical = location["physicalLocation"]
                lines = (self.folder / physical["artifactLocation"]["uri"]).read_text().splitlines()
                leaf = location["logicalLocations"][0]["fullyQualifiedName"].split(".")[-1]
                self.assertIn(f'"{leaf}"', lines[physical["region"]["startLine"] - 1])
        located = sum("locations" in result for result in results)
        self.assertGreaterEqual(located, len(results) - 1)  # a ramp is in no file as such
        suppressed = [result for result in results if "suppressions" in result]
        self.assertEqual(len(suppressed), len(quillhaven.document().mutes))

    def test_the_exit_code_says_what_is_bad_enough(self):
        bad = self.file("a.css", SHEET)
        good = self.file("b.css", SHEET.replace("#777", "#222"))
        self.assertEqual(self.audit(bad).exit_code, 1)
        self.assertEqual(self.audit(good).exit_code, 0)
        self.assertEqual(self.audit(bad, "--fail-on", "never").exit_code, 0)
        self.assertEqual(self.audit(good, "--fail-on", "note").exit_code, 1)
        nothing = self.file("c.css", ":root { --size: 4px }")
        self.assertEqual(self.audit(nothing).exit_code, 2)
        self.assertIn("There are no pairings", self.audit(nothing).stderr)
        self.assertEqual(self.audit(bad, "--today", "soon").exit_code, 2)

    def test_a_project_that_starts_in_the_red_fails_by_what_is_new(self):
        bad = self.file("a.css", SHEET)
        known = self.file("known.json", self.audit(bad, "--format", "json").stdout)
        self.assertEqual(self.audit(bad, "--baseline", known).exit_code, 0)
        worse = self.file("a.css", SHEET.replace("--page", "--text-quiet: #999;\n  --page"))
        result = self.audit(worse, "--baseline", known)
        self.assertEqual(result.exit_code, 1)
        self.assertIn("text-quiet", result.stdout)
        wrong = self.file("other.json", '{"a": 1}')
        self.assertEqual(self.audit(bad, "--baseline", wrong).exit_code, 2)

    def test_a_waiver_counts_up_to_its_day(self):
        built = document(token("text.main", "#777777"), token("page", "#ffffff"))
        file = self.stored(built)
        pairs = self.file("p.json", '[{"foreground": "text.main", "background": "page"}]')
        self.assertEqual(self.audit(file, "--pairings", pairs).exit_code, 1)
        built = quillhaven.document()
        for pairing in list(built.pairings):
            built = WaivePairing("k", pairing.key, "Old screens", "2026-12-31").apply(built)
        file = self.stored(built)
        told = self.audit(file, "--today", "2026-12-31", "--allow-unknown", "6")
        self.assertEqual(told.exit_code, 0)
        self.assertEqual(self.audit(file, "--today", "2027-01-01").exit_code, 1)

    def test_csv_has_a_row_for_each_finding(self):
        bad = self.file("a.css", SHEET)
        rows = list(csv.DictReader(io.StringIO(self.audit(bad, "--format", "csv").stdout)))
        plain = json.loads(self.audit(bad, "--format", "json").stdout)
        self.assertEqual(len(rows), len(plain["findings"]))
        self.assertIn("contrast", {row["check"] for row in rows})
