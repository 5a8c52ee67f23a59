"""What the words in a project's names mean, asked a word at a time: one answer for all names with that word.

Each answer is tried before it is offered: what its colors would be for then, which pairings that would add, and
which of those fall short. What is offered is what the colors allow; a person may say anything else.
"""

from __future__ import annotations

import re
from collections.abc import Container, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from prism.analysis import Analysis
from prism.model.document import Document, Pairing, Token, Word
from prism.resolution.contrast_table import failing
from prism.resolution.failing_pairing import FailingPairing
from prism.roles import guess, rules
from prism.roles.evidence import Named
from prism.roles.grounds import Guess
from prism.roles.guess import Guesses
from prism.roles.role import UNKNOWN
from prism.roles.said_words import says
from prism.sheet.word_meanings import (
    MOST_TRIED,
    NAME,
    OFTEN,
    TRIED,
    fits,
    likely,
    page_of,
)

#: Answers that are offered, and words that are tried.
OFFERED, MOST_WORDS = 3, 8
#: Meanings of words that are asked about all the same: they say how strong something is, and not what.
_VAGUE = frozenset(("main", "quiet", "soft", "strong"))
#: Colors that are guessed at most to try answers, all trials together: about half a second of them.
_MOST_GUESSED = 8_000
_STEP = Guess(UNKNOWN, 0.0, "a color of the palette")
_WORD = re.compile(r"[a-z]{2,40}\Z")
#: The share of colors that an answer must make what it says, and how much counts what is known and not sure.
_MOSTLY, _HALF_KNOWN = 0.4, 0.25
#: How many pairings a color makes that is on no list of grounds or texts.
_FEW = 2
#: Places in names that words share at least to be asked about together, and how many such words.
_PLACES, _ALIKE = 3, 3


@dataclass(frozen=True, slots=True)
class WordAnswer:
    """What words may mean: the meaning, the answer in words and what it is about, the guess of each token with one of
    the words, what pairings it adds, the failing ones with where, and every guess then."""

    meaning: str
    title: str
    about: str
    roles: Mapping[str, Guess]
    added: tuple[Pairing, ...]
    failing: Mapping[str, FailingPairing]
    every: Mapping[str, Guess]


@dataclass(frozen=True, slots=True)
class AskedWords:
    """A word that is not sure, or several that take each other's place: the tokens with one of them of which it is
    not sure what they are for, and the meanings on offer, the likeliest first. ``weight`` is about how many
    pairings hang on the answer."""

    words: tuple[str, ...]
    tokens: tuple[Token, ...]
    meanings: tuple[str, ...]
    weight: int

    @property
    def key(self) -> str:
        """What addresses call it."""
        return self.words[0]


def asked_words(analysis: Analysis) -> tuple[AskedWords, ...]:
    """What to ask about, that on which most pairings hang first. Behind these stand words whose names all have another
    word that is asked about, as ``thick`` in ``rope thick`` beside ``rope``, and words in one name alone. Asked for by
    ``Analysis.once``."""
    page = page_of(analysis)
    unsure = _unsure_words(analysis)
    groups = sorted(_groups(analysis, unsure), key=lambda words: -len(_with(words, unsure)))
    made: list[AskedWords] = []
    tries = _MOST_GUESSED // max(len(analysis.guesses.readings), 1)
    for words in groups:
        if len(made) == MOST_WORDS:
            break
        tokens = _with(words, unsure)
        tries -= MOST_TRIED + 1
        look = _asked if tries >= 0 else _untried
        asked = look(analysis, words, tokens, page)
        made += [asked] if asked else []
    keys = {one.key: {token.key for token in one.tokens} for one in made}
    inner = {key for key, of in keys.items() if any(of < other for other in keys.values())}

    def place(one: AskedWords) -> tuple[bool, bool, int, str]:
        return one.key in inner, len(one.tokens) == 1, -one.weight, one.key

    return tuple(sorted(made, key=place))


