"""Template tags for forms that run a named command."""

from __future__ import annotations

from typing import Any

from django import template
from django.template.context import Context
from django.urls import reverse

register = template.Library()


def _form(context: Context, command: str, fields: dict[str, Any]) -> dict[str, Any]:
    frame = context["frame"]
    return {
        "state": frame.state,
        "revision": frame.loaded.revision,
        "command": command,
        "fields": {name: "" if value is None else value for name, value in fields.items()},
        "csrf_token": context.get("csrf_token"),
    }


def _url(context: Context, room: str) -> str:
    return reverse(f"{room}:command", args=[context["frame"].project.code])


@register.inclusion_tag("ui/command.html", takes_context=True)
def command(context: Context, id: str = "", **fields: Any) -> dict[str, Any]:
    """Hidden inputs of a form: where it stands, the revision, the command and its fields."""
    return _form(context, id, fields)


@register.inclusion_tag("ui/command_button.html", takes_context=True)
def command_button(
    context: Context,
    room: str,
    id: str,
    label: str,
    say: str = "",
    name: str = "",
    plain: bool = False,
    **fields: Any,
) -> dict[str, Any]:
    """A form of one button. ``say`` is what it is called aloud, ``name`` the id of the button."""
    looks = {"url": _url(context, room), "label": label, "say": say, "name": name, "plain": plain}
    return _form(context, id, fields) | looks


@register.inclusion_tag("ui/command_field.html", takes_context=True)
def command_field(
    context: Context,
    room: str,
    id: str,
    field: str,
    label: str,
    button: str,
    name: str,
    value: str = "",
    size: int = 0,
    hidden_label: bool = False,
    **fields: Any,
) -> dict[str, Any]:
    """A form of one input, for the command's ``field``, and a button."""
    looks = {
        "url": _url(context, room),
        "field": field,
        "label": label,
        "button": button,
        "name": name,
        "value": value,
        "size": size,
        "hidden_label": hidden_label,
    }
    return _form(context, id, fields) | looks
