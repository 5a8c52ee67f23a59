"""Conditions of style sheets in words."""

from django.test import SimpleTestCase

from prism.formats import files
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver
from tests.builders import APPEARANCE, counter_keys, document, token


class ConditionTests(SimpleTestCase):
    def test_words_that_join_conditions_are_and_and_or(self):
        for condition, there in (
            ("(min-width: 1px) nor (min-width: 2px)", False),
            ("(prefers-color-scheme: dark) and (prefers-contrast: more)", True),
        ):
            read = files.read(
                {
                    "x.css": f":root {{ --a: #fff }} @media {condition} {{ :root {{ --a: #000 }} }}".encode()
                },
                counter_keys(),
            )
            values = read.document.tokens[0].values
            self.assertEqual(len(values) > 1, there, condition)

    def test_only_what_has_no_condition_is_told_where_it_varies(self):
        """A computed value of a token with one value is written out in each context; of a token with
        conditions of its own they are."""
        built = document(
            token("a", "#112233", ({"appearance": "dark"}, "#445566"), tier="raw"),
            token("b", "color-mix(in srgb, {a} 50%, white)"),
            axes=(APPEARANCE,),
        )
        written, _ = files.write(built, "design-tokens", resolver_of(built).default_theme)
        again = files.read({n: t.encode() for n, t in written.items()}, counter_keys()).document
        before, after = Resolver(built), Resolver(again)
        for theme in before.themes():
            key = again.token_at("b").key
            self.assertEqual(before.resolve("b", theme).hex, after.resolve(key, theme).hex)
        dark = next(text for name, text in written.items() if "dark" in name)
        self.assertIn('"b"', dark)
