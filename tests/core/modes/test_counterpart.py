"""Dark and light counterparts of documents of foreign kind, by what each color is for."""

from dataclasses import replace
from itertools import pairwise
from pathlib import Path

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism.color import space
from prism.color.contrast import ratio_of
from prism.coverage import needs
from prism.errors import EditError
from prism.model.document import Document, Token
from prism.model.values import BASE, Expression
from prism.modes import counterpart
from prism.modes.painted import ratio
from prism.palette.course import oklch
from prism.resolution.resolver import Resolver
from prism.roles.by_slot import bound, by_slot
from prism.roles.guess import guess
from prism.scenes import markup
from studio.rooms.stage import library
from tests import roles, tried
from tests.builders import axis, token

ROOT = Path(__file__).parents[3]
SIGNALS = ("go", "wait", "stop", "note")
GREYS = (0.99, 0.96, 0.91, 0.85, 0.76, 0.66, 0.55, 0.45, 0.35, 0.25, 0.215, 0.18, 0.14)


def proposed(document, *, dark=True, **place):
    resolver = Resolver(document)
    where = counterpart.NewMode(**place)
    return counterpart.propose(
        document, resolver, guess(document, resolver), dark=dark, place=where
    )


def colors(**values):
    tokens = [
        Token(path, path.replace("__", "."), "color", "semantic", ((BASE, Expression(text)),))
        for path, text in values.items()
    ]
    return Document(tokens=tuple(tokens))


def shown(made, path, **picks):
    """What a token is in the proposed mode."""
    after = Resolver(made.document)
    token = made.document.token_at(path)
    return after.resolve(token.key, after.theme({made.axis: made.mode, **picks})).color


