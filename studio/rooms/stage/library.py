"""The scenes of the Stage: those that ship, each a template with slots, those that a project has made of pieces, and a
plain card; rendered for a project by its name."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from django.template.loader import render_to_string

from prism.formats import scene_css
from prism.model.document import Document
from prism.roles import by_slot
from prism.scenes.commands import PIECES, pieces_of
from prism.scenes.markup import SceneRead, read_scene
from studio.rooms.stage.words import DEMO, words_for

#: The id of the plain card, and its slots, which take any tokens.
CARD = "card"
JUDGED = ("judge-ink", "judge-fill", "judge-page")
_OWN = "own-"


@dataclass(frozen=True, slots=True)
class Shown:
    """A scene: its id, its title, the width it is made for, and the pieces of one that is made of some."""

    id: str
    title: str
    width: str = "desktop"
    pieces: tuple[str, ...] = ()
    key: str = ""

    @property
    def template(self) -> str:
        """The template of its body."""
        return f"stage/scenes/{'pieces' if self.key else self.id}.html"


_WIDTHS = {"wallet": "phone"}
SCENES = tuple(
    Shown(name, name.capitalize(), _WIDTHS.get(name, "desktop")) for name in by_slot.SCENES
)
BY_ID = {scene.id: scene for scene in (*SCENES, Shown(CARD, "One card"))}
#: A small scene for previews beside other things.
SAMPLE = "stage/scenes/sample.html"


def of_project(document: Document) -> list[Shown]:
    """The scenes that a project has made of pieces."""
    return [
        Shown(f"{_OWN}{scene.key}", scene.name, pieces=pieces, key=scene.key)
        for scene in document.scenes
        if (pieces := pieces_of(scene)) is not None
    ]


def find(document: Document, id: str) -> Shown:
    """A scene by its id; the first one without it."""
    own = {scene.id: scene for scene in of_project(document)} if id.startswith(_OWN) else {}
    return own.get(id) or BY_ID.get(id, SCENES[0])


@lru_cache(maxsize=64)
def markup(scene: Shown | str, name: str) -> str:
    """The body of a scene in a project of this name."""
    scene = BY_ID[scene] if isinstance(scene, str) else scene
    words = words_for(name) | {"carrier": name, "pieces": scene.pieces}
    return render_to_string(scene.template, words)


@lru_cache(maxsize=64)
def scene_of(scene: Shown | str, name: str) -> SceneRead:
    """What is read off a scene."""
    return read_scene(markup(scene, name))


def rules() -> str:
    """The rules that paint all slots of all scenes: the file ``slots.css``."""
    uses: set[tuple[str, str, str]] = set()
    every = (*BY_ID.values(), Shown("own", "", pieces=PIECES, key="all"))
    bodies = [markup(scene, DEMO) for scene in every]
    for body in (*bodies, render_to_string(SAMPLE)):
        for use in read_scene(body).uses:
            uses.add((use.state, use.paint, use.slot.removeprefix("copy-")))
    head = "/* Made by ./dev slots of the templates of the scenes. */\n"
    return head + scene_css.rules(uses)
