"""Loads the demo: its people and its project."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand

from demo import picture, quillhaven
from prism.palette import pictures
from studio.accounts.demo import DEMO_DESIGNER
from studio.store import pictures as kept_pictures
from studio.store import projects as store
from studio.store.models import Membership, Project


class Command(BaseCommand):
    help = "Load the demo designer and the demo project, unless they already exist."

    def handle(self, *args: Any, **options: Any) -> None:
        people = get_user_model().objects
        designer, made = people.get_or_create(username=DEMO_DESIGNER)
        if made:
            designer.set_unusable_password()
            designer.save()
        for name in ("demo-developer", "demo-reader"):
            person, made = people.get_or_create(username=name)
            if made:
                person.set_unusable_password()
                person.save()
        if Project.objects.with_role_of(designer).exists():
            return
        project = store.create(designer, quillhaven.document(), "Loaded the demo project")
        roles = {"demo-developer": Membership.Role.EDITOR, "demo-reader": Membership.Role.VIEWER}
        for name, role in roles.items():
            Membership.objects.create(project=project, user=people.get(username=name), role=role)
        read = pictures.read(picture.draw(), picture.NAME)
        kept_pictures.keep(project, designer, picture.NAME, read)
        self.stdout.write(f"Loaded {project.name}.")
