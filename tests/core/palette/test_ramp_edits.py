"""Edits to ramps: what refers to a step keeps its color for as long as there is one like it."""

import itertools
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism.changes import structure
from prism.changes.structure import add_tokens, rename_group
from prism.changes.values import set_value
from prism.color import space
from prism.color.difference import delta_e_2000, lab
from prism.errors import EditError, PrismError
from prism.model.document import Document, Pairing, Ramp
from prism.model.values import BASE, Expression
from prism.palette import alike, plot, purposes, ramp_edits, recipes, sections, step_edits
from prism.palette.alike import match
from prism.palette.ramp_edits import add_ramp, retune
from prism.resolution.resolver import Resolver
from tests import tried
from tests.builders import counter_keys, document, token


def spruce(count="11", **more):
    """A document with one ramp, a token on each of three steps, and a pairing."""
    keys = counter_keys()
    built = add_ramp(
        Document(name="One"), "spruce", {"seed": "#236b53", "count": count}, keys, **more
    )
    last = len(built.ramps[0].steps)
    users = [token(f"use.{i}", f"{{spruce.{i}}}") for i in (1, 3, last)]
    built = add_tokens(built, users)
    pairing = Pairing("p", built.token_at("spruce.3").key, (built.token_at("use.1").key,))
    return Document(name="One", tokens=built.tokens, ramps=built.ramps, pairings=(pairing,)), keys


def hexes(built, paths):
    resolver = Resolver(built)
    return [resolver.resolve(built.token_at(path).key, ()).hex for path in paths]


class MatchTests(SimpleTestCase):
    @tried(60)
    @given(
        st.lists(st.integers(0, 40), min_size=1, max_size=5, unique=True),
        st.lists(st.integers(0, 40), min_size=1, max_size=6, unique=True),
    )
    def test_it_is_the_best_of_all_matches_that_keep_the_order(self, old, new):
        found = match(old, new)
        self.assertEqual(len(found), min(len(old), len(new)))
        cost = sum(abs(old[i] - new[j]) for i, j in found.items())
        short, long = sorted((old, new), key=len)
        best = min(
            sum(abs(a - b) for a, b in zip(sorted(short), pick, strict=True))
            for pick in itertools.combinations(sorted(long), len(short))
        )
        self.assertEqual(cost, best)


class MakeTests(SimpleTestCase):
    def test_a_ramp_stands_behind_the_last_raw_color_with_its_seed_as_typed(self):
        keys = counter_keys()
        built = document(token("old", "#111", tier="raw"), token("use", "{old}"), axes=())
        built = add_ramp(
            built, "sea", {"seed": "RGB(30 161 187)"}, keys, names="a b c d e f g h i j k"
        )
        self.assertEqual(
            [one.path for one in (*built.tokens[:3], built.tokens[-1])],
            ["old", "sea.a", "sea.b", "use"],
        )
        texts = [one.values[0][1].text for one in built.tokens if one.path.startswith("sea")]
        self.assertEqual(texts.count("RGB(30 161 187)"), 1)

    def test_what_is_wrong_is_said_and_nothing_is_lost(self):
        built, keys = spruce()
        for name, fields, names, sentence in (
            ("spruce", {"seed": "#111"}, "", "already exists"),
            ("", {"seed": "#111"}, "", "needs a name"),
            ("a", {"seed": ""}, "", "Base color: No color was given."),
            ("a", {"seed": "no"}, "", "Base color: “no” is not a color."),
            ("a", {"seed": "#111", "count": "0"}, "", "1 to 60 steps, not 0"),
            ("a", {"seed": "#111", "count": "1000"}, "", "1 to 60 steps, not 1000"),
            ("a", {"seed": "#111", "count": "x"}, "", "Steps: “x” is not a number."),
            (
                "a",
                {"seed": "#111", "count": "2.5"},
                "",
                "Steps: The number of steps is a whole number.",
            ),
            ("a", {"seed": "#111", "count": "2"}, "x x", "Two steps are named “x”"),
            ("a", {"seed": "#111", "count": "2"}, "x", "2 steps need 2 names, not 1."),
            ("a", {"seed": "#111", "method": "loud"}, "", "is not a method"),
            ("a.{b}", {"seed": "#111"}, "", "cannot be a path"),
        ):
            with self.assertRaisesMessage(PrismError, sentence):
                add_ramp(built, name, fields, keys, names=names)

    def test_fields_are_kept_whole_and_read_back(self):
        built, _ = spruce()
        fields = dict(built.ramps[0].parameters)
        self.assertEqual(set(fields), set(recipes.DEFAULTS))
        self.assertEqual(recipes.complete(fields), built.ramps[0].parameters)


