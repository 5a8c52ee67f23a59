"""Expressions: literals of every type, references, and what is said of bad ones."""

from django.test import SimpleTestCase

from prism.color import space
from prism.errors import ExpressionError
from prism.expressions.evaluation import Quantity
from prism.expressions.values import check, decode, encode, parse, references, rewrite
from prism.model.values import Composite, Expression, Listing
from prism.resolution.resolver import Resolver
from tests.builders import document, token


class LiteralTests(SimpleTestCase):
    def test_colors_in_every_notation_of_css_color_4(self):
        for text, expected in {
            "#0f0": "#00ff00",
            "#236b53": "#236b53",
            "#00000080": "#00000080",
            "rgb(35 107 83)": "#236b53",
            "rgba(35, 107, 83, 0.5)": "#236b5380",
            "hsl(0 100% 50%)": "#ff0000",
            "hwb(120 0% 0%)": "#00ff00",
            "Rebeccapurple": "#663399",
            "transparent": "#00000000",
        }.items():
            with self.subTest(text):
                self.assertEqual(space.hex_text(parse(text, "color").literal), expected)

    def test_two_names_are_what_css_color_4_says(self):
        # CSS Color 4, section 6.1.
        self.assertEqual(space.hex_text(space.parse("mediumpurple")), "#9370db")
        self.assertEqual(space.hex_text(space.parse("palevioletred")), "#db7093")

    def test_measures_keep_number_and_unit(self):
        self.assertEqual(parse("1.5rem", "dimension").literal, Quantity(1.5, "rem"))
        self.assertEqual(parse("120ms", "duration").literal, Quantity(120.0, "ms"))
        self.assertEqual(parse("650", "fontWeight").literal, 650.0)
        self.assertEqual(parse("false", "boolean").literal, False)

    def test_each_bad_literal_has_its_sentence(self):
        for text, expected, sentence in (
            ("#12345", "color", "“#12345” is not a color."),
            ("blau", "color", "“blau” is not a color."),
            ("url(x)", "color", "“url(x)” is not a color."),
            ("16", "dimension", "The whole is a number, and a length is needed here."),
            ("16px;color:red", "dimension", "“;” is unexpected."),
            ("ten", "number", "“ten” is not a number."),
            ("1001", "fontWeight", "A font weight lies between 1 and 1000."),
            ("wavy", "strokeStyle", "“wavy” is not a line style."),
            ("yes", "boolean", "“yes” is neither true nor false."),
            ("{a} and {b}", "color", "“and” is unexpected after a color."),
            ("#fff}", "color", "`}` is unexpected."),
        ):
            with self.subTest(text=text, type=expected):
                with self.assertRaises(ExpressionError) as caught:
                    check(Expression(text), expected)
                self.assertEqual(caught.exception.sentence, sentence)

    def test_a_very_long_text_is_refused_before_it_is_parsed(self):
        with self.assertRaisesMessage(ExpressionError, "too long"):
            parse("a" * 70_000, "color")


class ReferenceTests(SimpleTestCase):
    def test_a_path_keeps_spaces_and_case(self):
        self.assertEqual(parse("{Deep Sky.$root}", "color").reference, "Deep Sky.$root")

    def test_references_inside_parts_are_found_and_rewritten(self):
        value = Composite(
            (("color", Expression("{veil.night}")), ("offsetY", Expression("{space.base}")))
        )
        self.assertEqual(list(references(value, "shadow")), ["veil.night", "space.base"])
        moved = rewrite(value, "shadow", {"space.base": "measure.4"})
        self.assertEqual(list(references(moved, "shadow")), ["veil.night", "measure.4"])

    def test_values_of_every_shape_survive_their_text(self):
        for value in (
            Expression("{a.b}"),
            Listing((Expression("Hanken Grotesk"), Expression("sans-serif"))),
            Composite((("width", Expression("1px")), ("style", Expression("solid")))),
        ):
            self.assertEqual(decode(encode(value)), value)

    def test_a_curve_has_four_numbers(self):
        curve = Listing(tuple(Expression(text) for text in ("0.2", "0", "1")))
        with self.assertRaisesMessage(ExpressionError, "four numbers"):
            check(curve, "cubicBezier")

    def test_a_part_that_its_type_does_not_have_is_named(self):
        with self.assertRaisesMessage(ExpressionError, "no part named “glow”"):
            check(Composite((("glow", Expression("1px")),)), "shadow")


class ShapeTests(SimpleTestCase):
    def refused(self, sentence, type, value):
        with self.assertRaisesMessage(ExpressionError, sentence):
            check(value, type)

    def parts(self, **texts):
        return Composite(tuple((name, Expression(text)) for name, text in texts.items()))

    def test_a_value_of_many_parts_is_whole(self):
        self.refused("A border lacks its style.", "border", self.parts(color="#000", width="1px"))
        self.refused("A shadow is made of parts", "shadow", Expression("0 1px #000"))
        self.refused(
            "“blue-ish” is not a color",
            "border",
            self.parts(color="blue-ish", width="1px", style="solid"),
        )
        self.refused("is empty", "shadow", Listing(()))
        numbers = [Expression(text) for text in ("2", "0", "0.5", "1")]
        self.refused("between 0 and 1", "cubicBezier", Listing(tuple(numbers)))
        check(self.parts(color="{a}", width="calc(1px + {b})", style="dashed"), "border")
        check(Expression("{shadow.card}"), "shadow")


