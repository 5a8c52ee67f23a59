"""How the slots of scenes are painted: one rule for each slot of each property, and what tokens the slots take.

An element of a scene says by ``data-fill="action"`` that the slot ``action`` fills it, by ``data-hover-fill`` what
does while it is pointed at. The rules are the same for every project; a project says which token each slot takes,
as ``--slot-action``, declared again in every zone, as tokens are.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from prism.formats.css import escaped, written_tokens
from prism.model.document import Document, Token
from prism.model.names import css_names, segment

#: The properties that an attribute paints, by its name; those of colors first.
COLORS: Mapping[str, str] = {
    "ink": "color",
    "fill": "background-color",
    "edge": "border-color",
}
MEASURES: Mapping[str, str] = {
    "lift": "box-shadow",
    "round": "border-radius",
    "round-top": "border-start-start-radius|border-start-end-radius",
    "round-bottom": "border-end-start-radius|border-end-end-radius",
    "pad": "padding",
    "pad-x": "padding-inline",
    "pad-y": "padding-block",
    "pad-top": "padding-block-start",
    "gap": "gap",
    "size": "font-size",
    "font": "font-family",
}
PAINTS: Mapping[str, str] = {**COLORS, **MEASURES}
#: The states in which an attribute paints, and what holds then. ``data-as`` sets them by hand.
STATES: Mapping[str, str] = {
    "hover": ':is(:hover, [data-as~="hover"])',
    "pressed": ':is(:active, [data-as~="pressed"])',
    "selected": ':is([aria-current], [aria-selected="true"], [data-as~="selected"])',
    "focus": ':is(:focus-visible, [data-as~="focus"])',
    "error": ':is([aria-invalid="true"], [data-as~="error"])',
    "disabled": ':is([aria-disabled="true"], [data-as~="disabled"])',
}
#: Attributes beside those of properties: a text by language, and whether something is shown.
COPY, SHOWN = "copy", "shown"
_HATCH = "repeating-linear-gradient(135deg, #8888 0 3px, #8883 3px 8px)"


def parts(attribute: str) -> tuple[str, str] | None:
    """The state, empty at rest, and the paint of an attribute ``data-…``; None where it is no slot's."""
    name = attribute.removeprefix("data-")
    if name == attribute:
        return None
    if name in PAINTS or name in (COPY, SHOWN):
        return "", name
    state, _, paint = name.partition("-")
    return (state, paint) if state in STATES and paint in PAINTS else None


def rules(uses: Iterable[tuple[str, str, str]]) -> str:
    """The rules for slots by state, paint and slot; those at rest first, disabled ones last."""
    order = ["", *STATES]
    lines = []
    for state, paint, slot in sorted(uses, key=lambda use: (order.index(use[0]), use)):
        name, held = segment(slot), STATES.get(state, "")
        attribute = f"{state}-{paint}" if state else paint
        selector = f'[data-{attribute}="{name}"]'
        if paint == COPY:
            lines.append(f"{selector}::before {{ content: var(--slot-copy-{name}, none); }}\n")
            lines.append(f"{selector} > * {{ display: var(--own-copy-{name}, inline); }}\n")
        elif paint == SHOWN:
            continue
        else:
            lines.append(f"{selector}{held} {{ {_painted(state, paint, name)} }}\n")
    return "".join(lines)


def _painted(state: str, paint: str, name: str) -> str:
    if (state, paint) == ("focus", "edge"):
        return f"outline-color: var(--slot-{name}); outline-style: solid;"
    if paint == "fill":
        return f"background-color: var(--slot-{name}); background-image: var(--open-{name}, none);"
    if paint in COLORS:
        return f"{PAINTS[paint]}: var(--slot-{name}, revert-layer);"
    return " ".join(f"{p}: var(--slot-{name}, revert-layer);" for p in PAINTS[paint].split("|"))


def write(document: Document, bound: Mapping[str, Token], slots: Iterable[str]) -> str:
    """What the slots of scenes take, declared again in every zone; those of ``slots`` without a token are
    hatched."""
    names = css_names(document)
    written = {token.key for token in written_tokens(document)}
    lines, shown, taken = [], [], set()
    for slot, token in bound.items():
        if token.key not in written:
            continue
        taken.add(slot)
        variable = escaped(f"--{names[token.key]}")
        lines.append(f"  --slot-{segment(slot)}: var({variable});\n")
        if slot.startswith("copy-"):
            lines.append(f"  --own-{segment(slot)}: none;\n")
        if token.type == "boolean":
            rule = f'[data-shown="{segment(slot)}"] {{ display: none; }}'
            shown.append(f"@container style({variable}: false) {{ {rule} }}\n")
    lines += [f"  --open-{segment(slot)}: {_HATCH};\n" for slot in slots if slot not in taken]
    return f":root,\n[data-zone] {{\n{''.join(lines)}}}\n\n{''.join(shown)}"
