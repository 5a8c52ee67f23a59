"""The jobs: what is done by hand, and the proof that it is done."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from itertools import count
from pathlib import Path

from django.contrib.auth.models import User

from bench.jobs import proofs
from bench.jobs.hand import Hand
from bench.jobs.proofs import proved
from prism import starters
from prism.analysis import Analysis
from prism.brands import addition
from prism.changes import links
from prism.contrast.rule_commands import PairByRule
from prism.formats import css, files
from prism.model.document import Document
from prism.starters.plan import NamedColor, sorted_out
from studio.rooms.stage import library
from studio.store import projects as store
from studio.store.models import Project
from tests import roles
from tests.asked import right

DATA = Path(__file__).resolve().parents[2] / "tests" / "data" / "jobs"


@dataclass(frozen=True, slots=True)
class Job:
    """A job: its number, what it is, how many actions it may take, and how it is done and proved."""

    id: str
    title: str
    most: int
    do: Callable[[Hand, User], str]


def _project(owner: User, document: Document) -> Project:
    """A project of the person, alone on the list."""
    Project.objects.all().delete()
    store.forget_all()
    return store.create(owner, document)


def _imported(name: str) -> Document:
    return files.read({name: (DATA / name).read_bytes()}, store.new_key).document


def _now(project: Project) -> Document:
    project.refresh_from_db()
    store.forget_all()
    return store.load(project).document


def _scheme(hand: Hand, owner: User) -> str:
    Project.objects.all().delete()
    _project(owner, Document(name="Other work"))
    hand.begin()
    hand.click("#new-project")
    hand.type("Copper Lane", "#id_name")
    hand.paste("teal #0b6e75, plum #7a3b69, straw #e0b13c", "#id_more")
    hand.page.locator("#preview-ramps", has_text="straw").wait_for()
    hand.click("#create")
    hand.click("#room-6")
    sheet = hand.download("#export-css")
    project = Project.objects.get(name="Copper Lane")
    document = _now(project)
    proved(not proofs.falling_short(document), "a pairing falls short")
    again = proofs.document_of(sheet)
    proved(len(again.axes) == 1 and len(again.axes[0].modes) == 2, "the file has not both modes")
    typed = {"#0b6e75", "#7a3b69", "#e0b13c"}
    stored = {getattr(token.value(), "text", "") for token in document.tokens}
    proved(typed <= stored, "a color that was typed is not in the project")
    compared = proofs.same_in_chromium(hand.page, sheet, document)
    pairings = len(Analysis(document).paired.pairings)
    return f"{pairings} pairings pass in both modes; {compared} colors equal in Chromium"


def _link(hand: Hand, owner: User) -> str:
    project = _project(owner, _imported("literals.css"))
    before = _literals(_now(project))
    hand.begin()
    hand.click("a.project-name")
    hand.click("#tab-link")
    hand.click("#select-near")
    hand.click("#store-links")
    after = _literals(_now(project))
    proved(before == 54 and after == 0, f"{before} literals before, {after} after")
    return f"{before} literals, all of them linked"


def _literals(document: Document) -> int:
    proposal = links.propose(document)
    return len(proposal.links) + len(proposal.unmatched)


def _dark(hand: Hand, owner: User) -> str:
    document = _imported("literals.css")
    project = _project(owner, links.link(document, links.propose(document).links))
    hand.begin()
    hand.click("a.project-name")
    hand.click("#tab-axes")
    hand.click("#propose-dark")
    hand.click("#take-mode")
    hand.click("#room-3")
    after = _now(project)
    scene = library.scene_of(library.find(after, ""), after.name)
    proved(len(after.axes) == 1 and len(after.axes[0].modes) == 2, "there is no dark mode")
    proved(not proofs.scene_falling_short(after, scene), "a text of the scene cannot be read")
    shown = hand.page.locator(".pane").count()
    return f"every text of the scene reaches 4.5 in both modes, in {shown} panes side by side"


def _brand(hand: Hand, owner: User) -> str:
    plan = replace(sorted_out([NamedColor("harbor", "#2b5d8a")]), name="Harbor Mill")
    numbers = count()
    document = starters.build(plan, lambda: f"s{next(numbers)}")
    project = _project(owner, document)
    hand.begin()
    hand.click("a.project-name")
    hand.click("#tab-axes")
    hand.click("#add-brand")
    hand.type("Copper Lane", "#brand-name")
    hand.key("Tab")
    hand.type("#b4552d")
    hand.click("#add-brand-button")
    after = _now(project)
    axis = addition.axis_of(after)
    proved(axis is not None and len(axis.modes) == 2, "there is no second brand")
    proved(not proofs.falling_short(after), "a pairing falls short")
    paths = [token.path for token in document.tokens if token.tier != "raw"]
    same = [token.path for token in after.tokens if token.tier != "raw"] == paths
    proved(same, "a token was made twice")
    themes = Analysis(after).resolver.theme_count
    return f"every pairing passes in {themes} themes; no token was made twice"


def _failing(owner: User) -> Project:
    """A project in two modes and two brands in which some pairings fall short."""
    plan = replace(sorted_out([NamedColor("harbor", "#2b5d8a")]), name="Harbor Mill")
    numbers = count()
    built = starters.build(plan, lambda: f"s{next(numbers)}")
    new = addition.NewBrand("Copper Lane", (("copper", "#b4552d"),))
    built = addition.add(built, new, lambda: f"s{next(numbers)}").document
    document = files.read(
        {"failing.css": _weakened(built).encode()}, lambda: f"s{next(numbers)}"
    ).document
    return _project(owner, document)


def _weakened(document: Document) -> str:
    """A style sheet of a document with three colors that are too weak."""
    text = css.write(document)
    for old, new in (
        ("--text-hint: var(--neutral-8)", "--text-hint: var(--neutral-6)"),
        ("--status-error-text: var(--error-8)", "--status-error-text: var(--error-6)"),
        ("--line-strong: var(--neutral-5)", "--line-strong: var(--neutral-8)"),
    ):
        proved(old in text, f"{old} is not in the style sheet")
        text = text.replace(old, new)
    return text


def _see(hand: Hand, owner: User) -> str:
    project = _failing(owner)
    _with_rules(project, owner)
    hand.begin()
    hand.click('.room-links a:text-is("Checks")')
    analysis = Analysis(_now(project))
    wanted = {
        (reading.pairing, reading.shown) for reading in proofs.falling_short(analysis.document)
    }
    shown = set()
    for row in hand.page.locator("#matrix tbody tr").all():
        key = row.get_attribute("data-row") or ""
        for cell in row.locator("td.bad .ratio").all():
            shown.add((key, (cell.inner_text().split() or [""])[-1]))
    proved(shown == wanted, f"{len(shown)} shown, {len(wanted)} fall short")
    columns = hand.page.locator("#matrix thead tr").last.locator("th").count() - 2
    proved(columns == analysis.resolver.theme_count, "a theme is not shown")
    pairings = len({key for key, _ in wanted})
    return f"{pairings} failing pairings, each ratio in each of {columns} themes"


def _with_rules(project: Project, owner: User) -> None:
    store.save(project, PairByRule(), owner)


def _fix(hand: Hand, owner: User) -> str:
    project = _failing(owner)
    _with_rules(project, owner)
    before = set(Analysis(_now(project)).failing)
    hand.begin()
    hand.click('.room-links a:text-is("Checks")')
    hand.click("#matrix td.need a.small-btn")
    hand.click("#fixes button")
    after = set(Analysis(_now(project)).failing)
    proved(after < before, "nothing is fixed")
    return f"{len(before)} pairings fell short, {len(after)} do now; none that passed falls short"


def _eyes(hand: Hand, owner: User) -> str:
    project = _failing(owner)
    hand.begin()
    hand.click('.room-links a:text-is("Checks")')
    hand.click("#tab-vision")
    document = _now(project)
    shown = {}
    for row in hand.page.locator("#telling tbody tr").all():
        names = row.locator("th").inner_text().split(" and ")
        numbers = [cell.inner_text().split()[0] for cell in row.locator("td").all()]
        shown[tuple(name.strip() for name in names)] = [float(number) for number in numbers]
    wrong = proofs.seen_otherwise(document, shown)
    proved(len(shown) >= 6 and not wrong, f"{len(shown)} pairs, {wrong} differ")
    return f"{len(shown)} pairs in five kinds of sight over all themes, as coloraide has them"


def _picture(hand: Hand, owner: User) -> str:
    project = _project(owner, Document(name="Six colors"))
    hand.begin()
    hand.click("a.project-name")
    hand.click("#begin-picture")
    hand.file("#picture-file", DATA / "awning.png")
    hand.click("#read-button")
    hand.click("#take-roles")
    hand.click("#store-picture")
    after = _now(project)
    names = {ramp.name for ramp in after.ramps} | {token.top for token in after.tokens}
    wanted = {"page", "text", "brand", "accent", "success", "error"}
    proved(wanted <= names, f"missing: {', '.join(sorted(wanted - names))}")
    return "page, text, brand, accent, success and error, each of a color of the picture"


#: Whether every pane shows its scene, and the grounds of all.
_SHOWN = """() => {
  const frames = [...document.querySelectorAll(".pane iframe")].map((one) => one.contentDocument);
  return frames.length > 1 && frames.every((one) => one?.URL.includes("/stage/pane") && one.readyState === "complete");
}"""
_GROUNDS = """() => [...document.querySelectorAll(".pane iframe")].map(
  (one) => one.contentWindow.getComputedStyle(one.contentDocument.body).backgroundColor)"""


def _theme(hand: Hand, owner: User) -> str:
    plan = replace(sorted_out([NamedColor("harbor", "#2b5d8a")]), name="Harbor Mill")
    numbers = count()
    project = _project(owner, starters.build(plan, lambda: f"s{next(numbers)}"))
    hand.begin()
    hand.click('.room-links a:text-is("Stage")')
    hand.page.wait_for_function(_SHOWN)
    grounds = set(hand.page.evaluate(_GROUNDS))
    analysis = Analysis(_now(project))
    page = analysis.bindings["page"]
    wanted = {
        analysis.resolver.resolve(page.key, theme).css for theme in analysis.resolver.themes()
    }
    proved(len(grounds) == 2 == len(wanted), f"{len(grounds)} grounds, {len(wanted)} wanted")
    return "light and dark side by side, painted as the resolver says"


#: What the words of the kiosk mean to the person who made it.
_MEANT = {
    "slate": "surface", "chalk": "text", "rope": "line", "hull": "action", "thin": "quiet", "thick": "strong",
    "trace": "hint", "plank": "page", "ferry": "name", "board": "name",
}  # fmt: skip


def _understood(hand: Hand, owner: User) -> str:
    keyed = roles.read("untaught/kiosk")
    project = _project(owner, keyed.document)
    before = right(keyed, Analysis(_now(project)))
    hand.begin()
    hand.click('.room-links a:text-is("Tokens")')
    hand.click("#tab-roles")
    wanted = 0.88 * len(keyed.roles)
    while (known := right(keyed, Analysis(_now(project)))) < wanted:
        word = hand.page.locator("#asked strong").first.inner_text().lower()
        answer = hand.page.locator(f".choice[value={_MEANT[word]}]")
        hand.key(str(answer.get_attribute("data-key")))
    proved(before == 0, f"{before} were known before")
    return f"{known} of {len(keyed.roles)} colors have the role of the key, {before} had it before"


JOBS = (
    Job("J0", "three brand colors to light and dark, every rule passing, CSS out", 10, _scheme),
    Job("J1", "54 literals (some near, not equal) linked to a palette", 5, _link),
    Job("J2", "dark for those 54, everything readable on a scene", 6, _dark),
    Job("J4", "a second brand over light and dark", 8, _brand),
    Job("J5", "every failing pairing in every theme seen", 1, _see),
    Job("J6", "one of them fixed", 3, _fix),
    Job("J7", "the color-blind check of a palette", 2, _eyes),
    Job("J8", "six roles from a picture", 8, _picture),
    Job("J9", "the whole interface in another theme", 1, _theme),
    Job("J13", "114 colors under names of their own understood", 10, _understood),
)