class ComputationTests(SimpleTestCase):
    def said(self, text, type):
        with self.assertRaises(ExpressionError) as caught:
            check(Expression(text), type)
        return caught.exception.place, caught.exception.sentence

    def test_errors_carry_position_and_sentence(self):
        for text, expected, place, sentence in (
            ("calc(4px + 2px", "dimension", "position 5", "`)` is missing after `calc(`."),
            ("calc(4px + 2)", "dimension", "", "A length and a number cannot be added."),
            (
                "calc(4px * 2px)",
                "dimension",
                "",
                "The whole is a product of units, and a length is needed here.",
            ),
            ("calc(4px -2px)", "dimension", "position 10", "An operator is missing before “-2px”."),
            ("calc(4px / 0)", "dimension", "", "The result is not a finite number."),
            ("4furlongs", "dimension", "position 1", "“furlongs” is not a unit."),
            (
                "color-mix(in oklch, {ink.1})",
                "color",
                "position 1",
                "color-mix() takes a space and two colors.",
            ),
            (
                "color-mix(in mauve, red, blue)",
                "color",
                "position 11",
                "“mauve” is not a color space to mix in.",
            ),
            (
                "oklch(from {a b} l c)",
                "color",
                "position 1",
                "oklch() takes three channels, and an alpha after `/`.",
            ),
            ("mix({a}, {b})", "color", "position 1", "mix() makes no color."),
            ("{a} {b}", "color", "position 5", "“{b}” is unexpected after a color."),
            (
                "oklch(from {ink.11} calc(l + ) c h)",
                "color",
                "position 21",
                "A value is missing next to an operator.",
            ),
        ):
            with self.subTest(text):
                self.assertEqual(self.said(text, expected), (place, sentence))

    def test_lengths_multiply_and_divide(self):
        self.assertEqual(parse("calc(4px * 4px / 1px)", "dimension").literal, Quantity(16.0, "px"))
        self.assertEqual(parse("calc(1rem + 4px)", "dimension").literal.text, "calc(1rem + 4px)")
        self.assertEqual(parse("calc(6px / 3px)", "number").literal, 2.0)
        self.assertEqual(parse("calc(0.2s + 50ms)", "duration").literal, Quantity(250.0, "ms"))

    def test_references_anywhere_are_found(self):
        text = "color-mix(in oklch, {a b.c}, rgb(from {d} r g calc(b * {n})) {share})"
        self.assertEqual(parse(text, "color").references, ("a b.c", "d", "n", "share"))

    def test_the_worst_nesting_is_refused_not_followed(self):
        text = "calc(" * 200 + "1px" + ")" * 200
        self.assertIn("nested too deeply", self.said(text, "dimension")[1])


class RelativeColorTests(SimpleTestCase):
    """CSS Color 5, section 4: channels of the origin, beside literal numbers and percentages."""

    def channels(self, text):
        built = document(token("a", "#336699"), token("b", text))
        color = Resolver(built).resolve("b", (0, 0)).color
        self.assertIsNotNone(color, text)
        return color

    def test_percentages_are_parts_of_each_channel_s_range(self):
        # CSS Color 4, the reference ranges of each function.
        for number, percent in (
            ("rgb(from {a} 102 g b)", "rgb(from {a} 40% g b)"),
            ("hsl(from {a} h 40 50)", "hsl(from {a} h 40% 50%)"),
            ("hwb(from {a} h 20 30)", "hwb(from {a} h 20% 30%)"),
            ("lab(from {a} 50 62.5 -25)", "lab(from {a} 50% 50% -20%)"),
            ("lch(from {a} 50 75 h)", "lch(from {a} 50% 50% h)"),
            ("oklab(from {a} 0.5 0.2 -0.1)", "oklab(from {a} 50% 50% -25%)"),
            ("oklch(from {a} 0.5 0.1 h)", "oklch(from {a} 50% 25% h)"),
            ("color(from {a} srgb 0.2 g b)", "color(from {a} srgb 20% g b)"),
        ):
            with self.subTest(number):
                one, other = self.channels(number), self.channels(percent)
                self.assertEqual(one.space, other.space)
                for left, right in zip(one.coords, other.coords, strict=True):
                    self.assertAlmostEqual(left, right, 6)

    def test_channels_of_the_origin_are_in_the_units_of_the_function(self):
        for text in ("rgb", "hsl", "hwb", "lab", "lch", "oklab", "oklch"):
            names = text[-3:] if text.startswith("ok") else text
            with self.subTest(text):
                color = self.channels(f"{text}(from {{a}} {' '.join(names)})")
                self.assertEqual(space.hex_text(color), "#336699")
        calculated = self.channels("rgb(from {a} calc(r * 2) calc(g / 2) calc(b - 3))")
        self.assertEqual(space.hex_text(calculated), "#663396")
