"""What tokens are for: those that are not sure as questions, and the project's own words."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_GET, require_POST

from prism.contrast import rule_commands
from prism.errors import PrismError
from prism.roles import lexicon, role
from prism.sheet import questions, word_questions, word_view
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.frame import Frame
from studio.rooms.tokens.roles.address import RolesAddress
from studio.rooms.tokens.roles.forms import AnswerForm
from studio.store import own_words
from studio.store import projects as store
from studio.store.projects import Project

RolesFrame = Frame[RolesAddress]


def _enter(request: HttpRequest, project: Project) -> RolesFrame:
    address = RolesAddress.read(state_of(request))
    return Frame.enter(request, project, "tokens", address, "roles:room")


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """The first question, and all that is not sure."""
    return _room(_enter(request, project))


def _room(
    frame: RolesFrame,
    problem: str = "",
    status: int = 200,
    typed: Mapping[str, Any] | None = None,
) -> HttpResponse:
    unsure = questions.unsure(frame.analysis)
    address = frame.address
    by_token = address.by == "tokens" or bool(address.token)
    asked = None if by_token else word_view.question(frame.analysis, address.word, address.put_off)
    context = {
        "asked": asked,
        "asked_words": word_view.in_order(frame.analysis, address.put_off),
        "settled": word_view.settled(frame.analysis),
        "put_off": " ".join((*address.put_off, asked.asked.key)) if asked else "",
        "by_token": by_token,
        "unsure": [
            {
                "token": token,
                "guess": known,
                "hex": frame.resolver.resolve(token.key, frame.theme).hex,
            }
            for token, known in unsure
        ],
        "question": questions.question(frame.analysis, frame.theme, unsure, address.token),
        "roles": role.every(),
        "count": len(frame.analysis.roles),
        "words": frame.document.words,
        **_own(frame),
        "meanings": lexicon.names(),
        "problem": problem,
        "typed": typed,
    }
    return page.show(frame, "roles/room.html", context, status)


def _own(frame: RolesFrame) -> dict[str, Any]:
    """The words that this person keeps and could use here, and whether those of the project are kept."""
    kept = own_words.of(frame.person)
    return {
        "yours": word_questions.said_elsewhere(frame.analysis, kept),
        "all_kept": set(frame.document.words) <= set(kept),
    }


def _refuse(frame: RolesFrame) -> writing.Refuse:
    def refuse(problem: str, status: int) -> HttpResponse:
        return _room(frame, problem, status, frame.request.POST)

    return refuse


@requires("edit")
@require_POST
def answer(request: HttpRequest, project: Project) -> HttpResponse:
    """Store what a token is for, and ask about the next."""
    frame = _enter(request, project)
    form = AnswerForm(request.POST)

    def then(saved: store.Saved) -> str:
        asked = form.cleaned_data["about"]
        next_key = questions.after(frame.analysis, saved.loaded.analysis, asked)
        frame.address = frame.address.but(token=next_key)
        return frame.here

    return writing.run(frame, form, _refuse(frame), then)


@requires("view")
@require_POST
def keep(request: HttpRequest, project: Project) -> HttpResponse:
    """Keep the words of the project for other projects of this person, or stop keeping them."""
    frame = _enter(request, project)
    if "forget" in request.POST:
        own_words.forget(frame.person, frame.document.words)
        messages.success(request, "These words are no longer kept.")
        return redirect(frame.here)
    try:
        own_words.keep(frame.person, frame.document.words)
    except PrismError as error:
        return _room(frame, str(error), 422)
    messages.success(request, "Kept: these words are offered in your other projects.")
    return redirect(frame.here)


@requires("edit")
@require_POST
def command(request: HttpRequest, project: Project) -> HttpResponse:
    """Say what words mean, or add or remove a word of the project's own; the next question follows."""
    frame = _enter(request, project)
    form = writing.NamedCommandForm(request.POST, rule_commands)

    def then(_saved: store.Saved) -> str:
        frame.address = frame.address.but(word="")
        return frame.here

    return writing.run(frame, form, _refuse(frame), then)