class ForeignTests(SimpleTestCase):
    def proposals(self):
        for name in roles.names(*roles.LARGE):
            document = roles.read(name).document
            place = {"name": "new"}
            if document.axes:
                place |= {"axis": document.axes[0].key, "source": document.axes[0].default}
            yield name, document, proposed(document, dark=name != "spanish", **place)

    def test_all_that_rules_judge_reaches_what_it_must(self):
        before = 0
        for name, document, made in self.proposals():
            with self.subTest(name):
                self.assertGreater(len(made.pairs), 5 if name not in roles.LATEST else 0)
                seen = {
                    pairing.key for pairing in document.pairings
                }  # what its style sheet shows is named, no more
                short = {s.pairing.foreground for s in made.after if s.pairing.key not in seen}
                self.assertLessEqual(short, roles.see_through(made.document))
                before += len(made.before)
        self.assertGreater(before, 30)  # what fell short in their own mode is fixed on the way

    def test_every_text_of_a_scene_that_is_bound_can_be_read(self):
        runs = library.scene_of("departures", "Elsewhere").runs
        bound_texts = 0
        for name, document, made in self.proposals():
            after = Resolver(made.document)
            there = after.theme({made.axis: made.mode})
            known = guess(document, Resolver(document))
            taken = bound(made.document, {}, by_slot(document, known))
            for run in markup.readings(after, runs, taken, [there]):
                (reading,) = run.readings
                # No rule pairs links with tints of a status.
                on_tint = any(fill.endswith("-tint") for fill in run.fills[:1])
                if reading is not None and not on_tint and run.ink not in ("faint", *SIGNALS):
                    bound_texts += run.count
                    # No rule judges a label under the veil of a fill; infima's black one takes 0.3.
                    least = 4.2 if run.fills[:2] == ("veil", "action") else 4.5
                    self.assertGreaterEqual(reading.ratio, least, (name, run.ink, run.fills))
        self.assertGreater(bound_texts, 300)

    def test_surfaces_that_share_a_value_part_and_rise(self):
        document = colors(
            page="#fff", bg__sunken="#fff", bg__card="#fff", bg__raised="#fff", bg__menu="#fff",
            bg__modal="#fff", text="#222",
        )  # fmt: skip
        made = proposed(document)
        lights = {
            t.path: oklch(shown(made, t.path))[0] for t in document.tokens if t.path != "text"
        }
        rising = sorted(lights, key=lights.get)
        self.assertEqual(
            rising, ["bg.sunken", "page", "bg.card", "bg.raised", "bg.menu", "bg.modal"]
        )
        for lower, upper in pairwise(rising):
            self.assertGreater(lights[upper] - lights[lower], 0.01)

    def test_hues_stay_and_texts_keep_their_distance(self):
        document = colors(page="#fff", text="#1a1a2e", text__quiet="#5a5a78", link__text="#7a1fa2")
        made = proposed(document)
        page = shown(made, "page")
        self.assertLess(
            ratio_of(space.parse("#1a1a2e"), page), 4.5
        )  # as a copy it would fall short
        for path in ("text", "text.quiet", "link.text"):
            was = ratio_of(space.parse(document.token_at(path).values[0][1].text), space.WHITE)
            self.assertAlmostEqual(ratio_of(shown(made, path), page), min(was, 15), delta=0.4)
        hue = oklch(space.parse("#7a1fa2"))[2]
        self.assertAlmostEqual(oklch(shown(made, "link.text"))[2], hue, delta=3)

    def test_a_brand_that_cannot_carry_white_gets_a_dark_label_and_lighter_states(self):
        document = colors(
            page="#fff", button__fill="#ffc400", button__fill__hover="#e6b000", button__label="#222",
        )  # fmt: skip
        made = proposed(document)
        fill, hover, label = (
            shown(made, f"button.{part}") for part in ("fill", "fill.hover", "label")
        )
        self.assertGreater(oklch(hover)[0], oklch(fill)[0])
        self.assertGreaterEqual(ratio_of(label, hover), 4.5)

    def test_what_refers_to_others_follows_where_that_is_right(self):
        document = colors(page="#fff", text="#222", card__bg="{page}", title__text="{text}")
        made = proposed(document)
        self.assertNotIn("title__text", made.values)
        self.assertIn("card__bg", made.values)  # a card is lighter than the page in the dark

    def test_translucent_texts_lines_and_surfaces_keep_their_opacity(self):
        document = colors(
            page="#fff", bg__card="#ffffffcc", text="#000000de", text__quiet="#00000099",
            line__control="#00000080",
        )  # fmt: skip
        made = proposed(document)
        self.assertEqual([short.pairing.key for short in made.after], [])
        for item in document.tokens:
            was = space.parse(item.values[0][1].text)
            self.assertAlmostEqual(shown(made, item.path).alpha, was.alpha, delta=0.003)
        self.assertGreater(oklch(shown(made, "text"))[0], 0.8)

    def test_steps_of_the_palette_come_before_colors_of_their_own(self):
        steps = {f"gray__{n}": f"oklch({light} 0.01 250)" for n, light in enumerate(GREYS, 1)}
        document = colors(
            **steps, page="{gray.1}", bg__card="{gray.1}", text="{gray.11}", text__quiet="{gray.8}",
        )  # fmt: skip
        raw = tuple(
            replace(token, tier="raw") if token.path.startswith("gray.") else token
            for token in document.tokens
        )
        made = proposed(replace(document, tokens=raw))
        texts = {key: value.text for key, held in made.values.items() for value in held.values()}
        self.assertEqual(made.values.keys(), {"page", "bg__card", "text", "text__quiet"})
        self.assertTrue(all(text.startswith("{gray.") for text in texts.values()), texts)
        self.assertEqual(made.after, ())
        self.assertNotEqual(texts["page"], texts["bg__card"])

    def test_every_brand_gets_its_own_colors(self):
        brand = axis("brand", "sea", "dune")
        fill = ({}, "#0b5cad"), ({"brand": "dune"}, "#ffc400")
        label = ({}, "#ffffff"), ({"brand": "dune"}, "#222222")
        document = replace(
            colors(page="#fff", text="#222"),
            axes=(brand,),
        )
        document = replace(
            document,
            tokens=(*document.tokens, token("button.fill", *fill), token("button.label", *label)),
        )
        made = proposed(document)
        self.assertEqual([short.pairing.key for short in made.after], [])
        for mode in ("sea", "dune"):
            on = shown(made, "button.fill", brand=mode), shown(made, "button.label", brand=mode)
            self.assertGreaterEqual(ratio_of(*on), 4.5, mode)
        self.assertNotEqual(
            shown(made, "button.fill", brand="sea"), shown(made, "button.fill", brand="dune")
        )

    def test_display_p3_stays_in_its_gamut(self):
        document = replace(roles.read("italian").document, gamut="display-p3")
        place = document.axes[0]
        made = proposed(document, axis=place.key, source=place.default, name="new")
        for item in document.tokens:
            self.assertTrue(space.in_gamut(shown(made, item.path), "display-p3"), item.path)

    def test_unknown_colors_are_left(self):
        made = proposed(colors(page="#fff", text="#222", fig="#123456"))
        self.assertNotIn("fig", made.values)

    def test_a_taken_name_or_a_mode_that_is_gone(self):
        document = roles.read("dashed").document
        place = document.axes[0]
        with self.assertRaisesMessage(EditError, "Two modes have the same name."):
            proposed(document, axis=place.key, source=place.default, name="dark")
        with self.assertRaisesMessage(EditError, "The mode to start from is no longer there."):
            proposed(document, axis=place.key, source="gone", name="new")


class AnyDocumentTests(SimpleTestCase):
    """Documents of chance, with every word of the lexicon in any order."""

    @tried(60)
    @given(st.integers(0, 10**9))
    def test_what_falls_short_has_a_true_reason(self, seed):
        document = roles.random_document(seed)
        resolver = Resolver(document)
        known = guess(document, resolver)
        by_slot(document, known)
        needs.look(document, resolver, known)
        made = proposed(document, name="new")
        after = Resolver(made.document)
        for short in made.after:
            if short.why != "no lightness of its hue reaches it on all that it lies on":
                self.assertRegex(short.why, "at its opacity|is not known")
                continue
            above = short.pairing.foreground
            mine = [pair for pair in made.pairs if pair.foreground == above]
            theme = short.reading.theme
            hue = oklch(after.resolve(above, theme).color)[2]
            for light in range(0, 101, 2):
                tried = space.fit(space.Color("oklch", (light / 100, 0.01, hue)), "srgb")
                reached = all(
                    ratio(tried, stack) >= pair.required * 1.02
                    for pair in mine
                    if (stack := self.stack(after, pair, theme))
                )
                self.assertFalse(reached, (seed, short, light))

    def stack(self, after, pair, theme):
        found = []
        for key in (*pair.backgrounds, *filter(None, [pair.page])):
            found.append(after.resolve(key, theme).color)
            if found[-1] is None or found[-1].alpha == 1:
                break
        return () if None in found else tuple(found)
