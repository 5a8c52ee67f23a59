"""What an import in place of a document says it replaces."""

from dataclasses import replace

from django.test import SimpleTestCase

from prism.exchange.replacement import replacing
from prism.formats import resolver, resolver_writer
from prism.model.document import Pairing, Ramp, SavedTheme, Scene, Word
from tests.builders import axis, counter_keys, document, token


def built():
    return document(
        token("ink.1", "#111111", tier="raw"),
        token("text", "{ink.1}", ({"look": "night"}, "#eeeeee"), role="text"),
        token("page", "#ffffff", description="Under everything"),
        axes=(axis("look", "light", "night"),),
        pairings=(Pairing("p", "text", ("page",)),),
        ramps=(Ramp("r", "ink", ("ink.1",)),),
        scenes=(Scene("s", "Board", bindings=(("page", "page"),)),),
        themes=(SavedTheme("t", "Night", (("look", "night"),)),),
    )


def again(before):
    """The same document, written to files and read with keys of its own."""
    files = resolver_writer.write(before).files
    return resolver.read({n: t.encode() for n, t in files.items()}, counter_keys("other"))


class ReplacingTests(SimpleTestCase):
    def test_the_same_document_from_files_replaces_nothing(self):
        found = replacing(built(), again(built()))
        self.assertEqual((found.new, found.gone, found.changed, found.besides), ((), (), (), ()))
        self.assertEqual(found.same, 4)

    def test_parts_are_told_one_by_one_and_not_by_how_many_there_are(self):
        before = replace(built(), words=(Word("kachel", "surface"),))
        after = replace(
            before,
            pairings=(Pairing("q", "page", ("text",)),),
            words=(Word("tegel", "surface"),),
            scenes=(Scene("s", "Board", bindings=(("page", "text"),)),),
        )
        besides = dict(replacing(before, after).besides)
        expected = {"pairing": 1, "word of this project": 1, "slot that is bound": 1}
        self.assertEqual(besides, expected)

    def test_values_are_compared_by_the_names_of_their_modes(self):
        after = replace(built(), axes=(axis("look", "light", "dusk"),))
        tokens = (*after.tokens[:1], token("text", "{ink.1}", ({"look": "dusk"}, "#eeeeee")))
        found = replacing(built(), replace(after, tokens=tokens, pairings=(), scenes=(), themes=()))
        self.assertEqual(found.gone, ("page",))
        changed = [(one.where, one.before, one.after) for one in found.changed]
        self.assertEqual(changed, [("look dusk", "", "#eeeeee"), ("look night", "#eeeeee", "")])
        self.assertEqual(
            dict(found.besides),
            {"answered role": 1, "description": 1, "mode": 1, "pairing": 1, "saved theme": 1, "slot that is bound": 1},
        )  # fmt: skip
