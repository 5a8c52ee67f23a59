"""What a click shows in place of a page is what the server would show at the same address, whatever was shown before."""

from __future__ import annotations

import random

from playwright.sync_api import expect

from demo import quillhaven
from tests.browser.test_tokens import TokensCase
from tests.browser.test_typing import strange

CLICKS = 60
#: The links of a region that lead to other places of the same project, by their places among all.
LINKS = """() => [...document.querySelectorAll("np-region a[href]")].flatMap((link, place) =>
  link.checkVisibility({ visibilityProperty: true }) && link.pathname?.startsWith("/p/") && !link.download
  && !link.target && !link.hasAttribute("data-whole") ? [place] : [])"""
#: What a region says and links to, beside rows that come later, here and as the server sends it whole.
BOTH = """async () => {
  const region = document.querySelector("np-region");
  const parts = (root) => {
    const copy = root.cloneNode(true);
    const gone = "template, tbody.later, tbody[id^=rows-], np-more, .some, #notes, np-stage, #picked, .options";
    for (const one of copy.querySelectorAll(gone)) one.remove();
    const words = (element) => element.textContent.replace(/\\s+/g, " ").trim();
    return [...copy.querySelectorAll("a[href], button, summary, th, td, h2, p, option, code")].map((one) =>
      [one.localName, one.id, one.getAttribute("href") ?? "", one.getAttribute("aria-current") ?? "", words(one)].join(" | "));
  };
  const answer = await fetch(location.href, { headers: { "X-Region": "room" } });
  const fresh = new DOMParser().parseFromString(await answer.text(), "text/html").body;
  return [parts(region), parts(fresh)];
}"""


class SwapTests(TokensCase):
    def walk(self, built, seed):
        self.start(built)
        chance = random.Random(seed)
        self.open("")
        shown, held = [], []
        self.page.on(
            "request", lambda asked: held.extend(asked.headers.get("x-held", "").split()[:1])
        )
        for _ in range(CLICKS):
            places = self.page.evaluate(LINKS)
            place = chance.choice(places)
            was = self.page.url
            self.page.evaluate(
                "place => document.querySelectorAll('np-region a[href]')[place].click()", place
            )
            self.page.wait_for_function(
                "() => { const r = document.querySelector('np-region'); return r && !r.hasAttribute('aria-busy'); }"
            )
            self.page.wait_for_load_state("networkidle")
            here, there = self.page.evaluate(BOTH)
            self.assertEqual(here, there, f"{was} to {self.page.url}")
            shown.append(self.page.url)
        self.assertGreater(len(set(shown)), CLICKS // 3)
        self.assertGreater(len(held), CLICKS // 2)

    def test_any_link_after_any_other_in_the_demo(self):
        self.walk(quillhaven.document(), 1)

    def test_any_link_after_any_other_in_a_project_of_other_names(self):
        self.walk(strange(), 2)

    def test_a_refusal_is_shown_though_a_part_that_it_counts_on_has_changed_meanwhile(self):
        built = quillhaven.document()
        self.start(built)
        self.open("?cell=text.main:light")
        self.page.evaluate(
            """() => {
              const real = window.fetch;
              window.fetch = async (...asked) => {
                const answer = await real(...asked);
                for (const row of document.querySelectorAll("tr[data-row]")) row.classList.toggle("changed");
                return answer;
              };
            }"""
        )
        self.page.fill("#value", "{nothing}")
        self.page.press("#value", "Enter")
        expect(self.page.locator("#problem")).to_contain_text("{nothing} does not exist")
        expect(self.page.locator("#value")).to_have_value("{nothing}")
        self.page.fill("#value", "ink.9")
        self.page.press("#value", "Enter")
        expect(self.page.locator("#undo")).to_be_enabled()
        self.assertEqual(self.stored().token("text.main").values[0][1].text, "{ink.9}")
