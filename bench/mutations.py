"""Files of every format that is read, damaged by a seed: for tests that nothing can fail on them."""

from __future__ import annotations

import copy
import io
import json
import random
import struct
import zipfile
from collections.abc import Callable, Mapping
from typing import Any

import numpy as np
from PIL import Image

from bench.sizes import document
from prism.formats import archive, files
from prism.resolution.resolver import Resolver

_TEXTS = (
    b"\0", b"\xff\xfe", "²".encode(), "٣".encode(), b"\\ud800", b"\\u0000", b"{", b"}", b"{}", b"\"", b"'",
    b"[" * 60, b"(" * 400, b"calc(", b"{a}", b"{ramp 1.3}", b"1e999", b"NaN", b"-0", b"9" * 400, b"x" * 700,
    b"$value", b"$extends", b"$ref", b"$root", b"..", b"/*", b"*/", b"<!DOCTYPE x [<!ENTITY a 'b'>]>",
    b"<svg>", b"&a;", b"var(--a)", b"--a:var(--a);", b"=cmd|' /C calc'!A0", b"\r\n", b"\t", b",,,", b"\xef\xbb\xbf",
    b"light", b"purple", b"initial", b"color-mix(in oklch, red, {a})", b"@media (", b"%", b"\\", b"#", b"none",
)  # fmt: skip


_NAMES = (
    "$value",
    "$type",
    "$extends",
    "$ref",
    "$root",
    "a.b",
    "{a}",
    "",
    "x" * 700,
    "\0",
    "\ud800",
    "key",
)
_VALUES: tuple[Any, ...] = (
    None, True, 0, -1, 1e308, 10**400, "", "\0", "\ud800", "²", "x" * 70_000, [], {}, [[]], {"a": {}},
    "{a}", "{ramp 1.12}", "color-mix(in oklch, {ramp 1.12}, red)", "light", "purple", ["a"] * 400, {"$ref": "#/"},
)  # fmt: skip


def mutated(data: bytes, rng: random.Random) -> bytes:
    """``data`` with one to six places changed, dropped, doubled, swapped or written over."""
    held = bytearray(data)
    for _ in range(rng.randint(1, 6)):
        size = len(held)
        if not size:
            break
        at, width = rng.randrange(size), rng.choice((1, 1, 2, 8, 40, 400))
        part = held[at : at + width]
        kind = rng.randrange(7)
        if kind == 0:
            held[at] ^= 1 << rng.randrange(8)
        elif kind == 1:
            del held[at : at + width]
        elif kind == 2:
            held[at:at] = part * rng.choice((1, 2, 30))
        elif kind == 3:
            other = rng.randrange(size)
            held[at : at + width] = held[other : other + width]
        elif kind == 4:
            del held[at:]
        else:
            held[at : at + rng.choice((0, width))] = rng.choice(_TEXTS)
    return bytes(held)


def mutated_json(data: bytes, rng: random.Random) -> bytes:
    """A JSON file in which one to four members have other values, names or places."""
    tree = json.loads(data)
    for _ in range(rng.randint(1, 4)):
        places: list[tuple[Any, Any]] = []
        work: list[Any] = [tree]
        while work:
            node = work.pop()
            names = list(node) if isinstance(node, dict) else range(len(node))
            for name in names:
                places.append((node, name))
                if isinstance(node[name], dict | list):
                    work.append(node[name])
        if not places:
            break
        node, name = rng.choice(places)
        other, there = rng.choice(places)
        kind = rng.randrange(5)
        if kind == 0:
            del node[name]
        elif kind == 1 and isinstance(node, dict):
            node[rng.choice(_NAMES)] = node.pop(name)
        elif kind == 2:
            node[name] = json.loads(json.dumps(other[there]))
        else:
            node[name] = copy.deepcopy(rng.choice(_VALUES))
    return json.dumps(tree, ensure_ascii=rng.random() < 0.8).encode("utf-8", "surrogatepass")


def _zips(rng: random.Random, whole: Mapping[str, bytes]) -> bytes:
    """An archive, itself damaged, with damaged members, or packed in a way that is not read."""
    kind = rng.randrange(5)
    out = io.BytesIO()
    pack = rng.choice((zipfile.ZIP_BZIP2, zipfile.ZIP_LZMA)) if kind == 0 else zipfile.ZIP_DEFLATED
    with zipfile.ZipFile(out, "w", pack) as packed:
        for name, data in whole.items():
            shown = (
                rng.choice((name, f"../{name}", f"a/{name}", f"\udcff{name}"))
                if kind == 1
                else name
            )
            text = mutated_json(data, rng) if kind == 2 and rng.random() < 0.5 else data
            packed.writestr(shown.encode("utf-8", "replace").decode(), text)
    data = out.getvalue()
    if kind == 3:
        data = data[:-22] + struct.pack("<4s4H2LH", b"PK\5\6", 0, 0, 60000, 60000, 2**31, 2**31, 0)
    return mutated(data, rng) if kind == 4 else data


def _pictures(rng: random.Random) -> bytes:
    width, height = rng.choice(((8, 8), (60, 40), (1, 300)))
    pixels = np.random.default_rng(rng.randrange(2**32)).integers(
        0, 255, (height, width, 3), np.uint8
    )
    held = io.BytesIO()
    kind = rng.choice(("PNG", "JPEG", "GIF", "WEBP", "BMP", "TIFF"))
    Image.fromarray(pixels).save(held, kind)
    return mutated(held.getvalue(), rng)


def sources() -> dict[str, Callable[[random.Random], tuple[str, bytes]]]:
    """By format, what makes a damaged file of it: its name and its bytes."""
    built = document(40)
    theme = Resolver(built).default_theme
    whole = {kind: files.write(built, kind, theme)[0] for kind in files.KINDS}
    plain = {
        kind: next((name, text.encode()) for name, text in written.items())
        for kind, written in whole.items()
    }
    tree = {name: text.encode() for name, text in whole["design-tokens"].items()}
    tokens = next((n, d) for n, d in tree.items() if n.endswith(".tokens.json"))
    packed = archive.write(whole["design-tokens"])
    assert packed

    def of(name: str, data: bytes) -> Callable[[random.Random], tuple[str, bytes]]:
        return lambda rng: (name, mutated(data, rng))

    def json_of(name: str, data: bytes) -> Callable[[random.Random], tuple[str, bytes]]:
        return lambda rng: (
            name, mutated_json(data, rng) if rng.random() < 0.6 else mutated(data, rng)
        )  # fmt: skip

    return {
        "tokens": json_of(*tokens),
        "zip": lambda rng: ("all.zip", _zips(rng, tree)),
        "json": json_of(*plain["json"]),
        **{kind: of(*plain[kind]) for kind in ("css", "csv", "gpl", "svg")},
        "picture": lambda rng: ("picture.png", _pictures(rng)),
    }
