"""The colors of pictures made here, held against their makers and against Pillow's quantizer."""

import io
import struct
import zlib

import numpy as np
from django.test import SimpleTestCase
from PIL import Image

from prism.color import space
from prism.color.difference import delta_e_2000, lab
from prism.errors import FormatError
from prism.palette.picture_view import marks
from prism.palette.pictures import MAX_BYTES, read
from tests.builders import areas, saved

AREAS = (
    (35, 107, 83, 0.4), (232, 163, 67, 0.25), (244, 249, 249, 0.2), (29, 33, 33, 0.1),
    (215, 58, 60, 0.05),
)  # fmt: skip


def in_lab(colors):
    return lab(np.array([color[:3] for color in colors], dtype=float) / 255)


def gradient(size=(320, 240)):
    """Something like a photograph: three waves over a slope, and a little noise."""
    y, x = np.mgrid[0 : size[1], 0 : size[0]]
    red = 128 + 127 * np.sin(x / 70 + y / 130)
    green = 120 + 100 * np.cos(y / 55)
    blue = 60 + 150 * (x + y) / sum(size)
    noise = np.random.default_rng(4).normal(0, 4, (size[1], size[0], 3))
    rows = np.stack([red, green, blue], axis=-1) + noise
    return Image.fromarray(np.clip(rows, 0, 255).astype(np.uint8))


class ReadTests(SimpleTestCase):
    def test_five_noisy_areas_come_back_with_their_colors_and_shares(self):
        image = areas(AREAS, (1000, 800), noise=7)
        for kind, options in (("PNG", {}), ("JPEG", {"quality": 85})):
            found = read(saved(image, kind, **options), "x").clusters
            wanted = in_lab(AREAS)
            have = lab([space.rgba(one.color)[:3] for one in found])
            apart = delta_e_2000(wanted[:, None], have[None, :])
            for i, (*_, share) in enumerate(AREAS):
                nearest = int(np.argmin(apart[i]))
                self.assertLess(float(apart[i, nearest]), 2, (kind, AREAS[i]))
                self.assertLess(abs(found[nearest].share - share), 0.02, (kind, AREAS[i]))
            self.assertAlmostEqual(sum(one.share for one in found), 1, 9)

    def test_each_color_is_shown_where_it_is(self):
        image = areas(AREAS, (1000, 800), noise=7)
        pixels = np.asarray(image)
        for cluster in read(saved(image), "x").clusters:
            row, column = int(cluster.y * 800), int(cluster.x * 1000)
            near = pixels[max(row - 4, 0) : row + 5, max(column - 4, 0) : column + 5]
            seen = near.reshape(-1, 3).mean(axis=0)
            apart = delta_e_2000(in_lab([seen])[0], lab(space.rgba(cluster.color)[:3]))
            self.assertLess(float(apart), 3, cluster)

    def test_the_same_picture_gives_the_same_colors(self):
        data = saved(gradient())
        self.assertEqual(read(data, "x", 12), read(data, "y", 12))

    def test_no_worse_than_pillows_quantizer_at_the_same_count(self):
        # Pillow's median cut, maximum coverage and octree, without dithering.
        for image in (gradient(), areas(AREAS, (400, 300), noise=20)):
            for wanted in (6, 8, 12):
                found = [
                    space.rgba(cluster.color)[:3]
                    for cluster in read(saved(image), "x", wanted).clusters
                ]
                pixels = lab(np.asarray(image, dtype=float).reshape(-1, 3)[::13] / 255)
                own = delta_e_2000(pixels[:, None], lab(found)[None, :]).min(axis=1).mean()
                for method in (0, 1, 2):
                    other = image.quantize(len(found), method=method, dither=0)
                    table = np.array(other.getpalette()[: 3 * len(found)]).reshape(-1, 3) / 255
                    theirs = delta_e_2000(pixels[:, None], lab(table)[None, :]).min(axis=1).mean()
                    self.assertLessEqual(own, theirs, (wanted, len(found), method))

    def test_a_small_spot_of_its_own_color_is_not_lost(self):
        image = areas(((20, 48, 66, 0.6), (60, 70, 110, 0.4)), (600, 400), noise=3)
        image.paste((246, 196, 92), (100, 300, 120, 320))
        found = [space.hex_text(cluster.color) for cluster in read(saved(image), "x").clusters]
        near = delta_e_2000(
            lab([space.rgba(space.parse(one))[:3] for one in found]), in_lab([(246, 196, 92)])
        )
        self.assertLess(float(near.min()), 4, found)

    def test_what_is_shown_is_written_anew_without_anything_beside_the_pixels(self):
        image = areas(AREAS, (1600, 900))
        exif = Image.Exif()
        exif[0x010E] = "where she lives"
        found = read(saved(image, "JPEG", exif=exif), "x")
        self.assertNotIn(b"where she lives", found.shown)
        shown = Image.open(io.BytesIO(found.shown))
        self.assertEqual((shown.size, found.shown_type), ((900, 506), "image/jpeg"))

    def test_a_picture_lying_on_its_side_is_set_upright(self):
        image = areas(((255, 0, 0, 0.5), (0, 0, 255, 0.5)), (60, 120))
        exif = Image.Exif()
        exif[0x0112] = 6
        found = read(saved(image, "JPEG", exif=exif), "x")
        self.assertEqual((found.width, found.height), (120, 60))

    def test_transparent_pixels_do_not_count(self):
        image = areas(((255, 0, 0, 0.5), (0, 0, 255, 0.5)), (80, 80)).convert("RGBA")
        image.paste((9, 9, 9, 0), (0, 40, 80, 80))
        found = read(saved(image), "x")
        self.assertEqual([space.hex_text(cluster.color) for cluster in found.clusters], ["#ff0000"])
        self.assertEqual(found.shown_type, "image/png")

    def test_marks_say_share_and_place(self):
        colors = [{"hex": "#000000", "share": 0.25, "x": 0.5, "y": 0.25}]
        (mark,) = marks(colors, 200, 100)
        self.assertEqual(
            (mark["share"], mark["left"], mark["top"], mark["ink"]),
            ("25 %", "100.0", "25.0", "light"),
        )


