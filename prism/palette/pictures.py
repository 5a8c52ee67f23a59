"""The colors of a picture: opened and limited by Pillow, clustered in OKLab.

The same picture gives the same colors: the first centers are the far ends of a histogram, not
random ones.
"""

from __future__ import annotations

import io
import itertools
import math
import warnings
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageCms, ImageOps

from prism.color import space
from prism.color.difference import delta_e_2000, lab, oklab
from prism.errors import FormatError
from prism.palette.gamut import linear_rgb

Array = NDArray[np.float64]
Labels = NDArray[np.int64]

MAX_BYTES = 24 * 1024 * 1024
MAX_PIXELS = 24_000_000
#: A WebP file is held five times over while it is read.
MAX_PIXELS_OF = {"WEBP": 12_000_000}
MAX_SIDE = 20_000
FEWEST, MOST = 5, 12
#: Clusters nearer than this in OKLab are one color.
NEAR_DUPLICATE = 0.03
#: A cluster smaller than this share that lies so near the line between two larger ones in OKLab
#: is the blend along an edge, and no color of its own.
BLEND_SHARE, BLEND_DISTANCE = 0.012, 0.04
#: A spot this far in OKLab from every color found is one of its own from this share on.
SPARK_DISTANCE, SPARK_SHARE, MOST_SPARKS = 0.13, 0.0005, 2
_SIDE, _SHOWN_SIDE = 256, 900
_ROUNDS, _TUNING, _CELLS = 40, 4, 20
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
    written anew as PNG or JPEG (``shown_type``), and its size."""

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
    """The picture written anew, without anything that came beside its pixels."""
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
    centers = _centers(points, count)
    centers, labels = _merge(points, centers, _assign(points, centers))
    sparks = _with_sparks(points, centers, labels)
    if len(sparks) > len(centers):
        cells = _cells(points)
        centers = _tuned(cells, _lab(cells.means), _settled(cells, sparks))
        labels = _assign(points, centers)
    shares = np.bincount(labels, minlength=len(centers)) / len(points)
    found = []
    for number in _telling(centers, shares):
        members = np.flatnonzero(labels == number)
        x, y = _place(points, centers[number], members, seen, width)
        color = space.Color("srgb", _srgb(centers[number]))
        found.append(Cluster(color, float(shares[number]), (x + 0.5) / width, (y + 0.5) / height))
    return tuple(found)


@dataclass(frozen=True, slots=True)
class _Cells:
    """The pixels as a histogram: mean OKLab (n, 3) and number of pixels (n,) of each cell."""

    means: Array
    sizes: Array


def _cells(points: Array) -> _Cells:
    low, high = points.min(axis=0), points.max(axis=0)
    scaled = (points - low) / np.maximum(high - low, 1e-9)
    cells = np.minimum((scaled * _CELLS).astype(np.int64), _CELLS - 1)
    codes = (cells[:, 0] * _CELLS + cells[:, 1]) * _CELLS + cells[:, 2]
    _, inverse, sizes = np.unique(codes, return_inverse=True, return_counts=True)
    sums = [np.bincount(inverse, weights=points[:, i], minlength=len(sizes)) for i in range(3)]
    weights = sizes.astype(np.float64)
    return _Cells(np.stack(sums, axis=-1) / weights[:, None], weights)


def _centers(points: Array, count: int) -> Array:
    """Centers by k-means over the histogram; of several beginnings the one that fits best.

    How well it fits is the mean CIEDE2000 of the pixels to their center.
    """
    cells = _cells(points)
    cell_lab = _lab(cells.means)
    found = [_settled(cells, _far_apart(cells, count, power)) for power in (0.5, 1.0, 0.25)]
    tuned = [_tuned(cells, cell_lab, one) for one in found]
    return min([*tuned, *found], key=lambda one: _misfit(cells, cell_lab, one))


def _far_apart(cells: _Cells, count: int, power: float) -> Array:
    """Cells far from each other that hold many pixels, the fullest first."""
    means, weights = cells.means, cells.sizes**power
    chosen = [int(np.argmax(cells.sizes))]
    distance = np.sum((means - means[chosen[0]]) ** 2, axis=-1)
    while len(chosen) < min(count, len(means)):
        best = int(np.argmax(distance * weights))
        if distance[best] <= 0:
            break
        chosen.append(best)
        distance = np.minimum(distance, np.sum((means - means[best]) ** 2, axis=-1))
    return means[chosen]


def _settled(cells: _Cells, centers: Array) -> Array:
    for _ in range(_ROUNDS):
        moved = _means(cells.means, cells.sizes, _assign(cells.means, centers), centers)
        if np.max(np.abs(moved - centers)) < 1e-5:
            break
        centers = moved
    return centers


def _tuned(cells: _Cells, cell_lab: Array, centers: Array) -> Array:
    """A few rounds more in which a cell goes to the center of least CIEDE2000."""
    for _ in range(_TUNING):
        nearest = np.argmin(delta_e_2000(cell_lab[:, None], _lab(centers)[None, :]), axis=-1)
        centers = _means(cells.means, cells.sizes, nearest, centers)
    return centers


def _misfit(cells: _Cells, cell_lab: Array, centers: Array) -> float:
    apart = delta_e_2000(cell_lab[:, None], _lab(centers)[None, :]).min(axis=-1)
    return float(np.average(apart, weights=cells.sizes))


def _lab(centers: Array) -> Array:
    """CIE Lab of OKLab colors within sRGB."""
    chroma, hue = np.hypot(centers[:, 1], centers[:, 2]), np.arctan2(centers[:, 2], centers[:, 1])
    light = np.clip(linear_rgb(centers[:, 0], chroma, np.degrees(hue), "srgb"), 0, 1)
    return lab(np.where(light <= 0.0031308, light * 12.92, 1.055 * light ** (1 / 2.4) - 0.055))


def _assign(points: Array, centers: Array) -> Labels:
    squared = np.sum(centers**2, axis=-1)[None, :] - 2 * points @ centers.T
    return np.asarray(np.argmin(squared, axis=-1))


def _means(points: Array, weights: Array, labels: Labels, centers: Array) -> Array:
    sizes = np.bincount(labels, weights=weights, minlength=len(centers))
    sums = [
        np.bincount(labels, weights=points[:, i] * weights, minlength=len(centers))
        for i in range(3)
    ]
    moved = np.stack(sums, axis=-1) / np.maximum(sizes, 1)[:, None]
    return np.asarray(np.where(sizes[:, None] > 0, moved, centers))


def _merge(points: Array, centers: Array, labels: Labels) -> tuple[Array, Labels]:
    """Near-duplicates made one, and blends along edges given to their nearest."""
    while len(centers) > 1:
        sizes = np.bincount(labels, minlength=len(centers))
        apart = np.linalg.norm(centers[:, None] - centers[None, :], axis=-1)
        np.fill_diagonal(apart, np.inf)
        first, second = divmod(int(np.argmin(apart)), len(centers))
        if apart[first, second] >= NEAR_DUPLICATE:
            blends = _blends(centers, sizes / len(points))
            if not blends:
                break
            first = blends[0]
            second = int(np.argmin(apart[first]))
        larger, gone = sorted((first, second), key=lambda one: -int(sizes[one]))
        near = apart[first, second] < NEAR_DUPLICATE
        labels = np.where(labels == gone, larger, labels)
        if near:
            centers[larger] = points[labels == larger].mean(axis=0)
        labels = np.where(labels > gone, labels - 1, labels)
        centers = np.delete(centers, gone, axis=0)
    return centers, labels


def _blends(centers: Array, shares: Array) -> list[int]:
    """Small clusters that lie between two larger ones, smallest first: the blends of edges."""
    found = []
    for number in np.argsort(shares, kind="stable"):
        if shares[number] >= BLEND_SHARE:
            break
        larger = [one for one in range(len(centers)) if shares[one] > shares[number]]
        for first, second in itertools.combinations(larger, 2):
            line = centers[second] - centers[first]
            along = float(np.dot(centers[number] - centers[first], line) / np.dot(line, line))
            off = float(np.linalg.norm(centers[first] + along * line - centers[number]))
            if 0 < along < 1 and off < BLEND_DISTANCE:
                found.append(int(number))
                break
    return found


def _with_sparks(points: Array, centers: Array, labels: Labels) -> Array:
    """Centers and, where there is room, small spots of a color far from all of them."""
    for _ in range(MOST_SPARKS):
        apart = np.linalg.norm(points - centers[labels], axis=-1)
        far = points[(apart > SPARK_DISTANCE) & ~_between(points, centers)]
        if len(centers) >= MOST or len(far) < max(SPARK_SHARE * len(points), 4):
            break
        cells = _cells(far)
        fullest = cells.means[int(np.argmax(cells.sizes))]
        own = far[np.linalg.norm(far - fullest, axis=-1) < SPARK_DISTANCE]
        centers = np.vstack([centers, own.mean(axis=0)])
        labels = _assign(points, centers)
    return centers


def _between(points: Array, centers: Array) -> NDArray[np.bool_]:
    """Whether a pixel lies near the line between two centers, as blends along edges do."""
    found = np.zeros(len(points), dtype=bool)
    for first, second in itertools.combinations(range(len(centers)), 2):
        line = centers[second] - centers[first]
        along = (points - centers[first]) @ line / float(np.dot(line, line))
        off = np.linalg.norm(points - centers[first] - along[:, None] * line, axis=-1)
        found |= (along > 0) & (along < 1) & (off < BLEND_DISTANCE)
    return found


def _telling(centers: Array, shares: Array) -> list[int]:
    """Clusters by how much they say of the picture: their share, more where they are colorful."""
    chroma = np.hypot(centers[:, 1], centers[:, 2])
    weight = np.sqrt(shares) * (0.35 + np.minimum(chroma, 0.25) * 4)
    return [int(one) for one in np.argsort(-weight, kind="stable")]


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
