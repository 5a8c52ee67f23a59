"""What forms and addresses take, and how much of it."""

from types import SimpleNamespace

from django.http import QueryDict
from django.test import SimpleTestCase

from prism.analysis import Analysis
from studio.rooms.palette.address import PaletteAddress
from studio.rooms.palette.ideas.address import IdeasAddress
from studio.rooms.palette.measures.forms import ScaleForm
from studio.rooms.tokens.axes.forms import ProposalForm
from studio.rooms.tokens.forms import DescribeForm
from studio.rooms.tokens.mapping.forms import CellsForm, MarkForm
from tests.builders import document


def refused(form, name, limit):
    """Whether a form takes a text of ``limit`` characters in a field, and refuses one more."""
    longest, more = (form({name: "x" * size}) for size in (limit, limit + 1))
    longest.is_valid()
    more.is_valid()
    return name not in longest.errors and name in more.errors


class LimitTests(SimpleTestCase):
    def test_no_field_takes_more_than_is_stored(self):
        frame = SimpleNamespace(address=SimpleNamespace(columns=""), analysis=Analysis(document()))
        for form, name, limit in (
            (lambda data: MarkForm(data, frame, ()), "step", 200),
            (DescribeForm, "role", 60),
            (ScaleForm, "group", 200),
        ):
            with self.subTest(name=name):
                self.assertTrue(refused(form, name, limit))

    def test_addresses_are_cut(self):
        long = "x" * 300
        known = PaletteAddress.read({"ramp": long, "swatch": long})
        self.assertEqual((len(known.ramp), len(known.swatch)), (200, 200))
        planned = IdeasAddress.read({"plan-main": long})
        self.assertEqual([len(name) for _, name in planned.plan], [200])

    def test_text_that_is_pasted_keeps_its_blanks(self):
        frame = SimpleNamespace(address=SimpleNamespace(columns=""), analysis=Analysis(document()))
        form = CellsForm(QueryDict("text=%20a%09b%20&revision=1"), frame, ())
        self.assertTrue(form.is_valid())
        self.assertEqual(form.cleaned_data["text"], " a\tb ")

    def test_a_mode_may_be_proposed_without_a_color_scheme(self):
        form = ProposalForm({"axis": "a", "source": "b", "name": "c"})
        self.assertTrue(form.is_valid(), form.errors)
