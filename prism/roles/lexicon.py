"""The meanings of words in names, read from ``lexicon.toml``."""

from __future__ import annotations

import re
import tomllib
import unicodedata
from collections.abc import Mapping
from functools import cache, lru_cache
from pathlib import Path

_FILE = Path(__file__).with_name("lexicon.toml")
#: Meanings that say nothing of what a color is for.
_APART = ("dark", "light", "radius", "space")
_LETTERS = str.maketrans({"ß": "ss", "ł": "l", "Ł": "L"})
_WORD = re.compile(r"[A-Z]+(?![a-z])|[A-Z]?[a-z]+|\d+")
#: Words that say of a text that it is quiet, of a line that it only sets off, and of a surface that it is pale.
SOFT = frozenset(("subtle", "soft", "pale", "light"))
#: Letters of a word that is not looked for inside others.
_SHORT = 3
_NOTHING: frozenset[str] = frozenset()


def folded(text: str) -> str:
    """A text without accents; ``ß`` as ``ss``, and ``ł`` as ``l``, which are no letters with accents."""
    parts = unicodedata.normalize("NFKD", text.translate(_LETTERS))
    return "".join(part for part in parts if not unicodedata.combining(part))


@lru_cache(maxsize=65536)
def words_of(path: str) -> tuple[str, ...]:
    """The words of a path in lower case, without accents; camel case and digits part words."""
    return tuple(word.lower() for word in _WORD.findall(folded(path.removesuffix(".$root"))))


@cache
def meanings() -> Mapping[str, frozenset[str]]:
    """The meanings of every known word, but for those that say nothing of what a color is for."""
    known: dict[str, set[str]] = {}
    for meaning in names():
        for word in words_for(meaning):
            known.setdefault(word, set()).add(meaning)
    return {word: frozenset(names) for word, names in known.items()}


@cache
def _lexicon() -> Mapping[str, Mapping[str, str]]:
    """Words by language by meaning, as the file has them."""
    return tomllib.loads(_FILE.read_text(encoding="utf-8"))


@cache
def names() -> tuple[str, ...]:
    """The names of the meanings that say what a color is for, in the order of the lexicon."""
    return tuple(name for name in _lexicon() if name not in _APART)


@cache
def words_for(meaning: str) -> frozenset[str]:
    """All words of a meaning, in every language."""
    return frozenset(word for words in _lexicon()[meaning].values() for word in words.split())


def scheme_named(name: str) -> str:
    """Whether a name says that a mode is ``dark`` or ``light``; empty where it says neither, or both."""
    whole = {*words_of(name)}
    dark = whole & words_for("dark") or _compound(folded(name).lower(), words_for("dark"))
    light = whole & words_for("light")
    return "" if bool(dark) == bool(light) else "dark" if dark else "light"


def _compound(name: str, words: frozenset[str]) -> bool:
    """Whether a name holds one of some words as a part, as ``midnight`` does; short words are parts of too many."""
    return any(word in name for word in words if len(word) > _SHORT)


def meanings_of(word: str, own: Mapping[str, frozenset[str]] | None = None) -> frozenset[str]:
    """What a word can mean; ``own`` are words that a project has added."""
    if own and word in own:
        return own[word]
    return meanings().get(word) or meanings().get(word.removesuffix("s"), _NOTHING)
