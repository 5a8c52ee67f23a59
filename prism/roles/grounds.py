"""A guess, and what texts and icons may stand on by their names."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from prism.roles.evidence import Named
from prism.roles.role import Role

#: How sure a guess is: by a name that says it, by parts of it, by a plain word, and by the color.
NAME, PART, PLAIN, COLOR = 0.95, 0.85, 0.75, 0.65
#: OKLCH chroma from which a color is no gray.
COLORED = 0.06
#: Why a role is what it is where a person says it.
BY_HAND = "set on the token"
#: From here on a guess counts as sure.
SURE = 0.8
#: A label is told from its fill from this contrast ratio on, or it is no label of it.
SEEN = 2.5


@dataclass(frozen=True, slots=True)
class Guess:
    """The role of a token: ``sure`` from 0 to 1, ``why`` in a few words, and the key of the token
    it belongs to, the fill of a label or the plain state of a state; empty for none."""

    role: Role
    sure: float
    why: str
    belongs_to: str = ""

    @property
    def is_sure(self) -> bool:
        return self.sure >= SURE


#: Words that call a fill the full one among those of its words.
STRONG = ("strong", "solid", "emphasis", "bold")


class Grounds:
    """Fills, surfaces and tints by the words that say of what they are a part."""

    def __init__(self) -> None:
        self._by_stem: dict[frozenset[str], list[tuple[Named, Guess]]] = {}
        self._against: list[Named] = []

    def add(self, readings: Sequence[Named], guesses: Mapping[str, Guess]) -> None:
        """Take in those of some tokens that something can stand on."""
        for reading in readings:
            known = guesses.get(reading.token.key)
            if known is not None and (known.role.is_ground or known.role.kind == "status"):
                self._by_stem.setdefault(reading.stem, []).append((reading, known))
                if known.role.is_against:
                    self._against.append(reading)

    def under(self, reading: Named) -> tuple[Named, Guess] | None:
        """What a text or an icon belongs to: of the same words, where it is seen, and in the same state
        if there is one."""
        stem = reading.stem - {"on"}
        if "contrast" in stem:
            return self._strongest(reading, stem - {"contrast"})
        same = [
            pair for pair in self._by_stem.get(stem, ()) if pair[0].token.key != reading.token.key
        ]
        if not stem or not same:
            return None
        return min(
            same,
            key=lambda pair: (
                pair[0].state != reading.state,
                max(SEEN - reading.ratio(pair[0]), 0.0),
                pair[1].role.detail == "line",
                pair[1].role.detail == ("tint" if reading.has("label") else "fill")
                and pair[1].role.kind == "status",
                bool(pair[0].state),
            ),
        )

    def _strongest(self, reading: Named, stem: frozenset[str]) -> tuple[Named, Guess] | None:
        """The strong fill of the same words, for what is called its contrast, where that is seen on it."""
        fills = [
            pair
            for words in (stem, *(stem | {word} for word in STRONG))
            for pair in self._by_stem.get(words, ())
            if pair[1].role.kind == "fill" or pair[1].role.detail == "fill"
        ]
        seen = [pair for pair in fills if not pair[0].state and reading.ratio(pair[0]) >= SEEN]
        return seen[0] if stem and seen else None

    def seen_on_dark(self, reading: Named) -> bool:
        """Whether a text can be read on an inverse or colored surface."""
        return any(reading.ratio(ground) >= 4.5 for ground in self._against)
