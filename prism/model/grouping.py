"""The groups that tokens are listed in: those of their paths, or those their flat names imply.

Names without full stops, as ``brand-text-muted``, ``brand/text/muted`` or ``brandTextMuted``, are parted
where the project itself parts them. What stands before nearly all of them is no group.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence

from prism.model.document import Token, shown_path

#: What tokens without a group are listed under; no segment of a path is like it.
NO_GROUP = "."
#: Words that parts of a name end at: a separator behind them, or a capital letter after them.
_WORDS = re.compile(r"[^-_/ ]+[-_/ ]+|[a-z0-9]+(?=[A-Z])|.+?$")
#: A group with at most this many tokens is not parted again.
_SMALL = 12
#: A word before this share of all flat names is a prefix.
_NEARLY_ALL = 0.9


def groups(tokens: Iterable[Token]) -> dict[str, tuple[str, ...]]:
    """For each token by key the group it is listed in, and the inner group where there is one, as
    full names: ``("color", "color.text")``."""
    listed = list(tokens)
    parts = _parts(listed)
    chains = {token.key: _chain(parts[token.key]) for token in listed}
    outer = Counter(chain[0] for chain in chains.values() if chain)
    inner = Counter(chain[1] for chain in chains.values() if len(chain) > 1)
    flat = {token.key for token in listed if "." not in _plain(token)}
    placed: dict[str, tuple[str, ...]] = {}
    for key, chain in chains.items():
        if not chain or (key in flat and outer[chain[0]] < 2):
            placed[key] = (NO_GROUP,)
        elif len(chain) > 1 and outer[chain[0]] > _SMALL and inner[chain[1]] > 1:
            placed[key] = chain[:2]
        else:
            placed[key] = chain[:1]
    return placed


def members(tokens: Sequence[Token], group: str) -> list[Token]:
    """The tokens of a group: those whose paths lie in it, else those that are listed in it."""
    inside = [token for token in tokens if token.within(group)]
    if inside or not group:
        return inside
    placed = groups(tokens)
    return [token for token in tokens if group in placed[token.key]]


def _plain(token: Token) -> str:
    return shown_path(token.path)


def _chain(parts: Sequence[str]) -> tuple[str, ...]:
    """The names of the groups of a token with these parts, from the outermost in."""
    names = ["".join(parts[: end + 1]).rstrip("-_/ .") for end in range(len(parts) - 1)]
    return tuple(name for name in names if name)


def _parts(tokens: Sequence[Token]) -> Mapping[str, list[str]]:
    """The parts of each token's name with what stands between them, the prefix of all joined to the
    first."""
    parts = {}
    flat: dict[str, list[str]] = {}
    for token in tokens:
        name = _plain(token)
        if "." in name:
            segments = name.split(".")
            parts[token.key] = [*(f"{segment}." for segment in segments[:-1]), segments[-1]]
        else:
            parts[token.key] = flat[token.key] = _WORDS.findall(name)
    prefix = _prefix(list(flat.values()))
    for key, words in flat.items():
        if words[: len(prefix)] == prefix and len(words) > len(prefix):
            parts[key] = ["".join(words[: len(prefix) + 1]), *words[len(prefix) + 1 :]]
    return parts


def _prefix(names: Sequence[list[str]]) -> list[str]:
    """The words before nearly all of some names; none of a few names."""
    prefix: list[str] = []
    while len(names) > 3:
        words = Counter(
            name[len(prefix)]
            for name in names
            if name[: len(prefix)] == prefix and len(name) > len(prefix) + 1
        )
        word, count = max(words.items(), key=lambda pair: pair[1], default=("", 0))
        if count < len(names) * _NEARLY_ALL:
            break
        prefix.append(word)
    return prefix


def separator_of(tokens: Iterable[Token], group: str) -> str:
    """What stands between a group and the rest of a name in it: a full stop, or what flat names have;
    empty where a capital letter follows."""
    for token in tokens:
        name = _plain(token)
        if name.startswith(group) and len(name) > len(group):
            follows = re.match(r"[-_/ .]+", name[len(group) :])
            if follows:
                return follows[0]
            if name[len(group)].isupper():
                return ""
    return "."
