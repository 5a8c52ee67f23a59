"""What a command over many tokens would change, row by row, before it is stored."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from prism.changes.outcome import Outcome
from prism.expressions.typed_input import typed
from prism.model.document import Document, Token, shown_path
from prism.model.names import condition_words
from prism.model.values import BASE, Condition
from prism.resolution.current import resolver_of
from prism.roles import kept_slots

#: Rows that are shown; the others are counted.
MOST_ROWS = 6


@dataclass(frozen=True, slots=True)
class Row:
    """One thing that changes of a token: a value in some theme, its name, or what is said of it."""

    path: str
    where: str
    before: str
    after: str
    before_hex: str = ""
    after_hex: str = ""
    new_path: str = ""


@dataclass(frozen=True, slots=True)
class Change:
    """The first rows of what changes, how many there are, and what was skipped, in words."""

    rows: tuple[Row, ...]
    count: int
    skipped: str
    #: What it does to the scenes, a sentence each.
    scenes: tuple[str, ...] = ()

    @property
    def more(self) -> int:
        """How many rows are not shown."""
        return self.count - len(self.rows)


def change(before: Document, outcome: Outcome) -> Change:
    """What an outcome changes of a document."""
    rows = list(_rows(before, outcome.document))
    skipped = outcome.skipped_words.rstrip(".").replace("Skipped:", "skipped:")
    renamed = any(what == "its name" for _, what, _, _, _ in rows)
    scenes = tuple(_on_scenes(before, outcome.document)) if renamed else ()
    return Change(tuple(_shown(before, outcome.document, rows)), len(rows), skipped, scenes)


def summary(before: Document, after: Document) -> str:
    """What changed, counted by what it is: “4 names, 2 values”; empty where nothing did."""
    counts: dict[str, int] = {}
    for _, what, condition, _, _ in _rows(before, after):
        noun = "value" if condition is not None else _NOUNS.get(what, what)
        counts[noun] = counts.get(noun, 0) + 1
    return ", ".join(
        f"{count} {noun}{'' if count == 1 or noun in _UNCOUNTED else 's'}"
        for noun, count in counts.items()
    ).replace("1 order of tokens", "the order of tokens")


_NOUNS = {
    "its name": "name",
    "the token": "token deleted",
    "a new token": "new token",
    "the order of tokens": "order of tokens",
    "private": "visibility",
    "uses": "list of uses",
}
_UNCOUNTED = frozenset(("token deleted", "list of uses", "visibility"))


def _on_scenes(before: Document, after: Document) -> Iterator[str]:
    """What a change of names does to the slots of scenes."""
    was = {slot for scene in before.scenes[:1] for slot, _ in scene.bindings}
    bound = [slot for scene in after.scenes[:1] for slot, _ in scene.bindings if slot not in was]
    if bound:
        keep = "keeps its token" if len(bound) == 1 else "keep their tokens"
        yield f"On the scenes, {_listed(bound)} {keep}, bound from now on."
    for change in kept_slots.changes(before, after):
        if not change.before and (token := after.token(change.after)) is not None:
            yield f"On the scenes, {change.slot} takes {shown_path(token.path)}; it had no token."


def _listed(slots: list[str]) -> str:
    return ", ".join(slots[:4]) + (f" and {len(slots) - 4} more" if len(slots) > 4 else "")


_Raw = tuple[str, str, Condition | None, str, str]


def _rows(before: Document, after: Document) -> Iterator[_Raw]:
    """Token by key, what changes of it, the condition of a value, and both texts."""
    for token in before.tokens:
        now = after.token(token.key)
        if now is None:
            yield token.key, "the token", None, shown_path(token.path), "deleted"
        elif now is not token and now != token:
            yield from _of_token(token, now)
    kept = {token.key for token in before.tokens}
    for token in after.tokens:
        if token.key not in kept:
            yield token.key, "a new token", None, "", shown_path(token.path)
    order = [token.key for token in before.tokens if after.token(token.key) is not None]
    if order != [token.key for token in after.tokens if token.key in kept]:
        yield after.tokens[0].key, "the order of tokens", None, "", "changed"


def _of_token(token: Token, now: Token) -> Iterator[_Raw]:
    if token.path != now.path:
        yield token.key, "its name", None, shown_path(token.path), shown_path(now.path)
    was, there = dict(token.values), dict(now.values)
    renamed = replace(token, path=now.path, values=now.values) == now
    for condition in dict.fromkeys([*was, *there]):
        first, second = (typed(values.get(condition), token.type) for values in (was, there))
        if first != second:
            yield token.key, "", condition, first.strip("{}"), second.strip("{}") or "inherits"
    if not renamed:
        for name in ("tier", "type", "role", "description", "uses", "private"):
            first, second = (_said(getattr(side, name)) for side in (token, now))
            if first != second:
                yield token.key, name, None, first or "none", second or "none"


def _said(value: object) -> str:
    """What is said of a token, as a person reads it."""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return ", ".join(value) if isinstance(value, tuple) else str(value)


def _shown(before: Document, after: Document, rows: list[_Raw]) -> Iterator[Row]:
    was, now = resolver_of(before), resolver_of(after)
    for key, what, condition, first, second in rows[:MOST_ROWS]:
        token = before.token(key) or after.token(key)
        assert token is not None
        path = shown_path(token.path)
        if condition is None:
            yield Row("" if what == "the order of tokens" else path, what, first, second)
            continue
        sides = [side for side in (before.token(key), after.token(key)) if side is not None]
        alone = all(len(side.values) <= 1 for side in sides)
        unsaid = "every theme" if alone else "where no mode has its own"
        where = unsaid if condition == BASE else condition_words(before, condition)
        theme = was.theme(dict(condition.picks))
        hexes = (was.resolve(key, theme).hex, now.resolve(key, theme).hex)
        yield Row(path, where, first, second, *hexes)
