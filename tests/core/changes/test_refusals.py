"""What edits refuse, each with its own sentence, and nothing changed."""

from dataclasses import replace

from django.test import SimpleTestCase

from demo import quillhaven
from prism import edits
from prism.changes import axes, structure, values
from prism.color import space
from prism.errors import PrismError
from prism.model.document import Axis, Mode, Pairing, Token
from prism.palette import ramps

WHOLE = quillhaven.document()
CELLS = {"tokens": ["text.main"], "axis": "appearance", "modes": ["dark"], "picks": []}
NO_ROWS = CELLS | {"tokens": []}
GONE = CELLS | {"tokens": ["gone"]}
RECIPE = [["seed", "#236b53"]]
COMMANDS = (
    ("add-axis", {"key": "k", "name": " ", "modes": "a"}, "An axis needs a name."),
    ("add-axis", {"key": "k", "name": "x", "modes": ","}, "An axis needs at least one mode."),
    ("add-axis", {"key": "k", "name": "brand", "modes": "a"}, "Two axes have the same name."),
    ("add-axis", {"key": "k", "name": "x", "modes": "a, a"}, "Two modes have the same name."),
    ("rename-axis", {"axis": "gone", "name": "x"}, "That axis is no longer there."),
    ("rename-axis", {"axis": "brand", "name": ""}, "An axis needs a name."),
    ("move-axis", {"axis": "gone", "by": 1}, "That is no longer there."),
    ("remove-mode", {"axis": "brand", "mode": "gone"}, "That mode is no longer there."),
    ("add-mode", {"key": "k", "axis": "brand", "name": "Vexley"}, "Two modes have the same name."),
    ("set-color-scheme", {"axis": "brand", "mode": "gone", "color_scheme": "dark"}, "That mode is"),
    (
        "set-color-scheme",
        {"axis": "brand", "mode": "vexley", "color_scheme": "dim"},
        "A mode is light, dark or neither.",
    ),
    (
        "follow-preference",
        {"axis": "brand", "mode": "vexley", "preference": "prefers-brand: vexley"},
        "That is not one of the preferences that style sheets know.",
    ),
    ("derive-mode", {"key": "k", "axis": "appearance", "source": "gone", "name": "x"}, "The mode"),
    ("set-value", {"token": "gone", "text": "#fff"}, "That token is no longer there."),
    (
        "set-value-in-column",
        {"token": "text.main", "text": "#fff", "axis": "brand", "picks": [["brand", "gone"]]},
        "That mode is no longer there.",
    ),
    ("set-on-step", {"cells": CELLS, "step": "gone"}, "That step is no longer there."),
    ("set-on-step", {"cells": GONE, "step": "ink.1"}, "One of the tokens is no longer there."),
    ("set-cells", {"cells": NO_ROWS, "text": "#fff"}, "No row is selected."),
    (
        "set-cells",
        {"cells": CELLS | {"modes": ["gone"]}, "text": "#fff"},
        "That mode is no longer there.",
    ),
    ("fill-cells", {"cells": CELLS}, "There is nothing below the first row."),
    ("set-opacity", {"cells": CELLS, "percent": 0}, "An opacity is 1 to 99 percent."),
    ("set-opacity", {"cells": CELLS, "percent": 100}, "An opacity is 1 to 99 percent."),
    ("copy-mode", {"cells": NO_ROWS, "source": "light", "target": "dark"}, "No row is selected."),
    ("paste", {"cells": CELLS, "text": "a" * 2_000_001}, "characters are pasted at once."),
    ("import-colors", {"key": "k", "colors": []}, "No color is selected."),
    (
        "import-colors",
        {"key": "k", "colors": [["ink.1", "#fff", "add"]]},
        "“ink.1” already exists.",
    ),
    (
        "import-colors",
        {"key": "k", "colors": [["new", "#fff", "add"], ["new", "#000", "add"]]},
        "“new” is a duplicate.",
    ),
    (
        "import-colors",
        {"key": "k", "colors": [["new", "#fff", "burn"]]},
        "“burn” is not something to do with a color.",
    ),
    (
        "use-picture-colors",
        {"key": "k", "picture": "p.png", "uses": [["#fff", "token", "gone"]]},
        "There is no color token “gone”.",
    ),
    ("use-picture-colors", {"key": "k", "picture": "p", "uses": []}, "Every color is left out."),
    (
        "use-picture-colors",
        {"key": "k", "picture": "p.png", "uses": [["#fff", "fish", "x"]]},
        "“fish” is not something a color can become.",
    ),
    (
        "take-idea",
        {"key": "k", "words": "w", "title": "t", "colors": [["fish", "x", "#fff"]]},
        "“fish” is not a role of an idea.",
    ),
    (
        "import-colors",
        {"key": "k", "colors": [["measure.2", "#fff", "replace"]]},
        "“measure.2” is not a color.",
    ),
    (
        "add-measure",
        {"key": "k", "path": "measure.2", "type": "dimension", "value": "4px"},
        "There is a token “measure.2” already.",
    ),
    ("add-scale", {"key": "k", "kind": "song", "group": "x", "values": "1"}, "no such scale."),
    ("add-scale", {"key": "k", "kind": "space", "group": "x", "values": ""}, "A scale has 1 to"),
    (
        "store-scheme",
        {"key": "k", "name": "", "parts": [["part", "a b"]]},
        "A scheme needs a name.",
    ),
    ("store-scheme", {"key": "k", "name": "x", "parts": []}, "needs at least one part with words."),
    ("store-scheme", {"key": "k", "name": "x", "parts": [["", "a"]]}, "need a name for their part"),
    ("store-scheme", {"key": "k", "name": "x", "parts": [["a", ""]]}, "This part has no words."),
    ("store-scheme", {"key": "k", "name": "x", "parts": [["a" * 201, "b"]]}, "has more than 200"),
    ("add-names", {"key": "k", "scheme": "gone", "chosen": []}, "That scheme is no longer there."),
    (
        "add-pairing",
        {"key": "k", "foreground": "gone", "background": "surface.page"},
        "{gone} does not exist.",
    ),
    (
        "add-pairing",
        {"key": "k", "foreground": "text.main", "background": "surface.page", "use": "poster"},
        "“poster” is not a use of a pairing.",
    ),
    (
        "add-pairing",
        {"key": "k", "foreground": "text.main", "background": "surface.page"},
        "This pairing already exists.",
    ),
    (
        "add-pairing",
        {"key": "k", "foreground": "measure.2", "background": "surface.page"},
        "A pairing is made of colors.",
    ),
    (
        "pair-by-pattern",
        {"key": "k", "foreground": "gone.*", "background": "surface.*"},
        "No color fits “gone.*”.",
    ),
    (
        "pair-by-pattern",
        {"key": "k", "foreground": "*", "background": "*"},
        "That would be more than 10,000 pairings.",
    ),
    (
        "pair-by-pattern",
        {"key": "k", "foreground": "text.*", "background": "surface.*", "use": "fish"},
        "“fish” is not a use of a pairing.",
    ),
    ("pair-by-rule", {"key": "k", "rules": ["fish"]}, "“fish” is not a rule."),
    ("require-by-rule", {"rule": "fish", "required": "7"}, "That rule is no longer there."),
    ("remove-rule", {"rule": "fish"}, "That rule is no longer there."),
    (
        "require-of-pairing",
        {"key": "k", "pairing": "gone", "required": "7"},
        "That pairing is no longer there.",
    ),
    ("add-word", {"word": "two words", "meaning": "surface"}, "“two words” is not one word."),
    ("add-word", {"word": "K9", "meaning": "surface"}, "“K9” is not one word."),
    ("add-word", {"word": "Kachel", "meaning": "fish"}, "“fish” is not a meaning."),
    ("use-words", {"words": []}, "There is no word to use."),
    ("use-words", {"words": ["kachel fish"]}, "“fish” is not a meaning."),
    ("answer-words", {"words": [], "meaning": "surface"}, "No word is answered."),
    ("answer-words", {"words": ["kachel"], "meaning": "fish"}, "“fish” is not a meaning."),
    ("remove-word", {"word": "kachel"}, "That word is no longer there."),
    ("remove-pairing", {"pairing": "gone"}, "That pairing is no longer there."),
    ("add-ramp", {"key": "k", "name": " ", "recipe": RECIPE}, "A ramp needs a name."),
    ("add-ramp", {"key": "k", "name": "spruce", "recipe": RECIPE}, "“spruce” already exists."),
    (
        "add-ramp",
        {"key": "k", "name": "new", "recipe": RECIPE, "names": "a b"},
        "11 steps need 11 names, not 2.",
    ),
    (
        "add-ramp",
        {"key": "k", "name": "new", "recipe": [*RECIPE, ["count", "2"]], "names": "a a"},
        "Two steps are named “a”.",
    ),
    (
        "add-ramp",
        {"key": "k", "name": "new", "recipe": [*RECIPE, ["method", "odd"]]},
        "“odd” is not a method.",
    ),
    (
        "add-ramp",
        {"key": "k", "name": "new", "recipe": [*RECIPE, ["count", "1.5"]]},
        "The number of steps is a whole number.",
    ),
    ("retune-ramp", {"key": "k", "ramp": "gone", "recipe": RECIPE}, "That ramp is no longer"),
    ("rename-ramp", {"ramp": "spruce", "name": " "}, "A ramp needs a name."),
    ("rename-ramp", {"ramp": "single", "name": "x"}, "Single colors have names of their own."),
    ("make-ramp", {"key": "k", "group": "text"}, "There are no raw colors in “text”."),
    ("make-ramp", {"key": "k", "group": "ink"}, "These colors are a ramp already."),
    ("set-color", {"token": "gone", "text": "#fff"}, "That color is no longer there."),
    ("release-step", {"token": "ink.1"}, "That step was not moved by hand."),
    ("insert-step", {"key": "k", "token": "ink.11", "name": "x"}, "no step after the last one."),
    ("insert-step", {"key": "k", "token": "text.main", "name": "x"}, "That step is no longer"),
    ("remove-step", {"token": "text.main"}, "That step is no longer there."),
    ("move-step", {"token": "text.main", "by": 1}, "That step is no longer there."),
    ("add-overlays", {"key": "k", "token": "gone", "percents": "8"}, "That color is no longer"),
    ("add-overlays", {"key": "k", "token": "ink.1", "percents": "0 8"}, "covers 1 to 99 percent."),
    ("add-overlays", {"key": "k", "token": "ink.1", "percents": "100"}, "covers 1 to 99 percent."),
    ("add-missing", {"key": "k", "need": "gone"}, "Nothing by that name is missing."),
    ("add-purpose", {"key": "k", "name": " "}, "A purpose needs a name."),
    ("add-purpose", {"key": "k", "name": "n" * 61}, "has at most 60 characters."),
    ("add-purpose", {"key": "k", "name": WHOLE.purposes[0].name}, "There is a purpose"),
    ("rename-purpose", {"purpose": "gone", "name": "x"}, "That purpose is no longer there."),
    (
        "describe-token",
        {"token": "text.main", "path": "text.main", "export_name": "a b"},
        "“a b” is not a custom property.",
    ),
    ("rename-token", {"token": "text.main", "path": "text.muted"}, "There is a token “text.muted”"),
    ("rename-token", {"token": "text.main", "path": "surface"}, "would be a token and a group."),
    ("rename-token", {"token": "text.main", "path": "p" * 601}, "at most 600 characters."),
    ("remove-token", {"token": "ink.11"}, "is used by"),
    ("remove-token", {"token": "ink.11", "into": "ink.11"}, "cannot be merged with itself."),
    ("replace-in-names", {"tokens": ["text.main"], "find": ""}, "There is no text to find."),
    (
        "replace-in-names",
        {"tokens": ["text.main"], "find": "xyz"},
        "None of the paths holds “xyz”.",
    ),
    ("replace-in-names", {"tokens": [], "find": "xyz"}, "No row is selected."),
    ("reorder-tokens", {"tokens": ["text.main"], "after": "xyz"}, "There is no token “xyz”."),
    (
        "reorder-tokens",
        {"tokens": ["text.main"], "after": "text.main"},
        "A token cannot come after itself.",
    ),
    ("delete-tokens", {"tokens": ["gone"]}, "That token is no longer there."),
    ("mark-tokens", {"tokens": ["text.main"], "tier": "top"}, "“top” is not a tier."),
    ("set-group-tier", {"groups": [], "tier": "raw"}, "No group is selected."),
    ("set-group-tier", {"groups": ["gone"], "tier": "raw"}, "There is no group “gone”."),
    ("rename-group", {"group": "gone", "path": "x"}, "There is no group “gone”."),
    ("rename-group", {"group": "text", "path": "text.new"}, "cannot be moved into itself."),
    ("link-literals", {"accepted": []}, "No link is selected."),
)
NEW = Token("new", "new", "color", "raw")
DARK = Mode("dark", "dark")
CALLS = (
    (structure.add_tokens, ([replace(NEW, type="colour")],), "“colour” is not a type."),
    (structure.add_tokens, ([replace(NEW, key="ink.1")],), "A token with this key already exists."),
    (structure.add_tokens, ([NEW], "gone"), "That token is no longer there."),
    (structure.rename_tokens, ({"gone": "here"},), "There is no token “gone”."),
    (structure.reorder_tokens, (["ink.1"], "gone"), "The token to put them after does not exist."),
    (structure.change_type, ("ink.1", "colour"), "“colour” is not a type."),
    (structure.change_type, ("ink.1", "number"), "not a number"),
    (
        axes.add_axis,
        (Axis("brand", "x", (DARK,), "dark"),),
        "An axis with this key already exists.",
    ),
    (axes.add_axis, (Axis("x", "x", (DARK,), "light"),), "one of them its default."),
    (axes.add_axis, (Axis("x", "x", (), ""),), "An axis has modes"),
    (axes.reorder_axes, (["brand"],), "The new order must name every axis once."),
    (axes.reorder_modes, ("brand", ["vexley"]), "The new order must name every mode once."),
    (axes.add_mode, ("appearance", DARK), "A mode with this key already exists."),
    (values.add_pairing, (Pairing("k", "text.main", ()),), "A pairing needs a background."),
)
GREEN = space.parse("#236b53")
RECIPES = (
    ({"count": 0}, "A ramp has 1 to 60 steps, not 0."),
    ({"count": 61}, "A ramp has 1 to 60 steps, not 61."),
    ({"gamut": "rec2020"}, "“rec2020” is not a gamut."),
    ({"targets": (1.1, 2.0)}, "11 steps need 11 contrast targets, not 2."),
    ({"count": 2, "targets": (0.9, 2.0)}, "A contrast target is a ratio from 1 to 21."),
    ({"count": 2, "targets": (2.0, 21.1)}, "A contrast target is a ratio from 1 to 21."),
    ({"count": 2, "targets": (2.0, 2.0)}, "Contrast targets must grow from step to step."),
    ({"ends": (0.2, 0.9)}, "lightest larger than darkest."),
    ({"ends": (1.1, 0.9)}, "must be from 0 to 1"),
    ({"ends": (0.9, -0.1)}, "must be from 0 to 1"),
    ({"curve": 4.1}, "must be between 0 and 4."),
    ({"tint": -0.1}, "must be between 0 and 4."),
    ({"drift": (-181, 0)}, "must be between -180 and 180 degrees."),
    ({"drift": (0, 181)}, "must be between -180 and 180 degrees."),
    ({"seed": replace(GREEN, alpha=0.5)}, "The base color must be opaque."),
    ({"reference": replace(GREEN, alpha=0.5)}, "The color measured against must be opaque."),
    ({"seed": space.parse("color(display-p3 0 1 0)")}, "lies outside sRGB."),
)


class RefusalTests(SimpleTestCase):
    def test_commands(self):
        for name, fields, sentence in COMMANDS:
            with self.subTest(name, **fields), self.assertRaisesMessage(PrismError, sentence):
                edits.from_fields(name, fields).apply(WHOLE)

    def test_what_only_code_can_ask_for(self):
        for change, arguments, sentence in CALLS:
            with self.subTest(change.__name__), self.assertRaisesMessage(PrismError, sentence):
                change(WHOLE, *arguments)

    def test_recipes_of_ramps(self):
        for changes, sentence in RECIPES:
            with self.subTest(changes), self.assertRaisesMessage(PrismError, sentence):
                ramps.make(replace(ramps.Recipe(GREEN), **changes))
        for allowed in ({"curve": 4}, {"tint": 0}, {"drift": (-180, 180)}, {"ends": (1, 0)}):
            ramps.make(replace(ramps.Recipe(GREEN, method="even", keep_seed=False), **allowed))
