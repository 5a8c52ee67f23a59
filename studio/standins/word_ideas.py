"""A small stand-in that makes ideas for palettes from words.

It knows some hundred words and what hue, light and strength they suggest; any other word
gives a hue of its own. No chance and no network: the same words give the same ideas. What the
words mean in color is common practice at best, and our own guess for the rest.
"""

from __future__ import annotations

import hashlib
import re
from collections.abc import Iterator
from dataclasses import dataclass, replace

from prism.color import space
from prism.errors import PrismError
from prism.palette.ideas import ROLES, Brief, Idea, NamedColor, Role
from prism.palette.ramps import oklch

MAX_WORDS = 200
COUNT = 6
MAX_DEPTH = 12

#: OKLCH hue, chroma and lightness that a thing suggests.
THINGS: dict[str, tuple[float, float, float]] = {
    "harbor": (225, 0.08, 0.48), "harbour": (225, 0.08, 0.48), "sea": (220, 0.1, 0.52),
    "ocean": (235, 0.11, 0.45), "river": (215, 0.08, 0.55), "lake": (205, 0.08, 0.55),
    "ice": (215, 0.04, 0.85), "snow": (230, 0.015, 0.95), "rain": (240, 0.04, 0.6),
    "fog": (230, 0.015, 0.75), "mist": (220, 0.02, 0.8), "sky": (235, 0.1, 0.7),
    "dusk": (300, 0.09, 0.42), "dawn": (30, 0.1, 0.78), "night": (270, 0.07, 0.28),
    "evening": (290, 0.08, 0.4), "morning": (80, 0.08, 0.85), "noon": (95, 0.1, 0.9),
    "sunset": (40, 0.15, 0.68), "sun": (85, 0.15, 0.82), "moon": (260, 0.03, 0.85),
    "forest": (150, 0.08, 0.42), "moss": (130, 0.09, 0.5), "fern": (145, 0.12, 0.55),
    "leaf": (140, 0.13, 0.58), "pine": (160, 0.07, 0.38), "meadow": (130, 0.13, 0.65),
    "grass": (135, 0.14, 0.6), "garden": (140, 0.11, 0.55), "olive": (115, 0.09, 0.52),
    "sage": (145, 0.04, 0.68), "mint": (165, 0.09, 0.82), "kelp": (120, 0.07, 0.4),
    "sand": (85, 0.05, 0.82), "stone": (75, 0.015, 0.6), "slate": (250, 0.02, 0.45),
    "clay": (45, 0.09, 0.58), "earth": (60, 0.06, 0.42), "desert": (65, 0.08, 0.75),
    "wood": (60, 0.07, 0.48), "bark": (55, 0.05, 0.36), "coal": (260, 0.01, 0.25),
    "ash": (80, 0.008, 0.65), "iron": (250, 0.015, 0.42), "steel": (245, 0.02, 0.6),
    "copper": (50, 0.11, 0.6), "brass": (85, 0.11, 0.68), "gold": (85, 0.14, 0.76),
    "silver": (250, 0.01, 0.78), "rust": (40, 0.13, 0.5), "ember": (38, 0.18, 0.6),
    "fire": (35, 0.2, 0.62), "flame": (45, 0.18, 0.68), "lamp": (75, 0.14, 0.77),
    "lantern": (70, 0.14, 0.75), "candle": (80, 0.11, 0.84), "light": (85, 0.12, 0.86),
    "coral": (30, 0.16, 0.68), "rose": (10, 0.14, 0.62), "berry": (355, 0.15, 0.45),
    "cherry": (20, 0.19, 0.48), "wine": (10, 0.11, 0.36), "plum": (330, 0.11, 0.4),
    "heather": (310, 0.1, 0.58), "lavender": (300, 0.09, 0.74), "violet": (295, 0.16, 0.5),
    "iris": (285, 0.15, 0.52), "lilac": (310, 0.09, 0.76), "peach": (50, 0.1, 0.84),
    "apricot": (60, 0.12, 0.8), "orange": (55, 0.17, 0.72), "lemon": (105, 0.16, 0.9),
    "honey": (80, 0.13, 0.75), "mustard": (90, 0.13, 0.7), "wheat": (85, 0.07, 0.82),
    "bread": (70, 0.07, 0.72), "coffee": (55, 0.05, 0.35), "tea": (65, 0.08, 0.5),
    "cream": (90, 0.03, 0.95), "milk": (95, 0.012, 0.97), "linen": (85, 0.02, 0.92),
    "paper": (90, 0.012, 0.95), "ink": (265, 0.05, 0.3), "chalk": (100, 0.008, 0.96),
    "red": (25, 0.2, 0.55), "green": (145, 0.15, 0.55), "blue": (255, 0.16, 0.52),
    "yellow": (100, 0.16, 0.88), "purple": (300, 0.16, 0.5), "pink": (0, 0.13, 0.75),
    "teal": (190, 0.1, 0.52), "brown": (55, 0.07, 0.42), "gray": (250, 0.01, 0.6), "grey": (250, 0.01, 0.6),
    "black": (260, 0.01, 0.2), "white": (90, 0.005, 0.98),
    "tram": (300, 0.1, 0.5), "ferry": (215, 0.1, 0.5), "train": (160, 0.07, 0.42),
    "hospital": (195, 0.07, 0.6), "school": (250, 0.11, 0.55), "bank": (255, 0.09, 0.4),
    "market": (35, 0.14, 0.6), "kitchen": (60, 0.1, 0.68), "museum": (75, 0.03, 0.5),
    "winter": (235, 0.05, 0.6), "spring": (140, 0.12, 0.72), "summer": (90, 0.14, 0.8),
    "autumn": (50, 0.13, 0.56), "storm": (255, 0.05, 0.38), "wind": (210, 0.04, 0.75),
}  # fmt: skip

