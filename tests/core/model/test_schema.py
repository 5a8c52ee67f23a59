"""No field of a part of a document is forgotten by rows, files or edits that merge parts."""

from dataclasses import MISSING, fields, replace

from django.test import SimpleTestCase

from prism.changes.merging import merge_tokens
from prism.compare.diff import diff
from prism.compare.match import align
from prism.compare.rows import flatten, unflatten
from prism.errors import FormatError
from prism.formats import own_members, resolver, resolver_writer
from prism.model.document import (
    Document,
    Group,
    Mute,
    Page,
    Pairing,
    Purpose,
    Ramp,
    Rule,
    SavedTheme,
    Scene,
    Scheme,
    TellingApart,
    Word,
)
from prism.model.rekey import Rekeying
from prism.model.schema import VERSION
from tests.builders import axis, counter_keys, document, token


def full():
    """A document in which every field of every part holds something of its own."""
    base = token("ink.1", "#111111", tier="raw")
    odd = replace(
        token("ink.2", "#222222", ({"look": "night"}, "#333333")),
        description="words", private=True, uses=("text",), export_names=(("css", "odd"),),
        deprecated="later", extensions='{"a": 1}', extends_from="ink",
        role="text quiet", belongs_to="ink.1",
    )  # fmt: skip
    look = axis("look", "light", "night")
    night = replace(
        look.modes[1],
        description="late",
        color_scheme="dark",
        selectors=(".night",),
        direction="rtl",
    )
    look = replace(look, modes=(look.modes[0], night), description="How light it is")
    return replace(
        document(base, odd, axes=(look,)),
        name="Full", description="all", gamut="display-p3",
        groups=(Group("ink", "inks", "color", "", '{"b": 2}'),),
        ramps=(Ramp("r", "ink", ("ink.1",), "p", (("seed", "#111111"),), ("ink.1",), "ink.2"),),
        purposes=(Purpose("p", "text", "for words"),),
        schemes=(Scheme("s", "plain", (("area", ("text",)),)),),
        themes=(SavedTheme("t", "late", (("look", "night"),)),),
        pairings=(Pairing("q", "ink.2", ("ink.1",), "graphic", 3.5, "because", "waived", "ink.1",
                          "Rui", "2027-01-31"),),
        rules=(Rule("u", "texts", "ink.*", "ink.1", "control", 3.5),),
        words=(Word("kachel", "surface"),),
        telling_apart=(TellingApart("a", "inks", ("ink.1", "ink.2"), "an icon"),),
        mutes=(Mute("m", "unused", ("ink.1",), "once", "kept for later", "Rui"),),
        scenes=(Scene("c", "Board", "<p></p>", (("page", "ink.1"),)),),
        pages=(Page("g", "Start", "# Hello"),),
    )  # fmt: skip


class SchemaTests(SimpleTestCase):
    def test_the_sample_leaves_no_field_at_its_default(self):
        built = full()
        parts = [built.tokens[1], built.axes[0].modes[1], *built.groups, *built.ramps]
        parts += [*built.purposes, *built.schemes, *built.themes, *built.pairings]
        parts += [*built.rules, *built.words, *built.telling_apart, *built.scenes, *built.pages]
        parts += built.mutes
        for part in parts:
            for field in fields(part):
                default = field.default if field.default is not MISSING else None
                if field.name != "extends":  # a group that extends none
                    self.assertNotEqual(getattr(part, field.name), default, (part, field.name))

    def test_rows_keep_every_field(self):
        self.assertEqual(unflatten(flatten(full())), full())

    def test_files_keep_every_field(self):
        built = full()
        files = {name: text.encode() for name, text in resolver_writer.write(built).files.items()}
        again = resolver.read(files, counter_keys("x"))
        kept = [field.name for field in fields(Document) if field.name not in ("_index", "sources",
                "layers", "resolver_file", "resolver_text", "version")]  # fmt: skip
        for name in kept:
            self.assertEqual(getattr(again, name), getattr(built, name), name)

    def test_a_file_of_a_newer_version_is_refused_with_what_to_do(self):
        own = own_members.state(full(), full())
        self.assertEqual(own["schema"], VERSION)
        with self.assertRaisesMessage(FormatError, "A newer version of Nimble Prism"):
            own_members.restore(full(), own | {"schema": VERSION + 1}, "x")
        old = {name: value for name, value in own.items() if name != "schema"}
        self.assertEqual(own_members.restore(full(), old, "x").tokens, full().tokens)

    def test_merged_tokens_stay_in_their_sets_to_be_told_apart(self):
        built = replace(full(), telling_apart=(TellingApart("a", "inks", ("ink.1", "ink.2")),))
        other = token("other", "#444444")
        built = replace(
            built,
            tokens=(*built.tokens, other),
            telling_apart=(*built.telling_apart, TellingApart("b", "more", ("ink.2", "other"))),
        )
        merged = merge_tokens(built, "ink.1", "ink.2")
        self.assertEqual(
            [one.tokens for one in merged.telling_apart], [("ink.1",), ("ink.1", "other")]
        )

    def test_keys_are_mapped_anew_in_every_part_and_back(self):
        built = full()
        rekeying = Rekeying(
            tokens={"ink.1": "T1", "ink.2": "T2"},
            axes={"look": "A"},
            modes={("look", "light"): "L", ("look", "night"): "N"},
            purposes={"p": "P"},
            ramps={"r": "R"},
            sets={"a": "S"},
            scenes={"c": "C"},
        )
        other = rekeying.of(built)
        text = repr(other)
        for old in ("key='ink.1'", "('look'", "'night')", "purpose='p'", "key='r'", "key='a'"):
            self.assertNotIn(old, text)
        again = align(other, built)
        pairing = replace(again.pairings[0], key="q")
        self.assertEqual(replace(again, pairings=(pairing,)), built)
        self.assertEqual(diff(built, again), [])
