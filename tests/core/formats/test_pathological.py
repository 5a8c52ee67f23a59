"""Input that is built to take for ever comes to an end: a sentence, or what was asked for."""

import itertools
import random
import signal
from contextlib import contextmanager

from django.test import SimpleTestCase

from bench.pathological.readers import READERS
from bench.pathological.shapes import nested, properties, shapes
from prism.changes.values import set_value
from prism.errors import ExpressionError, FormatError, PrismError
from prism.expressions import values
from prism.expressions.typed_input import read_typed
from prism.expressions.values import parse
from prism.formats import files
from prism.formats.limits import MAX_NESTING
from prism.formats.text_files import without_comments
from prism.model.document import TYPES, Document, Token
from prism.model.values import BASE, Expression
from prism.palette import text_colors
from prism.resolution.resolver import Resolver
from prism.sheet import paste
from tests.builders import document, token

#: Seconds after which something counts as endless; each of these takes well under one.
_PATIENCE = 60


@contextmanager
def no_longer_than(seconds=_PATIENCE):
    """Fail where the body does not come to an end."""

    def fail(*_):
        raise AssertionError(f"It did not come to an end within {seconds} seconds.")

    before = signal.signal(signal.SIGALRM, fail)
    signal.alarm(seconds)
    try:
        yield
    finally:
        signal.alarm(0)
        signal.signal(signal.SIGALRM, before)


def read(text, name="a.css"):
    """A file as it is read."""
    numbers = itertools.count()
    return files.read({name: text.encode()}, lambda: f"k{next(numbers)}")


class StyleSheetTests(SimpleTestCase):
    def test_what_doubles_with_each_property_is_skipped_where_it_gets_too_long(self):
        for start in ("1px 1px", "red", "13, 110"):
            text = properties(
                lambda i: f"--v{i}: var(--v{i - 1}) var(--v{i - 1});", 1_600, f"--v0: {start};"
            )
            with self.subTest(start), no_longer_than():
                found = read(text)
                paths = [token.path for token in found.document.tokens]
                self.assertIn("v2", paths)
                self.assertNotIn("v40", paths)
                reasons = {skipped.reason for skipped in found.skipped}
                self.assertTrue(any("too long" in reason for reason in reasons), reasons)

    def test_a_piece_that_is_used_by_many_is_put_in_up_to_a_limit(self):
        text = properties(lambda i: f"--v{i}: var(--v0) {i};", 60_000, f"--v0: {'1 ' * 7_000};")
        with no_longer_than():
            found = read(text)
        self.assertTrue(any("too long" in skipped.reason for skipped in found.skipped))
        self.assertIn("v1", [token.path for token in found.document.tokens])

    def test_circles_of_any_length_are_found_once(self):
        text = properties(lambda i: f"--v{i}: var(--v{i - 1 if i > 1 else 20_000});", 360_000)
        with no_longer_than():
            found = read(text + ":root { --a: red }")
        self.assertEqual(
            [token.path for token in found.document.tokens if token.path == "a"], ["a"]
        )

    def test_two_circles_that_share_a_property_are_both_circular(self):
        found = read(
            ":root { --a: var(--b) var(--c); --b: var(--a); --c: var(--a); --d: var(--b, red); --e: 1 }"
        )
        self.assertEqual([token.path for token in found.document.tokens], ["d", "e"])
        circular = [s.name for s in found.skipped if s.reason == "is a circular reference"]
        self.assertEqual(circular, ["--a", "--b", "--c"])

    def test_a_sheet_that_is_nested_too_deeply_is_refused_before_it_is_parsed(self):
        for text in (
            f":root {{\n --a: {nested('(', ')', '1', 4_000_000)} }}",
            ":root {\n --a: " + "[" * 4_000_000,
            "a{\n" * 2_000_000,
        ):
            with self.subTest(text[:20]), no_longer_than(20):
                with self.assertRaisesRegex(
                    FormatError, f"deeper than {MAX_NESTING} levels"
                ) as raised:
                    read(text)
                self.assertIn("a.css, line ", raised.exception.place)
        self.assertEqual(
            len(read(":root { --a: '" + "(" * 300 + "'; --b: red }").document.tokens), 2
        )

    def test_a_sheet_of_too_many_parts_is_refused(self):
        with (
            no_longer_than(),
            self.assertRaisesRegex(FormatError, "more than 1,000,000 words and marks"),
        ):
            read(":root { --a: " + "1 " * 1_000_100 + "}")

    def test_a_number_without_end_is_refused(self):
        with self.assertRaisesRegex(FormatError, "more than 1000 digits"):
            read(":root {\n\n --a: " + "9" * 5_000 + "}")
        with self.assertRaisesRegex(ExpressionError, "more than 1000 digits"):
            parse("9" * 5_000, "number")

    def test_selectors_that_multiply_are_skipped(self):
        many = ", ".join(f".a{i}.b{i}" for i in range(60))
        for selector in (f":root:not({many})", ":is(.a,.b) " * 40 + ":root"):
            with self.subTest(selector[:20]), no_longer_than():
                found = read(selector + " { --a: red } :root { --b: red }")
                self.assertEqual([token.path for token in found.document.tokens], ["b"])

    def test_more_modes_and_axes_than_are_compared_are_refused_at_once(self):
        modes = "".join(f"[data-theme=m{i}]{{--a:#{i:03x}}}" for i in range(900))
        axes = "".join(f"[data-a{i}=x]{{--a:#{i:03x}}}" for i in range(900))
        for text, words in ((modes, "900 modes of “theme”"), (axes, "asks for 900 attributes")):
            with no_longer_than(), self.assertRaisesRegex(FormatError, words):
                read(":root{--a:red}" + text)