def said_elsewhere(analysis: Analysis, words: Iterable[Word]) -> tuple[Word, ...]:
    """Those of some words that stand in names of colors of which it is not sure what they are for, and of which this
    project has said nothing."""
    unsure = _unsure_words(analysis)
    return tuple(word for word in words if word.key in unsure)


def about(analysis: Analysis, word: str) -> AskedWords | None:
    """The question about a word, whether or not it is among the first; None where there is nothing to ask of it."""
    unsure = _unsure_words(analysis)
    words = next((group for group in _groups(analysis, unsure) if word in group), ())
    return _asked(analysis, words, _with(words, unsure), page_of(analysis)) if words else None


def answers(analysis: Analysis, asked: AskedWords) -> tuple[WordAnswer, ...]:
    """What each meaning on offer would make of the document."""
    before = {_stack(p) for p in rules.demanded(analysis.document, analysis.roles)}
    return tuple(_answer(analysis, asked, meaning, before) for meaning in asked.meanings)


def _answer(
    analysis: Analysis, asked: AskedWords, meaning: str, before: Container[tuple[str, ...]]
) -> WordAnswer:
    document, known = _tried(analysis, asked.words, meaning)
    after = rules.demanded(document, known.all)
    added = tuple(pairing for pairing in after if _stack(pairing) not in before)
    title, about = TRIED[meaning]
    made = {token.key: known.all.get(token.key, _STEP) for token in asked.tokens}
    return WordAnswer(
        meaning,
        title,
        about,
        made,
        added,
        failing(analysis.answers, added),
        known.all,
    )


def _stack(pairing: Pairing) -> tuple[str, ...]:
    return (pairing.foreground, *pairing.backgrounds)


def _unsure_words(analysis: Analysis) -> dict[str, list[Token]]:
    """The words of names of colors whose role is not sure that no list and nobody has said anything of."""
    said = {word.key for word in analysis.document.words}
    found: dict[str, list[Token]] = {}
    for token in analysis.document.tokens:
        known = analysis.roles.get(token.key)
        if known is None or known.is_sure:
            continue
        name = analysis.guesses.readings[token.key].name
        for word, held in zip(name.words, name.meanings, strict=True):
            vague = held <= _VAGUE
            if vague and word not in said and _WORD.match(word):
                found.setdefault(word, []).append(token)
    return found


def _with(words: Iterable[str], unsure: Mapping[str, Sequence[Token]]) -> tuple[Token, ...]:
    """The tokens with one of some words, each once."""
    return tuple({token.key: token for word in words for token in unsure[word]}.values())


def _groups(analysis: Analysis, unsure: Mapping[str, Sequence[Token]]) -> list[tuple[str, ...]]:
    """Words that stand in the same places of names, together; each other word by itself."""
    places: dict[str, set[tuple[str, ...]]] = {
        word: {_place(analysis, token.key, word) for token in tokens}
        for word, tokens in unsure.items()
    }
    groups: list[list[str]] = []
    for word, of_word in places.items():
        for group in groups:
            shared = of_word & places[group[0]]
            every = of_word | places[group[0]]
            if len(shared) >= _PLACES and 2 * len(shared) >= len(every):
                group.append(word)
                break
        else:
            groups.append([word])
    together = [tuple(group) for group in groups if len(group) >= _ALIKE]
    return together + [(word,) for group in groups if len(group) < _ALIKE for word in group]


def _place(analysis: Analysis, key: str, word: str) -> tuple[str, ...]:
    words = analysis.guesses.readings[key].words
    return tuple("" if one == word else one for one in words)


