"""Random edits of every kind, for tests that let several people work in one document."""

from dataclasses import replace

from prism.changes import axes, links, merging, structure
from prism.changes import values as edit
from prism.contrast.pairing_commands import RequireOfPairing
from prism.contrast.rule_commands import (
    AddWord,
    PairByPattern,
    PairByRule,
    RemoveRule,
    RemoveWord,
    RequireByRule,
)
from prism.errors import EditError, PrismError
from prism.model.document import (
    Axis,
    Document,
    Follows,
    Mode,
    Page,
    Pairing,
    Ramp,
    SavedTheme,
    Scene,
    TellingApart,
    Token,
    shown_path,
)
from prism.model.values import BASE, Condition, Expression
from prism.palette import purposes, ramp_edits, step_edits
from prism.roles import rules

PATHS = tuple(f"{group}.{leaf}" for group in ("ink", "card", "line-strong") for leaf in "abcd")
NAMES = ("dim", "dark", "kiosk", "tram", "ferry")


def start() -> Document:
    """The document that the writers begin with."""
    tokens = [
        Token(f"r{i}", f"raw.{i}", "color", "raw", ((BASE, Expression(f"#{i}{i}8877")),))
        for i in range(4)
    ]
    tokens += [
        Token(f"s{i}", f"use.{i}", "color", "semantic", ((BASE, Expression(f"{{raw.{i}}}")),))
        for i in range(4)
    ]
    appearance = Axis("look", "look", (Mode("light", "light"), Mode("night", "night")), "light")
    carrier = Axis("brand", "brand", (Mode("rail", "rail"), Mode("sea", "sea")), "rail")
    return Document(
        name="Quay",
        axes=(appearance, carrier),
        tokens=tuple(tokens),
        ramps=(Ramp("ramp", "raw", ("r0", "r1", "r2")),),
        pairings=(Pairing("pair", "s0", ("s1",)),),
        telling_apart=(TellingApart("apart", "signals", ("s2", "s3")),),
        scenes=(Scene("scene", "board", bindings=(("page", "s1"),)),),
        themes=(SavedTheme("night", "Night", (("look", "night"),)),),
    )


def _token(rng, document):
    if not document.tokens:
        raise EditError("There is no token.")
    return rng.choice(document.tokens)


def _axis(rng, document):
    if not document.axes:
        raise EditError("There is no axis.")
    return rng.choice(document.axes)


def _condition(rng, document):
    chosen = [axis for axis in document.axes if rng.random() < 0.4]
    return Condition.of({axis.key: rng.choice(axis.modes).key for axis in chosen})


def _text(rng, document):
    if rng.random() < 0.5 and document.tokens:
        return "{" + rng.choice(document.tokens).path + "}"
    return f"#{rng.randrange(16**6):06x}"


def _set(rng, document, new_key):
    value = Expression(_text(rng, document))
    return edit.set_value(document, _token(rng, document).key, _condition(rng, document), value)


def _clear(rng, document, new_key):
    token = _token(rng, document)
    if not token.values:
        raise EditError("There is no value.")
    return edit.clear_value(document, token.key, rng.choice(token.values)[0])


def _add(rng, document, new_key):
    value = ((BASE, Expression(_text(rng, document))),)
    token = Token(new_key(), rng.choice(PATHS), "color", "semantic", value)
    after = _token(rng, document).key if document.tokens and rng.random() < 0.5 else ""
    return structure.add_tokens(document, [token], after)


def _remove(rng, document, new_key):
    return structure.remove_tokens(document, [_token(rng, document).key])


def _drop_into(rng, document, new_key):
    keep, gone = _token(rng, document), _token(rng, document)
    return merging.drop_token(document, gone.key, keep.key)


def _rename(rng, document, new_key):
    return structure.rename_token(document, _token(rng, document).key, rng.choice(PATHS))


def _rename_group(rng, document, new_key):
    group = _token(rng, document).path.split(".")[0]
    return structure.rename_group(document, group, rng.choice(("card", "ink", "use", "fresh")))


