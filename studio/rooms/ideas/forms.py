"""What comes in with a wish for ideas: words, held colors, the idea meant, what its colors do."""

from dataclasses import dataclass

from django import forms

from prism.color import space
from prism.errors import ExpressionError
from prism.palette.ideas import ROLES, Brief, NamedColor

SEPARATOR = "~"


@dataclass(frozen=True)
class Wish:
    """A brief, the key of the idea that is looked at, and what its colors do, by role."""

    brief: Brief
    idea: str
    plan: dict


def wish(said):
    """The wish in an address or a form; what cannot be read in it is passed over."""
    plan = {role: said.get(f"plan-{role}", "")[:200] for role in ROLES}
    brief = Brief(
        said.get("words", "")[:400],
        tuple(held(said.get("held", "")[:1000])),
        said.get("like", "")[:60],
    )
    return Wish(brief, said.get("idea", "")[:60], {role: one for role, one in plan.items() if one})


def held(text):
    """Held colors, as ``held_text`` writes them."""
    for part in text.split(SEPARATOR):
        role, _, rest = part.partition(":")
        hexes, _, name = rest.partition(":")
        if role in ROLES and name:
            try:
                yield NamedColor(role, name[:60], space.parse(f"#{hexes}"))
            except ExpressionError:
                continue


def held_text(colors):
    """Held colors as they stand in an address."""
    return SEPARATOR.join(
        f"{one.role}:{space.hex_text(one.color)[1:]}:{one.name}" for one in colors
    )


class TakeForm(forms.Form):
    """Against which revision an idea is taken."""

    revision = forms.IntegerField(min_value=0)
