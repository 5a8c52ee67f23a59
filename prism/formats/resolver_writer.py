"""Design Tokens documents out: a resolver document with its token files.

Files that came are written as they came wherever the document still says the same; what has
changed is written in its place. What the standard cannot say goes under ``$extensions``.
"""

from __future__ import annotations

import json
import posixpath
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from itertools import count
from typing import Any

from prism.formats import own_members, resolver, strict_json
from prism.formats.layers import OWN
from prism.formats.layout import Layout, Slot
from prism.formats.placement import Placement
from prism.model.document import Axis, Document
from prism.model.imported import Layer
from prism.model.names import free_name
from prism.model.values import Condition, Value
from prism.resolution.compiled import strongest


@dataclass(frozen=True, slots=True)
class Written:
    """Files by name, the resolver document first, and what other readers will not see."""

    files: dict[str, str]
    remarks: tuple[str, ...]


def write(document: Document) -> Written:
    """A resolver document and its token files, as text by file name.

    Reading the files again gives ``document`` with nothing lost.
    """
    layout, read = _laid_out(document)
    own = own_members.state(document, read)
    restated = _restated(document, own)
    if restated != document:
        layout, read = _laid_out(restated)
        own = own_members.state(document, read)
    top = _resolver(layout)
    top.setdefault("$extensions", {})[OWN] = own
    files = _files(layout) | {layout.resolver_file: strict_json.write(top)}
    still = [
        value["path"] for value in _cleared(own) if _missing(restated, document, value["path"])
    ]
    return Written(files, (*layout.remarks, *_unseen(own), *_shown_still(still)))


def _laid_out(document: Document) -> tuple[Layout, Document]:
    """The files of a document in the making, and what they alone say."""
    layout = Layout(document)
    layout.lay_out()
    placement = Placement(layout)
    placement.place()
    read = _read_back(_files(layout))
    if placement.state_types(read):
        read = _read_back(_files(layout))
    return layout, read


def _cleared(own: Mapping[str, Any]) -> list[dict[str, Any]]:
    """The members that take away what the files would say."""
    return [value for value in own.get("values", ()) if value["value"] is None]


def _restated(document: Document, own: Mapping[str, Any]) -> Document:
    """A document that says again what holds in modes where files would let another mode's value
    show through, as a context of two files does once the value of the second one is cleared."""
    keys = {
        (axis.name, mode.name): (axis.key, mode.key)
        for axis in document.axes
        for mode in axis.modes
    }
    positions = {axis.key: place for place, axis in enumerate(document.axes)}
    again: dict[str, dict[Condition, Value]] = {}
    for stated in _cleared(own):
        token = document.token_at(stated["path"])
        picks = [keys.get(pick) for pick in stated["when"]]
        if token is None or None in picks:
            continue
        condition = Condition(tuple(sorted(pick for pick in picks if pick is not None)))
        value = strongest(dict(token.values), condition, positions)
        if value is not None:
            again.setdefault(token.key, dict(token.values))[condition] = value
    if not again:
        return document
    tokens = [
        replace(token, values=tuple(again[token.key].items())) if token.key in again else token
        for token in document.tokens
    ]
    return replace(document, tokens=tuple(tokens))


def _missing(restated: Document, document: Document, path: str) -> bool:
    """Whether nothing could be said again for a token."""
    before, after = document.token_at(path), restated.token_at(path)
    return before is None or after is None or before.values == after.values


def _shown_still(paths: Iterable[str]) -> list[str]:
    names = ", ".join(dict.fromkeys(paths))
    if not names:
        return []
    return [f"Without a value in some mode, other readers see that of another mode: {names}."]


def _unseen(own: dict[str, Any]) -> list[str]:
    """Sentences on the values that stand in the members of this product alone."""
    values = [value for value in own.get("values", ()) if value["value"] is not None]
    unseen = []
    for many, what in ((True, "Values on several axes"), (False, "Values the files cannot say")):
        paths = [value["path"] for value in values if (len(value["when"]) > 1) is many]
        if paths:
            names = ", ".join(dict.fromkeys(paths))
            unseen.append(f"{what} stand under $extensions only: {names}.")
    return unseen


def _read_back(files: dict[str, str]) -> Document:
    numbers = count()
    return resolver.read_alone(
        {name: text.encode() for name, text in files.items()}, lambda: f"_{next(numbers)}"
    )


def _files(layout: Layout) -> dict[str, str]:
    files = {layout.resolver_file: strict_json.write(_resolver(layout))}
    for tree in layout.trees.values():
        if tree.file:
            files[tree.file] = strict_json.write(_nested(tree.slots))
    return files


def _resolver(layout: Layout) -> dict[str, Any]:
    document = layout.document
    top: dict[str, Any] = {"name": document.name} if document.name else {}
    top["version"] = document.version or "2025.10"
    if document.description:
        top["description"] = document.description
    shelves: dict[str, dict[str, Any]] = {"sets": {}, "modifiers": {}}
    order = []
    for layer in layout.layers:
        axis = document.axis(layer.axis) if layer.axis else None
        kind = "modifiers" if axis else "sets"
        name = free_name(axis.name if axis else layer.name, set(shelves[kind]))
        body = _modifier(layout, layer, axis) if axis else _set(layout, layer)
        shelves[kind][name] = body | (json.loads(layer.text) if layer.text else {})
        order.append({"$ref": f"#/{kind}/{name.replace('~', '~0').replace('/', '~1')}"})
    top |= {kind: shelf for kind, shelf in shelves.items() if shelf or kind == "sets"}
    top["resolutionOrder"] = order
    return top | (json.loads(document.resolver_text) if document.resolver_text else {})


def _set(layout: Layout, layer: Layer) -> dict[str, Any]:
    body: dict[str, Any] = {"description": layer.description} if layer.description else {}
    body["sources"] = [_source(layout, key) for key in layer.sources]
    return body


def _modifier(layout: Layout, layer: Layer, axis: Axis) -> dict[str, Any]:
    body: dict[str, Any] = {"description": axis.description} if axis.description else {}
    body["contexts"] = {
        axis.mode(mode).name: [_source(layout, key) for key in keys]
        for mode, keys in layer.contexts
    }
    if layer.stated_default or axis.default != axis.modes[0].key:
        body["default"] = axis.mode(axis.default).name
    return body


def _source(layout: Layout, key: str) -> dict[str, Any]:
    tree = layout.trees[key]
    if tree.file:
        folder = posixpath.dirname(layout.resolver_file)
        return {"$ref": posixpath.relpath(tree.file, folder or ".")}
    return _nested(tree.slots)


def _nested(slots: Iterable[Slot]) -> dict[str, Any]:
    """Slots as a nested token tree, in order."""
    root: dict[str, Any] = {}
    for slot in slots:
        node = root
        for name in slot.path.split(".") if slot.path else ():
            node = node.setdefault(name, {})
        node.update(slot.members)
    return root
