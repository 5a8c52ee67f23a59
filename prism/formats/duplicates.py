"""Names that stand in a table twice: what of them counts."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field, replace
from itertools import count
from typing import Literal

from prism.errors import FormatError
from prism.formats.style_sheets.outcome import SkippedDeclaration
from prism.model.values import Value

#: What counts where a name has two values: nothing, which is refused; the first; the last; or both, the later
#: one with a number.
Choice = Literal["", "first", "last", "number"]
CHOICES: tuple[Choice, ...] = ("", "first", "last", "number")


class DuplicateError(FormatError):
    """A name that has two values, and nobody said which counts."""


@dataclass(frozen=True, slots=True)
class Stated:
    """One value of one token, as a file says it; None for a token that has no value."""

    path: str
    type: str
    tier: str
    description: str
    when: tuple[tuple[str, str], ...]
    value: Value | None
    place: str


@dataclass(slots=True)
class Duplicates:
    """What counts, and the duplicates that were met, each with what became of it."""

    choice: Choice = ""
    met: list[SkippedDeclaration] = field(default_factory=list)

    def settle(self, stated: Iterable[Stated]) -> Iterator[Stated]:
        """The lines that count. The same line twice says nothing new. Raises ``DuplicateError`` for two
        values of one name where nothing was chosen."""
        lines: dict[tuple[str, tuple[tuple[str, str], ...]], Stated] = {}
        first: dict[str, Stated] = {}
        for line in stated:
            known = lines.get((line.path, line.when))
            start = first.setdefault(line.path, line)
            if known is not None and (known.type, known.value) == (line.type, line.value):
                continue
            if known is None and start.type == line.type:
                lines[line.path, line.when] = line
                continue
            taken = self._taken(line, known or start, lines, first)
            if taken is not None:
                lines[taken.path, taken.when] = taken
        yield from lines.values()

    def _taken(
        self,
        line: Stated,
        known: Stated,
        lines: dict[tuple[str, tuple[tuple[str, str], ...]], Stated],
        first: dict[str, Stated],
    ) -> Stated | None:
        """What a duplicate becomes; None where it does not count."""
        if not self.choice:
            raise DuplicateError(
                f"“{line.path}” appears twice, with different values.",
                place=line.place,
                fix=f"The first is at {known.place}; choose which counts, or rename one of them.",
            )
        if self.choice == "first":
            self._note(line, "a duplicate, and the first counts")
            return None
        if self.choice == "last":
            self._note(known, "a duplicate, and the last counts")
            if known.type != line.type:
                for key in [key for key in lines if key[0] == line.path]:
                    del lines[key]
                first[line.path] = line
            return line
        for number in count(2):
            path = f"{line.path} {number}"
            start = first.get(path)
            if start is None or (start.type == line.type and (path, line.when) not in lines):
                numbered = replace(line, path=path)
                first.setdefault(path, numbered)
                return numbered
        return None

    def _note(self, line: Stated, reason: str) -> None:
        self.met.append(SkippedDeclaration(f"{line.path} ({line.place})", "", reason))
