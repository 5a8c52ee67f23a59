"""Small changes of the core that nothing else would have noticed."""

from click.testing import CliRunner
from django.test import SimpleTestCase

from prism.cli import main
from prism.color import space
from prism.errors import ExpressionError
from prism.expressions.values import check
from prism.formats import files
from prism.model.document import Ramp, Rule
from prism.model.values import Composite, Expression
from prism.palette import building, plot, ramps, recipes
from prism.resolution import graph
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver
from prism.roles import rules
from prism.roles.guess import guess
from prism.sheet import completion
from prism.solver import levels
from tests.builders import APPEARANCE, counter_keys, document, token


def sheet(text):
    """The document of a style sheet."""
    return files.read({"x.css": text.encode()}, counter_keys()).document


class ColorTests(SimpleTestCase):
    def test_ramps_turn_lighter_on_a_reference_darker_than_the_middle(self):
        """White and black read alike on a luminance of 0.179: the root of 1.05 x 0.05, less 0.05."""
        self.assertAlmostEqual(ramps._MIDDLE, 0.1791, places=4)
        dark = ramps.make(recipes.read({"seed": "#3366cc", "reference": "#6e6e6e", "count": "3"}))
        light = ramps.make(recipes.read({"seed": "#3366cc", "reference": "#808080", "count": "3"}))
        above = [ramps.oklch(step.color)[0] for step in dark]
        below = [ramps.oklch(step.color)[0] for step in light]
        self.assertGreater(max(above), ramps.oklch(space.parse("#6e6e6e"))[0])
        self.assertLess(min(below), ramps.oklch(space.parse("#808080"))[0])

    def test_the_same_color_in_another_notation_is_one(self):
        built = document(token("sea", "oklch(0.5 0.08 230)", tier="raw"))
        same, known = building.raw_color(built, "oklch(50% 0.08 230)", "new", counter_keys())
        self.assertIs(same, built)
        self.assertEqual(known.path, "sea")
        wide = document(token("p3", "color(display-p3 0 1 0)", tier="raw"), gamut="display-p3")
        same, known = building.raw_color(wide, "color(display-p3 0 1 0)", "new", counter_keys())
        self.assertEqual((same, known.path), (wide, "p3"))


class LevelTests(SimpleTestCase):
    def surfaces(self, *values):
        """Surfaces on these values, beside a ladder of five steps, and the roles of all."""
        steps = [token(f"ink.{n}", f"#{n}{n}{n}", tier="raw") for n in range(2, 7)]
        built = document(
            *steps,
            token("white", "#ffffff", tier="raw"),
            token("fig", "{ink.2}"),
            *(token(f"surface.{place}", value) for place, value in enumerate(values)),
        )
        resolver = resolver_of(built)
        return levels.find(resolver, resolver.default_theme, guess(built, resolver))

    def test_surfaces_that_let_through_stand_on_no_level(self):
        found = self.surfaces("{ink.3}", "{ink.4}", "rgb(from {ink.5} r g b / 50%)")
        self.assertEqual(set(found.ranks), {"surface.0", "surface.1"})

    def test_surfaces_that_follow_another_stand_on_no_level(self):
        found = self.surfaces("{ink.3}", "{ink.4}", "{fig}")
        self.assertEqual(set(found.ranks), {"surface.0", "surface.1"})


class RuleTests(SimpleTestCase):
    def test_what_is_there_already_ends_no_rule(self):
        built = document(token("text.a", "#000"), token("text.b", "#000"), token("page", "#fff"))
        rule = Rule("r", "", "text.*", "page")
        (first, second) = rules.pairings(built, {}, [rule])
        kept = document(*built.tokens, pairings=(first.pairing,))
        self.assertEqual(
            [made.pairing.foreground for made in rules.pairings(kept, {}, [rule])],
            [second.pairing.foreground],
        )


class FormTests(SimpleTestCase):
    def test_parts_are_checked_inside_parts(self):
        inner = Composite((("color", Expression("#000")), ("width", Expression("1px"))))
        style = Composite((("lineCap", Expression("round")),))
        with self.assertRaisesMessage(ExpressionError, "lacks its"):
            check(Composite((*inner.parts, ("style", style))), "border")

    def test_the_name_of_plain_json_is_that_of_its_file(self):
        built = files.read({"one/two/three.json": b'{"a": "#123456"}'}, counter_keys()).document
        self.assertEqual(built.name, "three")

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


class ViewTests(SimpleTestCase):
    def test_what_is_used_most_is_offered_first(self):
        built = document(
            token("raw.a", "#111", tier="raw"),
            token("raw.b", "#222", tier="raw"),
            token("one", "{raw.b}"),
            token("two", "{raw.b}"),
            token("new", "#333"),
        )
        options = completion.complete(built, "", built.token("new"))
        self.assertEqual(options[0].token.key, "raw.b")

    def test_translucent_and_missing_steps_have_no_point(self):
        built = document(
            token("r.1", "#eeeeff", tier="raw"),
            token("r.2", "#22448880", tier="raw"),
            token("r.3", ({"appearance": "dark"}, "#224488"), tier="raw"),
            axes=(APPEARANCE,),
        )
        ramp = Ramp("r", "r", ("r.1", "r.2", "r.3"))
        shown = plot.plot(resolver_of(built), (0,), ramp)
        self.assertEqual([point.key for point in shown.points], ["r.1"])
        left, top, width, height = map(float, shown.view_box.split())
        self.assertEqual((left, top), (-8, -14))
        self.assertEqual((width, height), (shown.width + 16, shown.height + 32))

    def test_a_circle_is_the_shortest_way_back_inside_it(self):
        targets = {"a": ("x", "b"), "x": ("y",), "y": ("a",), "b": ("a",)}
        way = graph.circle("a", {"a", "b"}, lambda key: targets[key])
        self.assertEqual(way, ["a", "b"])
        way = graph.circle(
            "a", {"a", "b", "c"}, {"a": ("c", "b"), "b": ("b", "a"), "c": ("c",)}.__getitem__
        )
        self.assertEqual(way, ["a", "b"])


class CommandLineTests(SimpleTestCase):
    def test_a_proposal_that_falls_short_ends_with_1(self):
        css = ":root { --bg-page: #ffffff; --text-main: rgb(0 0 0 / 40%); --fig: #808080 }"
        runner = CliRunner()
        with runner.isolated_filesystem():
            with open("a.css", "w", encoding="utf-8") as file:
                file.write(css)
            result = runner.invoke(main, ["propose", "a.css", "--as", "dark", "-o", "out"])
        self.assertEqual(result.exit_code, 1, result.output)
