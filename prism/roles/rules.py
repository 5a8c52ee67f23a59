"""Pairings by rule: what stands on what, as roles say it.

Requirements: WCAG 2.2, success criteria 1.4.3 (text) and 1.4.11 (controls, graphics, focus). A text
on a surface that is inverse or colored is one that says so.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from prism.model import document as model
from prism.model.document import Document, Pairing, Token, Use
from prism.resolution.contrast import REQUIRED
from prism.resolution.current import resolver_of
from prism.roles.grounds import Guess
from prism.roles.guess import guess
from prism.roles.lexicon import SOFT, words_of
from prism.roles.patterns import fitting
from prism.roles.role import Role


@dataclass(frozen=True, slots=True)
class Placed:
    """A token with its role."""

    token: Token
    role: Role
    belongs_to: str


@dataclass(frozen=True, slots=True)
class ByRule:
    """A pairing and the key of the rule that made it."""

    pairing: Pairing
    rule: str


@dataclass(frozen=True, slots=True)
class Rule:
    """What stands on what: its id, its sentence, the use of its pairings and which they are, each a
    foreground and the stack it stands on, top first."""

    id: str
    sentence: str
    use: Use
    pairs: Callable[[Placement], Iterator[tuple[Placed, ...]]]


class Placement:
    """The tokens of a document by what they are for."""

    def __init__(self, document: Document, guesses: Mapping[str, Guess]) -> None:
        self.all = [
            Placed(token, guesses[token.key].role, guesses[token.key].belongs_to)
            for token in document.tokens
            if token.key in guesses and token.type == "color"
        ]
        #: The states of a fill, without the disabled one, by its key.
        self.states: dict[str, list[Placed]] = {}
        for placed in self.all:
            if placed.role.state not in ("", "disabled") and placed.belongs_to:
                self.states.setdefault(placed.belongs_to, []).append(placed)
        self.by_key = {placed.token.key: placed for placed in self.all}
        self.page = next((placed for placed in self.all if placed.role.kind == "page"), None)
        owned = {p.belongs_to for p in self.all if p.role.kind == "text"}
        #: What plain texts, lines and controls stand on: the page, and surfaces without a text of
        #: their own.
        self.grounds = [
            p
            for p in self.all
            if p.role.kind == "page"
            or (p.role.kind == "surface" and not p.role.detail and p.token.key not in owned)
        ]

    def of(self, kind: str, *details: str) -> Iterator[Placed]:
        """Tokens of a kind, and of one of these details where some are named; none disabled."""
        for placed in self.all:
            role = placed.role
            named = not details or role.detail in details
            if role.kind == kind and named and role.state != "disabled":
                yield placed

    def ground_of(self, placed: Placed) -> Placed | None:
        """What a token belongs to, where that is something to stand on."""
        ground = self.by_key.get(placed.belongs_to)
        return ground if ground is not None and ground.role.is_ground else None

    def on_grounds(self, placed: Sequence[Placed]) -> Iterator[tuple[Placed, Placed]]:
        for above in placed:
            for ground in self.grounds:
                yield above, ground


def _texts(placement: Placement) -> Iterator[tuple[Placed, Placed]]:
    for text in placement.of("text", "", "quiet", "hint", "link"):
        own = placement.ground_of(text)
        if own is not None and own.role.kind in ("surface", "fill"):
            yield text, own
        else:
            yield from placement.on_grounds([text])


def _inverse_texts(placement: Placement) -> Iterator[tuple[Placed, Placed]]:
    for text in placement.of("text", "inverse"):
        own = placement.ground_of(text)
        others = placement.of("surface", "inverse")
        for ground in [own] if own is not None else others:
            yield text, ground


def _fields(placement: Placement) -> Iterator[tuple[Placed, Placed]]:
    for field in placement.of("fill", "field"):
        for text in placement.of("text", "", "hint"):
            if not placement.ground_of(text):
                yield text, field


def _labels(placement: Placement) -> Iterator[tuple[Placed, Placed]]:
    """Labels on their fill, and on its states where these have no label of their own."""
    labels = [p for p in placement.all if p.role.kind == "label" and p.role.state != "disabled"]
    labelled = {label.belongs_to for label in labels}
    for label in labels:
        fill = placement.ground_of(label)
        if fill is None:
            continue
        yield label, fill
        for state in placement.states.get(fill.token.key, ()):
            if state.role.kind == fill.role.kind and state.token.key not in labelled:
                yield label, state


def _icons(placement: Placement) -> Iterator[tuple[Placed, Placed]]:
    for icon in placement.of("icon"):
        ground = placement.ground_of(icon)
        if ground is not None:
            yield icon, ground
        else:
            yield from placement.on_grounds([icon])


def _statuses(placement: Placement) -> Iterator[tuple[Placed, Placed]]:
    """Texts of a status on the page, and on their own tint or that of the same status."""
    for text in placement.of("status", "text"):
        if placement.page is not None:
            yield text, placement.page
        tints = [t for t in placement.of("status", "tint") if t.role.status == text.role.status]
        own = placement.ground_of(text)
        for tint in [own] if own is not None else tints:
            yield text, tint


def _controls(placement: Placement) -> Iterator[tuple[Placed, Placed]]:
    of_status = (  # what is called subtle only sets something off
        line
        for line in placement.of("status", "line")
        if SOFT.isdisjoint(words_of(line.token.path))
    )
    lines = [*placement.of("line", "control", "strong"), *of_status]
    yield from placement.on_grounds(lines)


def _focus(placement: Placement) -> Iterator[tuple[Placed, Placed]]:
    yield from placement.on_grounds(list(placement.of("focus")))


def _charts(placement: Placement) -> Iterator[tuple[Placed, Placed]]:
    if placement.page is not None:
        for series in placement.of("chart"):
            yield series, placement.page


def _overlays(placement: Placement) -> Iterator[tuple[Placed, ...]]:
    """Texts on surfaces under the overlay of a state, as a row that is pointed at."""
    for overlay in placement.of("overlay"):
        if overlay.role.state:
            for text, ground in placement.on_grounds(list(placement.of("text", "", "quiet"))):
                yield text, overlay, ground


#: Pairings that rules make at most: more than anybody looks at.
MOST = 10_000
#: The rules, in the order in which their pairings are listed.
RULES = (
    Rule(
        "texts",
        "Texts on the page and on its surfaces, or on the one they belong to",
        "text",
        _texts,
    ),
    Rule("inverse", "Inverse texts on inverse surfaces", "text", _inverse_texts),
    Rule("fields", "Texts and hints in fields", "text", _fields),
    Rule("labels", "Labels on their fill, in each of its states", "text", _labels),
    Rule("icons", "Icons on what they belong to", "graphic", _icons),
    Rule("statuses", "Statuses on the page and on their own tint", "text", _statuses),
    Rule("controls", "Lines of controls and strong lines on surfaces", "control", _controls),
    Rule("focus", "The focus on what it surrounds", "control", _focus),
    Rule("charts", "Series of charts on the page", "graphic", _charts),
    Rule("overlays", "Texts on surfaces under the overlay of a state", "text", _overlays),
)
BY_ID = {rule.id: rule for rule in RULES}


def pairings(
    document: Document, guesses: Mapping[str, Guess], kept: Sequence[model.Rule] | None = None
) -> list[ByRule]:
    """The pairings that rules make, each once: those ``kept``, or all that go by roles. Those the
    document already has are left out, and those beyond the first ``MOST``."""
    placement = Placement(document, guesses)
    page = placement.page.token.key if placement.page is not None else ""
    seen = {(p.foreground, *p.backgrounds) for p in document.pairings}
    seen |= {stack[:2] for stack in seen}
    made: list[ByRule] = []
    for rule in [model.Rule(rule.id, rule.id) for rule in RULES] if kept is None else kept:
        known = BY_ID.get(rule.by_role)
        use = known.use if known is not None else rule.use
        for stack in _stacks(document, placement, rule):
            if len(made) >= MOST:
                return made
            if stack in seen:
                continue
            seen.add(stack)
            above, *below = stack
            pairing = Pairing(
                " ".join(stack),
                foreground=above,
                backgrounds=tuple(below),
                use=use,
                required=rule.required or REQUIRED[use],
                page=page if page not in below else "",
            )
            made.append(ByRule(pairing, rule.key))
    return made


def _stacks(
    document: Document, placement: Placement, rule: model.Rule
) -> Iterator[tuple[str, ...]]:
    """What a rule puts on what, as keys, top first; nothing for a rule of another version."""
    if rule.by_role:
        known = BY_ID.get(rule.by_role)
        for stack in known.pairs(placement) if known is not None else ():
            yield tuple(placed.token.key for placed in stack)
        return
    below = fitting(document, rule.background)
    for above in fitting(document, rule.foreground):
        yield from ((above, ground) for ground in below if ground != above)


def sentence(rule: model.Rule) -> str:
    """What a rule puts on what, in words."""
    if rule.by_role:
        known = BY_ID.get(rule.by_role)
        return known.sentence if known is not None else f"“{rule.by_role}”, of another version"
    return f"{rule.foreground} on {rule.background}"


def kept(document: Document, guesses: Mapping[str, Guess] | None = None) -> list[ByRule]:
    """The pairings that the rules of a document make."""
    if not document.rules:
        return []
    if guesses is None and any(rule.by_role for rule in document.rules):
        guesses = guess(document, resolver_of(document))
    return pairings(document, guesses or {}, document.rules)


def joined(document: Document, made: Sequence[ByRule]) -> Document:
    """The document with these pairings behind its own, where their tokens are there."""
    here = [
        by_rule.pairing
        for by_rule in made
        if all(map(document.token, (by_rule.pairing.foreground, *by_rule.pairing.backgrounds)))
    ]
    return replace(document, pairings=(*document.pairings, *here)) if here else document


def is_shown(pairing: Pairing) -> bool:
    """Whether a pairing of a document is one that its style sheet shows: nobody has added it."""
    return pairing.key == shown(pairing.foreground, pairing.backgrounds[0]).key


def shown(foreground: str, background: str, page: str = "") -> Pairing:
    """The pairing of two colors, by key, that a rule of a style sheet sets together."""
    return Pairing(f"{foreground} {background}", foreground, (background,), page=page)


def says_itself(document: Document) -> bool:
    """Whether a document says what is judged: by rules that it keeps, or by a pairing that somebody has said."""
    return bool(document.rules) or not all(map(is_shown, document.pairings))


def demanded(document: Document, guesses: Mapping[str, Guess]) -> tuple[Pairing, ...]:
    """What a document is judged by: its own pairings and those of its rules; and those of all rules, where it says
    nothing itself."""
    there = joined(document, kept(document, guesses))
    if there.pairings and says_itself(document):
        return there.pairings
    return (*there.pairings, *(made.pairing for made in pairings(there, guesses)))


def paired(document: Document) -> Document:
    """The document with the pairings that its rules make behind its own."""
    return joined(document, kept(document))
