"""Whatever happens to the connection while one types, the text is stored or still in its field."""

import os

from django.apps import apps
from django.contrib.sessions.models import Session

from bench.cut import trials
from demo import quillhaven
from tests.browser.test_tokens import TokensCase
from tests.browser.test_typing import strange

#: Trials of both walks together; NIMBLE_PRISM_TRIALS asks for more, as ./dev long does.
TRIALS = int(os.environ.get("NIMBLE_PRISM_TRIALS", "12"))
#: Other trials than usual, by number.
CHANCE = int(os.environ.get("NIMBLE_PRISM_CHANCE", "0"))


def in_database(text):
    """Whether any row but those of sessions holds a text."""
    models = [model for model in apps.get_models() if model is not Session]
    return any(text in repr(list(model.objects.values_list())).lower() for model in models)


class CutTests(TokensCase):
    def check(self, built, count, seed):
        self.start(built)
        code, token = self.project.code, built.tokens[0].key
        mode = built.axes[0].modes[0].key
        self.page.close()

        def places():
            return {"code": code, "token": token, "mode": mode}

        aloud = print if "NIMBLE_PRISM_TRIALS" in os.environ else lambda trial: None
        done = trials(self.context, self.live_server_url, places, in_database, count, seed, aloud)
        outcomes = {"stored", "in its field", "in its field again"}
        wrong = [f"{one.outcome}: {one.told}" for one in done if one.outcome not in outcomes]
        self.problems.clear()  # a line that is cut says so in the console
        if os.environ.get("NIMBLE_PRISM_TRIALS"):
            counts = {name: sum(one.outcome == name for one in done) for name in outcomes}
            print(counts, len(done), flush=True)
        self.assertEqual(wrong, [], f"{len(wrong)} of {len(done)}")

    def test_the_demo(self):
        self.check(quillhaven.document(), TRIALS // 2, 2 * CHANCE + 1)

    def test_a_project_of_other_names(self):
        self.check(strange(), TRIALS // 2, 2 * CHANCE + 2)
