"""Every type of token in the registry reads, writes and shows what it must."""

import json
from dataclasses import replace

from django.test import SimpleTestCase

from prism.errors import ExpressionError, FormatError, PrismError
from prism.expressions.typed_input import read_typed, typed
from prism.expressions.types import TOKEN_TYPES
from prism.expressions.values import check, leaves, references, rewrite
from prism.formats import resolver, resolver_writer, token_values
from prism.model.document import TYPES, Token
from prism.model.values import BASE, Composite, Expression, Listing
from prism.sheet.addition import add_token
from tests.builders import counter_keys, document, resolved


def token_of(name):
    """A token of a type with the type's own example as its value."""
    blank = Token("t", "sample", name, "semantic")
    value = read_typed(document(blank), TOKEN_TYPES[name].example, blank)
    return replace(blank, values=((BASE, value),))


class EveryTypeTests(SimpleTestCase):
    def test_the_model_and_the_registry_name_the_same_types(self):
        self.assertCountEqual(TYPES, TOKEN_TYPES)

    def test_parts_and_items_are_types_of_their_own(self):
        for known in TOKEN_TYPES.values():
            self.assertLessEqual({*known.parts.values()}, {*TOKEN_TYPES}, known.name)
            self.assertLessEqual({*known.optional}, {*known.parts}, known.name)
            self.assertIn(known.items, {"", *TOKEN_TYPES}, known.name)

    def test_a_type_without_a_text_has_parts_or_items(self):
        for known in TOKEN_TYPES.values():
            if known.parse is None:
                self.assertTrue(known.parts or known.items, known.name)

    def test_an_example_is_typed_and_shown_again(self):
        for known in TOKEN_TYPES.values():
            with self.subTest(known.name):
                token = token_of(known.name)
                value = token.value()
                check(value, known.name)
                shown = typed(value, known.name)
                self.assertEqual(read_typed(document(token), shown, token), value)
                self.assertNotIn(shown[0], "[{")

    def test_parts_are_typed_on_one_line_in_the_order_of_css(self):
        """CSS Backgrounds 3 (shadow, border), Easing 1 and Transitions 1, Fonts 4, Images 3."""
        for kind, text, css in (
            ("shadow", "0 1px 3px #0006", "0px 1px 3px 0px #00000066"),
            ("shadow", "#000 1px 2px", "1px 2px 0px 0px #000000"),
            ("shadow", "inset 0 1px 0 0 #fff, 0 2px calc(2px * 2) 1px rgb(0 0 0 / 50%)",
             "inset 0px 1px 0px 0px #ffffff, 0px 2px 4px 1px rgb(0 0 0 / 0.5)"),
            ("border", "2px dashed rgb(0 0 0)", "2px dashed #000000"),
            ("transition", "80ms ease-out", "80ms cubic-bezier(0, 0, 0.58, 1) 0ms"),
            ("transition", "80ms cubic-bezier(0.2, 0, 0, 1) 10ms",
             "80ms cubic-bezier(0.2, 0, 0, 1) 10ms"),
            ("cubicBezier", "ease-in-out", "cubic-bezier(0.42, 0, 0.58, 1)"),
            ("typography", "650 1rem/1.4 'Made Up', serif; letter-spacing: 1px",
             '650 1rem/1.4 "Made Up", serif'),
            ("fontFamily", "Made Up, serif", '"Made Up", serif'),
            ("gradient", "#000 0%, #fff 35%", "#000000 calc(0 * 100%), #ffffff calc(0.35 * 100%)"),
            ("strokeStyle", "4px 2px round", '4px, 2px "round"'),
        ):  # fmt: skip
            with self.subTest(text):
                blank = Token("t", "sample", kind, "semantic")
                value = read_typed(document(blank), text, blank)
                token = replace(blank, values=((BASE, value),))
                answer = resolved(document(token), "t")
                self.assertEqual((answer.broken, answer.css), ("", css))
                self.assertEqual(read_typed(document(token), typed(value, kind), token), value)

    def test_what_a_line_cannot_say_is_typed_as_json(self):
        shadow = read_typed(document(token_of("shadow")), "0 1px 2px #000", token_of("shadow"))
        blank = Token("t", "sample", "shadow", "semantic")
        for value in (Listing((shadow,)), Composite((("color", Expression("#000")),))):
            shown = typed(value, "shadow")
            self.assertIn(shown[0], "[{")
            self.assertEqual(read_typed(document(blank), shown, blank), value)

    def test_a_line_that_is_none_is_refused_in_words(self):
        for kind, text in (
            ("shadow", "1px 2px"), ("shadow", ","), ("border", "1px solid"), ("gradient", "#000"),
            ("transition", "1 2 3 4"), ("typography", "600 16px Sans"), ("strokeStyle", "4px"),
            ("typography", "600 16px/1 Sans; color: red"), ("cubicBezier", "0, 0, 1, 1"),
        ):  # fmt: skip
            blank = Token("t", "sample", kind, "semantic")
            with self.subTest(text), self.assertRaises(ExpressionError):
                check(read_typed(document(blank), text, blank), kind)

    def test_a_new_token_is_of_the_type_of_its_value(self):
        beside = document(token_of("color"))
        for text, kind in (
            ("0 1px 2px #000", "shadow"), ("1px solid #000", "border"), ("80ms ease", "transition"),
            ("#000 0%, #fff 100%", "gradient"), ("600 1rem/1.4 Made Up", "typography"),
            ("Buy a ticket", "string"), ("2 days, 3 nights", "string"),
        ):  # fmt: skip
            with self.subTest(text):
                made = add_token(beside, "new.one", [(BASE, text)], counter_keys())[1]
                self.assertEqual(made.type, kind)

    def test_a_slip_in_a_group_of_colors_is_refused_as_no_color(self):
        color = replace(token_of("color"), path="bg.page")
        for slip in ("nope", "#12345g", "oklch(1 2"):
            with self.assertRaisesMessage(PrismError, "is no color, as its neighbors are"):
                add_token(document(color), "bg.new", [(BASE, slip)], counter_keys())
        _, added = add_token(
            document(color), "bg.new", [(BASE, "nope")], counter_keys(), type="string"
        )
        self.assertEqual(added.type, "string")
        _, added = add_token(document(color), "bg.label", [(BASE, "Buy a ticket")], counter_keys())
        self.assertEqual(added.type, "string")

    def test_an_example_resolves_to_css(self):
        for known in TOKEN_TYPES.values():
            with self.subTest(known.name):
                token = token_of(known.name)
                answer = resolved(document(token), "t")
                self.assertEqual(answer.broken, "")
                self.assertNotIn("None", answer.css)
                self.assertTrue(answer.css.strip(), token.type)

    def test_an_alias_takes_the_value_of_its_own_type_only(self):
        for known in TOKEN_TYPES.values():
            with self.subTest(known.name):
                token = token_of(known.name)
                alias = replace(
                    token, key="a", path="alias", values=((BASE, Expression("{sample}")),)
                )
                other = "color" if token.type == "boolean" else "boolean"
                wrong = replace(alias, key="w", path="wrong", type=other)
                built = document(token, alias, wrong)
                self.assertEqual(resolved(built, "a").css, resolved(built, "t").css)
                wanted = "is neither true" if known.name == "piece" else token.type
                self.assertIn(wanted, resolved(built, "w").broken)

    def test_a_standard_type_comes_back_from_a_design_tokens_file(self):
        for known in TOKEN_TYPES.values():
            with self.subTest(known.name):
                token = token_of(known.name)
                if not known.standard:
                    continue
                member = json.loads(json.dumps(token_values.write(token.value(), known.name)))
                again = token_values.read(member, known.name, "sample")
                back = replace(token, values=((BASE, again),))
                self.assertEqual(
                    resolved(document(back), "t").css, resolved(document(token), "t").css
                )

    def test_files_give_the_same_value_back(self):
        for known in TOKEN_TYPES.values():
            with self.subTest(known.name):
                token = token_of(known.name)
                written = resolver_writer.write(document(token)).files
                stored = {name: text.encode() for name, text in written.items()}
                again = resolver.read(stored, counter_keys())
                back = again.token("t")
                self.assertEqual(back.type, token.type)
                self.assertEqual(resolved(again, "t").css, resolved(document(token), "t").css)

    def test_wrong_members_of_a_file_are_refused_with_their_place(self):
        for known in TOKEN_TYPES.values():
            with self.subTest(known.name):
                for raw in ({"colorSpace": "nowhere"}, [], None, {"value": 1, "unit": "parsec"}):
                    with self.assertRaises(FormatError) as caught:
                        token_values.read(raw, known.name, "sample")
                    self.assertIn("sample", str(caught.exception))

    def test_a_renamed_path_is_followed_in_every_part(self):
        for known in TOKEN_TYPES.values():
            with self.subTest(known.name):
                token = token_of(known.name)
                pointed = pointing(token.value())
                turned = rewrite(pointed, known.name, {"old": "new"})
                self.assertEqual({*references(turned, known.name)}, {"new"})

    def test_a_hint_is_a_sentence(self):
        for known in TOKEN_TYPES.values():
            self.assertTrue(known.hint.endswith("."), known.name)
            self.assertEqual(known.hint.count("`") % 2, 0, known.name)


