"""The command roles."""

from __future__ import annotations

from prism.cli.group import file_argument, json_option, main, maps_option
from prism.cli.printing import show, show_json
from prism.cli.reading import load
from prism.errors import FormatError
from prism.model.document import shown_path
from prism.resolution.current import resolver_of
from prism.roles.guess import guess


@main.command()
@file_argument
@maps_option
@json_option
def roles(file: str, maps: tuple[str, ...], as_json: bool) -> None:
    """Print what each color is for, what it belongs to, how sure that is, and why.

    The least sure come first. Steps of a palette have no role.
    """
    document = load(file, maps)
    guesses = guess(document, resolver_of(document))
    if not guesses:
        raise FormatError("There is no color but steps of a palette.", place=file)
    paths = {token.key: shown_path(token.path) for token in document.tokens}
    ordered = sorted(guesses.items(), key=lambda item: item[1].sure)
    if as_json:
        show_json(
            roles=[
                {
                    "path": paths[key],
                    "role": str(known.role),
                    "belongs_to": paths.get(known.belongs_to),
                    "sure": known.sure,
                    "why": known.why,
                }
                for key, known in ordered
            ]
        )
        return
    rows = [
        (
            paths[key],
            str(known.role),
            paths.get(known.belongs_to, ""),
            f"{known.sure:.0%}",
            known.why,
        )
        for key, known in ordered
    ]
    show("", ("token", "role", "belongs to", "sure", "why"), rows)
