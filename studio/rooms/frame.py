"""A project as one person looks at it: its document, a theme, and the address of the page."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Any, Generic, Self, TypeVar

from django.contrib.auth.models import User
from django.http import HttpRequest
from django.urls import reverse
from django.utils import timezone

from prism.analysis import Analysis
from prism.model.document import Document
from prism.reports.report import Report, report
from prism.resolution.resolver import Resolver, Theme
from studio.accounts.permissions import person
from studio.rooms.address import Address, state_of
from studio.rooms.parts import held_by
from studio.rooms.themes import DEFAULTS, read_theme, theme_text
from studio.store import projects as store
from studio.store.projects import Project

A = TypeVar("A", bound=Address)


@dataclass(frozen=True, slots=True)
class Sides:
    """What two people did to one thing."""

    sentence: str
    mine: str
    theirs: str
    who: str


@dataclass(frozen=True, slots=True)
class ClashShown:
    """Both sides of some clashes, and the form that was refused, as it is sent again on top of theirs."""

    sides: tuple[Sides, ...]
    more: int
    action: str
    fields: tuple[tuple[str, str], ...]
    revision: int


@dataclass
class Frame(Generic[A]):
    """What every page of a project is made from.

    ``room`` is the name of the room, ``page`` the name of the page that forms come back to.
    """

    request: HttpRequest
    project: Project
    room: str
    page: str
    loaded: store.Loaded
    address: A
    theme: Theme
    pinned: Theme | None
    #: Both sides of a write that clashed with what others have stored, to choose from.
    clash: ClashShown | None = None

    @classmethod
    def enter(
        cls, request: HttpRequest, project: Project, room: str, address: A, page: str = ""
    ) -> Self:
        """The frame for a request with this address; ``page`` is the room's own without it."""
        loaded = store.load(project)
        analysis = loaded.analysis
        theme = read_theme(analysis, address.theme)
        pinned = read_theme(analysis, address.pinned) if address.pinned else None
        address = address.but(
            theme=theme_text(analysis, theme),
            pinned="" if pinned is None else theme_text(analysis, pinned) or DEFAULTS,
        )
        return cls(request, project, room, page or f"{room}:room", loaded, address, theme, pinned)

    @property
    def paired_resolver(self) -> Resolver:
        """The resolver of the document with the pairings that its rules make."""
        return self.analysis.paired_resolver

    @property
    def person(self) -> User:
        """Who looks at the project."""
        return person(self.request)

    @property
    def analysis(self) -> Analysis:
        """All that follows from the document."""
        return self.loaded.analysis

    @property
    def document(self) -> Document:
        """The project's document."""
        return self.loaded.document

    @property
    def resolver(self) -> Resolver:
        """The document's resolver."""
        return self.analysis.resolver

    @cached_property
    def report(self) -> Report:
        """What the checks find by today."""
        return report(self.analysis, timezone.localdate().isoformat())

    @property
    def short_here(self) -> int:
        """How many pairings fall short in the theme that is looked at."""
        return sum(short.holds(self.theme) for short in self.analysis.failing.values())

    @property
    def picks(self) -> tuple[tuple[str, str], ...]:
        """The theme that is looked at, as pairs of axis and mode."""
        return tuple(self.resolver.picks(self.theme).items())

    def query(self, **changes: str | None) -> str:
        """The query that keeps this address, with ``changes``; None takes a member out."""
        return self.address.query(**changes)

    @cached_property
    def held(self) -> frozenset[str]:
        """The digests of the parts that the page holds already."""
        return held_by(self.request)

    @property
    def state(self) -> dict[str, str]:
        """What stands in the address, by name."""
        return self.address.members()

    def plain_url(self, name: str, **changes: str | None) -> str:
        """The address of a view of this project that keeps only the themes."""
        return self._url(name) + self.address.themes_only().query(**changes)

    def told_by(self, name: str, member: str = "task") -> Callable[[str], str]:
        """The address of the page that tells of a long task, by the task's code."""
        return lambda code: self.plain_url(name, **{member: code})

    def _url(self, name: str) -> str:
        return reverse(name, args=[self.project.code])

    @property
    def pin_text(self) -> str:
        """The present theme as it is written when it is pinned."""
        return self.address.theme or DEFAULTS

    @property
    def here(self) -> str:
        """The address of this very page, or of the page whose form was sent."""
        if self.request.method == "POST":
            return self._url(self.page) + self.query()
        return self.request.get_full_path()


#: A frame with an address of any kind.
AnyFrame = Frame[Any]


def enter(request: HttpRequest, project: Project, room: str, page: str = "") -> Frame[Address]:
    """The frame of a page that keeps nothing but the themes."""
    return Frame.enter(request, project, room, Address.read(state_of(request)), page)
