"""The Palette room: the raw colors as ramps."""

from django.views.decorators.http import require_GET

from prism.readings import palette
from prism.tokens.expressions import value_text
from studio.accounts.permissions import requires
from studio.rooms import frame as frames


@requires("view")
@require_GET
def room(request, project):
    """The raw colors, group by group."""
    frame = frames.enter(request, project, "palette", swatch=request.GET.get("swatch", "")[:200])
    strips = palette.strips(frame.resolver, frame.theme)
    context = {
        "ramps": strips,
        "heads": palette.shared_steps(strips),
        "measures": [
            (token, frame.resolver.resolve(token.key, frame.theme))
            for token in frame.document.tokens
            if token.tier == "raw" and token.type != "color"
        ],
        "chosen": _chosen(frame),
    }
    return frames.show(frame, "palette/room.html", context)


def _chosen(frame):
    """The swatch that the address names, and who refers to it."""
    token = frame.document.token(frame.extra.get("swatch", ""))
    if token is None or token.type != "color":
        return None
    return {
        "swatch": palette.swatch(frame.resolver, token, frame.theme),
        "users": palette.landing_on(frame.resolver, token.key, frame.theme),
        "stored": [value_text(value) for _, value in token.values],
    }
