"""Design Tokens documents out: a resolver document with its token files.

Files that came are written as they came wherever the document still says the same; what has
changed is written in its place. What the standard cannot say goes under ``$extensions``.
"""

from __future__ import annotations

import json
import posixpath
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import count
from typing import Any

from prism.formats import own_members, resolver, strict_json
from prism.formats.layers import OWN
from prism.formats.layout import Layout, Slot
from prism.formats.placement import Placement
from prism.model.document import Axis, Document
from prism.model.imported import Layer
from prism.model.names import free_name


@dataclass(frozen=True, slots=True)
class Written:
    """Files by name, the resolver document first, and what other readers will not see."""

    files: dict[str, str]
    remarks: tuple[str, ...]


def write(document: Document) -> Written:
    """A resolver document and its token files, as text by file name.

    Reading the files again gives ``document`` with nothing lost.
    """
    layout = Layout(document)
    layout.lay_out()
    placement = Placement(layout)
    placement.place()
    read = _read_back(_files(layout))
    if placement.state_types(read):
        read = _read_back(_files(layout))
    own = own_members.state(document, read)
    top = _resolver(layout)
    top.setdefault("$extensions", {})[OWN] = own
    files = _files(layout) | {layout.resolver_file: strict_json.write(top)}
    return Written(files, (*layout.remarks, *_unseen(own)))


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
