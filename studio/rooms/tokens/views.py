"""The Tokens room: the sheet, one cell of it opened with its trace, and the page of a token."""

from urllib.parse import quote

from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from prism.changes import structure
from prism.changes import values as edit
from prism.compare.rows import condition_from, condition_text
from prism.errors import PrismError
from prism.expressions import typed_input
from prism.expressions.values import decode
from prism.model.document import BASE, TIERS, Condition, shown_path
from prism.model.names import condition_words
from prism.view_models import completion, filters, sheet, tokens, trace
from prism.view_models.consequences import consequences
from studio.accounts.permissions import requires
from studio.numbers import whole
from studio.rooms import frame as frames
from studio.rooms.tokens import cells
from studio.rooms.tokens.forms import CellForm, DescribeForm
from studio.store import projects as store


@requires("view")
@require_GET
def room(request, project):
    """The sheet, with the cell that the address names open below it."""
    return _room(enter(request, project))


def enter(request, project):
    """The frame of the sheet, with everything its address says."""
    state = request.GET if request.method == "GET" else request.POST
    asked = {
        name: state.get(name, "")[:200] for name in ("type", "tier", "group", "state", "since")
    }
    return frames.enter(
        request,
        project,
        "tokens",
        columns=state.get("columns", "")[:200],
        find=state.get("find", "")[:100],
        cell=state.get("cell", "")[:500],
        folded=state.get("folded", "")[:2000],
        view="page" if state.get("view") == "page" else "",
        trace="off" if state.get("trace") == "off" else "",
        **asked,
    )


def axis_of(frame):
    """The axis whose modes are the columns."""
    first = frame.document.axes[0] if frame.document.axes else None
    return frames.axis_called(frame, frame.extra.get("columns")) or first


def _asked(frame):
    said = frame.extra.get
    since = said("since", "")
    changed = frozenset()
    if said("state") == "changed":
        revision = whole(since, max(frame.loaded.revision - 20, 0))
        changed = frozenset(store.changed_since(frame.project, revision))
    return filters.Filter(
        said("find", ""), said("type", ""), said("tier", ""), said("group", ""), said("state", ""),
        changed,
    )  # fmt: skip


def _chosen(frame, axis):
    asked = _asked(frame)
    if not asked.asks:
        return frame.document.tokens
    themes = [theme for _, theme in sheet.columns(frame.resolver, axis, frame.theme)]
    return filters.choose(frame.resolver, asked, themes)


def _slugs(frame, axis):
    _, modes = frames.names_of(frame.loaded)
    return {mode.key: modes[axis.key, mode.key] for mode in axis.modes} if axis else {}


def _room(frame, typed=None, problem=None, clash=None, status=200):
    axes, _ = frames.names_of(frame.loaded)
    axis = axis_of(frame)
    chosen = _chosen(frame, axis)
    folded = tuple(one for one in frame.extra.get("folded", "").split("~") if one)
    opened = {frame.extra.get("cell", "").partition(":")[0], frame.request.headers.get("X-Focus")}
    blocks = sheet.blocks(frame.resolver, axis, frame.theme, chosen, folded=folded, always=opened)
    source = _source(frame)
    context = {
        "source": source,
        "axis": axis,
        "heads": sheet.columns(frame.resolver, axis, frame.theme),
        "blocks": _blocks(frame, axis, blocks, folded, source),
        "count": len(chosen),
        "find": frame.extra.get("find", ""),
        "asked": _asked(frame),
        "states": filters.STATES,
        "types": frame.analysis.types,
        "tiers": TIERS,
        "groups": frame.analysis.groups,
        "axis_slugs": axes,
        "ramps": frame.document.ramps,
        "current_mode": axis.modes[frame.theme[frame.resolver.axis_index[axis.key]]].key
        if axis
        else "",
        "editor": _editor(frame, axis, typed, problem, clash),
        "problem": problem,
        "typed": typed,
    }
    return frames.show(frame, "tokens/room.html", context, status)


def _source(frame):
    """What the address begins with that rows come from when they come into sight."""
    source = reverse("tokens:rows", args=[frame.project.code])
    rest = frame.query(cell=None, view=None)
    return f"{source}{rest}&" if rest else f"{source}?"


def _blocks(frame, axis, blocks, folded, source):
    """The markup of blocks of rows."""
    columns = 1 + (len(axis.modes) if axis else 1)
    found, tier = [], ""
    for block in blocks:
        first = quote(block.tokens[0].key) if block.tokens else ""
        found.append(
            cells.block(
                block,
                _markup(frame, axis, block.lines),
                heads_tier=block.first and block.tier != tier,
                columns=columns,
                fold=_fold(frame, folded, block.name) if block.first else "",
                source=f"{source}from={first}&count={len(block.tokens)}" if block.later else "",
            )
        )
        tier = block.tier
    return found


