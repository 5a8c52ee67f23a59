"""Colors in text of many kinds, and importing them into a palette."""

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism.color import notation, space
from prism.errors import EditError, FormatError, PrismError
from prism.model.values import BASE, Expression
from prism.palette import imports
from prism.palette.imports import Choice, Destination, from_file, from_text, place
from prism.palette.text_colors import MAX_TEXT, find
from prism.resolution.resolver import Resolver
from tests import tried
from tests.builders import counter_keys, document, token

channel = st.integers(0, 255)


def pairs(text):
    return [(one.name, space.hex_text(one.color)) for one in find(text)]


class FindTests(SimpleTestCase):
    def test_eight_notations_with_their_names(self):
        # One color in eight notations; lab and oklch were computed by colour-science.
        text = """
            one: #236b53
            two: rgb(35 107 83)
            three: rgba(35, 107, 83, 1)
            four: hsl(160 50.7% 27.84%)
            five: hwb(160 13.73% 58.04%)
            six: oklch(0.4761 0.0818 167.31)
            seven: lab(40.31 -28.03 6.65)
            eight: color(srgb 0.137255 0.419608 0.32549)
        """
        found = find(text)
        self.assertEqual(
            [one.name for one in found],
            ["one", "two", "three", "four", "five", "six", "seven", "eight"],
        )
        for one in found:
            channels = space.rgba8(one.color)[:3]
            self.assertLessEqual(
                max(abs(a - b) for a, b in zip(channels, (35, 107, 83), strict=True)), 1, one
            )
        self.assertEqual(pairs("a: rebeccapurple"), [("a", "#663399")])
        (wide,) = find("p3: color(display-p3 0 1 0)")
        self.assertEqual(wide.color.space, "display-p3")

    def test_names_are_kept_from_every_kind_of_text(self):
        for text, wanted in (
            ("Spruce\n#e4fef3\n#cefae7\n", ["Spruce.1", "Spruce.2"]),
            ("name\tlight\tdark\nink\t#111\t#eee", ["ink.light", "ink.dark"]),
            (":root { --brand-500: #236b53; --b: rgb(1, 2, 3); }", ["brand-500", "b"]),
            ("$lamp: hsl(35 78% 59%); @x: #111;", ["lamp", "x"]),
            ('{"brand": {"500": "#236b53", "600": {"value": "#111"}}}', ["brand.500", "brand.600"]),
            (
                '[{"name": "Tide", "hex": "#0cf"}, {"name": "Rope", "hex": "#c96"}]',
                ["Tide", "Rope"],
            ),
            ('["#111", "#222"]', ["", ""]),
            ("| Name | Hex |\n|---|---|\n| Deep sea | #036 |", ["Deep sea"]),
            ('"Spruce","rgb(35, 107, 83)"', ["Spruce"]),
            ("spruce, #e4fef3, #cefae7", ["spruce.1", "spruce.2"]),
            ("- Harbor blue — #0cf", ["Harbor blue"]),
            ("#0cf Harbor", ["Harbor"]),
            ("236b53 e8a343", ["", ""]),
            ("coral\nteal", ["", ""]),
            ("Coral, #f06a52", ["Coral"]),
            ("Our green, as everybody in the whole company knows, is #236b53.", ["Our green"]),
            ("/* old: #111 */ new: #222", ["new"]),
            ("Größe: #111\nまつ: #222", ["Größe", "まつ"]),
        ):
            self.assertEqual([one.name for one in find(text)], wanted, text)

    def test_lines_are_counted_through_comments(self):
        self.assertEqual([one.line for one in find("/* a\nb */\n\nx: #111\n#222")], [4, 5])

    @tried(80)
    @given(st.lists(st.tuples(channel, channel, channel), min_size=1, max_size=6))
    def test_whatever_is_written_in_any_notation_is_found_again(self, colors):
        made = [space.parse("#{:02x}{:02x}{:02x}".format(*color)) for color in colors]
        for one in notation.NOTATIONS:
            text = "\n".join(f"c{i}: {notation.write(c, one)}" for i, c in enumerate(made))
            found = find(text)
            self.assertEqual([f.name for f in found], [f"c{i}" for i in range(len(made))])
            for was, now in zip(made, found, strict=True):
                apart = zip(space.rgba8(was)[:3], space.rgba8(now.color)[:3], strict=True)
                self.assertLessEqual(max(abs(a - b) for a, b in apart), 1, (one, text))

    @tried(150)
    @given(st.text(max_size=300))
    def test_any_text_at_all_gives_colors_or_a_sentence(self, text):
        try:
            self.assertTrue(find(text))
        except FormatError as error:
            self.assertTrue(error.sentence.endswith("."))

    def test_bad_text_is_refused_in_words(self):
        for text, sentence in (
            ("no colors here", "There is no color in this text."),
            ("#12 #12345 rgb(x) #ggg", "There is no color in this text."),
            ("#111\n" * 3000, "over 2000 colors"),
            ("x" * (MAX_TEXT + 1), "at most 400000 are read"),
            ("{" * 5000, "There is no color in this text."),
        ):
            with self.assertRaisesMessage(FormatError, sentence):
                find(text)


