"""The files that the recipes ask for, as somebody would write them."""

CHECK = '''"""Names in capitals."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Looked
from prism.model.document import shown_path


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each token whose name is in capitals."""
    for token in analysis.document.tokens:
        if token.path.isupper():
            yield Finding("loud", f"{shown_path(token.path)} is in capitals.", token.key)


def looked(analysis: Analysis) -> Looked:
    """A look over every token."""
    return Looked(len(analysis.document.tokens), "token")


CHECK = Check("loud", "Loud name", "Capitals are hard to read.", run, looked)
'''
COMMAND = '''

@command("quiet-token")
@dataclass(frozen=True, slots=True)
class QuietToken(Command):
    """Give a token, by key, a description that says that it is quiet."""

    token: str

    def apply(self, document: Document) -> Document:
        tokens = tuple(
            replace(token, description="quiet") if token.key == self.token else token
            for token in document.tokens
        )
        return replace(document, tokens=tokens)

    def sentence(self, before: Document) -> str:
        return f"Quieted {token_name(before, self.token)}"
'''
SCENE = """<body data-fill="page" data-ink="ink" data-size="size" data-font="font" data-part="page">
  <main data-part="pier" data-fill="card" data-pad="pad"><h1 data-ink="link">The quay at night</h1></main>
</body>
"""
TARGET = '''"""Names, one a line."""

from __future__ import annotations

from prism.model.document import Document, shown_path


def write(document: Document) -> str:
    """The paths of all tokens."""
    return "".join(f"{shown_path(token.path)}\\n" for token in document.tokens)
'''
CLI = '''"""The command count."""

from __future__ import annotations

import click

from prism.cli.group import file_argument, main
from prism.cli.reading import load


@main.command()
@file_argument
def count(file: str) -> None:
    """Print how many tokens FILE has."""
    click.echo(len(load(file).tokens))
'''
TYPE = '''"""Shares: numbers without a unit that say how much of something is taken."""

from __future__ import annotations

from prism.expressions.types.reading import number_text, numeric
from prism.expressions.types.token_type import TokenType

TYPE = TokenType(
    "share",
    example="0.5",
    hint="A number such as `0.5`.",
    parse=numeric("number"),
    json_text=number_text,
    standard=False,
    listed="measures",
)
'''
RULE = '''

def _quotes(placement: Placement) -> Iterator[_Stack]:
    """No token is a quotation yet."""
    yield from ()
'''
ROOM = {
    "__init__.py": "",
    "apps.py": """from django.apps import AppConfig


class NotesConfig(AppConfig):
    name = "studio.rooms.notes"
    label = "notes"
""",
    "urls.py": """from django.urls import path

from studio.rooms.notes import views

app_name = "notes"
urlpatterns = [
    path("", views.room, name="room"),
]
""",
    "address.py": '''"""What the address of the notes says."""

from dataclasses import dataclass

from studio.rooms.address import Address, text


@dataclass(frozen=True)
class NotesAddress(Address):
    """The words that notes are found by."""

    find: str = text(100)
''',
    "tasks.py": '''"""Notes as a long task."""

from studio.store.tasks import Result
from studio.work.kinds import Work, long_task


@long_task("gather-notes", "Gathering notes")
def gather(work: Work) -> Result:
    """All notes."""
    return Result()
''',
    "views.py": '''"""Notes of a project."""

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_GET

from studio.accounts.permissions import requires
from studio.rooms import page
from studio.rooms.address import state_of
from studio.rooms.frame import Frame
from studio.rooms.notes.address import NotesAddress
from studio.store.projects import Project


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """The notes."""
    address = NotesAddress.read(state_of(request))
    frame = Frame.enter(request, project, "notes", address, "notes:room")
    return page.show(frame, "notes/room.html")
''',
    "templates/notes/room.html": '<div class="head"><h1>Notes</h1></div>\n',
}
