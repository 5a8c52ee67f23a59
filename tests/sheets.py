"""Style sheets for tests, and what came out of them."""

from prism.formats import style_sheets
from tests.builders import counter_keys


def sheet(text, maps=None, **others):
    """A style sheet as it is read; ``others`` are the files that it imports, ``_`` for a full stop."""
    imports = {name.replace("_", "."): data.encode() for name, data in others.items()}
    return style_sheets.read(text.encode(), "x.css", counter_keys(), maps, imports)


def axes(read):
    """Names of axes and their modes, the default mode first."""
    return {
        axis.name: sorted(
            (m.name for m in axis.modes), key=lambda n: n != axis.mode(axis.default).name
        )
        for axis in read.document.axes
    }


def values(read, path):
    """A token's values by mode names."""
    built = read.document
    names = {(a.key, m.key): m.name for a in built.axes for m in a.modes}
    return {
        ",".join(names[pick] for pick in condition.picks): getattr(value, "text", value)
        for condition, value in built.token_at(path).values
    }


def skipped(read):
    """Why declarations were skipped, by property."""
    return {declaration.name: declaration.reason for declaration in read.skipped}
