"""Dark and light counterparts of documents of foreign kind, by what each color is for."""

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from django.test import SimpleTestCase

from prism.color import space
from prism.color.contrast import ratio_of
from prism.derive import counterpart
from prism.errors import EditError
from prism.formats import files
from prism.model.document import Document, Token
from prism.model.values import BASE, Expression
from prism.palette.course import oklch
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver
from prism.roles.guess import guess
from tests import roles
from tests.builders import counter_keys

ROOT = Path(__file__).parents[2]


def proposed(document, *, dark=True, **place):
    resolver = Resolver(document)
    where = counterpart.NewMode(**place)
    return counterpart.propose(
        document, resolver, guess(document, resolver), dark=dark, place=where
    )


def colors(**values):
    tokens = [
        Token(path, path.replace("__", "."), "color", "semantic", ((BASE, Expression(text)),))
        for path, text in values.items()
    ]
    return Document(tokens=tuple(tokens))


class ForeignTests(SimpleTestCase):
    def test_all_that_rules_judge_reaches_what_it_must(self):
        before = 0
        for name in roles.names():
            document = roles.read(name).document
            place = {"name": "new"}
            if document.axes:
                place |= {"axis": document.axes[0].key, "source": document.axes[0].default}
            with self.subTest(name):
                made = proposed(document, dark=name != "spanish", **place)
                self.assertGreater(made.judged, 5)
                self.assertEqual([short.pairing.key for short in made.after], [])
                before += len(made.before)
        self.assertGreater(before, 30)  # what fell short in their own mode is mended on the way

    def test_a_mode_that_is_a_plain_copy_would_fall_short(self):
        """The check is none that cannot fail: mirrored pages under texts that stayed."""
        document = colors(page="#fff", text="#222", quiet__text="#666")
        made = proposed(document)
        page = made.colors["page"]
        self.assertLess(ratio_of(space.parse("#222"), page), 4.5)

    def test_surfaces_that_share_a_value_part_and_rise(self):
        document = colors(
            page="#fff", bg__sunken="#fff", bg__card="#fff", bg__raised="#fff", bg__menu="#fff",
            bg__modal="#fff", text="#222",
        )  # fmt: skip
        made = proposed(document)
        lights = {key: oklch(color)[0] for key, color in made.colors.items() if key != "text"}
        self.assertEqual(
            sorted(lights, key=lights.get),
            ["bg__sunken", "page", "bg__card", "bg__raised", "bg__menu", "bg__modal"],
        )
        for lower, upper in zip(
            sorted(lights.values())[:-1], sorted(lights.values())[1:], strict=True
        ):
            self.assertGreater(upper - lower, 0.01)

    def test_hues_stay_and_texts_keep_their_distance(self):
        document = colors(page="#fff", text="#1a1a2e", text__quiet="#5a5a78", link__text="#7a1fa2")
        made = proposed(document)
        page = made.colors["page"]
        for key, color in made.colors.items():
            if key != "page":
                was = ratio_of(space.parse(document.token(key).values[0][1].text), space.WHITE)
                self.assertAlmostEqual(ratio_of(color, page), min(was, 15), delta=0.4, msg=key)
        hue = oklch(space.parse("#7a1fa2"))[2]
        self.assertAlmostEqual(oklch(made.colors["link__text"])[2], hue, delta=3)

    def test_a_brand_that_cannot_carry_white_gets_a_dark_label_and_lighter_states(self):
        document = colors(
            page="#fff", button__fill="#ffc400", button__fill__hover="#e6b000", button__label="#222",
        )  # fmt: skip
        made = proposed(document)
        after = Resolver(made.document)
        theme = after.theme({made.axis: made.mode})
        fill, hover, label = (
            after.resolve(key, theme).color
            for key in ("button__fill", "button__fill__hover", "button__label")
        )
        self.assertGreater(oklch(hover)[0], oklch(fill)[0])
        self.assertGreaterEqual(ratio_of(label, hover), 4.5)

    def test_what_refers_to_others_follows_where_that_is_right(self):
        document = colors(page="#fff", text="#222", card__bg="{page}", title__text="{text}")
        made = proposed(document)
        self.assertNotIn("title__text", made.colors)
        self.assertIn("card__bg", made.colors)  # a card is lighter than the page in the dark

    def test_display_p3_stays_in_its_gamut(self):
        from dataclasses import replace

        document = replace(roles.read("italian").document, gamut="display-p3")
        axis = document.axes[0]
        made = proposed(document, axis=axis.key, source=axis.default, name="new")
        self.assertTrue(all(space.in_gamut(color, "display-p3") for color in made.colors.values()))

    def test_unknown_colors_are_left_and_said(self):
        document = colors(page="#fff", text="#222", fig="#123456")
        made = proposed(document)
        self.assertNotIn("fig", made.colors)

    def test_a_taken_name_or_a_mode_that_is_gone(self):
        document = roles.read("dashed").document
        axis = document.axes[0]
        with self.assertRaisesMessage(EditError, "Two modes have the same name."):
            proposed(document, axis=axis.key, source=axis.default, name="dark")
        with self.assertRaisesMessage(EditError, "The mode to start from is no longer there."):
            proposed(document, axis=axis.key, source="gone", name="new")


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
        said = json.loads(done.stdout)["colors"]
        for path, text in said.items():
            shown = resolver.resolve(document.token_at(path).key, dark).hex
            self.assertEqual(shown, space.hex_text(space.parse(text)))
        self.assertEqual(audit(resolver, [], [dark]), [])

    def test_what_cannot_be_judged_or_is_not_there(self):
        nothing = self.file(":root { --fig: #123; --plum: #fff }")
        out = str(self.folder / "out")
        for arguments, sentence in (
            ((nothing, "--as", "dark"), "nothing can be judged"),
            ((self.file(":root { --page: #fff }"), "--as", "dark", "--from", "x"), "no axis"),
        ):
            done = self.run_command(*arguments, "-o", out)
            self.assertEqual(done.returncode, 2)
            self.assertIn(sentence, done.stderr)
