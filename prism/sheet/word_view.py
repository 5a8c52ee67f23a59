"""The questions about words as they are drawn: each answer in the colors of the project, and what hangs on it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.model.document import Pairing, Token, shown_path
from prism.resolution.failing_pairing import FailingPairing
from prism.resolution.resolver import Theme
from prism.roles.grounds import Guess
from prism.sheet.word_meanings import scheme_of, starts_dark
from prism.sheet.word_questions import (
    AskedWords,
    WordAnswer,
    about,
    answers,
    asked_words,
)

#: Colors of one picture, failing pairings named with an answer, tokens listed, and settled words.
COLORS, NAMED, LISTED, SETTLED = 3, 3, 14, 24
#: How far the colors of a picture lie below each other, by its kind, and beside each other where they are surfaces.
_DOWN, _ASIDE = {"surface": 12, "text": 22, "": 24}, 10
#: The picture for each kind of role; others are drawn as plain swatches.
_PICTURES = {
    "page": "page",
    "surface": "surface",
    "text": "text",
    "icon": "text",
    "label": "label",
    "fill": "fill",
    "line": "line",
    "focus": "line",
    "overlay": "overlay",
}


@dataclass(frozen=True, slots=True)
class Picture:
    """What an answer looks like in one theme, in colors as hex; empty where the project has none: that is hatched.

    ``colors`` are those that are asked about, ``beside`` what stands on each of them, or below.
    """

    kind: str
    page: str
    text: str
    colors: tuple[str, ...]
    beside: tuple[str, ...]

    @property
    def rows(self) -> list[PictureRow]:
        """Each color with what is beside it, and how far it lies from the left and from the top of the picture."""
        return [
            PictureRow(color, beside, place * _ASIDE, place * _DOWN.get(self.kind, _DOWN[""]))
            for place, (color, beside) in enumerate(zip(self.colors, self.beside, strict=True))
        ]


@dataclass(frozen=True, slots=True)
class PictureRow:
    """A color of a picture, what is beside it, and where it lies."""

    color: str
    beside: str
    left: int
    top: int


@dataclass(frozen=True, slots=True)
class ShortReading:
    """A pairing that falls short with an answer: what is read on what, and the smallest ratio."""

    words: str
    reached: str
    required: str


@dataclass(frozen=True, slots=True)
class DrawnAnswer:
    """An answer with its key, its pictures, the roles it gives with how many tokens, and what falls short then."""

    key: str
    answer: WordAnswer
    pictures: tuple[Picture, ...]
    roles: str
    short: tuple[ShortReading, ...]

    @property
    def more(self) -> int:
        """How many pairings fall short that are not named."""
        return len(self.answer.failing) - len(self.short)


@dataclass(frozen=True, slots=True)
class NamedToken:
    """A token with its color in each theme that is drawn, and the role that the first answer gives it."""

    token: Token
    hexes: tuple[str, ...]
    role: str


@dataclass(frozen=True, slots=True)
class WordQuestion:
    """One question: its words, the answers, the tokens it is about, and how many more of these there are."""

    asked: AskedWords
    answers: tuple[DrawnAnswer, ...]
    tokens: tuple[NamedToken, ...]
    more: int

    @property
    def names(self) -> int:
        """In how many names the words stand."""
        return len(self.asked.tokens)

    @property
    def choices(self) -> str:
        """The answers as the end of a question: ``a surface, the page itself, or read on it``."""
        titles = [one.answer.title[:1].lower() + one.answer.title[1:] for one in self.answers]
        return titles[0] if len(titles) == 1 else f"{', '.join(titles[:-1])} or {titles[-1]}"


def in_order(analysis: Analysis, later: Sequence[str]) -> list[AskedWords]:
    """The questions, those that are put off behind the others."""
    return sorted(analysis.once(asked_words), key=lambda one: one.key in later)


def question(analysis: Analysis, word: str, later: Sequence[str]) -> WordQuestion | None:
    """The question about a word, the first one where it is about none; None where nothing is asked."""
    every = in_order(analysis, later)
    if not every:
        return None
    asked = next((one for one in every if word in one.words), None)
    if asked is None:
        asked = (about(analysis, word) if word else None) or every[0]
    tried: tuple[WordAnswer, ...] = analysis.lately(answers, asked)
    drawn = tuple(_drawn(analysis, str(place), one) for place, one in enumerate(tried, 1))
    listed = tuple(_named(analysis, token, tried[0]) for token in asked.tokens[:LISTED])
    return WordQuestion(asked, drawn, listed, len(asked.tokens) - len(listed))


def settled(analysis: Analysis) -> list[tuple[str, int]]:
    """Words in the names of colors whose role is sure, with how many, most first."""
    open_words = {word for one in analysis.once(asked_words) for word in one.words}
    counted = Counter(
        word
        for key, reading in analysis.guesses.readings.items()
        if (known := analysis.roles.get(key)) is not None and known.is_sure
        for word in dict.fromkeys(reading.words)
        if word not in open_words and not word.isdigit()
    )
    return counted.most_common(SETTLED)


def themes(analysis: Analysis) -> tuple[Theme, ...]:
    """The theme one starts with, and the one with the first mode of the other scheme, dark or light."""
    document, start = analysis.document, analysis.resolver.default_theme
    is_dark = starts_dark(document)
    wanted = "light" if is_dark else "dark"
    for place, axis in enumerate(document.axes):
        for number, mode in enumerate(axis.modes):
            if scheme_of(mode) == wanted:
                return start, (*start[:place], number, *start[place + 1 :])
    return (start,)


def _drawn(analysis: Analysis, key: str, answer: WordAnswer) -> DrawnAnswer:
    roles = Counter(str(one.role) for one in answer.roles.values())
    words = ", ".join(f"{role} {count}" for role, count in roles.most_common(3))
    failing = [pairing for pairing in answer.added if pairing.key in answer.failing][:NAMED]
    short = tuple(_short(analysis, pairing, answer.failing[pairing.key]) for pairing in failing)
    pictures = tuple(_picture(analysis, answer, theme) for theme in themes(analysis))
    return DrawnAnswer(key, answer, pictures, words, short)


def _short(analysis: Analysis, pairing: Pairing, short: FailingPairing) -> ShortReading:
    above, below = (_path(analysis, key) for key in (pairing.foreground, pairing.backgrounds[0]))
    return ShortReading(f"{above} on {below}", short.worst.reading.shown, f"{pairing.required:g}")


def _path(analysis: Analysis, key: str) -> str:
    token = analysis.document.token(key)
    return shown_path(token.path) if token else key


def _picture(analysis: Analysis, answer: WordAnswer, theme: Theme) -> Picture:
    kinds = Counter(_PICTURES.get(one.role.kind, "other") for one in answer.roles.values())
    kind = kinds.most_common(1)[0][0]
    keys = [k for k, one in answer.roles.items() if _PICTURES.get(one.role.kind, "other") == kind]
    keys = keys[:COLORS]
    page = next(_keys(answer.every, "page"), "")
    text = next(_keys(answer.every, "text"), "")
    hexes = tuple(_hex(analysis, key, theme) for key in keys)
    beside = tuple(_hex(analysis, _beside(answer.every, key), theme) for key in keys)
    return Picture(kind, _hex(analysis, page, theme), _hex(analysis, text, theme), hexes, beside)


def _keys(every: Mapping[str, Guess], kind: str) -> Iterator[str]:
    return (
        key for key, known in every.items() if known.role.kind == kind and not known.role.detail
    )


def _beside(every: Mapping[str, Guess], key: str) -> str:
    """What a color belongs to, or the label on it; empty where neither is known."""
    if every[key].belongs_to:
        return every[key].belongs_to
    labels = (
        k for k, known in every.items() if known.belongs_to == key and known.role.kind == "label"
    )
    return next(labels, "")


def _hex(analysis: Analysis, key: str, theme: Theme) -> str:
    return analysis.resolver.resolve(key, theme).hex if key else ""


def _named(analysis: Analysis, token: Token, first: WordAnswer) -> NamedToken:
    hexes = tuple(_hex(analysis, token.key, theme) for theme in themes(analysis))
    return NamedToken(token, hexes, str(first.roles[token.key].role))
