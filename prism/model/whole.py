"""Whether a document is whole: its structure, not its taste.

A whole document has unique keys, paths and names, defaults that exist, and nothing that stands on
an axis, mode, token or source that is gone; its texts fit the tables that store them. References
that name nothing and circles do not count: imported ones are kept as text, shown and listed.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from typing import get_args

from prism.model.document import TIERS, TYPES, Axis, Document, Token, Use, shown_path
from prism.model.storable import (
    MAX_CONDITION,
    MAX_NAME,
    MAX_PATH,
    MAX_ROLE,
    UNSTORABLE,
    Flaw,
    key_flaws,
    length_flaws,
    name_flaws,
    text_flaws,
    token_flaws,
    unstorable,
    well_formed,
)

COLOR_SCHEMES = ("", "light", "dark")
DIRECTIONS = ("", "ltr", "rtl")
GAMUTS = ("srgb", "display-p3")


def flaws(document: Document, before: Document | None = None) -> list[Flaw]:
    """Everything that keeps ``document`` from being whole, in document order.

    Parts that are the same objects in ``before``, which is whole, are only checked against what
    has changed around them.
    """
    known = _Known(document, before)
    all_flaws = list(_document(document))
    all_flaws += _axes(document)
    all_flaws += _tokens(document, known)
    for check in (_ramps, _pairings, _rules, _scenes, _themes, _files):
        all_flaws += check(document, known)
    all_flaws += _unique(document)
    return all_flaws


class _Known:
    """What the parts of a document may name, and which parts need no second look."""

    def __init__(self, document: Document, before: Document | None) -> None:
        self.tokens = {token.key for token in document.tokens}
        self.modes = {(axis.key, mode.key) for axis in document.axes for mode in axis.modes}
        self.axes = {axis.key for axis in document.axes}
        self._before = before
        same_axes = before is not None and before.axes == document.axes
        seen = {id(token) for token in before.tokens} if before and same_axes else set()
        self.fresh = [token for token in document.tokens if id(token) not in seen]
        was = {token.key: token.path for token in before.tokens} if before else {}
        self.same_paths = len(was) == len(document.tokens) and all(
            was.get(token.key) == token.path for token in self.fresh
        )
        gone = {token.key for token in before.tokens} - self.tokens if before else None
        self._settled = same_axes and gone == set()

    def same(self, parts: str, document: Document) -> bool:
        """Whether a tuple of parts is that of the document before, with all it may name."""
        before = self._before
        return (
            self._settled
            and before is not None
            and getattr(before, parts) is getattr(document, parts)
        )


def _document(document: Document) -> Iterator[Flaw]:
    if document.gamut not in GAMUTS:
        yield Flaw("document", "document", f"The gamut “{document.gamut[:40]}” is not known.")
    lengths = (("name", MAX_NAME), ("version", 100), ("resolver_file", 300))
    for name, most in lengths:
        yield from length_flaws("document", "document", name, getattr(document, name), most)
    for name in ("name", "description", "version", "resolver_file", "resolver_text"):
        if UNSTORABLE.search(getattr(document, name)):
            yield Flaw("document", "document", unstorable(name))


def _axes(document: Document) -> Iterator[Flaw]:
    for axis in document.axes:
        yield from key_flaws("axis", axis.key)
        yield from name_flaws("axis", axis.key, axis.name)
        yield from text_flaws("axis", axis.key, axis)
        keys = [mode.key for mode in axis.modes]
        if not keys:
            yield Flaw("axis", axis.key, f"The axis {axis.name} has no mode.")
        elif axis.default not in keys:
            yield Flaw(
                "axis",
                axis.key,
                f"The default mode of {axis.name} is gone.",
                (("mode", f"{axis.key} {axis.default}"),),
            )
        yield from _modes(axis)


def _modes(axis: Axis) -> Iterator[Flaw]:
    names = [mode.name for mode in axis.modes]
    for place, mode in enumerate(axis.modes):
        full = f"{axis.key} {mode.key}"
        yield from key_flaws("mode", mode.key, full)
        yield from name_flaws("mode", full, mode.name)
        if mode.color_scheme not in COLOR_SCHEMES:
            yield Flaw("mode", full, f"The color scheme of {mode.name} is not light, dark or none.")
        if mode.direction not in DIRECTIONS:
            yield Flaw(
                "mode",
                full,
                f"{mode.name} reads neither from left to right nor from right to left.",
            )
        first = names.index(mode.name)
        if first != place:
            other = ("mode", f"{axis.key} {axis.modes[first].key}")
            yield Flaw("mode", full, f"Two modes of {axis.name} are called {mode.name}.", (other,))
    for _, key in axis.follows.modes if axis.follows else ():
        if all(mode.key != key for mode in axis.modes):
            yield Flaw(
                "axis",
                axis.key,
                f"The system preference of {axis.name} names a mode that is gone.",
                (("mode", f"{axis.key} {key}"),),
            )


def _tokens(document: Document, known: _Known) -> Iterator[Flaw]:
    for token in known.fresh:
        path = shown_path(token.path)
        yield from key_flaws("token", token.key)
        yield from length_flaws("token", token.key, "path", token.path, MAX_PATH)
        yield from length_flaws("token", token.key, "role", token.role, MAX_ROLE)
        if UNSTORABLE.search(token_flaws(token)):
            yield from text_flaws("token", token.key, token)
        if not well_formed(token.path):
            yield Flaw("token", token.key, f"“{path[:80]}” cannot be a path.")
        if token.type not in TYPES or token.tier not in TIERS:
            yield Flaw("token", token.key, f"The type or tier of {path} is not known.")
        yield from _values(token, known)
    for token in document.tokens:
        if token.belongs_to and token.belongs_to not in known.tokens:
            sentence = f"What {shown_path(token.path)} belongs to is gone."
            yield Flaw("token", token.key, sentence, (("token", token.belongs_to),))
    if not known.same_paths:
        yield from _paths(document)


def _values(token: Token, known: _Known) -> Iterator[Flaw]:
    conditions = [condition for condition, _ in token.values]
    if len(set(conditions)) != len(conditions):
        yield Flaw("token", token.key, f"{shown_path(token.path)} has two values in one place.")
    for condition in conditions:
        axes = [axis for axis, _ in condition.picks]
        size = sum(len(axis) + len(mode) for axis, mode in condition.picks)
        if len(set(axes)) != len(axes) or size > MAX_CONDITION:
            yield Flaw("token", token.key, f"A value of {shown_path(token.path)} holds nowhere.")
        for axis, mode in condition.picks:
            if (axis, mode) not in known.modes:
                yield Flaw(
                    "token",
                    token.key,
                    f"{shown_path(token.path)} has a value in a mode that is gone.",
                    (("mode", f"{axis} {mode}"), ("axis", axis)),
                )


def _paths(document: Document) -> Iterator[Flaw]:
    """Two tokens on one path, and tokens that are groups too."""
    owners: dict[str, str] = {}
    groups: dict[str, str] = {}
    for token in document.tokens:
        path = shown_path(token.path)
        if path in owners:
            other = ("token", owners[path])
            yield Flaw("token", token.key, f"Two tokens are called {path}.", (other,))
        owners[path] = token.key
        group = token.path.rpartition(".")[0]
        while group and group not in groups:
            groups[group] = token.key
            group = group.rpartition(".")[0]
    for token in document.tokens:
        if token.path in groups:
            other = ("token", groups[token.path])
            sentence = f"{token.path} is a token and a group."
            yield Flaw("token", token.key, sentence, (other,))


def _ramps(document: Document, known: _Known) -> Iterator[Flaw]:
    if not known.same("ramps", document) or not known.same("purposes", document):
        purposes = {purpose.key for purpose in document.purposes}
        for ramp in document.ramps:
            members = (*ramp.steps, *ramp.moved, *([ramp.base] if ramp.base else []))
            yield from _named("ramp", ramp.key, members, known, ramp.name)
            if len(set(ramp.steps)) != len(ramp.steps):
                yield Flaw("ramp", ramp.key, f"The ramp {ramp.name} has a step twice.")
            if purposes and ramp.purpose and ramp.purpose not in purposes:
                sentence = f"The purpose of the ramp {ramp.name} is gone."
                others = [("purpose", key) for key in (ramp.purpose, *sorted(purposes))]
                yield Flaw("ramp", ramp.key, sentence, tuple(others))
    if not known.same("telling_apart", document):
        for group in document.telling_apart:
            yield from _named("telling_apart", group.key, group.tokens, known, group.name)
            yield from text_flaws("telling_apart", group.key, group)
    if not known.same("mutes", document):
        for mute in document.mutes:
            yield from _named("mute", mute.key, mute.tokens, known, "An accepted finding")
            yield from text_flaws("mute", mute.key, mute)


def _pairings(document: Document, known: _Known) -> Iterator[Flaw]:
    if known.same("pairings", document):
        return
    for pairing in document.pairings:
        members = (pairing.foreground, *pairing.backgrounds, *filter(None, [pairing.page]))
        yield from _named("pairing", pairing.key, members, known, "A pairing")
        legal = pairing.use in get_args(Use) and math.isfinite(pairing.required)
        if not pairing.backgrounds or not legal or pairing.required < 0:
            yield Flaw("pairing", pairing.key, "A pairing lacks its background, use or ratio.")
        yield from text_flaws("pairing", pairing.key, pairing)


def _rules(document: Document, known: _Known) -> Iterator[Flaw]:
    for rule in document.rules:
        yield from key_flaws("rule", rule.key)
        legal = rule.use in get_args(Use) and math.isfinite(rule.required)
        whole = rule.by_role or (rule.foreground and rule.background)
        if not legal or rule.required < 0 or not whole:
            yield Flaw("rule", rule.key, "A rule lacks its patterns, use or ratio.")
        for text in (rule.by_role, rule.foreground, rule.background):
            yield from length_flaws("rule", rule.key, "pattern", text, MAX_PATH)
        yield from text_flaws("rule", rule.key, rule)
    for word in document.words:
        yield from key_flaws("word", word.key)
        yield from length_flaws("word", word.key, "meaning", word.meaning, MAX_ROLE)
        yield from text_flaws("word", word.key, word)


def _scenes(document: Document, known: _Known) -> Iterator[Flaw]:
    if known.same("scenes", document):
        return
    for scene in document.scenes:
        yield from key_flaws("scene", scene.key)
        bound = [key for _, key in scene.bindings]
        yield from _named("scene", scene.key, bound, known, f"The scene {scene.name}")
        slots = [slot for slot, _ in scene.bindings]
        if len(set(slots)) != len(slots):
            yield Flaw("scene", scene.key, f"A slot of {scene.name} is bound twice.")
        if any(len(slot) > MAX_NAME or UNSTORABLE.search(slot) for slot in slots):
            yield Flaw("scene", scene.key, f"A slot of {scene.name} has a name that is too long.")


def _themes(document: Document, known: _Known) -> Iterator[Flaw]:
    for theme in document.themes:
        for axis, mode in theme.picks:
            if (axis, mode) not in known.modes:
                yield Flaw(
                    "theme",
                    theme.key,
                    f"The theme {theme.name} names a mode that is gone.",
                    (("mode", f"{axis} {mode}"), ("axis", axis)),
                )


def _files(document: Document, known: _Known) -> Iterator[Flaw]:
    if known.same("sources", document) and known.same("layers", document):
        return
    sources = {source.key for source in document.sources}
    for source in document.sources:
        stated = [entry.token for entry in source.entries if entry.token]
        yield from _named("source", source.key, stated, known, f"The file {source.file}")
    for layer in document.layers:
        if layer.axis and layer.axis not in known.axes:
            sentence = f"The axis of the modifier {layer.name} is gone."
            yield Flaw("layer", layer.key, sentence, (("axis", layer.axis),))
        for mode, keys in (("", layer.sources), *layer.contexts):
            if mode and (layer.axis, mode) not in known.modes:
                sentence = f"A context of the modifier {layer.name} is gone."
                other = (("mode", f"{layer.axis} {mode}"),)
                yield Flaw("layer", layer.key, sentence, other)
            if not sources.issuperset(keys):
                yield Flaw("layer", layer.key, f"A file of {layer.name} is gone.")


def _unique(document: Document) -> Iterator[Flaw]:
    """Keys, and names of axes, that two parts share."""
    lists: dict[str, Iterable[str]] = {
        "axis": (axis.key for axis in document.axes),
        "token": (token.key for token in document.tokens),
        "group": (group.path for group in document.groups),
    }
    plain = (
        *("ramp", "purpose", "scheme", "theme", "pairing", "rule", "word", "scene", "page"),
        *("source", "layer", "mute"),
    )
    for kind in plain:
        lists[kind] = (part.key for part in getattr(document, f"{kind}s"))
    lists["telling_apart"] = (part.key for part in document.telling_apart)
    for kind, keys in lists.items():
        for key in _repeated(keys):
            yield Flaw(kind, key, f"Two parts of the document have one key, {key[:60]}.")
    for axis in document.axes:
        for key in _repeated(mode.key for mode in axis.modes):
            yield Flaw("mode", f"{axis.key} {key}", f"Two modes of {axis.name} have one key.")
    names: dict[str, str] = {}
    for axis in document.axes:
        if axis.name in names:
            other = ("axis", names[axis.name])
            yield Flaw("axis", axis.key, f"Two axes are called {axis.name}.", (other,))
        names[axis.name] = axis.key


def _repeated(keys: Iterable[str]) -> list[str]:
    seen: set[str] = set()
    twice: dict[str, None] = {}
    for key in keys:
        if key in seen:
            twice[key] = None
        seen.add(key)
    return list(twice)


def _named(kind: str, key: str, tokens: Iterable[str], known: _Known, name: str) -> Iterator[Flaw]:
    if not key or len(key) > MAX_PATH or UNSTORABLE.search(key):
        yield Flaw(kind, key, f"“{key[:60]}” cannot be a key.")
    for token in tokens:
        if token not in known.tokens:
            yield Flaw(kind, key, f"{name} names a token that is gone.", (("token", token),))
