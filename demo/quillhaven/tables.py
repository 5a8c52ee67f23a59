"""What the colors of the trip planner mean: tables of paths and references."""

from __future__ import annotations

from demo.quillhaven.axes import DARK, DIM, LIGHT, OSPRELLE, RAISED, TARNMOOR, VEXLEY
from prism.model.document import Use

#: Path: light, dark, dim (None inherits light), description.
SEMANTIC: dict[str, tuple[str, str | None, str | None, str]] = {
    "text.main": ("{ink.11}", "{ink.1}", "{ink.3}", "Headings, times, names of places"),
    "text.muted": ("{ink.8}", "{ink.4}", "{ink.5}", "What supports the main line"),
    "text.faint": ("{ink.6}", "{ink.7}", None, "Hints and empty fields"),
    "text.link": ("{accent.8}", "{accent.4}", "{accent.5}", "A way to somewhere else"),
    "text.inverse": ("{ink.1}", "{ink.11}", "{ink.11}", "On surfaces of the other kind"),
    "text.wrong": ("{stop.8}", "{stop.4}", "{stop.4}", "What has to be put right"),
    "surface.page": ("{ink.1}", "{ink.11}", "{black}", "Level 0: under everything"),
    "surface.card": (
        "{white}",
        "color-mix(in oklab, {ink.11} 92%, {ink.9})",
        "{ink.11}",
        "Level 1: what lies on the page",
    ),
    "surface.raised": ("{white}", "{ink.9}", "{ink.10}", "Level 2: what lies on a card"),
    "surface.floating": ("{white}", "{ink.9}", "{ink.10}", "Level 3: lists that open over it"),
    "surface.modal": ("{white}", "{ink.9}", "{ink.10}", "Level 4: questions over everything"),
    "surface.sunken": ("{ink.2}", "{black}", "{black}", "Fields and wells"),
    "surface.inverse": ("{ink.11}", "{ink.2}", "{ink.4}", "Short notes over the page"),
    "line.soft": ("{ink.3}", "{ink.9}", "{ink.10}", "Between rows"),
    "line.strong": ("{ink.7}", "{ink.5}", "{ink.7}", "Around what can be used"),
    "line.accent": ("{accent.7}", "{accent.5}", "{accent.6}", "Around what is chosen"),
    "line.inverse": ("{ink.6}", "{ink.7}", "{ink.8}", "On surfaces of the other kind"),
    "action.fill": ("{accent.8}", "{accent.4}", "{accent.5}", "The one thing to do"),
    "action.label": ("{white}", "{accent.11}", None, "On action.fill"),
    "action.line": ("{accent.7}", "{accent.5}", None, "Around a quieter action"),
    "action.fill.hover": ("{accent.9}", "{accent.3}", "{accent.4}", "Under the pointer"),
    "action.label.hover": ("{white}", "{accent.11}", "{accent.11}", "Under the pointer"),
    "action.line.hover": ("{accent.8}", "{accent.4}", "{accent.4}", "Under the pointer"),
    "action.fill.pressed": ("{accent.10}", "{accent.2}", "{accent.3}", "While it is pressed"),
    "action.label.pressed": ("{white}", "{accent.11}", "{accent.11}", "While it is pressed"),
    "action.line.pressed": ("{accent.9}", "{accent.3}", "{accent.3}", "While it is pressed"),
    "action.fill.selected": ("{accent.3}", "{accent.9}", "{accent.9}", "Chosen of several"),
    "action.label.selected": ("{accent.10}", "{accent.1}", "{accent.2}", "Chosen of several"),
    "action.line.selected": ("{accent.8}", "{accent.4}", "{accent.5}", "Chosen of several"),
    "action.fill.disabled": ("{ink.3}", "{ink.9}", "{ink.9}", "Not to be used now"),
    "action.label.disabled": ("{ink.6}", "{ink.7}", "{ink.7}", "Not to be used now"),
    "action.line.disabled": ("{ink.4}", "{ink.8}", "{ink.8}", "Not to be used now"),
    "action.quiet": ("{accent.2}", "{accent.10}", "{accent.10}", "Behind what is chosen"),
    "signal.go": ("{go.7}", "{go.5}", "{go.5}", "On time, boarding"),
    "signal.wait": ("{wait.7}", "{wait.5}", "{wait.5}", "Late"),
    "signal.stop": ("{stop.7}", "{stop.5}", "{stop.5}", "Cancelled, wrong"),
    "signal.note": ("{brine.7}", "{brine.5}", "{brine.5}", "Changed, new"),
    "signal.surface.go": ("{go.1}", "{go.11}", "{go.11}", "Behind good news"),
    "signal.surface.wait": ("{wait.1}", "{wait.11}", "{wait.11}", "Behind a delay"),
    "signal.surface.stop": ("{stop.1}", "{stop.11}", "{stop.11}", "Behind a failure"),
    "signal.surface.note": ("{brine.1}", "{brine.11}", "{brine.11}", "Behind a notice"),
    "signal.hold": ("#8a5a00", None, None, "A literal that no ramp stands behind"),
    "veil.hover": ("{veil.ink.08}", "{veil.paper.10}", "{veil.paper.08}", "Under the pointer"),
    "veil.pressed": ("{veil.ink.16}", "{veil.paper.16}", "{veil.paper.16}", "Pressed or chosen"),
    "veil.scrim": ("{veil.ink.50}", "{veil.ink.72}", "{veil.ink.72}", "Behind a question"),
    "focus.ring": ("{lamp.6}", "{lamp.4}", "{lamp.5}", "Around what has the focus"),
    "focus.gap": ("{white}", "{ink.11}", "{black}", "Between a thing and its ring"),
    "highlight.label": ("{ink.11}", "{ink.11}", "{ink.11}", "On highlight.fill"),
}

