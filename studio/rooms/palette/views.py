"""The Palette room: the raw colors as ramps, by purpose; a ramp or a color opened below them."""

from django.http import JsonResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET, require_POST

from prism.changes import values as edit
from prism.changes.structure import drop_token
from prism.color.contrast import truncate_ratio
from prism.color.notation import NOTATIONS
from prism.errors import PrismError
from prism.expressions import typed_input
from prism.model.document import BASE, shown_path
from prism.palette import building, purposes, ramps, recipes
from prism.view_models import palette, plot
from prism.view_models.consequences import consequences
from studio.accounts.permissions import requires
from studio.rooms import frame as frames
from studio.rooms.palette import forms, strips
from studio.rooms.palette.acts import act
from studio.store import projects as store

VIEWS = ("tune", "steps", "curves", "new", "purposes", "coverage")


@requires("view")
@require_GET
def room(request, project):
    """The raw colors, ramp by ramp."""
    return _room(_enter(request, project))


def _enter(request, project, **changes):
    state = request.GET if request.method == "GET" else request.POST
    view = state.get("view", "")
    extra = {
        "swatch": state.get("swatch", "")[:200],
        "ramp": state.get("ramp", "")[:200],
        "view": view if view in VIEWS else "",
        "notation": state.get("notation", "") if state.get("notation") in NOTATIONS[1:] else "",
    }
    return frames.enter(request, project, "palette", **(extra | changes))


def _room(frame, problem="", typed=None, status=200):
    notation = forms.notation(frame.extra.get("notation", ""))
    sections = palette.sections(frame.resolver, frame.theme, notation)
    ramp = _chosen_ramp(frame)
    heads = palette.heads(sections)
    current = frame.extra.get("swatch", "")
    context = {
        "sections": [
            {
                "purpose": section.purpose,
                "strips": [
                    {
                        "name": strip.name,
                        "ramp": strip.ramp,
                        "words": strip.words,
                        "markup": strips.markup(strip, frame, notation, heads, current),
                    }
                    for strip in section.strips
                ],
            }
            for section in sections
        ],
        "heads": heads,
        "notation": notation,
        "notations": NOTATIONS,
        "purposes": purposes.of(frame.document),
        "coverage": frame.analysis.coverage,
        "ramp": ramp,
        "swatch": _chosen_swatch(frame, notation, ramp),
        "view": frame.extra.get("view", ""),
        "problem": problem,
        "typed": typed or {},
    }
    context |= _about_ramp(frame, ramp, typed)
    return frames.show(frame, "palette/room.html", context, status)


def _chosen_ramp(frame):
    """The ramp that the address names, or the one that its swatch is a step of."""
    key, swatch = frame.extra.get("ramp", ""), frame.extra.get("swatch", "")
    found = frame.document.ramp(key)
    return found or building.ramp_with(frame.document, swatch)


def _chosen_swatch(frame, notation, ramp):
    token = frame.document.token(frame.extra.get("swatch", ""))
    if token is None or token.type != "color":
        return None
    return {
        "shown": palette.swatch(frame.resolver, token, frame.theme, notation, ramp),
        "users": palette.landing_on(frame.resolver, token.key, frame.theme),
        "stored": typed_input.typed(token.value(BASE)),
        "options": palette.step_options(frame.document, token.key),
    }


def _about_ramp(frame, ramp, typed):
    view = frame.extra.get("view", "")
    if view == "new":
        return {
            "fields": _fields(dict(recipes.DEFAULTS), typed),
            "methods": forms.METHODS,
            "gamuts": forms.GAMUTS,
        }
    if ramp is None:
        return {}
    found = {
        "plot": plot.plot(frame.resolver, frame.theme, ramp),
        "carried": palette.carried(frame.resolver, ramp.steps),
        "ramp_words": palette.recipe_words(ramp),
        "parameters": dict(ramp.parameters),
        "methods": forms.METHODS,
        "gamuts": forms.GAMUTS,
    }
    if view == "tune":
        found["fields"] = _fields(building.proposed(frame.document, ramp), typed)
        found["names"] = " ".join(building.leaf(frame.document, key) for key in ramp.steps)
    if view == "curves":
        found["curves"] = plot.curves(frame.resolver, frame.theme, ramp)
        found["out_of_line"] = [(c.name, name) for c in found["curves"] for _, _, name in c.marks]
    if view == "steps":
        found["steps"] = [
            palette.swatch(frame.resolver, frame.document.token(key), frame.theme, "hex", ramp)
            for key in ramp.steps
        ]
    return found


def _fields(fields, typed):
    """Fields of a recipe by names that a template can say."""
    return {name.replace("-", "_"): value for name, value in (fields | (typed or {})).items()}


