"""Every figure with its arithmetic."""

from __future__ import annotations

from aspects.registry import figures
from hauls.tests.yard_case import AspectCase
from mechanics.report import evaluate
from wording.figures import reason


class AllFigures(AspectCase):
    def test_every_figure_with_its_terms_as_text(self) -> None:
        page = self.look("Orchard tractor to the Quarry Lane block", "figures/")
        for words in ("Tongue weight", "Tongue share", "Truck rear axle", "Trailer axle 2"):
            self.assertContains(page, words)
        self.assertContains(page, "comes to: 1,129 lb")
        self.assertContains(page, "Copy all as text")

    def test_the_terms_of_an_axle_add_up(self) -> None:

        from measures import UnitSystem
        from planfile.reading import read_document

        report = evaluate(read_document(self.haul.document))
        for code in ("figure.tongue", "figure.front", "figure.rear", "figure.trailer"):
            found = reason(code, report, UnitSystem.US, figures())
            assert found is not None
            total = sum(_pounds(t.amount) for t in found.why.terms)
            with self.subTest(code=code):
                self.assertAlmostEqual(_pounds(found.why.total), total, delta=3)
        for code in ("figure.axle_9", "figure.place_7", "nothing.there", "figure.axle_x"):
            self.assertIsNone(reason(code, report, UnitSystem.US, figures()))


def _pounds(amount: str) -> float:
    sign = -1 if "−" in amount else 1
    return sign * float("".join(c for c in amount if c.isdigit()))
