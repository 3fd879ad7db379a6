"""Odd requests to every address and form, as every role: whatever is sent, nothing breaks."""

from __future__ import annotations

import re
import time
from typing import Any, Final
from urllib.parse import urlencode

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction

from yards.models import Membership, Role, User
from yards.tests.addresses import EveryAddress

ODD: Final = (
    "",
    "x",
    "0",
    "-1",
    "²",
    "٣",
    "1e999",
    "NaN",
    "9" * 30,
    "9" * 5000,
    "\x00",
    "\u202e\ufeff",
    "🚜" * 300,
    "<script>'\"&{{7*7}}",
    "machine-²",
    "7,000 lb; drop table",
)
"""What people, spreadsheets and machines have sent, or might."""

NAMED: Final = re.compile(r'name="([^"]{1,60})"')
LONGEST_S: Final = 5.0
"""Seconds of working that any answer may take."""

LEAST: Final = 1500
"""Requests that the sweep sends at the least."""

FILES: Final = (
    b"",
    b"\xff\xfe\x00\x01",
    b"{" * 5000,
    b"[" * 5000,
    b'{"format": "eyebolt.plan", "version": 1, "name": "\\ud800"}',
    b'{"format": "eyebolt.yard", "version": 1, "name": "\\ud800", "trucks": [{"name": "\\ud800"}]}',
    b'{"format": "eyebolt.yard", "version": ' + b"9" * 5000 + b"}",
    b'{"format": "eyebolt.plan", "version": 1e999}',
    "name;gvwr\n²;9\u00a0999,5 lb\n".encode(),
    b"name,gvwr\n\xc3\x28,1\n",
    b"\x89PNG\r\n\x1a\n" + b"\x00" * 60,
    b"\xff\xd8\xff\xe0" + b"\x00" * 60,
)
"""What might be handed in for a plan, a yard, a table or a photo."""

UNASKED: Final = ("csrfmiddlewaretoken",)


class OddRequests(EveryAddress):
    def fields(self, addresses: dict[str, str]) -> list[str]:
        """Names of all boxes of all pages, as the owner sees them."""
        found: set[str] = set()
        for address in addresses.values():
            answer = self.client.get(address)
            if answer.status_code == 200 and not answer.streaming:
                found |= set(NAMED.findall(answer.content.decode("utf-8", "replace")))
        return sorted(found - set(UNASKED))

    def send(self, method: str, address: str, data: dict[str, Any]) -> int:
        """The status of a request that leaves nothing behind."""
        begun = time.thread_time()
        with transaction.atomic():
            if method == "get":
                answer = self.client.get(address, data)
            elif isinstance(data.get("file"), SimpleUploadedFile):
                answer = self.client.post(address, data)
            else:
                # one line, not four hundred parts: far quicker to read
                answer = self.client.post(
                    address, urlencode(data), content_type="application/x-www-form-urlencoded"
                )
            transaction.set_rollback(True)
        # of the processor alone: however busy the machine is
        self.assertLess(time.thread_time() - begun, LONGEST_S, address)
        return int(answer.status_code)

    def test_nothing_that_a_page_can_send_breaks_anything(self) -> None:
        self.client.raise_request_exception = False
        addresses = {n: self.address(n) for n in self.names() if n not in self.OPEN}
        fields = self.fields(addresses)
        self.assertGreater(len(fields), 200)
        addresses |= {n: f"/{n.replace('_', '-')}/" for n in ("sign_in", "sign_up")}
        stranger = self.stranger
        Membership.objects.filter(user=stranger).update(role=Role.OWNER)
        broken: set[str] = set()
        sent = 0
        for login, turns in (
            (self.user, range(0, len(ODD), 3)),
            (User.objects.get(username="demo-driver"), (4,)),
            (stranger, (9,)),
        ):
            self.client.force_login(login)
            for turn in turns:
                # every box its own value, and each turn another
                odd = {name: ODD[(n + turn) % len(ODD)] for n, name in enumerate(fields)}
                for name, address in addresses.items():
                    for method in ("get", "post"):
                        status = self.send(method, address, odd)
                        sent += 1
                        if status >= 500 and status != 503:
                            broken.add(f"{login} {method} {name} turn {turn}: {status}")
        self.assertGreaterEqual(sent, LEAST)
        self.assertEqual(sorted(broken), [])

    def test_no_file_that_is_handed_in_breaks_anything(self) -> None:
        self.client.raise_request_exception = False
        broken = []
        for name in ("import_plan", "yard_file", "table_in", "tickets_in", "add_photo"):
            address = self.address(name)
            for number, content in enumerate(FILES):
                file = SimpleUploadedFile("odd.file", content)
                status = self.send("post", address, {"file": file, "caption": "²"})
                if status >= 500:
                    broken.append(f"{name} {number}: {status}")
        self.assertEqual(broken, [])
