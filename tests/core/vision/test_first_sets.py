"""Sets to tell apart in a document that has just come."""

from dataclasses import replace

from django.test import SimpleTestCase

from prism.analysis import Analysis
from prism.checks import run
from prism.model.document import TellingApart
from prism.vision.first_sets import with_sets
from tests.builders import counter_keys, document, token

BUILT = document(
    token("page", "#ffffff"),
    token("button.fill", "#c4314b"),
    token("text.success", "#1c6b3c"),
    token("text.error", "#c23048"),
    token("text.warning", "#8a5300"),
)


class FirstSetTests(SimpleTestCase):
    def test_statuses_and_actions_beside_errors(self):
        built = with_sets(BUILT, counter_keys())
        self.assertEqual(
            [(one.name, one.tokens) for one in built.telling_apart],
            [
                ("Status texts", ("text.success", "text.error", "text.warning")),
                ("Actions and errors", ("button.fill", "text.error")),
            ],
        )

    def test_an_action_as_red_as_an_error_is_told(self):
        built = with_sets(BUILT, counter_keys())
        found = [one for one in run(Analysis(built)) if one.check == "vision"]
        pairs = {frozenset((one.token, *one.others)) for one in found}
        self.assertIn(frozenset(("button.fill", "text.error")), pairs)

    def test_what_has_sets_keeps_them_and_what_has_nothing_to_tell_apart_gets_none(self):
        kept = replace(BUILT, telling_apart=(TellingApart("t", "Mine", ("page", "text.error")),))
        self.assertIs(with_sets(kept, counter_keys()), kept)
        plain = document(token("page", "#ffffff"), token("text", "#111111"))
        self.assertIs(with_sets(plain, counter_keys()), plain)
