"""The pages' own modules, each by itself in a browser: no server answers them."""

from __future__ import annotations

from typing import Any

from e2e.case import BrowserCase


class ModuleCase(BrowserCase):
    """A page that imports modules and nothing else."""

    module = ""

    def setUp(self) -> None:
        self.seen, self.expected = [], set()
        context = self.browser.new_context()
        self.addCleanup(context.close)
        self.sheet = context.new_page()
        self.sheet.on("console", self._console)
        self.sheet.on("pageerror", lambda error: self.seen.append(f"script: {error}"))
        self.sheet.goto(f"{self.live_server_url}/sign-in/")

    def run_in(self, script: str, given: Any = None) -> Any:
        """What the body of a function of ``m``, the module, and ``given`` returns."""
        whole = f"async given => {{ const m = await import('/static/{self.module}.js'); {script} }}"
        return self.sheet.evaluate(whole, given)


class QueueOfActions(ModuleCase):
    module = "place/queue"
    DESK = """
      let now = 0;
      const sent = [], answers = [], rests = [];
      const q = new m.Queue(
        (action) => new Promise((done) => { sent.push(action.do); answers.push(done); }),
        { clock: () => now, later: (work, ms) => rests.push([ms, work]) });
      const answer = async (took = 0, busy = 1) => {
        now += took; answers.shift()(busy); await new Promise((go) => setTimeout(go)); };
      const rest = async () => { const [ms, work] = rests.shift(); now += ms; work(); return ms; };
    """

    def test_one_at_a_time_and_in_order(self) -> None:
        found = self.run_in(
            self.DESK + "for (const one of ['turn', 'aim', 'undo']) q.ask({ do: one });"
            "const at = [[...sent]]; await answer(); at.push([...sent]); await answer();"
            "return [...at, [...sent], q.waits];"
        )
        self.assertEqual([["turn"], ["turn", "aim"], ["turn", "aim", "undo"], False], found)

    def test_of_two_steps_that_wait_the_later_is_asked_from_where_the_first_began(self) -> None:
        found = self.run_in(
            self.DESK.replace("action.do", "[action.do, action.before]") + "q.ask({ do: 'a' });"
            "for (const n of [1, 2, 3]) q.ask({ do: `to ${n}`, step: 'drag 0', looks: true });"
            "q.ask({ do: 'other', step: 'drag 1', looks: true });"
            "await answer(); await rest(); await answer(); await rest(); return sent;"
        )
        self.assertEqual(["a", "to 3", "other"], [one for one, _ in found])

    def test_the_end_of_a_way_takes_the_place_of_its_last_step(self) -> None:
        found = self.run_in(
            self.DESK + "q.ask({ do: 'a' }); q.ask({ do: 'step', step: 'd', looks: true });"
            "q.ask({ do: 'end', step: 'd' }); await answer(); return [sent, rests.length];"
        )
        self.assertEqual([["a", "end"], 0], found)

    def test_steps_are_paced_by_how_busy_the_server_is(self) -> None:
        found = self.run_in(
            self.DESK + "const step = (n) => q.ask({ do: n, step: n, looks: true });"
            "step('1'); await answer(5); step('2'); const quick = await rest();"
            "await answer(50, 4); step('3'); return [quick, await rest()];"
        )
        # two frames after the first was sent, then three times the room of those asking
        self.assertEqual([28, 550], found)

    def test_what_the_server_did_not_hear_is_sent_again_before_all_else(self) -> None:
        found = self.run_in(
            self.DESK + "q.ask({ do: 'lost' }); q.ask({ do: 'next' }); await answer(1, 0);"
            "const while_away = [...sent]; const ms = await rest(); await answer();"
            "return [while_away, ms, sent];"
        )
        self.assertEqual([["lost"], 2000, ["lost", "lost", "next"]], found)

    def test_a_fault_in_placing_an_answer_does_not_stop_what_waits(self) -> None:
        found = self.run_in(
            "const sent = []; const q = new m.Queue(async ({ n }) => {"
            "  sent.push(n); if (n === 1) throw new Error('of the first'); return 1; });"
            "const heard = new Promise((done) => addEventListener('unhandledrejection', (event) =>"
            "  { event.preventDefault(); done(event.reason.message); }));"
            "q.ask({ n: 1 }); q.ask({ n: 2 }); return [await heard, sent];"
        )
        self.assertEqual(["of the first", [1, 2]], found)


class TriesOfWhoMayOnlyLook(ModuleCase):
    module = "place/tries"

    def test_back_on_and_anew(self) -> None:
        found = self.run_in(
            "const t = new m.Tries(); const at = [t.none]; t.remember('a'); t.remember('b');"
            "at.push(t.none, t.undo()); t.remember('c', 'undo'); at.push(t.redo());"
            "t.remember('b', 'redo'); at.push(t.undo(), t.undo(), t.undo() ?? 'no more');"
            "t.remember('x', 'undo'); t.remember('d'); at.push(t.redo() ?? 'gone'); return at;"
        )
        self.assertEqual([True, False, "b", "c", "b", "a", "no more", "gone"], found)


