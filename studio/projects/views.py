"""Projects: the list, making, copying, renaming, deleting, members, undo and redo."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.contrib import messages
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from prism.errors import PrismError
from studio.accounts.permissions import (
    person,
    projects_for,
    requires,
    restorable_projects_for,
    signed_in,
)
from studio.projects import members as membership
from studio.projects import starting
from studio.projects.forms import MemberForm, NameForm
from studio.rooms.page import back_to
from studio.rooms.registry import ROOMS
from studio.store import projects as store
from studio.store.models import JournalEntry, Project


@signed_in
@require_GET
def listing(request: HttpRequest) -> HttpResponse:
    """The projects one may see, and those one may restore; who has none begins one."""
    context: dict[str, Any] = {
        "projects": projects_for(request.user),
        "deleted": restorable_projects_for(request.user),
    }
    if not any(context.values()):
        return starting.show(request)
    context["rooms"] = ROOMS
    return render(request, "projects/list.html", context)


@requires("view")
@require_GET
def open_project(request: HttpRequest, project: Project) -> HttpResponse:
    """Go to the room where the work on a project begins."""
    empty = not store.load(project).document.tokens
    return redirect("palette:room" if empty else "tokens:room", project.code)


@requires("view", {"POST": "manage"})
@require_http_methods(["GET", "POST"])
def settings(request: HttpRequest, project: Project) -> HttpResponse:
    """A project's name and members."""
    form = NameForm(request.POST or None, initial={"name": project.name})
    if request.method == "POST" and form.is_valid():
        store.rename(project, person(request), form.cleaned_data["name"])
        return redirect("projects:settings", project.code)
    return _settings_page(request, project, form=form)


def _settings_page(
    request: HttpRequest, project: Project, status: int = 200, **forms: Any
) -> HttpResponse:
    context = {
        "project": project,
        "form": NameForm(initial={"name": project.name}),
        "member_form": MemberForm(),
        "members": project.memberships.select_related("user"),
    }
    status = 400 if any(form.errors for form in forms.values()) else status
    return render(request, "projects/settings.html", context | forms, status=status)


@requires("manage")
@require_POST
def invite(request: HttpRequest, project: Project) -> HttpResponse:
    """Invite a member by account name."""
    form = MemberForm(request.POST)
    if not form.is_valid():
        return _settings_page(request, project, member_form=form)
    try:
        membership.invite(project, form.user, form.cleaned_data["role"])
    except PrismError as error:
        messages.error(request, str(error))
    return redirect("projects:settings", project.code)


@requires("manage")
@require_POST
def remove_member(request: HttpRequest, project: Project, member: int) -> HttpResponse:
    """Take a member out."""
    try:
        membership.remove(project, member)
    except PrismError as error:
        messages.error(request, str(error))
    return redirect("projects:settings", project.code)


@requires("view")
@require_POST
def copy(request: HttpRequest, project: Project) -> HttpResponse:
    """Make a copy that belongs to the person who asks."""
    made = store.copy(project, person(request), f"{project.name}, copy"[:120])
    messages.success(request, f"{made.name} is yours only.")
    return redirect("projects:settings", made.code)


@requires("manage")
@require_POST
def delete(request: HttpRequest, project: Project) -> HttpResponse:
    """Put the project away."""
    store.delete(project)
    messages.success(request, f"{project.name} is deleted.", extra_tags=f"restore:{project.code}")
    return redirect("projects:list")


@requires("manage", deleted=True)
@require_POST
def restore(request: HttpRequest, project: Project) -> HttpResponse:
    """Restore a deleted project."""
    store.restore(project)
    return redirect("projects:list")


@requires("view")
@require_GET
def pulse(request: HttpRequest, project: Project) -> HttpResponse:
    """The newest revision, for pages that stay open; and whether a write of theirs was stored."""
    members = {"revision": project.revision}
    if write := request.GET.get("write", "")[:40]:
        members["stored"] = project.journal.written_as(write).exists()
    response = JsonResponse(members)
    response["Cache-Control"] = "no-store"
    return response


@requires("edit")
@require_POST
def undo(request: HttpRequest, project: Project) -> HttpResponse:
    """Take back one's own newest edit."""
    return _swing(request, project, store.undo, "There is nothing of yours to undo.")


@requires("edit")
@require_POST
def redo(request: HttpRequest, project: Project) -> HttpResponse:
    """Do again what one took back last."""
    return _swing(request, project, store.redo, "There is nothing of yours to redo.")


def _swing(
    request: HttpRequest,
    project: Project,
    act: Callable[..., JournalEntry | None],
    nothing: str,
) -> HttpResponse:
    undoing = act is store.undo
    try:
        entry = act(project, person(request), anyway="anyway" in request.POST)
    except store.ClashError as error:
        words = "undone" if undoing else "redone"
        sentence = f"This was not {words}, as others have changed the same since. {error}"
        messages.error(request, sentence, extra_tags="anyway:undo" if undoing else "anyway:redo")
    except PrismError as error:
        messages.error(request, f"This cannot be {'undone' if undoing else 'redone'}: {error}")
    else:
        if entry is None:
            messages.info(request, nothing)
        else:
            word = "Undone" if undoing else "Redone"
            messages.info(request, f"{word}: {entry.label}")
    return back_to(request, project)
