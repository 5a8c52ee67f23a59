"""Token trees of the Design Tokens Format Module 2025.10 (from memory of the module)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from prism.errors import FormatError
from prism.expressions.syntax import reference_of
from prism.formats.limits import MAX_TOKENS
from prism.formats.token_values import pointer_path
from prism.model.document import TYPES
from prism.model.storable import MAX_PATH


@dataclass(frozen=True, slots=True)
class Node:
    """One token or group of a tree, in file order.

    ``members`` are the ``$`` members (for a token, all it has); ``types`` the ``$type`` of the
    groups around it, innermost first.
    """

    path: str
    members: dict[str, Any]
    is_token: bool
    types: tuple[str, ...]

    @property
    def own_type(self) -> str:
        """The node's own ``$type``, or empty."""
        return str(self.members.get("$type", ""))


def walk(tree: dict[str, Any], place: str) -> Iterator[Node]:
    """Every group and token of ``tree``. Raises ``FormatError`` naming ``place`` and path."""
    count = 0
    work: list[tuple[str, Any, tuple[str, ...]]] = [("", tree, ())]
    while work:
        path, raw, types = work.pop()
        where = f"{place}, {path}" if path else place
        if len(path) > MAX_PATH:
            raise FormatError(f"A path has more than {MAX_PATH} characters.", place=place)
        if not isinstance(raw, dict):
            raise FormatError(
                "A token or a group is needed here, not a plain value.",
                place=where,
                fix='Write it as {"$value": …}.',
            )
        _check_members(raw, where)
        is_token = "$value" in raw or (path != "" and set(raw) == {"$ref"})
        if is_token:
            if not path:
                raise FormatError(
                    "The file is one token without a name.",
                    place=place,
                    fix='Give it a name: {"name": {"$value": …}}.',
                )
            count += 1
            if count > MAX_TOKENS:
                raise FormatError(f"The file contains more than {MAX_TOKENS} tokens.", place=place)
            yield Node(path, raw, True, types)
            continue
        members = {
            name: value for name, value in raw.items() if name.startswith("$") and name != "$root"
        }
        yield Node(path, members, False, types)
        inner = (str(raw["$type"]), *types) if "$type" in raw else types
        names = [name for name in raw if name not in members]
        for name in names:
            _check_name(name, where)
        work.extend(
            (f"{path}.{name}" if path else name, raw[name], inner) for name in reversed(names)
        )


def _check_members(raw: dict[str, Any], where: str) -> None:
    kind = raw.get("$type")
    if "$type" in raw and kind not in TYPES:
        raise FormatError(
            f"“{str(kind)[:40]}” is not a type of the standard.",
            place=where,
            fix="Known: " + ", ".join(TYPES) + ".",
        )
    if not isinstance(raw.get("$description", ""), str):
        raise FormatError("A description is a text.", place=where)
    if not isinstance(raw.get("$deprecated", ""), str | bool):
        raise FormatError("$deprecated is true, false or a text.", place=where)


def _check_name(name: str, where: str) -> None:
    if not name or len(name) > 200 or any(mark in name for mark in "{}."):
        raise FormatError(
            f"“{name[:60]}” cannot be a name.",
            place=where,
            fix="A name has 1 to 200 characters, without braces or a full stop.",
        )


def extended_path(raw: Any, where: str) -> str:
    """The group that a ``$extends`` names, by ``{path}`` or by ``#/`` pointer."""
    path = reference_of(raw) if isinstance(raw, str) else ""
    if not path and isinstance(raw, str) and raw.startswith("#/"):
        path = pointer_path({"$ref": raw})
    path = path or pointer_path(raw)
    if not path:
        raise FormatError("$extends names a group, as {group}.", place=where)
    return path


def deprecation(members: dict[str, Any]) -> str | None:
    """``$deprecated`` as a sentence, an empty one for plain true, None where it is not."""
    reason = members.get("$deprecated")
    return None if reason in (None, False) else "" if reason is True else str(reason)
