"""Typing into the sheet as on a real connection: 150 ms away, never a letter lost."""

import random

from django.contrib.auth import get_user_model
from playwright.sync_api import expect

from prism.changes.structure import remove_tokens
from prism.model.document import Pairing
from prism.model.values import Condition, Expression
from studio.store import projects as store
from studio.store.models import Membership, Project
from tests.browser.test_tokens import TokensCase
from tests.builders import axis, document, token

LATENCY = 150
LOOK = axis("look", "light", "night")


def strange(count=60, long=False):
    """A project with names of somebody else's: dashes, white surfaces, literals; ``long`` ones too."""
    tokens = [
        token("grey-0", "#ffffff", tier="raw"),
        token("grey-900", "#101418", tier="raw"),
        *(token(f"btn-primary-bg-{i}", "#ffffff", tier="raw", key=f"b{i}") for i in range(count)),
    ]
    if long:
        dotted = "color.interactive.surface.raised.container.high.emphasis"
        tokens += [
            token(f"{dotted}.{state}", "{grey-0}", key=f"l{i}")
            for i, state in enumerate(("rest", "hover", "pressed-and-selected"))
        ]
        tokens.append(token("very-long-dashed-name-of-a-primary-button-background-hover", "#fff"))
        pairing = Pairing("long", "l0", ("l1",))
        return document(*tokens, axes=(LOOK,), pairings=(pairing,))
    return document(*tokens, axes=(LOOK,))


class SlowCase(TokensCase):
    def setUp(self):
        super().setUp()
        self.start(strange())
        self.slow(self.page)
        self.open("")
        # Keys are heard once the scripts are there, as a person would see by the cursor.
        self.page.wait_for_function("document.querySelector('np-sheet')?.matches(':defined')")

    def slow(self, page, latency=LATENCY):
        """Put the server ``latency`` ms away."""
        self.network = self.context.new_cdp_session(page)
        self.network.send("Network.enable")
        self.offline(False, latency)

    def offline(self, offline, latency=LATENCY):
        self.network.send(
            "Network.emulateNetworkConditions",
            {
                "offline": offline,
                "latency": latency,
                "downloadThroughput": -1,
                "uploadThroughput": -1,
            },
        )

    def settled(self):
        """Wait until everything is stored and shown."""
        expect(self.page.locator("np-region:not([aria-busy])")).to_have_count(1)
        expect(self.page.locator("a.cell.pending")).to_have_count(0)

    def value(self, key, mode=None):
        condition = Condition.of({"look": mode} if mode else {})
        value = self.stored().token(key).value(condition)
        return value.text if value else None