#: Path: what it is for each carrier, and where two axes say otherwise.
BY_BRAND: dict[str, tuple[str, tuple[tuple[dict[str, str], str], ...]]] = {
    "highlight.fill": (
        "The carrier’s second color",
        (
            (TARNMOOR, "{lamp.5}"),
            (OSPRELLE, "{coral.5}"),
            (VEXLEY, "{gorse.5}"),
            (DARK | VEXLEY, "{gorse.3}"),
            (DIM | VEXLEY, "{gorse.6}"),
        ),
    ),
}

#: Path: status by status; beside it what it is in the dark.
BY_STATUS: dict[str, tuple[str, str, str, str, str]] = {
    "status.mark": (
        "{signal.go}", "{signal.wait}", "{signal.stop}", "{signal.note}", "How a departure stands",
    ),
    "status.surface": (
        "{signal.surface.go}", "{signal.surface.wait}", "{signal.surface.stop}",
        "{signal.surface.note}", "Behind status.mark",
    ),
    "status.line": (
        "color-mix(in oklab, {signal.go} 40%, {surface.card})",
        "color-mix(in oklab, {signal.wait} 40%, {surface.card})",
        "color-mix(in oklab, {signal.stop} 40%, {surface.card})",
        "color-mix(in oklab, {signal.note} 40%, {surface.card})",
        "Around status.surface",
    ),
}  # fmt: skip

#: Where words and edges stand out further: light, then dark and dim.
RAISED_CONTRAST: dict[str, tuple[str, str]] = {
    "text.muted": ("{ink.10}", "{ink.2}"),
    "text.faint": ("{ink.9}", "{ink.3}"),
    "line.soft": ("{ink.6}", "{ink.7}"),
    "line.strong": ("{ink.9}", "{ink.3}"),
    "signal.go": ("{go.9}", "{go.3}"),
    "signal.wait": ("{wait.9}", "{wait.3}"),
    "signal.stop": ("{stop.9}", "{stop.3}"),
    "signal.note": ("{brine.9}", "{brine.3}"),
}

COMPONENT: dict[str, str] = {
    "button.fill": "{action.fill}",
    "button.label": "{action.label}",
    "button.line": "{action.line}",
    "button.fill.hover": "{action.fill.hover}",
    "button.fill.pressed": "{action.fill.pressed}",
    "button.fill.disabled": "{action.fill.disabled}",
    "button.label.disabled": "{action.label.disabled}",
    "board.row.line": "{line.soft}",
    "board.row.hover": "{veil.hover}",
    "board.head": "{text.muted}",
    "board.time": "{text.main}",
    "board.via": "{text.muted}",
    "board.late": "{signal.wait}",
    "board.gone": "{signal.stop}",
    "board.status": "{status.mark}",
    "board.status.surface": "{status.surface}",
    "board.status.line": "{status.line}",
    "ticket.surface": "{surface.raised}",
    "ticket.edge": "{line.soft}",
    "ticket.flag": "{highlight.fill}",
    "ticket.flag.label": "{highlight.label}",
    "ticket.place": "{text.main}",
    "ticket.terms": "{action.label.disabled}",
    "field.surface": "{surface.sunken}",
    "field.line": "{line.strong}",
    "field.text": "{text.main}",
    "field.hint": "{text.faint}",
    "field.wrong": "{text.wrong}",
}