#: How a word turns what the others say: chroma and lightness factors, a hue to lean to, how far.
MOODS: dict[str, tuple[float, float, float, float]] = {
    "calm": (0.75, 1.02, 0, 0), "quiet": (0.6, 1.04, 0, 0), "soft": (0.7, 1.1, 0, 0),
    "gentle": (0.75, 1.06, 0, 0), "muted": (0.55, 1.0, 0, 0), "pale": (0.55, 1.2, 0, 0),
    "deep": (1.05, 0.82, 0, 0), "dark": (0.95, 0.75, 0, 0), "heavy": (0.9, 0.8, 0, 0),
    "bright": (1.25, 1.12, 0, 0), "vivid": (1.4, 1.0, 0, 0), "bold": (1.35, 0.95, 0, 0),
    "loud": (1.45, 1.0, 0, 0), "brisk": (1.2, 1.0, 0, 0), "fresh": (1.15, 1.1, 165, 0.2),
    "clear": (1.1, 1.06, 220, 0.1), "salty": (0.9, 1.0, 205, 0.35), "dusty": (0.6, 1.0, 60, 0.1),
    "warm": (1.1, 1.04, 65, 0.6), "hot": (1.3, 1.0, 35, 0.7), "cool": (0.9, 1.0, 230, 0.5),
    "cold": (0.85, 1.02, 240, 0.6), "dry": (0.7, 1.02, 80, 0.2), "wet": (0.95, 0.95, 215, 0.2),
    "old": (0.7, 0.95, 70, 0.25), "serious": (0.7, 0.85, 255, 0.2), "playful": (1.3, 1.06, 0, 0),
    "trusted": (0.9, 0.92, 250, 0.3), "friendly": (1.1, 1.06, 55, 0.15), "sober": (0.5, 0.95, 0, 0),
}  # fmt: skip
_ACCENT = re.compile(r"\b(?:one|single|touch|spot|hint|with|accent)\b")
_WORD = re.compile(r"[a-zäöüß]+")
_PLAIN = frozenset(
    [
        "a",
        "an",
        "and",
        "at",
        "by",
        "for",
        "from",
        "in",
        "into",
        "its",
        "of",
        "on",
        "one",
        "or",
        "over",
        "single",
        "spot",
        "that",
        "the",
        "their",
        "this",
        "to",
        "touch",
        "hint",
        "under",
        "very",
        "with",
        "accent",
        "some",
        "more",
        "less",
        "like",
        "accents",
    ]
)

