"""Each way in which a document is not whole, and its sentence."""

from dataclasses import replace

from django.test import SimpleTestCase

from demo import quillhaven
from prism.model.document import Axis, Follows, Mode, Pairing, SavedTheme, Scene
from prism.model.imported import Layer, Source
from prism.model.values import BASE, Condition, Expression
from prism.model.whole import flaws

WHOLE = quillhaven.document()
GONE = Condition.of({"appearance": "dusk"})


def with_token(**changes):
    return replace(WHOLE, tokens=(replace(WHOLE.tokens[0], **changes), *WHOLE.tokens[1:]))


def with_axis(**changes):
    return replace(WHOLE, axes=(replace(WHOLE.axes[0], **changes), *WHOLE.axes[1:]))


def with_mode(**changes):
    first, *others = WHOLE.axes[0].modes
    return with_axis(modes=(replace(first, **changes), *others))


def with_ramp(**changes):
    return replace(WHOLE, ramps=(replace(WHOLE.ramps[0], **changes), *WHOLE.ramps[1:]))


def with_pairing(**changes):
    pairing = Pairing("new", "ink.1", ("ink.2",))
    return replace(WHOLE, pairings=(*WHOLE.pairings, replace(pairing, **changes)))


def with_scene(*bindings):
    return replace(WHOLE, scenes=(*WHOLE.scenes, Scene("new", "Board", bindings=bindings)))


def with_layers(*layers, sources=()):
    return replace(WHOLE, sources=sources, layers=layers)


FILE = Source("file", "a.tokens.json")
SAME = Expression("#fff")
CASES = (
    (replace(WHOLE, gamut="rec2020"), "document", "The gamut “rec2020” is not known."),
    (replace(WHOLE, name="n" * 201), "document", "has more than 200 characters."),
    (replace(WHOLE, version="v" * 101), "document", "has more than 100 characters."),
    (replace(WHOLE, description="a\0"), "document", "“description” holds a character"),
    (with_axis(key="two words"), "axis", "“two words” cannot be a key."),
    (with_axis(name="  "), "axis", "The axis has no name."),
    (with_axis(name="n" * 201), "axis", "has more than 200 characters."),
    (with_axis(description="\ud800"), "axis", "holds a character that text cannot contain."),
    (with_axis(modes=()), "axis", "The axis appearance has no mode."),
    (with_axis(default="dusk"), "axis", "The default mode of appearance is gone."),
    (with_axis(name="brand"), "axis", "Two axes are called brand."),
    (with_axis(key="brand"), "axis", "Two parts of the document have one key, brand."),
    (
        with_axis(follows=Follows("prefers-color-scheme", (("dark", "dusk"),))),
        "axis",
        "The system preference of appearance names a mode that is gone.",
    ),
    (with_mode(key="é"), "mode", "“é” cannot be a key."),
    (with_mode(name=""), "mode", "The mode has no name."),
    (with_mode(name="dark"), "mode", "Two modes of appearance are called dark."),
    (with_mode(key="dark"), "mode", "Two modes of appearance have one key."),
    (with_mode(color_scheme="dim"), "mode", "is not light, dark or none."),
    (with_token(key=""), "token", "“” cannot be a key."),
    (with_token(key="k" * 201), "token", "cannot be a key."),
    (with_token(key="ink.2"), "token", "Two parts of the document have one key, ink.2."),
    (with_token(path="p" * 601), "token", "has more than 600 characters."),
    (with_token(role="r" * 61), "token", "has more than 60 characters."),
    (with_token(path="a..b"), "token", "“a..b” cannot be a path."),
    (with_token(path="$a"), "token", "“$a” cannot be a path."),
    (with_token(path="ink.2"), "token", "Two tokens are called ink.2."),
    (with_token(path="spruce"), "token", "spruce is a token and a group."),
    (with_token(type="colour"), "token", "The type or tier of ink.1 is not known."),
    (with_token(tier="top"), "token", "The type or tier of ink.1 is not known."),
    (with_token(description="a\0b"), "token", "“a” holds a character"),
    (with_token(values=((BASE, SAME), (BASE, SAME))), "token", "two values in one place."),
    (with_token(values=((GONE, SAME),)), "token", "has a value in a mode that is gone."),
    (
        with_token(values=((Condition((("brand", "vexley"), ("brand", "osprelle"))), SAME),)),
        "token",
        "A value of ink.1 holds nowhere.",
    ),
    (with_ramp(steps=("ink.1", "ink.1")), "ramp", "The ramp ink has a step twice."),
    (with_ramp(steps=("ink.99",)), "ramp", "ink names a token that is gone."),
    (with_ramp(base="ink.99"), "ramp", "ink names a token that is gone."),
    (with_ramp(moved=("ink.99",)), "ramp", "ink names a token that is gone."),
    (with_ramp(purpose="fun"), "ramp", "The purpose of the ramp ink is gone."),
    (with_ramp(key="spruce"), "ramp", "Two parts of the document have one key, spruce."),
    (with_pairing(foreground="gone"), "pairing", "A pairing names a token that is gone."),
    (with_pairing(page="gone"), "pairing", "A pairing names a token that is gone."),
    (with_pairing(backgrounds=()), "pairing", "lacks its background, use or ratio."),
    (with_pairing(use="poster"), "pairing", "lacks its background, use or ratio."),
    (with_pairing(required=float("nan")), "pairing", "lacks its background, use or ratio."),
    (with_pairing(required=-0.1), "pairing", "lacks its background, use or ratio."),
    (with_pairing(reason="\0"), "pairing", "holds a character"),
    (with_pairing(key=""), "pairing", "“” cannot be a key."),
    (with_scene(("page", "gone")), "scene", "The scene Board names a token that is gone."),
    (with_scene(("a", "ink.1"), ("a", "ink.2")), "scene", "A slot of Board is bound twice."),
    (with_scene(("s" * 201, "ink.1")), "scene", "has a name that is too long."),
    (
        replace(WHOLE, themes=(SavedTheme("t", "Night", (("appearance", "dusk"),)),)),
        "theme",
        "The theme Night names a mode that is gone.",
    ),
    (with_layers(Layer("l", "x", axis="gone")), "layer", "The axis of the modifier x is gone."),
    (
        with_layers(Layer("l", "x", axis="brand", contexts=(("dusk", ()),))),
        "layer",
        "A context of the modifier x is gone.",
    ),
    (
        with_layers(Layer("l", "x", sources=("file", "other")), sources=(FILE,)),
        "layer",
        "A file of x is gone.",
    ),
)


