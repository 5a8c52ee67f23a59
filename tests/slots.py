"""What each slot of the scenes should take in foreign documents, by hand: ``tests/data/slots``."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field
from pathlib import Path

from prism.model.document import Document
from prism.resolution.resolver import Resolver
from prism.roles import by_slot
from prism.roles.guess import guess
from tests import roles
from tests.builders import observatory

FOLDER = Path(__file__).parent / "data" / "slots"


@dataclass
class Score:
    """How many slots took what they should, another token, or none though there is one that fits; and the last two
    in words."""

    right: int = 0
    wrong: int = 0
    silent: int = 0
    words: list[str] = field(default_factory=list)

    @property
    def all(self) -> int:
        return self.right + self.wrong + self.silent


def keys(name: str) -> dict[str, dict[str, frozenset[str]]]:
    """By document and slot, the paths of tokens that will do; ``-`` among them where the slot may stay unbound."""
    found: dict[str, dict[str, frozenset[str]]] = {}
    for line in (FOLDER / f"{name}.txt").read_text().splitlines():
        if line.startswith("["):
            here = found.setdefault(line.strip("[]"), {})
        elif line and not line.startswith("#"):
            slot, _, paths = line.partition(" = ")
            here[slot] = frozenset(path.strip() for path in paths.split(" | "))
    return found


def document(name: str) -> Document:
    """A document of that name."""
    return observatory() if name == "observatory" else roles.read(name).document


def score(built: Document, key: dict[str, frozenset[str]]) -> Score:
    """The bindings of a document, held against a key."""
    bound = by_slot.by_slot(built, guess(built, Resolver(built)))
    made = Score()
    for slot, fitting in key.items():
        token = built.token(bound.get(slot, ""))
        path = token.path if token is not None else "-"
        if path in fitting:
            made.right += 1
            continue
        made.words.append(f"{slot}: {path}, not {' or '.join(sorted(fitting))}")
        made.wrong += token is not None
        made.silent += token is None
    return made


def unknown(built: Document, key: dict[str, frozenset[str]]) -> Counter[str]:
    """Paths of a key that the document has not: a slip of the hand that wrote it."""
    there = {token.path for token in built.tokens} | {"-"}
    return Counter(path for fitting in key.values() for path in fitting - there)
