"""What a resolver document of ours says under ``$extensions``, beyond the standard.

Stable keys, tiers, conditions on several axes, types the standard lacks, pairings and all
other parts of a document. Everything here is optional for other readers.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from prism.compare.rows import flatten, parts_of
from prism.errors import FormatError, PrismError
from prism.expressions.values import check, decode, encode
from prism.model import schema
from prism.model.document import Axis, Document, Follows, Group, Mode, Token
from prism.model.imported import Entry, Layer, Source
from prism.model.values import Condition, Value

#: Kinds carried as plain rows.
_CARRIED = (
    *("ramp", "purpose", "scheme", "theme", "pairing", "rule", "word", "telling_apart", "scene"),
    *("page", "mute"),
)
#: A key stands in other keys behind a space, so it has none itself.
_KEY = re.compile(r"\S{1,200}\Z")
#: The new keys of an axis and a mode, by their keys in the files.
Keys = Mapping[tuple[str, str], tuple[str, str]]
_AXIS_FIELDS = ("key", "description")
_MODE_FIELDS = ("key", "description", "color_scheme", "direction")
_MOST_SELECTORS = 40


def state(document: Document, read: Document) -> dict[str, Any]:
    """The members that turn ``read`` (what the files alone say) into ``document``."""
    known = {token.path: token for token in read.tokens}
    own: dict[str, Any] = {"schema": schema.VERSION, "gamut": document.gamut}
    own["axes"] = [_axis_state(axis) for axis in document.axes]
    own["tokens"] = [_token_state(token, known.get(token.path)) for token in document.tokens]
    wanted = {token.path for token in document.tokens}
    removed = [path for path in known if path not in wanted]
    if removed:
        own["removed"] = removed
    values = [
        value
        for token in document.tokens
        for value in _value_state(document, token, read, known.get(token.path))
    ]
    if values:
        own["values"] = values
    if document.groups != read.groups:
        own["groups"] = [
            [group.path, group.description, group.type, group.extends, group.extensions]
            for group in document.groups
        ]
    tables = flatten(document)
    carried: dict[str, list[list[Any]]] = {
        kind: [[key, tables.rows[kind][key]] for key in tables.keys(kind)] for kind in _CARRIED
    }
    carried["scene"] = [
        [scene.key, tables.rows["scene"][scene.key] | {"bindings": scene.bindings}]
        for scene in document.scenes
    ]
    own.update({kind: rows for kind, rows in carried.items() if rows})
    return own


def _axis_state(axis: Axis) -> dict[str, Any]:
    stated: dict[str, Any] = {"name": axis.name, "key": axis.key}
    if axis.description:
        stated["description"] = axis.description
    stated["modes"] = [
        {"name": mode.name, "key": mode.key}
        | ({"description": mode.description} if mode.description else {})
        | ({"color_scheme": mode.color_scheme} if mode.color_scheme else {})
        | ({"direction": mode.direction} if mode.direction else {})
        | ({"selectors": list(mode.selectors)} if mode.selectors else {})
        for mode in axis.modes
    ]
    if axis.follows is not None:
        stated["follows"] = [axis.follows.feature, [list(pair) for pair in axis.follows.modes]]
    return stated


def _token_state(token: Token, known: Token | None) -> dict[str, Any]:
    stated: dict[str, Any] = {"path": token.path, "key": token.key}
    for name in schema.TOKEN[1:]:
        value = getattr(token, name)
        if known is None or value != getattr(known, name):
            stated[name] = value
    return stated


def _named(document: Document, condition: Condition) -> tuple[tuple[str, str], ...]:
    picks = []
    for axis in document.axes:
        mode = condition.mode_on(axis.key)
        if mode is not None:
            picks.append((axis.name, axis.mode(mode).name))
    return tuple(picks)


def _value_state(
    document: Document, token: Token, read: Document, known: Token | None
) -> list[dict[str, Any]]:
    stored = {_named(read, condition): value for condition, value in known.values} if known else {}
    wanted = {_named(document, condition): value for condition, value in token.values}
    if list(stored.items()) == list(wanted.items()):
        return []
    changes: list[dict[str, Any]] = []
    # Values said here are put behind those of the files; where that is not their order, all are.
    same = [when for when, value in stored.items() if wanted.get(when) == value]
    changed = [when for when, value in wanted.items() if stored.get(when) != value]
    reordered = [*same, *changed] != list(wanted)
    for when, value in wanted.items():
        if reordered or when in changed:
            changes.append({"path": token.path, "when": when, "value": encode(value)})
    for when in stored:
        if when not in wanted:
            changes.append({"path": token.path, "when": when, "value": None})
    return changes


def restore(document: Document, own: Mapping[str, Any], place: str) -> Document:
    """``document`` with what ``state`` wrote. Raises ``FormatError`` where it does not fit."""
    try:
        return _restore(document, own)
    except PrismError as error:
        raise FormatError(error.sentence, place=f"{place}, $extensions", fix=error.fix) from None
    except (KeyError, TypeError, ValueError, AttributeError, IndexError) as error:
        raise FormatError(
            f"The members of Nimble Prism cannot be read: {error}.",
            place=f"{place}, $extensions",
            fix="Remove the member nimble-prism to import the rest.",
        ) from None


def _restore(document: Document, own: Mapping[str, Any]) -> Document:
    if int(own.get("schema", schema.VERSION)) > schema.VERSION:
        raise PrismError("A newer version of Nimble Prism wrote this file.", fix="Update first.")
    axes, conditions = _axes(document, own)
    ordered = _tokens(document, own, conditions)
    tokens = _with_values(ordered, own, axes)
    result = replace(document, axes=axes, tokens=tokens, gamut=str(own.get("gamut", "srgb")))
    if "groups" in own:
        groups = tuple(Group(*(str(text) for text in group)) for group in own["groups"])
        result = replace(result, groups=groups)
    _refuse_odd_keys(result)
    rekeyed = {
        token.key: ordered[token.path].key for token in document.tokens if token.path in ordered
    }
    moved = {axis.key: new.key for axis, new in zip(document.axes, axes, strict=True)}
    result = replace(
        result,
        sources=tuple(_rekeyed_source(source, rekeyed) for source in document.sources),
        layers=tuple(_rekeyed_layer(layer, moved, conditions) for layer in document.layers),
    )
    for kind in _CARRIED:
        rows = ((str(key), dict(row)) for key, row in own.get(kind, ()))
        result = replace(result, **parts_of(kind, rows))
    return result


def _tokens(document: Document, own: Mapping[str, Any], conditions: Keys) -> dict[str, Token]:
    """The tokens by path, in order, with what the members say of each beside its values."""
    by_path = {token.path: token for token in document.tokens}
    for path in own.get("removed", ()):
        by_path.pop(path, None)
    ordered: dict[str, Token] = {}
    for stated in own.get("tokens", ()):
        path = str(stated["path"])
        names = ("key", *schema.TOKEN[1:])
        fields = {name: _frozen(stated[name]) for name in names if name in stated}
        token = by_path.pop(path, None)
        if token is None and not {"type", "tier"} <= set(stated):
            continue
        if token is not None:
            fields["values"] = _with_conditions(token, conditions)
        ordered[path] = (
            replace(token, **fields) if token is not None else Token(path=path, **fields)
        )
    for path, token in by_path.items():
        ordered[path] = replace(token, values=_with_conditions(token, conditions))
    return ordered


def _with_values(
    ordered: Mapping[str, Token], own: Mapping[str, Any], axes: tuple[Axis, ...]
) -> tuple[Token, ...]:
    """The tokens with the values that the members give under conditions."""
    names = {(axis.name, mode.name): (axis.key, mode.key) for axis in axes for mode in axis.modes}
    restored: dict[str, dict[Condition, Value]] = {}
    pieces = {path for path, token in ordered.items() if token.type == "piece"}
    for stated in own.get("values", ()):
        token = ordered[str(stated["path"])]
        values = restored.setdefault(token.path, dict(token.values))
        picks = [names[str(axis), str(mode)] for axis, mode in stated["when"]]
        condition = Condition(tuple(sorted(picks)))
        values.pop(condition, None)
        if stated["value"] is not None:
            value = decode(str(stated["value"]))
            check(value, token.type, pieces.__contains__)
            values[condition] = value
    return tuple(
        replace(token, values=tuple(restored[path].items())) if path in restored else token
        for path, token in ordered.items()
    )


def _refuse_odd_keys(document: Document) -> None:
    """Raise ``ValueError`` for an unknown gamut, and for keys that cannot stand in other keys."""
    if document.gamut not in ("srgb", "display-p3"):
        raise ValueError(f"unknown gamut {document.gamut[:40]}")
    keys = [token.key for token in document.tokens]
    if len(set(keys)) != len(keys):
        raise ValueError("two tokens have one key")
    keys += [key for axis in document.axes for key in (axis.key, *(m.key for m in axis.modes))]
    if any(not _KEY.match(key) for key in keys):
        raise ValueError("a key has spaces, is empty or too long")


def _rekeyed_source(source: Source, keys: Mapping[str, str]) -> Source:
    entries = tuple(
        Entry(e.path, e.text, keys.get(e.token, ""), e.hidden, e.folded)
        for e in source.entries
        if not e.token or e.token in keys
    )
    return replace(source, entries=entries)


def _rekeyed_layer(layer: Layer, axes: Mapping[str, str], conditions: Keys) -> Layer:
    contexts = tuple((conditions[layer.axis, mode][1], keys) for mode, keys in layer.contexts)
    return replace(layer, axis=axes.get(layer.axis, ""), contexts=contexts)


def _axes(
    document: Document, own: Mapping[str, Any]
) -> tuple[tuple[Axis, ...], dict[tuple[str, str], tuple[str, str]]]:
    """The axes with their own keys, and old to new keys of axis and mode."""
    axes_stated = {str(stated["name"]): stated for stated in own.get("axes", ())}
    axes, moved = [], {}
    for axis in document.axes:
        stated = axes_stated.get(axis.name, {})
        fields = {name: str(stated[name]) for name in _AXIS_FIELDS if name in stated}
        modes_said = {str(mode["name"]): mode for mode in stated.get("modes", ())}
        modes: list[Mode] = []
        for mode in axis.modes:
            mode_stated = modes_said.get(mode.name, {})
            texts: dict[str, Any] = {
                n: str(mode_stated[n]) for n in _MODE_FIELDS if n in mode_stated
            }
            selectors = list(mode_stated.get("selectors", ()))[:_MOST_SELECTORS]
            new = replace(mode, **texts, selectors=tuple(str(part) for part in selectors))
            modes.append(new)
            moved[axis.key, mode.key] = (fields.get("key", axis.key), new.key)
        default = moved[axis.key, axis.default][1]
        follows = stated.get("follows")
        axes.append(
            replace(
                axis,
                modes=tuple(modes),
                default=default,
                follows=Follows(str(follows[0]), _frozen(follows[1])) if follows else None,
                **fields,
            )
        )
    return tuple(axes), moved


def _with_conditions(
    token: Token, moved: Mapping[tuple[str, str], tuple[str, str]]
) -> tuple[tuple[Condition, Value], ...]:
    """A token's values with the keys of axes and modes turned by ``moved``."""
    return tuple(
        (Condition(tuple(sorted(moved[pick] for pick in condition.picks))), value)
        if condition.picks
        else (condition, value)
        for condition, value in token.values
    )


def _frozen(value: Any) -> Any:
    return tuple(_frozen(item) for item in value) if isinstance(value, list) else value
