"""Edits: what they change, and what they refuse."""

from django.test import SimpleTestCase

from prism.changes import values as edit
from prism.errors import EditError, PrismError
from prism.expressions.typed_input import read_typed
from prism.model.document import Pairing
from prism.model.values import BASE, Condition, Expression
from prism.resolution.resolver import Resolver
from prism.sheet.completion import complete
from tests.builders import document, token

DARK = Condition.of({"appearance": "dark"})


class SetValueTests(SimpleTestCase):
    def setUp(self):
        self.built = document(
            token("ink.1", "#f4f9f9", tier="raw"),
            token("ink.11", "#1d2121", tier="raw"),
            token("gap", "4px", type="dimension", tier="raw"),
            token("text", "{ink.11}"),
            token("title", "{text}"),
        )

    def set(self, key, text, condition=BASE):
        return edit.set_value(self.built, key, condition, Expression(text))

    def test_a_mode_gets_its_own_value_and_the_rest_stays(self):
        changed = self.set("text", "{ink.1}", DARK)
        self.assertEqual(changed.token("text").value(DARK), Expression("{ink.1}"))
        self.assertEqual(changed.token("text").value(BASE), Expression("{ink.11}"))
        self.assertEqual(changed.tokens[:3], self.built.tokens[:3])

    def test_refused_with_a_sentence(self):
        for key, text, sentence in (
            ("text", "{ink.12}", "{ink.12} does not exist. Nearest: {ink.1}, {ink.11}."),
            ("text", "{gap}", "{gap} is a dimension, and a color is needed here."),
            ("text", "#12", "“#12” is not a color."),
            ("text", " ", "The value is empty."),
        ):
            with self.subTest(text), self.assertRaisesMessage(PrismError, sentence):
                self.set(key, text)

    def test_a_circle_is_refused_in_whatever_theme_it_would_be(self):
        with self.assertRaisesMessage(EditError, "Circular reference: text → title → text."):
            self.set("text", "{title}", DARK)

    def test_a_mode_that_is_gone_is_refused(self):
        with self.assertRaisesMessage(EditError, "That mode is no longer there."):
            self.set("text", "#000000", Condition.of({"appearance": "dusk"}))

    def test_clearing_takes_exactly_one_value(self):
        changed = self.set("text", "{ink.1}", DARK)
        self.assertEqual(edit.clear_value(changed, "text", DARK), self.built)
        with self.assertRaisesMessage(EditError, "no value of its own"):
            edit.clear_value(self.built, "text", DARK)


class CellTests(SimpleTestCase):
    def where(self, mode, theme=(0, 0), *values):
        built = document(token("a", *values))
        return edit.cell_condition(Resolver(built), "a", "appearance", mode, theme)

    def test_the_default_column_writes_the_base(self):
        self.assertEqual(self.where("light", (0, 0), "#111111"), BASE)

    def test_the_default_column_writes_to_the_condition_that_is_there(self):
        light = {"appearance": "light"}
        condition = self.where("light", (0, 0), "#111111", (light, "#222222"))
        self.assertEqual(condition, Condition.of(light))

    def test_another_column_writes_to_its_mode(self):
        self.assertEqual(self.where("dark", (1, 0), "#111111"), DARK)

    def test_a_stronger_condition_is_met_so_that_the_cell_shows_what_is_typed(self):
        condition = self.where("dark", (1, 1), "#111111", ({"brand": "osprelle"}, "#222222"))
        self.assertEqual(condition, Condition.of({"appearance": "dark", "brand": "osprelle"}))


class EntryTests(SimpleTestCase):
    def setUp(self):
        self.built = document(
            token("white", "#ffffff", tier="raw"),
            token("ink.1", "#f4f9f9", tier="raw"),
            token("ink.11", "#1d2121", tier="raw"),
            token("text.main", "{ink.11}"),
            token("text.link", "{ink.11}"),
            token("gap", "4px", type="dimension"),
        )
        self.link = self.built.token("text.link")

    def test_a_name_is_a_reference_even_where_a_color_has_it_too(self):
        for text, expected in {
            "ink.1": "{ink.1}",
            "{ink.1}": "{ink.1}",
            "white": "{white}",
            "black": "black",
            "#123456": "#123456",
            "{nothing}": "{nothing}",
        }.items():
            self.assertEqual(read_typed(self.built, text, self.link), Expression(expected))

    def test_completion_puts_the_start_of_a_path_first_and_keeps_to_the_type(self):
        paths = [option.path for option in complete(self.built, "in", self.link)]
        self.assertEqual(paths, ["ink.1", "ink.11", "text.main"])
        self.assertNotIn("gap", [o.path for o in complete(self.built, "", self.link)])


class PairingTests(SimpleTestCase):
    def test_a_pairing_is_added_once_and_made_of_colors(self):
        built = document(
            token("a", "#111111"), token("b", "#eeeeee"), token("g", "1px", type="dimension")
        )
        changed = edit.add_pairing(built, Pairing("p", "a", ("b",)))
        self.assertEqual(changed.pairing("p").backgrounds, ("b",))
        for pairing, sentence in (
            (Pairing("q", "a", ("b",)), "already exists"),
            (Pairing("q", "a", ("g",)), "made of colors"),
            (Pairing("q", "a", ()), "needs a background"),
        ):
            with self.assertRaisesMessage(EditError, sentence):
                edit.add_pairing(changed, pairing)
        self.assertEqual(edit.remove_pairing(changed, "p"), built)
