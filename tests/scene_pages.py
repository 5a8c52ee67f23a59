"""Scenes as pages that need no server: their markup with every style sheet inside."""

from __future__ import annotations

from pathlib import Path

from prism.analysis import Analysis
from prism.formats import css, scene_css
from prism.roles.by_slot import SLOTS
from studio.rooms.stage import library

STATIC = Path(library.__file__).parent / "static" / "stage"

#: Numbers the elements that hold texts, in order; hidden ones are left out, as the reader leaves them.
NUMBER = """() => {
  const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  let number = 0;
  for (let node = walk.nextNode(); node; node = walk.nextNode())
    if (node.data.trim()) {
      const list = (node.parentElement.dataset.texts ?? "").split(" ").filter(Boolean);
      node.parentElement.dataset.texts = [...list, number++].join(" ");
    }
  return number;
}"""


def page(analysis: Analysis, scene: str, theme=None, *, copies: bool = True) -> str:
    """The scene of a document in a theme; without ``copies`` its own texts stand."""
    document = analysis.document
    theme = theme or analysis.resolver.default_theme
    bound = {
        slot: token
        for slot, token in analysis.bindings.items()
        if copies or not slot.startswith("copy-")
    }
    sheets = (
        (STATIC / "scene.css").read_text(),
        (STATIC / "slots.css").read_text(),
        css.write(document),
        scene_css.write(document, bound, SLOTS),
    )
    attributes = css.root_attributes(document, theme).items()
    root = "".join(f' {name}="{value}"' for name, value in attributes)
    body = library.markup(scene, document.name)
    style = "\n".join(sheets)
    return f"<!doctype html><html lang=en{root}><head><title>x</title><style>{style}</style></head>{body}</html>"
