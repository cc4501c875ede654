import fc from "fast-check";
import { DAY, fromLocal, HOUR, MINUTE, parseDay, toLocal } from "../time/zone";
import { asideUntil } from "./aside";
import { type AwayWord, fillAway, saysAway } from "./automatic";
import { readKeyword } from "./keywords";
import { chosenBy, routeText, type SharingClient } from "./route";

describe("keywords", () => {
  test.each([
    ["STOP", "stop"],
    [" stop. ", "stop"],
    ["please stop", "stop"],
    ["Unsubscribe", "stop"],
    ["STOP TEXTING ME", "stop"],
    ["QUIT!", "stop"],
    ["arrêt", "stop"],
    ["Baja", "stop"],
    ["dar de baja, por favor", "stop"],
    ["Bitte abmelden", "stop"],
    ["Stopp", "stop"],
    ["Parar", "stop"],
    ["Sair", "stop"],
    ["koniec", "stop"],
    ["Rezygnuję", "stop"],
    ["désabonner svp", "stop"],
    ["START", "start"],
    ["alta", "start"],
    ["Wznów", "start"],
    ["début", "start"],
    ["HELP", "help"],
    ["Help?", "help"],
    ["info", "help"],
    ["Ayuda por favor", "help"],
    ["Hilfe", "help"],
    ["aide", "help"],
    ["ajuda", "help"],
    ["Pomoc!", "help"],
    ["Who is this?", "help"],
  ] as const)("%s asks for %s", (text, keyword) => {
    expect(readKeyword(text)?.keyword).toBe(keyword);
  });

  test.each([
    "We will stop by tomorrow",
    "",
    "Don't stop",
    "End of the day suits us",
    "Can you help me with the tablets?",
    "I need to cancel Friday",
    "El perro no quiere parar de rascarse",
    "👍",
    "1",
  ])("“%s” is a message like any other", (text) => {
    expect(readKeyword(text)).toBeNull();
  });

  test("a word of one language tells it, one that several share does not", () => {
    expect(readKeyword("Hilfe")?.language).toBe("de");
    expect(readKeyword("STOP")?.language).toBeNull();
    expect(readKeyword("parar")?.language).toBeNull();
  });

  test("any text is read without harm, and no long one is a keyword", () => {
    fc.assert(fc.property(fc.string(), (text) => void readKeyword(text)));
    expect(readKeyword(`stop${" it was all so kind of you".repeat(400)}`)).toBeNull();
  });
});

