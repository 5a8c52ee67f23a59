"""Roles and pairings by what a style sheet does with its colors, whatever they are called."""

import re
from collections import Counter
from dataclasses import replace

from django.test import SimpleTestCase

from prism.analysis import Analysis
from prism.contrast.pairing_commands import RemovePairing
from prism.formats import style_sheets
from prism.formats.style_sheets.rule_uses import subject
from prism.resolution.resolver import Resolver
from prism.roles import uses
from prism.roles.guess import guess
from tests import by_turns, roles
from tests.builders import counter_keys

PAGE = "body { background: var(--x2); color: var(--x1) }"
COLORS = """:root { --x1: #1a1a1a; --x2: #ffffff; --x3: #0b5d66; --x4: #f2f4f5; --x5: #084b52;
  --x6: #9aa3a8; --x7: #c4cacd; --x8: #0000001f }"""


def read(text):
    return style_sheets.read(f"{COLORS} {PAGE} {text}".encode(), "a.css", counter_keys()).document


def guessed(text):
    """The guess for each name."""
    document = read(text)
    known = guess(document, Resolver(document))
    return {
        token.path: str(known[token.key].role) for token in document.tokens if token.key in known
    }


def numbered(name):
    """A package's style sheet with each property called by a number, and what each was called before."""
    text = (roles.MODULES / roles.SHEETS[name]).read_text()
    numbers: dict[str, str] = {}
    renamed = re.sub(
        r"(?<![\w-])--[\w-]+", lambda m: numbers.setdefault(m[0], f"--x{len(numbers)}"), text
    )
    document = style_sheets.read(renamed.encode(), "a.css", counter_keys()).document
    return document, {new[2:]: old[2:] for old, new in numbers.items()}


class UseTests(SimpleTestCase):
    def test_what_a_selector_names(self):
        """Tags, attributes and pseudo-classes: HTML, Selectors 4. Words of classes: common practice, no source."""
        for selector, element, state in (
            ("body", "page", ""),
            (":where(:root)", "page", ""),
            ("a:hover", "link", "hover"),
            ("nav ul > a:not(:disabled):focus-visible", "link", "focus"),
            ("button", "button", ""),
            (".btn-primary:active", "button", "pressed"),
            ("input[type='submit']", "button", ""),
            ("input[type=checkbox]:checked", "switch", "selected"),
            ("textarea::placeholder", "placeholder", ""),
            ("select:disabled", "field", "disabled"),
            (".alert-danger", "error", ""),
            ("form :is(input, select)", "field", ""),
            ("p.x1", "", ""),
            ("a" * 5000, "", ""),
        ):
            with self.subTest(selector[:40]):
                found = subject(selector)
                self.assertEqual((found.element, found.state), (element, state))

    def test_words_of_a_use_are_read_back(self):
        for part in uses.PARTS:
            for element in ("", *uses.ELEMENTS):
                for state in ("", *uses.STATES):
                    use = uses.Use(part, element, state)
                    self.assertEqual(uses.read([str(use)]), [use])
        self.assertEqual(uses.read(["headlines", "text of nothing", "", "background of a"]), [])

    def test_what_a_component_sets_from_a_color_hands_its_uses_on(self):
        text = (
            ".btn { --of: var(--x3) } .btn { background: var(--of) } .btn:hover { --of: var(--x5) }"
        )
        document = read(text)
        known = {token.path: uses.read(token.uses) for token in document.tokens}
        self.assertIn(uses.Use("background", "button"), known["x3"])
        self.assertIn(uses.Use("background", "button", "hover"), known["x5"])

    def test_what_the_page_sets_from_a_color_is_that_token_and_hands_nothing_on(self):
        document = read(":root { --x9: var(--x4) } .card { background: var(--x9) }")
        known = {token.path: uses.read(token.uses) for token in document.tokens}
        self.assertIn(uses.Use("background", "card"), known["x9"])
        self.assertEqual(known["x4"], [])