class FlawTests(SimpleTestCase):
    def test_a_whole_document_has_none(self):
        for whole in (
            WHOLE,
            with_pairing(required=0.0),
            with_scene(("s" * 200, "ink.1")),
            with_axis(name="n" * 200),
            with_token(path="p" * 600),
            with_layers(Layer("l", "x", sources=("file",)), sources=(FILE,)),
            replace(WHOLE, axes=(*WHOLE.axes, Axis("a", "a", (Mode("m", "dark"),), "m"))),
        ):
            self.assertEqual(flaws(whole), [])

    def test_each_flaw_has_its_sentence_and_its_place(self):
        for broken, kind, sentence in CASES:
            with self.subTest(sentence):
                told = [flaw for flaw in flaws(broken) if sentence in flaw.sentence]
                self.assertEqual([flaw.kind for flaw in told], [kind], flaws(broken))

    def test_a_flaw_is_seen_after_an_edit_too(self):
        for broken, _, sentence in CASES:
            with self.subTest(sentence):
                told = [flaw.sentence for flaw in flaws(broken, WHOLE)]
                self.assertTrue(any(sentence in text for text in told), told)

    def test_what_is_at_odds_is_named(self):
        named = {
            "Two tokens are called ink.2.": with_token(path="ink.2"),
            "spruce is a token and a group.": with_token(path="spruce"),
            "Two axes are called brand.": with_axis(name="brand"),
        }
        for sentence, broken in named.items():
            (flaw,) = [flaw for flaw in flaws(broken) if flaw.sentence == sentence]
            ((kind, key),) = flaw.others
            self.assertEqual(kind, flaw.kind)
            self.assertNotEqual(key, flaw.key)

    def test_tokens_removed_under_what_names_them(self):
        before = with_scene(("page", "text.main"))
        after = replace(before, tokens=tuple(t for t in before.tokens if t.key != "text.main"))
        kinds = {flaw.kind for flaw in flaws(after, before)}
        self.assertEqual(kinds, {"pairing", "scene", "mute"})
