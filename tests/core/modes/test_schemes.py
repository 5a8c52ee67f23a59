"""Which mode is dark, where a file does not say."""

from dataclasses import replace

from django.test import SimpleTestCase

from prism.model.document import Axis, Mode
from prism.modes.schemes import with_schemes
from prism.roles.lexicon import scheme_named
from tests.builders import document, token


def axis(*names, **schemes):
    modes = tuple(Mode(name, name, color_scheme=schemes.get(name, "")) for name in names)
    return Axis("look", "look", modes, names[0])


def seen(look, *tokens):
    made = with_schemes(document(*tokens, axes=(look,)))
    return [mode.color_scheme for mode in made.axes[0].modes]


def page(base, **modes):
    return token("page", base, *(({"look": name}, color) for name, color in modes.items()))


class SchemeTests(SimpleTestCase):
    def test_the_page_shows_it_whatever_modes_are_called(self):
        tokens = (
            page("#ffffff", b="#101418", c="#f0ead8"),
            token("text", "#111111", ({"look": "b"}, "#eeeeee")),
        )
        self.assertEqual(seen(axis("a", "b", "c"), *tokens), ["light", "dark", "light"])

    def test_a_name_says_it_where_colors_do_not(self):
        for names in (
            ("day", "night"),
            ("hell", "dunkel"),
            ("jasny", "ciemny"),
            ("licht", "donker"),
        ):
            self.assertEqual(
                seen(axis(*names), token("space", "4px", type="dimension")), ["light", "dark"]
            )

    def test_colors_count_for_more_than_names(self):
        self.assertEqual(
            seen(axis("night", "day"), page("#ffffff", day="#101418")), ["light", "dark"]
        )

    def test_what_a_file_says_stays(self):
        look = axis("a", "b", a="dark")
        self.assertEqual(seen(look, page("#ffffff", b="#101418")), ["dark", "dark"])
        built = document(page("#ffffff"), axes=(axis("a", "b", a="dark", b="light"),))
        self.assertIs(with_schemes(built), built)

    def test_nothing_is_made_up(self):
        self.assertEqual(seen(axis("tarn", "vex"), page("#ffffff", vex="#f4f4f8")), ["", ""])
        self.assertEqual(
            seen(axis("tarn", "vex"), token("zorp", "#777777", ({"look": "vex"}, "#222222"))),
            ["", ""],
        )
        self.assertEqual(seen(axis("dark"), page("#ffffff")), [""])
        self.assertEqual(
            seen(axis("dark light", "other"), token("space", "4px", type="dimension")), ["", ""]
        )

    def test_a_name_with_a_word_inside_another_says_dark_and_never_light(self):
        for name, scheme in (
            ("midnight", "dark"),
            ("Nachtmodus", "dark"),
            ("highlight", ""),
            ("innocent", ""),
        ):
            self.assertEqual(scheme_named(name), scheme, name)

    def test_each_axis_is_seen_by_itself(self):
        other = replace(axis("x", "y"), key="brand", name="brand")
        built = document(page("#ffffff", b="#101418"), axes=(axis("a", "b"), other))
        made = with_schemes(built)
        schemes = [[mode.color_scheme for mode in one.modes] for one in made.axes]
        self.assertEqual(schemes, [["light", "dark"], ["", ""]])
