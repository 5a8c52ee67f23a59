"""Resolution: strength, theme-wise circles, the memo, the trace."""

from dataclasses import replace

from django.test import SimpleTestCase

from prism.expressions.syntax import reference_of
from prism.model.document import Document
from prism.model.values import BASE, Condition, Expression
from prism.resolution import graph
from prism.resolution.compiled import strength
from prism.resolution.resolver import Resolver
from tests.builders import document, random_document, token

DARK = {"appearance": "dark"}
OSPRELLE = {"brand": "osprelle"}


def hexes(built, path):
    resolver = Resolver(built)
    key = resolver.key_of(path)
    return [resolver.resolve(key, theme).hex for theme in resolver.themes()]


class StrengthTests(SimpleTestCase):
    def test_more_axes_beat_fewer_and_later_axes_beat_earlier(self):
        ordered = sorted([(0,), (1,), (), (0, 1), (0, 2), (1, 2), (2,)], key=strength)
        self.assertEqual(ordered, [(), (0,), (1,), (2,), (0, 1), (0, 2), (1, 2)])

    def test_the_strongest_condition_that_holds_wins(self):
        built = document(
            token(
                "a",
                "#000000",
                (DARK, "#111111"),
                (OSPRELLE, "#222222"),
                (DARK | OSPRELLE, "#333333"),
            )
        )
        self.assertEqual(hexes(built, "a"), ["#000000", "#222222", "#111111", "#333333"])

    def test_of_two_single_axis_conditions_the_later_axis_wins(self):
        built = document(token("a", "#000000", (OSPRELLE, "#222222"), (DARK, "#111111")))
        self.assertEqual(hexes(built, "a")[3], "#222222")

    def test_the_order_of_tokens_and_values_plays_no_part(self):
        built = random_document(11)
        turned = Document(
            axes=built.axes,
            tokens=tuple(
                type(one)(one.key, one.path, one.type, one.tier, one.values[::-1])
                for one in reversed(built.tokens)
            ),
        )
        first, second = Resolver(built), Resolver(turned)
        for theme in first.themes():
            for one in built.tokens:
                here, there = first.resolve(one.key, theme), second.resolve(one.key, theme)
                self.assertEqual((here.value, here.absent), (there.value, there.absent))


class AbsenceTests(SimpleTestCase):
    def test_a_token_without_base_is_absent_where_no_condition_holds(self):
        built = document(token("rim", (DARK, "#ffffff")), token("edge", "{rim}"))
        resolver = Resolver(built)
        light, dark = resolver.theme({}), resolver.theme(DARK)
        self.assertTrue(resolver.resolve("rim", light).absent)
        self.assertEqual(resolver.resolve("rim", dark).hex, "#ffffff")
        self.assertEqual(
            resolver.resolve("edge", light).broken, "{rim} has no value in this theme."
        )

    def test_a_reference_to_nothing_names_the_nearest(self):
        built = document(token("ink.11", "#000000", tier="raw"), token("text", "{ink.12}"))
        said = Resolver(built).resolve("text", (0, 0)).broken
        self.assertEqual(said, "{ink.12} does not exist. Nearest: {ink.11}.")


class CircleTests(SimpleTestCase):
    def test_opposite_references_in_different_modes_are_no_circle(self):
        built = document(
            token("a", "#111111", (DARK, "{b}")),
            token("b", "{a}", (DARK, "#222222")),
        )
        self.assertEqual(hexes(built, "a")[::2], ["#111111", "#222222"])
        self.assertEqual(hexes(built, "b")[::2], ["#111111", "#222222"])

    def test_a_circle_is_broken_in_its_themes_only_and_starts_at_the_first_member(self):
        built = document(
            token("c", "{b}"),
            token("a", "#111111", (DARK, "{b}")),
            token("b", "{a}"),
            token("free", "#444444"),
        )
        resolver = Resolver(built)
        dark = resolver.theme(DARK)
        self.assertEqual(resolver.resolve("b", dark).broken, "Circular reference: a → b → a.")
        self.assertEqual(resolver.resolve("a", dark).broken, "Circular reference: a → b → a.")
        self.assertIn("Circular reference: a → b → a.", resolver.resolve("c", dark).broken)
        self.assertEqual(resolver.resolve("free", dark).hex, "#444444")
        self.assertEqual(resolver.resolve("c", resolver.theme({})).hex, "#111111")

    def test_a_token_that_refers_to_itself_is_a_circle(self):
        built = document(token("a", "{a}"))
        self.assertEqual(Resolver(built).resolve("a", (0, 0)).broken, "Circular reference: a → a.")


