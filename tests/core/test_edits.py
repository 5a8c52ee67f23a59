"""Every command: written down and read again, the same result anywhere, a sentence in the past."""

import dataclasses
import json
import random

from django.test import SimpleTestCase

from demo import quillhaven
from prism import edits
from prism.edits.adding import (
    AddPasted,
    AddToken,
    DeleteGroup,
    DuplicateGroup,
    DuplicateTokens,
    MoveGroup,
)
from prism.edits.axes import (
    AddAxis,
    AddBrand,
    AddMode,
    AddProposedMode,
    ChangeDefault,
    DeriveMode,
    FollowPreference,
    MoveAxis,
    MoveMode,
    RemoveAxis,
    RemoveMode,
    RenameAxis,
    RenameMode,
    SetColorScheme,
    SetDirection,
)
from prism.edits.balance import MakeAllEven, MakeEven
from prism.edits.cells import (
    Cells,
    ClearCells,
    ClearValue,
    CopyMode,
    FillCells,
    MapCells,
    MirrorCells,
    Paste,
    SetCells,
    SetOnStep,
    SetOpacity,
    SetValue,
    SetValueInColumn,
    ShiftCells,
)
from prism.edits.findings import (
    MoveApart,
    MuteFinding,
    RemoveSet,
    SplitByUse,
    TellApart,
    TellApartByRole,
    UnmuteFinding,
    WaivePairing,
)
from prism.edits.imports import ImportColors, ImportDocument, TakeIdea, UsePictureColors
from prism.edits.measures import AddMeasure, AddScale
from prism.edits.naming import AddNames, StoreScheme
from prism.edits.pairings import AddPairing, FixAll, FixPairing, RemovePairing, RequireOfPairing
from prism.edits.palette import (
    AddAllMissing,
    AddMissing,
    AddOverlays,
    AddPurpose,
    AddRamp,
    AssignPurpose,
    InsertStep,
    MakeRamp,
    MovePurpose,
    MoveRamp,
    MoveStep,
    ReleaseStep,
    RemovePurpose,
    RemoveStep,
    RenamePurpose,
    RenameRamp,
    RenameStep,
    RenameSteps,
    RetuneRamp,
    SetColor,
)
from prism.edits.project import Batch, RenameProject
from prism.edits.rules import (
    AddWord,
    PairByPattern,
    PairByRule,
    RemoveRule,
    RemoveWord,
    RequireByRule,
)
from prism.edits.scenes import BindSlot, MakeScene, RemoveScene, SetPieces
from prism.edits.tokens import (
    DeleteTokens,
    DescribeToken,
    LinkLiterals,
    MarkTokens,
    MoveToGroup,
    RemoveToken,
    RenameGroup,
    RenameToken,
    ReorderTokens,
    ReplaceInNames,
    SetGroupTier,
)
from prism.errors import EditError, PrismError
from prism.model.values import Condition, Expression
from prism.model.whole import flaws
from prism.palette import measures
from tests.builders import document, token