class RetuneTests(SimpleTestCase):
    @tried(25)
    @given(st.integers(2, 24), st.integers(2, 24), st.sampled_from(["anchored", "even"]))
    def test_another_count_leaves_every_reference_whole_and_near(self, first, second, method):
        keys = counter_keys()
        built = add_ramp(Document(name="x"), "sea", {"seed": "#1ea1bb", "count": str(first)}, keys)
        steps = built.ramps[0].steps
        built = add_tokens(
            built, [token(f"use.{i}", f"{{sea.{i + 1}}}") for i in range(len(steps))]
        )
        paths = [f"use.{i}" for i in range(len(steps))]
        was = hexes(built, paths)
        fields = dict(built.ramps[0].parameters) | {"count": str(second), "method": method}
        after = retune(built, built.ramps[0].key, fields, keys)
        now = hexes(after, paths)
        self.assertEqual(len(after.ramps[0].steps), second)
        self.assertEqual(
            [after.token(key).path for key in after.ramps[0].steps],
            [f"sea.{i + 1}" for i in range(second)],
        )
        if second >= first and method == "anchored":
            apart = delta_e_2000(
                *(lab([space.rgba(space.parse(h))[:3] for h in one]) for one in (was, now))
            )
            self.assertLess(float(apart.max()), 16)
        kept = set(steps) & set(after.ramps[0].steps)
        self.assertEqual(len(kept), min(first, second))

    def test_a_step_moved_by_hand_stays_and_can_be_put_back(self):
        built, keys = spruce()
        key = built.token_at("spruce.3").key
        own = built.token(key).value()
        moved = set_value(built, key, BASE, Expression("#abcdef"))
        self.assertEqual(moved.ramps[0].moved, (key,))
        fields = dict(moved.ramps[0].parameters) | {"drift-dark": "-30", "count": "9"}
        again = retune(moved, moved.ramps[0].key, fields, keys)
        self.assertEqual(again.token(key).value(), Expression("#abcdef"))
        self.assertEqual(again.ramps[0].moved, (key,))
        back = step_edits.release(moved, key)
        self.assertEqual((back.token(key).value(), back.ramps[0].moved), (own, ()))

    def test_the_pairing_of_a_step_that_goes_moves_to_its_nearest(self):
        built, keys = spruce()
        fields = dict(built.ramps[0].parameters) | {"count": "2"}
        after = retune(built, built.ramps[0].key, fields, keys)
        self.assertIn(after.pairings[0].foreground, after.ramps[0].steps)

    def test_a_group_of_colors_is_adopted_as_it_is_and_retuned_from_its_strongest(self):
        keys = counter_keys()
        built = document(
            token("sea.pale", "#cfe", tier="raw"), token("sea.deep", "#05a", tier="raw"), axes=()
        )
        ramp = ramp_edits.adopt(built, "sea", keys).ramps[0]
        self.assertEqual(ramp.parameters, ())
        adopted = ramp_edits.adopt(built, "sea", keys)
        fields = ramp_edits.proposed(adopted, adopted.ramps[0])
        self.assertEqual((fields["seed"], fields["count"]), ("#0055aa", "2"))
        tuned = retune(adopted, adopted.ramps[0].key, fields, keys)
        self.assertEqual([one.path for one in tuned.tokens], ["sea.pale", "sea.deep", "sea.base"])
        self.assertEqual(tuned.token(tuned.ramps[0].base).value(), Expression("#0055aa"))
        again = retune(tuned, tuned.ramps[0].key, fields | {"seed": "#0a5"}, keys)
        self.assertEqual([one.path for one in again.tokens], [one.path for one in tuned.tokens])
        self.assertEqual(again.token(again.ramps[0].base).value(), Expression("#0a5"))
        less = structure.remove_tokens(again, [again.ramps[0].base])
        self.assertEqual(less.ramps[0].base, "")
        with self.assertRaisesMessage(EditError, "are a ramp already"):
            ramp_edits.adopt(adopted, "sea", keys)


