"""What an edit is: a frozen, typed value that says what to do, and can be kept, read and repeated.

A command changes nothing by itself: ``apply`` gives another document. Keys of new parts are handed
in as ``key``, so that the same command on the same document gives the same result anywhere.
"""

from __future__ import annotations

import json
import typing
from collections.abc import Callable, Iterator, Mapping
from dataclasses import MISSING, Field, field, fields, is_dataclass, replace
from types import NoneType, UnionType
from typing import Any, ClassVar, TypeVar, Union, get_args, get_origin

from prism.changes.outcome import Outcome
from prism.compare.rows import condition_from, condition_text
from prism.errors import EditError
from prism.expressions.values import decode, encode
from prism.model.document import Document
from prism.model.values import Composite, Condition, Expression, Listing

#: The version of how commands are written down.
VERSION = 1


class Command:
    """An edit. Subclasses are frozen dataclasses, registered with ``command``.

    They define ``apply`` and ``sentence``, or ``outcome``: those that have to search before they know what to do give
    both at once.
    """

    id: ClassVar[str]

    def apply(self, document: Document) -> Document:
        """The document after the edit. Raises ``PrismError`` where it cannot be made."""
        return self.outcome(document).document

    def outcome(self, document: Document) -> Outcome:
        """As ``apply``, with how much was changed and what was skipped."""
        return Outcome(self.apply(document))

    def sentence(self, before: Document) -> str:
        """What was done to the document ``before``, in the past tense, for the journal."""
        return self.outcome(before).sentence

    def run(self, document: Document) -> Outcome:
        """The document after the edit, with how much was changed and the sentence for the journal."""
        outcome = self.outcome(document)
        return outcome if outcome.sentence else replace(outcome, sentence=self.sentence(document))


#: Every command by its id, in the order of the files of this package.
COMMANDS: dict[str, type[Command]] = {}
C = TypeVar("C", bound=type[Command])


def command(id: str) -> Callable[[C], C]:
    """Register a command under a stable id, by which the journal and other programs know it."""

    def register(cls: C) -> C:
        if id in COMMANDS:
            raise ValueError(f"Two commands are called {id}.")
        cls.id = id
        COMMANDS[id] = cls
        return cls

    return register


def asked(label: str, **given: Any) -> Any:
    """A field of a command that a person fills in, by the label that it has in a form; ``given`` as for a field."""
    return field(metadata={"label": label}, **given)


def label_of(id: str, name: str) -> str:
    """The label of a field of a command. Raises ``KeyError`` where there is none."""
    labels = {own.name: own.metadata.get("label") for own in _own_fields(COMMANDS[id])}
    return str(labels[name])


def keys_from(key: str) -> Callable[[], str]:
    """A source of keys for new parts, the same for the same ``key``."""
    numbers = iter(range(1_000_000))
    return lambda: f"{key}-{next(numbers)}"


# Writing down and reading


def written(command: Command) -> str:
    """A command as JSON text: its id, the version, and its fields by name."""
    plain = {"id": command.id, "version": VERSION, "fields": _fields(command)}
    return json.dumps(plain, ensure_ascii=False)


def read(text: str) -> Command:
    """The command that ``written`` wrote. Raises ``EditError`` where there is none."""
    try:
        return _command(json.loads(text))
    except (ValueError, RecursionError):
        raise EditError("This command cannot be read.") from None


def from_fields(id: str, values: Mapping[str, Any]) -> Command:
    """The command with this id and these fields; members that it has no field for are ignored.

    Text is read as the type of its field. Raises ``EditError`` for an unknown id, and for a field
    that is missing or cannot be read.
    """
    cls = COMMANDS.get(id)
    if cls is None:
        raise EditError(
            f"There is no command “{id[:40]}”.",
            fix="`nimble-prism commands` lists those there are.",
        )
    hints = typing.get_type_hints(cls)
    arguments = {}
    for own in _own_fields(cls):
        if own.name in values:
            arguments[own.name] = _read(hints[own.name], values[own.name], own.name)
        elif own.default is MISSING and own.default_factory is MISSING:
            raise EditError("This is needed.", place=own.name.replace("_", " "))
    return cls(**arguments)


