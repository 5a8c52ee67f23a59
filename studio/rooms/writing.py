"""Forms that make a command, and what follows when it is stored or refused."""

from __future__ import annotations

from collections.abc import Callable
from types import ModuleType
from typing import Any
from urllib.parse import parse_qsl

from django import forms
from django.core.exceptions import NON_FIELD_ERRORS
from django.http import HttpResponse
from django.shortcuts import redirect

from prism import edits
from prism.edits import Command
from prism.edits.command import list_fields
from prism.errors import EditError, PrismError
from studio.rooms.frame import AnyFrame
from studio.store import projects as store

#: Characters that one field of a named command may have.
MOST_TEXT = 4000
#: Members that a list in a form may have.
MOST_MEMBERS = 20_000

Refuse = Callable[[str, int], HttpResponse]


class CommandForm(forms.Form):
    """A form that makes a command, and says which revision its page showed."""

    revision = forms.IntegerField(min_value=0)

    def command(self) -> Command:
        """The command that was asked for. Raises ``PrismError`` where there is none."""
        raise NotImplementedError

    def texts(self, name: str) -> list[str]:
        """All texts that were sent under a name, at most ``MOST_MEMBERS``."""
        data: Any = self.data
        texts: list[str] = data.getlist(name)[:MOST_MEMBERS]
        return texts


class NamedCommandForm(CommandForm):
    """Any command of some families, by its id, with its fields by name.

    The id may carry fields of its own, as ``move-ramp?by=1``.
    """

    def __init__(self, data: Any, *families: ModuleType) -> None:
        super().__init__(data)
        self._families = {family.__name__ for family in families}

    def command(self) -> Command:
        command, given = named(self.data)
        values = {name: value[:MOST_TEXT] for name, value in self.data.items()} | given
        cls = edits.COMMANDS.get(command)
        if cls is None or cls.__module__ not in self._families:
            raise EditError("There is no such command here.", fix="Load the page again.")
        for name in list_fields(cls):
            values[name] = self.texts(name)
        return edits.from_fields(command, values | {"key": store.new_key()})


def named(data: Any) -> tuple[str, dict[str, Any]]:
    """The id of the command that a form names, and the fields that stand behind it."""
    command, _, given = data.get("command", "")[:200].partition("?")
    return command, dict(parse_qsl(given))


def run(
    frame: AnyFrame,
    form: CommandForm,
    refuse: Refuse,
    then: Callable[[store.Saved], str] | None = None,
) -> HttpResponse:
    """The response to a form that makes a command.

    ``refuse(sentence, status)`` shows what is wrong; ``then`` says where to go once it is stored,
    back to the page without.
    """
    if not form.is_valid():
        return refuse(f"Nothing was stored. {problems(form)}", 400)
    try:
        saved = save(frame, form)
    except PrismError as error:
        return refuse(str(error), 422)
    return redirect(then(saved) if then else frame.here)


def save(frame: AnyFrame, form: CommandForm) -> store.Saved:
    """Store the command of a valid form. Lets every ``PrismError`` through."""
    revision = form.cleaned_data["revision"]
    return store.save(frame.project, form.command(), frame.person, revision)


def problems(form: forms.Form) -> str:
    """What is wrong with a form, field by field; files say for themselves what they are."""
    sentences = []
    for name, errors in form.errors.items():
        plain = name == NON_FIELD_ERRORS or isinstance(form.fields[name], forms.FileField)
        sentences += [str(error) if plain else f"{name}: {error}" for error in errors]
    return " ".join(sentences)
