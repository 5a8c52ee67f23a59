"""Documents of foreign kind with a hand-written key: what each token is for, and what it belongs to.

A line of a file is ``name = value | dark value : role @ what it belongs to``; files called
``package-…`` have no values, theirs are those of a package's style sheet.
"""

from __future__ import annotations

import random
import re
from collections import Counter
from dataclasses import dataclass
from pathlib import Path

from prism.formats import style_sheets
from prism.model.document import Axis, Document, Mode, Token, Word
from prism.model.values import BASE, Condition, Expression
from prism.resolution.resolver import Resolver
from prism.roles import lexicon, role
from prism.roles.guess import guess
from tests.builders import counter_keys

FOLDER = Path(__file__).parent / "data" / "roles"
MODULES = Path(__file__).parents[1] / "node_modules"
_LINE = re.compile(r"(?P<path>.+?)(?: = (?P<values>.+?))? : (?P<role>[a-z ]+?)(?: @ (?P<on>.+))?")
SHEETS = {
    "package-simpledotcss": "simpledotcss/simple.css",
    "package-docsearch": "@docsearch/css/dist/style.css",
    "package-water": "water.css/out/water.css",
    "package-missing": "missing.css/dist/missing.css",
    "package-github-markdown": "github-markdown-css/github-markdown.css",
    "package-daisyui": "daisyui/themes.css",
    "package-beercss": "beercss/dist/cdn/beer.css",
    "package-reveal": "reveal.js/dist/theme/moon.css",
    "package-bootstrap": "bootstrap/dist/css/bootstrap.css",
    "package-pico": "@picocss/pico/css/pico.css",
    "package-newcss": "@exampledev/new.css/new.css",
    "package-infima": "infima/dist/css/default/default.css",
    "package-navikt": "@navikt/ds-tokens/dist/tokens.css",
    "package-bamboo": "bamboo.css/dist/bamboo.min.css",
    "package-chota": "chota/dist/chota.css",
    "package-mvp": "mvp.css/mvp.css",
    "package-concrete": "concrete.css/concrete.css",
    "package-holiday": "holiday.css/dist/holiday.css",
}
_ODD = ("#fff", "#000", "#ffffff80", "color(display-p3 0 1 0)", "currentcolor", "#00000000")
_USES = (
    "text", "background", "line", "background of the page", "text of the page", "text of a link",
    "background of a button", "background of a button on hover", "text of a button", "line of a field",
    "focus of a button in focus", "text of a placeholder", "background of success", "headlines",
)  # fmt: skip
LIGHT_DARK = Axis("look", "look", (Mode("light", "light"), Mode("dark", "dark")), "light")


@dataclass(frozen=True)
class Keyed:
    """A document, and by path the role of each token and the path of what it belongs to."""

    name: str
    document: Document
    roles: dict[str, str]
    belongs: dict[str, str]


#: A design system of 454 tokens in 22 themes: what is solved on it takes minutes, as a long task.
LARGE = ("package-navikt",)
#: Packages that were keyed last: nothing was taught after their first run but what fills are seen as.
LATE = ("package-bootstrap", "package-pico", "package-navikt")
#: Packages whose first run taught three things since: what is behind a status, an accent or a line as its sheet uses it.
LATEST = tuple(f"package-{name}" for name in ("bamboo", "chota", "concrete", "holiday", "mvp"))
#: A sheet of twelve colors called by two letters.
TERSE = ("package-newcss",)


def names(*but: str) -> list[str]:
    """The documents, without some."""
    return sorted(file.stem for file in FOLDER.glob("*.txt") if file.stem not in but)


#: Documents whose words no rule was taught: what is not known of them is asked.
UNTAUGHT = ("quay", "kort", "svensk", "weather", "kiosk", "notes")


def see_through(document: Document) -> set[str]:
    """The keys of focus rings that let through most of what is below: no color of theirs reaches 3:1."""
    resolver = Resolver(document)
    found = set()
    for key, known in guess(document, resolver).items():
        color = resolver.resolve(key, resolver.default_theme).color
        if known.role.kind == "focus" and color is not None and color.alpha <= 0.25:
            found.add(key)
    return found