#: Names for colors that no word of the brief has named, by hue band of 45 degrees.
_NAMES = (
    ("brick", "coral", "rosewood"), ("clay", "honey", "straw"), ("reed", "olive", "moss"),
    ("fern", "pine", "mint"), ("tide", "lagoon", "frost"), ("harbor", "slate", "midnight"),
    ("iris", "heather", "thistle"), ("plum", "wine", "rose"),
)  # fmt: skip
_NEUTRALS = ("stone", "chalk", "slate", "ash", "linen", "fog")
#: How the hues of second, accent and quiet stand to the main one, set by set.
_TURNS = (
    (35, 190, -30),
    (-40, 160, 60),
    (15, 90, -20),
    (120, 240, 30),
    (60, 200, 180),
    (-25, -120, 90),
)
_STRENGTHS = (1.0, 1.3, 0.8, 1.15, 0.9, 1.45)
_TITLES = (
    "close hues",
    "across the wheel",
    "one family",
    "three corners",
    "open pair",
    "cross wind",
)


@dataclass(frozen=True, slots=True)
class _Look:
    hue: float
    chroma: float
    lightness: float


class WordIdeas:
    """The stand-in behind ``IdeaSource``."""

    notice = (
        "These ideas come from a small stand-in that ships with this application: a list of "
        "words and arithmetic, no service."
    )

    def ideas(self, brief: Brief) -> tuple[Idea, ...]:
        """Six ideas for a brief. Raises ``PrismError`` for empty or endless words."""
        words = brief.words.strip().lower()
        if not words:
            raise PrismError("There are no words.", fix="Write a mood, a place or a thing.")
        if len(words) > MAX_WORDS:
            raise PrismError(f"At most {MAX_WORDS} characters of words are read.")
        path = _path(brief.like)
        return tuple(_idea(words, (*path, number), brief.held) for number in range(COUNT))


def _path(key: str) -> tuple[int, ...]:
    if not key:
        return ()
    if not re.fullmatch(r"[0-5](-[0-5]){0,11}", key) or key.count("-") >= MAX_DEPTH - 1:
        raise PrismError("That idea cannot be found again.", fix="Ask with words.")
    return tuple(int(number) for number in key.split("-"))


def _idea(words: str, path: tuple[int, ...], held: tuple[NamedColor, ...]) -> Idea:
    looks = _looks(words, path[0])
    for depth in range(1, len(path)):
        looks = _varied(looks, words, path[: depth + 1])
    by_role = {color.role: color for color in held}
    if "main" in by_role:
        _, _, hue = oklch(by_role["main"].color)
        turn = hue - looks["main"].hue
        stated = {"accent"} if _clauses(words)[1] else set()
        looks = {
            role: look if role in stated else replace(look, hue=look.hue + turn)
            for role, look in looks.items()
        }
    names = _names(words, looks, held)
    colors = tuple(
        by_role.get(role) or NamedColor(role, names[role], _color(look))
        for role, look in looks.items()
    )
    title = _TITLES[path[0]] + "".join(f", turn {number + 1}" for number in path[1:])
    return Idea("-".join(map(str, path)), title, colors)


def _clauses(words: str) -> tuple[str, str]:
    """The words that speak of the whole, and those that speak of an accent, which may be none."""
    clauses = [clause for clause in re.split(r"[,;.:]", words) if clause.strip()]
    accents = [clause for clause in clauses[1:] if _ACCENT.search(clause)]
    mains = [clause for clause in clauses if clause not in accents] or clauses
    return " ".join(mains), " ".join(accents)


def _looks(words: str, number: int) -> dict[Role, _Look]:
    mains, accents = _clauses(words)
    turns = _TURNS[number]
    main = _read(mains, number)
    drift = _noise(words, str(number)) * 24 - 12
    base = replace(main, hue=main.hue + drift, chroma=main.chroma * _STRENGTHS[number])
    chroma = min(max(base.chroma, 0.03), 0.2)
    accent = _Look(base.hue + turns[1], max(chroma * 1.3, 0.11), 0.74)
    if accents:
        wanted = _read(accents)
        accent = _Look(
            wanted.hue + (drift if number % 2 else -drift),
            max(wanted.chroma, 0.1),
            wanted.lightness,
        )
    light = min(max(base.lightness, 0.34), 0.66)
    return {
        "neutral": _Look(base.hue, min(chroma * 0.12, 0.018), 0.52),
        "main": _Look(base.hue, chroma, light),
        "second": _Look(base.hue + turns[0], chroma * 0.85, min(light + 0.14, 0.72)),
        "accent": replace(accent, lightness=min(max(accent.lightness, 0.62), 0.85)),
        "quiet": _Look(base.hue + turns[2], chroma * 0.4, 0.66),
    }


