"""A report: everything the checks find in a document, over what they looked, and what was accepted."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass

from prism import checks
from prism.analysis import Analysis
from prism.check import Severity
from prism.checks import BY_ID, CHECKS, SECTIONS, Finding, Section
from prism.model.document import Document, shown_path

#: From the worst to the least.
SEVERITIES: tuple[Severity, ...] = ("error", "warning", "note")


@dataclass(frozen=True, slots=True)
class Item:
    """A finding as others read it: an id that stays while nothing is renamed, the paths of its tokens, what is
    accepted and by whom; ``is_new`` tells that an earlier report or revision did not have it."""

    id: str
    section: Section
    title: str
    finding: Finding
    paths: tuple[str, ...]
    is_open: bool
    is_new: bool = False


@dataclass(frozen=True, slots=True)
class Glance:
    """A check with over what it looked, and how much it found that is open and was accepted."""

    id: str
    section: Section
    title: str
    why: str
    looked: str
    judged: int
    open: int
    accepted: int

    @property
    def words(self) -> str:
        """What came of it; never that all is well where it looked at nothing."""
        if not self.judged:
            return f"not judged: {self.looked}"
        return f"{self.open or 'nothing'} found in {self.looked}"


@dataclass(frozen=True, slots=True)
class Report:
    """All findings of a document by the day ``today``, as ``2026-12-31``, in how many themes."""

    name: str
    themes: int
    today: str
    glances: tuple[Glance, ...]
    items: tuple[Item, ...]

    @property
    def open(self) -> list[Item]:
        """What nobody has accepted, the worst first."""
        items = (item for item in self.items if item.is_open)
        return sorted(items, key=lambda item: SEVERITIES.index(item.finding.severity))

    @property
    def accepted(self) -> list[Item]:
        """What was accepted with a reason."""
        return [item for item in self.items if not item.is_open]

    @property
    def fresh(self) -> list[Item]:
        """What is open and new."""
        return [item for item in self.open if item.is_new]

    def count(self, section: str) -> int:
        """How much is open in a section."""
        return sum(item.section == section for item in self.open)

    @property
    def counts(self) -> dict[str, int]:
        """How much is open in each section."""
        return {section: self.count(section) for section in SECTIONS}

    def by_severity(self) -> dict[str, int]:
        """How much is open of each severity."""
        severities = [item.finding.severity for item in self.open]
        return {severity: severities.count(severity) for severity in SEVERITIES}

    @property
    def judged_pairings(self) -> int:
        """How many pairings were judged."""
        return next(glance.judged for glance in self.glances if glance.id == "contrast")


def report(
    analysis: Analysis,
    today: str = "",
    known: Collection[str] | None = None,
    beside: Iterable[Finding] = (),
) -> Report:
    """Everything the checks find, and what was found ``beside`` them as a file was read. ``known`` are ids of findings
    that an earlier report had; what is not among them is new."""
    document = analysis.document
    items = tuple(_items(document, [*analysis.once(checks.findings), *beside], today, known))
    glances = []
    for check in CHECKS:
        looked = check.looked(analysis)
        own = [item for item in items if item.finding.check == check.id]
        count = sum(item.is_open for item in own)
        glances.append(
            Glance(
                *(check.id, check.section, check.title, check.why, looked.words, looked.count),
                *(count, len(own) - count),
            )
        )
    return Report(document.name, analysis.resolver.theme_count, today, tuple(glances), items)


def _items(
    document: Document, findings: Iterable[Finding], today: str, known: Collection[str] | None
) -> Iterator[Item]:
    names = _names(document)
    for finding in findings:
        check = BY_ID[finding.check]
        paths = _paths(document, finding)
        known_as = _id(finding, paths, names)
        yield Item(
            *(known_as, check.section, check.title, finding, paths, finding.is_open(today)),
            is_new=known is not None and known_as not in known,
        )


def finding_ids(document: Document, findings: Iterable[Finding]) -> frozenset[str]:
    """What findings are known by outside: the check, the paths of the tokens, and the names of the modes they are
    about, for each import makes other keys."""
    names = _names(document)
    return frozenset(_id(finding, _paths(document, finding), names) for finding in findings)


def _paths(document: Document, finding: Finding) -> tuple[str, ...]:
    tokens = map(document.token, finding.tokens)
    return tuple(shown_path(token.path) for token in tokens if token is not None)


def _id(finding: Finding, paths: Iterable[str], names: Mapping[str, str]) -> str:
    about = (names.get(word, word) for word in finding.about.split())
    return " ".join((finding.check, *paths, *about))


def _names(document: Document) -> dict[str, str]:
    """The names of axes, modes, ramps and sets by their keys."""
    names = {mode.key: mode.name for axis in document.axes for mode in axis.modes}
    names |= {axis.key: axis.name for axis in document.axes}
    names |= {ramp.key: ramp.name for ramp in document.ramps}
    return names | {members.key: members.name for members in document.telling_apart}
