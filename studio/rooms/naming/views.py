"""Names by scheme: an ordered list of parts gives a matrix of names; what is not needed is struck."""

from django.views.decorators.http import require_GET, require_POST

from prism.derive import naming
from prism.errors import EditError
from studio.accounts.permissions import requires
from studio.rooms import frame as frames
from studio.rooms.naming import forms
from studio.store import projects as store


@requires("view")
@require_GET
def room(request, project):
    """A scheme with its names, those that are there marked."""
    return _room(_enter(request, project))


def _enter(request, project, **changes):
    state = request.GET if request.method == "GET" else request.POST
    extra = {"scheme": state.get("scheme", "")[:200]} | changes
    return frames.enter(request, project, "tokens", "naming:room", **extra)


def _schemes(document):
    """The document's own schemes, then those to start from that it has none in place of."""
    own = {one.key for one in document.schemes}
    return [*document.schemes, *(one for one in naming.STARTING if one.key not in own)]


def _room(frame, problem="", lines=None, name="", chosen=None, status=200):
    schemes = _schemes(frame.document)
    wanted = frame.extra.get("scheme", "")
    scheme = next((one for one in schemes if one.key == wanted), schemes[0])
    found = naming.names(frame.document, scheme)
    parts = lines or [(part, " ".join(words)) for part, words in scheme.parts]
    padded = [*parts, *[("", "")] * (forms.MOST_PARTS - len(parts))]
    context = {
        "schemes": schemes,
        "scheme": scheme,
        "own": any(one.key == scheme.key for one in frame.document.schemes),
        "name": name or scheme.name,
        "parts": [
            {"number": number, "part": part, "words": words, "shown": number < len(parts) + 1}
            for number, (part, words) in enumerate(padded)
        ],
        "names": [
            {"name": one, "struck": chosen is not None and one.path not in chosen} for one in found
        ],
        "fresh": sum(not one.there for one in found),
        "problem": problem,
    }
    return frames.show(frame, "naming/room.html", context, status)


@requires("edit")
@require_POST
def store_scheme(request, project):
    """Keep a scheme with the project."""
    frame = _enter(request, project)
    form = forms.SchemeForm(request.POST)

    def change(document, said):
        own = any(one.key == said["scheme"] for one in document.schemes)
        key = said["scheme"] if own else store.new_key()
        scheme = naming.read(said["name"], form.lines(), key)
        frame.extra["scheme"] = key
        return naming.store(document, scheme), f"Kept the scheme {scheme.name}"

    def refuse(problem, status):
        lines = [one for one in form.lines() if any(one)]
        return _room(frame, problem, lines, form.data.get("name", "")[:120], status=status)

    return frames.answer(frame, form, change, refuse)


@requires("edit")
@require_POST
def add_names(request, project):
    """Make tokens of the names that are not struck."""
    frame = _enter(request, project)
    form = forms.NamesForm(request.POST)
    chosen = form.chosen()

    def change(document, said):
        scheme = next((one for one in _schemes(document) if one.key == said["scheme"]), None)
        if scheme is None:
            raise EditError("That scheme is no longer there.")
        before = len(document.tokens)
        after = naming.add(document, scheme, chosen, store.new_key)
        return after, f"Made {len(after.tokens) - before} tokens by the scheme {scheme.name}"

    def refuse(problem, status):
        return _room(frame, problem, chosen=chosen, status=status)

    return frames.answer(frame, form, change, refuse, lambda _: frame.plain_url("tokens:room"))