@requires("view")
@require_GET
def preview(request, project):
    """What a recipe would make, as a strip with its ratios, or what is wrong with it."""
    form = forms.RampForm(request.GET)
    fields = form.fields_of_recipe()
    try:
        recipe = recipes.read(fields)
        steps = ramps.make(recipe)
        names = recipes.step_names(request.GET.get("names", "")[:1000], len(steps))
        context = {"steps": palette.made(recipe, steps, names)}
    except PrismError as error:
        context = {"problem": str(error)}
    return render(request, "palette/preview.html", context)


@requires("edit")
@require_POST
def make(request, project):
    """Store a new ramp."""
    form = forms.RampForm(request.POST)
    frame = _enter(request, project)
    fields = form.fields_of_recipe()

    def change(document, said):
        after = building.add_ramp(
            document,
            said["name"],
            fields,
            store.new_key,
            names=said["names"],
            purpose=said["purpose"],
        )
        return after, f"Made the ramp {said['name']}", {"ramp": after.ramps[-1].key}

    return _write(frame, form, change, typed=fields | _said(form))


@requires("edit")
@require_POST
def retune(request, project):
    """Make a ramp anew from other parameters."""
    form = forms.RampForm(request.POST)
    frame = _enter(request, project)
    fields = form.fields_of_recipe()

    def change(document, said):
        ramp = building.ramp_of(document, said["ramp"])
        after = building.retune(document, ramp.key, fields, store.new_key, names=said["names"])
        return after, f"Retuned {building.shown_name(ramp)}", {"ramp": ramp.key}

    return _write(frame, form, change, typed=fields | _said(form))


def _said(form):
    return {name: form.data.get(name, "")[:1000] for name in ("name", "names", "purpose")}


@requires("edit")
@require_POST
def store_color(request, project):
    """Store the value of a raw color."""
    form = forms.ColorForm(request.POST)
    frame = _enter(request, project)

    def change(document, said):
        return _with_color(document, said["token"], said["value"])

    return _write(frame, form, change, typed={"value": request.POST.get("value", "")[:2000]})


def _with_color(document, key, text):
    token = document.token(key)
    if token is None:
        raise PrismError("That color is no longer there.")
    value = typed_input.read_typed(document, text, token)
    after = edit.set_value(document, key, BASE, value)
    return after, f"Set {shown_path(token.path)} to {typed_input.typed(value)[:60]}", {}


@requires("edit")
@require_POST
def store_point(request, project):
    """Store a step where it was dragged to."""
    form = forms.PointForm(request.POST)
    frame = _enter(request, project)

    def change(document, said):
        ramp = building.ramp_with(document, said["token"])
        gamut = dict(ramp.parameters).get("gamut", "srgb") if ramp else "srgb"
        found = plot.numbers(said["lightness"], said["chroma"], said["hue"], gamut)
        return _with_color(document, said["token"], found.text)

    return _write(frame, form, change)


@requires("edit")
@require_POST
def run_act(request, project):
    """Do one of the small acts."""
    form = forms.ActForm(request.POST)
    frame = _enter(request, project)

    def change(document, said):
        after, label = act(document, said)
        return after, label, {}

    return _write(frame, form, change)


def _write(frame, form, change, typed=None):
    """Run a change and store it, or say what is wrong with what was typed still there."""
    state = {}

    def run(document, said):
        after, label, more = change(document, said)
        state.update(more)
        return after, label

    def then(document):
        if state:
            state.update(view="", swatch="")
        if document.token(frame.extra.get("swatch", "")) is None:
            state["swatch"] = ""
        frame.extra = {name: value for name, value in (frame.extra | state).items() if value}
        return frame.here

    return frames.answer(
        frame,
        form,
        run,
        lambda problem, status: _room(frame, problem, typed, status),
        then,
    )


@requires("view")
@require_GET
def numbers(request, project):
    """The numbers of a point of the plot, as JSON, while it is moved."""
    said = request.GET
    try:
        found = plot.numbers(
            float(said.get("lightness", "")),
            float(said.get("chroma", "")),
            float(said.get("hue", "")),
            said.get("gamut", "srgb"),
        )
    except (ValueError, PrismError) as error:
        sentence = str(error) if isinstance(error, PrismError) else "That point is no color."
        return JsonResponse({"problem": sentence}, status=400)
    return JsonResponse(
        {
            "text": found.text,
            "hex": found.hex,
            "on_white": truncate_ratio(found.on_white),
            "on_black": truncate_ratio(found.on_black),
            "in_srgb": found.in_srgb,
            "in_p3": found.in_p3,
        }
    )


@requires("view")
@require_GET
def show_impact(request, project):
    """What another value of a raw color, or its removal, would change, in a few sentences."""
    loaded = store.load(project)
    said = request.GET
    key = said.get("token", said.get("on", ""))
    try:
        if said.get("removed"):
            after = drop_token(loaded.document, key, said.get("to", ""))
        else:
            after, _, _ = _with_color(loaded.document, key, said.get("value", "")[:2000])
        context = {
            "found": consequences(loaded.analysis.resolver, after),
            "document": loaded.document,
            "project": project,
        }
    except PrismError as error:
        context = {"problem": str(error)}
    return render(request, "palette/impact.html", context)