def _fold(frame, folded, name):
    """The address with a group folded, or unfolded again."""
    rest = [one for one in folded if one != name]
    now = rest if name in folded else [*rest, name]
    return frame.query(folded="~".join(now) or None) or "?"


@requires("view")
@require_GET
def rows(request, project):
    """Rows of the sheet that come into sight, from one token on."""
    frame = enter(request, project)
    axis = axis_of(frame)
    ordered = sheet.in_order(_chosen(frame, axis))
    first = request.GET.get("from", "")
    start = next((i for i, one in enumerate(ordered) if one.key == first), len(ordered))
    count = min(whole(request.GET.get("count", ""), sheet.LATER), sheet.LATER)
    context = {
        "lines": _markup(
            frame,
            axis,
            sheet.lines(frame.resolver, axis, frame.theme, ordered[start : start + count]),
        ),
    }
    return render(request, "tokens/rows.html", context)


def _markup(frame, axis, lines):
    rest = frame.query(cell=None, view=None)
    opened = frame.extra.get("cell", "")
    base, slugs = f"{rest}&" if rest else "?", _slugs(frame, axis)
    return [cells.markup(line, slugs, base, opened) for line in lines]


def _editor(frame, axis, typed, problem, clash):
    """What the opened cell shows, or None."""
    key, _, slug = frame.extra.get("cell", "").partition(":")
    token = frame.document.token(key)
    if token is None:
        return None
    slugs = _slugs(frame, axis)
    mode, theme = next(
        (
            (mode, theme)
            for mode, theme in sheet.columns(frame.resolver, axis, frame.theme)
            if mode is not None and slugs[mode.key] == slug
        ),
        (None, frame.theme),
    )
    cell = sheet.cell(frame.resolver, token, axis, mode, theme)
    target = edit.cell_condition(frame.resolver, key, axis.key, mode.key, theme) if mode else BASE
    stored = token.value(target)
    found = {
        "cell": cell,
        "token": token,
        "mode": mode,
        "axis": axis,
        "typed": typed_input.typed(cell.value) if typed is None else typed,
        "problem": problem,
        "clash": clash,
        "conditions": _conditions(frame, token, target, axis, mode),
        "clearable": stored is not None and (target != BASE or len(token.values) > 1),
        "picture": trace.picture(frame.resolver, key, theme),
        "others": tokens.landing_beside(frame.resolver, key, theme),
        "influence": [frame.document.axis(one).name for one in frame.resolver.influence(key)],
        "cell_id": f"{key}:{slug}",
        "slug": slug,
        "is_reference": token.type == "color",
    }
    if frame.extra.get("view") == "page":
        found |= {
            "page": tokens.page(frame.resolver, token),
            "history": store.history(frame.project, key),
        }
    return found


def _conditions(frame, token, target, axis, mode):
    """Where a value may go: what the cell proposes, what is there, base and this mode."""
    offered = [target, *(held for held, _ in token.values), BASE]
    if axis is not None and mode is not None:
        offered.append(Condition(((axis.key, mode.key),)))
    return [
        {
            "text": condition_text(one),
            "words": condition_words(frame.document, one),
            "stored": token.value(one) is not None,
        }
        for one in dict.fromkeys(offered)
    ]


@requires("edit")
@require_POST
def store_cell(request, project):
    """Store or clear the value of a cell, or let the one stand that somebody else stored."""
    frame = enter(request, project)
    form = CellForm(request.POST)
    if not form.is_valid():
        problem = f"Nothing was stored. {frames.problems(form)}"
        return _room(frame, problem=problem, status=400)
    said = form.cleaned_data | {"picks": form.picks(), "place": _place(frame, form.cleaned_data)}
    try:
        if said["keep"]:
            _keep(frame, said)
        else:
            frames.write(frame, said["revision"], lambda document: _change(document, said))
    except store.ClashError as error:
        project.refresh_from_db()
        fresh = _opened(enter(request, project), said)
        return _room(fresh, said["value"], str(error), _both(error), 409)
    except PrismError as error:
        return _room(_opened(frame, said), typed=said["value"], problem=str(error), status=422)
    return frames.stored(frame, lambda: _room(enter(request, project)))


def _place(frame, said):
    """The axis and the modes of the column that something was typed into."""
    axis = axis_of(frame)
    picks = frame.resolver.picks(frame.theme)
    if axis is not None and said["mode"]:
        picks[axis.key] = said["mode"]
    return (axis.key if axis else ""), picks