def _asked(
    analysis: Analysis, words: tuple[str, ...], tokens: tuple[Token, ...], page: Named | None
) -> AskedWords | None:
    """Words with the meanings that their colors allow; None where no answer would make any of the tokens sure."""
    scored: list[tuple[float, str, tuple[str, ...], float]] = []
    known_before = sum(analysis.roles[token.key].role.kind != "unknown" for token in tokens)
    for meaning in likely(analysis, words, tokens, page):
        _, known = _tried(analysis, words, meaning)
        made = [known.all.get(token.key, _STEP) for token in tokens]
        if sum(_says(meaning, one) for one in made) < _MOSTLY * len(made):
            continue
        known_now = sum(one.role.kind != "unknown" for one in made)
        if not any(one.is_sure for one in made) and known_now <= known_before:
            continue
        readings = [analysis.guesses.readings[token.key] for token in tokens]
        allowed = [fits(*pair, analysis, page) for pair in zip(made, readings, strict=True)]
        score = sum(allowed) / len(allowed) * OFTEN.get(meaning, 1.0)
        score -= _lost(analysis, known) / len(tokens)
        weight = sum(
            fit * _weight(analysis, one) * (1.0 if one.is_sure else _HALF_KNOWN)
            for fit, one in zip(allowed, made, strict=True)
        )
        scored.append((score, meaning, tuple(str(one.role) for one in made), weight))
    scored.sort(key=lambda one: -one[0])
    offered: dict[tuple[str, ...], tuple[str, float]] = {}
    for _, meaning, roles, weight in scored:
        if len(offered) < OFFERED:
            offered.setdefault(roles, (meaning, weight))
    if not offered:
        return None
    (_, weight), *_rest = offered.values()
    meanings = [meaning for meaning, _ in offered.values()]
    if NAME not in meanings and _leads(analysis, words, tokens):
        meanings = [*meanings[: OFFERED - 1], NAME]
    return AskedWords(words, tokens, tuple(meanings), round(weight))


def _leads(analysis: Analysis, words: Sequence[str], tokens: Sequence[Token]) -> bool:
    """Whether a word begins the names of several colors, as the name of a component does."""
    names = [analysis.guesses.readings[token.key].words for token in tokens]
    return len(names) > 1 and all(len(name) > 1 and name[0] in words for name in names)


def _untried(
    analysis: Analysis, words: tuple[str, ...], tokens: tuple[Token, ...], page: Named | None
) -> AskedWords:
    """Words of a large document, with the meanings that their colors allow at first sight."""
    meanings = likely(analysis, words, tokens, page)[:OFFERED]
    return AskedWords(words, tokens, tuple(meanings), len(tokens))


def _says(meaning: str, known: Guess) -> bool:
    """Whether a role is what an answer says: a word for an action that leaves a text a text says something else."""
    if meaning == NAME:
        return known.role.kind != "unknown"
    strong = meaning in ("soft", "strong") and known.role.kind in ("fill", "status")
    return strong or says(meaning, known.role)


def with_words(document: Document, words: Iterable[str], meaning: str) -> Document:
    """The document with words of its own that mean something."""
    kept = dict.fromkeys(words)
    rest = tuple(known for known in document.words if known.key not in kept)
    return replace(document, words=(*rest, *(Word(word, meaning) for word in kept)))


def _tried(analysis: Analysis, words: Iterable[str], meaning: str) -> tuple[Document, Guesses]:
    document = with_words(analysis.document, words, meaning)
    return document, guess.guesses(document, analysis.resolver)


def _lost(analysis: Analysis, known: Guesses) -> int:
    """How many colors that were sure are something else, or no longer sure."""
    return sum(
        was.is_sure and (not now.is_sure or now.role != was.role)
        for key, was in analysis.roles.items()
        if (now := known.all.get(key)) is not None
    )


def _weight(analysis: Analysis, known: Guess) -> int:
    """About how many pairings a color with a role makes."""
    if known.role.kind in ("page", "surface") and not known.role.detail:
        return _count(analysis.roles.values(), "text") + _FEW
    if known.role.kind in ("text", "icon", "focus") or known.role.detail == "control":
        return 1 if known.belongs_to else _count(analysis.roles.values(), "page", "surface") + 1
    return _FEW if known.role.kind in ("label", "fill", "status") else 1


def _count(guesses: Iterable[Guess], *kinds: str) -> int:
    return sum(known.role.kind in kinds for known in guesses)
