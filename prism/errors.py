"""One hierarchy of errors: a plain sentence, the place, and a fix."""

from __future__ import annotations


def _printable(text: str) -> str:
    """``text`` without what cannot be shown, such as half a character from a damaged file."""
    return text.encode("utf-8", "replace").decode().replace("\0", "�")


class PrismError(Exception):
    """Something a person can put right.

    ``sentence`` says what is wrong, ``place`` where (a file, a path, a position), ``fix``
    what to do. The web and the command line print all three as they are.
    """

    def __init__(self, sentence: str, *, place: str = "", fix: str = "") -> None:
        super().__init__(sentence)
        self.sentence = _printable(sentence)
        self.place = _printable(place)
        self.fix = _printable(fix)

    def __str__(self) -> str:
        parts = [f"{self.place}: {self.sentence}" if self.place else self.sentence]
        if self.fix:
            parts.append(self.fix)
        return " ".join(parts)

    def at(self, place: str) -> PrismError:
        """The same error with ``place`` put in front of its own place."""
        inner = f"{place}, {self.place}" if self.place else place
        return type(self)(self.sentence, place=inner, fix=self.fix)


class ExpressionError(PrismError):
    """A value that does not parse, or parses to the wrong type."""


class FormatError(PrismError):
    """A file that cannot be read as what it claims to be."""


class EditError(PrismError):
    """A change that would leave the document wrong."""


class ConflictError(PrismError):
    """A change made against a state that is no longer there."""