def _opened(frame, said):
    """The frame with the cell open that something was typed into."""
    if said["typed"]:
        slug = _slugs(frame, axis_of(frame)).get(said["mode"], "")
        frame.extra["cell"] = f"{said['token']}:{slug}"
    return frame


def _keep(frame, said):
    token = frame.document.token(said["token"])
    condition = _condition(frame.document, said)
    stored = token.value(condition) if token else None
    if stored is None:
        raise PrismError("That value is no longer there.")
    label = (
        f"Kept {typed_input.typed(stored)[:60]} over {said['value'].strip()[:60]} in "
        f"{shown_path(token.path)} for {condition_words(frame.document, condition)}"
    )
    store.note_kept(frame.project, frame.request.user, token.key, condition, label)


def _both(error):
    """Both values of a cell that two people changed, or None for another clash."""
    one = error.clashes[0]
    if one.kind != "value" or one.mine is None or one.theirs is None:
        return None
    mine, theirs = (
        decode(side["text"] if isinstance(side, dict) else side) for side in (one.mine, one.theirs)
    )
    return {
        "mine": typed_input.typed(mine),
        "theirs": typed_input.typed(theirs),
        "who": error.who(one),
    }


def _condition(document, said):
    if said["condition"] == "chosen":
        return Condition.of(said["picks"])
    if said["condition"] == "cell":
        axis, picks = said["place"]
        return edit.condition_in_column(document, said["token"], axis, picks)
    return condition_from(said["condition"])


def _change(document, said):
    token = document.token(said["token"])
    if token is None:
        raise PrismError("That token is no longer there.")
    condition = _condition(document, said)
    path = shown_path(token.path)
    if said["clear"]:
        after = edit.clear_value(document, token.key, condition)
        label = f"Cleared {path}"
    else:
        value = typed_input.read_typed(document, said["value"], token)
        after = edit.set_value(document, token.key, condition, value)
        label = f"Set {path} to {typed_input.typed(value)[:60]}"
    return after, f"{label} for {condition_words(document, condition)}"


@requires("view")
@require_GET
def shelf(request, project):
    """The ramps and the named colors of CSS, to pick a value from."""
    loaded = store.load(project)
    theme = frames.read_theme(loaded, request.GET.get("theme", ""))
    return render(
        request, "tokens/shelf.html", {"rows": tokens.shelf(loaded.analysis.resolver, theme)}
    )


@requires("view")
@require_GET
def show_impact(request, project):
    """What a value typed into a cell comes to and would change, before it is stored."""
    loaded = store.load(project)
    theme = frames.read_theme(loaded, request.GET.get("theme", ""))
    form = CellForm(request.GET)
    context = {"document": loaded.document, "project": project}
    if not form.is_valid():
        return render(request, "palette/impact.html", context | {"problem": "Type a value."})
    said = form.cleaned_data | {"picks": form.picks(), "clear": False}
    try:
        after, _ = _change(loaded.document, said)
        context |= {
            "result": tokens.result(after, said["token"], _condition(loaded.document, said), theme),
            "found": consequences(loaded.analysis.resolver, after),
        }
    except PrismError as error:
        context["problem"] = str(error)
    return render(request, "palette/impact.html", context)


@requires("edit")
@require_POST
def describe(request, project):
    """Store what is said of a token beside its values."""
    frame = enter(request, project)

    def change(document, said):
        token = document.token(said["token"])
        if token is None:
            raise PrismError("That token is no longer there.")
        after = structure.describe_token(
            document,
            token.key,
            path=said["path"],
            description=said["description"],
            uses=said["uses"],
            export_name=said["export_name"],
            private=said["private"],
            deprecated=said["deprecated"] if said["is_deprecated"] else None,
        )
        return after, f"Described {shown_path(token.path)}"

    def refuse(problem, status):
        return _room(frame, problem=problem, status=status)

    return frames.answer(frame, DescribeForm(request.POST), change, refuse)


@requires("view")
@require_GET
def complete(request, project):
    """Tokens that fit what is being typed, as a list of options."""
    loaded = store.load(project)
    token = loaded.document.token(request.GET.get("token", ""))
    theme = frames.read_theme(loaded, request.GET.get("theme", ""))
    typed = request.GET.get("q", "")[:200]
    options = (
        completion.complete(loaded.document, typed, token, resolver=loaded.analysis.resolver)
        if token
        else []
    )
    context = {
        "options": [
            {"option": option, "answer": loaded.analysis.resolver.resolve(option.token.key, theme)}
            for option in options
        ]
    }
    return render(request, "tokens/options.html", context)
