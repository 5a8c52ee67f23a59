"""No page says “all” over what nobody judged."""

import random
import re
from dataclasses import replace

from django.utils.html import strip_tags

from prism.analysis import Analysis
from prism.contrast.unplaced import unplaced
from prism.model.document import Pairing
from studio.store import projects as store
from tests.builders import APPEARANCE, document, token
from tests.studio.cases import RoomCase

#: Sentences that claim something of everything.
CLAIM = re.compile(
    r"\b(all|every|each|no|none|nothing)\b[^.;:]{0,60}\b(pass|passes|falls? short|enough contrast|reaches)\b",
    re.I,
)
NAMES = ("zorp", "quib.x", "vlak", "tekst", "a1", "hue-deep")
KNOWN = ("text.main", "surface.page", "action.fill", "action.label", "line")


class NeverAllTests(RoomCase):
    def documents(self):
        for seed in range(12):
            rng = random.Random(seed)
            names = rng.sample(KNOWN, rng.randrange(2, 6)) + rng.sample(NAMES, rng.randrange(1, 4))
            colors = [
                token(name, rng.choice(("#000000", "#ffffff", "#f5f5f5", "#111111")))
                for name in names
            ]
            built = document(*colors, axes=(APPEARANCE,))
            if seed % 2:
                built = replace(built, pairings=(Pairing("p", colors[0].key, (colors[1].key,)),))
            yield seed, built

    def words(self, name, query):
        page = self.client.get(self.url(name), query, headers={"X-Region": "room"})
        self.assertEqual(page.status_code, 200)
        text = page.content.decode().split('<main class="room"')[1]
        return " ".join(
            strip_tags(re.sub(r"<template.*?</template>", "", text, flags=re.S)).split()
        )

    def test_wherever_a_color_has_no_known_place_it_is_said(self):
        axis, mode = APPEARANCE.key, APPEARANCE.modes[0].key
        proposal = {
            "axis": axis,
            "source": mode,
            "name": "Night",
            "scheme": "dark",
            "intent": "counterpart",
        }
        seen = 0
        for seed, built in self.documents():
            self.make(built)
            analysis = store.load(self.project).analysis
            count = len(Analysis(analysis.document).once(unplaced))
            for name, query in (
                ("checks:room", {}),
                ("checks:fix-all", {}),
                ("axes:propose", proposal),
            ):
                with self.subTest(seed=seed, name=name):
                    words = self.words(name, query)
                    claims = [match[0] for match in CLAIM.finditer(words)]
                    if count and claims and analysis.paired.pairings:
                        seen += 1
                        self.assertRegex(
                            words, r"in no known pairing|In no pairing|not judged", claims
                        )
        self.assertGreater(seen, 5)
