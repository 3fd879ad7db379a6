"""Lists that go out to a spreadsheet."""

from __future__ import annotations

from book.sheet import sheet
from book.workbook import read_workbook
from hauls.models import Haul
from hauls.tests.yard_case import YardCase


class Out(YardCase):
    def test_hauls_go_out_as_they_are_found(self) -> None:
        Haul.objects.filter(pk=self.haul.pk).update(name="=1+1")
        text = self.client.get("/hauls.csv").content.decode("utf-8-sig")
        headers, rows, _ = sheet(text)
        self.assertEqual(headers[:5], ["name", "day", "leaves at", "away, minutes", "driver"])
        said = next(row for row in rows if row[0] == "Compact loader to the Stony Bank culvert")
        self.assertEqual(
            [*said[2:4], *said[5:8]],
            ["9:30", "150", "Fernbeck yard", "Stony Bank culvert", "To clear the inlet"],
        )
        self.assertEqual(len(rows), Haul.objects.filter(archived=False).count())
        self.assertIn("'=1+1", [row[0] for row in rows])
        found = self.client.get("/hauls.csv", {"q": "gravel", "as": "xlsx"})
        _, some, _ = sheet(read_workbook(found.content))
        self.assertTrue(0 < len(some) < len(rows))
        self.assertTrue(all("ravel" in row[0] for row in some))

    def test_match_goes_out_and_it_is_written_down(self) -> None:
        page = self.client.get("/match/", {"load_1": "machine-2"})
        answer = self.client.get("/match/", {"load_1": "machine-2", "as": "csv"})
        _, rows, _ = sheet(answer.content.decode("utf-8-sig"))
        self.assertEqual(len(rows), len(page.context["rows"]))
        self.assertEqual(rows[0][1], page.context["rows"][0].hitch.truck.name)

    def test_another_yards_hauls_stay_there(self) -> None:
        self.client.force_login(self.stranger)
        _, rows, _ = sheet(self.client.get("/hauls.csv").content.decode("utf-8-sig"))
        self.assertEqual(rows, [])