def _reorder(rng, document, new_key):
    moved, after = _token(rng, document), _token(rng, document)
    return structure.reorder_tokens(document, [moved.key], after.key)


def _describe(rng, document, new_key):
    token = _token(rng, document)
    changed = replace(token, description=rng.choice(NAMES), private=rng.random() < 0.3)
    tokens = tuple(changed if one is token else one for one in document.tokens)
    return replace(document, tokens=tokens)


def _retype(rng, document, new_key):
    kind = rng.choice(("color", "dimension"))
    token = Token(new_key(), rng.choice(PATHS), kind, "raw")
    return structure.change_type(
        structure.add_tokens(document, [token]), token.key, rng.choice(("number", "dimension"))
    )


def _link(rng, document, new_key):
    return links.link(document, links.propose(document).links)


def _add_axis(rng, document, new_key):
    if len(document.axes) > 3:
        raise EditError("These are enough.")
    modes = tuple(Mode(new_key(), name) for name in rng.sample(NAMES, rng.choice((1, 2))))
    axis = Axis(new_key(), f"axis {rng.choice(NAMES)}", modes, modes[0].key)
    return axes.add_axis(document, axis, rng.randrange(len(document.axes) + 1))


def _remove_axis(rng, document, new_key):
    axis = _axis(rng, document)
    return axes.remove_axis(document, axis.key, rng.choice(axis.modes).key)


def _add_mode(rng, document, new_key):
    axis = _axis(rng, document)
    if len(axis.modes) > 3:
        raise EditError("These are enough.")
    copied = rng.choice(axis.modes).key if rng.random() < 0.5 else ""
    return axes.add_mode(document, axis.key, Mode(new_key(), rng.choice(NAMES)), copied)


def _remove_mode(rng, document, new_key):
    axis = _axis(rng, document)
    return axes.remove_mode(document, axis.key, rng.choice(axis.modes).key)


def _rename_mode(rng, document, new_key):
    axis = _axis(rng, document)
    return axes.rename_mode(document, axis.key, rng.choice(axis.modes).key, rng.choice(NAMES))


def _default(rng, document, new_key):
    axis = _axis(rng, document)
    return axes.change_default(document, axis.key, rng.choice(axis.modes).key)


def _scheme(rng, document, new_key):
    axis = _axis(rng, document)
    scheme = rng.choice(("light", "dark", ""))
    return axes.set_color_scheme(document, axis.key, rng.choice(axis.modes).key, scheme)


def _follow(rng, document, new_key):
    axis = _axis(rng, document)
    follows = Follows("prefers-color-scheme", (("dark", rng.choice(axis.modes).key),))
    return axes.follow(document, axis.key, follows if rng.random() < 0.7 else None)


def _reorder_axes(rng, document, new_key):
    keys = [axis.key for axis in document.axes]
    return axes.reorder_axes(document, rng.sample(keys, len(keys)))


def _reorder_modes(rng, document, new_key):
    axis = _axis(rng, document)
    keys = [mode.key for mode in axis.modes]
    return axes.reorder_modes(document, axis.key, rng.sample(keys, len(keys)))


def _pair(rng, document, new_key):
    colors = [token.key for token in document.tokens if token.type == "color"]
    if not colors:
        raise EditError("There is no color.")
    page = rng.choice(colors) if rng.random() < 0.5 else ""
    pairing = Pairing(new_key(), rng.choice(colors), (rng.choice(colors),), page=page)
    return edit.add_pairing(document, pairing)


def _unpair(rng, document, new_key):
    if not document.pairings:
        raise EditError("There is no pairing.")
    return edit.remove_pairing(document, rng.choice(document.pairings).key)