class StepTests(SimpleTestCase):
    def test_insert_drop_rename_and_order_carry_references_along(self):
        built, keys = spruce()
        paths = ["use.1", "use.3", "use.11"]
        was = hexes(built, paths)
        third = built.token_at("spruce.3").key
        built = step_edits.insert_step(built, third, "3-5", keys)
        order = [ramp_edits.leaf(built, key) for key in built.ramps[0].steps]
        self.assertEqual(order[2:5], ["3", "3-5", "4"])
        lights = alike.lights(built, built.ramps[0].steps)
        self.assertEqual(lights, sorted(lights, reverse=True))
        self.assertEqual(dict(built.ramps[0].parameters)["count"], "12")
        built = step_edits.rename_step(built, third, "thin")
        self.assertEqual(built.token_at("use.3").value(), Expression("{spruce.thin}"))
        built = step_edits.rename_steps(built, built.ramps[0].key, "")
        self.assertEqual(built.token_at("use.3").value(), Expression("{spruce.3}"))
        self.assertEqual(built.token_at("use.11").value(), Expression("{spruce.12}"))
        self.assertEqual(hexes(built, paths), was)
        built = step_edits.drop_step(built, third)
        self.assertEqual(built.token_at("use.3").value(), Expression("{spruce.4}"))
        first = built.ramps[0].steps[0]
        built = step_edits.move_step_in_order(built, first, 1)
        self.assertEqual(built.ramps[0].steps[1], first)
        self.assertEqual([t.key for t in built.tokens][:11], list(built.ramps[0].steps))

    def test_a_ramp_is_renamed_with_all_its_paths(self):
        built, _ = spruce()
        built = ramp_edits.rename_ramp(built, built.ramps[0].key, "fir.green")
        self.assertEqual(built.ramps[0].name, "fir.green")
        self.assertEqual(built.token_at("use.3").value(), Expression("{fir.green.3}"))
        self.assertEqual(rename_group(built, "fir", "pine").ramps[0].name, "pine.green")

    def test_veils_follow_their_color(self):
        built, keys = spruce()
        key = built.token_at("spruce.11").key
        built = ramp_edits.veils(built, key, (8, 50), "veil.deep", keys)
        veil = built.token_at("veil.deep.08").key
        before = Resolver(built).resolve(veil, ()).hex
        self.assertEqual(before[-2:], "14")
        built = set_value(built, key, BASE, Expression("#ff0000"))
        self.assertEqual(Resolver(built).resolve(veil, ()).hex, "#ff000014")
        with self.assertRaisesMessage(EditError, "1 to 99 percent"):
            ramp_edits.veils(built, key, (0,), "veil.x", keys)

    def test_one_ramp_stands_in_for_another(self):
        built, keys = spruce()
        built = add_ramp(built, "coral", {"seed": "#f06a52", "count": "5"}, keys)
        after = ramp_edits.replace_ramp(built, built.ramps[0].key, built.ramps[1].key)
        self.assertEqual(after.token_at("use.1").value(), Expression("{coral.1}"))
        self.assertEqual(after.token_at("use.11").value(), Expression("{coral.5}"))
        self.assertEqual(len(after.ramps), 2)


class PurposeTests(SimpleTestCase):
    def test_purposes_are_added_named_moved_dropped_and_order_the_palette(self):
        built, keys = spruce()
        built = purposes.assign(built, "spruce", "signal", keys)
        built = purposes.add(built, "weather", keys)
        key = built.purposes[-1].key
        built = purposes.assign(built, "spruce", key, keys)
        built = purposes.rename(built, key, "storm")
        for _ in range(9):
            built = purposes.move(built, key, -1)
        self.assertEqual(built.purposes[0].name, "storm")
        built = add_ramp(built, "coral", {"seed": "#f06a52"}, keys)
        found = sections.sections(Resolver(built), ())
        self.assertEqual(
            [(one.purpose and one.purpose.name, [s.name for s in one.strips]) for one in found],
            [("storm", ["spruce"]), (None, ["coral"])],
        )
        dropped = purposes.drop(built, key)
        self.assertEqual(dropped.ramps[0].purpose, "")
        with self.assertRaisesMessage(EditError, "already"):
            purposes.add(built, "storm", keys)