DARK = Condition.of({"appearance": "dark"})
TWO = Cells(("text.main", "text.muted"), "appearance", ("dark",))
RECIPE = (("seed", "#556b2f"), ("count", "7"))
#: A command of each kind that changes the demo, with the start of its sentence.
SAMPLES = (
    (SetValue("text.main", "ink.9", DARK), "Set text.main to {ink.9} for appearance dark"),
    (
        SetValueInColumn("text.main", "ink.9", "appearance", (("appearance", "dark"),)),
        "Set text.main to {ink.9}",
    ),
    (BindSlot("k", "ink", "text.muted"), "Bound slot ink to text.muted"),
    (MakeScene("k", "Counter", ("bar", "table")), "Made scene Counter"),
    (SetPieces("k", ("table", "chart")), "Changed the pieces of scene Counter"),
    (RemoveScene("k"), "Removed scene Counter"),
    (ClearValue("text.main", DARK), "Cleared text.main for appearance dark"),
    (SetOnStep(TWO, "ink.3"), "Set text.main to ink.3"),
    (ShiftCells(TWO, 1), "Shifted 2 tokens towards the last step"),
    (MirrorCells(TWO), "Mirrored 2 tokens"),
    (MapCells(TWO, "coral"), "Mapped 2 tokens to coral"),
    (SetCells(TWO, "lamp.3"), "Set 2 tokens to lamp.3"),
    (FillCells(TWO, along=True), "Filled 2 tokens along the ramp"),
    (ClearCells(TWO), "Cleared 2 tokens"),
    (SetOpacity(TWO, 50), "Set the opacity of 2 tokens to 50 %"),
    (CopyMode(TWO, "light", "dark"), "Copied appearance light to dark for 2 tokens"),
    (Paste(TWO, "ink.2\nink.3"), "Pasted into 2 tokens"),
    (DescribeToken("text.main", "text.main", "Read", deprecated=""), "Described text.main"),
    (RenameToken("text.main", "text.first"), "Renamed text.main to text.first"),
    (RemoveToken("white", "ink.1"), "Removed white"),
    (ReplaceInNames(("text.main",), "main", "first"), "Replaced “main” in the names of 1 token"),
    (MoveToGroup(("text.main",), "words"), "Moved 1 token into words"),
    (ReorderTokens(("text.main",), "text.link"), "Moved 1 token in the order"),
    (DeleteTokens(("ticket.place",)), "Deleted 1 token"),
    (MarkTokens(("text.main",), tier="component"), "Made 1 token component"),
    (SetGroupTier(("ticket",), "semantic"), "Made ticket semantic"),
    (RenameGroup("accent", "own.accent"), "Renamed group accent to own.accent"),
    (LinkLiterals((0,)), "Linked 1 literal to the palette"),
    (AddToken("k", "text.new", "ink.5", ((DARK, "ink.4"),)), "Added text.new"),
    (AddPasted("k", "--text-new: #123456; --text-main: #000"), "Added 1 pasted token"),
    (DuplicateTokens("k", ("text.main",)), "Duplicated text.main"),
    (DuplicateGroup("k", "text", "words"), "Duplicated group text as words"),
    (DeleteGroup("ticket"), "Deleted group ticket with"),
    (MoveGroup("text", 1), "Moved group text down"),
    (FixPairing("signal.go/signal.surface.go"), "Fixed contrast: set signal.go to go.8"),
    (AddAllMissing("k"), "Added what was missing"),
    (AddBrand("k", "Moor", (("moor", "#8a2f6b"),)), "Added brand Moor"),
    (AddAxis("k", "season", "summer, winter"), "Added axis season"),
    (RenameAxis("brand", "carrier"), "Renamed axis brand to carrier"),
    (MoveAxis("brand", -1), "Moved axis brand up"),
    (RemoveAxis("brand", "vexley"), "Removed axis brand, kept Vexley"),
    (AddMode("k", "appearance", "noon", source="dark"), "Added mode noon to appearance"),
    (RenameMode("appearance", "dim", "cabin"), "Renamed mode dim of appearance to cabin"),
    (MoveMode("appearance", "dim", -1), "Moved mode dim of appearance"),
    (ChangeDefault("appearance", "dark"), "Made dark the default of appearance"),
    (SetColorScheme("brand", "vexley", "dark"), "Set the color scheme of Vexley to dark"),
    (SetDirection("language", "portuguese", "rtl"), "Let Português read from right to left"),
    (
        FollowPreference("density", "compact", "prefers-contrast: more"),
        "Set the system preference of density to",
    ),
    (RemoveMode("appearance", "dim"), "Removed mode dim of appearance"),
    (DeriveMode("k", "appearance", "light", "night", "dark"), "Made mode night from light"),
    (
        AddProposedMode(
            "k",
            "appearance",
            "light",
            "night",
            "dark",
            (("text.main", Condition.of({"appearance": "k"}), Expression("{ink.1}")),),
        ),
        "Made mode night from light with 1 proposed value",
    ),
    (
        FixAll((("signal.go", Condition(), Expression("{go.8}")),)),
        "Fixed contrast: moved 1 color",
    ),
    (
        MakeEven("signal.go", "appearance", "light", "dark"),
        "Made signal.go as strong in dark as in light",
    ),
    (MakeAllEven("appearance", "light", "dim"), "Made every color as strong in dim as in light"),
    (
        MuteFinding("k", "literal", ("signal.hold",), "", "It goes soon", "Rui"),
        "Accepted a finding about signal.hold: It goes soon",
    ),
    (
        UnmuteFinding("elevation", ("surface.page", "surface.sunken")),
        "Listed a finding about surface.page, surface.sunken again",
    ),
    (
        WaivePairing("k", "text.faint/surface.card", "Old screens", "2026-12-31", "Rui"),
        "Waived text.faint on surface.card until 2026-12-31: Old screens",
    ),
    (
        TellApart("k", "Lines", ("line.soft, line.strong",), "a dash"),
        "Added the set Lines of colors to tell apart",
    ),
    (TellApartByRole("k"), "Added 1 set of colors to tell apart"),
    (RemoveSet("signals"), "Removed the set Signals"),
    (
        MoveApart("signals", "signal.wait", "signal.stop", "signal.stop"),
        "Told apart: set signal.stop to stop",
    ),
    (SplitByUse("k", "surface.card", "status.plain"), "Split surface.card by use: status.plain"),
    (AddRamp("k", "moss", RECIPE), "Added ramp moss"),
    (RetuneRamp("k", "spruce", RECIPE), "Retuned spruce"),
    (RenameRamp("spruce", "fir"), "Renamed spruce to fir"),
    (MoveRamp("spruce", 1), "Moved spruce down"),
    (MakeRamp("k", "odd"), "Made a ramp of odd"),
    (SetColor("spruce.3", "#abcdef"), "Set spruce.3 to #abcdef"),
    (ReleaseStep("spruce.3"), "Reset spruce.3 to its ramp"),
    (InsertStep("k", "spruce.3", "3-5"), "Inserted a step after spruce.3"),
    (RemoveStep("spruce.3"), "Removed spruce.3"),
    (RenameStep("spruce.3", "thin"), "Renamed step spruce.3 to thin"),
    (MoveStep("spruce.1", 1), "Moved spruce.1"),
    (RenameSteps("spruce", "a b c d e f g h i j k"), "Renamed the steps of spruce"),
    (AddOverlays("k", "spruce.8", "8 50"), "Added overlays of spruce.8"),
    (AddMissing("k", "label action.fill.pressed"), "Added label"),
    (AssignPurpose("k", "spruce", "chart"), "Set the purpose of spruce to chart"),
    (AddPurpose("k", "weather"), "Added purpose weather"),
    (RenamePurpose("ink", "words"), "Renamed purpose"),
    (RemovePurpose("ink"), "Removed purpose"),
    (MovePurpose("ink", -1), "Moved purpose"),
    (AddMeasure("k", "gap.odd", "dimension", "7px"), "Added gap.odd"),
    (AddScale("k", measures.KINDS[0].id, "room", "1 2", "4px"), "Added scale room"),
    (StoreScheme("k", "Ours", (("area", "panel chip"),)), "Stored scheme Ours"),
    (AddNames("k", "levels", ("surface.0",)), "Added 1 token from scheme"),
    (AddPairing("k", "text.main", "ink.1"), "Added pairing text.main on ink.1"),
    (RequireOfPairing("k", "pairing", 7.0, "law"), "Set the ratio for"),
    (RemovePairing("pairing"), "Removed pairing"),
    (PairByRule("k", ("focus",)), "Added the rule “The focus on what it surrounds”"),
    (PairByPattern("k", "text.*", "ink.1?"), "Added the rule text.* on ink.1?"),
    (RequireByRule("focus", 4.5), "Set the ratio for “The focus on what it surrounds” to 4.5"),
    (RemoveRule("focus"), "Removed the rule “The focus on what it surrounds”"),
    (AddWord("Kachel", "surface"), "Added the word “kachel”, which means surface"),
    (RemoveWord("kachel"), "Removed the word “kachel”"),
    (ImportColors("k", (("tide", "#003366", "add"),)), "Imported 1 color"),
    (
        UsePictureColors("k", "pier.png", (("#123456", "color", "sea"),)),
        "Imported 1 color from pier",
    ),
    (TakeIdea("k", "dusk", "Quiet", (("main", "dusk", "#345678"),), (("main", "new"),)), "Used"),
    (ImportDocument("x.json", document(token("a", "#111111"))), "Imported x.json"),
    (RenameProject("Other"), "Renamed the project to Other"),
    (Batch("Two at once", (RenameProject("Other"), SetColor("white", "#fefefe"))), "Two at once"),
)


def before(command):
    """The demo, made so that a command has something to do."""
    built = quillhaven.document()
    if isinstance(command, ReleaseStep):
        return SetColor("spruce.3", "#abcdef").apply(built)
    if isinstance(command, MakeRamp):
        colors = (("odd.1", "#ddeeff", "add"), ("odd.2", "#223344", "add"))
        return ImportColors("odd", colors).apply(built)
    if isinstance(command, LinkLiterals):
        built = RenameToken("ink.1", "ink.1").apply(built)
        return SetValue("text.main", "#111111").apply(built)
    if isinstance(command, RequireByRule | RemoveRule):
        return PairByRule("k").apply(built)
    if isinstance(command, SetPieces | RemoveScene):
        return MakeScene("k", "Counter").apply(built)
    if isinstance(command, RemoveWord):
        return AddWord("Kachel", "surface").apply(built)
    return built


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
                    command.apply(built)
                    self.assertTrue(command.sentence(built))
                except PrismError as error:
                    self.assertTrue(str(error))
                except Exception as error:
                    self.fail(f"{name} {values}: {error!r}")


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
