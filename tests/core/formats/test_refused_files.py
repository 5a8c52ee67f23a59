"""What files are refused for, each with its own sentence."""

import io
import json
import stat
import zipfile

from django.test import SimpleTestCase

from prism.errors import FormatError
from prism.formats import archive, files
from prism.formats.pairing_files import read as read_pairings
from tests.builders import counter_keys, document, token

TREE = {"a": {"$type": "color", "$value": "#fff"}}
TOKENS = (
    ({"a": 5}, "A token or a group is needed here, not a plain value."),
    ({"$value": "#fff", "$type": "color"}, "The file is one token without a name."),
    ({"a": {"$type": "colour", "$value": "#fff"}}, "“colour” is not a type of the standard."),
    ({"a": {"$type": "color", "$value": "#fff", "$description": 5}}, "A description is a text."),
    ({"a": {"$type": "color", "$value": "#fff", "$deprecated": 5}}, "$deprecated is true, false"),
    ({"a{b": {"$type": "color", "$value": "#fff"}}, "“a{b” cannot be a name."),
    ({"a.b": {"$type": "color", "$value": "#fff"}}, "“a.b” cannot be a name."),
    ({"": {"$type": "color", "$value": "#fff"}}, "“” cannot be a name."),
    ({"n" * 201: {"$type": "color", "$value": "#fff"}}, "cannot be a name."),
    ({"g": {"$extends": 5}}, "$extends names a group, as {group}."),
    ({"a": {"$type": "color", "$value": 5}}, "The number 5 is not a color."),
    ({"a": {"$type": "dimension", "$value": ["4px"]}}, "A dimension is not a list."),
    ({"a": {"$type": "number", "$value": [1]}}, "A number is not a list."),
    ({"a": {"$type": "number", "$value": {"x": 1}}}, "The value does not fit the type number."),
    ({"a": {"$type": "boolean", "$value": None}}, "The value does not fit the type boolean."),
    (
        {"a": {"$type": "color", "$value": {"$ref": "x#/a"}}},
        "points outside the imported documents",
    ),
    ({"a": {"$type": "color", "$value": {"$ref": "#/b/$value/hex"}}}, "points into a value."),
    ({"a": {"$value": "{b}"}}, "{b} does not exist."),
    ({"a": {"$value": "{b}"}, "b": {"$value": "{a}"}}, "Circular reference: a → b → a."),
    (
        {"a": {"$type": "shadow", "$value": {"color": 5, "offsetX": "1px"}}},
        "The number 5 is not a color.",
    ),
    (
        {"a": {"$type": "color", "$value": {"colorSpace": "rec", "components": [0, 0, 0]}}},
        "“rec” is not a color space of the standard.",
    ),
    (
        {"a": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0, 0]}}},
        "A color has three components.",
    ),
    (
        {"a": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0, 0, "x"]}}},
        "A color component is a number or “none”.",
    ),
    (
        {"a": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0, 0, True]}}},
        "A color component is a number or “none”.",
    ),
    (
        {
            "a": {
                "$type": "color",
                "$value": {"colorSpace": "srgb", "components": [0, 0, 0], "alpha": 1.1},
            }
        },
        "Alpha is a number from 0 to 1.",
    ),
    (
        {
            "a": {
                "$type": "color",
                "$value": {"colorSpace": "srgb", "components": [0, 0, 0], "hex": "#ggg"},
            }
        },
        "“#ggg” is not a hex color.",
    ),
)
TEXTS = (
    ("x.json", '{"a": 1, "a": 2}', "The name “a” appears twice in one object."),
    ("x.json", '{"a": 1e999}', "contains a number that cannot be read"),
    ("x.json", '{"a": NaN}', "contains a number that cannot be read: NaN"),
    ("x.json", '{"a": "\\u0000"}', "contains a character that text cannot contain."),
    ("x.json", '{"a": "\\ud800"}', "contains a character that text cannot contain."),
    ("x.json", "[]", "The file contains no JSON object."),
    ("x.json", '{"a": true}', "A value is a text or a number."),
    ("x.json", '{"a": [1]}', "A value is a text or a number."),
    ("x.csv", "", "The file is empty."),
    ("x.csv", '"a,b\n', "The file is not CSV"),
)
CSV = "kind,name,type,tier,when,value,description\n"
ROWS = (
    ("token,a,color", "The row has 3 columns."),
    ("mode,dark,,,look,dark,", "There is no axis “look”."),
    ("axis,look,,,,gone,", "There is no mode 'gone'."),
    ("fish,a,color,raw,,#fff,", "“fish” is not a kind of row."),
    ("token,a,colour,raw,,#fff,", "“colour” is not a type."),
    ("token,a,color,top,,#fff,", "“top” is not a tier."),
    ('token,a,color,raw,"{""look"": ""dark""}",#fff,', "There is no mode ('look', 'dark')."),
    (
        "token,a,color,raw,,#fff,\ntoken,a,color,raw,,#000,",
        "“a” appears twice, with different values",
    ),
    (
        "token,a,color,raw,,#fff,\ntoken,a,number,raw,,1,",
        "“a” appears twice, with different values",
    ),
    ('token,a,shadow,raw,,"{""parts"": 5}",', "A stored value has an unknown form."),
    ('token,a,shadow,raw,,"[5",', "The value cannot be read"),
)
SETS = {"s": {"sources": [TREE]}}
STEP = {"$ref": "#/sets/s"}
RESOLVERS = (
    ({"resolutionOrder": {}}, "resolutionOrder is a list."),
    ({"resolutionOrder": [5]}, "A step is a reference or an object."),
    ({"resolutionOrder": [STEP]}, "#/sets/s is not in the document."),
    ({"resolutionOrder": [STEP], "sets": []}, "“sets” is not an object."),
    ({"resolutionOrder": [{"$ref": "#/s"}]}, "“#/s” is neither a set nor a modifier."),
    ({"resolutionOrder": [{"type": "set"}]}, "An inline step has a type and a name."),
    ({"resolutionOrder": [{"type": "x", "name": "x"}]}, "An inline step has a type and a name."),
    ({"resolutionOrder": [STEP, STEP], "sets": SETS}, "“s” appears twice in resolutionOrder."),
    ({"resolutionOrder": [STEP], "sets": {"s": {"sources": 5}}}, "Sources are a list."),
    (
        {"resolutionOrder": [STEP], "sets": {"s": {"sources": [5]}}},
        "A source is a reference or a token tree.",
    ),
    (
        {"resolutionOrder": [STEP], "sets": {"s": {"sources": [STEP]}}},
        "The set “s” refers to itself.",
    ),
    (
        {"resolutionOrder": [STEP], "sets": {"s": {"sources": [{"$ref": "#/sets/t"}]}}},
        "The set “t” does not exist.",
    ),
    (
        {"resolutionOrder": [STEP], "sets": {"s": {"sources": [{"$ref": "//x/a.json"}]}}},
        "is not a file beside the resolver document.",
    ),
    (
        {"resolutionOrder": [STEP], "sets": {"s": {"sources": [{"$ref": "a.json#/b"}]}}},
        "is not a file beside the resolver document.",
    ),
    (
        {"resolutionOrder": [STEP], "sets": {"s": {"sources": [{"$ref": "gone.json"}]}}},
        "“gone.json” is named here and was not imported.",
    ),
)
MODIFIERS = (
    ({}, "A modifier has contexts."),
    ({"contexts": {}}, "A modifier has contexts."),
    ({"contexts": {"a": []}, "default": "b"}, "The default “b” is not one of the contexts."),
    ({"contexts": {"a": 5}}, "Sources are a list."),
)


