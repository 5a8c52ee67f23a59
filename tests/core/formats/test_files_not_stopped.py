"""What a file holds that is skipped or unknown does not end what follows it, nor does a command end early."""

import json
from pathlib import Path
from tempfile import TemporaryDirectory

from click.testing import CliRunner
from django.test import SimpleTestCase

from prism.cli import main
from prism.formats import own_members, resolver, resolver_writer, style_sheets
from prism.formats.style_sheets.tokens import is_font_list
from prism.resolution.resolver import Resolver
from tests.builders import counter_keys, document, observatory, token


class FileTests(SimpleTestCase):
    def test_members_of_a_token_that_is_not_there(self):
        built = document(token("a", "#111111"), axes=())
        own = {"tokens": [{"path": "nobody", "key": "x"}, {"path": "a", "key": "k9"}]}
        self.assertEqual(own_members.restore(built, own, "f").tokens[0].key, "k9")

    def test_a_file_that_another_one_imports_is_read_once_in_its_place(self):
        files = {
            "a.css": b'@import "b.css"; :root { --x: red }',
            "b.css": b":root { --x: blue; --y: lime }",
        }
        read = style_sheets.read_together(files, counter_keys()).document
        found = {one.path: one.value().text for one in read.tokens}
        self.assertEqual(found, {"x": "red", "y": "lime"})

    def test_a_property_that_is_used_twice(self):
        for text in (
            ":root { --a: color-mix(in srgb, var(--b), var(--b)); --b: var(--c); --c: red }",
            ":root { --a: color-mix(in srgb, var(--b), var(--c)); --c: var(--b); --b: red }",
        ):
            read = style_sheets.read(text.encode(), "a.css", counter_keys()).document
            found = Resolver(read)
            self.assertEqual(
                [found.resolve(one.key, ()).hex for one in read.tokens], ["#ff0000"] * 3
            )

    def test_selectors_of_what_was_skipped_are_shown_up_to_200_characters(self):
        for size, shown in ((200, "p ." + "a" * 197), (201, "p ." + "a" * 196 + "…")):
            text = f":root {{ --x: red }} p .{'a' * (size - 3)} {{ --y: red }}"
            (skipped,) = style_sheets.read(text.encode(), "a.css", counter_keys()).skipped
            self.assertEqual(skipped.selector, shown)

    def test_names_of_fonts_are_a_list_where_one_is_generic(self):
        # CSS Fonts 4, generic families.
        self.assertTrue(is_font_list("Foo, serif", "a"))
        self.assertTrue(is_font_list("serif", "a"))
        for text in ("Foo, Bar", "Foo", "cursive"):
            self.assertFalse(is_font_list(text, "a"))
            self.assertTrue(is_font_list(text, "font-brand"))
            self.assertFalse(is_font_list(text, "font-weight-brand"))

    def test_a_comment_before_the_file_that_is_imported(self):
        from prism.formats.style_sheets.source import imported

        self.assertEqual(imported('/* x */ @import "b.css"; @import url(c.css);', "a.css"),
                         {"b.css", "c.css"})  # fmt: skip

    def test_a_token_that_stands_in_a_modifier_alone(self):
        value = {"$type": "color", "$value": "#ff0000"}
        text = {
            "version": "2025.10",
            "modifiers": {
                "m": {
                    "contexts": {
                        "one": [{"a": value}],
                        "two": [{"a": value | {"$value": "#00ff00"}}],
                    }
                }
            },
            "resolutionOrder": [{"$ref": "#/modifiers/m"}],
        }
        files = {"x.resolver.json": json.dumps(text).encode()}
        read = resolver.read(files, counter_keys())
        found = Resolver(read)
        self.assertEqual(
            [found.resolve(read.tokens[0].key, theme).hex for theme in found.themes()],
            ["#ff0000", "#00ff00"],
        )
        self.assertFalse(any(entry.hidden for source in read.sources for entry in source.entries))

    def test_a_condition_that_no_one_knows(self):
        text = b":root { --x: red } @media (zorp: 1) and (hover) { :root { --x: blue } }"
        read = style_sheets.read(text, "a.css", counter_keys())
        self.assertEqual([one.value().text for one in read.document.tokens], ["red"])
        self.assertEqual([skipped.name for skipped in read.skipped], ["--x"])

        files = {
            "a.css": b'@import "b.css" zorp(1); :root { --x: red }',
            "b.css": b":root { --x: blue; --y: lime }",
        }
        read = style_sheets.read_together(files, counter_keys())
        self.assertEqual([one.value().text for one in read.document.tokens], ["red"])
        self.assertIn("holds only under @import", " ".join(s.reason for s in read.skipped))

    def test_what_files_said_of_tokens_is_written_and_read(self):
        built = observatory()
        files = {name: text.encode() for name, text in resolver_writer.write(built).files.items()}
        again = resolver.read(files, counter_keys("x"))
        self.assertEqual(again.sources, built.sources)
        self.assertTrue(any(entry.token for source in again.sources for entry in source.entries))


class CommandLineTests(SimpleTestCase):
    def run_command(self, text, *arguments):
        with TemporaryDirectory() as folder:
            file = Path(folder) / "x.css"
            file.write_text(text)
            return CliRunner().invoke(main, [arguments[0], str(file), *arguments[1:]])

    SHEET = """:root { --page: #ffffff; --text: #222222 }
      [data-look=night] { --page: #101010; --text: #eeeeee }"""

    def test_an_axis_that_is_not_there_names_those_that_are(self):
        done = self.run_command(self.SHEET, "resolve", "--theme", "brand=x")
        self.assertEqual(done.exit_code, 2)
        self.assertIn("There is no axis “brand”. Axes: look.", done.output)
        none = self.run_command(":root { --page: red }", "resolve", "--theme", "brand=x")
        self.assertIn("Axes: none.", none.output)

    def test_a_trace_shows_what_is_stored_and_what_is_not(self):
        sheet = """:root { --text: var(--ink) } :root { --ink: #222222 }
          [data-look=night] { --ink: initial }"""
        done = self.run_command(sheet, "trace", "text")
        self.assertIn("{ink}", done.output)
        self.assertIn("#222222", done.output)
        self.assertNotIn("no value", done.output)

    def test_a_mode_is_proposed_from_the_one_that_is_named(self):
        with TemporaryDirectory() as folder:
            asked = (
                "propose",
                "--as",
                "light",
                "--axis",
                "look",
                "-o",
                folder,
                "--json",
                "--name",
                "dawn",
            )
            done = self.run_command(self.SHEET, *asked, "--from", "night")
            self.assertEqual(done.exit_code, 0, done.output)
            names = [path.name for path in Path(folder).glob("*.resolver.json")]
            self.assertEqual(len(names), 1)
            written = json.loads((Path(folder) / names[0]).read_text())
            self.assertIn("dawn", written["modifiers"]["look"]["contexts"])
            gone = self.run_command(self.SHEET, *asked, "--from", "noon")
            self.assertEqual(gone.exit_code, 2)
            self.assertIn("There is no mode “noon”. Modes of look:", gone.output)
