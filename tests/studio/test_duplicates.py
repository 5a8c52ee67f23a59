"""A name that stands twice in what is imported."""

from tests.builders import document
from tests.studio.cases import RoomCase


class DuplicateTests(RoomCase):
    def test_duplicates_are_refused_with_a_choice_and_then_as_was_chosen(self):
        self.make(document())
        said = {"text": "name,value\nink,#111111\nink,#222222\n", "into": "here"}
        page = self.post("exchange:import", **said)
        self.assertContains(page, "appears twice", status_code=422)
        self.assertContains(page, "keep both, the later one numbered", status_code=422)
        self.post("exchange:import", **said, duplicates="number")
        self.assertEqual([one.path for one in self.stored().tokens], ["ink", "ink 2"])
