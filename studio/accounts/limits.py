"""How often somebody may try to sign in, to join or to change a password.

The subject of a limit is an address, an account, or both together, kept as a digest. What an address
may try for one account is less than what others together may, so that nobody can lock a person out
of her own account by trying for her a few times.
"""

from __future__ import annotations

import hashlib
from datetime import timedelta

from django.conf import settings
from django.http import HttpRequest
from django.utils import timezone

from prism.errors import PrismError
from studio.accounts.models import Try

#: Tries within ``WINDOW``: by kind, what is counted and how many are let through. An office of many accounts
#: has one address, so what counts for an address is what failed there.
WINDOW = timedelta(minutes=15)
LIMITS = {
    "sign-in": {"address": 100, "account at address": 10, "account": 200},
    "join": {"address": 60},
    "password": {"account at address": 10},
}


class TooManyTriesError(PrismError):
    """Somebody has tried too often; it is not even looked at."""


def address_of(request: HttpRequest) -> str:
    """The address a request came from: the sender's, or the one that our own proxy names."""
    if settings.BEHIND_PROXY:
        named = request.headers.get("X-Forwarded-For", "").rpartition(",")[2].strip()
        if named:
            return named
    address: str = request.META.get("REMOTE_ADDR", "")
    return address


def refuse_too_many(request: HttpRequest, kind: str, account: str = "") -> None:
    """Raise ``TooManyTriesError`` where the limit of a kind is reached."""
    since = timezone.now() - WINDOW
    for what, subject in _subjects(request, kind, account):
        if Try.objects.recent(kind, subject, since).count() >= LIMITS[kind][what]:
            minutes = int(WINDOW.total_seconds() // 60)
            raise TooManyTriesError(
                "There were too many attempts.", fix=f"Wait {minutes} minutes, then try again."
            )


def count(request: HttpRequest, kind: str, account: str = "") -> None:
    """Keep that somebody has tried."""
    Try.objects.bulk_create(
        Try(kind=kind, subject=subject) for _, subject in _subjects(request, kind, account)
    )


def forget(request: HttpRequest, kind: str, account: str) -> None:
    """Count the tries of an account from an address no more, once one has succeeded, and this one not
    for the address either."""
    subjects = dict(_subjects(request, kind, account))
    Try.objects.filter(kind=kind, subject=subjects["account at address"]).delete()
    last = Try.objects.filter(kind=kind, subject=subjects["address"]).order_by("-pk")[:1]
    Try.objects.filter(pk__in=list(last.values_list("pk", flat=True))).delete()


def purge() -> int:
    """Remove what no limit counts any more; returns how many."""
    return Try.objects.older_than(timezone.now() - WINDOW).delete()[0]


def _subjects(request: HttpRequest, kind: str, account: str) -> list[tuple[str, str]]:
    parts = {
        "address": address_of(request),
        "account": account.lower(),
        "account at address": f"{account.lower()} {address_of(request)}",
    }
    return [
        (what, hashlib.sha256(f"{what} {parts[what]}".encode(errors="replace")).hexdigest())
        for what in LIMITS[kind]
    ]
