"""axe-core over every room, and its contrast ratios against the application's."""

import math

from playwright.sync_api import expect

from demo import quillhaven
from prism.edits.rules import PairByRule
from prism.model.document import Document
from prism.palette.pictures import read
from studio.store import pictures
from studio.store import projects as store
from tests.browser import axe
from tests.browser.base import StudioTestCase
from tests.builders import small_picture

ROOMS = ("palette", "tokens", "stage", "checks", "exchange")

_TEXTS = """
() => {
  const found = [];
  for (const element of document.querySelectorAll("body *")) {
    const own = [...element.childNodes].some((n) => n.nodeType === 3 && n.data.trim());
    if (!own) continue;
    const fills = [];
    for (let at = element; at; at = at.parentElement) if (at.dataset.fill) fills.push(at.dataset.fill);
    found.push({ ink: element.closest("[data-ink]").dataset.ink, fills: fills.join(" ") });
    element.dataset.text = found.length - 1;
  }
  return found;
}
"""


class RoomAxeTests(StudioTestCase):
    def setUp(self):
        super().setUp()
        built = PairByRule("", ("focus",)).apply(quillhaven.document())
        self.project = store.create(self.user, built)
        picture = read(small_picture(), "quay.png")
        self.picture = pictures.keep(self.project, self.user, "quay.png", picture)

    def violations(self, paths, *rules):
        """What axe-core finds wrong on any of ``paths``, each with its path."""
        found = []
        for path in paths:
            answer = self.go(path)
            self.assertEqual(answer.status, 404 if path == "/nothing" else 200, path)
            found += [f"{path} {violation}" for violation in axe.violations(self.page, *rules)]
        return found

    def test_no_violation_in_any_room_in_any_chrome(self):
        states = (
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
            "checks/?rule=focus",
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
            f"palette/import/picture?picture={self.picture}",
            "palette/ideas/",
            "palette/ideas/?words=calm+harbor&held=main:236b53:spruce&idea=1",
        )
        small = [f"/p/{self.project.code}/{end}" for end in states]
        large = [f"/p/{self.project.code}/{room}/" for room in ROOMS]
        self.assertEqual(self.violations([*small, *large]), [])
        large.remove(f"/p/{self.project.code}/tokens/")
        for chrome in ("mid", "dark"):
            # Another chrome changes colors alone.
            cookie = {"name": "chrome", "value": chrome, "url": self.live_server_url}
            self.context.add_cookies([cookie])
            self.assertEqual(self.violations([*small, *large], "color-contrast"), [], chrome)

    def test_no_violation_where_a_project_begins_in_any_chrome(self):
        self.go("/projects/new")
        self.page.fill("#id_more", "teal #0b6e75, straw #e0b13c")
        expect(self.page.locator("#preview-ramps")).to_contain_text("straw")
        self.page.locator("#preview-scenes iframe").first.wait_for()
        for chrome in ("light", "mid", "dark"):
            self.page.evaluate(
                "chrome => (document.documentElement.dataset.chrome = chrome)", chrome
            )
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


class StageContrastTests(StudioTestCase):
    """axe-core 4.14 measures each text of both panes; the application says the same ratio."""

    def shown(self):
        """The ratios that the Stage shows, by ink and fills, one list for each pane."""
        rows = self.page.locator("#readings tbody tr, #readings > tr")
        found = {}
        for row in rows.all():
            key = (row.get_attribute("data-ink"), row.get_attribute("data-fills"))
            if key[0]:
                ratios = [
                    one.evaluate("e => e.lastChild.previousSibling?.data ?? e.textContent")
                    for one in row.locator(".ratio").all()
                ]
                found[key] = [ratio.split(":")[-1].strip() for ratio in ratios]
        return found

    def test_every_text_of_both_panes_has_the_ratio_that_axe_measures(self):
        project = store.create(self.user, quillhaven.document())
        incomplete = []
        for theme in ("", "appearance:dark,brand:osprelle", "appearance:dim,brand:vexley"):
            self.go(f"/p/{project.code}/stage/?theme={theme}")
            shown = self.shown()
            panes = [one.get_attribute("src") for one in self.page.locator("iframe").all()]
            self.assertEqual(len(panes), 2)
            for index, source in enumerate(panes):
                pane = self.context.new_page()
                pane.goto(self.live_server_url + source)
                texts = pane.evaluate(_TEXTS)
                result = axe.run(pane, "color-contrast")
                measured = {}
                for kind in ("passes", "violations"):
                    for one in result[kind]:
                        for node in one["nodes"]:
                            data = next(
                                a["data"] for a in node["any"] if a["id"] == "color-contrast"
                            )
                            number = pane.eval_on_selector(node["target"][0], "e => e.dataset.text")
                            measured[int(number)] = data["contrastRatio"]
                for one in result["incomplete"]:
                    for node in one["nodes"]:
                        reason = next(a["data"].get("messageKey") for a in node["any"])
                        incomplete.append((node["target"][0], reason))
                self.assertGreaterEqual(len(measured), 40)
                stacked = 0
                for number, ratio in measured.items():
                    text = texts[number]
                    key = (text["ink"], text["fills"])
                    stacked += "veil" in text["fills"]
                    said = shown[key][index]
                    self.assertEqual(
                        f"{math.floor(ratio * 100 + 1e-9) / 100:.2f}", said, (theme, index, key)
                    )
                self.assertGreaterEqual(stacked, 4)
                pane.close()
        self.assertEqual(incomplete, [], "axe-core left these without a ratio")
