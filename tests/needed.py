"""Which pairings people need, by what a key written by hand says of each color, and by nothing of the product's rules.

Source of what they need: WCAG 2.2, 1.4.3 (texts, 4.5:1) and 1.4.11 (what shows a control or its focus, 3:1). Which texts
lie on which surfaces is common practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.contrast.presumed import presumed
from prism.model.document import Pairing, Token
from prism.roles.role import Role, read
from tests.roles import Keyed

#: What stands on what, as keys of tokens.
Met = tuple[str, str]


@dataclass(frozen=True)
class _Color:
    token: Token
    role: Role
    on: str


class _Needs:
    def __init__(self, keyed: Keyed) -> None:
        self.all = [
            _Color(token, read(text), on.key if on else "")
            for path, text in keyed.roles.items()
            if (token := keyed.document.token_at(path)) is not None and "disabled" not in text
            for on in [keyed.document.token_at(keyed.belongs.get(path, ""))]
        ]
        self.by_key = {one.token.key: one for one in self.all}
        self.owned = {one.on for one in self.of("text")}
        self.grounds = [*self.of("page"), *self.of("surface", "")]
        self.grounds = [one for one in self.grounds if one.token.key not in self.owned]

    def of(self, kind: str, *details: str) -> list[_Color]:
        return [
            one
            for one in self.all
            if one.role.kind == kind and (not details or one.role.detail in details)
        ]

    def on(self, one: _Color, grounds: Iterable[_Color]) -> Iterator[tuple[_Color, _Color]]:
        """A color on what it belongs to, or where the key does not say, on each of some grounds."""
        own = self.by_key.get(one.on)
        for ground in [own] if own is not None and own.role.is_ground else grounds:
            if not (one.role.state and ground.role.state) or one.role.state == ground.role.state:
                yield one, ground

    def read_texts(self) -> Iterator[tuple[_Color, _Color]]:
        fields = self.of("fill", "field")
        for text in self.of("text", "", "hint"):
            yield from self.on(text, [*self.grounds, *fields])
        for text in self.of("text", "quiet", "link"):
            yield from self.on(text, self.grounds)
        for text in self.of("text", "inverse"):
            yield from self.on(text, self.of("surface", "inverse"))
        for text in self.of("status", "text"):
            tints = [t for t in self.of("status", "tint") if t.role.status == text.role.status]
            yield from self.on(text, tints)
            yield from ((text, ground) for ground in self.grounds)
        labels = self.of("label")
        labelled = {label.on for label in labels}
        for label in labels:
            fills = [self.by_key[label.on]] if label.on in self.by_key else []
            for state in self.all:
                if (
                    state.on == label.on
                    and state.role.kind in ("fill", "status")
                    and state.role.state
                ):
                    fills += [state] if state.token.key not in labelled else []
            yield from ((label, fill) for fill in fills)

    def seen(self) -> Iterator[tuple[_Color, _Color]]:
        for icon in self.of("icon"):
            yield from self.on(icon, self.grounds)
        for line in [*self.of("line", "control", "strong"), *self.of("status", "line")]:
            yield from ((line, ground) for ground in self.grounds)
        actions = self.of("fill", "action")
        for ring in self.of("focus"):
            yield from ((ring, ground) for ground in [*self.grounds, *actions])
        for series in self.of("chart"):
            yield from ((series, page) for page in self.of("page"))
        for fill in actions:
            yield from ((fill, page) for page in self.of("page"))


def needed(keyed: Keyed) -> dict[Met, Pairing]:
    """The pairings that people need, by what stands on what."""
    needs, found = _Needs(keyed), {}
    for pairs, use, required in ((needs.read_texts(), "text", 4.5), (needs.seen(), "graphic", 3.0)):
        for above, below in pairs:
            met = (above.token.key, below.token.key)
            if met[0] != met[1]:
                found.setdefault(met, Pairing(" ".join(met), met[0], (met[1],), use, required))
    return found


def said(keyed: Keyed) -> dict[str, str]:
    """What the key says of each color, by the key of its token."""
    found = ((keyed.document.token_at(path), text) for path, text in keyed.roles.items())
    return {token.key: text for token, text in found if token is not None}


@dataclass(frozen=True)
class Compared:
    """Needed pairings beside those that are judged, of colors with a key."""

    needed: int
    missed: frozenset[Met]
    known: int
    known_false: frozenset[Met]
    presumed: int
    presumed_false: frozenset[Met]


def compared(keyed: Keyed, analysis: Analysis) -> Compared:
    """What is judged of a document, beside what people need. Stacks of more than two are left out, and colors that
    have no key."""
    wanted = needed(keyed).keys()
    keys = said(keyed).keys()
    doubtful = analysis.once(presumed)
    known, doubted = set(), set()
    for pairing in analysis.paired.pairings:
        met = (pairing.foreground, pairing.backgrounds[0])
        if len(pairing.backgrounds) == 1 and pairing.required and keys >= set(met):
            (doubted if pairing.key in doubtful else known).add(met)
    return Compared(
        len(wanted),
        frozenset(wanted - known - doubted),
        len(known),
        frozenset(known - wanted),
        len(doubted - known),
        frozenset(doubted - known - wanted),
    )
