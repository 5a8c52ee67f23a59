"""What the address of the Checks room says."""

from dataclasses import dataclass

from studio.rooms.address import Address, choice, text


@dataclass(frozen=True)
class ChecksAddress(Address):
    """The words that pairings are found by, which are shown and how they are grouped, from which place on; the two
    colors that a new pairing begins with, by path; the key of the pairing or the rule that is open;
    the long task that solves what falls short, and what it is solved for: a token by key, a mode as its axis and
    key with a colon between, or the levels of surfaces; whether new
    colors may be made; and which fix of the open pairing is tried."""

    OPENS = ("pairing", "rule", "fix")

    find: str = text(100)
    only: str = choice("failing", "waived")
    by: str = choice("foreground", "background", "use")
    start: str = text(6)
    fg: str = text(600)
    bg: str = text(600)
    pairing: str = text(600)
    rule: str = text(200)
    solving: str = text(40)
    token: str = text(200)
    mode: str = text(400)
    levels: str = choice("1")
    colors: str = choice("1")
    fix: str = choice("foreground", "background", "color", "surface", "line", "overlay")
