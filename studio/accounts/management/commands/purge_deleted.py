"""Removes projects for good, once their time to be brought back is over."""

from django.core.management.base import BaseCommand

from studio.store import projects as store


class Command(BaseCommand):
    help = "Remove the projects that were deleted more than 30 days ago. Run it daily."

    def handle(self, *args, **options):
        self.stdout.write(f"Removed {store.purge_deleted()} projects for good.")