def _read(words: str, leads: int = 0) -> _Look:
    """What some words suggest together; hues are averaged on the circle.

    ``leads`` says which of the things named counts most, from 0 and around again.
    """
    things = [(word, _thing(word)) for word in _words(words) if word not in MOODS]
    looks = [look for _, look in things] or [_thing(words.strip() or "gray")]
    looks = looks[leads % len(looks) :] + looks[: leads % len(looks)]
    east = north = 0.0
    for place, look in enumerate(looks):
        weight = look.chroma / (1 + place * 1.6)
        vector = space.engine(space.Color("oklch", (0.5, weight, look.hue))).convert("oklab")
        _, a, b = vector.coords()
        east, north = east + float(a), north + float(b)
    _, _, hue = oklch(space.Color("oklab", (0.5, east, north)))
    chroma = sum(look.chroma for look in looks) / len(looks)
    lightness = sum(look.lightness for look in looks) / len(looks)
    for word in _words(words):
        if word in MOODS:
            strength, light, lean, far = MOODS[word]
            chroma, lightness = chroma * strength, min(lightness * light, 0.97)
            hue += (((lean - hue + 180) % 360) - 180) * far
    return _Look(hue % 360, chroma, lightness)


def _words(text: str) -> list[str]:
    return [word for word in _WORD.findall(text) if word not in _PLAIN]


def _thing(word: str) -> _Look:
    for form in (word, word.removesuffix("s"), word.removesuffix("y")):
        if form in THINGS:
            return _Look(*THINGS[form])
    return _Look(_noise(word, "hue") * 360, 0.06 + _noise(word, "chroma") * 0.08, 0.5)


def _varied(looks: dict[Role, _Look], words: str, path: tuple[int, ...]) -> dict[Role, _Look]:
    """A neighbor of an idea: a little turned, stronger or weaker, lighter or darker."""
    varied: dict[Role, _Look] = {}
    for role, look in looks.items():
        mark = "-".join(map(str, path)) + role
        varied[role] = _Look(
            look.hue + (_noise(words, mark + "h") - 0.5) * 36,
            look.chroma * (0.8 + _noise(words, mark + "c") * 0.45),
            min(max(look.lightness + (_noise(words, mark + "l") - 0.5) * 0.1, 0.3), 0.88),
        )
    return varied


def _noise(*parts: str) -> float:
    """A number from 0 to 1 that is always the same for the same parts."""
    digest = hashlib.sha256("\0".join(parts).encode()).digest()
    return int.from_bytes(digest[:6], "big") / 2**48


def _color(look: _Look) -> space.Color:
    wanted = space.Color("oklch", (look.lightness, look.chroma, look.hue % 360))
    red, green, blue, _ = space.rgba8(wanted)
    return space.Color("srgb", (red / 255, green / 255, blue / 255))


def _names(words: str, looks: dict[Role, _Look], held: tuple[NamedColor, ...]) -> dict[Role, str]:
    """A name for each role: words of the brief that name a thing, then names by hue."""
    taken = {color.name for color in held}
    kept = {color.role for color in held}
    mains, accents = (_things_said(part) for part in _clauses(words))
    names: dict[Role, str] = {}
    for role in ROLES:
        if role in kept:
            continue
        things = accents if role == "accent" and accents else mains
        free = _candidates(role, looks[role], things)
        names[role] = next(name for name in free if name not in taken)
        taken.add(names[role])
    return names


def _things_said(words: str) -> list[str]:
    return [word for word in _words(words) if word in THINGS or word.removesuffix("s") in THINGS]


def _candidates(role: Role, look: _Look, things: list[str]) -> Iterator[str]:
    if role == "neutral":
        yield from _NEUTRALS
    else:
        near = [
            name for name in things if abs((_thing(name).hue - look.hue + 180) % 360 - 180) < 50
        ]
        yield from near
        band = int(look.hue % 360 // 45)
        yield from _NAMES[band]
        yield from _NAMES[(band + 1) % 8]
    yield from (f"{role} {number}" for number in range(1, 99))