class TypingTests(SlowCase):
    def type_entries(self, pace, seed):
        rng = random.Random(seed)
        entries = [f"#{rng.randrange(16**6):06x}" for _ in range(20)]
        self.cell("b0", "light").focus()
        for entry in entries:
            self.page.keyboard.type(entry, delay=pace)
            self.page.wait_for_timeout(pace)
            self.page.keyboard.press("Enter")
            self.page.wait_for_timeout(rng.choice((pace, pace, pace, 700)))
        self.settled()
        self.assertEqual([self.value(f"b{i}") for i in range(20)], entries)

    def test_twenty_entries_at_60_ms_a_key(self):
        self.type_entries(60, 1)

    def test_twenty_entries_at_120_ms_a_key(self):
        self.type_entries(120, 2)

    def type_two_and_hold_the_page(self):
        """Two entries, and the page that is asked for then; it comes once the route is let on."""
        late = []

        def hold(route):
            asked = route.request
            if asked.method == "GET" and "x-region" in asked.headers and not late:
                late.append(route)
            else:
                route.continue_()

        self.page.route("**/tokens/**", hold)
        self.cell("b0", "light").focus()
        for entry in ("#111111", "#222222"):
            self.page.keyboard.type(entry)
            self.page.keyboard.press("Enter")
        for _ in range(100):
            if late:
                break
            self.page.wait_for_timeout(50)
        return late[0]

    def test_who_has_gone_on_while_the_page_comes_afresh_is_left_where_they_are(self):
        late = self.type_two_and_hold_the_page()
        self.press("ArrowDown", "ArrowDown")
        self.page.evaluate(
            "addEventListener('np-region-swapped', () => document.body.classList.add('came'))"
        )
        late.continue_()
        expect(self.page.locator("body.came")).to_have_count(1)
        self.page.keyboard.type("#333333")
        self.page.keyboard.press("Enter")
        self.settled()
        values = [self.value(f"b{i}") for i in range(6)]
        self.assertEqual(values, ["#111111", "#222222", "#ffffff", "#ffffff", "#333333", "#ffffff"])

    def test_what_is_typed_while_the_page_comes_afresh_is_not_shown_as_before(self):
        late = self.type_two_and_hold_the_page()
        self.page.keyboard.type("#333333")
        self.page.keyboard.press("Enter")
        late.continue_()
        self.page.wait_for_timeout(300)
        expect(self.cell("b2", "light")).to_contain_text("#333333")
        expect(self.page.locator("np-region")).to_have_attribute("aria-busy", "true")
        self.settled()
        self.assertEqual([self.value(f"b{i}") for i in range(3)], ["#111111", "#222222", "#333333"])

    def test_typing_right_after_a_click_and_after_enter(self):
        self.cell("b1", "night").click(no_wait_after=True)
        self.page.keyboard.type("grey-900", delay=20)
        self.page.keyboard.press("Tab")
        self.settled()
        self.assertEqual(self.value("b1", "night"), "{grey-900}")
        self.cell("b2", "light").focus()
        self.page.keyboard.press("Enter")
        self.page.keyboard.type("#123456", delay=60)
        self.page.keyboard.press("Enter")
        self.settled()
        self.assertEqual(self.value("b2"), "#123456")

    def test_a_value_opened_beside_the_sheet_is_replaced_by_what_is_typed(self):
        self.cell("b1", "light").click()
        expect(self.page.locator("#value")).to_be_focused()
        self.page.keyboard.type("#0a0b0c")
        self.page.keyboard.press("Enter")
        self.settled()
        expect(self.cell("b1", "light")).to_contain_text("#0a0b0c")
        self.assertEqual(self.value("b1"), "#0a0b0c")

    def test_what_cannot_be_stored_is_shown_with_what_was_typed(self):
        self.cell("b0", "light").focus()
        for entry in ("#111111", "nothing-here", "#333333"):
            self.page.keyboard.type(entry, delay=30)
            self.page.keyboard.press("Enter")
        self.settled()
        expect(self.page.locator("#problem")).to_contain_text("“nothing-here” is not a color.")
        expect(self.page.locator("#value")).to_have_value("nothing-here")
        self.assertEqual([self.value(f"b{i}") for i in range(3)], ["#111111", "#ffffff", "#333333"])

    def test_one_cell_typed_twice_and_another_change_by_somebody_else_meanwhile(self):
        tove = get_user_model().objects.create_user("tove")
        Membership.objects.create(project=self.project, user=tove, role="editor")
        loaded = store.load(Project.objects.get(pk=self.project.pk))
        night = Condition.of({"look": "night"})
        others = {"b4": "#444444"}
        self.cell("b3", "light").focus()
        self.page.keyboard.type("#aaaaaa", delay=20)
        after = loaded.document
        from prism.changes import values as edit

        for key, text in others.items():
            after = edit.set_value(after, key, night, Expression(text))
        store.record(self.project, loaded, after, tove, "Theirs")
        self.page.keyboard.press("Enter")
        self.page.keyboard.press("ArrowUp")
        self.page.keyboard.type("#bbbbbb", delay=20)
        self.page.keyboard.press("Enter")
        self.settled()
        self.assertEqual((self.value("b3"), self.value("b4", "night")), ("#bbbbbb", "#444444"))
        self.cell("b4", "night").focus()

    def test_typing_goes_on_while_there_is_no_connection(self):
        self.cell("b0", "light").focus()
        self.offline(True)
        for entry in ("#121212", "#232323"):
            self.page.keyboard.type(entry, delay=20)
            self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("alert").first).to_contain_text("There is no connection")
        self.offline(False)
        self.settled()
        self.assertEqual([self.value("b0"), self.value("b1")], ["#121212", "#232323"])
        self.problems.clear()

    def test_escape_leaves_the_cell_as_it_was_and_f2_changes_what_it_holds(self):
        self.cell("b0", "light").focus()
        self.page.keyboard.type("#999")
        self.page.keyboard.press("Escape")
        expect(self.cell("b0", "light")).to_be_focused()
        self.page.keyboard.press("F2")
        self.page.keyboard.press("Backspace")
        self.page.keyboard.type("e")
        self.page.keyboard.press("Enter")
        self.settled()
        self.assertEqual(self.value("b0"), "#fffffe")


