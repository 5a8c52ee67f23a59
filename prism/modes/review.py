"""A proposed mode as it is reviewed: rows that can be accepted, changed or refused, solved so that every
pairing passes in every theme of the other axes, with what was decided left as it is."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace

from prism import solver
from prism.changes.values import Setting
from prism.errors import EditError
from prism.expressions.typed_input import read_typed
from prism.model.document import Document, Mode, Pairing, Token
from prism.model.values import BASE, Condition, Value
from prism.modes import proposal
from prism.modes.draft import Row
from prism.modes.intents import BY_ID, INTENTS
from prism.modes.source import Start
from prism.resolution.compiled import strength
from prism.resolution.current import resolver_of
from prism.roles import rules
from prism.roles.guess import guess
from prism.solver import Contradiction, Move, Place, SearchResult, Short, Solved, Wanted, Watch
from prism.solver.search_result import read


@dataclass(frozen=True, slots=True)
class Asked:
    """A mode that is asked for: keys of the axis and of the mode it is made from, and the new mode.

    ``decided`` are the tokens by key that stay as a person decided: with a text as it is typed, or None
    for the value that the mode it is made from has. ``solves`` says whether the rows are solved,
    ``intent`` what the mode is to be (one of ``intents``), ``hues`` the pairs of ramps by key of which the
    second takes the place of the first, ``factor`` what measures are multiplied by.
    """

    axis: str
    source: str
    mode: Mode
    decided: tuple[tuple[str, str | None], ...] = ()
    solves: bool = True
    intent: str = "counterpart"
    hues: tuple[tuple[str, str], ...] = ()
    factor: float = 1.0


@dataclass(frozen=True, slots=True)
class Review:
    """The proposed rows, in document order, the document with the mode, and how it was solved; ``pairs``
    are the pairings that were judged, made ``by_rule`` where the document has none; ``short_before`` is how
    many readings fall short in the mode that it is made from, with every mode of the other axes."""

    rows: tuple[Row, ...]
    document: Document
    pairs: tuple[Pairing, ...]
    by_rule: bool
    solved: Solved
    short_before: int

    @property
    def short(self) -> tuple[Short, ...]:
        """The readings that fall short."""
        return self.solved.short

    @property
    def search(self) -> str:
        """What the search gave, as text, for ``review`` to put in again."""
        solved = self.solved
        return SearchResult(solved.moves, solved.contradictions, solved.proven).text(self.pairs)

    @property
    def contradictions(self) -> tuple[Contradiction, ...]:
        """The pairings that contradict one another."""
        return self.solved.contradictions

    def settings(self, axis: str, mode: str) -> tuple[Setting, ...]:
        """The values in which the mode differs from the one it is made from."""
        condition = Condition.of({axis: mode})
        return tuple(
            (row.token.key, at, value)
            for row in self.rows
            for at, value in ((condition, row.proposed), *row.others)
            if at != condition or value != row.now
        )

    def taken(
        self, axis: str, mode: str, decided: Sequence[tuple[str, str | None]]
    ) -> tuple[Setting, ...]:
        """The values as they are proposed, but for what was decided since: refused rows are left out, and
        those with a text hold that. Raises ``EditError`` for a text that is no value."""
        texts = dict(decided)
        rows = []
        for row in self.rows:
            text = texts.get(row.token.key, "")
            if text is not None:
                value = read_typed(self.document, text, row.token) if text else row.proposed
                rows.append(replace(row, proposed=value))
        return replace(self, rows=tuple(rows)).settings(axis, mode)


def review(
    document: Document, asked: Asked, watch: Watch | None = None, earlier: str = ""
) -> Review:
    """What is proposed for a mode; ``earlier`` is what was found before for the same document, as text.

    Raises ``EditError`` where the mode to start from is gone, or a decided value is none.
    """
    axis, mode = asked.axis, asked.mode
    intent = BY_ID.get(asked.intent)
    if intent is None:
        raise EditError(f"There is no proposal “{asked.intent[:20]}”.")
    start = Start(
        document, axis, asked.source, mode.key, mode.color_scheme, asked.hues, asked.factor
    )
    proposed = _kept_elsewhere(start, intent.rows(start))
    rows = {row.token.key: row for row in _decided(document, asked, proposed)}
    guesses = guess(document, resolver_of(document))
    pairs = intent.needs(rules.demanded(document, guesses))
    started = proposal.with_rows(document, axis, mode, asked.source, rows.values())
    wanted = Wanted(pairs, guesses, {axis: mode.key}, {axis: asked.source}, _held(asked))
    starts = bool(rows) or asked.intent != INTENTS[0].id
    if not earlier and not (asked.solves and starts and intent.solves):
        solved = _as_is(started, wanted)  # what is no counterpart yet is not worth solving
    else:
        solved = _solved(started, wanted, watch, earlier)
    _put(rows, document, asked, solved.moves)
    order = {token.key: place for place, token in enumerate(document.tokens)}
    listed = sorted(rows.values(), key=lambda row: order[row.token.key])
    there = replace(wanted, within={axis: asked.source}, like={})
    before = sum(1 for _ in solver.falling_short(document, there))
    return Review(
        tuple(listed), solved.document, pairs, not rules.says_itself(document), solved, before
    )


def _held(asked: Asked) -> frozenset[str | Place]:
    """What stays as it was decided: a refused token everywhere, another in the proposed mode."""
    condition = Condition.of({asked.axis: asked.mode.key})
    return frozenset(key if text is None else Place(key, condition) for key, text in asked.decided)


def _kept_elsewhere(start: Start, rows: Sequence[Row]) -> list[Row]:
    """The rows, with the values that hold in some modes of earlier axes alone, which the mode would override,
    kept there."""
    plain = start.here(BASE)
    order = {axis.key: place for place, axis in enumerate(start.document.axes)}
    kept = []
    for row in rows:
        known = {condition for condition, _ in row.others}
        others = []
        for rest, value in start.values(row.token):
            axes = [order[axis] for axis, _ in rest.picks]
            here = start.here(rest)
            named = row.token.value(here) is not None or here in known
            won = start.resolver.winner(
                row.token.key, start.resolver.theme({**dict(rest.picks), start.axis: start.source})
            )
            if rest == BASE or named or won is None or won[0] != rest:
                continue
            if strength(axes) < strength([order[axis] for axis, _ in plain.picks]):
                others.append((here, value))
        kept.append(replace(row, others=(*row.others, *others)) if others else row)
    return kept


def _solved(document: Document, wanted: Wanted, watch: Watch | None, earlier: str) -> Solved:
    """The values that pass: searched for, or as they were found earlier."""
    if not earlier:
        return _searched(document, wanted, watch)
    kept = read(earlier, wanted.pairs)
    return solver.restored(document, wanted, kept.moves, kept.contradictions, proven=kept.proven)


def _searched(document: Document, wanted: Wanted, watch: Watch | None) -> Solved:
    """The values that pass. What only a style sheet shows gives way where it keeps other pairings from passing, and
    is named as short then."""
    solved = solver.solve(document, wanted, watch)
    shown = {pairing.key for pairing in document.pairings if rules.is_shown(pairing)}
    stopped = watch is not None and watch.stopped()
    if not shown or stopped or not _short_of_others(solved, shown):
        return solved
    others = tuple(pairing for pairing in wanted.pairs if pairing.key not in shown)
    again = solver.solve(document, replace(wanted, pairs=others), watch)
    if _short_of_others(again, shown) >= _short_of_others(solved, shown):
        return solved
    short = tuple(solver.falling_short(again.document, wanted))
    return replace(again, short=short, proven=False)


def _short_of_others(solved: Solved, shown: Collection[str]) -> int:
    """How many readings fall short of pairings but those shown."""
    return sum(short.pairing.key not in shown for short in solved.short)


def _as_is(document: Document, wanted: Wanted) -> Solved:
    """A document that is not solved, with what falls short in it."""
    return Solved(document, short=tuple(solver.falling_short(document, wanted)), proven=False)


def _decided(document: Document, asked: Asked, rows: Sequence[Row]) -> list[Row]:
    """The rows with what was decided in place of what was proposed."""
    decided = dict(asked.decided)
    proposed = {row.token.key: row for row in rows}
    kept = [row for row in rows if row.token.key not in decided]
    theme = resolver_of(document).theme({asked.axis: asked.source})
    for key, text in asked.decided:
        token = document.token(key)
        won = resolver_of(document).winner(key, theme) if token else None
        if token is None or won is None:
            raise EditError("A token of this proposal is no longer there.", fix="Propose it again.")
        if text is None:
            kept.append(Row(token, won[1], won[1], "refused", "stays as it is"))
        else:
            value = read_typed(document, text, token)
            others = proposed[key].others if key in proposed else ()
            kept.append(Row(token, won[1], value, "chosen", "as you chose", others))
    return kept


def _put(rows: dict[str, Row], document: Document, asked: Asked, moves: Sequence[Move]) -> None:
    """Put what the solver moved into the rows."""
    plain = Condition.of({asked.axis: asked.mode.key})
    resolver = resolver_of(document)
    theme = resolver.theme({asked.axis: asked.source})
    for move in moves:
        key = move.place.token
        token = document.token(key)
        won = resolver.winner(key, theme)
        if token is None or won is None:
            continue
        row = rows.get(key) or Row(token, won[1], won[1], "solved", "")
        rows[key] = _moved(row, token, move, move.place.condition == plain)


def _moved(row: Row, token: Token, move: Move, everywhere: bool) -> Row:
    words = f"{row.words}; moved {move.why}" if row.words else f"moved {move.why}"
    if everywhere:
        return replace(row, proposed=move.after, words=words, reason="solved")
    others: Mapping[Condition, Value] = {**dict(row.others), move.place.condition: move.after}
    known = row if "moved" in row.words else replace(row, words=words, reason="solved")
    return replace(known, token=token, others=tuple(others.items()))
