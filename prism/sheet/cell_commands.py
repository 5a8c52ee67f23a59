"""What can be done to one cell of the sheet, and to many at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from prism.changes import values
from prism.changes.outcome import Outcome
from prism.commands.command import Command, command
from prism.commands.names import axis_name, counted, mode_name, short, token_name
from prism.errors import EditError
from prism.expressions.typed_input import read_typed, reference_to, typed
from prism.model.document import Document, Token
from prism.model.names import condition_words
from prism.model.values import BASE, Condition
from prism.palette import mapping
from prism.resolution.current import resolver_of
from prism.sheet import paste


@dataclass(frozen=True, slots=True)
class Cells:
    """Cells of the sheet: tokens by key, the axis of the columns and its modes, all else as in the
    theme of ``picks``, pairs of axis and mode. Without an axis there is one cell a token."""

    tokens: tuple[str, ...]
    axis: str = ""
    modes: tuple[str, ...] = ()
    picks: tuple[tuple[str, str], ...] = ()

    def places(
        self, document: Document, tokens: Sequence[str] | None = None
    ) -> list[mapping.Place]:
        """Where the values of these cells, or of ``tokens`` in their columns, are stored."""
        keys = self.tokens if tokens is None else tokens
        if not keys:
            raise EditError("No row is selected.", fix="Select rows, or a range of cells.")
        resolver = resolver_of(document)
        theme = resolver.theme(dict(self.picks))
        return mapping.places(resolver, keys, self.axis, self.modes, theme)


def _token(document: Document, key: str) -> Token:
    token = document.token(key)
    if token is None:
        raise EditError("That token is no longer there.")
    return token


@command("set-value")
@dataclass(frozen=True, slots=True)
class SetValue(Command):
    """Store what was typed for a token under a condition.

    ``text`` is read as a person types it: a path stands for a reference.
    """

    token: str
    text: str
    condition: Condition = BASE

    def apply(self, document: Document) -> Document:
        token = _token(document, self.token)
        value = read_typed(document, self.text, token)
        return values.set_value(document, token.key, self.condition, value)

    def sentence(self, before: Document) -> str:
        token = _token(before, self.token)
        value = short(typed(read_typed(before, self.text, token), token.type))
        where = condition_words(before, self.condition)
        return f"Set {token_name(before, self.token)} to {value} for {where}"


@command("set-value-in-column")
@dataclass(frozen=True, slots=True)
class SetValueInColumn(Command):
    """Store what was typed into a cell where the cell shows it.

    ``axis`` is that of the columns, ``picks`` the theme of the cell as pairs of axis and mode.
    Empty ``text`` takes the value away that the cell holds.
    """

    token: str
    text: str
    axis: str = ""
    picks: tuple[tuple[str, str], ...] = ()

    def condition(self, document: Document) -> Condition:
        """The condition that the value is stored under."""
        return values.condition_in_column(document, self.token, self.axis, dict(self.picks))

    def _command(self, document: Document) -> Command:
        condition = self.condition(document)
        if not self.text.strip():
            return ClearValue(self.token, condition)
        return SetValue(self.token, self.text, condition)

    def outcome(self, document: Document) -> Outcome:
        return self._command(document).run(document)


@command("clear-value")
@dataclass(frozen=True, slots=True)
class ClearValue(Command):
    """Take away what a token holds under a condition."""

    token: str
    condition: Condition

    def apply(self, document: Document) -> Document:
        return values.clear_value(document, self.token, self.condition)

    def sentence(self, before: Document) -> str:
        where = condition_words(before, self.condition)
        return f"Cleared {token_name(before, self.token)} for {where}"


@command("set-on-step")
@dataclass(frozen=True, slots=True)
class SetOnStep(Command):
    """Let the cell of a token refer to a step of a ramp."""

    cells: Cells
    step: str

    def apply(self, document: Document) -> Document:
        target = document.token(self.step)
        if target is None:
            raise EditError("That step is no longer there.")
        text = reference_to(document, target).text
        return mapping.put(document, self.cells.places(document), text).document

    def sentence(self, before: Document) -> str:
        names = [token_name(before, key) for key in self.cells.tokens[:1]]
        return f"Set {names[0]} to {token_name(before, self.step)}"


class _ManyCells(Command):
    """A command over cells: what it does with their places."""

    cells: Cells

    def outcome(self, document: Document) -> Outcome:
        return self._run(document, self.cells.places(document))

    def _run(self, document: Document, places: list[mapping.Place]) -> Outcome:
        raise NotImplementedError

    @property
    def _count(self) -> str:
        return counted(len(self.cells.tokens), "token")


@command("shift-cells")
@dataclass(frozen=True)
class ShiftCells(_ManyCells):
    """Move what cells refer to along its ramp."""

    cells: Cells
    by: int

    def _run(self, document: Document, places: list[mapping.Place]) -> Outcome:
        return mapping.shift(document, places, self.by)

    def sentence(self, before: Document) -> str:
        end = "first" if self.by < 0 else "last"
        return f"Shifted {self._count} towards the {end} step"


@command("mirror-cells")
@dataclass(frozen=True)
class MirrorCells(_ManyCells):
    """Move what cells refer to, to the step as far from the other end of its ramp."""

    cells: Cells

    def _run(self, document: Document, places: list[mapping.Place]) -> Outcome:
        return mapping.mirror(document, places)

    def sentence(self, before: Document) -> str:
        return f"Mirrored {self._count}"


@command("map-cells")
@dataclass(frozen=True)
class MapCells(_ManyCells):
    """Let cells refer to the like steps of another ramp."""

    cells: Cells
    ramp: str

    def _run(self, document: Document, places: list[mapping.Place]) -> Outcome:
        return mapping.map_to(document, places, self.ramp)

    def sentence(self, before: Document) -> str:
        ramp = before.ramp(self.ramp)
        return f"Mapped {self._count} to {ramp.name if ramp else 'a ramp'}"


@command("set-cells")
@dataclass(frozen=True)
class SetCells(_ManyCells):
    """Give many cells the same value."""

    cells: Cells
    text: str

    def _run(self, document: Document, places: list[mapping.Place]) -> Outcome:
        return mapping.put(document, places, self.text)

    def sentence(self, before: Document) -> str:
        return f"Set {self._count} to {short(self.text)}"


@command("fill-cells")
@dataclass(frozen=True)
class FillCells(_ManyCells):
    """Give cells the value of the first row, or the next steps of its ramp row by row."""

    cells: Cells
    along: bool = False

    def _run(self, document: Document, places: list[mapping.Place]) -> Outcome:
        return mapping.fill(document, places, int(self.along))

    def sentence(self, before: Document) -> str:
        how = " along the ramp" if self.along else ""
        return f"Filled {self._count}{how} from the first row"


@command("clear-cells")
@dataclass(frozen=True)
class ClearCells(_ManyCells):
    """Take away what cells hold."""

    cells: Cells

    def _run(self, document: Document, places: list[mapping.Place]) -> Outcome:
        return mapping.clear(document, places)

    def sentence(self, before: Document) -> str:
        return f"Cleared {self._count}"


@command("set-opacity")
@dataclass(frozen=True)
class SetOpacity(_ManyCells):
    """Let color cells cover a share of what they cover now, in percent."""

    cells: Cells
    percent: int

    def _run(self, document: Document, places: list[mapping.Place]) -> Outcome:
        return mapping.wrap_opacity(document, places, self.percent)

    def sentence(self, before: Document) -> str:
        return f"Set the opacity of {self._count} to {self.percent} %"


@command("copy-mode")
@dataclass(frozen=True)
class CopyMode(Command):
    """Store for tokens in one mode what holds for them in another."""

    cells: Cells
    source: str
    target: str

    def outcome(self, document: Document) -> Outcome:
        resolver = resolver_of(document)
        theme = resolver.theme(dict(self.cells.picks))
        if not self.cells.tokens:
            raise EditError("No row is selected.", fix="Select rows, or a range of cells.")
        return mapping.copy_mode(
            resolver, self.cells.tokens, self.cells.axis, self.source, self.target, theme
        )

    def sentence(self, before: Document) -> str:
        axis = self.cells.axis
        source, target = (mode_name(before, axis, key) for key in (self.source, self.target))
        count = counted(len(self.cells.tokens), "token")
        return f"Copied {axis_name(before, axis)} {source} to {target} for {count}"


@command("paste")
@dataclass(frozen=True)
class Paste(Command):
    """Store a pasted table from the first of some cells on, or values with names by their names."""

    cells: Cells
    text: str

    def outcome(self, document: Document) -> Outcome:
        axis = self.cells.axis
        named = paste.named(document, self.text, axis)
        modes = self.cells.modes or ("",)
        if named is not None:
            places: dict[tuple[str, str], mapping.Place] = {}
            for mode in dict.fromkeys(mode for _, _, mode in named.values):
                column = Cells(
                    self.cells.tokens, axis, (mode,) if mode else modes[:1], self.cells.picks
                )
                keys = list(dict.fromkeys(t.key for t, _, known in named.values if known == mode))
                places |= {(p.token.key, mode): p for p in column.places(document, keys)}
            return paste.by_name(document, places, named)
        if paste.unknown(document, self.text, axis):
            raise EditError("None of these names is a token yet.", fix="Add them as new tokens.")
        cells = Cells(self.cells.tokens, self.cells.axis, modes, self.cells.picks)
        rows = [cells.places(document, [key]) for key in self.cells.tokens]
        return paste.onto(document, rows, self.text)

    def sentence(self, before: Document) -> str:
        named = paste.named(before, self.text, self.cells.axis)
        count = len(self.cells.tokens if named is None else {t.key for t, _, _ in named.values})
        return f"Pasted into {counted(count, 'token')}"
