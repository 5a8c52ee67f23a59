"""The nearest step that passes: true, nearest, and without harm."""

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from demo import quillhaven
from prism.analysis import Analysis
from prism.changes.values import set_values
from prism.contrast import nearest_step
from prism.model.document import Document, Pairing
from prism.model.values import Expression
from prism.palette import ramp_edits
from prism.palette.ramps import oklch
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver
from tests import tried
from tests.builders import APPEARANCE, axis, counter_keys, document, resolved, token

CONTRAST = axis("contrast", "standard", "raised")


def ramps(**bases):
    """A document with a ramp for each name and base color."""
    built = Document(name="x", axes=(APPEARANCE, CONTRAST))
    for name, base in bases.items():
        built = ramp_edits.add_ramp(built, name, {"seed": base}, counter_keys(name))
    return built


def with_tokens(built, *tokens):
    """The document with tokens behind its own."""
    return replace(built, tokens=(*built.tokens, *tokens))


def falling_short(built):
    """Pairing and theme of every reading that falls short, one by one."""
    resolver = Resolver(built)
    readings = audit(resolver, built.pairings, list(resolver.themes()))
    return {(reading.pairing, reading.theme) for reading in readings if reading.fails}


STEPS = st.integers(1, 11)
CONDITIONS = st.sampled_from(
    [
        {},
        {"appearance": "dark"},
        {"contrast": "raised"},
        {"appearance": "dark", "contrast": "raised"},
    ]
)


@st.composite
def documents(draw):
    """Texts and surfaces on steps of two ramps, some only in some modes, each on each."""
    base = ramps(ink="#66737a", spruce="#236b53")
    tokens = []
    for name in ("text.a", "text.b", "surface.a", "surface.b"):
        ramp = draw(st.sampled_from(["ink", "spruce"]))
        values = [f"{{{ramp}.{draw(STEPS)}}}"]
        for picks in draw(st.lists(CONDITIONS.filter(bool), max_size=2, unique_by=str)):
            values.append((picks, f"{{{ramp}.{draw(STEPS)}}}"))
        tokens.append(token(name, *values))
    tokens.append(token("label", "{text.a}", tier="component"))
    pairings = tuple(
        Pairing(f"{above} {below}", above, (below,), "text", draw(st.sampled_from([3.0, 4.5, 7.0])))
        for above in ("text.a", "text.b", "label")
        for below in ("surface.a", "surface.b")
    )
    return replace(with_tokens(base, *tokens), pairings=pairings)


class AnyDocumentTests(SimpleTestCase):
    @tried(60)
    @given(documents())
    def test_a_fix_makes_its_pairing_pass_everywhere_and_no_other_fall_short(self, built):
        before = falling_short(built)
        for key in {pairing for pairing, _ in before}:
            for fix in nearest_step.fixes(built, built.pairing(key)):
                after = falling_short(set_values(built, fix.settings))
                self.assertFalse({theme for pairing, theme in after if pairing == key})
                self.assertLessEqual(after, before)

    @tried(40)
    @given(st.integers(1, 11), st.integers(1, 11), st.sampled_from([3.0, 4.5, 7.0]))
    def test_the_step_is_the_nearest_of_all_that_pass(self, text, surface, required):
        built = with_tokens(
            ramps(ink="#66737a"),
            token("text", f"{{ink.{text}}}"),
            token("surface", f"{{ink.{surface}}}"),
        )
        pairing = Pairing("p", "text", ("surface",), "text", required)
        built = replace(built, pairings=(pairing,))
        if not falling_short(built):
            return
        light = {step: oklch(resolved(built, step).color)[0] for step in steps_of(built)}
        now = oklch(resolved(built, "text").color)[0]
        passes = [
            step
            for step in light
            if not falling_short(with_value(built, "text", built.token(step).path))
        ]
        fixes = [fix for fix in nearest_step.fixes(built, pairing) if fix.side == "foreground"]
        self.assertEqual(bool(fixes), bool(passes))
        if fixes:
            nearest = min(abs(light[step] - now) for step in passes)
            chosen = built.token_at(fixes[0].moves[0].after.text.strip("{}")).key
            self.assertAlmostEqual(abs(light[chosen] - now), nearest)


def steps_of(built):
    """The steps of the first ramp and its base color, by key."""
    ramp = built.ramps[0]
    return [*ramp.steps, *([ramp.base] if ramp.base else [])]


def with_value(built, key, path):
    """The document with a token that refers to a path."""
    tokens = tuple(
        replace(known, values=((known.values[0][0], Expression(f"{{{path}}}")),))
        if known.key == key
        else known
        for known in built.tokens
    )
    return replace(built, tokens=tokens)


