"""Forms that make a command, and what follows when it is stored or refused."""

from __future__ import annotations

from collections.abc import Callable
from types import ModuleType
from typing import Any
from urllib.parse import parse_qsl

from django import forms
from django.contrib import messages
from django.core.exceptions import NON_FIELD_ERRORS
from django.http import HttpResponse
from django.shortcuts import redirect

from prism import edits
from prism.commands.command import field_names, list_fields
from prism.edits import Command
from prism.errors import EditError, PrismError
from studio.rooms.frame import AnyFrame, ClashShown, Sides
from studio.store import projects as store

#: Characters that one field of a named command may have.
MOST_TEXT = 4000
#: Clashes that are shown with both of their sides.
_CLASHES = 4

Refuse = Callable[[str, int], HttpResponse]


class CommandForm(forms.Form):
    """A form that makes a command, and says which revision its page showed."""

    revision = forms.IntegerField(min_value=0)

    def command(self) -> Command:
        """The command that was asked for. Raises ``PrismError`` where there is none."""
        raise NotImplementedError

    def texts(self, name: str) -> list[str]:
        """All texts that were sent under a name; Django refuses a form of too many fields."""
        data: Any = self.data
        texts: list[str] = data.getlist(name)
        return texts


class ReadyForm(CommandForm):
    """A command that is made already."""

    def __init__(self, data: Any, command: Command) -> None:
        super().__init__(data)
        self._command = command

    def command(self) -> Command:
        return self._command


class NamedCommandForm(CommandForm):
    """Any command of some families, by its id, with its fields by name.

    The id may carry fields of its own, as ``move-ramp?by=1``.
    """

    def __init__(self, data: Any, *families: ModuleType) -> None:
        super().__init__(data)
        self._families = families

    def command(self) -> Command:
        cls, given = named(self.data, *self._families)
        values: dict[str, Any] = {
            name: text_of(self.data, name) for name in field_names(cls) if name in self.data
        }
        for name in list_fields(cls):
            values[name] = self.texts(name)
        return edits.from_fields(cls.id, values | given | {"key": store.new_key()})


def named(data: Any, *families: ModuleType) -> tuple[type[Command], dict[str, Any]]:
    """The command of some families that a form names, and the fields that its id carries.

    Raises ``EditError`` where there is none.
    """
    name, _, given = data.get("command", "")[:200].partition("?")
    cls = edits.COMMANDS.get(name)
    if cls is None or cls.__module__ not in {family.__name__ for family in families}:
        raise EditError("There is no such command here.", fix="Load the page again.")
    return cls, dict(parse_qsl(given))


def text_of(data: Any, name: str) -> str:
    """One text of a form. Raises ``EditError`` where it is too long."""
    text: str = data[name]
    if len(text) > MOST_TEXT:
        place = name.replace("_", " ")
        raise EditError(f"The text has {len(text)} characters; at most {MOST_TEXT}.", place=place)
    return text


def run(
    frame: AnyFrame,
    form: CommandForm,
    refuse: Refuse,
    then: Callable[[store.Saved], str] | None = None,
    words: Callable[[store.Saved], str] | None = None,
) -> HttpResponse:
    """The response to a form that makes a command.

    ``refuse(sentence, status)`` shows what is wrong; ``then`` says where to go once it is stored,
    back to the page without; ``words`` what to say of it, the sentence of the command without.
    """
    if not form.is_valid():
        return refuse(f"Nothing was stored. {problems(form)}", 400)
    try:
        saved = save(frame, form)
    except store.ClashError as error:
        frame.clash = clash_of(frame, error)
        return refuse("Nothing was stored yet. Choose one of both sides.", 409)
    except PrismError as error:
        return refuse(str(error), 422)
    sentence = words(saved) if words else f"{saved.outcome.sentence}."
    messages.success(frame.request, sentence, extra_tags="undo")
    return redirect(then(saved) if then else frame.here)


def clash_of(frame: AnyFrame, error: store.ClashError) -> ClashShown:
    """Both sides of a clash, with the form of the request to be sent again on top of what is stored now."""
    request = frame.request
    frame.project.refresh_from_db()
    sides = [
        Sides(error.sentence_of(clash), clash.yours, clash.others, error.who(clash))
        for clash in error.clashes
    ]
    sent = [] if request.FILES else list(request.POST.lists())
    fields = [
        (name, text)
        for name, texts in sent
        if name not in ("csrfmiddlewaretoken", "revision")
        for text in texts
    ]
    return ClashShown(
        tuple(sides[:_CLASHES]),
        len(sides[_CLASHES:]),
        request.get_full_path(),
        tuple(fields),
        frame.project.revision,
    )


def save(frame: AnyFrame, form: CommandForm) -> store.Saved:
    """Store the command of a valid form. Lets every ``PrismError`` through."""
    revision = form.cleaned_data["revision"]
    return store.save(frame.project, form.command(), frame.person, revision)


def problems(form: forms.Form) -> str:
    """What is wrong with a form, field by field; files say for themselves what they are."""
    sentences = []
    for name, errors in form.errors.as_data().items():
        plain = name == NON_FIELD_ERRORS or isinstance(form.fields[name], forms.FileField)
        for error in errors:
            text = " ".join(error.messages)
            if not plain:
                missing = error.code == "required"
                text = f"The {_called(form, name)} is missing." if missing else f"{name}: {text}"
            sentences.append(text)
    return " ".join(sentences)


def _called(form: forms.Form, name: str) -> str:
    return (form.fields[name].label or name.replace("_", " ").replace("-", " ")).lower()
