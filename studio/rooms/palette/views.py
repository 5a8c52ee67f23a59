"""The Palette room: the raw colors as ramps."""

from dataclasses import dataclass

from django.views.decorators.http import require_GET

from prism.color import space
from prism.color.contrast import contrast_ratio, cut
from prism.tokens.model import shown_path
from studio.accounts.permissions import requires
from studio.rooms import frame as frames


@dataclass(frozen=True)
class Swatch:
    """One raw color as it is in the theme looked at."""

    token: object
    answer: object
    name: str
    on_white: str
    on_black: str
    ink: str


@dataclass(frozen=True)
class Ramp:
    """A group of raw colors in order."""

    name: str
    swatches: tuple

    @property
    def steps(self):
        """The names of its steps."""
        return tuple(one.name for one in self.swatches)


@requires("view")
@require_GET
def room(request, project):
    """The raw colors, group by group."""
    frame = frames.enter(request, project, "palette", swatch=request.GET.get("swatch", "")[:200])
    ramps = _ramps(frame)
    heads = _shared_steps(ramps)
    context = {
        "ramps": ramps,
        "heads": heads,
        "measures": [
            (token, frame.resolver.resolve(token.key, frame.theme))
            for token in frame.document.tokens
            if token.tier == "raw" and token.type != "color"
        ],
        "chosen": _chosen(frame),
    }
    return frames.show(frame, "palette/room.html", context)


def _ramps(frame):
    groups = {}
    for token in frame.document.tokens:
        if token.tier == "raw" and token.type == "color":
            groups.setdefault(token.group, []).append(_swatch(frame, token))
    return [Ramp(name, tuple(swatches)) for name, swatches in groups.items()]


def _swatch(frame, token):
    answer = frame.resolver.resolve(token.key, frame.theme)
    name = shown_path(token.path).rpartition(".")[2]
    if answer.color is None:
        return Swatch(token, answer, name, "", "", "clear")
    red, green, blue, alpha = space.rgba8(answer.color)
    rgb = (red / 255, green / 255, blue / 255)
    white = float(contrast_ratio(rgb, (1, 1, 1)))
    black = float(contrast_ratio(rgb, (0, 0, 0)))
    ink = "clear" if alpha < 1 else "dark-text" if black > white else "light-text"
    return Swatch(token, answer, name, cut(white), cut(black), ink)


def _shared_steps(ramps):
    """The step names of the longest ramp, where at least two ramps have them all."""
    lists = [ramp.steps for ramp in ramps]
    longest = max(lists, key=len, default=())
    return longest if len(longest) > 2 and lists.count(longest) > 1 else ()


def _chosen(frame):
    """The swatch that the address names, and who refers to it."""
    token = frame.document.token(frame.extra.get("swatch", ""))
    if token is None or token.type != "color":
        return None
    users = [
        other
        for other in frame.document.tokens
        if other.key != token.key
        and any(hop.token == token.key for hop in frame.resolver.trace(other.key, frame.theme))
    ]
    return {
        "swatch": _swatch(frame, token),
        "users": users,
        "stored": [text for _, value in token.values if (text := getattr(value, "text", ""))],
    }
