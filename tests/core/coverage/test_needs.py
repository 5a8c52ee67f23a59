"""What a palette is expected to hold, and what is added where it lacks it."""

from django.test import SimpleTestCase

from prism.analysis import Analysis
from tests.builders import document, token


class NeedTests(SimpleTestCase):
    def test_a_numbered_chart_color_that_others_use_has_a_role(self):
        built = document(
            token("chart.1", "#336699", tier="raw"), token("trend.line", "{chart.1}"), axes=()
        )
        self.assertEqual(str(Analysis(built).roles["chart.1"].role), "chart")

    def test_an_accent_surface_is_colored_where_it_is_vivid_and_dark_enough(self):
        # OKLCH by coloraide: #b3d4ff has chroma 0.07 and 1.5 on white; #555555 has none.
        for text, role in (
            ("#b3d4ff", "surface"),
            ("#555555", "surface"),
            ("#1d4ed8", "surface colored"),
        ):
            built = document(token("page", "#ffffff"), token("accent.surface", text), axes=())
            self.assertEqual(str(Analysis(built).roles["accent.surface"].role), role, text)
