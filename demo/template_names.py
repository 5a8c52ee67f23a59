"""Names that templates use, as Python that uses them, so that the search for dead code knows of them.

python -m demo.template_names > FILE
"""

from __future__ import annotations

import keyword
import re
from collections.abc import Iterator
from pathlib import Path

STUDIO = Path(__file__).parent.parent / "studio"
_TAG = re.compile(r"\{[{%](.*?)[%}]\}", re.S)
_STRING = re.compile(r"\"[^\"]*\"|'[^']*'")
_NAME = re.compile(r"[.\s|=,]([a-z_][a-z0-9_]*)", re.I)


def names() -> Iterator[str]:
    """The names in the tags of all templates."""
    for path in STUDIO.rglob("*.html"):
        for tag in _TAG.findall(path.read_text()):
            yield from _NAME.findall(" " + _STRING.sub("", tag))


if __name__ == "__main__":
    for name in sorted(set(names())):
        if not keyword.iskeyword(name):
            print(f"_.{name}")
