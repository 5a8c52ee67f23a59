"""The scenes that ship: each a template with slots, rendered for a project by its name."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from django.template.loader import render_to_string

from prism.formats import scene_css
from prism.roles import by_slot
from prism.view_models.scenes import SceneRead, read_scene
from studio.rooms.stage.words import DEMO, words_for


@dataclass(frozen=True, slots=True)
class Shipped:
    """A scene: its id, its title, and the width it is made for."""

    id: str
    title: str
    width: str = "desktop"

    @property
    def template(self) -> str:
        """The template of its body."""
        return f"stage/scenes/{self.id}.html"


_WIDTHS = {"wallet": "phone"}
SCENES = tuple(
    Shipped(name, name.capitalize(), _WIDTHS.get(name, "desktop")) for name in by_slot.SCENES
)
BY_ID = {scene.id: scene for scene in SCENES}
#: A small scene for previews beside other things.
SAMPLE = "stage/scenes/sample.html"


@lru_cache(maxsize=64)
def markup(id: str, name: str) -> str:
    """The body of a scene in a project of this name."""
    return render_to_string(BY_ID[id].template, words_for(name) | {"carrier": name})


@lru_cache(maxsize=64)
def scene_of(id: str, name: str) -> SceneRead:
    """What is read off a scene."""
    return read_scene(markup(id, name))


def rules() -> str:
    """The rules that paint all slots of all scenes: the file ``slots.css``."""
    uses: set[tuple[str, str, str]] = set()
    bodies = [markup(scene.id, DEMO) for scene in SCENES]
    for body in (*bodies, render_to_string(SAMPLE)):
        for use in read_scene(body).uses:
            uses.add((use.state, use.paint, use.slot.removeprefix("copy-")))
    head = "/* Made by ./dev slots of the templates of the scenes. */\n"
    return head + scene_css.rules(uses)