def read(name: str) -> Keyed:
    roles, belongs, tokens = {}, {}, []
    for line in (FOLDER / f"{name}.txt").read_text().splitlines():
        if line.startswith("# "):
            continue
        found = _LINE.fullmatch(line)
        path = found["path"].replace("/", ".").removeprefix("--")
        roles[path] = found["role"]
        if found["on"]:
            belongs[path] = found["on"].replace("/", ".").removeprefix("--")
        if found["values"]:
            light, *dark = found["values"].split(" | ")
            values = [(BASE, Expression(light))]
            values += [(Condition.of({"look": "dark"}), Expression(text)) for text in dark]
            tokens.append(Token(path, path, "color", "semantic", tuple(values)))
    if name in SHEETS:
        file = MODULES / SHEETS[name]
        document = style_sheets.read(file.read_bytes(), file.name, counter_keys()).document
    else:
        axes = (LIGHT_DARK,) if any(len(token.values) > 1 for token in tokens) else ()
        document = Document(name=name, axes=axes, tokens=tuple(tokens))
    return Keyed(name, document, roles, belongs)


def colors(**values):
    """A document of plain colors; two underscores stand for a full stop."""
    tokens = [
        Token(path, path.replace("__", "."), "color", "semantic", ((BASE, Expression(text)),))
        for path, text in values.items()
    ]
    return Document(tokens=tuple(tokens))


def random_document(seed: int) -> Document:
    """Colors of chance under names made of the words of the lexicon, some with a role that is said,
    some referring to others, some with another color in a second brand."""
    rng = random.Random(seed)
    pool = [*rng.sample(sorted(lexicon.meanings()), 12), "on", "1", "2", "fig"]
    tokens: dict[str, Token] = {}
    for number in range(rng.randrange(1, 25)):
        path = rng.choice("-_ ").join(rng.choice(pool) for _ in range(rng.randrange(1, 4)))
        text = rng.choice((f"#{rng.randrange(1 << 24):06x}",) * 4 + _ODD)
        if rng.random() < 0.15 and tokens:
            text = f"{{{rng.choice(list(tokens))}}}"
        values = [(BASE, Expression(text))] if rng.random() < 0.9 else []
        if rng.random() < 0.3:
            other = Expression(f"#{rng.randrange(1 << 24):06x}")
            values.append((Condition.of({"brand": "dune"}), other))
        said = rng.choice(role.every()) if rng.random() < 0.15 else ""
        tier = rng.choice(("semantic", "raw", "component"))
        used = tuple(rng.sample(_USES, rng.randrange(1, 4))) if rng.random() < 0.2 else ()
        made = Token(f"k{number}", path, "color", tier, tuple(values), uses=used, role=said)
        tokens.setdefault(path, made)
    brand = Axis("brand", "brand", (Mode("sea", "sea"), Mode("dune", "dune")), "sea")
    said = [
        Word(word, rng.choice(lexicon.names())) for word in pool if word.isalpha() and len(word) > 2
    ]
    words = tuple(rng.sample(said, min(len(said), rng.randrange(3))))
    return Document(axes=(brand,), tokens=tuple(tokens.values()), words=words)


def compared(keyed: Keyed) -> tuple[Counter, list[str]]:
    """How many roles are right, wrong, unknown, sure, wrong though sure; and what differs."""
    resolver = Resolver(keyed.document)
    guesses = guess(keyed.document, resolver)
    counted: Counter = Counter()
    apart = []
    for path, wanted in keyed.roles.items():
        token = keyed.document.token_at(path)
        known = guesses.get(token.key) if token else None
        counted["tokens"] += 1
        if known is None or known.role.kind == "unknown":
            counted["unknown"] += 1
            apart.append(f"{path}: {wanted}, unknown ({known.why if known else 'left out'})")
            continue
        right = str(known.role) == wanted
        counted["right" if right else "wrong"] += 1
        counted["sure"] += known.is_sure
        counted["wrong though sure"] += known.is_sure and not right
        if not right:
            apart.append(f"{path}: {wanted}, not {known.role} ({known.sure}, {known.why})")
        if path in keyed.belongs:
            counted["belonging"] += 1
            other = keyed.document.token(known.belongs_to)
            belongs = other is not None and other.path == keyed.belongs[path]
            counted["belonging right"] += belongs
            if not belongs:
                apart.append(
                    f"{path}: belongs to {keyed.belongs[path]}, not {other and other.path}"
                )
    return counted, apart
