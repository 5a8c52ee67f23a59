"""Who may do what, and which projects she may see; everything not said here is denied."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import wraps
from typing import Any, TypeVar

from django.contrib.auth.models import AnonymousUser, User
from django.core.exceptions import PermissionDenied
from django.http import Http404, HttpRequest
from django.http.response import HttpResponseBase
from django.shortcuts import get_object_or_404

from studio.store.models import Membership, Project, ProjectQuerySet

V = TypeVar("V", bound=Callable[..., Any])

Role = Membership.Role

#: The roles that may do each thing.
ALLOWED = {
    "view": {Role.OWNER, Role.EDITOR, Role.VIEWER},
    "edit": {Role.OWNER, Role.EDITOR},
    "manage": {Role.OWNER},
}


@dataclass(frozen=True)
class Decision:
    """Whether something is allowed, and a sentence why not."""

    allowed: bool
    reason: str = ""


def decide(role: str | None, action: str) -> Decision:
    """Whether ``role`` (None for a stranger) may do ``action``."""
    if action not in ALLOWED:
        return Decision(False, "Nobody may do this.")
    if role is None:
        return Decision(False, "You are not a member of this project.")
    if role in ALLOWED[action]:
        return Decision(True)
    needed = "an owner" if action == "manage" else "an editor or an owner"
    return Decision(False, f"You are a {role} of this project; this takes {needed}.")


def person(request: HttpRequest) -> User:
    """The person who is signed in. Raises ``PermissionDenied`` for a visitor who is not."""
    if not isinstance(request.user, User):
        raise PermissionDenied("Sign in first.")
    return request.user


def may(project: Project, action: str) -> None:
    """Raise ``PermissionDenied`` where the role that a project was read with may not do this."""
    decision = decide(project.role, action)
    if not decision.allowed:
        raise PermissionDenied(decision.reason)


def projects_for(user: User | AnonymousUser) -> ProjectQuerySet:
    """The living projects ``user`` may see, each with her role as ``role``."""
    if not user.is_authenticated:
        return Project.objects.none()
    return Project.objects.alive().with_role_of(user)


def deleted_projects_for(user: User | AnonymousUser) -> ProjectQuerySet:
    """The deleted projects ``user`` was a member of, each with her role as ``role``."""
    if not user.is_authenticated:
        return Project.objects.none()
    return Project.objects.deleted().with_role_of(user)


def restorable_projects_for(user: User | AnonymousUser) -> ProjectQuerySet:
    """The deleted projects ``user`` may restore."""
    return deleted_projects_for(user).with_roles(ALLOWED["manage"])


def open_to_all(view: V) -> V:
    """Declare a view open to visitors who are not signed in."""
    view.access = "open"  # type: ignore[attr-defined]
    return view


def signed_in(view: V) -> V:
    """Declare a view open to every signed-in person."""
    view.access = "signed in"  # type: ignore[attr-defined]
    return view


def requires(
    action: str, method_actions: Mapping[str, str] | None = None, *, deleted: bool = False
) -> Callable[[Callable[..., HttpResponseBase]], Callable[..., HttpResponseBase]]:
    """Declare that a view takes ``action`` on the project its URL names.

    ``method_actions`` maps HTTP methods to another action. The view gets the project in place
    of its code; a stranger is told that there is no such page.
    """

    def wrap(view: Callable[..., HttpResponseBase]) -> Callable[..., HttpResponseBase]:
        @wraps(view)
        def guarded(request: HttpRequest, code: str, *args: Any, **kwargs: Any) -> HttpResponseBase:
            rows = deleted_projects_for(request.user) if deleted else projects_for(request.user)
            project = get_object_or_404(rows, code=code)
            needed = (method_actions or {}).get(request.method or "", action)
            may(project, needed)
            project.may_edit = decide(project.role, "edit").allowed
            project.may_manage = decide(project.role, "manage").allowed
            return view(request, project, *args, **kwargs)

        guarded.access = "project"  # type: ignore[attr-defined]
        return guarded

    return wrap


def refuse_unknown(view: Any) -> None:
    """Raise Http404 for a view that declares no access at all."""
    if getattr(view, "access", None) is None:
        raise Http404
