"""Ideas: sets of named colors from words, held colors, the new scheme beside the present one."""

from django.http import HttpResponse
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from prism.analysis import Analysis
from prism.color import space
from prism.errors import PrismError
from prism.palette import ideas
from studio.accounts.permissions import requires
from studio.rooms import frame as frames
from studio.rooms.ideas import forms
from studio.rooms.stage import panes
from studio.standins.ideas import source
from studio.store import projects as store


@requires("view")
@require_GET
def room(request, project):
    """Words in, several sets of colors out; one of them looked at beside the present scheme."""
    return _room(*_enter(request, project))


def _enter(request, project):
    state = request.GET if request.method == "GET" else request.POST
    wish = forms.wish(state)
    frame = frames.enter(
        request,
        project,
        "palette",
        "ideas:room",
        words=wish.brief.words,
        held=forms.held_text(wish.brief.held),
        like=wish.brief.like,
        idea=wish.idea,
        **{f"plan-{role}": one for role, one in wish.plan.items()},
    )
    return frame, wish


def _room(frame, wish, problem="", status=200):
    found = ()
    if wish.brief.words.strip():
        try:
            found = source().ideas(wish.brief)
        except PrismError as error:
            problem, status = problem or str(error), 422 if status == 200 else status
    chosen = next((one for one in found if one.key == wish.idea), None)
    plan = ideas.plan(frame.document, chosen) | wish.plan if chosen else {}
    context = {
        "notice": source().notice,
        "wish": wish,
        "rows": [_row(frame, wish, one) for one in found],
        "held": [_held(frame, wish, one) for one in wish.brief.held],
        "present": _present(frame, wish),
        "chosen": chosen,
        "plan": [
            {
                "color": one,
                "hex": space.hex_text(one.color),
                "does": plan.get(one.role, ideas.LEAVE),
                "name": f"plan-{one.role}",
            }
            for one in (chosen.colors if chosen else ())
        ],
        "ramps": frame.document.ramps,
        "pane_query": frame.query(),
        "problem": problem,
    }
    return frames.show(frame, "ideas/room.html", context, status)


_NO_IDEA = {"idea": None, **{f"plan-{role}": None for role in ideas.ROLES}}


def _row(frame, wish, idea):
    held = {one.role for one in wish.brief.held}
    return {
        "idea": idea,
        "current": idea.key == wish.idea,
        "more": frame.query(**(_NO_IDEA | {"like": idea.key})),
        "look": frame.query(**(_NO_IDEA | {"idea": idea.key})),
        "colors": [
            {
                "color": one,
                "hex": space.hex_text(one.color),
                "held": one.role in held,
                "hold": frame.query(**_holding(wish, one)),
            }
            for one in idea.colors
        ],
    }


def _holding(wish, color):
    """The state with a color held, or let go where it was."""
    rest = [one for one in wish.brief.held if one.role != color.role]
    kept = rest if color in wish.brief.held else [*rest, color]
    return _NO_IDEA | {"held": forms.held_text(kept)}


def _held(frame, wish, color):
    return {
        "color": color,
        "hex": space.hex_text(color.color),
        "let_go": frame.query(**_holding(wish, color)),
    }


def _present(frame, wish):
    """Colors of the present scheme that can be held, by the role they play."""
    held = {one.role for one in wish.brief.held}
    return [
        {
            "color": one,
            "hex": space.hex_text(one.color),
            "hold": frame.query(**_holding(wish, one)),
        }
        for one in ideas.present(frame.document)
        if one.role not in held
    ]


def _taken(document, wish):
    """The document with the idea of a wish taken, and the idea."""
    found = source().ideas(wish.brief)
    chosen = next((one for one in found if one.key == wish.idea), None)
    if chosen is None:
        raise PrismError("That idea cannot be found again.", fix="Ask for ideas once more.")
    plan = ideas.plan(document, chosen) | wish.plan
    return ideas.take(document, chosen, plan, store.new_key), chosen


@requires("edit")
@require_POST
def take(request, project):
    """Store an idea: a ramp for each of its colors."""
    frame, wish = _enter(request, project)

    def change(document, said):
        after, chosen = _taken(document, wish)
        return after, f"Took the idea “{wish.brief.words[:60]}”, {chosen.title}"

    return frames.answer(
        frame,
        forms.TakeForm(request.POST),
        change,
        lambda *said: _room(frame, wish, *said),
        lambda _: frame.plain_url("palette:room"),
    )


@requires("view")
@require_GET
@panes.framed
def pane(request, project):
    """The scene painted by the document as it would be with an idea taken."""
    paint = reverse("ideas:paint", args=[project.code])
    return panes.show(request, project, f"{paint}?{request.GET.urlencode()}")


@requires("view")
@require_GET
def paint(request, project):
    """The style sheet of the document as it would be with an idea taken."""
    document = store.load(project).document
    try:
        document, _ = _taken(document, forms.wish(request.GET))
    except PrismError as error:
        return HttpResponse(str(error), content_type="text/plain; charset=utf-8", status=400)
    sheet = Analysis(document).stage_sheet
    response = HttpResponse(sheet, content_type="text/css; charset=utf-8")
    response["Cache-Control"] = "private, no-store"
    return response
