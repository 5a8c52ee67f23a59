"""axe-core over every room, and its contrast ratios against the application's."""

import os

from playwright.sync_api import expect

from demo import quillhaven
from prism.contrast.rule_commands import PairByRule
from prism.model.document import Document
from prism.palette.pictures import read
from studio.store import pictures
from studio.store import projects as store
from tests.browser import axe
from tests.browser.base import StudioTestCase
from tests.builders import small_picture

ROOMS = ("palette", "tokens", "stage", "checks", "exchange")
#: States of the rooms.
STATES = (
    "tokens/?find=zzz",
    "tokens/?find=text&cell=text.link:dark",
    "palette/?swatch=spruce.8",
    "palette/?ramp=spruce",
    "palette/?ramp=spruce&view=tune",
    "palette/?ramp=spruce&view=steps",
    "palette/?ramp=spruce&view=curves",
    "palette/?view=purposes&notation=oklch",
    "palette/?view=coverage&notation=p3",
    "tokens/?cell=text.link:dark&view=page",
    "tokens/?group=text&folded=accent",
    "tokens/map/ladder",
    "tokens/map/link",
    "tokens/names/",
    "tokens/roles/",
    f"checks/?pairing={quillhaven.document().pairings[0].key}",
    "checks/?pairing=signal.go/signal.surface.go&fix=overlay",
    "checks/findings/?finding=elevation surface.card surface.page",
    "checks/?rule=focus",
    "checks/?by=background&only=failing",
    "checks/findings/?accepted=1",
    "checks/findings/?section=hygiene&finding=literal signal.hold",
    "checks/vision/",
    "checks/vision/?pair=signal.wait signal.stop",
    "checks/vision/?edit=set&severity=0.6",
    "checks/explore/",
    "checks/report/",
    "tokens/?add=:text",
    "tokens/?menu=semantic:text",
    "tokens/axes/",
    "tokens/axes/?adding=brand",
    "tokens/axes/?adding=axis",
    "tokens/axes/?adding=mode:appearance",
    "tokens/axes/propose?axis=appearance&source=light&name=night&scheme=dark",
    "palette/measures/",
    "checks/balance/",
    "checks/balance/?token=action.fill&brand=osprelle",
    "palette/measures/copy",
    "palette/import/",
    "palette/import/picture",
    "palette/import/picture?picture={picture}",
    "palette/ideas/",
    "stage/?at=20&zones=20=appearance:dark",
    "stage/?scene=parts&dock=slots&view=wipe&lens=tritan",
    "stage/?scene=crew&dock=zones&view=grid&light=accent.8",
    "stage/?scene=notice&dock=pairings&view=halves&state=hover",
    "palette/ideas/?words=calm+harbor&held=main:236b53:spruce&idea=1",
)
#: Whether everything is looked at everywhere, as ./dev long does.
MUCH = "NIMBLE_PRISM_CHANCE" in os.environ
_CHROME = "chrome => (document.documentElement.dataset.chrome = chrome)"


class RoomAxeTests(StudioTestCase):
    def setUp(self):
        super().setUp()
        built = PairByRule("", ("focus",)).apply(quillhaven.document())
        self.project = store.create(self.user, built)
        picture = read(small_picture(), "quay.png")
        self.picture = pictures.keep(self.project, self.user, "quay.png", picture)

    def violations(self, paths, chromes=()):
        """What axe-core finds wrong on any of ``paths``, each with its path; what another chrome changes is colors
        alone, so of ``chromes`` contrast is looked at: in each on the first path, in one on every second of the others,
        and in each on all where NIMBLE_PRISM_CHANCE asks for much."""
        found = []
        for number, path in enumerate(paths):
            answer = self.go(path)
            self.assertEqual(answer.status, 404 if path == "/nothing" else 200, path)
            found += [f"{path} {violation}" for violation in axe.violations(self.page)]
            in_turn = chromes if MUCH or not number else self.turn(chromes, number)
            for chrome in in_turn:
                self.page.evaluate(_CHROME, chrome)
                wrong = axe.violations(self.page, "color-contrast")
                found += [f"{path} {chrome} {violation}" for violation in wrong]
        return found

    def turn(self, chromes, number):
        """One chrome by turns on every second path."""
        return chromes[number // 2 % len(chromes) :][:1] if chromes and number % 2 else ()

    def check(self, room):
        """A room and its states in every chrome."""
        states = [room + "/", *(state for state in STATES if state.startswith(room))]
        paths = [f"/p/{self.project.code}/{state.format(picture=self.picture)}" for state in states]
        self.assertEqual(self.violations(paths, ("mid", "dark")), [])

    def test_no_violation_in_the_palette(self):
        self.check("palette")

    def test_no_violation_in_tokens(self):
        self.check("tokens")

    def test_no_violation_on_the_stage(self):
        self.check("stage")

    def test_no_violation_in_checks(self):
        self.check("checks")

    def test_no_violation_in_exchange(self):
        self.check("exchange")

    def test_no_violation_where_a_project_begins_in_any_chrome(self):
        self.go("/projects/new")
        self.page.fill("#id_more", "teal #0b6e75, straw #e0b13c")
        expect(self.page.locator("#preview-ramps")).to_contain_text("straw")
        self.page.locator("#preview-scenes iframe").first.wait_for()
        for chrome in ("light", "mid", "dark"):
            self.page.evaluate(_CHROME, chrome)
            self.assertEqual(axe.violations(self.page), [], chrome)

    def test_no_violation_outside_the_rooms_and_in_empty_ones(self):
        empty = store.create(self.user, Document(name="Empty"))
        paths = ["/projects/", "/projects/new", f"/projects/{empty.code}/settings", "/nothing"]
        paths += [f"/p/{empty.code}/{room}/" for room in ROOMS]
        self.assertEqual(self.violations(paths), [])
        self.go(paths[-1])
        self.page.keyboard.press("?")
        expect(self.page.locator("#keys")).to_be_visible()
        self.assertEqual(axe.violations(self.page), [])
        self.context.clear_cookies()
        self.assertEqual(self.violations(["/account/sign-in", "/account/join"]), [])
