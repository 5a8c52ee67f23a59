"""Parts of a page that a browser holds already, and that are not sent to it again.

A part is an element that says by ``data-as`` what it holds: a digest of its markup. A request names the digests of
what its page holds in ``X-Held``; where one is among them, only the empty element is sent, marked ``data-held``.
"""

from __future__ import annotations

import re
from base64 import urlsafe_b64encode
from collections.abc import Iterable
from dataclasses import dataclass
from hashlib import blake2b

from django.http import HttpRequest
from django.utils.safestring import SafeString, mark_safe

HEADER = "X-Held"
_BYTES = 6
_NAME = re.compile(r"<([a-z-]+)")


@dataclass(frozen=True, slots=True)
class Part:
    """An element: its digest, its markup with it, and what stands for it where it is held."""

    digest: str
    whole: SafeString
    stub: SafeString

    def shown(self, held: frozenset[str]) -> SafeString:
        """What is sent to a page that holds the parts of these digests."""
        return self.stub if self.digest in held else self.whole


def held_by(request: HttpRequest) -> frozenset[str]:
    """The digests of the parts that the page of a request holds."""
    return frozenset(request.headers.get(HEADER, "").split())


def digest_of(text: str) -> str:
    """A short digest of a text."""
    return urlsafe_b64encode(blake2b(text.encode(), digest_size=_BYTES).digest()).decode()


def part_of(markup: str) -> Part:
    """The part that the markup of one element makes."""
    markup = markup.strip()
    name = _NAME.match(markup)
    if name is None:
        raise ValueError("A part is one element.")
    digest = digest_of(markup)
    start, _, rest = markup.partition(">")
    return Part(digest, mark_safe(f'{start} data-as="{digest}">{rest}'), _stub(name[1], digest))


def together(name: str, parts: Iterable[Part], held: frozenset[str]) -> SafeString:
    """An element of parts, which is a part of its own, as it is sent to a page that holds such."""
    parts = tuple(parts)
    digest = digest_of(" ".join(part.digest for part in parts))
    if digest in held:
        return _stub(name, digest)
    content = "".join(part.shown(held) for part in parts)
    return mark_safe(f'<{name} data-as="{digest}">{content}</{name}>')


def _stub(name: str, digest: str) -> SafeString:
    return mark_safe(f'<{name} data-as="{digest}" data-held></{name}>')
