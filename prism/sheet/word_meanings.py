"""What a word in names may mean, by the colors of the tokens that have it: which meanings are tried, and how well a color
goes with a role. Common practice, no source.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import replace

from prism.analysis import Analysis
from prism.color import space
from prism.model.document import Document, Mode, Token
from prism.palette.course import has_hue, oklch
from prism.roles import lexicon
from prism.roles.evidence import Named
from prism.roles.grounds import COLORED, Guess
from prism.roles.said_words import ROLES

#: Meanings that are tried, each with what an answer says and what it means for what has the word.
TRIED: Mapping[str, tuple[str, str]] = {
    "surface": ("A surface", "lies on the page; texts lie on it"),
    "page": ("The page itself", "everything lies on it"),
    "text": ("Read on it", "a text on the page and its surfaces"),
    "label": ("A label", "read on a fill"),
    "action": ("An action", "a button is filled with it"),
    "accent": ("An accent", "sets off what is special"),
    "line": ("A line", "separates or surrounds"),
    "field": ("A field", "typed into"),
    "link": ("A link", "a text that leads somewhere"),
    "icon": ("An icon", "a picture that says something"),
    "overlay": ("An overlay", "lets through what is below"),
    "focus": ("The focus", "surrounds what has the focus"),
    "quiet": ("Quieter", "the quiet color beside the main one"),
    "hint": ("A hint", "the faintest of the texts"),
    "hover": ("Hover", "what the plain color becomes under the pointer"),
    "pressed": ("Pressed", "what the plain color becomes while pressed"),
    "soft": ("Paler", "the pale color beside the full one"),
    "strong": ("Stronger", "the full color beside the pale one"),
    "name": ("A name", "of a thing that has colors of its own"),
    "success": ("Success", "what went well"),
    "warning": ("A warning", "what needs a look"),
    "error": ("An error", "what went wrong"),
    "information": ("Information", "what is good to know"),
}
#: What words are that take each other's place in names: ``chalk.tram`` and ``chalk.ferry``.
NAME = "name"
NOTHING = "nothing"
_STRENGTHS = ("quiet", "hint", "strong", "soft", "hover", "pressed")
#: How often words have a meaning, beside others that fit as well. Common practice, no source.
OFTEN = {
    "link": 0.8, "label": 0.8, "icon": 0.5, "field": 0.7, "accent": 0.7, "focus": 0.6, "name": 0.7,
    "success": 0.8, "warning": 0.8, "error": 0.8, "information": 0.6,
}  # fmt: skip
#: OKLCH hues in degrees between which a color is taken for that of a status. Common practice, no source.
_HUES = {"error": (5, 45), "warning": (50, 110), "success": (125, 175), "information": (220, 280)}
#: Meanings that are tried for a word, beside those that are always.
MOST_TRIED = 5


def likely(
    analysis: Analysis, words: tuple[str, ...], tokens: Sequence[Token], page: Named | None
) -> list[str]:
    """The meanings that the colors of some tokens allow at first sight, those that most of them do first."""
    readings = [analysis.guesses.readings[token.key] for token in tokens]
    allowed = {
        meaning: sum(fits(Guess(role, 1.0, ""), r, analysis, page) for r in readings)
        for meaning in TRIED
        if (role := ROLES.get(meaning)) is not None
    }
    if len(words) > 1:
        return [NAME]
    known = sum(analysis.roles[token.key].role.kind != "unknown" for token in tokens)
    if 2 * known > len(tokens):
        return [*_STRENGTHS, NAME, *_status(readings)]  # other words say what it is
    first = sorted(allowed, key=lambda meaning: -allowed[meaning] * OFTEN.get(meaning, 1.0))
    return [*first[:MOST_TRIED], NAME, *_status(readings)]


def _status(readings: Sequence[Named]) -> list[str]:
    """The status whose hue most of some colors have, where most of them have a hue."""
    hues = [oklch(r.color)[2] % 360 for r in readings if r.color is not None and has_hue(r.color)]
    found = Counter(
        status for hue in hues for status, (low, high) in _HUES.items() if low <= hue <= high
    )
    return [status for status, count in found.most_common(1) if 2 * count > len(readings)]


def page_of(analysis: Analysis) -> Named | None:
    """The page; where none is known, the color that is as light as it gets in a light theme, or as dark in a dark
    one: most colors are seen on such a one."""
    readings = analysis.guesses.readings
    if analysis.guesses.page in readings:
        return readings[analysis.guesses.page]
    opaque = [r for r in readings.values() if r.color is not None and not r.translucent]
    if not opaque:
        return None
    white = replace(opaque[0], color=space.parse("#ffffff"))
    lightest, darkest = (f(opaque, key=white.ratio) for f in (min, max))
    return darkest if starts_dark(analysis.document) else lightest


def starts_dark(document: Document) -> bool:
    """Whether the theme one starts with is one of dark modes."""
    return any(scheme_of(axis.mode(axis.default)) == "dark" for axis in document.axes)


def scheme_of(mode: Mode | None) -> str:
    """Whether a mode is ``dark`` or ``light``, by what is said of it, else by its name; empty for neither."""
    return (mode.color_scheme or lexicon.scheme_named(mode.name)) if mode is not None else ""


def fits(known: Guess, reading: Named, analysis: Analysis, page: Named | None) -> float:
    """How well a color goes with a role, from 0 to 1. Common practice, no source."""
    ratio = page.ratio(reading) if page is not None else 1.0
    kind, detail = known.role.kind, known.role.detail
    if kind == "label" or (kind == "text" and known.belongs_to):
        below = analysis.guesses.readings.get(known.belongs_to)
        fit = 0.3 if below is None else 1.0 if below.ratio(reading) >= 3 else 0.1
    elif kind in ("text", "icon") or (kind == "status" and detail == "text"):
        fit = 1.0 if ratio >= 3 else 0.4 if ratio >= 2 else 0.0
    elif kind in ("page", "surface") or detail in ("tint", "field"):
        fit = 1.0 if ratio < 1.35 else 0.5 if ratio < 2 or reading.translucent else 0.1
    elif kind == "fill" or detail == "fill":
        fit = 1.0 if reading.chroma >= COLORED and ratio >= 2 else 0.6 if ratio >= 3 else 0.2
    elif kind == "line" or detail == "line":
        fit = 0.7 if 1.15 <= ratio <= 5 else 0.2
    elif kind == "overlay":
        fit = 0.8 if reading.translucent else 0.1
    elif kind == "focus":
        fit = 0.5 if ratio >= 3 else 0.1
    else:
        fit = 0.0 if kind == "unknown" else 0.2
    return fit * known.sure
