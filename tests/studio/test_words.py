"""What a person reads on every page that links lead to: words, and no program text.

Five projects of different kinds are walked by their links; what stands in texts, titles, labels and hints is looked at.
"""

import re
from collections import deque
from html.parser import HTMLParser
from pathlib import Path
from urllib.parse import parse_qsl, urljoin, urlsplit

from demo import quillhaven
from prism import starters
from prism.formats import style_sheets
from prism.model.document import Document, Pairing
from prism.starters.plan import NamedColor, sorted_out
from tests.builders import axis, counter_keys, document, token
from tests.studio.cases import RoomCase

DATA = Path(__file__).parent.parent / "data"
#: Pages that are looked at in one project at most.
_MOST = 130
_SHOWN = ("title", "aria-label", "placeholder", "alt", "aria-valuetext")
_NOUNS = "tokens|themes|modes|pairings|values|colors|ramps|names|rows|findings|scenes|slots|members|axes|steps|sets|swatches"
_INLINE = frozenset(
    (
        "b",
        "strong",
        "em",
        "i",
        "span",
        "a",
        "kbd",
        "small",
        "sup",
        "sub",
        "abbr",
        "mark",
        "u",
        "code",
    )
)
#: What nobody should read. A word in quotation marks or code may be a name that somebody gave.
WRONG = {
    "a repr": re.compile(
        r"\b[A-Za-z_]+\([a-z_]+=|<[a-z_.]+ object at|\bObject\(|\bdict_|datetime\.|\[object "
    ),
    "a template tag": re.compile(r"\{\{|\}\}|\{%|%\}|\{#"),
    "a constant": re.compile(
        r"(?<![\w“‘\"'-])(?:None|True|False|null|undefined|NaN)(?![\w”’\"'-])"
    ),
    "an escaped entity": re.compile(r"&(?:amp|lt|gt|quot|#\d+|#x[0-9a-f]+);"),
    "a count of one with a plural": re.compile(rf"(?<![\d.,-])1 (?:{_NOUNS})\b"),
    "a number twice": re.compile(r"(?<![\d.,#:])(\d+) \1 [a-z]"),
    "a list": re.compile(r"\[['\"]|\('[^)]*',"),
    "a full stop twice": re.compile(r"[a-z]\.\.(?!\.)(?:\s|$)|\.;"),
}


class Reader(HTMLParser):
    """The texts of a page, those of attributes that are read out, and its links."""

    def __init__(self):
        super().__init__(convert_charrefs=True)
        self.texts, self.links, self._hidden = [], [], []

    def handle_starttag(self, tag, attributes):
        known = dict(attributes)
        self.between(tag)
        if tag in ("script", "style", "code", "template", "textarea"):
            self._hidden.append(tag)
        self.texts += [f"⏐ {known[name]} ⏐" for name in _SHOWN if known.get(name)]
        if tag == "a" and known.get("href"):
            self.links.append(known["href"])

    def between(self, tag):
        """What stands in one thing is not read on in the next."""
        if tag not in _INLINE:
            self.texts.append("⏐")

    def handle_endtag(self, tag):
        self.between(tag)
        if self._hidden and self._hidden[-1] == tag:
            self._hidden.pop()

    def handle_data(self, data):
        if not self._hidden:
            self.texts.append(data)


def foreign():
    """A style sheet of somebody else, with modes and dashed names."""
    sheet = (DATA / "foreign" / "sheet.css") if (DATA / "foreign" / "sheet.css").exists() else None
    text = sheet.read_bytes() if sheet else (
        b":root { --bg: #fff; --fg: #222; --btn-primary-bg: #0a58ca; --btn-primary-color: #fff; --font: 'Made Up', serif;"
        b" --shadow: 0 1px 2px #0003; --gap: 4px; --rgb: 13, 110, 253; --soft: rgba(var(--rgb), .2) }"
        b" [data-theme=dark] { --bg: #111; --fg: #eee } @media (prefers-contrast: more) { :root { --fg: #000 } }"
    )  # fmt: skip
    return style_sheets.read(text, "x.css", counter_keys()).document


