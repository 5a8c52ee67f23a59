"""Removes what nobody can use any more: projects, results of long tasks, sessions, counts of tries."""

from __future__ import annotations

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from studio.accounts import limits
from studio.store import projects as store
from studio.store import tasks as long_tasks


class Command(BaseCommand):
    help = (
        "Remove the projects that were deleted more than 30 days ago, old results of long tasks, sessions that have ended and "
        "counts of tries that no limit needs. Run it daily."
    )

    def handle(self, *args: Any, **options: Any) -> None:
        projects, tries, tasks = store.purge_deleted(), limits.purge(), long_tasks.purge()
        call_command("clearsessions")
        self.stdout.write(
            f"Removed {projects} projects, {tasks} results of tasks and {tries} counted tries for good."
        )