class BadPictureTests(SimpleTestCase):
    def refused(self, data, sentence, count=8):
        with self.assertRaisesMessage(FormatError, sentence):
            read(data, "bad.png", count)

    def claiming(self, width, height):
        """A PNG file whose head claims a size."""
        head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
        chunks = b""
        for name, body in ((b"IHDR", head), (b"IDAT", zlib.compress(b"\0")), (b"IEND", b"")):
            chunks += struct.pack(">I", len(body)) + name + body
            chunks += struct.pack(">I", zlib.crc32(name + body))
        return b"\x89PNG\r\n\x1a\n" + chunks

    def test_what_is_no_picture_or_too_large_is_refused_in_words(self):
        self.refused(b"", "This picture cannot be read.")
        self.refused(b"<svg xmlns='http://www.w3.org/2000/svg'/>", "This picture cannot be read")
        self.refused(saved(areas(AREAS))[:200], "This picture cannot be read.")
        self.refused(self.claiming(40_000, 40_000), "far more than 24 megapixels")
        self.refused(
            self.claiming(6_000, 5_000), "The picture is 6000 x 5000; at most 24 megapixels"
        )
        self.refused(self.claiming(2_000_000, 2), "at most 24 megapixels")
        self.refused(b"\0" * (MAX_BYTES + 1), "25 MB; at most 25 MB are read")
        self.refused(saved(areas(AREAS)), "5 to 12 colors", count=99)
        clear = Image.new("RGBA", (9, 9), (1, 2, 3, 0))
        self.refused(saved(clear), "Every pixel of the picture is transparent.")

    def test_one_that_moves_and_one_for_print_are_read_and_said(self):
        frames = [Image.new("RGB", (20, 20), color) for color in ("#236b53", "#e8a343")]
        held = io.BytesIO()
        frames[0].save(held, "GIF", save_all=True, append_images=frames[1:])
        found = read(held.getvalue(), "x")
        self.assertEqual(found.remarks, ("The picture moves; its first frame was read.",))
        self.assertEqual(space.hex_text(found.clusters[0].color), "#236b53")
        printed = Image.new("CMYK", (20, 20), (255, 0, 0, 0))
        found = read(saved(printed, "JPEG"), "x")
        self.assertIn("(CMYK)", found.remarks[0])

    def test_grey_deep_and_indexed_pictures_are_read(self):
        deep = Image.fromarray(np.full((20, 20), 40_000, dtype=np.uint16))
        for image in (Image.new("L", (20, 20), 99), deep, areas(AREAS, (50, 50)).quantize(8)):
            self.assertTrue(read(saved(image), "x").clusters)
