"""What the address of the findings says."""

from dataclasses import dataclass

from studio.rooms.address import Address, choice, text


@dataclass(frozen=True)
class FindingsAddress(Address):
    """The section that is shown, all without one; the words that findings are found by; whether accepted ones are
    listed too; the revision since which findings are new; and the id of the finding that is open."""

    section: str = choice("contrast", "balance", "vision", "coverage", "hygiene")
    find: str = text(100)
    accepted: str = choice("1")
    since: str = text(12)
    finding: str = text(2000)
