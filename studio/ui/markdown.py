"""Markdown that people write about their tokens, as safe markup.

CommonMark without HTML and pictures; links to http, https and mail only, into a page of their own.
"""

from django.utils.safestring import mark_safe
from markdown_it import MarkdownIt
from markdown_it.renderer import RendererHTML

# What is said of a token stands below headings of the page.
_HEADING = "h4"


class _Renderer(RendererHTML):
    def heading_open(self, tokens, idx, options, env):
        return f"<{_HEADING}>"

    def heading_close(self, tokens, idx, options, env):
        return f"</{_HEADING}>\n"

    def link_open(self, tokens, idx, options, env):
        tokens[idx].attrSet("target", "_blank")
        tokens[idx].attrSet("rel", "noopener noreferrer")
        return self.renderToken(tokens, idx, options, env)


def _allowed(address):
    return address.strip().lower().startswith(("https://", "http://", "mailto:"))


def _reader():
    reader = MarkdownIt("commonmark", {"html": False}, renderer_cls=_Renderer)
    reader.disable(["image", "html_block", "html_inline"])
    reader.validateLink = _allowed
    return reader


_READER = _reader()


def markup(text):
    """Markdown as HTML; everything that is no Markdown is escaped."""
    return mark_safe(_READER.render(text))
