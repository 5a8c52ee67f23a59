"""Color mathematics against published tables and independent programs."""

import random

import numpy as np
from django.test import SimpleTestCase

from prism.color import space
from prism.color.difference import delta_e_2000, lab, oklab, oklab_of_xyz
from prism.color.vision import VISIONS, matrix, seen, simulate

# Sharma, Wu & Dalal 2005, table 1: L1 a1 b1, L2 a2 b2, CIEDE2000 (written down from memory).
SHARMA = """
50.0000 2.6772 -79.7751 50.0000 0.0000 -82.7485 2.0425
50.0000 3.1571 -77.2803 50.0000 0.0000 -82.7485 2.8615
50.0000 2.8361 -74.0200 50.0000 0.0000 -82.7485 3.4412
50.0000 -1.3802 -84.2814 50.0000 0.0000 -82.7485 1.0000
50.0000 -1.1848 -84.8006 50.0000 0.0000 -82.7485 1.0000
50.0000 -0.9009 -85.5211 50.0000 0.0000 -82.7485 1.0000
50.0000 0.0000 0.0000 50.0000 -1.0000 2.0000 2.3669
50.0000 -1.0000 2.0000 50.0000 0.0000 0.0000 2.3669
50.0000 2.4900 -0.0010 50.0000 -2.4900 0.0009 7.1792
50.0000 2.4900 -0.0010 50.0000 -2.4900 0.0010 7.1792
50.0000 2.4900 -0.0010 50.0000 -2.4900 0.0011 7.2195
50.0000 2.4900 -0.0010 50.0000 -2.4900 0.0012 7.2195
50.0000 -0.0010 2.4900 50.0000 0.0009 -2.4900 4.8045
50.0000 -0.0010 2.4900 50.0000 0.0010 -2.4900 4.8045
50.0000 -0.0010 2.4900 50.0000 0.0011 -2.4900 4.7461
50.0000 2.5000 0.0000 50.0000 0.0000 -2.5000 4.3065
50.0000 2.5000 0.0000 73.0000 25.0000 -18.0000 27.1492
50.0000 2.5000 0.0000 61.0000 -5.0000 29.0000 22.8977
50.0000 2.5000 0.0000 56.0000 -27.0000 -3.0000 31.9030
50.0000 2.5000 0.0000 58.0000 24.0000 15.0000 19.4535
50.0000 2.5000 0.0000 50.0000 3.1736 0.5854 1.0000
50.0000 2.5000 0.0000 50.0000 3.2972 0.0000 1.0000
50.0000 2.5000 0.0000 50.0000 1.8634 0.5757 1.0000
50.0000 2.5000 0.0000 50.0000 3.2592 0.3350 1.0000
60.2574 -34.0099 36.2677 60.4626 -34.1751 39.4387 1.2644
63.0109 -31.0961 -5.8663 62.8187 -29.7946 -4.0864 1.2630
61.2901 3.7196 -5.3901 61.4292 2.2480 -4.9620 1.8731
35.0831 -44.1164 3.7933 35.0232 -40.0716 1.5901 1.8645
22.7233 20.0904 -46.6940 23.0331 14.9730 -42.5619 2.0373
36.4612 47.8580 18.3852 36.2715 50.5065 21.2231 1.4146
90.8027 -2.0831 1.4410 91.1528 -1.6435 0.0447 1.4441
90.9257 -0.5406 -0.9208 88.6381 -0.8985 -0.7239 1.5381
6.7747 -0.2908 -2.4247 5.8714 -0.0985 -2.2286 0.6377
2.0776 0.0795 -1.1350 0.9033 -0.0636 -0.5514 0.9082
"""


class DifferenceTests(SimpleTestCase):
    def test_the_34_published_pairs(self):
        rows = np.array([[float(n) for n in line.split()] for line in SHARMA.split("\n") if line])
        self.assertEqual(len(rows), 34)
        for one, other in ((rows[:, 0:3], rows[:, 3:6]), (rows[:, 3:6], rows[:, 0:3])):
            found = delta_e_2000(one, other)
            self.assertLess(float(np.max(np.abs(found - rows[:, 6]))), 5.1e-5)

    def test_it_agrees_with_colour_science(self):
        from colour.difference import delta_E_CIE2000

        rng = np.random.default_rng(4)
        one, other = (rng.uniform([0, -100, -100], [100, 100, 100], (2000, 3)) for _ in range(2))
        self.assertTrue(
            np.allclose(delta_e_2000(one, other), delta_E_CIE2000(one, other), atol=1e-9)
        )


