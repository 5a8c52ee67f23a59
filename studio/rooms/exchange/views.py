"""The Exchange room: files of any open format in and out."""

from __future__ import annotations

import itertools
from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from typing import Any

from django.contrib import messages
from django.core.exceptions import PermissionDenied
from django.core.files.uploadedfile import UploadedFile
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from prism.edits.imports import ImportDocument
from prism.errors import PrismError
from prism.formats import archive
from prism.formats import files as formats
from prism.formats.duplicates import DuplicateError
from prism.formats.style_sheets.outcome import SkippedDeclaration
from prism.model.document import TIERS, Document
from prism.palette import importing
from studio.accounts.permissions import may, requires
from studio.rooms import page, writing
from studio.rooms.address import Address
from studio.rooms.exchange.forms import ImportForm
from studio.rooms.frame import Frame, enter
from studio.rooms.themes import read_theme
from studio.store import projects as store
from studio.store.projects import Project

#: Reasons, and names under a reason, that the report on an import says at most.
MOST_REASONS, MOST_NAMED = 40, 100


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """Import files, export files, and what the document says of itself."""
    return _room(enter(request, project, "exchange"))


def _room(
    frame: Frame[Address],
    form: ImportForm | None = None,
    problem: str = "",
    status: int = 200,
    *,
    asks_duplicates: bool = False,
) -> HttpResponse:
    context = {
        "asks_duplicates": asks_duplicates,
        "form": form or ImportForm(),
        "problem": problem,
        "findings": [
            (finding, frame.document.token(finding.token)) for finding in frame.analysis.findings
        ],
        "themes": frame.resolver.theme_count,
        "targets": formats.TARGETS,
    }
    return page.show(frame, "exchange/room.html", context, status)


@requires("view")
@require_POST
def import_files(request: HttpRequest, project: Project) -> HttpResponse:
    """Read files into a new project, or in place of this one's tokens."""
    frame = enter(request, project, "exchange")
    form = ImportForm(request.POST, request.FILES)
    if not form.is_valid():
        return _room(frame, form, writing.problems(form), 400)
    try:
        others: list[str] = []
        if form.cleaned_data["files"]:
            files, others = _files(form.cleaned_data["files"])
            read = formats.read(files, store.new_key, choice=form.cleaned_data["duplicates"])
        else:
            text, choice = (form.cleaned_data[name] for name in ("text", "duplicates"))
            read = importing.document_of_text(text, store.new_key, choice)
        target = _store(frame, form.cleaned_data, read.document)
    except PermissionDenied as error:
        return _room(frame, form, str(error), 403)
    except DuplicateError as error:
        return _room(frame, form, str(error), 422, asks_duplicates=True)
    except PrismError as error:
        return _room(frame, form, str(error), 422)
    messages.success(
        request, _sentence(read.document), extra_tags="undo" if target == project else ""
    )
    if others:
        messages.warning(request, f"Skipped, not token files: {', '.join(others)}.")
    if read.skipped:
        messages.warning(request, " ".join(_skipped(read.skipped)))
    return redirect(reverse("exchange:room", args=[target.code]))


def _skipped(declarations: Iterable[SkippedDeclaration]) -> Iterator[str]:
    """Sentences on the declarations that did not become tokens, one for each reason."""
    names: dict[str, dict[str, None]] = {}
    for declaration in declarations:
        place = f" (line {declaration.line})" if declaration.line else ""
        names.setdefault(declaration.reason, {})[declaration.name + place] = None
    for reason, of_reason in itertools.islice(names.items(), MOST_REASONS):
        shown = ", ".join(itertools.islice(of_reason, MOST_NAMED))
        more = len(of_reason) - MOST_NAMED
        yield f"Skipped {shown}{f' and {more} more' if more > 0 else ''}: {reason}."
    if len(names) > MOST_REASONS:
        yield f"More was skipped, for {len(names) - MOST_REASONS} other reasons."


def _store(frame: Frame[Address], values: dict[str, Any], document: Document) -> Project:
    """Store an imported document in this project or in a new one; the project it is in."""
    user = frame.person
    name = values["name"].strip() or document.name or "Untitled"
    if values["into"] == "here":
        may(frame.project, "edit")
        command = ImportDocument(name, document)
        store.save(frame.project, command, user, values["revision"])
        return frame.project
    return store.create(user, replace(document, name=name), f"Imported {name}")


def _files(uploads: Sequence[UploadedFile[Any]]) -> tuple[dict[str, bytes], list[str]]:
    """Names and bytes of what was uploaded, and names of what is no token file in an archive."""
    zips = [file for file in uploads if (file.name or "").lower().endswith(".zip")]
    if zips and len(uploads) > 1:
        raise PrismError("An archive is imported alone.", fix="Choose the archive, or the files.")
    if zips:
        return archive.read(zips[0].read(), zips[0].name or "")
    files: dict[str, bytes] = {}
    for upload in uploads:
        name = upload.name or ""
        if name in files:
            raise PrismError("Two files have this name.", place=name)
        files[name] = upload.read()
    return files, []


def _sentence(document: Document) -> str:
    """What was imported, with numbers."""
    axes = ", ".join(
        f"{axis.name} ({', '.join(mode.name for mode in axis.modes)})" for axis in document.axes
    )
    count = len(document.tokens)
    tiers = Counter(token.tier for token in document.tokens)
    parts = ", ".join(f"{tiers[tier]} {tier}" for tier in reversed(TIERS) if tiers[tier])
    sentence = f"{count} token{'' if count == 1 else 's'} imported ({parts})"
    word = "axis" if len(document.axes) == 1 else "axes"
    return f"{sentence}, with {word} {axes}." if axes else f"{sentence}."


@requires("view")
@require_GET
def export(request: HttpRequest, project: Project, target: str) -> HttpResponse:
    """The document as files of a format; one that holds one theme, in that of the address."""
    written = formats.BY_ID.get(target)
    if written is None:
        raise Http404
    analysis = store.load(project).analysis
    theme = read_theme(analysis, request.GET.get("theme", ""))
    name, content, media_type = written.file(analysis.document, theme)
    response = HttpResponse(content, content_type=media_type)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
