"""The colors of a picture: opened and limited by Pillow, clustered in OKLab.

The same picture gives the same colors: the first centers are the far ends of a histogram, not
random ones.
"""

from __future__ import annotations

import io
import math
import warnings
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageCms, ImageOps

from prism.color import space
from prism.color.difference import oklab
from prism.errors import FormatError
from prism.palette.clusters import (
    FEWEST,
    MOST,
    Array,
    Labels,
    cells_of,
    centers_in_lab,
    find_centers,
    merge_near,
    most_telling,
    nearest_centers,
    settled_centers,
    tuned_centers,
    with_sparks,
)

MAX_BYTES = 24 * 1024 * 1024
MAX_PIXELS = 24_000_000
#: A WebP file is held five times over while it is read.
MAX_PIXELS_OF = {"WEBP": 12_000_000}
MAX_SIDE = 20_000
_SIDE, _SHOWN_SIDE = 256, 900
_FORMATS = ("PNG", "JPEG", "GIF", "WEBP", "BMP", "TIFF")


@dataclass(frozen=True, slots=True)
class Cluster:
    """A color of a picture, its share of all opaque pixels (0-1), and a place where it is seen,
    each coordinate 0-1 from the upper left."""

    color: space.Color
    share: float
    x: float
    y: float


@dataclass(frozen=True, slots=True)
class Picture:
    """What was read: colors, most telling first; remarks in plain sentences; a copy to show,
    rewritten as PNG or JPEG (``shown_type``), and its size."""

    clusters: tuple[Cluster, ...]
    remarks: tuple[str, ...]
    shown: bytes
    shown_type: str
    width: int
    height: int


def read(data: bytes, file: str, count: int = 8) -> Picture:
    """The colors of a picture file.

    ``count`` colors are looked for, 5 to 12; fewer come out where some are alike. Raises
    ``FormatError`` for what is no picture, or too large.
    """
    if not FEWEST <= count <= MOST:
        raise FormatError(f"A picture gives {FEWEST} to {MOST} colors.", place=file)
    image, remarks = _open(data, file)
    image.thumbnail((_SHOWN_SIDE, _SHOWN_SIDE), Image.Resampling.BOX, reducing_gap=None)
    shown, shown_type = _copy(image)
    width, height = image.size
    small = image.copy()
    small.thumbnail((_SIDE, _SIDE), Image.Resampling.BOX, reducing_gap=None)
    pixels = np.asarray(small, dtype=np.float64) / 255
    return Picture(_clusters(pixels, count, file), remarks, shown, shown_type, width, height)


def _open(data: bytes, file: str) -> tuple[Image.Image, tuple[str, ...]]:
    """The first frame as RGBA in sRGB, upright, and what there is to say of it."""
    if len(data) > MAX_BYTES:
        raise FormatError(
            f"The picture has {len(data) / 1e6:.0f} MB; at most {MAX_BYTES / 1e6:.0f} MB are read.",
            place=file,
            fix="Save a smaller one.",
        )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            opened = Image.open(io.BytesIO(data), formats=_FORMATS)
            _limit(opened.size, opened.format or "", file)
            remarks = []
            if getattr(opened, "n_frames", 1) > 1:
                opened.seek(0)
                remarks.append("The picture moves; its first frame was read.")
            if opened.format == "JPEG":
                opened.draft(None, (_SHOWN_SIDE, _SHOWN_SIDE))
            opened.load()
            upright = ImageOps.exif_transpose(_shrunk(opened))
            if upright.mode == "CMYK":
                remarks.append("The picture is made for print (CMYK); its colors were converted.")
            return _in_srgb(upright, remarks), tuple(remarks)
    except FormatError:
        raise
    except Image.DecompressionBombError:
        raise FormatError(
            f"The picture has far more than {MAX_PIXELS / 1e6:.0f} megapixels, the most "
            "that are read.",
            place=file,
            fix="Save a smaller one.",
        ) from None
    except Exception as error:  # Pillow's readers raise many kinds for broken files.
        raise FormatError(
            "This picture cannot be read.",
            place=file,
            fix="Import a PNG, JPEG, GIF, WebP, BMP or TIFF file.",
        ) from error


def _limit(size: tuple[int, int], kind: str, file: str) -> None:
    width, height = size
    most = MAX_PIXELS_OF.get(kind, MAX_PIXELS)
    if width * height > most or max(width, height) > MAX_SIDE:
        raise FormatError(
            f"The picture is {width} x {height}; at most {most / 1e6:.0f} megapixels are read.",
            place=file,
            fix="Save a smaller one.",
        )
    if min(width, height) < 1:
        raise FormatError("The picture is empty.", place=file)