describe("whose a text to a shared number is", () => {
  const NOW = Date.UTC(2026, 10, 24, 12);
  const client = (clientId: string, wroteAt: number | null = null, heardAt: number | null = null): SharingClient => ({
    clientId,
    name: { a: "Bramble Lane Vets", b: "Blue Heron Driving School", c: "Copperline Piano Care" }[clientId] ?? clientId,
    wroteAt,
    heardAt,
  });

  test("the only client, whatever was written", () => {
    expect(routeText([client("a")], "hello", null, NOW)).toEqual({ kind: "client", clientId: "a", isAnswer: false });
  });

  test("whoever wrote last, unless another wrote close to it", () => {
    const long = [client("a", NOW - 3 * DAY), client("b", NOW - HOUR), client("c")];
    expect(routeText(long, "hello", null, NOW)).toMatchObject({ clientId: "b" });
    const close = [client("a", NOW - 2 * HOUR), client("b", NOW - HOUR)];
    expect(routeText(close, "hello", null, NOW)).toEqual({ kind: "unclear", asks: true });
  });

  test("of two that wrote close to each other the one with whom they write", () => {
    const close = [client("a", NOW - 2 * HOUR), client("b", NOW - HOUR, NOW - 10 * MINUTE)];
    expect(routeText(close, "and one more thing", null, NOW)).toMatchObject({ clientId: "b" });
  });

  test("nobody can tell where nobody wrote; it is asked once a day", () => {
    const none = [client("a"), client("b")];
    const question = (askedAt: number) => ({ choices: ["a", "b"], askedAt });
    expect(routeText(none, "hello", null, NOW)).toEqual({ kind: "unclear", asks: true });
    expect(routeText(none, "hello?", question(NOW - HOUR), NOW)).toEqual({ kind: "unclear", asks: false });
    expect(routeText(none, "hello?", question(NOW - 2 * DAY), NOW)).toEqual({ kind: "unclear", asks: true });
  });

  test.each([
    ["2", "b"],
    [" 1. ", "a"],
    ["number 2", "b"],
    ["Bramble Lane", "a"],
    ["the blue heron driving school please", "b"],
    ["3", null],
    ["B", null],
    ["neither", null],
  ])("“%s” answers the question with %s", (body, expected) => {
    expect(chosenBy(body, [client("a"), client("b")], { choices: ["a", "b"] })).toBe(expected);
  });

  test("an answer goes to the client it names, and to nobody who does not share the number", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            wroteAt: fc.option(fc.integer({ min: NOW - 30 * DAY, max: NOW })),
            heardAt: fc.option(fc.integer({ min: NOW - 30 * DAY, max: NOW })),
          }),
          { minLength: 1, maxLength: 3 },
        ),
        fc.string(),
        fc.boolean(),
        (times, body, isAsked) => {
          const clients = times.map(({ wroteAt, heardAt }, index) => client("abc"[index], wroteAt, heardAt));
          const question = isAsked ? { choices: clients.map(({ clientId }) => clientId), askedAt: NOW - HOUR } : null;
          const route = routeText(clients, body, question, NOW);
          if (route.kind === "client") expect(clients.map(({ clientId }) => clientId)).toContain(route.clientId);
          else expect(clients.length).toBeGreaterThan(1);
        },
      ),
    );
  });
});

describe("the word outside the hours", () => {
  const own: AwayWord = { isOn: true, words: {} };
  test("is said once for each time that the hours are over", () => {
    const closed = { isOpen: false, lastClosedAt: 1000 };
    expect(saysAway({ ...closed, awayToldAt: null }, null)).toBe(true);
    expect(saysAway({ ...closed, awayToldAt: 500 }, own)).toBe(true);
    expect(saysAway({ ...closed, awayToldAt: 1500 }, own)).toBe(false);
    expect(saysAway({ isOpen: true, lastClosedAt: 1000, awayToldAt: null }, own)).toBe(false);
    expect(saysAway({ ...closed, awayToldAt: null }, { ...own, isOn: false })).toBe(false);
  });

  test("has its places filled, and other braces left", () => {
    const values = { business: "Bramble {opens}", opens: "Monday" };
    expect(fillAway("{business}: back { opens }. {name}", values)).toBe("Bramble {opens}: back Monday. {name}");
  });
});

test("what is set aside comes back when somebody is there", () => {
  const hours = [0, 1, 2, 3, 4].map(() => [{ open: 510, close: 1050 }]);
  const calendar = { zone: "Europe/London", hours: [...hours, [], []], closedDays: new Set([parseDay("2026-11-30")]) };
  const friday = fromLocal(calendar.zone, parseDay("2026-11-27") * DAY + 15 * HOUR);
  const said = (at: number) => new Date(toLocal(calendar.zone, at)).toISOString().slice(0, 16);
  expect(said(asideUntil("hour", calendar, friday))).toBe("2026-11-27T16:00");
  // Saturday and Sunday nobody is there, and that Monday is closed.
  expect(said(asideUntil("tomorrow", calendar, friday))).toBe("2026-12-01T08:30");
  expect(said(asideUntil("week", calendar, friday))).toBe("2026-12-01T08:30");
  expect(said(asideUntil({ day: "2026-12-03" }, calendar, friday))).toBe("2026-12-03T08:30");
});