def read(text, name="x.tokens.json", **others):
    data = text if isinstance(text, str) else json.dumps(text)
    more = {key: json.dumps(value).encode() for key, value in others.items()}
    return files.read({name: data.encode(), **more}, counter_keys()).document


class RefusedFileTests(SimpleTestCase):
    def refused(self, sentence, *arguments, **others):
        with self.subTest(sentence, of=arguments[0]):
            with self.assertRaises(FormatError) as caught:
                read(*arguments, **others)
            self.assertIn(sentence, caught.exception.sentence)
            self.assertTrue(caught.exception.place)

    def test_token_files(self):
        for tree, sentence in TOKENS:
            self.refused(sentence, tree)
        for name in ("n" * 200, "a b", "é", "-"):
            self.assertEqual(read({name: TREE["a"]}).tokens[0].path, name)

    def test_files_of_other_formats(self):
        for name, text, sentence in TEXTS:
            self.refused(sentence, text, name)
        for row, sentence in ROWS:
            self.refused(sentence, CSV + row, "x.csv")

    def test_resolver_documents(self):
        for tree, sentence in RESOLVERS:
            self.refused(sentence, tree, "x.resolver.json")
        for body, sentence in MODIFIERS:
            step = {"type": "modifier", "name": "look", **body}
            self.refused(sentence, {"resolutionOrder": [step]}, "x.resolver.json")
        many = [
            {"type": "modifier", "name": f"m{i}", "contexts": {"a": [], "b": []}} for i in range(17)
        ]
        self.refused(
            "There are more than 16 modifiers.", {"resolutionOrder": many}, "x.resolver.json"
        )
        two = {"resolutionOrder": []}
        with self.assertRaisesMessage(FormatError, "2 resolver documents: x.json, y.json."):
            read(two, "x.json", **{"y.json": two})

    def test_names_in_pointers_are_escaped(self):
        order = {"resolutionOrder": [{"$ref": "#/sets/a~1b%20c"}], "sets": {"a/b c": SETS["s"]}}
        self.assertEqual([t.path for t in read(order, "x.resolver.json").tokens], ["a"])

    def test_members_of_our_own_that_do_not_fit(self):
        written, _ = files.write(document(token("a", "#fff")), "design-tokens", (0, 0))
        (name,) = [name for name in written if name.endswith(".resolver.json")]
        for change, sentence in (
            ({"schema": 9_999}, "A newer version of Nimble Prism wrote this file."),
            ({"gamut": "rec2020"}, "unknown gamut rec2020"),
            ({"tokens": 5}, "cannot be read"),
            ({"tokens": [{"path": "a", "key": "two words"}]}, "a key has spaces, is empty"),
            ({"values": [{"path": "gone"}]}, "cannot be read"),
            ({"values": [{"path": "a", "when": [["x", "y"]], "value": "#fff"}]}, "cannot be read"),
            ({"axes": [{}]}, "cannot be read"),
        ):
            with self.subTest(change):
                tree = json.loads(written[name])
                tree["$extensions"]["nimble-prism"] |= change
                changed = {**written, name: json.dumps(tree)}
                with self.assertRaises(FormatError) as caught:
                    files.read({n: t.encode() for n, t in changed.items()}, counter_keys())
                self.assertIn(sentence, caught.exception.sentence)

    def test_lists_of_pairings(self):
        for text in ("{}", '{"pairings": 5}'):
            with self.assertRaisesMessage(FormatError, "The file contains no list of pairings."):
                read_pairings(text.encode(), "p.json", document(token("a", "#fff")))


