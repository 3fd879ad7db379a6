"""Few requests at once, and each told how busy it is."""

from __future__ import annotations

import threading
from unittest.mock import patch

from django.http import HttpRequest, HttpResponse
from django.test import SimpleTestCase

from web import middleware
from web.middleware import BUSY, Counter, few_at_once


class Busy(SimpleTestCase):
    def test_one_alone_is_told_so(self) -> None:
        answer = few_at_once(lambda request: HttpResponse("there"))(HttpRequest())
        self.assertEqual(answer[BUSY], "1")

    def test_one_that_comes_meanwhile_is_told_of_the_other(self) -> None:
        told = []

        def asks_on(request: HttpRequest) -> HttpResponse:
            told.append(few_at_once(lambda request: HttpResponse("soon"))(request)[BUSY])
            return HttpResponse("late")

        with patch("web.middleware._places", threading.BoundedSemaphore(2)):
            told.append(few_at_once(asks_on)(HttpRequest())[BUSY])
        self.assertEqual(told, ["2", "1"])

    def test_one_that_fails_leaves_its_place(self) -> None:
        def fails(request: HttpRequest) -> HttpResponse:
            raise ZeroDivisionError

        with self.assertRaises(ZeroDivisionError):
            few_at_once(fails)(HttpRequest())
        answer = few_at_once(lambda request: HttpResponse())(HttpRequest())
        self.assertEqual(answer[BUSY], "1")

    def test_many_threads_count_right(self) -> None:
        counter = Counter()

        def come_and_go() -> None:
            for _ in range(2000):
                with counter:
                    pass

        threads = [threading.Thread(target=come_and_go) for _ in range(8)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        with counter as within:
            self.assertEqual(within, 1)


class Lanes(SimpleTestCase):
    def test_what_takes_long_has_a_place_beside_what_is_quick(self) -> None:
        for address, lane in (
            ("/", "_places"),
            ("/road/", "_places"),
            ("/hauls/1/strip/", "_long"),
            ("/match/", "_long"),
            ("/hauls/1/what-if/", "_long"),
            ("/book/machines/1/photos/", "_long"),
            ("/hauls/1/card/load-card.pdf", "_long"),
            ("/nothing-here/", "_places"),
        ):
            request = HttpRequest()
            request.path_info = address
            with self.subTest(address=address):
                self.assertIs(middleware._place_for(request), getattr(middleware, lane))
