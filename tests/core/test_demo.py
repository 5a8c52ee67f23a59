"""The demo project holds what its scenario says, and the flaws it lists are real."""

from django.test import SimpleTestCase

from demo import quillhaven
from prism import checks
from prism.analysis import Analysis
from prism.color import space
from prism.color.difference import delta_e_2000, lab
from prism.color.vision import simulate
from prism.coverage import needs
from prism.expressions.values import references
from prism.palette.ramps import oklch
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver
from tests.builders import resolved


class QuillhavenTests(SimpleTestCase):
    def setUp(self):
        self.built = quillhaven.document()
        self.resolver = Resolver(self.built)

    def ratio(self, pairing, **picks):
        readings = audit(self.resolver, [self.built.pairing(pairing)], [self.resolver.theme(picks)])
        return readings[0].ratio

    def seen_apart(self, first, second, **picks):
        """CIEDE2000 of two tokens as deutan vision sees them."""
        colors = [
            lab(simulate(space.rgba(resolved(self.built, key, **picks).color)[:3], "deutan"))
            for key in (first, second)
        ]
        return float(delta_e_2000(*colors))

    def test_it_is_as_large_as_its_scenario_and_nothing_is_broken(self):
        self.assertEqual(self.resolver.theme_count, 288)
        by_tier = {
            tier: sum(token.tier == tier for token in self.built.tokens)
            for tier in ("raw", "semantic", "component")
        }
        self.assertEqual(by_tier, {"raw": 152, "semantic": 95, "component": 30})
        self.assertEqual(len(self.built.pairings), 67)
        for theme in self.resolver.themes():
            for one in self.built.tokens:
                answer = self.resolver.resolve(one.key, theme)
                self.assertFalse(answer.broken or answer.absent, one.path)

    def test_status_and_language_work_like_any_axis(self):
        self.assertEqual(
            resolved(self.built, "board.status", status="cancelled", appearance="dark"),
            resolved(self.built, "signal.stop", appearance="dark"),
        )
        said = {"status": "delayed", "language": "portuguese"}
        self.assertEqual(resolved(self.built, "copy.status", **said).value, "Atrasado")
        self.assertEqual(resolved(self.built, "copy.status", status="notice").value, "Changed")

    def test_flaws_of_contrast(self):
        self.assertLess(self.ratio("surface.card/surface.page", appearance="dark"), 1.11)
        for appearance in ("light", "dark", "dim"):
            self.assertLess(self.ratio("ticket.terms/ticket.surface", appearance=appearance), 3.1)
        self.assertLess(self.ratio("action.label/action.fill", appearance="dim"), 2.2)
        self.assertLess(self.ratio("focus.ring/surface.page"), 3)
        for name in ("go", "wait", "stop", "note"):
            ratio = self.ratio(f"signal.{name}/signal.surface.{name}")
            self.assertTrue(4.3 < ratio < 4.5, ratio)
        self.assertLess(self.ratio("text.faint/surface.card"), 4.5)
        self.assertLess(self.ratio("field.hint/field.surface"), 4.5)

    def test_flaws_of_color(self):
        self.assertLess(self.seen_apart("signal.go", "signal.stop", appearance="dark"), 5)
        self.assertLess(self.seen_apart("signal.wait", "signal.stop"), 5.1)
        dark = {"appearance": "dark", "brand": "vexley"}
        loud = oklch(resolved(self.built, "highlight.fill", **dark).color)
        day = oklch(resolved(self.built, "highlight.fill", brand="vexley").color)
        self.assertGreater(loud[0], 0.9)
        self.assertLess(day[0], 0.8)

    def test_flaws_of_order(self):
        used = {
            path
            for token in self.built.tokens
            for _, value in token.values
            for path in references(value, token.type)
        }
        unused = {
            ramp.name
            for ramp in self.built.ramps
            if not used & {self.built.token(key).path for key in ramp.steps}
        }
        self.assertEqual(unused, {"reed"})
        self.assertNotIn("signal.hold", used)
        (hold,) = [value.text for _, value in self.built.token("signal.hold").values]
        self.assertTrue(space.is_hex(hold))
        gaps = [gap.name for gap in needs.look(self.built).gaps]
        self.assertEqual(gaps, ["label on action.fill.pressed"])

    def test_every_flaw_is_found_by_its_check_and_all_else_is_accepted_with_a_reason(self):
        found = checks.run(Analysis(self.built))
        open_ones = {(finding.check, finding.tokens[:2]) for finding in found if finding.is_open()}
        signals = [("signal.go", "signal.wait"), ("signal.go", "signal.stop")]
        signals += [("signal.wait", "signal.stop"), ("signal.go", "signal.note")]
        tints = [
            (f"signal.{name}", f"signal.surface.{name}") for name in ("go", "wait", "stop", "note")
        ]
        contrast = [
            *(("text.faint", "surface.card"), ("field.hint", "field.surface")),
            *(("action.label", "action.fill"), ("action.label", "action.fill.hover")),
            *(("focus.ring", "surface.page"), ("ticket.terms", "ticket.surface")),
            *(("status.mark", "status.surface"), *tints),
        ]
        self.assertEqual(
            open_ones,
            {
                *(("contrast", pair) for pair in contrast),
                *(("vision", pair) for pair in signals),
                ("elevation", ("surface.card", "surface.page")),
                ("balance", ("highlight.fill", "surface.page")),
                ("coverage", ("action.fill.pressed",)),
                ("literal", ("signal.hold",)),
                ("unused", ()),
            },
        )
        accepted = [finding for finding in found if not finding.is_open()]
        self.assertLessEqual(len(accepted), 12)
        self.assertEqual(len(accepted), len(self.built.mutes))
        self.assertTrue(all(finding.accepted and finding.accepted_by for finding in accepted))