class ArchiveTests(SimpleTestCase):
    def packed(self, *members, **options):
        packed = io.BytesIO()
        with zipfile.ZipFile(packed, "w", **options) as made:
            for name, data in members:
                made.writestr(name, data)
        return packed.getvalue()

    def refused(self, data, sentence):
        with self.assertRaisesMessage(FormatError, sentence):
            archive.read(data, "x.zip")

    def test_links_passwords_and_odd_compression(self):
        link = zipfile.ZipInfo("a.json")
        link.external_attr = (stat.S_IFLNK | 0o777) << 16
        self.refused(self.packed((link, "/etc/passwd")), "The archive contains a link.")
        locked = bytearray(self.packed(("a.json", "{}")))
        locked[6] |= 1
        locked[locked.index(b"PK\x01\x02") + 8] |= 1
        self.refused(bytes(locked), "The archive has a password.")
        odd = self.packed(("a.json", "{}"), compression=zipfile.ZIP_BZIP2)
        self.refused(odd, "The compression of this archive is not supported.")

    def test_the_same_name_twice(self):
        twice = self.packed(("a.json", "{}"), ("./a.json", "{}"))
        self.refused(twice, "The archive contains this name twice.")

    def test_how_many_and_how_much(self):
        most = [(f"{i}.json", "{}") for i in range(archive.MAX_FILES)]
        self.assertEqual(len(archive.read(self.packed(*most), "x.zip")[0]), archive.MAX_FILES)
        self.refused(self.packed(*most, ("x.json", "{}")), "The archive holds more than")
        large = ("a.json", "x" * (archive.MAX_UNPACKED + 1))
        self.refused(self.packed(large, compression=zipfile.ZIP_DEFLATED), "unpacks to more than")
        half = "x" * (archive.MAX_UNPACKED // 2)
        fits = self.packed(("a.json", half), ("b.json", half), compression=zipfile.ZIP_DEFLATED)
        self.assertEqual(len(archive.read(fits, "x.zip")[0]), 2)
