"""A person who answers the questions about words from a key written by hand: with the meaning that makes most colors
right and that most of the names with the word have in the key; words that take each other's place are names."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.roles import lexicon, role
from prism.roles.said_words import ROLES, says
from prism.sheet.word_meanings import NAME, NOTHING
from prism.sheet.word_questions import AskedWords, asked_words, with_words
from tests.roles import Keyed

#: Questions that a person answers at most.
MOST = 20


@dataclass(frozen=True)
class Step:
    """What is known after some answers: the words asked about last, the answer, and whether it was on offer."""

    words: tuple[str, ...]
    answer: str
    offered: bool
    right: int
    sure: int
    wrong_and_sure: int
    analysis: Analysis


def right(keyed: Keyed, analysis: Analysis) -> int:
    """How many colors with a key have the role of the key."""
    return sum(_is_right(keyed, analysis, path) for path in keyed.roles)


def _is_right(keyed: Keyed, analysis: Analysis, path: str) -> bool:
    token = analysis.document.token_at(path)
    known = analysis.roles.get(token.key) if token else None
    return known is not None and str(known.role) == keyed.roles[path]


def _step(
    keyed: Keyed, analysis: Analysis, words: tuple[str, ...], answer: str, offered: bool
) -> Step:
    sure = [
        path
        for path in keyed.roles
        if (token := analysis.document.token_at(path)) is not None
        and (known := analysis.roles.get(token.key)) is not None
        and known.is_sure
    ]
    wrong = sum(not _is_right(keyed, analysis, path) for path in sure)
    return Step(words, answer, offered, right(keyed, analysis), len(sure), wrong, analysis)


def _told(keyed: Keyed, asked: AskedWords, meaning: str) -> int:
    """How many of the names with the words have a role in the key that says a meaning."""
    wanted = (role.known(keyed.roles.get(token.path, "")) for token in asked.tokens)
    return sum(one is not None and says(meaning, one) for one in wanted)


def steps(keyed: Keyed, most: int = MOST) -> Iterator[Step]:
    """What is known before any question, and after each answer."""
    analysis = Analysis(keyed.document)
    yield _step(keyed, analysis, (), "", offered=True)
    for _ in range(most):
        every = analysis.once(asked_words)
        if not every:
            return
        asked = every[0]
        meanings = dict.fromkeys((*asked.meanings, NOTHING, *lexicon.names()))
        tried = [
            (meaning, Analysis(with_words(analysis.document, asked.words, meaning)))
            for meaning in meanings
        ]
        if len(asked.words) > 1:
            tried = [one for one in tried if one[0] == NAME]
        answer, analysis = max(
            tried,
            key=lambda one: (
                right(keyed, one[1]) + _told(keyed, asked, one[0]) / 2,
                one[0] not in ROLES,  # what tells more than the kind
            ),
        )
        yield _step(keyed, analysis, asked.words, answer, answer in (*asked.meanings, NOTHING))
