"""Limits that are the same for every format: a sentence, in no time and with no memory."""

import json

from django.test import SimpleTestCase

from prism.errors import FormatError, PrismError
from prism.expressions.values import MAX_TEXT, check
from prism.formats import files
from prism.formats.limits import MAX_BYTES, MAX_NESTING, MAX_TOKENS
from prism.model.values import Expression
from prism.resolution.current import resolver_of
from tests.builders import counter_keys

SHADOW = {"color": "#000000", "offsetX": "0px", "offsetY": "0px", "blur": "0px", "spread": "0px"}


def read(raw, name="x.tokens.json"):
    data = raw if isinstance(raw, bytes) else json.dumps(raw).encode()
    return files.read({name: data}, counter_keys()).document


def many(count):
    """A file of each format with so many tokens."""
    color = {"$type": "color", "$value": "#000000"}
    yield "x.tokens.json", json.dumps({f"c{i}": color for i in range(count)}).encode()
    yield "x.css", (":root {" + "".join(f"--c{i}: 1;" for i in range(count)) + "}").encode()
    yield "x.csv", "".join(f"c{i},#000000\n" for i in range(count)).encode()


class LimitTests(SimpleTestCase):
    def refused(self, words, raw, name="x.tokens.json"):
        with self.assertRaisesMessage(PrismError, words):
            read(raw, name)

    def test_tokens_in_every_format(self):
        for name, data in many(MAX_TOKENS + 1):
            with self.subTest(name):
                self.assertLess(len(data), 8 * 2**20)
                with self.assertRaises(FormatError) as caught:
                    read(data, name)
                self.assertRegex(str(caught.exception), "50,?000|50001")

    def test_bytes_in_every_format(self):
        for name in ("x.tokens.json", "x.css", "x.csv", "x.gpl", "x.svg"):
            self.refused("at most 8.4 MB are read", b" " * (MAX_BYTES + 1), name)

    def test_groups_that_extend_and_double(self):
        raw = {"g0": {"a": {"$type": "color", "$value": "#111111"}}}
        for i in range(1, 40):
            raw[f"g{i}"] = {side: {"$extends": f"{{g{i - 1}}}"} for side in "xy"}
        self.refused("there are more than 50000 tokens", raw)

    def test_lists_that_refer_and_double(self):
        raw = {"s0": {"$type": "shadow", "$value": [SHADOW]}}
        for i in range(1, 40):
            raw[f"s{i}"] = {"$type": "shadow", "$value": [f"{{s{i - 1}}}"] * 2}
        document = read(raw)
        resolver = resolver_of(document)
        last = resolver.resolve(document.token_at("s39").key, ())
        self.assertIn("more than 4,000 parts", last.broken)
        eighth = resolver.resolve(document.token_at("s8").key, ())
        self.assertEqual(eighth.css.count("#000000"), 256)

    def test_nesting(self):
        for levels, fits in ((MAX_NESTING - 5, True), (MAX_NESTING + 5, False)):
            raw = {"$type": "color", "$value": "#000000"}
            for _ in range(levels):
                raw = {"g": raw}
            if fits:
                self.assertEqual(len(read(raw).tokens), 1)
            else:
                self.refused("nested deeper than 200 levels", raw)

    def test_chains(self):
        raw = {"c0": {"$type": "color", "$value": "#123456"}}
        raw |= {f"c{i}": {"$type": "color", "$value": f"{{c{i - 1}}}"} for i in range(1, 2000)}
        document = read(raw)
        answer = resolver_of(document).resolve(document.token_at("c1999").key, ())
        self.assertEqual(answer.hex, "#123456")

    def test_one_value(self):
        check(Expression("calc(" + "1 + " * 15_000 + "1)"), "number")
        self.assertRaisesMessage(
            PrismError, "is too long", check, Expression(" " * (MAX_TEXT + 1)), "number"
        )

    def test_no_type_is_no_type(self):
        self.refused("“None” is not a type", {"a": {"$type": None, "$value": "#111111"}})

    def test_nothing_infinite_comes_out(self):
        for text in ("calc(1px / 0)", "calc(infinity * 1px)", "calc(-1px / 0)", "calc(NaN * 1px)"):
            with self.assertRaises(PrismError):
                check(Expression(text), "dimension")
        for text in ("oklab(calc(infinity) 0 0)", "lab(50 calc(NaN) 0)", "rgb(calc(1 / 0) 0 0)"):
            check(Expression(text), "color")
        with self.assertRaises(PrismError):
            check(Expression("color-mix(in oklch, red calc(NaN * 1%), blue)"), "number")
