"""Tokens of which it is not sure what they are for, as questions that one key answers."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.model.document import Token
from prism.resolution.resolver import Theme
from prism.roles.grounds import Guess

Unsure = Sequence[tuple[Token, Guess]]

#: Roles that most tokens have, each with the key that answers with it.
_USUAL = (
    ("p", "page"),
    ("s", "surface"),
    ("t", "text"),
    ("q", "text quiet"),
    ("l", "label"),
    ("i", "icon"),
    ("a", "fill action"),
    ("e", "fill field"),
    ("b", "line soft"),
    ("c", "line control"),
    ("f", "focus"),
    ("v", "overlay"),
    ("h", "chart"),
    ("o", "other"),
)


@dataclass(frozen=True, slots=True)
class Answer:
    """A role to answer with, its key, and what the button says."""

    role: str
    key: str
    words: str


@dataclass(frozen=True, slots=True)
class Question:
    """What is asked of one token: its guess, its color as hex, the answers on offer, its place among all
    questions from 1, and the key of the token that comes next, empty where there is no other."""

    token: Token
    guess: Guess
    hex: str
    answers: tuple[Answer, ...]
    place: int
    count: int
    next: str

    @property
    def text(self) -> str:
        """The guessed role as text."""
        return str(self.guess.role)

    @property
    def cell(self) -> str:
        """The address of the token's base cell in the sheet."""
        return f"{self.token.key}:"


def unsure(analysis: Analysis) -> list[tuple[Token, Guess]]:
    """The tokens whose role is not sure, in document order, each with its guess."""
    roles = analysis.roles
    return [
        (token, roles[token.key])
        for token in analysis.document.tokens
        if token.key in roles and not roles[token.key].is_sure
    ]


def question(analysis: Analysis, theme: Theme, asked: Unsure, key: str = "") -> Question | None:
    """The question about the token with a key, about the first of ``asked`` where it is none of them;
    None where nothing is to be asked."""
    if not asked:
        return None
    keys = [token.key for token, _ in asked]
    place = keys.index(key) if key in keys else 0
    token, known = asked[place]
    answers = [Answer(role, letter, role) for letter, role in _USUAL if role != str(known.role)]
    if known.role.kind != "unknown":
        answers.insert(0, Answer(str(known.role), "y", f"Yes, {known.role}"))
    following = keys[(place + 1) % len(keys)]
    return Question(
        token,
        known,
        analysis.resolver.resolve(token.key, theme).hex,
        tuple(answers),
        place + 1,
        len(keys),
        following if following != token.key else "",
    )


def after(before: Analysis, now: Analysis, key: str) -> str:
    """The key of the token to be asked about next, once the one with ``key`` is answered: the first
    behind it that is still not sure, else the first of all; empty where none is left."""
    left = [token.key for token, _ in unsure(now) if token.key != key]
    order = [token.key for token in before.document.tokens]
    behind = order[order.index(key) :] if key in order else []
    return next((other for other in behind if other in left), left[0] if left else "")