class Address(ModuleCase):
    module = "place/address"

    def test_only_what_is_unusual_stands_in_it(self) -> None:
        for shown, places, query in (
            ({"selected": "0", "open": "", "tilt": "1"}, {}, ""),
            ({"selected": "", "open": "", "tilt": "1"}, {}, ""),
            ({"selected": "2", "open": "figure.rear", "tilt": "5"}, {},
             "selected=2&open=figure.rear&tilt=5"),
            ({}, {"count": "1", "reference-0": "150.5"}, "count=1&reference-0=150.5"),
        ):  # fmt: skip
            with self.subTest(query=query):
                found = self.run_in("return m.queryOf(...given)", [shown, places])
                self.assertEqual(query, found)


class Keys(ModuleCase):
    module = "place/keys"

    def asked(self, key: str, where: dict[str, Any] | None = None, **held: bool) -> Any:
        """What a key asks for, with the keys held and where the focus is."""
        return self.run_in("return m.askedBy(...given)", [{"key": key, **held}, where or {}])

    def test_each_key_asks_as_its_button_does(self) -> None:
        for key, held, action in (
            ("ArrowLeft", {}, "nudge -1"), ("ArrowRight", {"shiftKey": True}, "nudge 2"),
            ("t", {}, "turn"), ("a", {}, "aim"), ("b", {}, "beside"), ("[", {}, "swap -1"),
            ("]", {}, "swap 1"), ("3", {}, "pick 2"), ("r", {}, "reading"), ("?", {}, "keys"),
            ("z", {"ctrlKey": True}, "undo"), ("Z", {"metaKey": True, "shiftKey": True}, "redo"),
            ("a", {"ctrlKey": True}, None), ("t", {"altKey": True}, None), ("0", {}, None),
            ("x", {}, None), ("ArrowUp", {}, None), ("Enter", {}, None),
        ):  # fmt: skip
            with self.subTest(key=key, **held):
                self.assertEqual(action, self.asked(key, **held))

    def test_some_depend_on_where_the_focus_is(self) -> None:
        self.assertEqual("side -1", self.asked("ArrowUp", {"machine": True}))
        self.assertEqual("side 1", self.asked("ArrowDown", {"machine": True}))
        for key in ("Enter", " "):
            self.assertEqual("open figure.rear", self.asked(key, {"opens": "open figure.rear"}))


class Drag(ModuleCase):
    module = "place/drag"

    def test_a_pointer_is_read_in_the_drawings_own_units(self) -> None:
        for wide, at, found in ((400, 100, 50.0), (800, 100, 25.0), (400, 0, 0.0)):
            with self.subTest(wide=wide, at=at):
                units = self.run_in(
                    """
                    document.body.innerHTML = `<svg viewBox="0 0 200 100"></svg>`;
                    const svg = document.querySelector("svg");
                    const [width, height] = [given.wide, given.wide / 2].map((n) => `${n}px`);
                    const corner = { position: "fixed", left: "20px", top: "0" };
                    Object.assign(svg.style, corner, { width, height });
                    const point = { clientX: 20 + given.at, clientY: 10 };
                    return m.along(svg, "x", point);
                    """,
                    {"wide": wide, "at": at},
                )
                self.assertAlmostEqual(found, units, places=3)

    def test_a_step_looks_and_the_drop_says_where_it_began(self) -> None:
        drag = {"name": "drag", "item": "1", "before": {"reference-1": "150"}}
        step = self.run_in("return m.stepOf(given, 152.5, { looks: true })", drag)
        self.assertEqual(("drag 1", True, None), (step["step"], step["looks"], step.get("before")))
        self.assertEqual({"do": "drag", "selected": "1", "to": "152.5", "free": ""}, step["fields"])
        drop = self.run_in("return m.stepOf(given, 153, { looks: false, free: true })", drag)
        self.assertEqual(({"reference-1": "150"}, "1"), (drop["before"], drop["fields"]["free"]))


class Reading(ModuleCase):
    module = "place/reading"
    BOX = "document.body.innerHTML = '<input id=reading value=now>'; const box = reading; "

    def after(self, before: str, **answer: bool) -> Any:
        """The box after an answer: value, whether typed, whether it is called wrong."""
        return self.run_in(
            self.BOX + before + "const was = m.held(); box.setAttribute('value', 'answered');"
            "m.restore(was, given); return [box.value, box.dataset.typed ?? '', "
            "  box.getAttribute('aria-invalid') ?? '', box.selectionEnd - box.selectionStart];",
            {"read": False, "refused": False, **answer},
        )

    def test_what_is_being_typed_stays(self) -> None:
        typing = "box.focus(); box.value = '12 ft'; box.dataset.typed = 'yes';"
        self.assertEqual(["12 ft", "yes", "", 0], self.after(typing))
        self.assertEqual(["answered", "", "", 0], self.after(typing, read=True))

    def test_what_was_refused_stays_to_be_corrected(self) -> None:
        typing = "box.focus(); box.value = '12 elephants'; box.dataset.typed = 'yes';"
        found = self.after(typing, read=True, refused=True)
        self.assertEqual(["answered", "yes", "true", 0], found)

    def test_marked_for_typing_over_it_stays_marked(self) -> None:
        self.assertEqual(["answered", "", "", 8], self.after("box.focus(); box.select();"))
        self.assertEqual(["answered", "", "", 0], self.after(""))