class NotationTests(SimpleTestCase):
    def test_every_notation_reads_back_and_says_what_lies_beyond(self):
        for text in (
            "#236b53",
            "#236b5380",
            "oklch(0.7 0.25 145)",
            "color(display-p3 0 1 0)",
            "white",
        ):
            color = space.parse(text)
            for one in notation.NOTATIONS:
                again = space.parse(notation.write(color, one))
                gamut = "display-p3" if one in ("oklch", "p3") else "srgb"
                near = space.rgba(space.fit(color, gamut))
                for a, b in zip(near, space.rgba(again), strict=True):
                    self.assertAlmostEqual(a, b, delta=0.004, msg=(text, one))
        self.assertTrue(notation.beyond_srgb(space.parse("color(display-p3 0 1 0)")))
        self.assertFalse(notation.beyond_srgb(space.parse("#0f0")))
        with self.assertRaises(ValueError):
            notation.write(space.parse("#111"), "cmyk")


class BringTests(SimpleTestCase):
    def setUp(self):
        self.keys = counter_keys()
        self.built = document(
            token("sea", "#005588", tier="raw"),
            token("use", "{sea}"),
            token("copy", "x", type="string"),
        )

    def test_clashes_are_found_and_asked(self):
        found = from_text(self.built, "sea: #005588\nrope: #c96\nrope: #c97\nuse: #111")
        self.assertEqual([one.clash for one in found], ["same", "", "numbered", "other"])
        self.assertEqual([one.path for one in found], ["sea", "rope", "rope-2", "use"])
        again = from_text(
            self.built, "rope: #c96\nrope: #cc9966\nrope: #111\nrope: #222\nrope-2: #333"
        )
        self.assertEqual(
            [(one.path, one.clash, one.there) for one in again],
            [
                ("rope", "", ""),
                ("rope", "repeated", "1"),
                ("rope-3", "numbered", "1"),
                ("rope-4", "numbered", "1"),
                ("rope-2", "", ""),
            ],
        )
        with self.assertRaisesMessage(EditError, "“sea” already exists."):
            place(self.built, [Choice("sea", "#111")], self.keys)
        with self.assertRaisesMessage(EditError, "“a” is a duplicate."):
            place(self.built, [Choice("a", "#111"), Choice("a", "#222")], self.keys)
        with self.assertRaisesMessage(EditError, "is not a color"):
            place(self.built, [Choice("copy", "#111", "replace")], self.keys)
        kept = place(self.built, [Choice("sea", "#111", "keep")], self.keys)
        self.assertEqual(kept, self.built)
        replaced = place(self.built, [Choice("sea", "#111", "replace")], self.keys)
        self.assertEqual(replaced.token_at("sea").value(), Expression("#111"))

    def test_order_and_names_stay_and_a_purpose_makes_a_ramp_of_the_group(self):
        names = ["950", "900", "50", "10", "Größe 1"]
        choices = [Choice(name, f"#{i}{i}{i}") for i, name in enumerate(names)]
        after = place(self.built, choices, self.keys, group="tide", purpose="chart")
        found = [one.path for one in after.tokens if one.path.startswith("tide")]
        self.assertEqual(found, [f"tide.{name}" for name in names])
        self.assertEqual((after.ramps[0].name, after.ramps[0].purpose), ("tide", "chart"))

    def test_a_name_that_cannot_be_a_path_is_said(self):
        for name in ("a..b", "{a}", "$a", ""):
            with self.assertRaisesMessage(EditError, "cannot be a path"):
                place(self.built, [Choice(name, "#111")], self.keys)

    def test_files_of_palettes_tokens_and_text(self):
        for name, data, wanted in (
            ("a.gpl", b"GIMP Palette\nName: x\n#\n 35 107 83\tSpruce\n", ["Spruce"]),
            ("a.tokens.json", b'{"a": {"b": {"$type": "color", "$value": "#111111"}}}', ["a.b"]),
            ("a.css", b":root { --a: #111; --b: var(--a); }", ["a", "b"]),
            ("a.txt", b"Deep: #036", ["Deep"]),
            ("a.json", b'{"sea": "#036"}', ["sea"]),
        ):
            found = from_file(self.built, data, name, self.keys)
            self.assertEqual([one.path for one in found], wanted, name)
        for name, data, sentence in (
            ("a.txt", b"\xff\xfe\x00", "The file is not text."),
            ("a.txt", b"nothing", "a.txt: There is no color in this text."),
            ("a.tokens.json", b'{"a": {"$type": "number", "$value": 3}}', "contains no color"),
        ):
            with self.assertRaisesMessage(PrismError, sentence):
                from_file(self.built, data, name, self.keys)

    def test_colors_of_a_picture_become_ramps_colors_and_values(self):
        color = space.parse("#e8a343")
        after = imports.use(
            self.built,
            [
                Destination(color, "ramp", "lamp"),
                Destination(color, "color", "glow"),
                Destination(color, "token", "use"),
            ],
            BASE,
            self.keys,
        )
        self.assertEqual(after.ramps[0].name, "lamp")
        self.assertEqual(after.token_at("glow").value(BASE), Expression("#e8a343"))
        resolver = Resolver(after)
        self.assertEqual(resolver.resolve("use", (1, 1)).hex, "#e8a343")
        with self.assertRaisesMessage(EditError, "There is no color token “nothing”."):
            imports.use(self.built, [Destination(color, "token", "nothing")], BASE, self.keys)
