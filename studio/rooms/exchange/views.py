"""The Exchange room: Design Tokens in, Design Tokens and CSS out."""

from dataclasses import replace

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from prism.errors import PrismError
from prism.formats import archive, css, resolver_writer
from prism.formats import files as formats
from prism.model.names import segment
from studio.accounts.permissions import decide, requires
from studio.rooms import frame as frames
from studio.rooms.exchange.forms import BringForm
from studio.store import projects as store


@requires("view")
@require_GET
def room(request, project):
    """Bring files, take files, and what the document says of itself."""
    return _room(frames.enter(request, project, "exchange"))


def _room(frame, form=None, problem="", status=200):
    context = {
        "form": form or BringForm(),
        "problem": problem,
        "findings": [
            (finding, frame.document.token(finding.token)) for finding in frame.analysis.findings
        ],
        "themes": frame.resolver.theme_count,
        "others": list(OTHERS),
    }
    return frames.show(frame, "exchange/room.html", context, status)


@requires("view")
@require_POST
def bring(request, project):
    """Read files into a new project, or in place of this one's tokens."""
    frame = frames.enter(request, project, "exchange")
    form = BringForm(request.POST, request.FILES)
    if not form.is_valid():
        return _room(frame, form, frames.problems(form), 400)
    said = form.cleaned_data
    decision = decide(project.role, "edit")
    if said["into"] == "here" and not decision.allowed:
        return _room(frame, form, decision.reason, 403)
    try:
        files, passed_over = _files(said["files"])
        read = formats.read(files, store.new_key)
        document = read.document
        target = _keep(request, frame, said, document)
    except PrismError as error:
        return _room(frame, form, str(error), 422)
    messages.success(request, _said(document))
    if passed_over:
        messages.warning(request, f"Passed over, as no token files: {', '.join(passed_over)}.")
    for reason, names in _by_reason(read.passed_over).items():
        messages.warning(request, f"Passed over, {reason}: {', '.join(names)}.")
    return redirect(reverse("exchange:room", args=[target.code]))


def _by_reason(passed_over):
    """Names of declarations that did not become tokens, by the reason."""
    found = {}
    for one in passed_over:
        found.setdefault(one.reason, {})[one.name] = None
    return found


def _keep(request, frame, said, document):
    name = said["name"].strip() or document.name or "Untitled"
    if said["into"] == "here":
        after = replace(document, name=frame.document.name)
        before = store.at(frame.project, said["revision"])
        store.save(frame.project, before, after, request.user, f"Brought {name}")
        return frame.project
    return store.create(request.user, replace(document, name=name), f"Brought {name}")


def _files(uploads):
    """Names and bytes of what came; one archive is unpacked."""
    zips = [file for file in uploads if file.name.lower().endswith(".zip")]
    if zips and len(uploads) > 1:
        raise PrismError("An archive comes alone.", fix="Bring the archive, or the files.")
    if zips:
        return archive.read(zips[0].read(), zips[0].name)
    files = {}
    for upload in uploads:
        if upload.name in files:
            raise PrismError("Two files have this name.", place=upload.name)
        files[upload.name] = upload.read()
    return files, []


def _said(document):
    axes = ", ".join(
        f"{axis.name} ({', '.join(mode.name for mode in axis.modes)})" for axis in document.axes
    )
    count = len(document.tokens)
    said = f"{count} token{'' if count == 1 else 's'} came"
    return f"{said}, with the axes {axes}." if axes else f"{said}."


@requires("view")
@require_GET
def take_css(request, project):
    """The live style sheet: all themes, zones of any nesting."""
    document = store.load(project).document
    text = css.write(document, classes=request.GET.get("by") == "classes")
    return _download(text, "text/css; charset=utf-8", f"{segment(project.name)}.css")


@requires("view")
@require_GET
def take_flat_css(request, project):
    """One theme as literals."""
    loaded = store.load(project)
    theme = frames.read_theme(loaded, request.GET.get("theme", ""))
    text = css.write_flat(loaded.document, theme)
    return _download(text, "text/css; charset=utf-8", f"{segment(project.name)}-flat.css")


@requires("view")
@require_GET
def take_tokens(request, project):
    """The Design Tokens resolver document with its files, as one archive."""
    document = store.load(project).document
    written = resolver_writer.write(document)
    data = archive.write(written.files)
    return _download(data, "application/zip", f"{segment(project.name)}-tokens.zip")


OTHERS = {
    "json": "application/json",
    "csv": "text/csv; charset=utf-8",
    "gpl": "text/plain; charset=utf-8",
    "svg": "image/svg+xml",
}


@requires("view")
@require_GET
def take_other(request, project, kind):
    """Another open format; palettes hold the theme of the address."""
    if kind not in OTHERS:
        raise Http404
    loaded = store.load(project)
    theme = frames.read_theme(loaded, request.GET.get("theme", ""))
    written, _ = formats.write(loaded.document, kind, theme)
    ((name, text),) = written.items()
    return _download(text, OTHERS[kind], name)


def _download(content, content_type, name):
    response = HttpResponse(content, content_type=content_type)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
