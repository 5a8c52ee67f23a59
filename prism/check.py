"""What a check is, what it sees, and what it finds."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Literal

from prism.analysis import Analysis
from prism.model.document import Token

#: An error for those who use the product; a warning, as it may be meant; a note. The words are those of SARIF 2.1.0.
Severity = Literal["error", "warning", "note"]
#: The parts of the checks, in the order they are shown.
Section = Literal["contrast", "balance", "vision", "coverage", "hygiene"]
SECTIONS: tuple[Section, ...] = ("contrast", "balance", "vision", "coverage", "hygiene")


@dataclass(frozen=True, slots=True)
class Fix:
    """What a person can do about a finding, in words; where a command does it, its id and fields."""

    words: str
    command: str = ""
    fields: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True, slots=True)
class Finding:
    """What a check has to say about one thing.

    ``check`` is the id of the check, ``what`` a sentence, ``token`` a token's key or empty and
    ``others`` those of further tokens; ``about`` tells apart what is found of the same tokens, and
    ``part`` is the key of a pairing or a set. ``where`` is a file or modes, ``themes`` in how many
    themes it is so (0 where it does not depend on the theme). ``accepted`` says why it is no
    matter, ``accepted_by`` who said so, and ``until`` up to which day, as ``2026-12-31``.
    """

    check: str
    what: str
    token: str = ""
    where: str = ""
    themes: int = 0
    severity: Severity = "warning"
    fixes: tuple[Fix, ...] = ()
    others: tuple[str, ...] = ()
    about: str = ""
    part: str = ""
    accepted: str = ""
    accepted_by: str = ""
    until: str = ""

    @property
    def tokens(self) -> tuple[str, ...]:
        """The keys of all tokens it is about."""
        return (self.token, *self.others) if self.token else self.others

    @property
    def identity(self) -> tuple[str, tuple[str, ...], str]:
        """What it is known by while names change."""
        return self.check, self.tokens, self.about

    def is_open(self, today: str = "") -> bool:
        """Whether nobody has accepted it, or no longer by ``today``, as ``2026-12-31``."""
        return not self.accepted or bool(self.until and today and self.until < today)


@dataclass(frozen=True, slots=True)
class Looked:
    """Over how many things a check looked, what one and many of them are called, and what it left out, in words."""

    count: int
    one: str
    many: str = ""
    left_out: str = ""

    @property
    def words(self) -> str:
        """``67 pairings``; ``no pairing`` for none."""
        many = self.many or f"{self.one}s"
        looked = (
            f"{self.count:,} {self.one if self.count == 1 else many}"
            if self.count
            else f"no {self.one}"
        )
        return f"{looked}; {self.left_out} not judged" if self.left_out else looked


@dataclass(frozen=True, slots=True)
class Check:
    """A check: a stable id, a title, one sentence of why it matters, its run, over what it looks, the section it is
    shown in, and what it finds of one token where it looks at each by itself."""

    id: str
    title: str
    why: str
    run: Callable[[Analysis], Iterable[Finding]]
    looked: Callable[[Analysis], Looked]
    section: Section = "hygiene"
    of: Callable[[Analysis, Token], Iterable[Finding]] | None = None


def check_of_tokens(
    id: str,
    title: str,
    why: str,
    of: Callable[[Analysis, Token], Iterable[Finding]],
    looked: Callable[[Analysis], Looked],
) -> Check:
    """A check that looks at each token by itself: at its values, its answers, and what it refers to. What it found
    holds until one of these changes."""

    def run(analysis: Analysis) -> Iterable[Finding]:
        for token in analysis.document.tokens:
            yield from of(analysis, token)

    return Check(id, title, why, run, looked, of=of)


def tokens_of(analysis: Analysis) -> Looked:
    """A look over every token."""
    return Looked(len(analysis.document.tokens), "token")


def above_raw(analysis: Analysis) -> Looked:
    """A look over the tokens above the raw tier."""
    return Looked(sum(token.tier != "raw" for token in analysis.document.tokens), "semantic token")
