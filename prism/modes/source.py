"""What a proposed mode is made from."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from prism.errors import EditError
from prism.model.document import Document, Token
from prism.model.values import Condition, Value
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver, Theme
from prism.roles.grounds import Guess
from prism.roles.guess import guess


@dataclass(frozen=True, slots=True)
class Start:
    """What a mode ``key`` of an axis is made from: keys of the axis and of the mode ``source``, the color
    ``scheme`` it is to have; ``hues`` are pairs of ramps by key, the second in place of the first; ``factor``
    is what measures are multiplied by."""

    document: Document
    axis: str
    source: str
    key: str
    scheme: str = ""
    hues: tuple[tuple[str, str], ...] = ()
    factor: float = 1.0

    @property
    def resolver(self) -> Resolver:
        """The document's resolver."""
        return resolver_of(self.document)

    @property
    def theme(self) -> Theme:
        """The mode it is made from, with the default modes of the other axes."""
        return self.resolver.theme({self.axis: self.source})

    @property
    def guesses(self) -> dict[str, Guess]:
        """The roles of tokens."""
        return dict(guess(self.document, self.resolver))

    def check(self) -> None:
        """Raise ``EditError`` where the mode to start from is gone."""
        owner = self.document.axis(self.axis)
        if owner is None or all(mode.key != self.source for mode in owner.modes):
            raise EditError("The mode to start from is no longer there.")

    def new_theme(self, resolver: Resolver) -> Theme:
        """The new mode in a document that has it, with the default modes of the other axes."""
        return resolver.theme({self.axis: self.key})

    def values(self, token: Token) -> Iterator[tuple[Condition, Value]]:
        """What a token holds in the mode it is made from, by the modes of the other axes, each once."""
        held: dict[Condition, Value] = {}
        for condition, value in token.values:
            picks = dict(condition.picks)
            mode = picks.pop(self.axis, None)
            rest = Condition.of(picks)
            if mode in (None, self.source) and (mode is not None or rest not in held):
                held[rest] = value
        yield from held.items()

    def here(self, rest: Condition) -> Condition:
        """A condition on the other axes, in the new mode."""
        return Condition.of({**dict(rest.picks), self.axis: self.key})
