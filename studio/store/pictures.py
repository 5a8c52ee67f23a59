"""Pictures that colors were taken from: a small copy of each, for a while."""

from __future__ import annotations

import json
import secrets
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction

from prism.color import space
from prism.palette.pictures import Picture as ReadPicture
from studio.store.models import Picture as Picture
from studio.store.models import Project

#: How many pictures a project keeps; older ones go.
KEPT = 30


@transaction.atomic
def keep(project: Project, actor: User | None, name: str, picture: ReadPicture) -> str:
    """Keep what was read of a picture; returns the code it is found by."""
    kept = Picture.objects.create(
        project=project,
        code=secrets.token_hex(6),
        name=name[:200],
        added_by=actor,
        data=picture.shown,
        content_type=picture.shown_type,
        width=picture.width,
        height=picture.height,
        text=json.dumps(
            {
                "colors": [
                    {
                        "hex": space.hex_text(cluster.color),
                        "share": cluster.share,
                        "x": cluster.x,
                        "y": cluster.y,
                    }
                    for cluster in picture.clusters
                ],
                "remarks": list(picture.remarks),
            }
        ),
    )
    old = Picture.objects.filter(project=project).order_by("-id").values_list("pk", flat=True)
    Picture.objects.filter(pk__in=list(old[KEPT:])).delete()
    return kept.code


def find(project: Project, code: str) -> Picture | None:
    """A picture of a project by its code, or None."""
    plain = code.isalnum()  # the database takes no NUL character
    return Picture.objects.filter(project=project, code=code).first() if plain else None


def kept(project: Project) -> list[Any]:
    """Code and name of the pictures that a project keeps, newest first."""
    return list(Picture.objects.filter(project=project).order_by("-id").values("code", "name"))
