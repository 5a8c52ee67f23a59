"""The state of a page, as it stands in its address: read once, and written as a query."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, fields, replace
from typing import Any, ClassVar, Self
from urllib.parse import urlencode

from django.http import HttpRequest

Read = Callable[[str], str]


def text(limit: int) -> Any:
    """A member of an address: text of at most ``limit`` characters, empty where it is missing."""
    return field(default="", metadata={"read": lambda value: value[:limit]})


def choice(*allowed: str) -> Any:
    """A member of an address that is one of some words, or else empty."""
    return field(default="", metadata={"read": lambda value: value if value in allowed else ""})


@dataclass(frozen=True)
class Address:
    """What every page of a project keeps: the theme that is looked at, and a pinned one.

    Subclasses add members with ``text`` and ``choice``.
    """

    theme: str = text(1000)
    pinned: str = text(1000)
    #: The members that say what is open beside the rest of the page.
    OPENS: ClassVar[tuple[str, ...]] = ()

    @classmethod
    def read(cls, state: Mapping[str, str]) -> Self:
        """The address that a query or a form states."""
        return cls(
            **{
                field.name: field.metadata["read"](state.get(field.name, ""))
                for field in fields(cls)
                if "read" in field.metadata
            }
        )

    def members(self) -> dict[str, str]:
        """What stands in a query, by name; empty members are left out."""
        values = {field.name: getattr(self, field.name) for field in fields(self)}
        return {name: value for name, value in values.items() if isinstance(value, str) and value}

    def query(self, **changes: str | None) -> str:
        """The query with ``changes``; None takes a member out. Empty where nothing is left."""
        members = {**self.members(), **changes}
        kept = {name: value for name, value in members.items() if value}
        return f"?{urlencode(kept)}" if kept else ""

    def shut(self, **changes: str | None) -> str:
        """As ``query``, with nothing open: the browser adds what is (``data-keeps``)."""
        return self.query(**dict.fromkeys(self.OPENS) | changes)

    def themes_only(self) -> Address:
        """The address of another page in the same themes."""
        return Address(self.theme, self.pinned)

    def but(self, **changes: Any) -> Self:
        """The same address with other members."""
        return replace(self, **changes)


def state_of(request: HttpRequest) -> Mapping[str, str]:
    """Where a request states its address: the query of a look, the form of a write."""
    return request.GET if request.method == "GET" else request.POST
