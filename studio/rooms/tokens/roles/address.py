"""What the address of the questions about roles says."""

from dataclasses import dataclass

from studio.rooms.address import Address, choice, text


@dataclass(frozen=True)
class RolesAddress(Address):
    """Whether words or single tokens are asked about; the word that is asked about, and the words that are put off;
    the key of the token that is asked about. Empty for the first that is not sure."""

    by: str = choice("words", "tokens")
    word: str = text(60)
    later: str = text(400)
    token: str = text(200)

    @property
    def put_off(self) -> list[str]:
        """The words that are asked about after the others."""
        return self.later.split()