class NamedTests(SimpleTestCase):
    def fixes(self, built, key="p", **within):
        return nearest_step.fixes(built, built.pairing(key), within)

    def paired(self, *tokens, required=4.5, base=None):
        built = with_tokens(base or ramps(ink="#66737a"), *tokens)
        pairing = Pairing("p", tokens[0].key, (tokens[1].key,), "text", required)
        return replace(built, pairings=(pairing,))

    def test_only_the_mode_that_falls_short_is_moved(self):
        built = self.paired(
            token("text", "{ink.11}", ({"appearance": "dark"}, "{ink.7}")),
            token("page", "{ink.1}", ({"appearance": "dark"}, "{ink.11}")),
        )
        fix = self.fixes(built)[0]
        (move,) = fix.moves
        self.assertEqual((move.token, move.condition.picks), ("text", (("appearance", "dark"),)))
        self.assertEqual(move.after.text, "{ink.6}")
        self.assertEqual(fix.effects[0].pairing.key, "p")
        self.assertLess(fix.effects[0].before, 4.5)
        self.assertGreaterEqual(fix.effects[0].after, 4.5)

    def test_a_base_value_that_holds_elsewhere_too_is_left_there(self):
        built = self.paired(
            token("text", "{ink.8}"),
            token("page", "{ink.1}", ({"appearance": "dark"}, "{ink.11}")),
        )
        fix = next(fix for fix in self.fixes(built) if fix.side == "foreground")
        self.assertEqual(fix.moves[0].condition.picks, (("appearance", "dark"),))

    def test_the_value_that_decides_is_moved_not_what_refers_to_it(self):
        built = self.paired(
            token("field.hint", "{text.hint}", tier="component"),
            token("page", "{ink.1}"),
            token("text.hint", "{ink.5}"),
        )
        self.assertEqual(self.fixes(built)[0].moves[0].token, "text.hint")

    def test_white_gives_way_to_the_nearest_end_or_neutral_that_passes(self):
        base = with_tokens(
            ramps(ink="#66737a", gorse="#f2c100"),
            token("white", "#ffffff", tier="raw"),
            token("black", "#000000", tier="raw"),
        )
        built = self.paired(token("label", "{white}"), token("fill", "{gorse.4}"), base=base)
        fix = self.fixes(built)[0]
        self.assertEqual((fix.side, fix.moves[0].after.text), ("foreground", "{black}"))

    def test_a_literal_keeps_its_hue(self):
        built = replace(
            document(token("text", "#c08070"), token("page", "#ffffff")),
            pairings=(Pairing("p", "text", ("page",), "text", 4.5),),
        )
        fix = self.fixes(built)[0]
        changed = set_values(built, fix.settings)
        before, after = (oklch(resolved(known, "text").color) for known in (built, changed))
        self.assertAlmostEqual(before[2], after[2], delta=1.5)
        self.assertLess(after[0], before[0])
        self.assertGreaterEqual(fix.effects[0].after, 4.5)

    def test_nothing_is_offered_where_no_step_can_pass(self):
        built = self.paired(token("text", "{ink.6}"), token("page", "{ink.7}"), required=21.0)
        self.assertEqual(self.fixes(built), [])

    def test_nothing_is_offered_for_a_raw_color(self):
        built = ramps(ink="#66737a")
        first, second = built.ramps[0].steps[4:6]
        built = replace(built, pairings=(Pairing("p", first, (second,), "text", 4.5),))
        self.assertEqual(self.fixes(built), [])

    def test_within_a_mode_others_keep_their_values(self):
        built = self.paired(token("text", "{ink.5}"), token("page", "{ink.1}"))
        fix = next(f for f in self.fixes(built, contrast="raised") if f.side == "foreground")
        self.assertEqual(fix.moves[0].condition.picks, (("contrast", "raised"),))
        settings_made = nearest_step.repaired(built, {"contrast": "raised"}, {})
        after = falling_short(set_values(built, settings_made))
        self.assertEqual({theme for _, theme in after}, {(0, 0), (1, 0)})

    def test_flaws_of_the_demo_are_fixed_one_after_the_other(self):
        built = quillhaven.document()
        count = len(Analysis(built).failing)
        for _ in range(count):
            analysis = Analysis(built)
            for key in analysis.failing:
                fixes = nearest_step.fixes(analysis.paired, analysis.paired.pairing(key))
                if fixes:
                    built = set_values(built, fixes[0].settings)
                    break
        self.assertGreater(count, 5)
        self.assertEqual(Analysis(built).failing, {})
