"""Shapes of text that are built to take for ever: nested, doubled, circular, very long."""

from __future__ import annotations

import itertools
import json
import random
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from prism.model.document import TYPES

# fmt: off

#: Bytes of the largest file that is read.
MOST = 8 * 1024 * 1024
#: How the largest of a shape is chosen: small ones find recursion, large ones find what is quadratic.


def of_size(unit: str, size: int) -> str:
    """A unit again and again, up to a size."""
    return unit * max(1, min(size, MOST) // len(unit))


def nested(opening: str, closing: str, inner: str, size: int) -> str:
    """An opening again and again, what lies inside, and as many closings."""
    times = max(1, min(size, MOST - 200) // (len(opening) + len(closing)))
    return opening * times + inner + closing * times


def properties(line: Callable[[int], str], size: int, start: str = "") -> str:
    """A rule of properties, one for each number, up to a size."""
    text, made, length = [":root {", start], itertools.count(1), len(start)
    while length < min(size, MOST - 200):
        text.append(line(next(made)))
        length += len(text[-1]) + 1
    return "\n".join([*text, "}"])


@dataclass(frozen=True, slots=True)
class Shape:
    """One way to be pathological: for which readers, and the text for a size."""

    name: str
    readers: tuple[str, ...]
    make: Callable[[int, random.Random], str]


_STARTS = ("1px 1px", "red", "1", "a b", "(", "calc(1px)", "rgb(1 2 3)", ",", '"', "13, 110")


def sheets() -> Iterator[Shape]:
    """Shapes of style sheets."""

    def css(name: str, make: Callable[[int, random.Random], str]) -> Shape:
        return Shape(name, ("css",), make)

    yield css("doubling", lambda n, r: properties(lambda i: f"--v{i}: var(--v{i - 1}) var(--v{i - 1});", n, f"--v0: {r.choice(_STARTS)};"))
    yield css("doubling by calc", lambda n, r: properties(lambda i: f"--v{i}: calc(var(--v{i - 1}) + var(--v{i - 1}));", n, "--v0: 1px;"))
    yield css("doubling by mix", lambda n, r: properties(lambda i: f"--v{i}: color-mix(in oklch, var(--v{i - 1}), var(--v{i - 1}));", n, f"--v0: {r.choice(_STARTS)};"))
    yield css("doubling by light-dark", lambda n, r: properties(lambda i: f"--v{i}: light-dark(var(--v{i - 1}), var(--v{i - 1}));", n, "--v0: red; color-scheme: light dark;"))
    yield css("doubling fallbacks", lambda n, r: properties(lambda i: f"--v{i}: var(--none, var(--v{i - 1}) var(--v{i - 1}));", n, "--v0: 1;"))
    yield css("doubling shadows", lambda n, r: properties(lambda i: f"--v{i}: var(--v{i - 1}), var(--v{i - 1});", n, "--v0: 0 0 1px red;"))
    yield css("chain", lambda n, r: properties(lambda i: f"--v{i}: var(--v{i - 1});", n, f"--v0: {r.choice(_STARTS)};"))
    yield css("chain from the end", lambda n, r: properties(lambda i: f"--v{i}: var(--v{i + 1});", n))
    yield css("circle", lambda n, r: properties(lambda i: f"--v{i}: var(--v{i - 1 if i > 1 else max(1, n // 30)});", n))
    yield css("two circles", lambda n, r: properties(lambda i: f"--v{i}: var(--v{i - 1}, var(--v{i + 1}));", n))
    yield css("circles through all", lambda n, r: properties(lambda i: f"--v{i}: var(--v{r.randint(1, i + 9)}) var(--v{r.randint(1, i + 9)});", n))
    yield css(
        "circle in a mode",
        lambda n, r: properties(lambda i: f"--v{i}: var(--v{i - 1});", n // 2, "--v0: 1px;") + properties(lambda i: f"--v{i}: var(--v{i + 1});", n // 2).replace(":root", ".dark"),
    )
    yield css("all refer to all before", lambda n, r: properties(lambda i: f"--v{i}: " + " ".join(f"var(--v{j})" for j in range(max(0, i - 40), i)) + ";", n, "--v0: 1;"))
    yield css("one used by all", lambda n, r: properties(lambda i: f"--v{i}: var(--v0) {i};", n, f"--v0: {of_size('1 ', min(n, 60_000))};"))
    yield css("parentheses", lambda n, r: f":root {{ --a: {nested('(', ')', '1', n)}; --b: red }}")
    yield css("open parentheses", lambda n, r: f":root {{ --a: {of_size('(', n)}")
    yield css("brackets", lambda n, r: f":root {{ --a: {of_size('[', n)}; --b: red }}")
    yield css("braces", lambda n, r: of_size(r.choice(("{", "a{", "@media x{", ":root{--a:{")), n))
    yield css("closings", lambda n, r: f":root {{ --a: {of_size(r.choice((')', '}', ']', ');', '};')), n)}; --b: red }}")
    yield css("functions", lambda n, r: f":root {{ --a: {nested(r.choice(('calc(', 'min(', 'var(--b,', 'light-dark(', 'hsl(', 'a(')), ')', '1', n)}; --b: red }}")
    yield css("rules in rules", lambda n, r: nested(r.choice(("a{", "&{", ":root{", ".dark{", "@media (width){", "@layer a{", "@supports (a:b){")), "}", "--a: red", n))
    yield css("nots", lambda n, r: f"{nested(r.choice((':not(', ':is(', ':where(')), ')', ':root', n)} {{ --a: red }}")
    yield css("nots of compounds", lambda n, r: f":root:not({','.join(f'.a{i}.b{i}' for i in range(n // 9 + 1))}) {{ --a: red }}")
    yield css("combined", lambda n, r: of_size(r.choice((":is(.a,.b) ", ":root>", "a+", "* ")), n) + ":root { --a: red }")
    yield css("products of selectors", lambda n, r: f":root{of_size(':is(.a,.b,[data-x=y])', n)} {{ --a: red }}")
    yield css("products by nesting", lambda n, r: nested(".a, .b, :root {", "}", "--a: red", n))
    yield css("many selectors", lambda n, r: ",".join(f".m{i}" for i in range(n // 6 + 1)) + "{ --a: red }")
    yield css("long compound", lambda n, r: ":root" + "".join(f"[data-a{i}=x]" for i in range(n // 12 + 1)) + "{ --a: red }")
    yield css("many modes", lambda n, r: ":root{--a:red}" + "".join(f"[data-theme=m{i}]{{--a:#{i % 4096:03x}}}" for i in range(min(n, MOST) // 30 + 1)))
    yield css("many axes", lambda n, r: ":root{--a:red}" + "".join(f"[data-a{i}=x]{{--a:#{i % 4096:03x}}}" for i in range(min(n, MOST) // 26 + 1)))
    yield css("many media", lambda n, r: ":root{--a:red}" + "".join(f"@media (width > {i}px){{:root{{--a:#{i % 4096:03x}}}}}" for i in range(min(n, MOST) // 46 + 1)))
    yield css("one media", lambda n, r: f"@media {nested('(not ', ')', '(width)', n)} {{ :root {{ --a: red }} }}")
    yield css("media list", lambda n, r: f"@media {of_size('(prefers-color-scheme: dark) and ', n)} (width) {{ :root {{ --a: red }} }}")
    yield css("layers", lambda n, r: "".join(f"@layer l{i}{{:root{{--a:revert-layer}}}}" for i in range(min(n, MOST) // 38 + 1)))
    yield css("one property again", lambda n, r: properties(lambda i: f"--a: {i};", n))
    yield css("one property in rules", lambda n, r: "".join(f":root{{--a:#{i % 4096:03x}}}" for i in range(min(n, MOST) // 17 + 1)))
    yield css("comments", lambda n, r: ":root{--a:" + of_size(r.choice(("/*", "/**/", "*/", "/*/")), n) + "red}")
    yield css("quotes", lambda n, r: ":root{--a:" + of_size(r.choice(("'", '"', "\\", "'\n", "\\\n")), n) + ";--b:red}")
    yield css("words", lambda n, r: ":root{--" + of_size(r.choice(("a", "a-", "é", "\\61 ", "💡")), n) + ": red}")
    yield css("a long value", lambda n, r: ":root{--a:" + of_size(r.choice(("a", "1", "a ", "1 ", "#", "-", "+", ".", "e", "url(", "!", ",", "<!--", "u+")), n) + ";--b:red}")
    yield css("semicolons", lambda n, r: ":root{" + of_size(r.choice((";", "--a;", "--a:;", ":", "@", "@a;", "--:1;")), n) + "--b:red}")
    yield css("imports", lambda n, r: of_size(r.choice(('@import "a.css";', '@import "pasted.css";', "@import url(x) layer(")), n) + ":root{--a:red}")
    yield css(
        "property rules",
        lambda n, r: "".join(f"@property --p{i}{{syntax:'<color>';inherits:true;initial-value:var(--p{i + 1})}}" for i in range(min(n, MOST) // 80 + 1)) + ":root{--a:var(--p0)}",
    )
    yield css("lines", lambda n, r: of_size(r.choice(("\n", "\r", "\f", "\r\n", " ", "\t")), n) + ":root{--a:red}")


def _wide(n: int, member: Callable[[int], object], each: int) -> str:
    return json.dumps({f"t{i}": member(i) for i in range(min(n, MOST) // each + 1)})


def json_files() -> Iterator[Shape]:
    """Shapes of Design Tokens files and of plain JSON."""

    def tokens(name: str, make: Callable[[int, random.Random], str]) -> Shape:
        return Shape(name, ("tokens",), make)

    def color(value: object) -> dict[str, object]:
        return {"$type": "color", "$value": value}

    yield tokens("objects", lambda n, r: nested(r.choice(('{"a":', '{"$value":', '{"$extensions":')), "}", "1", n))
    yield tokens("arrays", lambda n, r: '{"a":' + nested("[", "]", "1", n) + "}")
    yield tokens("open", lambda n, r: of_size(r.choice(('{"a":', "[", '{"', '"', "\\", '{"a":1,', "1")), n))
    yield tokens("chain", lambda n, r: _wide(n, lambda i: color(f"{{t{i - 1}}}" if i else "#123456"), 50))
    yield tokens("circle", lambda n, r: _wide(n, lambda i: color(f"{{t{i - 1 if i else min(n, MOST) // 50}}}"), 50))
    yield tokens("doubling", lambda n, r: _wide(n, lambda i: color(f"color-mix(in oklch, {{t{i - 1}}}, {{t{i - 1}}})" if i else "#123456"), 90))
    yield tokens("doubling lists", lambda n, r: _wide(n, lambda i: {"$type": "fontFamily", "$value": [f"{{t{i - 1}}}", f"{{t{i - 1}}}"] if i else "A"}, 70))
    yield tokens(
        "doubling shadows",
        lambda n, r: _wide(
            n,
            lambda i: {"$type": "shadow", "$value": [f"{{t{i - 1}}}", f"{{t{i - 1}}}"] if i else {"color": "#000000", "offsetX": "1px", "offsetY": "1px", "blur": "1px", "spread": "1px"}},
            70,
        ),
    )
    yield tokens(
        "doubling groups", lambda n, r: _wide(min(n, 60_000), lambda i: {"a": {"$extends": f"{{t{i - 1}}}"}, "b": {"$extends": f"{{t{i - 1}}}"}} if i else {"x": color("#123456")}, 70)
    )
    yield tokens("doubling by pointer", lambda n, r: _wide(min(n, 60_000), lambda i: {"a": {"$ref": f"#/t{i - 1}"}, "b": {"$ref": f"#/t{i - 1}"}} if i else {"x": color("#123456")}, 70))
    yield tokens("groups in a circle", lambda n, r: _wide(n, lambda i: {"$extends": f"{{t{i - 1 if i else min(n, MOST) // 30}}}"}, 30))
    yield tokens("pointers in a circle", lambda n, r: _wide(n, lambda i: {"$ref": f"#/t{i - 1 if i else min(n, MOST) // 30}"}, 30))
    yield tokens("deep value", lambda n, r: json.dumps({"a": color(nested(r.choice(("(", "calc(", "color-mix(in oklch, ", "{")), ")", "red", min(n, 4_000_000)))}))
    yield tokens("numbers", lambda n, r: '{"a": ' + of_size(r.choice(("9", "1e9", "-", "0.", "1.1")), n) + "}")
    yield tokens("long names", lambda n, r: json.dumps({of_size(r.choice(("a", "a.", "a b", "{", "é")), n): color("#123456")}))
    yield tokens(
        "long texts",
        lambda n, r: json.dumps(
            {"a": {"$type": r.choice(TYPES), "$value": of_size(r.choice(("a", "a ", "{a}", "#", "1", "(", "\n", "\t", "&", "/*")), n), "$description": of_size("a*", n // 2)}}
        ),
    )
    yield tokens("escapes", lambda n, r: '{"a": {"$value": "' + of_size(r.choice(("\\u0041", "\\ud83d\\ude00", "\\n", "\\ud800", "\\u0000")), n) + '", "$type": "string"}}')
    yield tokens("stops", lambda n, r: json.dumps({"a": {"$type": "gradient", "$value": [{"color": "#123456", "position": 0}] * (min(n, MOST) // 40 + 1)}}))
    yield tokens(
        "modifiers",
        lambda n, r: json.dumps(
            {
                "version": "2025.10",
                "sets": {"s": {"sources": [{"a": color("#123456")}]}},
                "modifiers": {f"m{i}": {"contexts": {f"c{j}": [{"a": color("#123457")}] for j in range(r.randint(2, 40))}, "default": "c0"} for i in range(min(n // 60 + 1, 2_000))},
                "resolutionOrder": [{"$ref": "#/sets/s"}, *({"$ref": f"#/modifiers/m{i}"} for i in range(min(n // 60 + 1, 2_000)))],
            }
        ),
    )
    yield tokens(
        "sets in a circle",
        lambda n, r: json.dumps(
            {
                "version": "2025.10",
                "sets": {f"s{i}": {"sources": [{"$ref": f"#/sets/s{i - 1}"}, {"$ref": f"#/sets/s{i - 1}"}]} for i in range(min(n, MOST) // 70 + 1)},
                "resolutionOrder": [{"$ref": "#/sets/s0"}, {"$ref": f"#/sets/s{min(n, MOST) // 70}"}],
            }
        ),
    )
    yield tokens("condition", lambda n, r: json.dumps({"a": {**color("#123456"), "$extensions": {"nimble-prism": {"values": [[{f"a{i}": "b" for i in range(min(n, MOST) // 20)}, "red"]]}}}}))


def tables() -> Iterator[Shape]:
    """Shapes of tables, palettes, swatches and other text that holds colors."""
    both = ("csv", "text", "gpl", "svg", "paste")
    yield Shape("lines of a word", both, lambda n, r: of_size(r.choice(("a\n", "a,", "a\t", '"', "'", ",", "\t", "\n", "a;")), n))
    yield Shape("colors", both, lambda n, r: of_size(r.choice(("#123456\n", "#123 ", "rgb(1 2 3),", "red\n", "a:#123;", "123456 ")), n))
    yield Shape("openings", both, lambda n, r: of_size(r.choice(("rgb(", "<!--", "/*", "#", "(", "[", "{", "[[", "{a:", "--a:", "oklch(from ", "a|")), n))
    yield Shape("wide rows", both, lambda n, r: "name," + ",".join(f"m{i}" for i in range(min(n, MOST) // 20)) + "\na," + of_size("#123456,", n // 2))
    yield Shape("pasted names", both, lambda n, r: "".join(f"a.t{i}\t#{i % 4096:03x}\n" for i in range(min(n, MOST) // 16)))
    yield Shape("declarations", both, lambda n, r: "".join(f"--a-t{i}: var(--a-t{i + 1});\n" for i in range(min(n, MOST) // 26)))
    yield Shape(
        "palette", ("gpl",), lambda n, r: "GIMP Palette\nName: " + of_size("a", n // 4) + "\n#\n" + of_size(r.choice(("1 2 3 a\n", "1 2 3\n", "999999999999 1 1 a\n", "   ")), n // 2)
    )
    yield Shape("groups", ("svg",), lambda n, r: "<svg xmlns='http://www.w3.org/2000/svg'>" + nested(r.choice(("<g>", "<g id='a'>", "<a>")), "</g>", "<rect fill='red'/>", n) + "</svg>")
    yield Shape(
        "entities",
        ("svg",),
        lambda n, r: "<!DOCTYPE s [<!ENTITY a0 'aaaaaaaaaa'>" + "".join(f"<!ENTITY a{i} '&a{i - 1};&a{i - 1};'>" for i in range(1, min(n // 30, 60) + 1)) + "]><svg>&a9;</svg>",
    )
    yield Shape(
        "shapes",
        ("svg",),
        lambda n, r: "<svg xmlns='http://www.w3.org/2000/svg'>" + of_size(r.choice(("<rect fill='red'/>", "<rect id='a' style='fill:red'/>", "<a b='c'/>", "<")), n) + "</svg>",
    )
    yield Shape("attributes", ("svg",), lambda n, r: "<svg " + " ".join(f"a{i}='b'" for i in range(min(n, MOST) // 9)) + " fill='" + of_size("red;", n // 9) + "'/>")


_FIELDS = ("value", "text", "name", "pattern", "names", "find", "words", "note", "target")


def texts() -> Iterator[Shape]:
    """Shapes of what is typed into a field."""
    pairs = (("(", ")"), ("calc(", ")"), ("min(1,", ")"), ("color-mix(in oklch,", ",red)"), ("oklch(from ", " l c h)"),
             ("contrast-color(", ")"), ("{", "}"), ("[", "]"), ('{"parts":[["a",', "]]}"), ("abs(", ")"), ("1*(", ")"), ("-(", ")"),
             ("*", "*"), ("> ", ""), ("- ", ""), ("![", "]"), ("[", "](a)"), ("<", ">"))  # fmt: skip
    units = ("a", "1", " ", ".", "a.", "-", "+", "*", "/", "#", "{", "}", "{a}", "{a.b} ", "(", ")", "'", '"', ",", "0 ", "1px ", "1 + ",
             "red, ", "\\", "%", "e", "1e", "é", "💡", "\u202e", "ß", "٣", "_", "`", "*a", "~", "|a", "\n", "\r\n", "\t", "&", "<", "</", "!", ";", "@",
             "var(--a)", "calc(", "rgb(", "hue ", "none ", "https://a ", "[a", "](", "1*", "a*a*", "?", "**", ".*")  # fmt: skip
    for opening, closing in pairs:
        yield Shape(f"nested {opening}", _FIELDS, lambda n, r, o=opening, c=closing: nested(o, c, r.choice(("1", "red", "a", "")), min(n, 300_000)))  # type: ignore[misc]
    yield Shape("a unit again", _FIELDS, lambda n, r: of_size(r.choice(units), min(n, 300_000)))
    yield Shape("two units again", _FIELDS, lambda n, r: of_size(r.choice(units) + r.choice(units), min(n, 300_000)))
    yield Shape("units after a start", _FIELDS, lambda n, r: r.choice(("calc(", "rgb(", "0 1px ", "{", "#", "1")) + of_size(r.choice(units), min(n, 300_000)) + r.choice((")", "}", "", "1")))
    yield Shape("a sum", _FIELDS, lambda n, r: "calc(1" + of_size(r.choice((" + 1", " * 1", " - 1px", " / 1", " + {a.b}", "*-1")), min(n, 300_000)) + ")")


def shapes() -> list[Shape]:
    """Every shape."""
    return [*sheets(), *json_files(), *tables(), *texts()]


# What they go through
