"""The words that give a name its role: what designers call surfaces, texts, lines and states.

One list for everything that reads names: bindings of scenes, coverage, levels, proposed modes,
first mappings, modes in style sheets. The words are common practice of the trade, no source.
To teach the product a word, add it to its list.
"""

from __future__ import annotations

import re

_WORD = re.compile(r"[A-Za-z][a-z]*|\d+")


def _words(text: str) -> frozenset[str]:
    return frozenset(text.split())


# What a color is for
SURFACE = _words("surface ground background bg canvas")
TEXT = _words("text ink foreground fg content")
LINE = _words("line border stroke divider outline separator")
ACTION = _words("action accent primary interactive")
STATUS = _words("signal status feedback state")
OVERLAY = _words("veil overlay scrim wash")
FOCUS = _words("focus")
HIGHLIGHT = _words("highlight lamp second")
SHADOW = _words("shadow elevation")
RADIUS = _words("radius corner")
SPACE = _words("space spacing gap")

# Surfaces, from the lowest up
SUNKEN = _words("sunken well low")
PAGE = _words("page base canvas")
CARD = _words("card panel")
RAISED = _words("raised high")
FLOATING = _words("floating top menu popover")
MODAL = _words("modal dialog overlay")

# Texts and labels
MAIN = _words("main primary default body base")
QUIETER = _words("muted secondary quiet subtle")
FAINT = _words("faint tertiary disabled")
LINK = _words("link")
LABEL = _words("label title icon")

# Fills and what stands for the plain state
FILL = _words("fill button field row")
PLAIN = _words("main primary default base body root fill strong")
STRONG = _words("strong pressed selected")

# Statuses
SUCCESS = _words("success go ok positive done")
WARNING = _words("warning wait hold late caution alert")
ERROR = _words("error stop danger negative critical fail")
INFORMATION = _words("information info note notice")

# Modes
DARK = _words("dark night")
LIGHT = _words("light day")

#: Levels of elevation, the lowest first.
LEVELS = (SUNKEN, PAGE | SURFACE - {"surface"}, CARD, RAISED, FLOATING, MODAL)


def words_of(path: str) -> list[str]:
    """The words of a path, lower case; camel case counts as several."""
    return [word.lower() for word in _WORD.findall(path.replace("$root", "root"))]
