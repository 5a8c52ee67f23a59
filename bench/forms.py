"""The forms of a page, as a browser finds them: for programs that fill in what people fill in."""

from __future__ import annotations

from dataclasses import dataclass, field
from html.parser import HTMLParser

#: Kinds of inputs that a text is typed into.
TYPED = frozenset(("text", "search", "url", "number", "password", "textarea"))


@dataclass(slots=True)
class Field:
    """One field: its kind (``select``, ``textarea`` or the type of the input), what it holds, and what can be
    chosen."""

    name: str
    kind: str
    value: str = ""
    is_checked: bool = True
    options: list[str] = field(default_factory=list)
    #: The id of a list of values that are offered.
    offered: str = ""


@dataclass(slots=True)
class Form:
    """A form: where it is sent, how, its fields, and the names, values and addresses of its buttons."""

    action: str
    method: str
    fields: list[Field] = field(default_factory=list)
    buttons: list[tuple[str, str, str]] = field(default_factory=list)

    def values(self) -> dict[str, str]:
        """What is sent where nothing is typed; where names are repeated, the last counts."""
        return {one.name: one.value for one in self.fields if one.is_checked and one.kind != "file"}

    def names(self, *kinds: str) -> list[str]:
        """The names of the fields of some kinds."""
        return [one.name for one in self.fields if one.kind in kinds]


class Forms(HTMLParser):
    """Collects the forms of a page that was found at an address."""

    def __init__(self, address: str) -> None:
        super().__init__()
        self.address = address.partition("?")[0]
        self.found: list[Form] = []
        self._by_id: dict[str, Form] = {}
        self._open: Form | None = None
        self._select: Field | None = None
        self._text: Field | None = None

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        said = {name: value or "" for name, value in attrs}
        if tag == "form":
            self._open = Form(said.get("action") or self.address, said.get("method", "get").lower())
            self._by_id[said.get("id", "")] = self._open
            self.found.append(self._open)
        elif tag == "option":
            self._option(said)
        elif tag in ("input", "textarea", "select", "button") and "disabled" not in said:
            form = self._by_id.get(said["form"]) if "form" in said else self._open
            if form is not None:
                self._control(form, tag, said)

    def _option(self, said: dict[str, str]) -> None:
        if self._select is None:
            return
        value = said.get("value", "")
        self._select.options.append(value)
        if "selected" in said or len(self._select.options) == 1:
            self._select.value = value

    def _control(self, form: Form, tag: str, said: dict[str, str]) -> None:
        name = said.get("name", "")
        kind = (
            said.get("type", "submit" if tag == "button" else "text")
            if tag in ("input", "button")
            else tag
        )
        if kind in ("submit", "image"):
            form.buttons.append((name, said.get("value", ""), said.get("formaction", "")))
        if not name or name == "csrfmiddlewaretoken" or kind in ("submit", "button", "reset"):
            return
        checked = kind not in ("checkbox", "radio") or "checked" in said
        made = Field(
            name, kind, said.get("value", "" if tag != "input" or checked else "on"), checked
        )
        made.offered = said.get("list", "")
        form.fields.append(made)
        if tag == "select":
            self._select = made
        elif tag == "textarea":
            self._text = made

    def handle_data(self, data: str) -> None:
        if self._text is not None:
            self._text.value += data

    def handle_endtag(self, tag: str) -> None:
        if tag == "form":
            self._open = None
        elif tag == "select":
            self._select = None
        elif tag == "textarea":
            self._text = None


def forms(address: str, text: str) -> list[Form]:
    """The forms of a page."""
    reader = Forms(address)
    reader.feed(text)
    return reader.found
