"""The most telling colors of a cloud of points, by k-means in OKLab."""

from __future__ import annotations

import itertools
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from prism.color.difference import delta_e_2000, lab
from prism.color.transfer import encoded
from prism.palette.gamut import linear_rgb

Array = NDArray[np.float64]
Labels = NDArray[np.int64]
FEWEST, MOST = 5, 12
#: Clusters nearer than this in OKLab are one color.
NEAR_DUPLICATE = 0.03
#: A cluster smaller than this share that lies so near the line between two larger ones in OKLab
#: is the blend along an edge, and no color of its own.
BLEND_SHARE, BLEND_DISTANCE = 0.012, 0.04
#: A spot this far in OKLab from every color found is one of its own from this share on.
SPARK_DISTANCE, SPARK_SHARE, MOST_SPARKS = 0.13, 0.0005, 2
_ROUNDS, _TUNING, _CELLS = 40, 4, 20


@dataclass(frozen=True, slots=True)
class _Cells:
    """The pixels as a histogram: mean OKLab (n, 3) and number of pixels (n,) of each cell."""

    means: Array
    sizes: Array


def cells_of(points: Array) -> _Cells:
    low, high = points.min(axis=0), points.max(axis=0)
    scaled = (points - low) / np.maximum(high - low, 1e-9)
    cells = np.minimum((scaled * _CELLS).astype(np.int64), _CELLS - 1)
    codes = (cells[:, 0] * _CELLS + cells[:, 1]) * _CELLS + cells[:, 2]
    _, inverse, sizes = np.unique(codes, return_inverse=True, return_counts=True)
    sums = [np.bincount(inverse, weights=points[:, i], minlength=len(sizes)) for i in range(3)]
    weights = sizes.astype(np.float64)
    return _Cells(np.stack(sums, axis=-1) / weights[:, None], weights)


def find_centers(points: Array, count: int) -> Array:
    """Centers by k-means over the histogram; of several beginnings the one that fits best.

    How well it fits is the mean CIEDE2000 of the pixels to their center.
    """
    cells = cells_of(points)
    cell_lab = centers_in_lab(cells.means)
    centers = [
        settled_centers(cells, _far_apart(cells, count, power)) for power in (0.5, 1.0, 0.25)
    ]
    tuned = [tuned_centers(cells, cell_lab, start) for start in centers]
    return min([*tuned, *centers], key=lambda result: _misfit(cells, cell_lab, result))


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


def settled_centers(cells: _Cells, centers: Array) -> Array:
    for _ in range(_ROUNDS):
        moved = _means(cells.means, cells.sizes, nearest_centers(cells.means, centers), centers)
        if np.max(np.abs(moved - centers)) < 1e-5:
            break
        centers = moved
    return centers


def tuned_centers(cells: _Cells, cell_lab: Array, centers: Array) -> Array:
    """A few rounds more in which a cell goes to the center of least CIEDE2000."""
    for _ in range(_TUNING):
        nearest = np.argmin(
            delta_e_2000(cell_lab[:, None], centers_in_lab(centers)[None, :]), axis=-1
        )
        centers = _means(cells.means, cells.sizes, nearest, centers)
    return centers


def _misfit(cells: _Cells, cell_lab: Array, centers: Array) -> float:
    apart = delta_e_2000(cell_lab[:, None], centers_in_lab(centers)[None, :]).min(axis=-1)
    return float(np.average(apart, weights=cells.sizes))


def centers_in_lab(centers: Array) -> Array:
    """CIE Lab of OKLab colors within sRGB."""
    chroma, hue = np.hypot(centers[:, 1], centers[:, 2]), np.arctan2(centers[:, 2], centers[:, 1])
    light = np.clip(linear_rgb(centers[:, 0], chroma, np.degrees(hue), "srgb"), 0, 1)
    return lab(encoded(light))


def nearest_centers(points: Array, centers: Array) -> Labels:
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


def merge_near(points: Array, centers: Array, labels: Labels) -> tuple[Array, Labels]:
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
        larger, gone = sorted((first, second), key=lambda place: -int(sizes[place]))
        near = apart[first, second] < NEAR_DUPLICATE
        labels = np.where(labels == gone, larger, labels)
        if near:
            centers[larger] = points[labels == larger].mean(axis=0)
        labels = np.where(labels > gone, labels - 1, labels)
        centers = np.delete(centers, gone, axis=0)
    return centers, labels


def _blends(centers: Array, shares: Array) -> list[int]:
    """Small clusters that lie between two larger ones, smallest first: the blends of edges."""
    blends = []
    for number in np.argsort(shares, kind="stable"):
        if shares[number] >= BLEND_SHARE:
            break
        larger = [place for place in range(len(centers)) if shares[place] > shares[number]]
        for first, second in itertools.combinations(larger, 2):
            line = centers[second] - centers[first]
            along = float(np.dot(centers[number] - centers[first], line) / np.dot(line, line))
            off = float(np.linalg.norm(centers[first] + along * line - centers[number]))
            if 0 < along < 1 and off < BLEND_DISTANCE:
                blends.append(int(number))
                break
    return blends


def with_sparks(points: Array, centers: Array, labels: Labels) -> Array:
    """Centers and, where there is room, small spots of a color far from all of them."""
    for _ in range(MOST_SPARKS):
        apart = np.linalg.norm(points - centers[labels], axis=-1)
        far = points[(apart > SPARK_DISTANCE) & ~_between(points, centers)]
        if len(centers) >= MOST or len(far) < max(SPARK_SHARE * len(points), 4):
            break
        cells = cells_of(far)
        fullest = cells.means[int(np.argmax(cells.sizes))]
        own = far[np.linalg.norm(far - fullest, axis=-1) < SPARK_DISTANCE]
        centers = np.vstack([centers, own.mean(axis=0)])
        labels = nearest_centers(points, centers)
    return centers


def _between(points: Array, centers: Array) -> NDArray[np.bool_]:
    """Whether a pixel lies near the line between two centers, as blends along edges do."""
    chosen = np.zeros(len(points), dtype=bool)
    for first, second in itertools.combinations(range(len(centers)), 2):
        line = centers[second] - centers[first]
        along = (points - centers[first]) @ line / float(np.dot(line, line))
        off = np.linalg.norm(points - centers[first] - along[:, None] * line, axis=-1)
        chosen |= (along > 0) & (along < 1) & (off < BLEND_DISTANCE)
    return chosen


def most_telling(centers: Array, shares: Array) -> list[int]:
    """Clusters by how much they say of the picture: their share, more where they are colorful."""
    chroma = np.hypot(centers[:, 1], centers[:, 2])
    weight = np.sqrt(shares) * (0.35 + np.minimum(chroma, 0.25) * 4)
    return [int(place) for place in np.argsort(-weight, kind="stable")]
