"""Links, names and axes: parts of the Tokens room beside the sheet."""

import html
import json
import re

from django.core.files.uploadedfile import SimpleUploadedFile

from demo import quillhaven
from prism.color.contrast import ratio_of
from prism.model.document import Document
from prism.model.values import Condition, Expression
from prism.resolution.resolver import Resolver
from tests.studio.cases import RoomCase
from tests.studio.test_tokens import DARK, TokensCase


class LinkTests(RoomCase):
    def test_fifty_four_literals_are_linked_in_one_review(self):
        colors = [f"#{i * 4:02x}{200 - i * 3:02x}{i * 2:02x}" for i in range(50)]
        raw = {str(i): {"$type": "color", "$value": color} for i, color in enumerate(colors)}
        names = [f"Area {i // 9}.role {i}" for i in range(54)]
        meaning = {}
        for i, name in enumerate(names):
            group, leaf = name.split(".")
            color = colors[i % 50] if i < 51 else f"#ff00{i:02x}"
            meaning.setdefault(group, {})[leaf] = {"$type": "color", "$value": color}
        data = json.dumps({"palette": raw, **meaning}).encode()
        self.make(Document(name="Empty"))
        file = SimpleUploadedFile("all.tokens.json", data)
        self.client.post(
            self.url("exchange:import"), {"files": file, "into": "here", "revision": 0}
        )
        stored = self.stored()
        self.assertEqual(len(stored.tokens), 104)
        page = self.client.get(self.url("mapping:link"))
        self.assertContains(page, "What counts as palette")
        self.project.refresh_from_db()
        groups = list(meaning)
        said = {"revision": self.project.revision, "tier": "semantic", "groups": groups}
        self.assertEqual(self.client.post(self.url("mapping:store-tier"), said).status_code, 302)
        page = self.client.get(self.url("mapping:link"))
        self.assertContains(page, "51 literals could refer to the palette")
        self.assertContains(page, "3 without a match")
        for name in names[51:]:
            self.assertContains(page, f"<td>{name}</td>")
        self.project.refresh_from_db()
        said = {"revision": self.project.revision, "take": [str(i) for i in range(51)]}
        self.assertEqual(self.client.post(self.url("mapping:store-links"), said).status_code, 302)
        linked = self.stored()
        self.assertEqual([one.path for one in linked.tokens], [one.path for one in stored.tokens])
        values = [linked.token_at(name).value().text for name in names]
        self.assertEqual(values[:51], [f"{{palette.{i % 50}}}" for i in range(51)])
        self.assertTrue(all(value.startswith("#ff00") for value in values[51:]))
        before, after = Resolver(stored), Resolver(linked)
        for one in stored.tokens:
            self.assertEqual(before.resolve(one.key, ()).hex, after.resolve(one.key, ()).hex)

    def test_nothing_ticked_is_said(self):
        self.make(quillhaven.document())
        response = self.client.post(self.url("mapping:store-links"), {"revision": 1})
        self.assertContains(response, "No link is selected.", status_code=422)


class NameTests(TokensCase):
    def test_a_scheme_is_kept_and_makes_the_names_that_are_not_struck(self):
        lines = {
            "part-0": "area",
            "words-0": "panel chip",
            "part-1": "state",
            "words-1": "rest hover",
        }
        self.post("naming:store", scheme="plain", name="Ours", **lines)
        scheme = self.stored().schemes[0]
        page = self.client.get(self.url("naming:room"), {"scheme": scheme.key})
        self.assertContains(page, "4 names")
        self.post("naming:add", scheme=scheme.key, take=["panel.rest", "chip.hover"])
        found = [one.path for one in self.stored().tokens if one.path.startswith(("panel", "chip"))]
        self.assertEqual(found, ["panel.rest", "chip.hover"])
        self.assertTrue(self.text("chip.hover").startswith("{"))

    def test_what_is_wrong_is_said_with_what_was_typed(self):
        response = self.post("naming:store", name="", **{"part-0": "a", "words-0": "b c"})
        self.assertContains(response, "A scheme needs a name.", status_code=422)
        self.assertContains(response, 'value="b c"', status_code=422)
        response = self.post("naming:add", scheme="plain")
        self.assertContains(response, "None of the selected names is new", status_code=422)


