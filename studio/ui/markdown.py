"""Markdown that people write about their tokens, as safe markup.

CommonMark without HTML and pictures; links to http, https and mail only, into a page of their own.
"""

from __future__ import annotations

from collections.abc import Sequence

from django.utils.html import format_html
from django.utils.safestring import SafeString, mark_safe
from markdown_it import MarkdownIt
from markdown_it.renderer import RendererHTML
from markdown_it.token import Token
from markdown_it.utils import EnvType, OptionsDict

# What is said of a token stands below headings of the page.
_HEADING = "h4"
#: Characters that are read as Markdown; a longer text is shown as it stands.
_MOST = 20_000


class _Renderer(RendererHTML):
    def heading_open(
        self, tokens: Sequence[Token], idx: int, options: OptionsDict, env: EnvType
    ) -> str:
        return f"<{_HEADING}>"

    def heading_close(
        self, tokens: Sequence[Token], idx: int, options: OptionsDict, env: EnvType
    ) -> str:
        return f"</{_HEADING}>\n"

    def link_open(
        self, tokens: Sequence[Token], idx: int, options: OptionsDict, env: EnvType
    ) -> str:
        tokens[idx].attrSet("target", "_blank")
        tokens[idx].attrSet("rel", "noopener noreferrer")
        return self.renderToken(tokens, idx, options, env)


def _allowed(address: str) -> bool:
    return address.strip().lower().startswith(("https://", "http://", "mailto:"))


def _reader() -> MarkdownIt:
    reader = MarkdownIt("commonmark", {"html": False}, renderer_cls=_Renderer)
    reader.disable(["image", "html_block", "html_inline"])
    reader.validateLink = _allowed  # type: ignore[method-assign,assignment]
    return reader


_READER = _reader()


def markup(text: str) -> SafeString:
    """Markdown as HTML; everything that is no Markdown is escaped."""
    if len(text) > _MOST:
        return format_html("<p>{}</p>", text)
    html: str = _READER.render(text)
    return mark_safe(html)