class ReadingTests(SimpleTestCase):
    def test_swatches_say_their_marks_and_what_reads_on_them(self):
        built, _ = spruce()
        built = set_value(
            built, built.token_at("spruce.2").key, BASE, Expression("color(display-p3 0 1 0)")
        )
        built = Document(name="P3", gamut="display-p3", tokens=built.tokens, ramps=built.ramps)
        (section,) = sections.sections(Resolver(built), (), "oklch")
        found = section.strips[0].swatches
        self.assertEqual([one.name for one in found if one.seed], ["8"])
        self.assertEqual([one.name for one in found if one.moved], ["2"])
        self.assertEqual([one.name for one in found if one.beyond], ["2"])
        self.assertTrue(found[0].text.startswith("oklch("))
        self.assertEqual((found[0].ink, found[10].ink), ("dark", "light"))

    def test_heads_say_the_targets_that_all_share(self):
        built, keys = spruce()
        built = add_ramp(built, "coral", {"seed": "#f06a52"}, keys)
        found = sections.heads(sections.sections(Resolver(built), ()))
        self.assertEqual([one.target for one in found][::5], ["1.06", "3.05", "16.20"])
        other = dict(built.ramps[1].parameters) | {"reference": "#000000", "targets": ""}
        built = retune(built, built.ramps[1].key, other, keys)
        self.assertEqual(sections.heads(sections.sections(Resolver(built), ()))[0].name, "1")

    def test_the_plot_places_steps_within_the_edge_of_their_gamut(self):
        built, _ = spruce()
        found = plot.plot(Resolver(built), (), built.ramps[0])
        self.assertEqual([one.name for one in found.points if one.seed], ["8"])
        edge = [tuple(map(float, pair.split(","))) for pair in found.edges["srgb"].split()]
        wide = [tuple(map(float, pair.split(","))) for pair in found.edges["display-p3"].split()]
        self.assertTrue(all(p[1] <= s[1] + 0.1 for s, p in zip(edge, wide, strict=True)))
        for point in found.points:
            here = min(edge, key=lambda one: abs(one[0] - point.x))
            self.assertGreaterEqual(point.y, here[1] - 8, point)

    def test_a_step_out_of_line_is_marked(self):
        keys = counter_keys()
        built = Document(name="x")
        for name, seed in (("a", "#236b53"), ("b", "#f06a52"), ("c", "#7e62d2")):
            built = add_ramp(built, name, {"seed": seed}, keys)
        built = set_value(built, built.token_at("b.6").key, BASE, Expression("#ffffff"))
        found = plot.curves(Resolver(built), (), built.ramps[0])
        self.assertEqual(
            [(one.name, [name for _, _, name in one.marks]) for one in found if one.marks],
            [("b", ["6"])],
        )
        self.assertEqual([one.name for one in found if one.chosen], ["a"])

    def test_numbers_hold_a_point_within_the_gamut(self):
        found = plot.numbers(0.6, 0.4, 140, "srgb")
        self.assertFalse(found.in_srgb)
        self.assertTrue(space.in_gamut(space.parse(found.text), "srgb"))
        self.assertEqual(plot.numbers(0.6, 0.05, 140, "srgb").in_srgb, True)
        for bad in ((2, 0.1, 0, "srgb"), (0.5, float("nan"), 0, "srgb"), (0.5, 0.1, 0, "x")):
            with self.assertRaises(EditError):
                plot.numbers(*bad)


def inks(*others):
    """A ramp of five greys, and other tokens."""
    steps = [token(f"ink.{i}", f"#{i}{i}{i}{i}{i}{i}", tier="raw") for i in range(1, 6)]
    ramp = Ramp("ink", "ink", tuple(step.key for step in steps))
    return replace(document(*steps, *others, axes=()), ramps=(ramp,))
