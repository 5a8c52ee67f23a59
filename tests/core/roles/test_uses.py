"""What style sheets use their colors for."""

from unittest import mock

from django.test import SimpleTestCase

from prism.analysis import Analysis
from prism.formats import style_sheets
from prism.formats.style_sheets import cascade
from tests.builders import counter_keys


class UseTests(SimpleTestCase):
    """Where a sheet uses its properties tells what they are for, where their names do not."""

    SHEET = """
      :root { --muted: #888888; --murk: #eeeeee; --quiet: #cccccc; --pale: #fff; --soft: 4px; --strong: red }
      /* p { border: 1px solid var(--muted) } */
      p { color: var(--muted); COLOR : var( --muted, red ) } a { color: var(--muted) }
      hr { border-block-start: 1px solid var(--muted) }
      nav { background: linear-gradient(var(--murk), var(--strong)) } td { border-left-color: var(--quiet) }
      svg { fill: var(--pale); stroke-width: var(--soft) } b { padding: var(--soft); outline: var(--strong) }
      i { --other: var(--murk) }
    """

    def test_parts_that_properties_color(self):
        sheet = cascade.read(self.SHEET, "a.css", {}, {})
        found = sheet.rule_uses.parts
        self.assertEqual(found("--muted"), ("text", "line"))
        self.assertEqual(found("--murk"), ("background",))
        self.assertEqual(found("--strong"), ("background", "focus"))
        self.assertEqual((found("--quiet"), found("--pale")), (("line",), ("icon",)))
        self.assertEqual(found("--soft"), ())

    def test_parts_count_wherever_a_rule_stands_and_elements_where_it_holds(self):
        read = style_sheets.read(
            b""":root { --a: #111111 } @media print { a { color: var(--a) } }
            td { @media (min-width: 9px) { background: var(--a) } }""",
            "a.css",
            counter_keys(),
        ).document
        self.assertEqual(read.tokens[0].uses, ("text", "background"))

    def test_roles_of_names_that_say_nothing(self):
        read = style_sheets.read(self.SHEET.encode(), "a.css", counter_keys()).document
        roles = {token.path: Analysis(read).roles.get(token.key) for token in read.tokens}
        self.assertEqual(str(roles["muted"].role), "text quiet")
        self.assertEqual(str(roles["murk"].role), "unknown")
        self.assertEqual(str(roles["quiet"].role), "line soft")
        self.assertEqual(str(roles["strong"].role), "surface")
        self.assertEqual(roles["quiet"].why, "it is used as a line")
        self.assertFalse(any(known.is_sure for known in roles.values() if known))

    def test_a_property_that_all_others_are_set_from_and_set_is_followed_only_so_far(self):
        """Each of many colors sets one property, which sets as many again: it would take their product of steps."""
        many = 3_000
        rows = "".join(f"--p{n}: #111111;" for n in range(many))
        sets = " ".join(f"var(--p{n})" for n in range(many))
        others = "".join(f"--q{n}: var(--hub);" for n in range(many))
        text = (
            f":root {{ {rows} }} .x {{ --hub: {sets} }} .x {{ {others} }} .x {{ color: var(--q1) }}"
        )
        uses = cascade.read(text, "a.css", {}, {}).rule_uses
        seen = mock.Mock(wraps=uses._handed)
        with mock.patch.object(uses, "_handed", seen):
            uses.of("--p7", ())
        self.assertLess(seen.get.call_count, 300)
