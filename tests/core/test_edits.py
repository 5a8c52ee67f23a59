"""Every command: written down and read again, the same result anywhere, a sentence in the past."""

import dataclasses
import json
import random

from django.test import SimpleTestCase

from demo import quillhaven
from prism import edits
from prism.commands.command import label_of
from prism.commands.project import RenameProject
from prism.contrast.pairing_commands import RemovePairing, RequireOfPairing
from prism.errors import EditError, PrismError
from prism.exchange.commands import ImportDocument
from prism.expressions import typed_input
from prism.expressions.values import encode
from prism.measures.commands import AddMeasure
from prism.model.values import Expression, Listing
from prism.model.whole import flaws
from prism.modes.commands import RenameAxis, RenameMode
from prism.sheet.token_commands import DescribeToken, MarkTokens, RenameGroup, RenameToken
from tests.builders import document, token
from tests.command_samples import SAMPLES, before


class CommandTests(SimpleTestCase):
    def test_every_command_has_a_sample_here(self):
        self.assertEqual({command.id for command, _ in SAMPLES}, set(edits.COMMANDS))

    def test_each_is_written_read_again_and_repeated_with_the_same_result(self):
        for command, sentence in SAMPLES:
            built = before(command)
            if isinstance(command, RemovePairing | RequireOfPairing):
                command = dataclasses.replace(command, pairing=built.pairings[0].key)
            with self.subTest(command.id):
                again = edits.read(edits.written(command))
                if not isinstance(command, ImportDocument):  # its document is not written down
                    self.assertEqual(again, command)
                    self.assertEqual(again.apply(built), command.apply(built))
                self.assertNotEqual(command.apply(built), built)
                self.assertTrue(
                    command.sentence(built).startswith(sentence), command.sentence(built)
                )
                with self.assertRaises(dataclasses.FrozenInstanceError):
                    setattr(command, dataclasses.fields(command)[0].name, "other")

    def test_what_is_no_command_is_refused(self):
        plain = json.loads(edits.written(RenameProject("a")))
        for text in (
            json.dumps(plain | {"id": "fly"}),
            json.dumps(plain | {"version": 99}),
            json.dumps(plain | {"fields": {}}),
            json.dumps(plain | {"fields": {"name": 4}}),
            json.dumps(plain | {"fields": []}),
            "[]",
            "{",
        ):
            with self.subTest(text), self.assertRaises(EditError):
                edits.read(text)

    def test_wrong_values_in_every_field_get_a_sentence(self):
        built = quillhaven.document()
        wrong = ("", "x", "²", "\0", "a" * 700, "{", 5, -1, 1e9, None, True, [], [["a"]], {"a": 1})
        useful = ("text.main", "spruce", "appearance", "dark", "spruce.3", "ink", ["text.main"])
        for name, cls in edits.COMMANDS.items():
            fields = [field.name for field in dataclasses.fields(cls)]
            for seed in range(60):
                rng = random.Random(f"{name} {seed}")
                values = {field: rng.choice((*wrong, *useful)) for field in fields}
                try:
                    command = edits.from_fields(name, values)
                    self.assertTrue(command.run(built).sentence)
                except PrismError as error:
                    self.assertTrue(str(error))
                except Exception as error:
                    self.fail(f"{name} {values}: {error!r}")


class LabelTests(SimpleTestCase):
    """What forms call the fields of commands."""

    def test_a_field_that_a_person_fills_in_has_its_label(self):
        self.assertEqual(label_of("rename-group", "path"), "Rename to")
        for command, name in (("rename-group", "nothing"), ("nothing", "path")):
            with self.subTest(command=command, name=name), self.assertRaises(KeyError):
                label_of(command, name)


class NameTests(SimpleTestCase):
    """Names that every command refuses."""

    def setUp(self):
        self.document = quillhaven.document()
        self.axis = self.document.axes[0]
        self.token = self.document.tokens[0]

    def commands(self, name):
        yield RenameAxis(self.axis.key, name)
        yield RenameMode(self.axis.key, self.axis.modes[0].key, name)
        yield RenameToken(self.token.key, name)
        yield RenameGroup(self.token.path.split(".")[0], name)

    def refused(self, one):
        try:
            after = one.outcome(self.document).document
        except PrismError:
            return True
        return bool(flaws(after))

    def test_without_any_sign_or_too_long(self):
        for name in ("", "   ", "x" * 5_000):
            for one in self.commands(name):
                self.assertTrue(self.refused(one), (one, name[:10]))

    def test_names_of_200_characters_are_the_longest(self):
        for length, wanted in ((200, False), (201, True)):
            for one in (*self.commands("x" * length),)[:2]:
                self.assertEqual(self.refused(one), wanted, (type(one), length))

    def test_paths_have_no_braces_no_empty_segment_and_no_leading_dollar(self):
        for path in ("{", "a}", ".", "a..b", ".a", "a.", "$a", "a.$b"):
            for one in (*self.commands(path),)[2:]:
                self.assertTrue(self.refused(one), (one, path))
        for path in ("a b", "-x", "\u96ea", "a.$root"):
            self.assertFalse(self.refused(RenameToken(self.token.key, path)), path)


class WordsOfCommandsTests(SimpleTestCase):
    def test_a_measure_comes_behind_the_other_measures(self):
        raw = (
            token("gap.1", "4px", type="dimension", tier="raw"),
            token("late", "#111", tier="raw"),
        )
        built = AddMeasure("k", "gap.2", "dimension", "8px").apply(document(*raw, axes=()))
        self.assertEqual([one.path for one in built.tokens], ["gap.1", "gap.2", "late"])
        only = AddMeasure("k", "gap.2", "dimension", "8px").apply(
            document(raw[1], token("s", "#222"), axes=())
        )
        self.assertEqual([one.path for one in only.tokens], ["late", "gap.2", "s"])

    def test_what_a_description_does_not_say_stays_at_its_default(self):
        built = document(token("a", "#111111"), axes=())
        told = DescribeToken("a", "a", "words").apply(built).token("a")
        self.assertEqual((told.private, told.description, told.deprecated), (False, "words", None))

    def test_sentences_of_roles(self):
        built = document(token("a", "#111111"), axes=())
        said = [MarkTokens(("a",), role=role).sentence(built) for role in (" text ", "")]
        self.assertEqual(
            said,
            ["Set the role of 1 token to text", "Set the role of 1 token to what is guessed"],
        )

    def test_written_commands_and_values_keep_their_letters(self):
        self.assertIn("Größe", edits.written(RenameProject("Größe")))
        self.assertIn("Größe", encode(Listing((Expression("Größe"),))))

    def test_what_looks_like_parts_and_is_none_is_kept_as_text(self):
        built = document(token("a", "#111111"), axes=())
        for text in ("[1, 2", '{"a" 1}', "[]]"):
            self.assertEqual(typed_input.read_typed(built, text, built.tokens[0]).text, text)
