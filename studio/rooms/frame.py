"""The frame around every room: the route, the theme bar, the theme being looked at."""

from dataclasses import dataclass, field
from urllib.parse import urlencode

from django.core.exceptions import NON_FIELD_ERRORS
from django.forms import FileField
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.http import url_has_allowed_host_and_scheme

from prism.errors import PrismError
from studio.store import projects as store

ROOMS = (
    (1, "palette", "Palette"),
    (2, "tokens", "Tokens"),
    (3, "stage", "Stage"),
    (4, "checks", "Checks"),
    (6, "exchange", "Exchange"),
)
OPEN_WIDTH = 620


@dataclass
class Frame:
    """A project as one person looks at it: its document, and a theme."""

    request: object
    project: object
    room: str
    loaded: object
    theme: tuple
    kept: tuple | None
    extra: dict = field(default_factory=dict)
    address: str = ""

    @property
    def analysis(self):
        return self.loaded.analysis

    @property
    def document(self):
        return self.loaded.document

    @property
    def resolver(self):
        return self.analysis.resolver

    @property
    def theme_text(self):
        """The theme as it stands in URLs."""
        return theme_text(self.loaded, self.theme)

    def query(self, **changes):
        """The query that keeps this state, with ``changes``; None takes a member out."""
        return self._query(self.extra, changes)

    @property
    def state(self):
        """What of this look at the project stands in its address, by name."""
        return self._state(self.extra, {})

    def _query(self, extra, changes):
        plain = self._state(extra, changes)
        return f"?{urlencode(plain)}" if plain else ""

    def _state(self, extra, changes):
        kept = None
        if self.kept is not None:
            kept = theme_text(self.loaded, self.kept) or "base"
        state = {"theme": self.theme_text, "kept": kept, **extra, **changes}
        return {name: value for name, value in state.items() if value not in (None, "")}

    def plain_url(self, name, **changes):
        """The address of a view of this project that keeps only the themes looked at."""
        return reverse(name, args=[self.project.code]) + self._query({}, changes)

    @property
    def kept_text(self):
        """The present theme as it is written when it is kept; ``base`` for all defaults."""
        return self.theme_text or "base"

    @property
    def here(self):
        """The address of this very page, or of the page whose form was sent."""
        if self.request.method == "POST":
            return reverse(self.address, args=[self.project.code]) + self.query()
        return self.request.get_full_path()


def names_of(loaded):
    """Slugs of axes and modes."""
    return loaded.analysis.axis_names, loaded.analysis.mode_names


def axis_called(frame, slug):
    """The axis with this slug, or None."""
    axes, _ = names_of(frame.loaded)
    return next((one for one in frame.document.axes if axes[one.key] == slug), None)


def theme_text(loaded, theme):
    """A theme for URLs; axes in their default mode are left out."""
    axes, modes = names_of(loaded)
    return ",".join(
        f"{axes[axis.key]}:{modes[axis.key, axis.modes[theme[i]].key]}"
        for i, axis in enumerate(loaded.document.axes)
        if axis.modes[theme[i]].key != axis.default
    )


def read_theme(loaded, text):
    """The theme that ``theme_text`` wrote; what is unknown in it is passed over."""
    axes, modes = names_of(loaded)
    by_axis = {slug: key for key, slug in axes.items()}
    by_mode = {(axis, slug): mode for (axis, mode), slug in modes.items()}
    picks = {}
    for part in text.split(","):
        axis, _, slug = part.partition(":")
        mode = by_mode.get((by_axis.get(axis), slug))
        if mode is not None:
            picks[by_axis[axis]] = mode
    return loaded.analysis.resolver.theme(picks)


def enter(request, project, room, address="", **extra):
    """The frame for a request; ``extra`` is more state to keep in URLs.

    ``address`` is the name of the page that forms come back to, the room's own without it.
    """
    loaded = store.load(project)
    state = request.GET if request.method == "GET" else request.POST
    kept = state.get("kept")
    return Frame(
        request,
        project,
        room,
        loaded,
        read_theme(loaded, state.get("theme", "")),
        read_theme(loaded, kept) if kept is not None else None,
        {name: value for name, value in extra.items() if value not in (None, "")},
        address or f"{room}:room",
    )


