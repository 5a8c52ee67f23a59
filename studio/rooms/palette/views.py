"""The Palette room: the raw colors as ramps, by purpose; a ramp or a color opened below them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET, require_POST

from prism import edits
from prism.color import space
from prism.color.contrast import truncate_ratio
from prism.color.notation import NOTATIONS
from prism.coverage import commands as coverage_commands
from prism.coverage.needs import coverage_of
from prism.errors import PrismError
from prism.expressions import typed_input
from prism.model.document import Ramp
from prism.model.values import BASE
from prism.palette import commands as palette_commands
from prism.palette import plot, purposes, ramp_edits, ramps, recipes
from prism.palette import sections as palette
from prism.palette.commands import RetuneRamp, SetColor
from prism.sheet import token_commands
from prism.sheet.consequences import consequences
from prism.sheet.token_commands import RemoveToken
from studio.accounts.permissions import requires
from studio.numbers import whole
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.frame import Frame
from studio.rooms.palette import forms, strips
from studio.rooms.palette.address import PaletteAddress
from studio.store import projects as store
from studio.store.projects import Project

PaletteFrame = Frame[PaletteAddress]


def enter(request: HttpRequest, project: Project) -> PaletteFrame:
    """The frame of the room."""
    return Frame.enter(request, project, "palette", PaletteAddress.read(state_of(request)))


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """The raw colors, ramp by ramp."""
    return _room(enter(request, project))


def _room(
    frame: PaletteFrame,
    problem: str = "",
    typed: Mapping[str, str] | None = None,
    status: int = 200,
) -> HttpResponse:
    address = frame.address
    notation = address.notation or NOTATIONS[0]
    sections = palette.sections(frame.resolver, frame.theme, notation)
    ramp = _open_ramp(frame)
    heads = palette.heads(sections)
    context = {
        "sections": _sections(frame, sections, heads, notation),
        "heads": heads,
        "notation": notation,
        "notations": NOTATIONS,
        "purposes": purposes.of(frame.document),
        "coverage": frame.analysis.once(coverage_of),
        "ramp": ramp,
        "swatch": _open_swatch(frame, notation, ramp),
        "view": address.view,
        "problem": problem,
        "typed": typed or {},
        **_about_ramp(frame, ramp, typed or {}),
    }
    return page.show(frame, "palette/room.html", context, status)


def _sections(
    frame: PaletteFrame,
    sections: Sequence[palette.Section],
    heads: Sequence[palette.Head],
    notation: str,
) -> list[dict[str, Any]]:
    """The parts of the palette by purpose, each strip drawn."""
    swatch = frame.address.swatch
    return [
        {
            "purpose": section.purpose,
            "strips": [
                {
                    "name": strip.name,
                    "ramp": strip.ramp,
                    "words": strip.words,
                    "beside": strip.beside,
                    "markup": strips.markup(strip, frame, notation, heads, swatch),
                }
                for strip in section.strips
            ],
        }
        for section in sections
    ]


@requires("view")
@require_GET
def swatches(request: HttpRequest, project: Project) -> HttpResponse:
    """Swatches of a large strip that come into sight, from one on."""
    frame = enter(request, project)
    notation = frame.address.notation or NOTATIONS[0]
    sections = palette.sections(frame.resolver, frame.theme, notation)
    first, start = request.GET.get("strip", ""), whole(request.GET.get("from", ""), 0)
    strip = next((s for part in sections for s in part.strips if s.begins_with(first)), None)
    if strip is None:
        return HttpResponse()
    markup = strips.some(strip, frame, notation, palette.heads(sections), start)
    return HttpResponse(markup)


def _open_ramp(frame: PaletteFrame) -> Ramp | None:
    """The ramp that the address names, or the one that its swatch is a step of."""
    named = frame.document.ramp(frame.address.ramp)
    return named or ramp_edits.ramp_with(frame.document, frame.address.swatch)


def _open_swatch(frame: PaletteFrame, notation: str, ramp: Ramp | None) -> dict[str, Any] | None:
    token = frame.document.token(frame.address.swatch)
    if token is None or token.type != "color":
        return None
    return {
        "shown": palette.swatch(frame.resolver, token, frame.theme, notation, ramp),
        "users": palette.landing_on(frame.resolver, token.key, frame.theme),
        "stored": typed_input.typed(token.value(BASE), token.type),
        "options": palette.step_options(frame.resolver, token.key, frame.theme),
    }


def _about_ramp(frame: PaletteFrame, ramp: Ramp | None, typed: Mapping[str, str]) -> dict[str, Any]:
    view = frame.address.view
    if view == "new":
        return {"ramp_form": forms.RampForm(None, {**recipes.DEFAULTS, **typed})}
    if ramp is None:
        return {}
    about: dict[str, Any] = {
        "plot": plot.plot(frame.resolver, frame.theme, ramp),
        "carried": palette.carried(frame.paired_resolver, ramp.steps),
        "ramp_words": palette.recipe_words(ramp),
        "parameters": dict(ramp.parameters),
    }
    if view == "tune":
        names = " ".join(ramp_edits.leaf(frame.document, key) for key in ramp.steps)
        given = {**ramp_edits.proposed(frame.document, ramp), **typed}
        about["ramp_form"] = forms.RampForm(None, given, names)
    if view == "curves":
        curves = plot.curves(frame.resolver, frame.theme, ramp)
        about["curves"] = curves
        about["out_of_line"] = [
            (curve.name, name) for curve in curves for _, _, name in curve.marks
        ]
    if view == "steps":
        tokens = [token for key in ramp.steps if (token := frame.document.token(key))]
        about["steps"] = [
            palette.swatch(frame.resolver, token, frame.theme, "hex", ramp) for token in tokens
        ]
    return about


@requires("view")
@require_GET
def preview(request: HttpRequest, project: Project) -> HttpResponse:
    """What a recipe would make, as a strip with its ratios, or what is wrong with it."""
    form = forms.RampForm(request.GET)
    context: dict[str, Any]
    try:
        recipe = recipes.read(form.recipe)
        steps = ramps.make(recipe)
        names = recipes.step_names(request.GET.get("names", ""), len(steps))
        beside = recipe.keep_seed and not any(step.is_seed for step in steps)
        context = {"steps": palette.made(recipe, steps, names), "tall": strips.is_tall(names)}
        context["beside"] = space.hex_text(recipe.seed) if beside else ""
        if form.data.get("ramp"):
            context |= _retuned(project, form)
    except PrismError as error:
        context = {"problem": str(error)}
    return render(request, "palette/preview.html", context)


def _retuned(project: Project, form: forms.RampForm) -> dict[str, Any]:
    """What retuning a ramp would change, and break."""
    analysis = store.load(project).analysis
    names = form.data.get("names", "")
    command = RetuneRamp("preview", form.data["ramp"], tuple(form.recipe.items()), names)
    after = command.apply(analysis.document)
    return {
        "found": consequences(analysis, after),
        "document": analysis.document,
        "project": project,
    }


@requires("edit")
@require_POST
def store_ramp(request: HttpRequest, project: Project) -> HttpResponse:
    """Store a new ramp, or retune one."""
    form = forms.RampForm(request.POST)
    return _run(enter(request, project), form, form.typed)


@requires("edit")
@require_POST
def store_color(request: HttpRequest, project: Project) -> HttpResponse:
    """Store the value of a raw color."""
    form = forms.ColorForm(request.POST)
    return _run(enter(request, project), form, {"value": request.POST.get("value", "")})


@requires("edit")
@require_POST
def store_point(request: HttpRequest, project: Project) -> HttpResponse:
    """Store a step where it was dragged to."""
    frame = enter(request, project)
    return _run(frame, forms.PointForm(request.POST, frame.document))


@requires("edit")
@require_POST
def command(request: HttpRequest, project: Project) -> HttpResponse:
    """Run a command on ramps, steps, purposes or single tokens."""
    form = writing.NamedCommandForm(
        request.POST, palette_commands, coverage_commands, token_commands
    )
    return _run(enter(request, project), form)


def _run(
    frame: PaletteFrame, form: writing.CommandForm, typed: Mapping[str, str] | None = None
) -> HttpResponse:
    """Store a command, or say what is wrong with what was typed still there."""

    def then(saved: store.Saved) -> str:
        document, address = saved.loaded.document, frame.address
        if isinstance(form, forms.RampForm):
            ramp = form.cleaned_data["ramp"] or document.ramps[-1].key
            address = address.but(ramp=ramp, view="", swatch="")
        if document.token(address.swatch) is None:
            address = address.but(swatch="")
        frame.address = address
        return frame.here

    def refuse(problem: str, status: int) -> HttpResponse:
        return _room(frame, problem, typed, status)

    return writing.run(frame, form, refuse, then)


@requires("view")
@require_GET
def numbers(request: HttpRequest, project: Project) -> HttpResponse:
    """The numbers of a point of the plot, as JSON, while it is moved."""
    try:
        lightness, chroma, hue = (
            float(request.GET.get(name, "")) for name in ("lightness", "chroma", "hue")
        )
        point = plot.numbers(lightness, chroma, hue, request.GET.get("gamut", "srgb"))
    except PrismError as error:
        return JsonResponse({"problem": str(error)}, status=400)
    except ValueError:
        return JsonResponse({"problem": "That point is not a color."}, status=400)
    return JsonResponse(
        {
            "text": point.text,
            "hex": point.hex,
            "on_white": truncate_ratio(point.on_white),
            "on_black": truncate_ratio(point.on_black),
            "in_srgb": point.in_srgb,
            "in_p3": point.in_p3,
        }
    )


@requires("view")
@require_GET
def show_impact(request: HttpRequest, project: Project) -> HttpResponse:
    """What another value of a raw color, or its removal, would change, in a few sentences."""
    analysis = store.load(project).analysis
    get = request.GET.get
    context: dict[str, Any]
    try:
        change: edits.Command
        if get("removed"):
            change = RemoveToken(get("token", ""), get("into", ""))
        else:
            change = SetColor(get("token", ""), get("value", ""))
        after = change.apply(analysis.document)
        context = {
            "found": consequences(analysis, after),
            "document": analysis.document,
            "project": project,
        }
    except PrismError as error:
        context = {"problem": str(error)}
    return render(request, "palette/impact.html", context)
