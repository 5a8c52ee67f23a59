"""Pieces of values, and values that are absent under a condition."""

from django.test import SimpleTestCase

from prism.changes.values import set_value
from prism.color import notation, space
from prism.compare.diff import apply, diff, inverse
from prism.errors import ExpressionError, PrismError
from prism.expressions.pieces import fault_of
from prism.expressions.typed_input import read_typed, typed
from prism.formats import css, files, resolver, resolver_writer
from prism.model.values import ABSENT, BASE, Condition, Expression
from prism.resolution.resolver import Resolver
from tests.builders import APPEARANCE, counter_keys, document, resolved, token

DARK = Condition.of({"appearance": "dark"})
CHANNELS = token(
    "channels", "13, 110, 253", ({"appearance": "dark"}, "110, 168, 254"), type="piece"
)


def written_and_read(built, kind):
    written, _ = files.write(built, kind, Resolver(built).default_theme)
    data = {name: text.encode() for name, text in written.items()}
    return files.read(data, counter_keys()).document


class PieceTests(SimpleTestCase):
    def hexes(self, built, key):
        return [resolved(built, key, appearance=mode).hex for mode in ("light", "dark")]

    def test_a_piece_is_put_in_where_it_is_used_in_every_mode(self):
        built = document(CHANNELS, token("tint", "rgba({channels}, 0.5)"))
        self.assertEqual(self.hexes(built, "tint"), ["#0d6efd80", "#6ea8fe80"])

    def test_pieces_hold_pieces_numbers_and_colors(self):
        built = document(
            token("hue", "210", type="number"),
            token("rest", "80% {light}", type="piece"),
            token("light", "40%", type="piece"),
            token("blue", "hsl({hue} {rest})"),
            token("mixed", "color-mix({how}, {blue}, white)"),
            token("how", "in srgb", type="piece"),
            axes=(APPEARANCE,),
        )
        self.assertEqual(resolved(built, "blue").hex, "#1466b8")
        self.assertEqual(resolved(built, "mixed").hex, "#8ab3db")

    def test_a_whole_value_may_be_a_piece(self):
        built = document(token("name", "tomato", type="piece"), token("used", "{name}"))
        self.assertEqual(resolved(built, "used").hex, "#ff6347")

    def test_what_a_piece_does_not_fit_is_broken_with_the_reason(self):
        built = document(CHANNELS, token("tint", "oklch({channels})"))
        self.assertIn("no commas", resolved(built, "tint").broken)

    def test_a_circle_through_pieces_is_named(self):
        built = document(token("a", "{b} 1", type="piece"), token("b", "{a} 2", type="piece"))
        self.assertIn("Circular reference", resolved(built, "a").broken)

    def test_doubling_pieces_stop_at_the_longest_value(self):
        tokens = [token("p0", "0123456789", type="piece")]
        tokens += [token(f"p{i}", f"{{p{i - 1}}} {{p{i - 1}}}", type="piece") for i in range(1, 30)]
        self.assertIn("characters", resolved(document(*tokens), "p29").broken)

    def test_typed_values_that_need_pieces(self):
        built = document(CHANNELS, token("tint", "#111111"), token("ink", "#222222"))
        stored = set_value(built, "tint", BASE, Expression("rgb({channels})"))
        self.assertEqual(resolved(stored, "tint").hex, "#0d6efd")
        with self.assertRaisesMessage(ExpressionError, "takes three channels"):
            set_value(built, "tint", BASE, Expression("rgb({ink})"))

    def test_css_keeps_pieces_and_their_uses(self):
        text = css.write(document(CHANNELS, token("tint", "rgba({channels}, 0.5)")))
        self.assertIn("--channels: 13, 110, 253;", text)
        self.assertIn("--tint: rgba(var(--channels), 0.5);", text)

    def test_files_keep_pieces_and_other_readers_see_colors(self):
        built = document(CHANNELS, token("tint", "rgba({channels}, 0.5)"), token("as", "{tint}"))
        for kind in ("design-tokens", "json", "csv"):
            with self.subTest(kind):
                again = written_and_read(built, kind)
                self.assertEqual(again.token_at("tint").value(), built.token("tint").value())
                self.assertEqual(
                    self.hexes(again, again.token_at("tint").key)
                    if kind == "design-tokens"
                    else [],
                    ["#0d6efd80", "#6ea8fe80"] if kind == "design-tokens" else [],
                )
        stated = resolver_writer.write(built).files
        alone = resolver.read_alone(
            {name: text.encode() for name, text in stated.items() if "resolver" not in name},
            counter_keys(),
        )
        tint = alone.token_at("tint")
        self.assertIn("13", tint.value().text)
        self.assertNotIn("{", tint.value().text)

    def test_what_cannot_stand_in_a_style_sheet_is_no_piece(self):
        # CSS Syntax 3, section 8.1 (declaration values); nothing is loaded from a stored value.
        for text, fault in (
            ("1px; color: red", "ends a declaration"),
            ("1px !important", "ends a declaration"),
            ("{} a", "Curly brackets"),
            ("1px )", "a bracket or a quote"),
            ("'open\nnext", "a bracket or a quote"),
            ("url(x.png)", "refers to a file"),
            ("image-set('x.png' 1x)", "refers to a file"),
            ("(" * 80 + ")" * 80, "nested too deeply"),
            ("<!-- x", "ends a declaration"),
        ):
            with self.subTest(text):
                self.assertIn(fault, fault_of(text))
        for text in ("", "13, 110, 253", "0 1px 2px rgb(0 0 0 / 5%)", "[a] / 2", "'x' \"y\""):
            self.assertEqual(fault_of(text), "")


