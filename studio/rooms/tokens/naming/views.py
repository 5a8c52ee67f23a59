"""Names by scheme: an ordered list of parts gives a matrix of names; what is not needed is struck."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_GET, require_POST

from prism.model.document import Document, Scheme
from prism.naming import scheme as naming
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.frame import Frame
from studio.rooms.tokens.naming import forms
from studio.rooms.tokens.naming.address import NamingAddress
from studio.store import projects as store
from studio.store.projects import Project


def _enter(request: HttpRequest, project: Project) -> Frame[NamingAddress]:
    address = NamingAddress.read(state_of(request))
    return Frame.enter(request, project, "tokens", address, "naming:room")


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """A scheme with its names, those that are there marked."""
    return _room(_enter(request, project))


def _schemes(document: Document) -> list[Scheme]:
    """The document's own schemes, then those to start from that it has none in place of."""
    own = {scheme.key for scheme in document.schemes}
    return [*document.schemes, *(scheme for scheme in naming.STARTING if scheme.key not in own)]


def _room(
    frame: Frame[NamingAddress],
    problem: str = "",
    lines: Sequence[tuple[str, str]] = (),
    name: str = "",
    chosen: Collection[str] | None = None,
    status: int = 200,
) -> HttpResponse:
    schemes = _schemes(frame.document)
    wanted = frame.address.scheme
    scheme = next((scheme for scheme in schemes if scheme.key == wanted), schemes[0])
    names = naming.names(frame.document, scheme)
    parts = list(lines) or [(part, " ".join(words)) for part, words in scheme.parts]
    padded = [*parts, *[("", "")] * (forms.MOST_PARTS - len(parts))]
    context = {
        "schemes": schemes,
        "scheme": scheme,
        "own": scheme in frame.document.schemes,
        "name": name or scheme.name,
        "parts": [
            {"number": number, "part": part, "words": words, "shown": number < len(parts) + 1}
            for number, (part, words) in enumerate(padded)
        ],
        "names": [
            {"name": name, "struck": chosen is not None and name.path not in chosen}
            for name in names
        ],
        "fresh": sum(not name.there for name in names),
        "problem": problem,
    }
    return page.show(frame, "naming/room.html", context, status)


@requires("edit")
@require_POST
def store_scheme(request: HttpRequest, project: Project) -> HttpResponse:
    """Keep a scheme with the project."""
    frame = _enter(request, project)
    form = forms.SchemeForm(request.POST, frame.document)

    def then(saved: store.Saved) -> str:
        schemes = saved.loaded.document.schemes
        if all(scheme.key != frame.address.scheme for scheme in schemes):
            frame.address = frame.address.but(scheme=schemes[-1].key)
        return frame.here

    def refuse(problem: str, status: int) -> HttpResponse:
        lines = [line for line in form.lines if any(line)]
        return _room(frame, problem, lines, form.data.get("name", ""), status=status)

    return writing.run(frame, form, refuse, then)


@requires("edit")
@require_POST
def add_names(request: HttpRequest, project: Project) -> HttpResponse:
    """Add tokens for the names that are not struck."""
    frame = _enter(request, project)
    form = forms.NamesForm(request.POST)

    def refuse(problem: str, status: int) -> HttpResponse:
        return _room(frame, problem, chosen=form.chosen, status=status)

    return writing.run(frame, form, refuse, lambda _: frame.plain_url("tokens:room"))