def _shrunk(image: Image.Image) -> Image.Image:
    """The image no longer than it is shown, made strip by strip so that it is never held twice."""
    width, height = image.size
    factor = max(max(width, height) // _SHOWN_SIDE, 1)
    levels = _levels(image)
    small: Image.Image | None = None
    rows = 64 * factor
    for top in range(0, height, rows):
        strip = image.crop((0, top, width, min(top + rows, height)))
        strip = _in_bytes(strip, levels).reduce(factor)
        if small is None:
            small = Image.new(strip.mode, (strip.width, math.ceil(height / factor)))
        small.paste(strip, (0, top // factor))
    assert small is not None
    small.info = dict(image.info)
    small.thumbnail((_SHOWN_SIDE, _SHOWN_SIDE), Image.Resampling.BOX, reducing_gap=None)
    return small


def _levels(image: Image.Image) -> float:
    """The value that is white in an image with more than 8 bits a channel; 0 for all others."""
    if image.mode not in ("I", "I;16", "I;16B", "I;16L", "F"):
        return 0.0
    _, most = image.getextrema()
    return 65535.0 if image.mode != "F" and isinstance(most, int) and most > 255 else 255.0


def _in_bytes(strip: Image.Image, levels: float) -> Image.Image:
    """A part of an image in a mode of 8 bits a channel that can be made smaller."""
    if levels:
        values = np.asarray(strip, dtype=np.float64) / levels * 255
        return Image.fromarray(np.clip(values, 0, 255).astype(np.uint8), "L")
    return strip if strip.mode in ("RGB", "RGBA", "L", "CMYK") else strip.convert("RGBA")


def _in_srgb(image: Image.Image, remarks: list[str]) -> Image.Image:
    """The image as 8-bit RGBA; an embedded profile is followed where it can be."""
    profile = image.info.get("icc_profile")
    if profile and image.mode in ("RGB", "RGBA", "CMYK"):
        try:
            source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            mode = "RGBA" if image.mode == "RGBA" else "RGB"
            converted = ImageCms.profileToProfile(
                image, source, ImageCms.createProfile("sRGB"), outputMode=mode
            )
            return (converted or image).convert("RGBA")
        except (ImageCms.PyCMSError, OSError):
            remarks.append("Its color profile could not be read; sRGB was taken.")
    return image.convert("RGBA")


def _copy(image: Image.Image) -> tuple[bytes, str]:
    """The picture rewritten, without anything but its pixels."""
    opaque = int(np.asarray(image.getchannel("A")).min()) == 255
    kind = "JPEG" if opaque else "PNG"
    held = io.BytesIO()
    plain = image.convert("RGB" if opaque else "RGBA")
    plain.info = {}
    plain.save(held, kind, **({"quality": 85} if opaque else {"optimize": False}))
    return held.getvalue(), f"image/{kind.lower()}"


def _clusters(pixels: Array, count: int, file: str) -> tuple[Cluster, ...]:
    height, width = pixels.shape[:2]
    flat = pixels.reshape(-1, 4)
    seen = np.flatnonzero(flat[:, 3] >= 0.5)
    if not len(seen):
        raise FormatError("Every pixel of the picture is transparent.", place=file)
    points = oklab(flat[seen, :3])
    centers = find_centers(points, count)
    centers, labels = merge_near(points, centers, nearest_centers(points, centers))
    sparks = with_sparks(points, centers, labels)
    if len(sparks) > len(centers):
        cells = cells_of(points)
        centers = tuned_centers(cells, centers_in_lab(cells.means), settled_centers(cells, sparks))
        labels = nearest_centers(points, centers)
    shares = np.bincount(labels, minlength=len(centers)) / len(points)
    clusters = []
    for number in most_telling(centers, shares):
        members = np.flatnonzero(labels == number)
        x, y = _place(points, centers[number], members, seen, width)
        color = space.Color("srgb", _srgb(centers[number]))
        clusters.append(
            Cluster(color, float(shares[number]), (x + 0.5) / width, (y + 0.5) / height)
        )
    return tuple(clusters)


def _place(
    points: Array, center: Array, members: Labels, seen: Labels, width: int
) -> tuple[int, int]:
    """The pixel of the cluster's color that lies nearest to the middle of its like."""
    distance = np.sum((points[members] - center) ** 2, axis=-1)
    typical = members[distance <= np.quantile(distance, 0.3) + 1e-12]
    ys, xs = np.divmod(seen[typical], width)
    middle = (np.median(xs), np.median(ys))
    best = int(np.argmin((xs - middle[0]) ** 2 + (ys - middle[1]) ** 2))
    return int(xs[best]), int(ys[best])


def _srgb(center: Array) -> tuple[float, float, float]:
    """The 8-bit sRGB color of an OKLab center, as channels 0-1."""
    color = space.Color("oklab", (float(center[0]), float(center[1]), float(center[2])))
    red, green, blue, _ = space.rgba8(color)
    return red / 255, green / 255, blue / 255


def share_text(share: float) -> str:
    """A share in percent, as people read it."""
    percent = share * 100
    return "under 1 %" if percent < 1 else f"{math.floor(percent + 0.5)} %"