def _rule(rng, document, new_key):
    kind = rng.randrange(4)
    if document.rules and kind == 0:
        return RemoveRule(rng.choice(document.rules).key).apply(document)
    if document.rules and kind == 1:
        rule = rng.choice(document.rules).key
        return RequireByRule(rule, rng.choice((0.0, 3.0, 7.0))).apply(document)
    if kind == 2:
        group = _token(rng, document).top
        return PairByPattern(new_key(), f"{group}*", "*", "control").apply(document)
    return PairByRule("", tuple(rng.sample(tuple(rules.BY_ID), 2))).apply(document)


def _require(rng, document, new_key):
    judged = rules.paired(document).pairings
    if not judged:
        raise EditError("There is no pairing.")
    pairing = rng.choice(judged).key
    return RequireOfPairing(new_key(), pairing, rng.choice((0.0, 4.5)), "told").apply(document)


def _word(rng, document, new_key):
    if document.words and rng.random() < 0.3:
        return RemoveWord(rng.choice(document.words).key).apply(document)
    meaning = rng.choice(("surface", "text", "fill", "label"))
    return AddWord(rng.choice((*NAMES, "ink", "use")), meaning).apply(document)


def _belong(rng, document, new_key):
    token, owner = _token(rng, document), _token(rng, document)
    path = shown_path(owner.path) if rng.random() < 0.8 else ""
    role = rng.choice(("", "label", "fill action", "text"))
    return structure.describe_token(
        document, token.key, path=token.path, description="", uses="", export_name="",
        private=False, deprecated=None, role=role, belongs_to=path,
    )  # fmt: skip


def _apart(rng, document, new_key):
    chosen = tuple(dict.fromkeys(_token(rng, document).key for _ in range(2)))
    group = TellingApart(new_key(), rng.choice(NAMES), chosen)
    return replace(document, telling_apart=(*document.telling_apart, group))


def _bind(rng, document, new_key):
    scene, *rest = document.scenes
    slots = dict(scene.bindings) | {rng.choice(("page", "ink")): _token(rng, document).key}
    return replace(document, scenes=(replace(scene, bindings=tuple(slots.items())), *rest))


def _theme(rng, document, new_key):
    axis = _axis(rng, document)
    theme = SavedTheme(new_key(), rng.choice(NAMES), ((axis.key, rng.choice(axis.modes).key),))
    return replace(document, themes=(*document.themes, theme))


def _ramp(rng, document, new_key):
    ramp = rng.choice(document.ramps)
    kind = rng.randrange(4)
    if kind == 0 and ramp.steps:
        name = f"n{rng.randrange(99)}"
        return step_edits.insert_step(document, rng.choice(ramp.steps), name, new_key)
    if kind == 1 and ramp.steps:
        return step_edits.drop_step(document, rng.choice(ramp.steps))
    if kind == 2:
        return ramp_edits.rename_ramp(document, ramp.key, rng.choice(("raw", "slate", "shore")))
    return purposes.drop(document, rng.choice(purposes.of(document)).key)


def _give_purpose(rng, document, new_key):
    ramp, *rest = document.ramps
    purpose = rng.choice(purposes.of(document)).key
    return replace(document, ramps=(replace(ramp, purpose=purpose), *rest))


def _page(rng, document, new_key):
    return replace(document, pages=(*document.pages, Page(new_key(), rng.choice(NAMES))))


def _name(rng, document, new_key):
    return replace(document, name=rng.choice(NAMES))


#: Values and names change more often than the structure around them.
EDITS = (
    _set, _set, _set, _set, _clear, _add, _add, _remove, _drop_into, _rename, _rename,
    _rename_group, _reorder, _describe, _retype, _link, _add_axis, _remove_axis, _add_mode,
    _add_mode, _remove_mode, _remove_mode, _rename_mode, _default, _default, _scheme, _follow,
    _reorder_axes, _reorder_modes, _pair, _unpair, _rule, _require, _word, _belong, _apart, _bind, _theme, _ramp, _give_purpose,
    _page, _name,
)  # fmt: skip


def edited(rng, document, new_key):
    """``document`` after one random edit; itself where that edit is refused."""
    try:
        return rng.choice(EDITS)(rng, document, new_key)
    except PrismError:
        return document