def write(frame, revision, change):
    """Store what ``change`` makes of the document; it returns the document and the label.

    ``change`` is given the document at ``revision``, the one that the form was made from; what
    others have stored since is merged with it. Returns the document stored, and lets every
    ``PrismError`` through.
    """
    before = store.at(frame.project, revision)
    after, label = change(before.document)
    stored = store.save(frame.project, before, after, frame.request.user, label)
    return stored.document


def answer(frame, form, change, refuse, then=None):
    """The response to a form that changes the document.

    ``change(document, said)`` returns the document and the label; ``refuse(sentence, status)``
    shows what is wrong; ``then(document)`` says where to go once it is stored, back to the page
    without.
    """
    if not form.is_valid():
        return refuse(f"Nothing was stored. {problems(form)}", 400)
    said = form.cleaned_data
    try:
        document = write(frame, said["revision"], lambda document: change(document, said))
    except PrismError as error:
        return refuse(str(error), 422)
    return redirect(then(document) if then else frame.here)


def problems(form):
    """What is wrong with a form, field by field; files say for themselves what they are."""
    found = []
    for name, errors in form.errors.items():
        plain = isinstance(form.fields.get(name), FileField) or name == NON_FIELD_ERRORS
        found += [one if plain else f"{name}: {one}" for one in errors]
    return " ".join(found)


def stored(frame, page):
    """The response where the form of a page was stored: ``page()`` at once where its region was
    asked for, which spares the second request, and the way to the page elsewhere."""
    if not wants_region(frame.request):
        return redirect(frame.here)
    response = page()
    response["X-Address"] = frame.here
    return response


def wants_region(request):
    """Whether the region of a room is asked for and not the whole page."""
    return request.headers.get("X-Region") == "room"


def show(frame, template, context=None, status=200):
    """Render a room: the whole page, or its region alone where that was asked for."""
    fragment = wants_region(frame.request)
    full = {"frame": frame, "project": frame.project, "document": frame.document}
    full |= {"room_template": template, "route": route(frame), "theme_bar": theme_bar(frame)}
    full |= {
        "undoable": store.undoable(frame.project, frame.request.user),
        "redoable": store.redoable(frame.project, frame.request.user),
    }
    name = "ui/region.html" if fragment else "ui/room.html"
    response = render(frame.request, name, full | (context or {}), status=status)
    response["Vary"] = "X-Region, Cookie"
    if fragment:
        response["X-Region"] = "room"
    response["Cache-Control"] = "no-store"
    return response


def route(frame):
    """The rooms with their addresses and live counts."""
    counts = frame.analysis.counts
    return [
        {
            "number": number,
            "title": title,
            "count": counts.get(name, ""),
            "url": frame.plain_url(f"{name}:room"),
            "current": name == frame.room,
        }
        for number, name, title in ROOMS
    ]


def theme_bar(frame):
    """The axes with their modes, each with a three-part sample; as many open as fit."""
    slots = frame.analysis.guessed
    sampled = [slots.get(name) for name in ("page", "ink", "action")]
    bar, used = [], 0
    for i, axis in enumerate(frame.document.axes):
        width = 30 + max(sum(42 + 7 * len(mode.name) for mode in axis.modes), 7 * len(axis.name))
        used += width
        modes = []
        for position, mode in enumerate(axis.modes):
            theme = (*frame.theme[:i], position, *frame.theme[i + 1 :])
            modes.append(
                {
                    "mode": mode,
                    "current": position == frame.theme[i],
                    "url": frame.query(theme=theme_text(frame.loaded, theme)) or "?",
                    "sample": _sample(frame.resolver, sampled, theme),
                }
            )
        bar.append({"axis": axis, "modes": modes, "open": used <= OPEN_WIDTH or i == 0})
    return bar


def _sample(resolver, keys, theme):
    colors = [resolver.resolve(key, theme).hex[:7] if key else "" for key in keys]
    return colors if any(colors) else []


def back_to(request, project):
    """Go back to the page a form stood on, or to the project."""
    target = request.POST.get("next", "")
    allowed = url_has_allowed_host_and_scheme(target, {request.get_host()}, request.is_secure())
    if allowed and target.startswith("/"):  # a word alone would be the name of a view
        return redirect(target)
    return redirect("open", project.code)
