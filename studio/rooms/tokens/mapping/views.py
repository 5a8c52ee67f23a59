"""Many cells at once: bulk commands, pasting, the ladder, and linking literals to the palette."""

from __future__ import annotations

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_POST

from prism.changes import links
from prism.errors import PrismError
from prism.model.names import condition_words
from prism.model.values import BASE, Condition
from prism.sheet import ladder as ladders
from prism.sheet import paste as pasting
from prism.sheet import preview as changes
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.frame import Frame
from studio.rooms.tokens.mapping import forms
from studio.rooms.tokens.mapping.address import LadderAddress, LinkAddress
from studio.sheet import page as sheet
from studio.sheet.columns import axis_of
from studio.sheet.editor import SheetFrame
from studio.store import projects as store
from studio.store.projects import Project


@requires("edit")
@require_POST
def bulk(request: HttpRequest, project: Project) -> HttpResponse:
    """Run a command on many cells or tokens."""
    frame = sheet.enter(request, project)
    return _run(frame, forms.CellsForm(request.POST, frame, frame.picks))


@requires("edit")
@require_POST
def preview(request: HttpRequest, project: Project) -> HttpResponse:
    """What a command on many cells would change, as a fragment; nothing is stored."""
    frame = sheet.enter(request, project)
    form = forms.CellsForm(request.POST, frame, frame.picks)
    context: dict[str, object] = {}
    try:
        if form.is_valid() and form.data.get("command"):
            outcome = form.command().outcome(frame.document)
            context["change"] = changes.change(frame.document, outcome)
    except PrismError as error:
        context["problem"] = str(error)
    return render(request, "mapping/preview.html", context)


@requires("edit")
@require_POST
def paste(request: HttpRequest, project: Project) -> HttpResponse:
    """Paste text onto a range of the sheet, or values with names onto a column."""
    frame = sheet.enter(request, project)
    axis = axis_of(frame)
    text = request.POST.get("text", "")
    fresh = pasting.unknown(frame.document, text[: pasting.MAX_TEXT], axis.key if axis else "")
    response = _run(frame, forms.PasteForm(request.POST, frame, frame.picks))
    if not fresh:
        return response
    project.refresh_from_db()
    return sheet.show_sheet(sheet.enter(request, project), pasted=text)


def _run(frame: SheetFrame, form: writing.CommandForm) -> HttpResponse:
    """Store a command and say what it did, or say why not."""

    def words(saved: store.Saved) -> str:
        seen = store.at(frame.project, form.cleaned_data["revision"]).document
        what = changes.summary(seen, saved.outcome.document)
        done = f"{saved.outcome.sentence}: {what or 'nothing'} changed."
        return f"{done} {saved.outcome.skipped_words}".strip()

    return writing.run(frame, form, _refuse(frame), words=words)


def _refuse(frame: SheetFrame) -> writing.Refuse:
    """Say on the page that the form stood on what is wrong."""

    def refuse(problem: str, status: int) -> HttpResponse:
        if frame.clash is not None:
            fresh = sheet.enter(frame.request, frame.project)
            fresh.clash = frame.clash
            return sheet.show_sheet(fresh, problem=problem, status=status)
        messages.error(frame.request, problem)
        return redirect(frame.here)

    return refuse


@requires("view")
@require_GET
def ladder(request: HttpRequest, project: Project) -> HttpResponse:
    """The ramps as ladders, with the tokens of each mode as marks on their steps."""
    return _ladder(_enter_ladder(request, project))


def _enter_ladder(request: HttpRequest, project: Project) -> Frame[LadderAddress]:
    address = LadderAddress.read(state_of(request))
    return Frame.enter(request, project, "tokens", address, "mapping:ladder")


def _ladder(frame: Frame[LadderAddress], problem: str = "", status: int = 200) -> HttpResponse:
    axis = axis_of(frame)
    context = {
        "axis": axis,
        "axis_names": frame.analysis.axis_names,
        "groups": ladders.groups(frame.document),
        "ladders": ladders.ladders(frame.resolver, axis, frame.theme, frame.address.group),
        "problem": problem,
    }
    return page.show(frame, "mapping/ladder.html", context, status)


@requires("edit")
@require_POST
def move_mark(request: HttpRequest, project: Project) -> HttpResponse:
    """Set a token on another step in one mode."""
    frame = _enter_ladder(request, project)
    form = forms.MarkForm(request.POST, frame, frame.picks)
    return writing.run(frame, form, lambda problem, status: _ladder(frame, problem, status))


@requires("view")
@require_GET
def link(request: HttpRequest, project: Project) -> HttpResponse:
    """Raw literals and the palette colors that could stand in their place."""
    return _link(_enter_link(request, project))


def _enter_link(request: HttpRequest, project: Project) -> Frame[LinkAddress]:
    address = LinkAddress.read(state_of(request))
    return Frame.enter(request, project, "tokens", address, "mapping:link")


def _link(frame: Frame[LinkAddress], problem: str = "", status: int = 200) -> HttpResponse:
    document = frame.document
    upto = _distance(frame.address.upto)
    proposal = links.propose(document)

    def words(condition: Condition) -> str:
        return "" if condition == BASE else condition_words(document, condition)

    context = {
        "rows": [
            {
                "number": number,
                "link": offer,
                "token": document.token(offer.token),
                "target": document.token(offer.target),
                "hex": frame.resolver.resolve(offer.target, frame.theme).hex,
                "words": words(offer.condition),
                "taken": offer.distance <= upto,
            }
            for number, offer in enumerate(proposal.links)
        ],
        "unmatched": [
            {
                "token": document.token(literal.token),
                "text": literal.text,
                "color": literal.color,
                "words": words(literal.condition),
            }
            for literal in proposal.unmatched
        ],
        "upto": f"{upto:g}",
        "farther": sum(offer.distance > upto for offer in proposal.links),
        "farthest": f"{links.NEAR:g}",
        "raw_groups": links.raw_groups(document),
        "problem": problem,
    }
    return page.show(frame, "mapping/link.html", context, status)


@requires("edit")
@require_POST
def store_tier(request: HttpRequest, project: Project) -> HttpResponse:
    """Say which groups of literals are semantic, and so may refer to the palette."""
    return _run_link(_enter_link(request, project), forms.TierForm(request.POST))


def _distance(text: str) -> float:
    """A distance as it was typed; that of what is the same to the eye for anything else."""
    try:
        typed = float(text)
    except ValueError:
        return links.SAME
    return min(max(typed, 0.0), links.NEAR) if typed == typed else links.SAME


@requires("edit")
@require_POST
def store_links(request: HttpRequest, project: Project) -> HttpResponse:
    """Store the links that were accepted."""
    return _run_link(_enter_link(request, project), forms.LinksForm(request.POST))


def _run_link(frame: Frame[LinkAddress], form: writing.CommandForm) -> HttpResponse:
    return writing.run(frame, form, lambda problem, status: _link(frame, problem, status))
