"""One token for two meanings: white that is both the page and a label on it."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked
from prism.model.document import shown_path
from prism.roles.sides import READ, side, taken_otherwise


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each token above the raw tier that something written or drawn takes from something
    that lies under it, or the other way round; and for each that is read in one pairing and read on
    in another."""
    document, roles = analysis.document, analysis.roles
    for key, users in taken_otherwise(document, roles, analysis.resolver.all_targets).items():
        token, user = document.token(key), document.token(users[0])
        if token is None or user is None:
            continue
        kind = roles[key].role.kind
        more = f" and {len(users) - 1} more" if len(users) > 1 else ""
        yield Finding(
            "meaning",
            f"{shown_path(token.path)} is a {kind}, and {shown_path(user.path)}{more} takes its "
            "color for another use: when one changes, the other follows.",
            key,
            severity="note",
            others=users[:1],
            fixes=(Fix("Split by use", "split-by-use", (("token", key),)),),
        )
    yield from _read_and_read_on(analysis)


def _read_and_read_on(analysis: Analysis) -> Iterator[Finding]:
    """Tokens that are read in one pairing, and that something is read on in another."""
    pairings = analysis.paired.pairings
    read = {pairing.foreground for pairing in pairings if pairing.use in READ}
    under = {key for pairing in pairings if pairing.use in READ for key in pairing.backgrounds[:1]}
    both = read & under
    for token in analysis.document.tokens if both else ():
        known = analysis.roles.get(token.key)
        if token.key in both and (known is None or known.role.kind != "fill"):
            yield Finding(
                "meaning",
                f"{shown_path(token.path)} is a text, and texts stand on it: when one use changes, "
                "the other follows.",
                token.key,
                severity="note",
                about="read",
                fixes=(Fix("Split by use", "split-by-use", (("token", token.key),)),),
            )


def _meant(analysis: Analysis) -> Looked:
    count = sum(bool(side(analysis.roles, token.key)) for token in analysis.document.tokens)
    return Looked(count, "token whose role is sure", "tokens whose role is sure")


CHECK = Check(
    "meaning",
    "Two meanings",
    "A color that is two things at once cannot be changed for one of them.",
    run,
    _meant,
)