class AbsentTests(SimpleTestCase):
    def built(self):
        glow = token("glow", "#ffcc00")
        return set_value(document(glow, token("used", "{glow}")), "glow", DARK, ABSENT)

    def test_a_value_is_absent_over_the_base(self):
        built = self.built()
        self.assertEqual(resolved(built, "glow").hex, "#ffcc00")
        dark = resolved(built, "glow", appearance="dark")
        self.assertTrue(dark.absent)
        self.assertIn("has no value", resolved(built, "used", appearance="dark").broken)

    def test_it_is_typed_and_shown_as_initial(self):
        glow = self.built().token("glow")
        self.assertEqual(read_typed(self.built(), " Initial ", glow), ABSENT)
        self.assertEqual(typed(ABSENT, "color"), "initial")
        words = token("words", "initial", type="string")
        self.assertEqual(read_typed(document(words), "initial", words), Expression("initial"))

    def test_no_base_value_is_stored_as_absent(self):
        built = set_value(self.built(), "glow", BASE, ABSENT)
        self.assertIsNone(built.token("glow").value())

    def test_css_says_initial(self):
        self.assertIn("--glow: initial;", css.write(self.built()).split("dark", 1)[1])

    def test_every_format_that_has_modes_keeps_it(self):
        for kind in ("design-tokens", "json", "csv"):
            with self.subTest(kind):
                glow = written_and_read(self.built(), kind).token_at("glow")
                self.assertEqual([value for _, value in glow.values][1], ABSENT)

    def test_it_is_stored_and_undone(self):
        before, after = document(token("glow", "#ffcc00"), token("used", "{glow}")), self.built()
        operations = diff(before, after)
        self.assertEqual(apply(before, operations), after)
        self.assertEqual(apply(after, inverse(operations)), before)

    def test_an_alias_to_nothing_is_still_refused(self):
        with self.assertRaises(PrismError):
            set_value(self.built(), "used", BASE, Expression("{gone}"))


class WrittenTests(SimpleTestCase):
    def test_an_opaque_color_is_written_without_its_alpha(self):
        for kind in ("rgb", "hsl", "oklch", "p3"):
            self.assertNotIn("/", notation.write(space.parse("#336699"), kind))
            self.assertIn(" / 0.5", notation.write(space.parse("rgb(51 102 153 / .5)"), kind))

    def test_colors_are_written_in_hex_where_hex_holds_them(self):
        self.assertEqual(space.css_text(space.parse("rgb(51 102 153 / 0.2)")), "#33669933")
        self.assertEqual(space.css_text(space.parse("#336699")), "#336699")
        self.assertIn("/ 0.5", space.css_text(space.parse("rgb(51 102 153 / 0.5)")))

    def test_remainders_by_minus_one(self):
        # CSS Values 4, rem() and mod(): a whole number leaves nothing.
        built = document(
            token("n", "rem(5.5, -1)", type="number"),
            token("m", "mod(5, -1)", type="number"),
            axes=(),
        )
        found = Resolver(built)
        self.assertEqual([found.resolve(key, ()).value for key in "nm"], [0.5, 0])
