"""Style sheets for tests, and what came out of them."""

import random

from prism.formats import style_sheets
from tests.builders import counter_keys


def sheet(text, maps=None, **others):
    """A style sheet as it is read; ``others`` are the files that it imports, ``_`` for a full stop."""
    imports = {name.replace("_", "."): data.encode() for name, data in others.items()}
    return style_sheets.read(text.encode(), "x.css", counter_keys(), maps, imports)


def axes(read):
    """Names of axes and their modes, the default mode first."""
    return {
        axis.name: sorted(
            (m.name for m in axis.modes), key=lambda n: n != axis.mode(axis.default).name
        )
        for axis in read.document.axes
    }


def values(read, path):
    """A token's values by mode names."""
    built = read.document
    names = {(a.key, m.key): m.name for a in built.axes for m in a.modes}
    return {
        ",".join(names[pick] for pick in condition.picks): getattr(value, "text", value)
        for condition, value in built.token_at(path).values
    }


def skipped(read):
    """Why declarations were skipped, by property."""
    return {declaration.name: declaration.reason for declaration in read.skipped}


_PROPERTIES = tuple("abcdef")
_PAGE = (":root", "html", "body", "*", ":where(html)", "html:root", ":is(html, body)", "html, .x")
_MARKED = (
    "[data-theme=dark]", "[data-theme='dim']", ".night", ":root.night", "html[data-theme=dark]",
    "[data-theme=DARK i]", "[data-theme^=da]", "[data-theme$='im']", "[data-theme*=ar]",
    "[data-theme~=dark]", "[data-theme|=dark]", ":root:not([data-theme=dark])", ":root:not(.night)",
    ":is(.night, [data-theme=dim])", ":where(.night)", "html[data-theme=dark].night",
    ":root:not([data-theme])", "[data-theme=dark] body", ".night, [data-theme=dark]", "[data-dense]",
    ":root:not(.night, [data-theme=dim])", ":not(:root)", ":root:not(body)",
)  # fmt: skip
_AROUND = (
    "@media (prefers-color-scheme: dark)", "@media (prefers-reduced-motion: reduce)",
    "@media not (prefers-color-scheme: dark)", "@media screen and (prefers-color-scheme: dark)",
    "@media (prefers-color-scheme: dark) and (prefers-reduced-motion: reduce)", "@media print",
    "@media not print", "@media (prefers-color-scheme: dark), (prefers-reduced-motion: reduce)",
    "@layer low", "@layer high", "@layer high.inner", "@layer", "@supports (color: red)",
    "@supports not (color: red)", "@supports (color: red) and (not (-ms-x: 1))",
    "@supports selector(:is(a))", "@media screen, print and (color)", "@starting-style",
)  # fmt: skip


def _value(rng: random.Random, name: str) -> str:
    kind = rng.random()
    if kind < 0.55:
        return f"#{rng.randrange(1 << 24):06x}"
    other = rng.choice(_PROPERTIES)
    if kind < 0.7 and other > name:
        return f"var(--{other})"
    if kind < 0.8:
        return (
            f"var(--{other}, #{rng.randrange(1 << 24):06x})" if other > name else "var(--gone, red)"
        )
    if kind < 0.86:
        return f"light-dark(#{rng.randrange(1 << 24):06x}, #{rng.randrange(1 << 24):06x})"
    return rng.choice(
        ("initial", "unset", "inherit", "revert", "revert-layer", "hsl(var(--h) 50% 50%)")
    )


def _block(rng: random.Random, selector: str) -> str:
    lines = []
    for name in rng.sample(_PROPERTIES, rng.randrange(1, 4)):
        important = " !important" if rng.random() < 0.08 else ""
        lines.append(f"--{name}: {_value(rng, name)}{important};")
    if rng.random() < 0.15:
        lines.append(f"--h: {rng.randrange(360)};")
    inside = any(mark in selector for mark in ("body", "*", ":not(:root)"))
    if rng.random() < 0.12 and not inside:
        scheme = "light dark" if selector in _PAGE else rng.choice(("light", "dark", "light dark"))
        lines.append(f"color-scheme: {scheme};")
    if rng.random() < 0.2:
        inner = "@media (prefers-color-scheme: dark)"
        if "body" not in selector and "*" not in selector:  # marks stand on the root alone
            inner = rng.choice((inner, "&.night", "&[data-theme=dim]"))
        lines.append(f"{inner} {{ --{rng.choice(_PROPERTIES)}: #{rng.randrange(1 << 24):06x}; }}")
    return " ".join(lines)


def random_sheet(seed: int) -> str:
    """A style sheet of chance, with every kind of rule that can stand around a property."""
    rng = random.Random(seed)
    rules = [
        f":root {{ {' '.join(f'--{n}: #{rng.randrange(1 << 24):06x};' for n in _PROPERTIES)} }}"
    ]
    if rng.random() < 0.4:
        rules.insert(0, "@layer high, low;")
    for _ in range(rng.randrange(4, 12)):
        selector = rng.choice(_PAGE if rng.random() < 0.35 else _MARKED)
        rule = f"{selector} {{ {_block(rng, selector)} }}"
        while rng.random() < 0.35:
            rule = f"{rng.choice(_AROUND)} {{ {rule} }}"
        rules.append(rule)
    return "\n".join(rules)
