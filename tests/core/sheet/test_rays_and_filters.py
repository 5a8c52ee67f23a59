"""What the Tokens room reads off: rays, ladders, filters, blocks of rows, offers."""

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from bench import documents
from demo import quillhaven
from prism.analysis import Analysis
from prism.model.document import Pairing, Scene
from prism.model.values import BASE
from prism.resolution.resolver import Resolver
from prism.sheet import details, filters, grid, ladder, rays, trace
from prism.sheet.addition import add_token
from prism.sheet.completion import complete
from tests import tried
from tests.builders import document, random_document, token


def ways_of(ray):
    """The tokens of each way of a ray."""
    return [tuple(hop.token for hop in way.hops) for way in ray.ways]


def led(way, hops):
    """Whether a way goes over the first of these hops, by their tokens and conditions."""
    pairs = list(zip(way.hops, way.conditions, hops, strict=False))
    return len(pairs) == len(way.hops) and all(
        one.token == hop.token and hop.condition in conditions for one, conditions, hop in pairs
    )


class TraceTests(SimpleTestCase):
    def assert_rays(self, resolver, key, themes):
        """One ray for each distinct answer; each theme's trace agrees with its ray."""
        picture = trace.picture(resolver, key, resolver.default_theme)
        answers = {}
        for theme in themes:
            answers.setdefault(resolver.resolve(key, theme), []).append(theme)
        self.assertEqual(len(picture.rays), len(answers))
        self.assertEqual(len(picture.ends), len(picture.rays))
        for ray in picture.rays:
            found = answers[ray.answer]
            self.assertEqual(ray.themes, len(found))
            self.assertEqual(ray.current, resolver.default_theme in found)
            for at in found:
                self.assertTrue(any(led(way, resolver.trace(key, at)) for way in ray.ways))
        places = [(end.x, end.y) for end in picture.ends]
        self.assertEqual(len(set(places)), len(places))

    def test_conditions_that_differ_on_one_axis_are_said_as_one(self):
        built = quillhaven.document()
        picture = trace.picture(Resolver(built), "text.muted", (0,) * 6)
        words = {edge.words for edge in picture.edges}
        self.assertEqual(words, {"base", "dark", "dim", "raised", "dark or dim, raised", ""})

    def test_two_ways_to_one_answer_are_drawn_and_land_together(self):
        built = document(
            token("a", "#111111", tier="raw"),
            token("b", "#111111", tier="raw"),
            token("c", "{a}", ({"appearance": "dark"}, "{b}"), ({"brand": "osprelle"}, "{a}")),
        )
        picture = trace.picture(Resolver(built), "c", (0, 0))
        ((ray,), (end,)) = picture.rays, picture.ends
        self.assertEqual(ways_of(ray), [("c", "a"), ("c", "b")])
        self.assertEqual({edge.words for edge in picture.edges}, {"", "base or osprelle", "dark"})
        landing = [edge for edge in picture.edges if edge.path.endswith(f"{end.x} {end.y}")]
        self.assertEqual(len(landing), 2)
        self.assertEqual([node.label for node in picture.nodes], ["c", "a", "b"])
        self.assertEqual([node.current for node in picture.nodes], [True, True, False])

    def test_every_token_of_a_six_axis_project_in_every_theme(self):
        built = documents.document(60)
        resolver = Resolver(built)
        self.assertEqual(len(built.axes), 6)
        themes = list(resolver.themes())
        for one in built.tokens:
            self.assert_rays(resolver, one.key, themes)

    @tried(25)
    @given(st.integers(0, 10_000))
    def test_any_document(self, seed):
        built = random_document(seed)
        resolver = Resolver(built)
        for one in built.tokens:
            self.assert_rays(resolver, one.key, list(resolver.themes()))

    def test_forks_name_their_modes_and_shared_hops_are_drawn_once(self):
        resolver = Resolver(quillhaven.document())
        picture = trace.picture(resolver, "text.link", (1, 1, 0))
        self.assertEqual(len(picture.rays), 9)
        self.assertEqual(sum(node.label == "text.link" for node in picture.nodes), 1)
        self.assertEqual(sum(node.label.startswith("accent.") for node in picture.nodes), 3)
        self.assertEqual(
            {edge.words for edge in picture.edges if edge.words},
            {"base", "dark", "dim", "Osprelle", "Vexley"},
        )
        (current,) = [ray for ray in picture.rays if ray.current]
        self.assertEqual(current.words, "dark, Osprelle")
        self.assertEqual([edge.current for edge in picture.edges].count(True), 3)

    def test_what_a_value_mixes_in_stands_beside_its_ray(self):
        built = document(
            token("a", "#111111", tier="raw"),
            token("b", "#eeeeee", tier="raw"),
            token("c", "color-mix(in srgb, {a}, {b})"),
        )
        (ray,) = rays.rays(Resolver(built), "c", (0, 0))
        self.assertEqual([hop.token for hop in ray.hops], ["c", "a"])
        self.assertEqual(ray.beside, ("b",))