def pointing(value):
    """A value with a reference to ``old`` at each place where a text stands."""
    if isinstance(value, Listing):
        return Listing(tuple(pointing(item) for item in value.items))
    if isinstance(value, Composite):
        return Composite(tuple((name, pointing(part)) for name, part in value.parts))
    return Expression("{old}")


class ShapeTests(SimpleTestCase):
    """What the Design Tokens Format Module asks of values of many parts, from memory of it."""

    def refused(self, value, name, words):
        with self.assertRaises(ExpressionError) as caught:
            check(value, name)
        self.assertIn(words, str(caught.exception))

    def test_a_needed_part_is_missed(self):
        parts = token_of("border").value().parts
        for left_out, _ in parts:
            rest = Composite(tuple(part for part in parts if part[0] != left_out))
            self.refused(rest, "border", f"lacks its {left_out}")

    def test_a_part_stands_once(self):
        parts = token_of("border").value().parts
        self.refused(Composite((*parts, parts[0])), "border", "twice")

    def test_an_inset_may_be_left_out(self):
        check(token_of("shadow").value(), "shadow")

    def test_a_part_of_another_type_is_unknown(self):
        self.refused(Composite((("glow", Expression("1px")),)), "shadow", "no part named")

    def test_an_empty_list_is_no_value(self):
        self.refused(Listing(()), "shadow", "empty")

    def test_a_list_of_what_has_no_list(self):
        self.refused(Listing((Expression("#fff"),)), "color", "not a list")

    def test_a_curve_has_four_numbers_and_times_from_0_to_1(self):
        # CSS Easing 1, section 2.3: both x values lie in [0, 1], y values need not.
        def curve(*texts):
            return Listing(tuple(Expression(text) for text in texts))

        check(curve("0", "-2", "1", "3"), "cubicBezier")
        check(curve("{x}", "0", "1", "1"), "cubicBezier")
        self.refused(curve("0", "0", "1"), "cubicBezier", "four numbers")
        self.refused(curve("1.2", "0", "1", "1"), "cubicBezier", "between 0 and 1")
        self.refused(curve("0", "0", "-0.1", "1"), "cubicBezier", "between 0 and 1")

    def test_every_leaf_says_its_type(self):
        found = {kind for _, kind in leaves(token_of("typography").value(), "typography")}
        self.assertEqual(found, {"fontFamily", "dimension", "fontWeight", "number"})


class PartsOfPartsTests(SimpleTestCase):
    def test_parts_are_checked_inside_parts(self):
        inner = Composite((("color", Expression("#000")), ("width", Expression("1px"))))
        style = Composite((("lineCap", Expression("round")),))
        with self.assertRaisesMessage(ExpressionError, "lacks its"):
            check(Composite((*inner.parts, ("style", style))), "border")
