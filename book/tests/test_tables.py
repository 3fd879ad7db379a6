"""Tables out and in, and the whole yard as a file."""

from __future__ import annotations

import json
from decimal import Decimal

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase as PropertyCase

from book.history import changes_of
from book.models import Bulk, Configuration, HitchPart, Machine, Trailer, TrailerAxle, Truck
from book.sheet import TableError, decode
from book.table_reading import read_table, take_in
from book.tables import TABLES, write_table
from book.yardfile import YardFileError, dump_thing, load_thing
from demo.tests.planted import plant_demo_yard
from exchange.taking_in import load_whole
from exchange.yard_file import dump_whole, read_file
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from measures import Quantity, UnitSystem
from yards.models import Membership, User, Yard

US, METRIC = UnitSystem.US, UnitSystem.METRIC


class RoundTrips(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        plant_demo_yard()
        cls.yard = Yard.objects.get()
        cls.user = User.objects.get(username="demo")
        cls.empty = Yard.objects.create(name="Empty")

    def test_every_table_goes_out_and_into_an_empty_yard_unchanged(self) -> None:
        for units in (US, METRIC):
            yard = Yard.objects.create(name=f"Taken in {units.value}")
            for table in TABLES.values():
                text = write_table(table, self.yard, units)
                tried = take_in(text, table, yard=yard, user=self.user)
                self.assertFalse(tried.stored)
                done = take_in(text, table, yard=yard, user=self.user, stamp=tried.stamp)
                problems = [p for line in done.lines for p in line.problems]
                self.assertTrue(done.stored, (table.slug, problems))
            for table in TABLES.values():
                with self.subTest(table=table.slug, units=units):
                    self.assertEqual(
                        write_table(table, yard, US), write_table(table, self.yard, US)
                    )

    def test_a_table_taken_in_where_it_came_from_changes_nothing(self) -> None:
        for slug in ("trucks", "hitch-parts", "trailers", "machines", "bulk"):
            table = TABLES[slug]
            tried = take_in(
                write_table(table, self.yard, METRIC), table, yard=self.yard, user=self.user
            )
            self.assertEqual({line.outcome for line in tried.lines}, {"as it is"}, slug)

    def test_the_whole_yard_goes_out_and_into_an_empty_yard_unchanged(self) -> None:
        Haul.objects.filter(yard=self.yard, name="Gravel to the ford").update(archived=True)
        document = json.loads(json.dumps(dump_whole(self.yard, photos=True)))
        counted = load_whole(document, yard=self.empty, user=self.user)
        self.assertEqual(counted, {"entries": 53, "hauls": 17, "photos": 2})
        again = dump_whole(self.empty, photos=False)
        del document["photos"]
        self.assertEqual({**again, "name": document["name"]}, document)
        self.assertEqual(
            "Gravel to the ford", Haul.objects.get(yard=self.empty, archived=True).name
        )
        haul = Haul.objects.get(yard=self.empty, name__startswith="Drain crew")
        link = haul.links.get(configuration__isnull=False)
        self.assertEqual(link.configuration.machine.yard, self.empty)
        self.assertEqual(haul.hitch.truck.yard, self.empty)

    def test_each_fault_of_a_yard_file_is_named_with_its_place(self) -> None:
        def dumped(*, photos: bool) -> str:
            # one haul and one ticket are as good as all of them
            document = dump_whole(self.yard, photos=photos)
            few = {name: document[name][:1] for name in ("hauls", "tickets")}
            return json.dumps({**document, **few})

        whole, bare = dumped(photos=True), dumped(photos=False)

        def broken(change: object, *, photos: bool) -> list[str]:
            document = json.loads(whole if photos else bare)
            change(document)  # type: ignore[operator]
            with self.assertRaises(YardFileError) as caught:
                load_whole(document, yard=self.empty, user=self.user)
            return list(caught.exception.problems)

        def put(value: object, *path: str | int) -> object:
            def change(document: dict[str, object]) -> None:
                here: object = document
                for step in path[:-1]:
                    here = here[step]  # type: ignore[index]
                here[path[-1]] = value  # type: ignore[index]

            return change

        for change, words in (
            (put("heavy", "trucks", 0, "gvwr"), "trucks[0].gvwr: “heavy” is not a mass"),
            (put(7, "trucks", 0, "wings"), "trucks[0].wings: no such field"),
            (put("yes", "trucks", 0, "loads"), "truck[0]".replace("truck", "trucks") + ".loads"),
            (put("sledge", "trailers", 0, "kind"), "trailers[0].kind: Select a valid choice"),
            (put([{"part": "No such"}], "trailers", 0, "links"), "the name of a hitch part"),
            (put([99], "machines", 1, "configurations", 0, "parts"), "numbers of the machine's"),
            (put("=1+1", "machines", 0, "name"), "take for a formula"),
            (put("text", "machines"), "machines: expected a list"),
            (put(["x"], "bulk"), "bulk[0]: expected an object"),
            (put({"format": "x"}, "hauls", 0, "plan"), "hauls[0].plan: "),
            (put("x", "hauls", 0, "plan"), "hauls[0].plan: expected a plan"),
            (put({"q": {}}, "hauls", 0, "items"), "hauls[0].items.q"),
            (put("x", "hauls", 0, "items"), "hauls[0].items: expected an object"),
            (put("x", "hauls"), "hauls: expected a list"),
            (put("x", "photos"), "photos: expected a list"),
            (put("!", "photos", 0, "jpeg"), "photos[0]: "),
            (put("nobody", "photos", 0, "name"), "photos[0]: not a thing of the book"),
            (put({"guess_percent": "x"}, "tolerances"), "tolerances: expected percents"),
            (put({"guess_percent": 300}, "tolerances"), "tolerances: expected percents"),
            (put({"scale_step": "20 in"}, "tolerances"), "tolerances: expected percents"),
            (put({"scale_step": "20"}, "tolerances"), "tolerances: expected percents"),
            (put({"stop": "9 m"}, "tolerances"), "tolerances: expected percents"),
            (put({"luck": 3}, "tolerances"), "tolerances: expected percents"),
            (put([], "tolerances"), "tolerances: expected percents"),
            (put({"tongue": "share_1_2"}, "rules"), "rules.tongue: expected one of the words"),
            (put({"share_min": 0.1}, "rules"), "rules.share_min: expected to be left out"),
            (put("general", "rules"), "rules: expected an object"),
        ):
            with self.subTest(words=words):
                problems = broken(change, photos=words.startswith("photos"))
                self.assertTrue(any(words in p for p in problems), words)
                self.assertFalse(Truck.objects.filter(yard=self.empty).exists())

    def test_what_is_no_yard_file(self) -> None:
        for data, words in (
            (b"\xff\xfe\x00", "not in UTF-8"),
            (b"{", "not JSON"),
            (b"[]", "format: expected"),
            (b'{"format": "eyebolt.plan"}', "format: expected"),
            (b'{"format": "eyebolt.yard", "version": 2}', "version: expected 1"),
            (b'{"format": "eyebolt.yard", "version": 1, "x": 1}', "x: no such field"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(YardFileError, words):
                read_file(data)

    def test_one_thing_out_and_in(self) -> None:
        machine = Machine.objects.get(yard=self.yard, name="Harrow 60 backhoe tractor")
        document = dump_thing(machine)
        made = load_thing(Machine, document, yard=self.empty)
        self.assertEqual(dump_thing(made), document)
        with self.assertRaises(YardFileError):
            load_thing(Machine, document, yard=self.empty)


plain = st.text(
    st.characters(whitelist_categories=("L", "N", "P", "S", "Zs"), max_codepoint=0x2FF),
    min_size=1,
    max_size=40,
).filter(lambda text: text.strip() == text and not text.startswith(("=", "@")))
masses = st.builds(
    lambda n, unit: Quantity(Decimal(n) / 1000, unit),
    st.integers(1, 400_000),
    st.sampled_from(["lb", "kg", "t", "ton"]),
)
lengths = st.builds(
    lambda n, unit: Quantity(Decimal(n) / 1000, unit),
    st.integers(-90_000, 90_000),
    st.sampled_from(["in", "ft", "mm", "cm", "m"]),
)


class CsvProperty(PropertyCase):
    @given(
        st.lists(
            st.tuples(plain, plain, masses, lengths),
            min_size=1,
            max_size=5,
            unique_by=lambda row: row[0].lower(),
        ),
        st.sampled_from([US, METRIC]),
    )
    @settings(max_examples=60)
    def test_any_part_comes_back_as_it_went(
        self, rows: list[tuple[str, str, Quantity, Quantity]], units: UnitSystem
    ) -> None:
        user = User.objects.create_user("u")
        here, there = Yard.objects.create(name="here"), Yard.objects.create(name="there")
        for name, notes, mass, drop in rows:
            HitchPart.objects.create(
                yard=here, name=name, notes=notes, max_trailer_mass=mass, drop=drop
            )
        table = TABLES["hitch-parts"]
        text = write_table(table, here, units)
        tried = take_in(text, table, yard=there, user=user)
        done = take_in(text, table, yard=there, user=user, stamp=tried.stamp)
        self.assertTrue(done.stored, [line.problems for line in done.lines])

        def kept(yard: Yard) -> list[tuple[str, ...]]:
            return sorted(
                (p.name, p.notes, str(p.max_trailer_mass), str(p.drop))
                for p in HitchPart.objects.filter(yard=yard)
            )

        self.assertEqual(kept(there), kept(here))


class BadTables(YardCase):
    def lines(self, text: str, slug: str = "machines") -> dict[str, str]:
        """Each line's problems, by its name, in a dry run."""
        tried = take_in(text, TABLES[slug], yard=self.yard, user=self.user)
        return {line.name: " ".join(line.problems) for line in tried.lines}

    def test_files_that_are_no_table(self) -> None:
        table = TABLES["machines"]
        for text, words in (
            ("", "The file is empty"),
            ("name,mass (lb)\n", "a header and no rows"),
            ("name,colour\nA,red\n", "No column of this table is called “colour”"),
            ("mass (lb)\n5\n", "The column “name” is missing"),
            (
                "name,colour,mass (in),wheels\nA,r,5,4\n",
                "needs the unit of its numbers in brackets",
            ),
            ("name,colour,mass (in),wheels\nA,r,5,4\n", "called “colour”, “wheels”"),
            ("name,mass (in)\nA,5\n", "needs the unit of its numbers in brackets"),
            ("name,mass (lb),mass (kg)\nA,5,5\n", "stands in the file twice"),
            ("name,mass (lb)\nA,5,7\n", "Row 2 has 3 cells"),
            ('name,mass (lb)\n"A,5\n', "cannot be read as CSV"),
            ("name\n" + "A\n" * 5001, "more than 5,000 rows"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(TableError, words):
                read_table(text, table)

    def test_a_column_without_a_unit_takes_cells_that_have_one(self) -> None:
        tried = take_in(
            "name,mass,width\nSpade,30 lb,7 in\nRake,40,long\n",
            TABLES["machines"],
            yard=self.yard,
            user=self.user,
            stamp=None,
        )
        right, wrong = tried.lines
        self.assertEqual((right.outcome, right.problems), ("new", ()))
        # both cells of the other row are told at once
        self.assertEqual(len(wrong.problems), 2)
        self.assertIn("“40” without a unit", wrong.problems[0])

    def test_encodings(self) -> None:
        self.assertEqual(decode("\ufeffname\nÄ".encode()), "name\nÄ")
        self.assertEqual(decode("name\nÄ".encode("utf-16")), "name\nÄ")
        for data, words in (
            ("name\nÄcker".encode("cp1252"), "CSV UTF-8"),
            (b"PK\x03\x04\x00\x00", "not a CSV table"),
            (b"a" * 1_000_001, "larger than 1 MB"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(TableError, words):
                decode(data)

    def test_each_bad_cell_is_told_on_its_line_and_nothing_is_stored(self) -> None:
        text = (
            "name,mass (lb),mass known,reach front (in),brochure checked\n"
            "Good,1200,weighed,40,yes\n"
            "Heavy,much,guess,40,no\n"
            "Sure,1200,certain,40,no\n"
            "=1+1,1200,guess,40,no\n"
            "Sum,=A1*2,guess,40,no\n"
            "Flag,1200,guess,40,maybe\n"
            "Good,1300,guess,40,no\n"
            "Less,-5,guess,40,no\n"
        )
        found = self.lines(text)
        for name, words in (
            ("Heavy", "is not a mass"),
            ("Sure", "Select a valid choice"),
            ("=1+1", "looks like a formula"),
            ("Sum", "looks like a formula"),
            ("Flag", "neither yes nor no"),
            ("Good", "stands in the file twice"),
            ("Less", "is not a mass"),
        ):
            with self.subTest(name=name):
                self.assertIn(words, found[name])
        tried = take_in(text, TABLES["machines"], yard=self.yard, user=self.user)
        done = take_in(text, TABLES["machines"], yard=self.yard, user=self.user, stamp=tried.stamp)
        self.assertFalse(done.stored)
        self.assertFalse(Machine.objects.filter(name="Good").exists())

    def test_decimal_commas_of_a_spreadsheet(self) -> None:
        text = "name;mass (t);reach front (m)\nA;3,5;2,44\nB;3,500;2,4\nC;1.200;2,4\n"
        found = self.lines(text)
        self.assertEqual(found["A"], "")
        self.assertIn("can be read as thousands or as a fraction", found["B"])
        self.assertIn("Write 1200 or 1.2000", found["C"])
        self.client.post("/book/tables/machines/", {})
        good = "name;mass (t);reach front (m)\nA;3,5;2,44\n"
        tried = take_in(good, TABLES["machines"], yard=self.yard, user=self.user)
        take_in(good, TABLES["machines"], yard=self.yard, user=self.user, stamp=tried.stamp)
        made = Machine.objects.get(name="A")
        self.assertEqual((str(made.mass), str(made.reach_front)), ("3.5 t", "2.44 m"))

    def test_a_column_that_is_left_out_stays_as_it_is(self) -> None:
        text = "name,notes\nTrench plough,new shares\n"
        tried = take_in(text, TABLES["machines"], yard=self.yard, user=self.user)
        self.assertEqual([line.outcome for line in tried.lines], ["changed"])
        take_in(text, TABLES["machines"], yard=self.yard, user=self.user, stamp=tried.stamp)
        plough = Machine.objects.get(name="Trench plough")
        self.assertEqual((plough.notes, str(plough.mass)), ("new shares", "1450 lb"))
        self.assertEqual(changes_of(plough)[0].why, "Table “Machines” taken in")

    def test_what_is_odd_in_a_row_is_asked_about_and_taken_all_the_same(self) -> None:
        text = "name,built,mass (lb)\nSledge,whole,500000\n"
        tried = take_in(text, TABLES["machines"], yard=self.yard, user=self.user)
        self.assertFalse(tried.wrong)
        self.assertIn("500,000 lb is more than anything", " ".join(tried.lines[0].questions))
        plain = "name,built,mass (lb)\nSledge,whole,5000\n"
        calm = take_in(plain, TABLES["machines"], yard=self.yard, user=self.user)
        self.assertNotIn("more than anything", " ".join(calm.lines[0].questions))

    def test_inner_lists_are_replaced_whole(self) -> None:
        text = "trailer,position (in),gawr (lb)\n14 ft tilt,140,3500\n"
        tried = take_in(text, TABLES["trailer-axles"], yard=self.yard, user=self.user)
        self.assertEqual(tried.taken_away, ("14 ft tilt: axle at 170 in",))
        self.assertEqual(TrailerAxle.objects.filter(trailer__name="14 ft tilt").count(), 2)
        take_in(text, TABLES["trailer-axles"], yard=self.yard, user=self.user, stamp=tried.stamp)
        self.assertEqual(TrailerAxle.objects.filter(trailer__name="14 ft tilt").count(), 1)
        self.assertEqual(TrailerAxle.objects.filter(trailer__name="25 ft gooseneck").count(), 2)

    def test_what_keeps_its_name_keeps_its_place_in_configurations_and_hauls(self) -> None:
        """Parts, hitches and configurations are changed in place, never made anew."""
        before = {
            "parts": list(Configuration.objects.order_by("pk").values_list("pk", "parts")),
            "hauls": list(Haul.objects.order_by("pk").values_list("hitch", "links__configuration")),
        }
        for slug in ("machine-parts", "hitches", "configurations", "trailer-axles", "truck-loads"):
            table = TABLES[slug]
            text = write_table(table, self.yard, US)
            if slug == "machine-parts":
                text = text.replace(",4150,", ",4200,")
            tried = take_in(text, table, yard=self.yard, user=self.user)
            self.assertEqual(tried.taken_away, (), slug)
            done = take_in(text, table, yard=self.yard, user=self.user, stamp=tried.stamp)
            self.assertTrue(done.stored, [line.problems for line in done.lines])
        after = {
            "parts": list(Configuration.objects.order_by("pk").values_list("pk", "parts")),
            "hauls": list(Haul.objects.order_by("pk").values_list("hitch", "links__configuration")),
        }
        self.assertEqual(after, before)
        base = Machine.objects.get(name="Harrow 60 backhoe tractor").parts.get(kind="base")
        self.assertEqual(str(base.mass), "4200 lb")

    def test_owners_and_parts_that_are_not_in_the_book(self) -> None:
        found = self.lines("trailer,position (in)\nNo such,140\n", "trailer-axles")
        self.assertIn("the book has no “No such”", " ".join(found.values()))
        found = self.lines("truck,name,offset (in),parts\nOld half-ton,H,40,No part\n", "hitches")
        self.assertIn("there is no “No part”", found["H"])
        found = self.lines("machine,name,parts\nTrench plough,C,Bucket\n", "configurations")
        self.assertIn("there is no “Bucket”", found["C"])

    def test_somebody_changed_it_between_trying_and_taking_in(self) -> None:
        text = "name,notes\nTrench plough,mine\n"
        tried = take_in(text, TABLES["machines"], yard=self.yard, user=self.user)
        Machine.objects.filter(name="Trench plough").update(version=9)
        done = take_in(text, TABLES["machines"], yard=self.yard, user=self.user, stamp=tried.stamp)
        self.assertFalse(done.stored)
        self.assertEqual(Machine.objects.get(name="Trench plough").notes, "")


class TablePages(YardCase):
    def test_out_in_a_dry_run_and_then_for_good(self) -> None:
        answer = self.client.get("/book/tables/bulk.csv")
        self.assertIn("attachment", answer["Content-Disposition"])
        text = answer.content.decode("utf-8-sig") + "Straw,,count,,,,60,45 lb,,level,12 ft,80,\n"
        file = SimpleUploadedFile("bulk.csv", text.encode())
        tried = self.client.post("/book/tables/bulk/", {"file": file})
        self.assertContains(tried, "What it would do")
        self.assertContains(tried, "1 new")
        self.assertFalse(Bulk.objects.filter(name="Straw").exists())
        stamp = tried.content.decode().split('name="stamp" value="')[1].split('"')[0]
        done = self.client.post("/book/tables/bulk/", {"text": text, "stamp": stamp})
        self.assertContains(done, "Taken in")
        self.assertEqual(str(Bulk.objects.get(name="Straw").piece_mass), "45 lb")

    def test_faults_and_nothing_chosen(self) -> None:
        page = "/book/tables/machines/"
        self.assertContains(self.client.post(page, {}), "Choose a file first", status_code=422)
        bad = SimpleUploadedFile("m.csv", b"name,mass (lb)\nA,<b>\n")
        answer = self.client.post(page, {"file": bad})
        self.assertContains(answer, "“&lt;b&gt;” is not a mass", status_code=422)
        self.assertEqual(self.client.get("/book/tables/boats/").status_code, 404)
        self.assertEqual(self.client.get("/book/tables/boats.csv").status_code, 404)

    def test_columns_are_documented_with_their_units(self) -> None:
        page = self.client.get("/book/tables/trailers/")
        self.assertContains(page, "empty tongue mass (lb)")
        self.assertContains(page, "One of: utility, dump, gooseneck")
        self.assertContains(self.client.get("/book/tables/"), "Axles of trailers")

    def test_the_yard_file_through_its_page(self) -> None:
        answer = self.client.get("/yard-file/out/?photos=1")
        self.assertIn(b'"photos"', answer.content)
        self.assertContains(self.client.post("/yard-file/", {}), "choose a file", status_code=422)
        file = SimpleUploadedFile("y.json", answer.content.replace(b'"trucks": [', b'"wings": ['))
        refused = self.client.post("/yard-file/", {"file": file})
        self.assertContains(refused, "wings: no such field", status_code=422)
        other = Yard.objects.create(name="Third")
        Membership.objects.filter(user=self.stranger).delete()
        Membership.objects.create(yard=other, user=self.stranger, role="owner")
        self.client.force_login(self.stranger)
        file = SimpleUploadedFile("y.json", answer.content)
        done = self.client.post("/yard-file/", {"file": file}, follow=True)
        self.assertContains(done, "53 entries, 17 hauls, 2 photos")
        self.assertEqual(Trailer.objects.filter(yard=other).count(), 4)
        self.assertEqual(Configuration.objects.filter(machine__yard=other).count(), 4)