class Sound(ModuleCase):
    module = "gauge/sound"

    def test_a_change_of_words_is_heard_and_a_stop_felt(self) -> None:
        both = {"sound": True, "buzz": True}
        for move, wants, found in (
            ("stop", both, ["stop", True]), ("ramps", both, ["stop", True]),
            ("forward", both, ["forward", False]), ("wait", both, [None, False]),
            ("stop", {"sound": False, "buzz": True}, [None, True]),
            ("stop", {"sound": True, "buzz": False}, ["stop", False]),
        ):  # fmt: skip
            with self.subTest(move=move, **wants):
                signal = self.run_in("return m.signalOf(...given)", [move, wants])
                self.assertEqual(found, [signal["beep"], signal["buzz"] is not None])


class Trouble(ModuleCase):
    module = "web/trouble"

    def test_what_to_do_is_said_for_each_kind_of_failure(self) -> None:
        for status, words in (
            (0, "No connection"), (401, "Sign in again"), (404, "not there any more"),
            (500, "answered 500"),
        ):  # fmt: skip
            with self.subTest(status=status):
                self.assertIn(words, self.run_in("return m.wordsOf(given)", status))

    def test_an_answer_that_is_none_is_shown_and_the_next_good_one_takes_it_away(self) -> None:
        shown = self.run_in(
            "const fire = (name, detail) =>"
            "  document.dispatchEvent(new CustomEvent(name, { detail }));"
            "const now = () => [trouble.hidden, trouble.textContent.slice(0, 10)];"
            "fire('htmx:responseError', { xhr: { status: 401, getResponseHeader: () => '' } });"
            "const at = [now()];"
            "fire('htmx:afterOnLoad', { successful: true }); return [...at, now()];"
        )
        self.assertEqual([[False, "Signed out"], [True, ""]], shown)


class StripOfAClimb(ModuleCase):
    module = "on_off/strip"
    ROOT = """
      const root = document.createElement('div');
      root.innerHTML = `<svg>
        <g data-part="machine"/><g data-part="trailer"/><g data-part="truck"/><g data-part="ball">
        <path data-part="arrow"/><text data-part="arrow-words">pin lifts</text>
        <text><tspan data-part="tongue">1</tspan></text></g>
        <path data-part="ramp"/><path data-part="bar"/><path data-part="cursor"/>
        <g data-pad="0"><rect class="pad-fill"/><rect class="pad-box" y="226" height="56"/>
        <text class="pad-number">0</text></g><circle data-dot="0"/></svg>
        <dl><div><dd data-load="0">0</dd></div></dl>`;
      const two = (a, b) => [a, b];
      const strip = new m.Strip(root, {
        machine: two('translate(0 0)', 'translate(1 1)'),
        trailer: two('rotate(0)', 'rotate(1)'), truck: two('rotate(0)', 'rotate(2)'),
        ball: two('rotate(0)', 'rotate(3)'), ramp: two('M0 0', 'M1 1'), bar: two('M2 2', 'M3 3'),
        arrow: two('M4 4', 'M5 5'), tongue: two('380', '1,278'), lifts: [0, 1],
        fills: [[10, 20]], numbers: [['100', '200']], over: [[0, 1]],
        where: two('at the foot', 'past the edge'), x: [700, 400], cx: [854, 118], cy: [[20, 60]],
      });
      const part = (name) => root.querySelector(`[data-part="${name}"]`);
    """

    def test_a_station_is_put_in_place_whole(self) -> None:
        found = self.run_in(
            self.ROOT + "const words = strip.show(1); const fill = root.querySelector('.pad-fill');"
            "return [words, part('machine').getAttribute('transform'),"
            " part('ramp').getAttribute('d'), part('arrow-words').textContent,"
            " part('tongue').textContent, fill.getAttribute('y'), fill.getAttribute('height'),"
            " root.querySelector('.pad-number').textContent,"
            " root.querySelector('[data-pad]').classList.contains('pad-over'),"
            " root.querySelector('[data-load]').textContent,"
            " part('cursor').getAttribute('transform'),"
            " root.querySelector('[data-dot]').getAttribute('cy')];"
        )
        self.assertEqual(
            ["past the edge", "translate(1 1)", "M1 1", "pin lifts", "1,278", "262", "20", "200"],
            found[:8],
        )
        self.assertEqual([True, "200", "translate(118 0)", "60"], found[8:])
        back = self.run_in(
            self.ROOT + "strip.show(1); strip.show(0); return [part('arrow-words').textContent,"
            " part('arrow').classList.contains('climb-lifts'),"
            " root.querySelector('[data-pad]').classList.contains('pad-over')];"
        )
        self.assertEqual(["pin presses", False, False], back)

    def test_the_nearest_station_to_a_place(self) -> None:
        found = self.run_in(self.ROOT + "return [900, 560, 540, 0].map((x) => strip.nearest(x));")
        self.assertEqual([0, 0, 1, 1], found)
