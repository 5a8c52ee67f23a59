"""Forms of findings."""

from __future__ import annotations

from dataclasses import fields, replace
from types import ModuleType
from typing import Any

from django.contrib.auth.models import User

from prism.edits import Command
from studio.rooms.writing import NamedCommandForm


class SignedCommandForm(NamedCommandForm):
    """A named command that says who gave it, where it has a field for that."""

    def __init__(self, data: Any, person: User, *families: ModuleType) -> None:
        super().__init__(data, *families)
        self._person = person

    def command(self) -> Command:
        command: Any = super().command()
        if any(field.name == "by" for field in fields(command)):
            command = replace(command, by=self._person.get_username())
        made: Command = command
        return made