class ConversionTests(SimpleTestCase):
    def test_the_published_table_of_oklab(self):
        # Ottosson 2020, "A perceptual color space for image processing" (from memory).
        for xyz, expected in (
            ((0.950, 1.000, 1.089), (1.000, 0.000, 0.000)),
            ((1.000, 0.000, 0.000), (0.450, 1.236, -0.019)),
            ((0.000, 1.000, 0.000), (0.922, -0.671, 0.263)),
            ((0.000, 0.000, 1.000), (0.153, -1.415, -0.449)),
        ):
            self.assertTrue(np.allclose(oklab_of_xyz(xyz), expected, atol=1.1e-3), xyz)

    def test_arrays_agree_with_coloraide(self):
        rng = random.Random(9)
        colors = [tuple(rng.random() for _ in range(3)) for _ in range(400)]
        for convert, name in ((lab, "lab"), (oklab, "oklab")):
            found = convert(np.array(colors))
            for rgb, row in zip(colors, found, strict=True):
                expected = space.engine(space.Color("srgb", rgb)).convert(name).coords(nans=False)
                self.assertTrue(
                    np.allclose(row, expected, atol=2e-5 if name == "lab" else 1e-6),
                    (rgb, row, expected),
                )


class GamutTests(SimpleTestCase):
    def test_mapping_is_that_of_css_color_4(self):
        # coloraide's implementation of CSS Color 4, section 13.2, on colors far outside.
        for text in (
            "oklch(0.7 0.4 140)",
            "color(display-p3 0 1 0)",
            "lab(60 120 -100)",
            "color(rec2020 1 0 0)",
        ):
            color = space.parse(text)
            expected = space.engine(color).convert("srgb").fit("srgb", method="oklch-chroma").clip()
            fitted = space.fit(color, "srgb")
            self.assertTrue(np.allclose(fitted.coords, expected.coords(), atol=1e-9))
            hue = space.engine(color).convert("oklch").coords()[2]
            mapped = space.engine(fitted).convert("oklch").coords()[2]
            self.assertLess(abs((hue - mapped + 180) % 360 - 180), 8, text)

    def test_what_lies_inside_stays_as_it_is(self):
        color = space.parse("oklch(0.52 0.1 245)")
        self.assertEqual(space.fit(color, "srgb"), color)


class VisionTests(SimpleTestCase):
    def test_how_far_colors_are_apart_to_every_eye_as_colour_science_has_it(self):
        """colour-science: its Machado matrices over linear light, and its CIEDE2000 of Lab (D50 by Bradford)."""
        import colour

        rng = random.Random(5)
        tables = {"protan": "Protanomaly", "deutan": "Deuteranomaly", "tritan": "Tritanomaly"}
        first, second = (
            np.array([[rng.random() for _ in range(3)] for _ in range(300)]) for _ in range(2)
        )
        space_of = colour.RGB_COLOURSPACES["sRGB"]
        for vision in VISIONS:
            for severity in (1.0, 0.6):
                expected = []
                for colors in (first, second):
                    light = colour.cctf_decoding(colors, function="sRGB")
                    if vision.id in tables:
                        matrix = colour.blindness.CVD_MATRICES_MACHADO2010[tables[vision.id]][
                            severity
                        ]
                        light = np.clip(light @ matrix.T, 0, 1)
                    elif vision.id == "gray":
                        gray = light @ np.array([0.2126, 0.7152, 0.0722])
                        light = (1 - severity) * light + severity * gray[:, None]
                    xyz = colour.RGB_to_XYZ(
                        light, space_of, illuminant=colour.CCS_ILLUMINANTS[
                            "CIE 1931 2 Degree Standard Observer"]["D50"],
                        chromatic_adaptation_transform="Bradford",
                    )  # fmt: skip
                    d50 = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D50"]
                    expected.append(colour.XYZ_to_Lab(xyz, d50))
                theirs = colour.delta_E(*expected, method="CIE 2000")
                ours = delta_e_2000(*(lab(seen(one, vision, severity)) for one in (first, second)))
                self.assertLess(float(np.max(np.abs(theirs - ours))), 0.1, (vision.id, severity))

    def test_the_matrices_of_machado_2009_as_colour_science_has_them(self):
        from colour.blindness import CVD_MATRICES_MACHADO2010

        names = {"protan": "Protanomaly", "deutan": "Deuteranomaly", "tritan": "Tritanomaly"}
        for ours, theirs in names.items():
            for step in range(11):
                expected = CVD_MATRICES_MACHADO2010[theirs][step / 10]
                self.assertTrue(
                    np.allclose(matrix(ours, step / 10), expected, atol=1e-6), (ours, step)
                )

    def test_grey_stays_grey_and_none_changes_nothing(self):
        greys = np.repeat(np.linspace(0, 1, 11)[:, None], 3, axis=1)
        for deficiency in ("protan", "deutan", "tritan"):
            self.assertTrue(np.allclose(simulate(greys, deficiency), greys, atol=2e-3))
            self.assertTrue(np.allclose(simulate(greys, deficiency, 0.0), greys, atol=1e-6))
        with self.assertRaises(ValueError):
            matrix("protan", 0.55)
