"""Members of a project: inviting, changing roles, leaving. An owner always remains."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.db import transaction

from prism.errors import PrismError
from studio.store.models import Membership, Project


class MemberError(PrismError):
    """A change to the members that would leave the project wrong."""


@transaction.atomic
def invite(project: Project, user: User, role: str) -> None:
    """Make ``user`` a member, or give her another role."""
    Project.objects.select_for_update().get(pk=project.pk)
    known = project.memberships.filter(user=user).first()
    if known is not None and known.role == Membership.Role.OWNER and role != known.role:
        _keep_an_owner(project, known)
    Membership.objects.update_or_create(project=project, user=user, defaults={"role": role})


@transaction.atomic
def remove(project: Project, membership_id: int) -> None:
    """Take a member out."""
    Project.objects.select_for_update().get(pk=project.pk)
    member = project.memberships.filter(pk=membership_id).first()
    if member is None:
        raise MemberError("That member is no longer there.")
    if member.role == Membership.Role.OWNER:
        _keep_an_owner(project, member)
    member.delete()


def _keep_an_owner(project: Project, leaving: Membership) -> None:
    others = project.memberships.filter(role=Membership.Role.OWNER).exclude(pk=leaving.pk)
    if not others.exists():
        raise MemberError("A project needs an owner.", fix="Make somebody else an owner first.")
