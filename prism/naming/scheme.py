"""Token names from a scheme: an ordered list of parts, each with its words.

The names are every word of each part with every word of the next; what is not needed is struck.
First mappings are guessed from the words, and are only a beginning.
"""

from __future__ import annotations

import itertools
import re
from collections.abc import Callable, Collection, Iterable
from dataclasses import dataclass, replace

from prism.changes.references import check_path
from prism.changes.structure import add_tokens
from prism.coverage import additions
from prism.errors import EditError
from prism.expressions.typed_input import reference_to
from prism.model.document import Document, Ramp, Scheme, Token
from prism.model.storable import MAX_NAME
from prism.model.values import BASE, Condition, Value
from prism.palette.ramp_edits import NewKey
from prism.roles.lexicon import meanings_of, words_of

MOST_NAMES = 2000
#: A word that stands for "no word here", so that a part can be left out of a name.
NONE = "-"
#: Schemes to start from; ours.
STARTING = (
    Scheme(
        "plain",
        "area, role, emphasis",
        (
            ("area", ("text", "surface", "line")),
            ("role", ("main", "accent", "signal")),
            ("emphasis", ("strong", "soft")),
        ),
    ),
    Scheme(
        "parts",
        "part, property, state",
        (
            ("part", ("button", "field", "row", "menu", "tag")),
            ("property", ("fill", "label", "line")),
            ("state", ("rest", "hover", "pressed", "disabled")),
        ),
    ),
    Scheme(
        "levels",
        "surfaces by level",
        (("area", ("surface",)), ("level", ("0", "1", "2", "3", "4")), ("state", (NONE, "hover"))),
    ),
)


@dataclass(frozen=True, slots=True)
class Name:
    """One name of a scheme, and whether a token has it."""

    path: str
    there: bool


def read(name: str, lines: Iterable[tuple[str, str]], key: str) -> Scheme:
    """A scheme from its name and lines of a part's name and its words, separated by spaces.

    Empty lines are skipped. Raises ``EditError`` for a line that has only one of the two.
    """
    parts: list[tuple[str, tuple[str, ...]]] = []
    for number, (part, typed) in enumerate(lines, 1):
        words = tuple(dict.fromkeys(re.findall(r"[^\s,;]+", typed)))
        label = part.strip()
        if words and not label:
            raise EditError("These words need a name for their part.", place=f"Part {number}")
        if label and not words:
            raise EditError(
                "This part has no words.",
                place=f"Part {number}",
                fix="Write its words, or clear its name.",
            )
        if len(label) > MAX_NAME:
            raise EditError(
                f"The name has more than {MAX_NAME} characters.", place=f"Part {number}"
            )
        if label:
            parts.append((label, words))
    if not name.strip():
        raise EditError("A scheme needs a name.")
    if not parts:
        raise EditError("A scheme needs at least one part with words.")
    scheme = Scheme(key, name.strip(), tuple(parts))
    count = 1
    for _, words in parts:
        count *= len(words)
    if count > MOST_NAMES:
        raise EditError(f"The scheme gives {count} names; at most {MOST_NAMES} are possible.")
    for path in paths(scheme):
        check_path(path)
    return scheme


def paths(scheme: Scheme) -> tuple[str, ...]:
    """All names of a scheme, in the order of its words; parts with ``-`` are left out."""
    names = []
    for words in itertools.product(*(words for _, words in scheme.parts)):
        path = ".".join(word for word in words if word != NONE)
        if path:
            names.append(path)
    return tuple(dict.fromkeys(names))


def names(document: Document, scheme: Scheme) -> list[Name]:
    """The names of a scheme against a document."""
    return [Name(path, document.token_at(path) is not None) for path in paths(scheme)]


def store(document: Document, scheme: Scheme) -> Document:
    """The document with a scheme kept, in place of the one of its key."""
    rest = tuple(known for known in document.schemes if known.key != scheme.key)
    return replace(document, schemes=(*rest, scheme))


def add(document: Document, scheme: Scheme, chosen: Collection[str], new_key: NewKey) -> Document:
    """A color token for each chosen name of a scheme that no token has, in the scheme's order.

    A name that is also the start of another is put at the root of that group.
    """
    wanted = [path for path in paths(scheme) if path in chosen and document.token_at(path) is None]
    if not wanted:
        raise EditError(
            "None of the selected names is new.", fix="Select a name that is not a token yet."
        )
    document, guess = _guesser(document, new_key)
    made = []
    for path in wanted:
        rooted = any(other.startswith(path + ".") for other in wanted) or any(
            token.path.startswith(path + ".") for token in document.tokens
        )
        values = guess(path)
        stored = f"{path}.$root" if rooted else path
        made.append(Token(new_key(), stored, "color", "semantic", values))
    return add_tokens(document, made)


_NEUTRAL_STEPS = {
    "text": {"": 10, "strong": 10, "main": 10, "soft": 7, "muted": 7, "faint": 5, "disabled": 5},
    "surface": {"": 0, "strong": 2, "soft": 1, "0": 0, "1": 1, "2": 2, "3": 3, "4": 4, "hover": 1},
    "line": {"": 3, "strong": 6, "soft": 2, "focus": 6},
}
_STATES = {"rest": 0, "hover": 1, "pressed": 2, "selected": 1}
#: Meanings of words that name an area, and those that ask for the main color.
_AREAS = {
    "text": frozenset(("text", "label", "icon")),
    "line": frozenset(("line", "ring")),
}
_ACCENT = frozenset(("action", "button", "accent", "link", "focus", "selected"))


Guess = Callable[[str], tuple[tuple[Condition, Value], ...]]


def _guesser(document: Document, new_key: NewKey) -> tuple[Document, Guess]:
    """The document with the ramps that guesses need, and the guess for a path: a light value, and
    a mirrored one for dark modes."""
    document, neutral = additions.neutral(document, new_key)
    document, main = additions.main(document, new_key)
    dark = additions.dark_conditions(document)

    def guess(path: str) -> tuple[tuple[Condition, Value], ...]:
        words = words_of(path)
        meanings = {meaning for word in words for meaning in meanings_of(word)}
        area = next((name for name, known in _AREAS.items() if known & meanings), "surface")
        ramp = main if _ACCENT & meanings and "disabled" not in words else neutral
        if ramp is main:
            step = {"text": 7, "line": 6, "surface": 7}[area]
            step += sum(_STATES.get(word, 0) for word in words)
            if "soft" in words:
                step = 1 if area == "surface" else step
            if area == "text" and "label" in words:
                ramp, step = neutral, 0
        else:
            table = _NEUTRAL_STEPS[area]
            known = [table[word] for word in words if word in table]
            step = known[-1] if known else table[""]
        return _values(document, ramp, step, dark)

    return document, guess


def _values(
    document: Document, ramp: Ramp, step: int, dark: list[Condition]
) -> tuple[tuple[Condition, Value], ...]:
    last = len(ramp.steps) - 1
    place = round(min(step, 10) / 10 * last)

    def reference(index: int) -> Value:
        token = document.token(ramp.steps[index])
        assert token is not None
        return reference_to(document, token)

    return ((BASE, reference(place)), *((condition, reference(last - place)) for condition in dark))