class SheetKeysTests(SlowCase):
    def focused(self, key, mode="light"):
        expect(self.cell(key, mode)).to_be_focused()

    def chosen(self, count):
        expect(self.page.locator("a.cell.in-range")).to_have_count(count)

    def test_pages_ends_and_all(self):
        self.cell("grey-0", "light").focus()
        self.press("Control+End")
        self.focused("b59", "night")
        self.press("Control+Home")
        self.focused("grey-0")
        self.press("PageDown", "PageDown")
        expect(self.cell("grey-0", "light")).not_to_be_focused()
        self.press("PageUp", "PageUp", "PageUp")
        self.focused("grey-0")
        self.press("Control+a")
        self.chosen(62 * 2)

    def test_dragging_and_shift_click_choose_a_range(self):
        first, last = self.cell("b1", "light"), self.cell("b3", "night")
        first.hover()
        self.page.mouse.down()
        last.hover()
        self.page.mouse.up()
        self.chosen(6)
        self.assertNotIn("cell=", self.page.url)
        self.cell("b0", "light").click()
        expect(self.page.locator("#value")).to_be_focused()
        self.cell("b2", "night").click(modifiers=["Shift"])
        self.chosen(6)

    def test_rows_are_selected_up_to_the_one_clicked_with_shift(self):
        boxes = self.page.locator("input.pick")
        boxes.nth(2).check()
        boxes.nth(6).click(modifiers=["Shift"])
        expect(self.page.locator("#picked")).to_have_text("5 selected")
        self.cell("b20", "light").focus()
        self.press("Shift+Space")
        expect(self.page.locator("#picked")).to_have_text("21 selected")

    def test_the_first_cell_is_one_tab_after_the_skip_link(self):
        self.page.evaluate("document.activeElement.blur()")
        self.press("Tab")
        expect(self.page.locator("a.skip")).to_be_focused()
        self.press("Enter", "Tab")
        self.focused("grey-0")
        self.press("ArrowLeft")
        expect(self.page.locator("a.fold").first).to_be_focused()
        self.press("ArrowDown")
        self.focused("grey-0")


class TruthTests(SlowCase):
    def test_a_page_that_is_asked_for_right_after_typing_into_find_comes(self):
        self.page.fill("#find", "b")
        self.page.click("#room-4")
        expect(self.page.locator("h1")).to_have_text("Checks")
        expect(self.page.locator("np-region[aria-busy]")).to_have_count(0)

    def test_each_kind_of_failure_has_its_own_sentence(self):
        alert = self.page.locator(".says.error").first
        self.cell("b0", "light").click()
        self.page.fill("#value", "#010203")
        self.offline(True)
        self.page.click("#store")
        expect(alert).to_contain_text("There is no connection to the server.", timeout=30_000)
        expect(self.page.locator("#value")).to_have_value("#010203")
        self.offline(False)
        self.page.evaluate("document.cookie = 'csrftoken=; max-age=0'")
        self.context.clear_cookies(name="csrftoken")
        self.page.click("#store")
        expect(alert).to_contain_text("This form is out of date.")
        self.assertEqual(self.value("b0"), "#ffffff")
        self.problems.clear()

    def test_after_an_undo_with_nothing_focused_the_page_tells_what_happened(self):
        self.cell("b0", "light").focus()
        self.page.keyboard.type("#010203")
        self.page.keyboard.press("Enter")
        self.settled()
        self.page.evaluate("document.activeElement.blur()")
        self.page.evaluate("document.querySelector('#undo').form.requestSubmit()")
        expect(self.page.locator(".says")).to_contain_text("Undone")
        expect(self.page.locator("main")).not_to_contain_text("connection")

    def test_a_stored_write_whose_page_fails_is_not_said_to_be_lost(self):
        from unittest import mock

        self.cell("b0", "light").click()
        self.page.fill("#value", "#010203")
        with mock.patch(
            "studio.rooms.tokens.views.show_sheet", side_effect=RuntimeError("drawn badly")
        ):
            self.page.click("#store")
            alert = self.page.locator(".says.error").first
            expect(alert).to_contain_text("Your change was stored as revision 2")
            expect(alert).to_contain_text("Error ")
        self.assertEqual(self.value("b0"), "#010203")
        self.problems.clear()

    def test_a_removed_token_is_told_and_the_value_typed_for_it_kept(self):
        self.cell("b0", "light").click()
        self.page.fill("#value", "#010203")
        loaded = store.load(Project.objects.get(pk=self.project.pk))
        store.record(
            self.project, loaded, remove_tokens(loaded.document, ["b0"]), self.user, "Gone"
        )
        self.page.click("#store")
        expect(self.page.locator("main")).to_contain_text("The token btn-primary-bg-0 was removed")
