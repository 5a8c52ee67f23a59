"""Style sheets read and written again, in place and as our own."""

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism.color import space
from prism.formats import css, css_in_place, files, style_sheets
from prism.resolution.resolver import Resolver
from tests import tried
from tests.builders import counter_keys, random_document
from tests.sheets import axes, sheet, values

seeds = st.integers(0, 10_000)
quick = tried(40)


class InPlaceTests(SimpleTestCase):
    def again(self, text):
        read = sheet(text)
        written = css_in_place.write(read.document)
        return read, sheet(written), written

    def test_selectors_classes_and_preferences_come_back(self):
        read, again, written = self.again(
            ":root { --a: #111; --b: var(--a) } [data-theme=dark], .dark { --a: #eee }"
            "@media (prefers-color-scheme: dark) { :root:not([data-theme], .dark) { --a: #eee } }"
            "[data-brand='my brand'] { --b: #00f } [data-brand='my brand'].dark { --b: #88f }"
        )
        self.assertIn('[data-theme="dark"]', written)
        self.assertIn(".dark", written)
        self.assertIn('[data-brand="my brand"]', written)
        self.assertEqual(axes(again), axes(read))
        for path in ("a", "b"):
            self.assertEqual(values(again, path), values(read, path))

    def test_a_selector_that_came_with_a_file_is_written_anew_or_not_at_all(self):
        read = sheet(":root { --a: #111 } .dark { --a: #222 }")
        axis = read.document.axes[0]
        evil = replace(axis.modes[1], selectors=(".dark", "} body { color: red } .x", "a b"))
        document = replace(read.document, axes=(replace(axis, modes=(axis.modes[0], evil)),))
        written = css_in_place.write(document)
        self.assertNotIn("body", written)
        self.assertIn(".dark {", written)

    def test_it_is_a_target_of_files(self):
        read = sheet(":root { --a: #111 } .dark { --a: #222 }")
        written, _ = files.write(
            read.document, "css-in-place", Resolver(read.document).default_theme
        )
        self.assertEqual(list(written), ["x-in-place.css"])

    def test_modes_keep_their_selectors_in_files(self):
        read = sheet(":root { --a: #111 } .dark { --a: #222 }")
        written, _ = files.write(
            read.document, "design-tokens", Resolver(read.document).default_theme
        )
        again = files.read({n: t.encode() for n, t in written.items()}, counter_keys("n")).document
        self.assertEqual(again.axes[0].modes[1].selectors, (".dark",))


class OwnSheetTests(SimpleTestCase):
    @quick
    @given(seeds)
    def test_our_own_sheet_reads_back_to_the_same_colors(self, seed):
        built = random_document(seed)
        built = replace(
            built,
            axes=tuple(replace(axis, follows=None) for axis in built.axes),
            tokens=tuple(replace(t, private=False) for t in built.tokens if t.type == "color"),
        )
        resolver = Resolver(built)
        if any(
            resolver.resolve(t.key, theme).broken
            for theme in resolver.themes()
            for t in built.tokens
        ):
            return
        text = css.write(built)
        read = style_sheets.read(text.encode(), "x.css", counter_keys())
        again = Resolver(read.document)
        names = {token.path: token.key for token in read.document.tokens}
        for theme in resolver.themes():
            picks = {}
            for axis, index in zip(built.axes, theme, strict=True):
                found = next(
                    (
                        a
                        for a in read.document.axes
                        if a.name == axis.name.lower().replace(" ", "-")
                    ),
                    None,
                )
                mode = axis.modes[index].name.replace(" ", "-")
                if found is not None and any(m.name == mode for m in found.modes):
                    picks[found.key] = next(m.key for m in found.modes if m.name == mode)
                elif found is not None:
                    return
            for one in built.tokens:
                key = names.get(one.path.replace(" ", "-").replace(".", "-"))
                answer = resolver.resolve(one.key, theme)
                if answer.color and key:
                    # Written decimals may tip a channel that lies half way between two.
                    found = again.resolve(key, again.theme(picks)).color
                    near = zip(space.rgba8(found)[:3], space.rgba8(answer.color)[:3], strict=True)
                    self.assertLessEqual(max(abs(a - b) for a, b in near), 1, one.path)
                    self.assertAlmostEqual(found.alpha, answer.color.alpha, 5, one.path)
