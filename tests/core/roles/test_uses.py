"""What style sheets use their colors for."""

from django.test import SimpleTestCase

from prism.analysis import Analysis
from prism.formats import style_sheets
from prism.formats.style_sheets.uses import uses
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
        found = uses(self.SHEET)
        self.assertEqual(found["--muted"], ("text", "line"))
        self.assertEqual(found["--murk"], ("background",))
        self.assertEqual(found["--strong"], ("background", "focus"))
        self.assertEqual((found["--quiet"], found["--pale"]), (("line",), ("icon",)))
        self.assertNotIn("--soft", found)

    def test_roles_of_names_that_say_nothing(self):
        read = style_sheets.read(self.SHEET.encode(), "a.css", counter_keys()).document
        roles = {token.path: Analysis(read).roles.get(token.key) for token in read.tokens}
        self.assertEqual(str(roles["muted"].role), "text quiet")
        self.assertEqual(str(roles["murk"].role), "unknown")
        self.assertEqual(str(roles["quiet"].role), "line soft")
        self.assertEqual(str(roles["strong"].role), "surface")
        self.assertEqual(roles["quiet"].why, "it is used as a line")
        self.assertFalse(any(known.is_sure for known in roles.values() if known))

    def test_a_long_line_takes_no_longer_than_its_length(self):
        found = uses("a:" * 40_000 + "var(--x);" + "color:var(--y" * 20_000)
        self.assertEqual(found["--y"], ("text",))