def field_names(cls: type[Command]) -> list[str]:
    """Names of the fields of a command."""
    return [own.name for own in _own_fields(cls)]


def list_fields(cls: type[Command]) -> Iterator[str]:
    """Names of the fields of a command that hold several texts."""
    hints = typing.get_type_hints(cls)
    for own in _own_fields(cls):
        if hints[own.name] == tuple[str, ...]:
            yield own.name


def _own_fields(cls: type) -> Iterator[Field[Any]]:
    """Fields of a command that are written down and read."""
    for own in fields(cls):
        if own.metadata.get("kept", True):
            yield own


def _command(plain: Any) -> Command:
    if not isinstance(plain, dict) or plain.get("version") != VERSION:
        raise EditError("This command cannot be read.")
    values = plain.get("fields")
    if not isinstance(values, dict):
        raise EditError("This command cannot be read.")
    return from_fields(str(plain.get("id")), values)


def _fields(value: Any) -> dict[str, Any]:
    return {own.name: _plain(getattr(value, own.name)) for own in _own_fields(type(value))}


def _plain(value: Any) -> Any:
    if isinstance(value, Condition):
        return condition_text(value)
    if isinstance(value, Expression | Composite | Listing):
        return encode(value)
    if isinstance(value, Command):
        return {"id": value.id, "version": VERSION, "fields": _fields(value)}
    if isinstance(value, tuple):
        return [_plain(item) for item in value]
    if is_dataclass(value):
        return _fields(value)
    return value


def _read(hint: Any, value: Any, name: str) -> Any:
    """A plain value or text as what a type hint asks for."""
    origin, arguments = get_origin(hint), get_args(hint)
    if origin in (Union, UnionType) and NoneType in arguments:
        if value is None:
            return None
        return _read(
            next(argument for argument in arguments if argument is not NoneType), value, name
        )
    if origin in (Union, UnionType) and Expression in arguments:
        return decode(value)
    if hint is Condition:
        return condition_from(value)
    if hint is Command:
        return _command(value)
    if origin is tuple:
        return _read_tuple(arguments, value, name)
    if is_dataclass(hint) and isinstance(hint, type):
        return value if isinstance(value, hint) else _read_parts(hint, value, name)
    return _READERS[hint](value, name.replace("_", " "))


def _read_parts(part: type, value: Any, name: str) -> Any:
    """A plain mapping as a part of a command."""
    hints = typing.get_type_hints(part)
    if not isinstance(value, dict) or not set(value) <= set(hints):
        raise EditError(f"Only {', '.join(hints)} are needed here.", place=name)
    try:
        return part(**{key: _read(hints[key], given, key) for key, given in value.items()})
    except TypeError:
        raise EditError("Something is missing here.", place=name) from None


def _read_tuple(arguments: tuple[Any, ...], value: Any, name: str) -> tuple[Any, ...]:
    if not isinstance(value, list | tuple):
        raise EditError("A list is needed.", place=name)
    if len(arguments) == 2 and arguments[1] is Ellipsis:
        return tuple(_read(arguments[0], item, name) for item in value)
    if len(value) != len(arguments):
        raise EditError(f"{len(arguments)} values are needed.", place=name)
    return tuple(_read(hint, item, name) for hint, item in zip(arguments, value, strict=True))


def _text(value: Any, place: str) -> str:
    if not isinstance(value, str):
        raise EditError("A text is needed.", place=place)
    return value


def _whole(value: Any, place: str) -> int:
    text = str(value).strip().rstrip("%").strip()
    if isinstance(value, bool) or not (text.lstrip("-").isascii() and text.lstrip("-").isdigit()):
        raise EditError(f"“{text[:20]}” is not a whole number.", place=place)
    return int(text)


def _number(value: Any, place: str) -> float:
    try:
        return float(value)
    except (TypeError, ValueError):
        raise EditError(f"“{str(value)[:20]}” is not a number.", place=place) from None


def _flag(value: Any, place: str) -> bool:
    return value is True or value in ("yes", "on", "1", "true")


_READERS: dict[Any, Callable[[Any, str], Any]] = {
    str: _text,
    int: _whole,
    float: _number,
    bool: _flag,
}
