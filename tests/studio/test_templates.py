"""What must hold of every template: labels come from forms, lines stay readable."""

from __future__ import annotations

import re
from pathlib import Path
from types import SimpleNamespace

from django.conf import settings
from django.test import SimpleTestCase

from studio.ui.templatetags import commands, prism
from studio.ui.templatetags.prism import label

_STUDIO = Path(settings.BASE_DIR) / "studio"
_LABEL = re.compile(r"<label\b[^>]*>(.*?)</label>", re.DOTALL)
#: A form that runs a command.
_COMMAND_FORM = re.compile(r'<form\b(?:(?!</form>).)*?\{% command "(?:(?!</form>).)*?</form>', re.S)
_TAG = re.compile(r"\{%.*?%\}|\{\{.*?\}\}|<[^>]*>", re.DOTALL)
#: A tag of the template language cannot be broken, so lines are counted without them.
_UNBROKEN = re.compile(r"\{%.*?%\}|\{\{.*?\}\}")
_LONGEST = 120


def _templates() -> list[Path]:
    return sorted(
        path for path in _STUDIO.rglob("*.html") if not {"scenes", "pieces"} & {*path.parts}
    )


class TemplateTests(SimpleTestCase):
    def test_what_a_command_asks_for_is_called_as_the_command_says(self):
        """A label in a form of a command holds no words of its own, but a remark after what the command says."""
        own = {}
        for path in _templates():
            forms = "".join(_COMMAND_FORM.findall(path.read_text()))
            for words in _LABEL.findall(forms):
                from_form = re.search(r"\{% label|\{\{", words)
                if not from_form or re.match(r"\s*\w", _TAG.sub("\0", words)):
                    own.setdefault(path.name, []).append(words.strip())
        self.assertEqual(own, {})

    def test_every_label_is_there(self):
        for path in _templates():
            for place in re.findall(r'\{% label "([^"]+)" %\}', path.read_text()):
                with self.subTest(place=place):
                    self.assertTrue(label(place))

    def test_lines_can_be_read(self):
        long = [
            f"{path.name}:{number}"
            for path in _templates()
            for number, line in enumerate(path.read_text().splitlines(), 1)
            if len(_UNBROKEN.sub("", line)) > _LONGEST
        ]
        self.assertEqual(long, [])


class TagTests(SimpleTestCase):
    def test_hints_show_as_code_what_stands_between_marks(self):
        hint = str(prism.hint("color"))
        self.assertTrue(hint.startswith("A color") or "<code>" in hint)
        plain, code = hint.split("<code>")[0], hint.split("<code>")[1]
        self.assertNotIn("#", plain)
        self.assertRegex(code, r"^[#a-z]")

    def test_a_color_function_is_shown_without_its_name(self):
        self.assertEqual(prism.short("oklch(0.5 0.1 30)"), "0.5 0.1 30")
        self.assertEqual(prism.short("#123456"), "#123456")

    def test_a_field_without_a_value_is_sent_empty(self):
        frame = SimpleNamespace(state={}, loaded=SimpleNamespace(revision=3))
        made = commands._form({"frame": frame}, "x", {"a": None, "b": "c"})
        self.assertEqual(made["fields"], {"a": "", "b": "c"})
