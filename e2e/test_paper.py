"""What comes out of the printer: how many sheets, what stands on them, and what does not."""

from __future__ import annotations

import re
from io import BytesIO

from pypdf import PdfReader

from book.models import Gear, HitchPart, Machine, Ticket, Trailer, Truck
from e2e.case import BrowserCase
from hauls.models import Haul

MARGINS = dict.fromkeys(("top", "bottom", "left", "right"), "10mm")

CONTROLS = re.compile(
    r"\b(Save|Add a row|Leave without|Print|Compare first|Copy|Undo|Best place|lb · in)\b"
)
"""Words of controls that nobody can press on paper."""


class Printed(BrowserCase):
    def test_every_page_that_is_printed(self) -> None:
        haul = Haul.objects.get(name="Orchard tractor to the Quarry Lane block")
        crew = Haul.objects.get(name="Drain crew to the Long Drain")
        truck = Truck.objects.get(name="Work truck 3")
        trailer = Trailer.objects.get(name="12 ft dump trailer")
        machine = Machine.objects.get(name="Harrow 48 tractor with loader")
        part = HitchPart.objects.get(name="Adapter sleeve")
        gear = Gear.objects.get(name="Lever binder, 3/8")
        ticket = Ticket.objects.filter(content_type__model="truck")[0]
        at = f"/hauls/{haul.pk}"
        # most sheets, and what has to stand on them
        pages: dict[str, tuple[int, tuple[str, ...]]] = {
            f"{at}/": (
                1,
                ("12 ft 6 in", "behind the headboard", "Truck GVWR", ", forward", "signed"),
            ),
            f"{at}/card/": (1, ("12 ft 6 in", "Tie down in this order")),
            f"{at}/level/": (2, ("Level",)),
            f"{at}/on-and-off/": (3, ("tongue",)),
            f"{at}/tied-down/": (3, ("chain",)),
            f"{at}/tied-down/list/": (2, ("Before it moves",)),
            f"{at}/what-if/": (3, ("What if",)),
            f"{at}/law/": (3, ("from memory",)),
            f"{at}/scale/": (2, ("Against the scale", "Trailer axles")),
            f"{at}/road/": (3, ("Jo Marsh",)),
            f"/hauls/{crew.pk}/arrange/": (3, ("Another way, 3",)),
            f"/hauls/{crew.pk}/frame/": (2, ("Frame",)),
            f"/hauls/{crew.pk}/figures/": (20, ("All figures",)),
            f"/book/trucks/{truck.pk}/": (1, ("10,000 lb", "Drop mount, 2 1/2 in", "Tool chest")),
            f"/book/trailers/{trailer.pk}/": (1, ("9,990 lb", "12 ft")),
            f"/book/machines/{machine.pk}/": (1, ("5,350 lb", "rear axle")),
            f"/book/hitch-parts/{part.pk}/": (1, ("5,000 lb", "500 lb")),
            f"/book/gear/{gear.pk}/": (1, ("6,600 lb",)),
            f"/book/trucks/{truck.pk}/label/": (1, ("Work truck 3", "Fernbeck Drainage")),
            f"/match/buy/?load_1=machine-{machine.pk}&trip=long": (
                1,
                ("GVWR on the plate", "Payload on the door sticker", "A spare on its wheel"),
            ),
            "/fleet/": (4, ("What to do next", "Work truck 3")),
            f"/weigh/tickets/{ticket.pk}/": (1, ("What it weighs",)),
        }
        faults = []
        with self.page() as page:
            for address, (most, wanted) in pages.items():
                page.goto(self.live_server_url + address)
                page.wait_for_load_state()
                page.evaluate("window.dispatchEvent(new Event('beforeprint'))")
                paper = PdfReader(BytesIO(page.pdf(format="Letter", margin=MARGINS)))
                text = " ".join(" ".join(one.extract_text() for one in paper.pages).split())
                if len(paper.pages) > most:
                    faults.append(f"{address}: {len(paper.pages)} sheets")
                faults += [f"{address}: no {words}" for words in wanted if words not in text]
                faults += [f"{address}: a control, {words}" for words in CONTROLS.findall(text)]
        self.assertEqual(faults, [])
