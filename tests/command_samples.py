"""A sample of every command, with the start of its sentence."""

from demo import quillhaven
from prism.balance.commands import MakeAllEven, MakeEven
from prism.brands.commands import AddBrand
from prism.commands.project import Batch, RenameProject
from prism.contrast.pairing_commands import (
    AddPairing,
    FixAll,
    FixPairing,
    PartPairing,
    RemovePairing,
    RequireOfPairing,
)
from prism.contrast.rule_commands import (
    AddWord,
    AnswerWords,
    PairByPattern,
    PairByRule,
    RemoveRule,
    RemoveWord,
    RequireByRule,
    UseWords,
)
from prism.contrast.waiver_commands import WaivePairing
from prism.coverage.commands import AddAllMissing, AddMissing
from prism.elevation.commands import LiftSurface
from prism.exchange.commands import ImportDocument
from prism.hygiene.commands import MuteFinding, SplitByUse, UnmuteFinding
from prism.measures import scales
from prism.measures.commands import AddMeasure, AddScale
from prism.model.values import Condition, Expression
from prism.modes.commands import (
    AddAxis,
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
from prism.naming.commands import AddNames, StoreScheme
from prism.palette.commands import (
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
from prism.palette.import_commands import ImportColors, TakeIdea, UsePictureColors
from prism.scenes.commands import BindSlot, MakeScene, RemoveScene, SetPieces
from prism.sheet.cell_commands import (
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
from prism.sheet.row_commands import (
    AddPasted,
    AddToken,
    DeleteGroup,
    DuplicateGroup,
    DuplicateTokens,
    MoveGroup,
)
from prism.sheet.token_commands import (
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
from prism.vision.commands import MoveApart, RemoveSet, TellApart, TellApartByRole
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
    (ShiftCells(TWO, -1), "Shifted 2 tokens towards the first step"),
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
    (AddToken("k", "text.new", "ink.5", ((DARK, "ink.4"),)), "Added text.new as color"),
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
    (RemoveMode("appearance", "dim", with_ramps=True), "Removed mode dim of appearance"),
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
    (AddScale("k", scales.KINDS[0].id, "room", "1 2", "4px"), "Added scale room"),
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
    (AnswerWords(("kachel",), "surface"), "Answered “kachel”: surface"),
    (UseWords(("kachel surface", "fuge line")), "Added 2 of your words"),
    (RemoveWord("kachel"), "Removed the word “kachel”"),
    (ImportColors("k", (("tide", "#003366", "add"),)), "Imported 1 color"),
    (
        UsePictureColors("k", "pier.png", (("#123456", "color", "sea"),)),
        "Imported 1 color from pier",
    ),
    (TakeIdea("k", "dusk", "Quiet", (("main", "dusk", "#345678"),), (("main", "new"),)), "Used"),
    (ImportDocument("x.json", document(token("a", "#111111"))), "Imported x.json"),
    (
        LiftSurface("k", "surface.card", "surface.page", "line"),
        "Lifted surface.card off surface.page: draw a line",
    ),
    (PartPairing("k", "signal.go/signal.surface.go", "overlay"), "Fixed contrast of"),
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