class TokenFileTests(SimpleTestCase):
    def test_groups_that_extend_one_another_in_a_long_chain_are_read(self):
        chain = "".join(f', "t{i}": {{"$extends": "{{t{i - 1}}}"}}' for i in range(1, 3_000))
        with no_longer_than():
            found = read(
                '{"t0": {"x": {"$type": "number", "$value": 1}}' + chain + "}", "a.tokens.json"
            )
        self.assertEqual(len(found.document.tokens), 3_000)
        self.assertEqual(found.document.tokens[-1].extends_from, "t2998")

    def test_groups_that_extend_themselves_by_way_of_others_are_refused(self):
        chain = "".join(
            f'"t{i}": {{"$extends": "{{t{i - 1 if i else 2999}}}"}}, ' for i in range(3_000)
        )
        with no_longer_than(), self.assertRaisesRegex(FormatError, "extends itself"):
            read("{" + chain + '"a": {"$type": "number", "$value": 1}}', "a.tokens.json")

    def test_a_list_without_end_is_refused(self):
        stops = ", ".join(['{"color": "#123456", "position": 0}'] * 4_001)
        with self.assertRaisesRegex(FormatError, "4,001 items; at most 4,000"):
            read(f'{{"a": {{"$type": "gradient", "$value": [{stops}]}}}}', "a.tokens.json")


class ValueTests(SimpleTestCase):
    def test_brackets_in_a_cell_are_a_sentence(self):
        for text in (
            "(" * 1_900 + ")" * 1_900,
            "calc(" * 700,
            "[" * 1_900,
            '{"parts":[["a",' * 200,
            '{"parts":[1]}',
        ):
            for kind in TYPES:
                one = Token("v", "v", kind, "raw", ())
                with self.subTest(text[:9], kind=kind), no_longer_than():
                    try:
                        set_value(
                            Document(tokens=(one,)),
                            "v",
                            BASE,
                            read_typed(Document(tokens=(one,)), text, one),
                        )
                    except PrismError as error:
                        self.assertTrue(str(error))

    def test_a_text_keeps_what_looks_like_a_list(self):
        one = Token("v", "v", "string", "raw", ())
        self.assertEqual(read_typed(Document(tokens=(one,)), '["a"]', one), Expression('["a"]'))

    def test_pieces_that_double_are_broken_where_they_get_too_long(self):
        pieces = [
            token(f"p{i}", f"{{p{i - 1}}} {{p{i - 1}}}" if i else "1px 1px", type="piece")
            for i in range(60)
        ]
        resolver = Resolver(document(*pieces))
        with no_longer_than():
            answers = [resolver.resolve(piece.key, resolver.default_theme) for piece in pieces]
        self.assertFalse(answers[5].broken)
        self.assertIn("more than 16,384 characters", answers[20].broken)

    def test_long_texts_are_read_and_not_remembered(self):
        before = values._remembered.cache_info().currsize
        parse("calc(" + " + ".join(["1px"] * 500) + ")", "dimension")
        self.assertEqual(values._remembered.cache_info().currsize, before)

    def test_a_circle_of_many_names_its_ends(self):
        colors = [token(f"c{i}", f"{{c{(i + 1) % 900}}}") for i in range(900)]
        resolver = Resolver(document(*colors))
        broken = resolver.resolve(colors[0].key, resolver.default_theme).broken
        self.assertRegex(
            broken, r"^Circular reference: c0 → c1 → .* → 876 more → .* → c899 → c0\.$"
        )
        self.assertLess(len(broken), 400)

    def test_influence_follows_chains_of_any_length(self):
        colors = [token(f"c{i}", f"{{c{i - 1}}}" if i else "#111111") for i in range(6_000)]
        resolver = Resolver(document(*colors))
        with no_longer_than():
            self.assertEqual({resolver.influence(color.key) for color in colors}, {()})


class TextTests(SimpleTestCase):
    def test_comments_that_never_end_are_looked_for_once(self):
        with no_longer_than():
            self.assertEqual(without_comments("/*a" * 300_000), "/*a" * 300_000)
            self.assertEqual(len(text_colors.find("<!--" * 90_000 + "/*a" * 9_000 + " #123456")), 1)

    def test_comments_go_and_their_lines_stay(self):
        marks = (("/*", "*/"), ("<!--", "-->"))
        self.assertEqual(without_comments("a/* b\n */c<!-- /* -->d/*e", marks), "a\nc d/*e")
        self.assertEqual(without_comments("/*a*//*b*/c/*"), "  c/*")

    def test_a_pasted_text_of_blanks_and_openings_is_read_at_once(self):
        own = document(token("a.b", "#111111"))
        with no_longer_than():
            paste.named(own, " " * 400_000)
            paste.named(own, "--a:" * 100_000)
            text_colors.find("#123456 " + "a" * 390_000)

    def test_declarations_are_read_as_they_stand(self):
        own = document(token("a.b", "#111111", tier="semantic"))
        found = paste.named(own, ":root { --a-b: #222222; --c: url(x:y) }\n --a-b : red")
        self.assertEqual([value for _, value, _ in found.values], ["#222222", "red"])
        self.assertEqual(found.unknown, ("--c",))


class ShapeTests(SimpleTestCase):
    def test_every_shape_goes_through_its_readers(self):
        """The small and the middle sizes of what ``bench.pathological`` sends in large ones."""
        for size in (30, 2_000):
            for shape in shapes():
                for reader in shape.readers:
                    text = shape.make(size, random.Random(f"{shape.name} {size}"))
                    with self.subTest(shape=shape.name, reader=reader, size=size), no_longer_than():
                        try:
                            READERS[reader](text)
                        except PrismError as error:
                            self.assertTrue(str(error))
