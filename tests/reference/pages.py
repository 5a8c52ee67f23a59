"""Style sheets on a page in Chromium, in any mode that was read from them."""

import re

from prism.color import space
from prism.errors import ExpressionError
from prism.expressions.evaluation import OnPage
from prism.expressions.values import parse
from tests.browser.base import EngineTestCase

_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?|none")
_ATTRIBUTE = re.compile(r'\[([\w-]+)="(.*)"\]')
STEP = 1 / 255 + 1e-6

COLORS = """
() => {
  const names = new Set();
  const parent = document.body.appendChild(document.createElement("div"));
  for (const element of [document.documentElement, document.body, parent])
    for (const [name] of element.computedStyleMap()) if (name.startsWith("--") && name !== "--painted") names.add(name);
  const probe = parent.appendChild(document.createElement("i"));
  const colors = {};
  for (const name of names) {
    const property = `var(${CSS.escape(name)})`;
    const seen = ["rgb(1, 2, 3)", "rgb(3, 2, 1)"].map((around) => {
      parent.style.color = around;
      probe.style.color = property;
      return getComputedStyle(probe).color;
    });
    if (seen[0] !== seen[1]) continue;  // no color: the one around it is inherited
    probe.style.color = `color(from ${property} srgb r g b / alpha)`;
    colors[name] = getComputedStyle(probe).color;
  }
  parent.remove();
  return colors;
}
"""
TEXTS = """
(names) => {
  const style = getComputedStyle(document.body);
  const around = document.body.appendChild(document.createElement("div"));
  around.style.all = "initial";
  around.style.colorScheme = style.colorScheme;
  const probe = around.appendChild(document.createElement("i"));
  const texts = {};
  for (const name of names) {
    const property = `var(${CSS.escape(name)})`;
    texts[name] = [style.getPropertyValue(name).trim().replace(/\\s+/g, " ")];
    for (const used of ["color", "boxShadow", "fontFamily", "backgroundImage", "transition"]) {
      probe.style[used] = property;
      texts[name].push(getComputedStyle(probe)[used]);
      probe.style[used] = "";
    }
  }
  around.remove();
  return texts;
}
"""
_LAST = ":root { --painted: yes }"
_PAINTED = "getComputedStyle(document.body).getPropertyValue('--painted') === 'yes'"
UNASKED = {"prefers-color-scheme": "light", "prefers-reduced-motion": "no-preference"}
_MARK = """
([attributes, classes, marked]) => {
  const root = document.documentElement;
  for (const [name, value] of attributes) root.setAttribute(name, value);
  for (const name of classes) for (const element of marked) document[element].classList.add(name);
}
"""


def css_name(token):
    """The custom property of a token that came from a sheet."""
    return "--" + (dict(token.export_names).get("css") or token.path)


def numbers(text):
    """Channels and alpha of a color in sRGB that Chromium wrote."""
    found = [0.0 if n == "none" else float(n) for n in _NUMBER.findall(text.split("srgb", 1)[1])]
    return found if len(found) == 4 else [*found, 1.0]


class SheetTestCase(EngineTestCase):
    #: Elements that classes of modes are put on.
    marked = ("documentElement", "body")

    def show(self, text, document, picks):
        """A page with a style sheet, in the modes picked and the default ones besides."""
        attributes, classes, media = [], [], {"prefers-color-scheme": "light"}
        for axis in document.axes:
            mode = axis.mode(picks.get(axis.key, axis.default))
            if not axis.follows and not any(mode.selectors for mode in axis.modes):
                attributes.append([f"data-{axis.name}", mode.name])
                attributes.append(["style", f"color-scheme: {mode.color_scheme}"])
            for selector in mode.selectors[:1]:
                match = _ATTRIBUTE.fullmatch(selector)
                if match:
                    attributes.append([match[1], match[2]])
                else:
                    classes.append(selector.removeprefix("."))
            if axis.follows and not mode.selectors:
                values = {mode: value for value, mode in axis.follows.modes}
                media[axis.follows.feature] = values.get(mode.key, UNASKED[axis.follows.feature])
        self.page.emulate_media(
            color_scheme=media["prefers-color-scheme"],
            reduced_motion=media.get("prefers-reduced-motion", "no-preference"),
        )
        self.page.set_content(
            f"<!doctype html><html><head><style>{text}\n{_LAST}</style></head><body></body>"
        )
        self.page.wait_for_function(_PAINTED)
        self.page.evaluate(_MARK, [attributes, classes, self.marked])

    def states(self, document):
        """The default theme, and every other mode with all else in its default."""
        yield {}
        for axis in document.axes:
            for mode in axis.modes:
                if mode.key != axis.default:
                    yield {axis.key: mode.key}

    def verdict(self, resolver, token, theme, seen):
        """How a token compares with the color that Chromium sees."""
        answer = resolver.resolve(token.key, theme)
        color = answer.color
        if token.type == "piece" and isinstance(answer.value, str):
            try:
                color = parse(answer.value, "color").literal
            except ExpressionError:
                color = None
        if isinstance(answer.value, OnPage) or answer.mapped:
            return "beyond"  # it depends on the page, or lies outside sRGB, where Chromium clips
        if color is None:
            return "wrong"
        channels = space.engine(color).convert("srgb").coords(nans=False)
        pairs = zip((*channels, color.alpha), numbers(seen), strict=True)
        return "equal" if all(abs(our - their) <= STEP for our, their in pairs) else "wrong"
