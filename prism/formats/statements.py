"""What a Design Tokens file says of a token, before files are merged."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from prism.expressions.syntax import reference_of
from prism.formats import design_tokens, strict_json, token_values
from prism.formats.layers import OWN, Tree
from prism.model.imported import Layer
from prism.model.values import Value

#: Members of a resolver document that become parts of the document.
_READ = ("name", "version", "description", "sets", "modifiers", "resolutionOrder")


@dataclass(slots=True)
class Statement:
    """One token object in one tree, and where it holds."""

    tree: Tree
    node: design_tokens.Node
    layer: Layer
    mode: str = ""
    position: int = 0
    hidden: bool = False
    folded: bool = False


@dataclass(slots=True)
class Draft:
    path: str
    statements: list[Statement] = field(default_factory=list)
    inherits: str = ""
    type: str = ""


def walk_order(root: dict[str, Any]) -> Iterable[str]:
    work = [("", root)]
    while work:
        path, node = work.pop()
        if path:
            yield path
        children = [(f"{path}.{name}" if path else name, child) for name, child in node.items()]
        work.extend(reversed(children))


def unread_members(members: Mapping[str, Any]) -> str:
    rest = {name: value for name, value in members.items() if name not in _READ}
    extensions = rest.get("$extensions")
    if isinstance(extensions, dict) and OWN in extensions:
        rest["$extensions"] = {k: v for k, v in extensions.items() if k != OWN}
        if not rest["$extensions"]:
            del rest["$extensions"]
    return strict_json.compact(rest) if rest else ""


def reference_in(members: Mapping[str, Any]) -> str:
    """The path that a token object's whole value refers to; empty for a literal."""
    raw = members["$value"] if "$value" in members else {"$ref": members["$ref"]}
    if isinstance(raw, str):
        return reference_of(raw)
    return token_values.pointer_path(raw)


def read_value(members: Mapping[str, Any], type: str, place: str) -> Value:
    """The value of a token object; the author's own text where this product kept it."""
    raw = members["$value"] if "$value" in members else {"$ref": members["$ref"]}
    return token_values.read(raw, type, place)
