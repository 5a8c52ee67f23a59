"""Many cells at once: bulk acts, pasting, the ladder, and linking literals to the palette."""

from django.contrib import messages
from django.shortcuts import redirect
from django.views.decorators.http import require_GET, require_POST

from prism.changes import linking, structure
from prism.derive import bulk as bulk_edits
from prism.derive import mapping, pasting
from prism.errors import EditError
from prism.expressions.typed_input import reference_to
from prism.model.document import BASE, shown_path
from prism.model.names import condition_words
from prism.resolution.resolver import Resolver
from prism.view_models import ladder as ladders
from studio.accounts.permissions import requires
from studio.rooms import frame as frames
from studio.rooms.mapping import forms
from studio.rooms.mapping.acts import act
from studio.rooms.tokens import views as tokens_room


@requires("edit")
@require_POST
def bulk(request, project):
    """Do one thing to many cells or tokens."""
    frame, axis, form = _cells_form(request, project)
    axis_key = axis.key if axis else ""

    def change(document, said):
        resolver = Resolver(document)
        cells = mapping.places(resolver, form.tokens(), axis_key, form.modes(), frame.theme)
        return act(resolver, form.tokens(), cells, said | {"axis": axis_key, "theme": frame.theme})

    return _done(frame, form, change)


@requires("edit")
@require_POST
def paste(request, project):
    """Paste text onto a range of the sheet, or values with names onto a column."""
    frame, axis, form = _cells_form(request, project)
    modes = form.modes() or [""]
    axis_key = axis.key if axis else ""

    def change(document, said):
        resolver = Resolver(document)
        found = pasting.named(document, said["text"])
        if found is not None:
            keys = [token.key for token, _ in found.values]
            cells = mapping.places(resolver, keys, axis_key, modes[:1], frame.theme)
            done = pasting.by_name(document, {cell.token.key: cell for cell in cells}, found)
        else:
            rows = [
                mapping.places(resolver, [key], axis_key, modes, frame.theme)
                for key in form.tokens()
            ]
            done = pasting.onto(document, rows, said["text"])
        count = len(form.tokens()) if found is None else len(found.values)
        return done, f"Pasted onto {count} token{'' if count == 1 else 's'}"

    return _done(frame, form, change)


@requires("edit")
@require_POST
def rename_group(request, project):
    """Give a group another path; everything that refers to its tokens follows."""
    frame = tokens_room.enter(request, project)
    form = forms.GroupForm(request.POST)

    def change(document, said):
        old, new = said["group"].strip(), said["path"].strip()
        return structure.rename_group(document, old, new), f"Renamed the group {old} to {new}"

    def then(document):
        frame.extra["group"] = form.cleaned_data["path"].strip().split(".", 1)[0]
        return frame.here

    return frames.answer(frame, form, change, _say_and_go_back(frame), then)


def _say_and_go_back(frame):
    def refuse(problem, status):
        messages.error(frame.request, problem)
        return redirect(frame.here)

    return refuse


def _cells_form(request, project):
    frame = tokens_room.enter(request, project)
    return frame, tokens_room.axis_of(frame), forms.CellsForm(request.POST)


def _done(frame, form, change):
    """Store what ``change`` did and say it, or say why not."""
    found = []

    def run(document, said):
        done, label = change(document, said)
        found.append((done, label))
        return done.document, label

    def then(document):
        done, label = found[-1]
        said = f"{label}: {done.changed} value{'' if done.changed == 1 else 's'} changed."
        messages.success(frame.request, f"{said} {bulk_edits.skipped_words(done)}".strip())
        return frame.here

    return frames.answer(frame, form, run, _say_and_go_back(frame), then)


@requires("view")
@require_GET
def ladder(request, project):
    """The ramps as ladders, with the tokens of each mode as marks on their steps."""
    return _ladder(_enter_ladder(request, project))


def _enter_ladder(request, project):
    state = request.GET if request.method == "GET" else request.POST
    return frames.enter(
        request,
        project,
        "tokens",
        "mapping:ladder",
        columns=state.get("columns", "")[:200],
        group=state.get("group", "")[:200],
    )


def _ladder(frame, problem="", status=200):
    axes, _ = frames.names_of(frame.loaded)
    axis = tokens_room.axis_of(frame)
    context = {
        "axis": axis,
        "axis_slugs": axes,
        "groups": ladders.groups(frame.document),
        "ladders": ladders.ladders(frame.resolver, axis, frame.theme, frame.extra.get("group", "")),
        "problem": problem,
    }
    return frames.show(frame, "mapping/ladder.html", context, status)


@requires("edit")
@require_POST
def move_mark(request, project):
    """Set a token on another step in one mode."""
    frame = _enter_ladder(request, project)
    axis = tokens_room.axis_of(frame)
    form = forms.MarkForm(request.POST)

    def change(document, said):
        resolver = Resolver(document)
        target = document.token(said["step"])
        if target is None:
            raise EditError("That step is no longer there.")
        modes = [said["mode"]] if said["mode"] else []
        cells = mapping.places(
            resolver, [said["token"]], axis.key if modes and axis else "", modes, frame.theme
        )
        text = reference_to(document, target).text
        done = mapping.put(document, cells, text)
        return done.document, f"Set {shown_path(cells[0].token.path)} on {shown_path(target.path)}"

    return frames.answer(frame, form, change, lambda *said: _ladder(frame, *said))


@requires("view")
@require_GET
def link(request, project):
    """Raw literals and the palette colors that could stand in their place."""
    return _link(frames.enter(request, project, "tokens", "mapping:link"))


def _link(frame, problem="", status=200):
    proposal = linking.propose(frame.document)
    document = frame.document
    context = {
        "rows": [
            {
                "number": number,
                "link": one,
                "token": document.token(one.token),
                "target": document.token(one.target),
                "hex": frame.resolver.resolve(one.target, frame.theme).hex,
                "words": "" if one.condition == BASE else condition_words(document, one.condition),
            }
            for number, one in enumerate(proposal.links)
        ],
        "unmatched": [
            {
                "token": document.token(one.token),
                "text": one.text,
                "color": one.color,
                "words": "" if one.condition == BASE else condition_words(document, one.condition),
            }
            for one in proposal.unmatched
        ],
        "raw_groups": linking.raw_groups(document),
        "problem": problem,
    }
    return frames.show(frame, "mapping/link.html", context, status)


@requires("edit")
@require_POST
def store_tier(request, project):
    """Say which groups of literals are semantic, and so may refer to the palette."""
    frame = frames.enter(request, project, "tokens", "mapping:link")
    form = forms.TierForm(request.POST)
    groups = form.groups()

    def change(document, said):
        if not groups:
            raise EditError("No group is ticked.")
        for group in groups:
            document = bulk_edits.group_tier(document, group, said["tier"]).document
        return document, f"Made {', '.join(groups)[:120]} {said['tier']}"

    return frames.answer(frame, form, change, lambda *said: _link(frame, *said))


@requires("edit")
@require_POST
def store_links(request, project):
    """Store the links that were accepted."""
    frame = frames.enter(request, project, "tokens", "mapping:link")
    form = forms.LinksForm(request.POST)
    accepted = form.accepted()

    def change(document, said):
        links = [
            one for number, one in enumerate(linking.propose(document).links) if number in accepted
        ]
        if not links:
            raise EditError("No link is ticked.")
        after = linking.link(document, links)
        return after, f"Linked {len(links)} literal{'' if len(links) == 1 else 's'} to the palette"

    return frames.answer(frame, form, change, lambda *said: _link(frame, *said))