class LadderTests(SimpleTestCase):
    def test_tokens_stand_on_their_steps_mode_by_mode(self):
        built = quillhaven.document()
        resolver = Resolver(built)
        rows = ladder.ladders(resolver, built.axes[0], resolver.default_theme, "text")
        found = {ramp.name: ladders for ramp, ladders in rows}
        ink = found["ink"]
        self.assertEqual([one.mode.name for one in ink], ["light", "dark", "dim"])
        light = {mark.name: rung.name for rung in ink[0].rungs for mark in rung.marks}
        self.assertEqual((light["text.main"], light["text.muted"]), ("11", "8"))
        mirrored = {mark.name for rung in ink[1].rungs for mark in rung.marks if mark.mirrored}
        self.assertEqual(mirrored, {"text.main", "text.muted", "text.inverse"})
        through = {m.name: m.through for r in found["spruce"][0].rungs for m in r.marks}
        self.assertEqual(through, {"text.link": "accent.8"})
        self.assertEqual(
            [r.name for r, _ in ladder.ladders(resolver, None, resolver.default_theme, "nothing")],
            [],
        )


class CellTests(SimpleTestCase):
    def test_a_cell_says_its_tightest_pairing_and_what_is_only_measured_where_nothing_is_asked(
        self,
    ):
        built = quillhaven.document()
        resolver = Resolver(built)
        keys = ("text.main", "surface.card", "surface.sunken")
        lines = grid.lines(
            resolver, built.axes[0], resolver.default_theme, [built.token(key) for key in keys]
        )
        found = {
            line.token.key: [one.worst.shown if one.worst else "" for one in line.cells]
            for line in lines
        }
        self.assertEqual(found["text.main"], ["15.24", "8.54", "5.78"])
        self.assertEqual(found["surface.card"], ["1.05", "1.03", "1.30"])
        self.assertEqual(found["surface.sunken"], ["", "", ""])
        self.assertFalse(any(cell.worst.fails for cell in lines[1].cells))


class FilterTests(SimpleTestCase):
    def setUp(self):
        self.built = document(
            token("ink.1", "#777777", tier="raw"),
            token("ink.2", "#888888", tier="raw"),
            token("paper", "#ffffff"),
            token("text.main", "{ink.1}", ({"appearance": "dark"}, "#fff")),
            token("gap", "4px", type="dimension", tier="raw"),
            pairings=(Pairing("p", "text.main", ("paper",)),),
        )
        self.resolver = Resolver(self.built)

    def paths(self, **asked):
        asked = filters.Filter(**asked)
        return [one.path for one in filters.choose(Analysis(self.built), asked, [(0, 0), (1, 0)])]

    def test_each_filter(self):
        self.assertEqual(self.paths(words="MAIN text"), ["text.main"])
        self.assertEqual(self.paths(tier="raw", type="color"), ["ink.1", "ink.2"])
        self.assertEqual(self.paths(group="ink"), ["ink.1", "ink.2"])
        self.assertEqual(self.paths(state="literal"), ["paper", "text.main"])
        self.assertEqual(self.paths(state="failing"), ["text.main"])
        self.assertEqual(self.paths(state="unused"), ["ink.2", "gap"])
        self.assertEqual(self.paths(state="changed", changed=frozenset({"gap"})), ["gap"])
        self.assertEqual(self.paths(state="broken"), [])
        self.assertEqual(Analysis(self.built).groups, ["ink", "paper", "text", "gap"])


class BlockTests(SimpleTestCase):
    def test_rows_beyond_the_first_are_sent_later_and_folded_ones_not_at_all(self):
        built = document(
            *(token(f"a.{i}", "#111111") for i in range(200)),
            *(token(f"b.{i}", "#222222") for i in range(10)),
        )
        resolver = Resolver(built)
        found = grid.blocks(resolver, built.axes[0], (0, 0), built.tokens)
        self.assertEqual(sum(len(one.tokens) for one in found), 210)
        self.assertEqual(sum(len(one.lines) for one in found), 24)
        self.assertEqual([len(one.tokens) for one in found], [24] * 8 + [8, 10])
        self.assertEqual([one.later for one in found], [False] + [True] * 9)
        opened = grid.blocks(resolver, built.axes[0], (0, 0), built.tokens, always={"b.3"})
        self.assertFalse(opened[-1].later)
        folded = grid.blocks(resolver, built.axes[0], (0, 0), built.tokens, folded=["a"])
        self.assertEqual(
            [(one.name, one.count, len(one.lines)) for one in folded],
            [("a", 200, 0), ("b", 10, 10)],
        )