class AxisTests(TokensCase):
    def test_axes_and_modes_are_made_named_ordered_and_removed(self):
        for said, check in (
            ({"command": "add-axis", "name": "season", "modes": "summer, winter"},
             lambda d: [m.name for m in d.axes[-1].modes] == ["summer", "winter"]),
            ({"command": "rename-axis", "axis": "brand", "name": "carrier"},
             lambda d: d.axis("brand").name == "carrier"),
            ({"command": "move-axis?by=-1", "axis": "brand"}, lambda d: d.axes[0].key == "brand"),
            ({"command": "move-axis?by=1", "axis": "brand"}, lambda d: d.axes[2].key == "brand"),
            ({"command": "add-mode", "axis": "appearance", "name": "noon", "source": "dark"},
             lambda d: d.axes[0].modes[-1].name == "noon"),
            ({"command": "rename-mode", "axis": "appearance", "mode": "dim", "name": "cabin"},
             lambda d: d.axes[0].mode("dim").name == "cabin"),
            ({"command": "move-mode?by=-1", "axis": "appearance", "mode": "dim"},
             lambda d: d.axes[0].modes[1].key == "dim"),
            ({"command": "move-mode?by=1", "axis": "appearance", "mode": "light"},
             lambda d: d.axes[0].modes[1].key == "light"),
            ({"command": "change-default", "axis": "appearance", "mode": "dark"},
             lambda d: d.axes[0].default == "dark"),
            ({"command": "set-color-scheme", "axis": "brand", "mode": "vexley", "color_scheme": "dark"},
             lambda d: d.axis("brand").mode("vexley").color_scheme == "dark"),
            ({"command": "follow-preference", "axis": "density", "mode": "compact", "preference": "prefers-contrast: more"},
             lambda d: d.axis("density").follows.modes == (("more", "compact"),)),
            ({"command": "remove-mode", "axis": "appearance", "mode": "dim"},
             lambda d: len(d.axes[0].modes) == 2),
            ({"command": "remove-axis", "axis": "brand", "stays": "vexley"},
             lambda d: d.axis("brand") is None),
        ):  # fmt: skip
            with self.subTest(said["command"]):
                response = self.post("axes:command", **said)
                self.assertEqual(response.status_code, 302, response.content[:2000])
                self.assertTrue(check(self.stored()))
                self.client.post(self.url("projects:undo"))
                self.assertEqual(self.stored(), quillhaven.document())

    def test_bad_acts_are_said(self):
        for said, sentence in (
            ({"command": "add-axis", "name": "", "modes": "a"}, "An axis needs a name."),
            ({"command": "add-axis", "name": "x", "modes": " "}, "at least one mode"),
            ({"command": "remove-axis", "axis": "gone", "stays": "x"}, "no longer there"),
            (
                {
                    "command": "follow-preference",
                    "axis": "brand",
                    "mode": "vexley",
                    "preference": "moon: full",
                },
                "not one",
            ),
            ({"command": "fly"}, "There is no such command here."),
        ):
            self.assertContains(self.post("axes:command", **said), sentence, status_code=422)

    def test_a_mode_is_proposed_reviewed_and_taken(self):
        said = {"axis": "appearance", "source": "light", "name": "night", "scheme": "dark"}
        page = self.client.get(self.url("axes:propose"), said)
        self.assertContains(page, "night, derived from light")
        self.assertContains(page, "step 8 of 11 becomes 4")
        self.assert_reads(page, "67 known pairings pass in night")
        self.assert_reads(page, "12 fall short in light.")
        self.assertContains(page, 'fill="#323c3b"')  # surface.raised, a mix of two steps
        rows = re.findall(r'name="was-([^"]+)"', page.content.decode())
        self.assertGreater(len(rows), 40)
        shown = {f"was-{key}": "x" for key in rows} | {f"text-{key}": "x" for key in rows}
        self.post("axes:take", **said, **shown, take=["text.main", "surface.page"])
        stored = self.stored()
        mode = stored.axis("appearance").modes[-1]
        self.assertEqual((mode.name, mode.color_scheme), ("night", "dark"))
        condition = Condition.of({"appearance": mode.key})
        self.assertEqual(stored.token("text.main").value(condition), Expression("{ink.1}"))
        self.assertIsNone(stored.token("text.muted").value(condition))

    def test_a_proposal_is_solved_again_with_what_was_decided(self):
        said = {"axis": "appearance", "source": "light", "name": "night", "scheme": "dark"}
        decided = {
            "was-text.link": "accent.4", "text-text.link": "accent.4",
            "was-text.muted": "ink.4", "text-text.muted": "ink.3", "take": ["text.muted"],
        }  # fmt: skip
        page = self.post("axes:take", **said, **decided, again="1")
        self.assertContains(page, "What cannot pass together")
        self.assert_reads(page, "another value for text.link")
        self.assertRegex(
            page.content.decode(), r'aria-label="use text.link">'
        )  # it stays deselected
        self.assertEqual(len(self.stored().axis("appearance").modes), 3)
        scene = re.search(r'src="([^"]*proposed/scene[^"]*side=proposed)"', page.content.decode())
        shown = self.client.get(html.unescape(scene[1]))
        paint = re.search(r'href="([^"]*proposed/paint[^"]*)"', shown.content.decode())
        sheet = self.client.get(html.unescape(paint[1])).content.decode()
        self.assertIn("[data-appearance=", sheet)
        self.post("axes:take", **said, **decided)
        mode = self.stored().axis("appearance").modes[-1]
        condition = Condition.of({"appearance": mode.key})
        self.assertEqual(self.stored().token("text.muted").value(condition), Expression("{ink.3}"))
        self.assertIsNone(self.stored().token("text.link").value(condition))
        wrong = {**decided, "text-text.muted": "nope(", "name": "later"}
        page = self.post("axes:take", **{**said, "name": "later"}, **{
            key: value for key, value in wrong.items() if key != "name"
        })  # fmt: skip
        self.assertEqual(page.status_code, 422)
        self.assertContains(page, 'value="nope("', status_code=422)
        self.assertEqual(len(self.stored().axis("appearance").modes), 4)

    def test_more_contrast_is_asked_for_with_a_new_mode(self):
        fields = {"axis": "contrast", "name": "highest", "source": "standard", "how": "raise"}
        response = self.post("axes:add-mode", **fields)
        page = self.client.get(response.url)
        self.assert_reads(page, "texts at 7 and controls at 4.5")
        asked = {"axis": "contrast", "source": "standard", "name": "highest", "intent": "raise"}
        self.post("axes:take", **asked)
        stored = self.stored()
        mode = stored.axis("contrast").modes[-1]
        resolver = Resolver(stored)
        theme = resolver.theme({"contrast": mode.key})
        muted, card = (
            resolver.resolve(f"{path}", theme).color for path in ("text.muted", "surface.card")
        )
        self.assertGreaterEqual(ratio_of(muted, card), 7)

    def test_a_mode_from_one_that_is_gone_is_said(self):
        said = {"axis": "appearance", "source": "gone", "name": "night", "scheme": "dark"}
        for response in (
            self.client.get(self.url("axes:propose"), said),
            self.post("axes:take", **said),
        ):
            self.assertContains(response, "no longer there", status_code=422)

    def test_a_mark_of_the_ladder_is_moved(self):
        page = self.client.get(self.url("mapping:ladder"))
        self.assertContains(page, 'data-step="ink.11"')
        self.post("mapping:move-mark", token="text.main", mode="dark", step="ink.2")
        self.assertEqual(self.text("text.main", DARK), "{ink.2}")
        response = self.post("mapping:move-mark", token="text.main", mode="dark", step="gone")
        self.assertContains(response, "no longer there", status_code=422)