#: Foreground, background, use, level AAA.
PAIRINGS: tuple[tuple[str, str, Use, bool], ...] = (
    ("text.main", "surface.page", "text", True),
    ("text.main", "surface.card", "text", True),
    ("text.main", "surface.raised", "text", True),
    ("text.main", "surface.floating", "text", True),
    ("text.main", "surface.modal", "text", True),
    ("text.main", "surface.sunken", "text", False),
    ("text.muted", "surface.page", "text", False),
    ("text.muted", "surface.card", "text", False),
    ("text.muted", "surface.raised", "text", False),
    ("text.muted", "surface.sunken", "text", False),
    ("text.faint", "surface.card", "text", False),
    ("text.link", "surface.page", "text", False),
    ("text.link", "surface.card", "text", False),
    ("text.wrong", "surface.card", "text", False),
    ("text.inverse", "surface.inverse", "text", False),
    ("action.label", "action.fill", "text", False),
    ("action.label", "action.fill.hover", "text", False),
    ("action.label.hover", "action.fill.hover", "text", False),
    ("action.label.selected", "action.fill.selected", "text", False),
    ("action.label.disabled", "action.fill.disabled", "inactive", False),
    ("action.fill", "surface.page", "graphic", False),
    ("action.fill", "surface.card", "graphic", False),
    ("action.line", "surface.page", "control", False),
    ("action.line.selected", "surface.card", "control", False),
    ("line.strong", "surface.page", "control", False),
    ("line.strong", "surface.card", "control", False),
    ("line.strong", "surface.sunken", "control", False),
    ("line.accent", "surface.card", "control", False),
    ("line.inverse", "surface.inverse", "control", False),
    ("line.soft", "surface.card", "decoration", False),
    ("surface.card", "surface.page", "decoration", False),
    ("signal.go", "surface.card", "text", False),
    ("signal.wait", "surface.card", "text", False),
    ("signal.stop", "surface.card", "text", False),
    ("signal.note", "surface.card", "text", False),
    ("signal.go", "surface.page", "graphic", False),
    ("signal.wait", "surface.page", "graphic", False),
    ("signal.stop", "surface.page", "graphic", False),
    ("signal.note", "surface.page", "graphic", False),
    ("signal.go", "signal.surface.go", "text", False),
    ("signal.wait", "signal.surface.wait", "text", False),
    ("signal.stop", "signal.surface.stop", "text", False),
    ("signal.note", "signal.surface.note", "text", False),
    ("text.main", "signal.surface.go", "text", False),
    ("text.main", "signal.surface.wait", "text", False),
    ("text.main", "signal.surface.stop", "text", False),
    ("text.main", "signal.surface.note", "text", False),
    ("status.mark", "status.surface", "text", False),
    ("status.line", "surface.card", "decoration", False),
    ("highlight.label", "highlight.fill", "text", False),
    ("focus.ring", "surface.page", "control", False),
    ("focus.ring", "surface.card", "control", False),
    ("board.head", "surface.card", "text", False),
    ("board.time", "surface.card", "text", True),
    ("board.via", "surface.card", "text", False),
    ("ticket.place", "ticket.surface", "text", True),
    ("ticket.terms", "ticket.surface", "text", False),
    ("ticket.flag.label", "ticket.flag", "text", False),
    ("field.text", "field.surface", "text", False),
    ("field.hint", "field.surface", "text", False),
    ("field.line", "field.surface", "control", False),
    ("field.wrong", "surface.card", "text", False),
)

#: Foreground, the stack under it, why.
STACKED: tuple[tuple[str, tuple[str, ...], str], ...] = (
    ("text.main", ("veil.hover", "surface.card"), "Rows under the pointer"),
    ("text.muted", ("veil.hover", "surface.card"), "Rows under the pointer"),
    ("text.main", ("veil.pressed", "surface.raised"), "The note on a ticket"),
    ("text.main", ("veil.pressed", "surface.card"), "A row that is chosen"),
    ("text.link", ("veil.hover", "surface.card"), "Links in a row under the pointer"),
)

SIGNALS = ("signal.go", "signal.wait", "signal.stop", "signal.note")
APPEARANCES = (LIGHT, DARK, DIM)
RAISED_APPEARANCES = (RAISED, RAISED | DARK, RAISED | DIM)
#: What the checks find beside the flaws: the check, tokens, what tells it apart, and why it is meant.
ACCEPTED: tuple[tuple[str, tuple[str, ...], str, str], ...] = (
    ("balance", ("signal.hold", "surface.page"), "dark", "It is on its way out, and nothing uses it."),
    ("balance", ("action.quiet", "surface.page"), "dim", "In cabins what is chosen has to be found without a lamp."),
    ("elevation", ("surface.page", "surface.sunken"), "", "Wells have a line around them."),
    ("elevation", ("surface.floating", "surface.raised"), "", "Lists that open have a shadow of their own."),
    ("elevation", ("surface.modal", "surface.floating"), "", "Questions lie on a scrim."),
    ("merged", ("surface.page", "surface.sunken"), "", "Wells have a line around them."),
    ("merged", ("text.main", "text.faint"), "", "In dim with contrast raised a hint is as strong as any text."),
    ("merged", ("field.text", "field.hint"), "", "In dim with contrast raised a hint is as strong as what is typed."),
    ("vision", SIGNALS, "signals gray", "Every signal stands beside its word."),
    ("coverage", ("action.quiet",), "hover", "The veil for the pointer lies over it."),
    ("meaning", ("surface.card", "status.line"), "", "A running departure has no line: it takes the card’s color."),
)  # fmt: skip
