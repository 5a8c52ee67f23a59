"""Template tags that render state and colors."""

from __future__ import annotations

from collections.abc import Mapping
from importlib import import_module
from typing import Any

from django import template
from django.apps import apps
from django.template.context import Context
from django.urls import reverse
from django.utils.html import format_html, format_html_join
from django.utils.safestring import SafeString

from prism.color.contrast import truncate_ratio
from prism.color.space import hex_text, parse_function
from prism.commands.command import label_of
from prism.expressions.syntax import reference_of
from prism.expressions.types import TOKEN_TYPES
from prism.model.document import Document, Mode, Pairing, shown_path
from prism.resolution.contrast import Reading, summary
from studio.rooms.frame import AnyFrame
from studio.rooms.parts import part_of
from studio.rooms.registry import Room
from studio.store.models import Project
from studio.ui.markdown import markup

register = template.Library()
register.filter("shown", shown_path)
register.filter("ratio", truncate_ratio)
register.filter("markdown", markup)


@register.simple_tag
def label(place: str) -> str:
    """The label of a field, as its form or its command has it: ``tokens.DescribeForm.path``, ``rename-group.path``."""
    *app, owner, field = place.split(".")
    if not app:
        return label_of(owner, field)
    forms = import_module(f"{apps.get_app_config(app[0]).name}.forms")
    return str(getattr(forms, owner).base_fields[field].label)


class _PartNode(template.Node):
    """One element that is not sent to a page that holds it as it is."""

    def __init__(self, nodelist: template.NodeList) -> None:
        self.nodelist = nodelist

    def render(self, context: Context) -> SafeString:
        frame: AnyFrame = context["frame"]
        return part_of(self.nodelist.render(context)).shown(frame.held)


@register.tag
def part(parser: template.base.Parser, token: template.base.Token) -> _PartNode:
    """``{% part %}<nav>…</nav>{% endpart %}``: an element that a page may hold already. Nothing in it differs from
    request to request, as the token of a form does."""
    nodelist = parser.parse(("endpart",))
    parser.delete_first_token()
    return _PartNode(nodelist)


@register.simple_tag(takes_context=True)
def query(context: Context, **changes: str | None) -> str:
    """The query that keeps the frame's state, with ``changes``; ``?`` where nothing is left."""
    frame: AnyFrame = context["frame"]
    return frame.query(**changes) or "?"


@register.simple_tag(takes_context=True)
def room_url(context: Context, name: str, **changes: str | None) -> str:
    """The address of a view of this project that keeps theme and kept theme only."""
    frame: AnyFrame = context["frame"]
    return frame.plain_url(name, **changes)


@register.filter
def at(mapping: Mapping[Any, Any], key: Any) -> Any:
    """The entry of a mapping under a key that a variable holds; empty where there is none."""
    return mapping.get(key, "")


@register.filter
def slug_of(slugs: Mapping[str, str], mode: Mode | None) -> str:
    """The slug of a mode; empty where there is no mode."""
    return slugs.get(mode.key, "") if mode else ""


@register.filter
def bare(text: str) -> str:
    """A value as it is shown in a cell: a reference without its braces."""
    path = reference_of(text)
    return shown_path(path) if path else text


@register.filter
def hint(type: str) -> str:
    """What can be typed as a value of a type of token; names and values as code."""
    pieces = TOKEN_TYPES[type].hint.split("`")
    code = (
        (format_html("<code>{}</code>", piece) if i % 2 else piece,)
        for i, piece in enumerate(pieces)
    )
    return format_html_join("", "{}", code)


@register.filter
def breakable(path: str) -> str:
    """A path that a narrow column can break after its dots and dashes."""
    return path.replace(".", ".\u200b").replace("-", "-\u200b")


@register.filter
def stem(path: str) -> str:
    """A path without its last segment, with the dot; empty at the top."""
    head, dot, _ = shown_path(path).rpartition(".")
    return head + dot


@register.filter
def leaf(path: str) -> str:
    """The last segment of a path."""
    return shown_path(path).rpartition(".")[2]


register.filter("hex", hex_text)


@register.filter
def hexed(text: str) -> str:
    """The hex of a color's text."""
    return hex_text(parse_function(text))


@register.filter
def short(text: str) -> str:
    """A color function without its name and parentheses, for narrow places."""
    return text.partition("(")[2].rstrip(")").removeprefix("display-p3 ") or text


@register.filter
def pairing_words(pairing: Pairing | None, document: Document) -> str:
    """A pairing as foreground on background."""
    return summary(document, pairing) if pairing else "a pairing that is gone"


@register.inclusion_tag("ui/swatch.html")
def swatch(color: str, low: bool = False) -> dict[str, Any]:
    """A small swatch of an ``#rrggbb`` or ``#rrggbbaa`` color."""
    return {"color": color, "low": low}


@register.inclusion_tag("ui/ratio.html")
def ratio(reading: Reading) -> dict[str, Any]:
    """A contrast ratio; a failed one is heavy, hatched, with a bar of how far it gets."""
    width = 0.0
    if reading.fails:
        width = min(100.0, 100 * reading.ratio / reading.required)
    return {"reading": reading, "width": f"{width:.1f}"}


@register.filter
def before_on(words: str) -> str:
    """The foreground in ``foreground on background``."""
    return words.partition(" on ")[0]


@register.filter
def from_on(words: str) -> str:
    """The rest of ``foreground on background``, from ``on``."""
    return words.partition(" on ")[1].strip() + " " + words.partition(" on ")[2]


@register.filter
def room_of(room: Room, project: Project) -> str:
    """The address of a room of a project."""
    return reverse(f"{room.name}:room", args=[project.code])


@register.filter
def words(text: str) -> list[str]:
    """The words of a text, to go through."""
    return text.split()