def broken():
    """References to nothing, circles, one of each thing, and no pairing that passes."""
    return document(
        token("a", "{b}"),
        token("b", "{a}"),
        token("gone", "{nothing.here}"),
        token("text.main", "#777777"),
        token("surface.page", "#888888", tier="raw"),
        token("wide", "color(display-p3 1 0 0)"),
        token("label", "None", type="string"),
        axes=(axis("look", "only"),),
        pairings=(Pairing("p", "text.main", ("surface.page",)),),
    )


class WordsTests(RoomCase):
    def walk(self, name, built):
        """Every page that links of a project lead to, each once for what it shows; how many there were."""
        project = self.make(built)
        start = f"/p/{project.code}/"
        rooms = ("palette/", "tokens/", "stage/", "checks/", "exchange/", "settings")
        queue = deque(
            [f"{start}{room}" for room in rooms]
            + ["/projects/", "/projects/new", "/account/password"]
        )
        seen, pages = set(), 0
        while queue and pages < _MOST:
            address = queue.popleft()
            parts = urlsplit(address)
            kind = (parts.path, tuple(sorted(member for member, _ in parse_qsl(parts.query))))
            if kind in seen:
                continue
            seen.add(kind)
            answer = self.client.get(address)
            if answer.status_code in (301, 302):
                queue.append(urljoin(address, answer["Location"]))
                continue
            if "text/html" not in answer.get("Content-Type", ""):
                continue
            self.assertLess(answer.status_code, 500, address)
            pages += 1
            reader = Reader()
            reader.feed(answer.content.decode())
            self.look(name, address, reader)
            for link in reader.links:
                target = urljoin(address, link)
                if (
                    urlsplit(target).path.startswith((start, "/projects"))
                    and not urlsplit(target).netloc
                ):
                    queue.append(target)
        return pages

    def look(self, name, address, reader):
        text = " ".join(" ".join(reader.texts).split())
        for what, wrong in WRONG.items():
            found = wrong.search(text)
            if found:
                around = text[max(0, found.start() - 60) : found.end() + 60]
                self.wrong.setdefault((what, found[0]), f"{name} {address}: …{around}…")

    def test_every_page_of_five_projects(self):
        keys = counter_keys()
        plan = sorted_out([NamedColor("moor", "#8a2f6b"), NamedColor("", "#0b7")])
        projects = {
            "demo": quillhaven.document(),
            "starter": starters.build(plan, keys),
            "foreign": foreign(),
            "empty": Document(name="Empty"),
            "broken": broken(),
        }
        self.wrong, pages = {}, {}
        for name, built in projects.items():
            pages[name] = self.walk(name, built)
        if self.wrong:
            self.fail("\n".join([str(pages), *self.wrong.values()]))
        self.assertGreater(sum(pages.values()), 200, pages)
        for number in pages.values():
            self.assertGreater(number, 15, pages)


class ReaderTests(RoomCase):
    def test_what_must_not_be_read_is_found(self):
        for what, text in (
            ("a repr", "Fix(words='Lift')"), ("a template tag", "{{ count }}"), ("a constant", "Role: None"),
            ("an escaped entity", "a &amp;amp; b"), ("a count of one with a plural", "1 tokens"),
            ("a number twice", "2 2 themes"), ("a list", "['a', 'b']"), ("a full stop twice", "Fixed.. "),
        ):  # fmt: skip
            reader = Reader()
            reader.feed(f"<p title='x'>{text}</p>")
            self.assertTrue(WRONG[what].search(" ".join(reader.texts)), what)
        for text in (
            "11 tokens",
            "1 token",
            "21 2 themes",
            "None of “None”",
            "noNe",
            "v1.2 2 b",
            "#111 1",
        ):
            self.assertFalse(
                any(w.search(text) for k, w in WRONG.items() if k != "a constant"), text
            )