class MemoTests(SimpleTestCase):
    def test_a_remembered_answer_equals_a_fresh_one_in_every_theme(self):
        for seed in range(40):
            built = random_document(seed)
            remembering = Resolver(built)
            for theme in remembering.themes():
                fresh = Resolver(built)
                for one in built.tokens:
                    self.assertEqual(
                        remembering.resolve(one.key, theme), fresh.resolve(one.key, theme)
                    )

    def test_themes_that_differ_only_elsewhere_share_an_answer(self):
        built = document(
            token("ink", "#111111", tier="raw"), token("text", "{ink}", (DARK, "#eeeeee"))
        )
        resolver = Resolver(built)
        for theme in resolver.themes():
            resolver.resolve("text", theme)
        self.assertEqual(resolver.evaluations, 3)
        self.assertEqual(resolver.consulted("text", (0, 0)), (0,))

    def test_a_winning_literal_hides_the_axes_of_what_it_beats(self):
        built = document(
            token("ink", "#111111", (OSPRELLE, "#222222")),
            token("text", "{ink}", (DARK, "#eeeeee")),
        )
        resolver = Resolver(built)
        self.assertEqual(resolver.consulted("text", resolver.theme(DARK)), (0,))
        self.assertEqual(resolver.consulted("text", resolver.theme({})), (0, 1))
        self.assertEqual(resolver.influence("text"), ("appearance", "brand"))


class TraceTests(SimpleTestCase):
    def test_a_trace_names_each_hop_with_the_condition_that_won(self):
        built = document(
            token("spruce.4", "#94d9be", tier="raw"),
            token("accent", "{spruce.4}", (OSPRELLE, "#4ebfd8")),
            token("link", "#000000", (DARK, "{accent}")),
        )
        resolver = Resolver(built)
        hops = resolver.trace("link", resolver.theme(DARK))
        self.assertEqual([hop.token for hop in hops], ["link", "accent", "spruce.4"])
        self.assertEqual(hops[0].condition, Condition.of(DARK))
        self.assertEqual(hops[1].condition, BASE)
        self.assertEqual([hop.depth for hop in hops], [0, 1, 2])

    def test_every_trace_ends_in_the_answer_of_the_resolver(self):
        for seed in range(20):
            resolver = Resolver(random_document(seed))
            for theme in resolver.themes():
                for one in resolver.document.tokens:
                    answer, hops = resolver.resolve(one.key, theme), resolver.trace(one.key, theme)
                    self.assertEqual(hops[0].answer, answer)
                    aliases = all(
                        isinstance(hop.value, Expression) and reference_of(hop.value.text)
                        for hop in hops[:-1]
                    )
                    if answer.color and one.type == "color" and aliases:
                        self.assertEqual(hops[-1].answer.value, answer.value)


class GamutTests(SimpleTestCase):
    def test_a_color_outside_is_mapped_at_its_token_and_passed_on_mapped(self):
        built = document(
            token("lime", "color(display-p3 0 1 0)", tier="raw"), token("go", "{lime}")
        )
        resolver = Resolver(built)
        lime, go = resolver.resolve("lime", (0, 0)), resolver.resolve("go", (0, 0))
        self.assertTrue(lime.mapped)
        self.assertFalse(go.mapped)
        self.assertEqual(lime.value, go.value)

    def test_a_document_in_display_p3_keeps_what_fits_there(self):
        built = document(token("lime", "color(display-p3 0 1 0)"), gamut="display-p3")
        self.assertFalse(Resolver(built).resolve("lime", (0, 0)).mapped)


class Busy(dict):
    """A mapping to which somebody adds while its items are gone through, as another thread may."""

    def items(self):
        for key, value in super().items():
            yield key, value
            self[f"{key} too"] = value


class ThreadTests(SimpleTestCase):
    def busy(self):
        before = Resolver(document(token("a", "#111111"), token("b", "{a}")))
        for key in ("a", "b"):
            before.resolve(key, before.default_theme)
        before._memo = Busy(before._memo)
        return before

    def test_going_through_answers_that_another_thread_adds_to_would_fail(self):
        with self.assertRaisesMessage(RuntimeError, "changed size"):
            list(self.busy()._memo.items())

    def test_a_resolver_is_made_from_one_that_another_thread_uses(self):
        before = self.busy()
        changed = replace(before.document, description="Changed")
        after = Resolver(changed, before)
        self.assertEqual(after.resolve("b", after.default_theme).hex, "#111111")


class ShortestCircleTests(SimpleTestCase):
    def test_a_circle_is_the_shortest_way_back_inside_it(self):
        targets = {"a": ("x", "b"), "x": ("y",), "y": ("a",), "b": ("a",)}
        way = graph.circle("a", {"a", "b"}, lambda key: targets[key])
        self.assertEqual(way, ["a", "b"])
        way = graph.circle(
            "a", {"a", "b", "c"}, {"a": ("c", "b"), "b": ("b", "a"), "c": ("c",)}.__getitem__
        )
        self.assertEqual(way, ["a", "b"])
