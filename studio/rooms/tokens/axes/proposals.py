"""A mode proposed from another: reviewed row by row, solved again with what was decided, and taken."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from urllib.parse import urlencode

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from prism.analysis import Analysis
from prism.contrast import unplaced
from prism.errors import PrismError
from prism.formats import css
from prism.model.values import Composite, Condition, Expression, Listing
from prism.modes import review_view
from prism.modes.commands import AddProposedMode
from prism.modes.intents import BY_ID
from prism.modes.review import Asked
from prism.modes.source import Start
from prism.modes.starting_rows import hues_of, whole_ramps
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.stage import panes
from studio.rooms.themes import read_theme, theme_text
from studio.rooms.tokens.axes import asked_mode, forms
from studio.rooms.tokens.axes.asked_mode import KEY
from studio.rooms.tokens.axes.tasks import PROPOSE
from studio.rooms.tokens.axes.views import AxesFrame, enter, show_axes
from studio.solving import Patience, Solving, begin, is_long
from studio.store import projects as store
from studio.store import tasks
from studio.store.projects import Project

_PATIENCE = Patience(each=1.0, longest=8.0)
_SCENE = "stage/scenes/sample.html"


def _proposal(
    analysis: Analysis, theme: tuple[int, ...], asked: Asked, earlier: str
) -> review_view.Proposal:
    return review_view.proposal(analysis, theme, asked, _PATIENCE.watch(), earlier)


class _Proposed:
    """What is asked for, and the long task that solves it where there are many pairings."""

    def __init__(
        self,
        frame: AxesFrame,
        form: forms.ProposalForm,
        decided: tuple[tuple[str, str | None], ...] | None = None,
    ) -> None:
        self.frame = frame
        self.form = form
        self.solving = Solving(frame, PROPOSE, form.cleaned_data["solving"])
        self.task = self.solving.task
        if self.task is not None:
            kept = asked_mode.asked_of(tasks.fields_of(self.task))
            decided = kept.decided if decided is None and not form.decided else decided
        self.plain = form.asked(KEY, decided)
        self.analysis, self.asked = asked_mode.prepared(frame.analysis, self.plain)
        own = self.analysis is not frame.analysis
        self.theme = self.analysis.resolver.default_theme if own else frame.theme

    @property
    def is_there(self) -> bool:
        """Whether the axis and the mode to start from are still there."""
        owner = self.analysis.document.axis(self.asked.axis)
        return owner is not None and any(mode.key == self.asked.source for mode in owner.modes)

    @property
    def is_large(self) -> bool:
        """Whether there are too many pairings to solve while somebody waits."""
        return self.asked.solves and is_long(asked_mode.pairings(self.analysis))

    @property
    def earlier(self) -> str:
        """What the task found; empty where there is none, or it found something else."""
        task = self.task
        if task is None or tasks.fields_of(task) != asked_mode.fields_of(self.plain):
            return ""
        return self.solving.found

    @property
    def problem(self) -> str:
        """Why the task that the address names gave nothing; empty where it did, or none is named."""
        if self.task is not None:
            return self.solving.problem
        asked = bool(self.form.cleaned_data["solving"])
        return "The project was changed since this was solved. Solve it again." if asked else ""

    def made(self) -> review_view.Proposal:
        """The proposal. Raises ``PrismError``."""
        solves = self.asked.solves and not self.is_large and self.frame.project.may_edit
        asked = replace(self.asked, solves=solves)
        return self.analysis.lately(_proposal, self.theme, asked, self.earlier)


@requires("view")
@require_GET
def propose(request: HttpRequest, project: Project) -> HttpResponse:
    """What each token would hold in a new mode, and why."""
    frame = enter(request, project)
    form = forms.ProposalForm(request.GET)
    if not form.is_valid():
        return show_axes(frame, "Name the new mode, and the one it is made from.", 400)
    return _show(frame, form)


def _show(
    frame: AxesFrame, form: forms.ProposalForm, problem: str = "", status: int = 200
) -> HttpResponse:
    proposed = _Proposed(frame, form)
    if not proposed.is_there:
        return show_axes(frame, "That mode is no longer there.", 422)
    try:
        made = proposed.made()
    except PrismError as error:
        if not form.decided:
            return show_axes(frame, str(error), 422)
        problem, status = str(error), 422
        made = _Proposed(frame, form, decided=()).made()
    problem = problem or proposed.problem
    values = form.cleaned_data
    owner = proposed.analysis.document.axis(proposed.asked.axis)
    assert owner is not None
    context = {
        "asked": values,
        "axis": owner,
        "source": owner.mode(proposed.asked.source),
        "name": values["name"],
        "scheme": values["scheme"],
        "plain": values["plain"],
        "is_large": proposed.is_large,
        "solving": proposed.task.code if proposed.task is not None else "",
        "task": proposed.solving.panel,
        "is_solved": bool(proposed.earlier),
        "typed": {key: text for key, text in form.decided if text} if problem else {},
        "proposal": made,
        "not_judged": _not_judged(proposed, made),
        "scenes": _scenes(proposed),
        "extra": form.extra,
        "asks": BY_ID[proposed.asked.intent].asks,
        "colors": BY_ID[proposed.asked.intent].solves,
        "hues": _hues(proposed) if BY_ID[proposed.asked.intent].asks == "hues" else [],
        "factor": f"{form.times:g}",
        "problem": problem,
    }
    return page.show(frame, "axes/propose.html", context, status)


def _not_judged(proposed: _Proposed, made: review_view.Proposal) -> str:
    """How many colors nobody judged, in a sentence."""
    analysis = proposed.analysis
    left = unplaced.unplaced_of(analysis.document, analysis.roles, made.made.pairs)
    return unplaced.sentence(len(left))


def _hues(proposed: _Proposed) -> list[dict[str, Any]]:
    """The ramps that a mode uses, each with the one that takes its place."""
    asked, document = proposed.asked, proposed.analysis.document
    instead = dict(asked.hues)
    start = Start(document, asked.axis, asked.source, asked.mode.key)
    return [
        {
            "ramp": ramp,
            "instead": instead.get(ramp.key, ramp.key),
            "others": whole_ramps(start),
        }
        for ramp in hues_of(start)
    ]


def _scenes(proposed: _Proposed) -> list[dict[str, str]]:
    """The scene in the mode that is there, and in the proposed one."""
    code, values = proposed.frame.project.code, proposed.form.cleaned_data
    address = reverse("axes:proposed-scene", args=[code])
    there = [(name, str(values[name])) for name in ("axis", "source", "name", "scheme", "intent")]
    there += [("plain", "1")] if values["plain"] else []
    there += proposed.form.extra
    there += [("solving", proposed.task.code)] if proposed.task is not None else []
    for key, text in proposed.asked.decided:
        there.append((f"was-{key}", "" if text is not None else "-"))
        there += [("take", key), (f"text-{key}", text)] if text is not None else []
    there += [("revision", str(proposed.frame.loaded.revision))]
    theme = theme_text(proposed.frame.analysis, proposed.frame.theme)
    owner = proposed.analysis.document.axis(proposed.asked.axis)
    assert owner is not None
    return [
        {
            "words": words,
            "address": f"{address}?{urlencode([*there, ('theme', theme), ('side', side)])}",
        }
        for words, side in (
            (owner.mode(proposed.asked.source).name, "source"),
            (values["name"], "proposed"),
        )
    ]


@requires("edit")
@require_POST
def take(request: HttpRequest, project: Project) -> HttpResponse:
    """Store a mode as it was reviewed, or solve it again with what was decided."""
    frame = enter(request, project)
    form = forms.DecidedForm(request.POST)
    if not form.is_valid():
        return show_axes(frame, f"Nothing was stored. {writing.problems(form)}", 400)
    if "again" in request.POST:
        return _again(frame, form)
    key = store.new_key()
    proposed = _Proposed(frame, form, decided=form.before)
    try:
        if not proposed.is_there:
            return show_axes(frame, "That mode is no longer there.", 422)
        settings = proposed.made().made.taken(proposed.asked.axis, KEY, form.decided)
    except PrismError as error:
        return _show(frame, form, str(error), 422)
    values = form.cleaned_data
    stored = tuple(
        (token, _rekeyed(condition, key), value)
        for token, condition, value in settings
        if isinstance(value, Expression | Composite | Listing)
    )
    command = AddProposedMode(
        key, values["axis"], values["source"], values["name"], values["scheme"], stored
    )
    ready = writing.ReadyForm(request.POST, command)
    return writing.run(frame, ready, lambda problem, status: _show(frame, form, problem, status))


def _again(frame: AxesFrame, form: forms.DecidedForm) -> HttpResponse:
    """Solve with what was decided: at once, or as a long task where there is much to solve."""
    proposed = _Proposed(frame, form, decided=form.decided)
    if not proposed.is_there or not proposed.is_large:
        return _show(frame, form)
    values = form.cleaned_data
    names = ("axis", "source", "name", "scheme", "intent")
    asked = {name: str(values[name]) for name in names} | dict(form.extra)

    def refuse(problem: str, status: int) -> HttpResponse:
        return _show(frame, form, problem, status)

    def to(code: str) -> str:
        return reverse("axes:propose", args=[frame.project.code]) + frame.query(
            **asked, solving=code
        )

    return begin(frame, PROPOSE, asked_mode.fields_of(proposed.plain), refuse, to)


def _rekeyed(condition: Condition, key: str) -> Condition:
    """A condition of the proposed mode, as one of the mode of this key."""

    def named(part: str) -> str:
        return part.replace(KEY, key, 1) if part.split("-")[0] == KEY else part

    return Condition.of({named(axis): named(mode) for axis, mode in condition.picks})


def _of_proposal(request: HttpRequest, project: Project) -> tuple[_Proposed, Analysis, bool]:
    """What the fields of an address propose, the document with it, and whether the mode that it is made
    from is asked for. Raises ``PrismError``."""
    frame = enter(request, project)
    form = forms.DecidedForm(request.GET)
    if not form.is_valid():
        raise PrismError(writing.problems(form))
    proposed = _Proposed(frame, form)
    made = proposed.made()
    return proposed, proposed.analysis.lately(_painted, made), request.GET.get("side") == "source"


def _painted(analysis: Analysis, made: review_view.Proposal) -> Analysis:
    return Analysis(made.made.document, analysis)


@requires("view")
@require_GET
@panes.framed
def scene(request: HttpRequest, project: Project) -> HttpResponse:
    """A small interface in the proposed mode, or in the one it is made from."""
    try:
        proposed, analysis, before = _of_proposal(request, project)
    except PrismError as error:
        return HttpResponse(str(error), status=422, content_type="text/plain; charset=utf-8")
    asked = proposed.asked
    theme = read_theme(proposed.analysis, request.GET.get("theme", ""))
    picks = proposed.analysis.resolver.picks(theme)
    mode = asked.source if before else asked.mode.key
    there = analysis.resolver.theme(picks | {asked.axis: mode})
    fields = request.GET.copy()
    for name in ("theme", "side"):
        fields.pop(name, None)
    paint = reverse("axes:proposed-paint", args=[project.code])
    context: dict[str, Any] = {
        "scene": _SCENE,
        "carrier": analysis.document.name,
        "attributes": css.root_attributes(analysis.document, there),
        "paint": f"{paint}?{fields.urlencode()}",
    }
    return render(request, "stage/pane.html", context)


@requires("view")
@require_GET
def paint(request: HttpRequest, project: Project) -> HttpResponse:
    """The style sheet of that interface."""
    try:
        _, analysis, _ = _of_proposal(request, project)
    except PrismError:
        return panes.no_sheet()
    response = HttpResponse(analysis.stage_sheet, content_type="text/css; charset=utf-8")
    response["Cache-Control"] = "private, max-age=600"
    return response