class RoleTests(SimpleTestCase):
    def test_parts_elements_and_states(self):
        found = guessed(
            """a { color: var(--x3) } a:hover { color: var(--x5) }
            .card { background: var(--x4); border: 1px solid var(--x7) }
            input::placeholder { color: var(--x6) }
            tr:hover { background: var(--x8) }"""
        )
        self.assertEqual(
            found,
            {
                "x1": "text",
                "x2": "page",
                "x3": "text link",
                "x4": "surface",
                "x5": "text link hover",
                "x6": "text hint",
                "x7": "line soft",
                "x8": "overlay hover",
            },
        )

    def test_a_button_its_hover_and_its_label(self):
        found = guessed(
            """button { background: var(--x3); color: var(--x4) }
            button:hover { background: var(--x5) } :focus-visible { outline: 2px solid var(--x7) }
            input { border-color: var(--x6) }"""
        )
        wanted = {
            "x3": "fill action",
            "x4": "label",
            "x5": "fill action hover",
            "x6": "line control",
        }
        self.assertEqual({path: found[path] for path in wanted}, wanted)
        self.assertEqual(found["x7"], "focus")

    def test_roles_follow_what_is_said_to_stand_on_what(self):
        document = read("button { background: var(--x3); color: var(--x4) }")
        before = Analysis(document)
        label = document.token_at("x4").key
        self.assertEqual(str(before.roles[label].role), "label")
        (shown,) = [p for p in document.pairings if p.foreground == label]
        after = RemovePairing(shown.key).apply(document)
        now = Analysis(after, before)
        self.assertEqual(now.roles, guess(after, Resolver(after)))
        self.assertNotEqual(str(now.roles[label].role), "label")

    def test_what_does_several_things_is_not_sure(self):
        document = read("a { color: var(--x3) } button { background: var(--x3) }")
        known = guess(document, Resolver(document))
        (one,) = [known[token.key] for token in document.tokens if token.path == "x3"]
        self.assertFalse(one.is_sure)

    def test_what_a_person_says_counts_more(self):
        document = read("a { color: var(--x3) }")
        said = replace(
            document,
            tokens=tuple(
                replace(token, role="fill accent") if token.path == "x3" else token
                for token in document.tokens
            ),
        )
        known = guess(said, Resolver(said))
        self.assertEqual(str(known[said.token_at("x3").key].role), "fill accent")

    def test_public_sheets_by_use_alone(self):
        """Keys written by hand before; only colors that their sheets use, and no statuses: no rule says a status. The
        kind is what pairings go by: a text, a ground to lie under it, a line or the focus."""
        side = {
            "page": "ground",
            "surface": "ground",
            "fill": "ground",
            "label": "text",
            "icon": "text",
        }
        counted: Counter[str] = Counter()
        for name in by_turns(list(roles.SHEETS), 2):
            keyed = roles.read(name)
            document, names = numbered(name)
            known = guess(document, Resolver(document))
            for token in document.tokens:
                wanted = keyed.roles.get(names.get(token.path, ""))
                if not wanted or wanted.startswith(("status", "other")) or not token.uses:
                    continue
                found = known.get(token.key)
                counted["used"] += 1
                if found is None or found.role.kind == "unknown":
                    continue
                kind, told = wanted.split()[0], found.role.kind
                counted["told"] += 1
                counted["role"] += str(found.role) == wanted
                same = side.get(kind, kind) == side.get(told, told)
                counted["side"] += same
                counted["sure"] += found.is_sure
                counted["sure and on another side"] += found.is_sure and not same
        self.assertGreater(counted["used"], 90)
        self.assertGreaterEqual(counted["told"], 0.85 * counted["used"], counted)
        self.assertGreaterEqual(counted["side"], 0.85 * counted["told"], counted)
        self.assertGreaterEqual(counted["role"], 0.6 * counted["told"], counted)
        self.assertEqual(counted["sure and on another side"], 0, counted)

    def test_pairings_of_numbered_sheets_are_made_by_these_roles(self):
        for name in ("package-water", "package-bamboo", "package-pico", "package-bootstrap"):
            document, _ = numbered(name)
            analysis = Analysis(document)
            kinds = Counter(known.role.kind for known in analysis.roles.values())
            self.assertEqual(kinds["page"], 1, name)
            self.assertGreater(kinds["text"], 1, name)