class OfferTests(SimpleTestCase):
    def test_a_color_finds_the_nearest_and_use_comes_first(self):
        built = quillhaven.document()
        resolver = Resolver(built)
        link = built.token("text.link")
        near = complete(built, "#246c54", link, resolver=resolver)
        self.assertEqual(near[0].path, "spruce.8")
        self.assertLess(near[0].distance, 1)
        distances = [one.distance for one in near]
        self.assertEqual([round(d, 2) for d in distances], sorted(round(d, 2) for d in distances))
        used = complete(built, "", link)
        self.assertEqual(used[0].uses, max(one.uses for one in used))

    def test_the_shelf_holds_the_loose_colors_of_scenes(self):
        markup = (
            '<p class="tan" style="color: #123456; background: rgb(1 2 3)">A red line</p>'
            '<svg><path fill="#123456" stroke="{text.main}"/></svg>'
        )
        scenes = (Scene("a", "Board", markup), Scene("b", "Plain", "<p>Nothing</p>"))
        built = replace(document(token("x", "#ffffff")), scenes=scenes)
        rows = details.shelf(Resolver(built), (0, 0))
        self.assertEqual(
            [(row.name, [(color.value, color.hex) for color in row.colors]) for row in rows[:-7]],
            [("Board", [("#123456", "#123456"), ("rgb(1 2 3)", "#010203")])],
        )

    def test_the_shelf_holds_ramps_sets_that_were_brought_and_the_names_of_css(self):
        built = quillhaven.document()
        brought = (token("moods.fog", "#ccd0d4", tier="raw"), token("loose", "#123", tier="raw"))
        built = replace(built, tokens=(*built.tokens, *brought))
        rows = details.shelf(Resolver(built), (0, 0, 0))
        sets = {
            row.name: [color.value for color in row.colors] for row in rows if row.name != "CSS"
        }
        self.assertEqual(len(sets["spruce"]), 11)
        self.assertEqual(sets["moods"], ["moods.fog"])
        self.assertEqual(sets["single"], ["white", "black", "loose"])
        named = [color for row in rows if row.name == "CSS" for color in row.colors]
        # CSS Color 4, section 6.1, has 148 names.
        self.assertEqual(len(named), 148)
        self.assertIn(("rebeccapurple", "#663399"), [(one.value, one.hex) for one in named])

    def test_the_page_of_a_token_says_where_it_is_used(self):
        resolver = Resolver(quillhaven.document())
        page = details.page(resolver, resolver.document.token("text.main"))
        self.assertEqual(
            [user.path for user in page.users], ["board.time", "ticket.place", "field.text"]
        )
        self.assertEqual(len(page.pairings), 13)
        self.assertEqual(page.css_name, "text-main")
        beside = details.same_color(resolver, "text.link", resolver.default_theme)
        self.assertIn("button.fill.$root", [one.path for one in beside])


class MeasureTests(SimpleTestCase):
    def test_lengths_are_drawn_in_any_unit_of_css(self):
        built = document(
            *(
                token(f"gap.{place}", text, type="dimension", tier="raw")
                for place, text in enumerate(("24px", "18pt", "0.25in", "1.5rem", "0.635cm"))
            )
        )
        lines = grid.lines(Resolver(built), None, (), built.tokens)
        for line in lines:
            self.assertAlmostEqual(line.cells[0].length, 24.0, places=9)

    def test_what_is_too_long_is_cut_and_what_is_no_length_is_not_drawn(self):
        built = document(
            token("gap.far", "1000px", type="dimension", tier="raw"),
            token("gap.back", "-4px", type="dimension", tier="raw"),
            token("time.slow", "300ms", type="duration", tier="raw"),
        )
        lines = grid.lines(Resolver(built), None, (), built.tokens)
        self.assertEqual([line.cells[0].length for line in lines], [40.0, 0.0, 0.0])

    def test_a_cell_says_what_is_stored_and_what_it_comes_to(self):
        built = document(
            token("gap.base", "4px", type="dimension", tier="raw"),
            token("gap.2", "calc({gap.base} * 2)", type="dimension", tier="raw"),
            token("ink", "#112233", tier="raw"),
            token("title", "Timetable", type="string", tier="raw"),
        )
        cells = [line.cells[0] for line in grid.lines(Resolver(built), None, (), built.tokens)]
        self.assertEqual([cell.result for cell in cells], ["", "8px", "", ""])

    def test_shadows_are_shown_and_copied_as_they_are_typed(self):
        built = document(token("card", "#000", type="color", tier="raw"))
        built, shadow = add_token(built, "lift", [(BASE, "0 1px 4px 0 {card}")], iter("k").__next__)
        (cell,) = grid.lines(Resolver(built), None, (), [shadow])[0].cells
        self.assertEqual((cell.shown, cell.text), ("0 1px 4px 0 {card}",) * 2)
        self.assertEqual(cell.sample.kind, "shadow")
        self.assertEqual(cell.result, "")
