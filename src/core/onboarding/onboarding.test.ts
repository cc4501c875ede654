import fc from "fast-check";
import { type ClientFile, type ClientFileInput, clientFile, readClientFile } from "./clientFile";
import { copiedFile } from "./copy";
import { clientDraft, draftFor, fieldOfFault, fileOf, withTrade } from "./draft";
import { TRADES } from "./trades";

const week = Array.from({ length: 7 }, () => [{ open: 540, close: 1080 }]);

const file: ClientFileInput = {
  name: "Osprey Locksmiths",
  country: "GB",
  zone: "Europe/London",
  senderEmail: "Hello@Osprey.example",
  textNumber: "07700 900123",
  postalAddress: "3 Harbour Row, Merrow Bay",
  sendHours: { text: week, email: week },
  branches: [{ name: "Merrow Bay", reviewPages: [{ site: "Waypost", url: "https://waypost.example/osprey" }] }],
  services: [{ name: "Lock change" }, { name: "After a burglary", neverAsk: true }],
};

test("a client file is read, put in order, and read again as the same", () => {
  const read = readClientFile(JSON.stringify(file));
  expect(read).toMatchObject({
    file: { senderEmail: "hello@osprey.example", textNumber: "+447700900123", colour: "#6A2156", plan: "appointment" },
  });
  if ("file" in read) expect(readClientFile(JSON.stringify(read.file))).toEqual(read);
});

const wrong = (change: Record<string, unknown>) => readClientFile(JSON.stringify({ ...file, ...change }, null, 2));

test.each([
  ["no name", { name: " " }, "name", "Enter the name"],
  ["a country in words", { country: "Britain" }, "country", "Two capital letters"],
  ["a zone that is none", { zone: "Merrow/Bay" }, "zone", "isn’t a time zone"],
  ["an address that is none", { senderEmail: "hello@" }, "senderEmail", "isn’t an email address"],
  ["a number of nowhere", { textNumber: "12" }, "textNumber", "isn’t a phone number"],
  ["no branch", { branches: [] }, "branches", "at least one branch"],
  ["two branches of one name", { branches: [{ name: "A" }, { name: "a" }] }, "branches", "the same name"],
  [
    "a link that is none",
    { branches: [{ name: "A", reviewPages: [{ site: "Waypost", url: "waypost" }] }] },
    "branches.0.reviewPages.0.url",
    "https://",
  ],
  [
    "a link that runs",
    { branches: [{ name: "A", reviewPages: [{ site: "Waypost", url: "javascript:alert(1)" }] }] },
    "branches.0.reviewPages.0.url",
    "https://",
  ],
  ["no service", { services: [] }, "services", "at least one service"],
  ["another version", { version: 3 }, "version", "versions 1 and 2"],
  ["another kind of file", { estima: "words" }, "estima", "isn’t a client file"],
  ["a plan nobody knows", { plan: "always" }, "plan", "one of the plans"],
])("%s is told with its line", (_name, change, path, says) => {
  const read = wrong(change);
  if (!("faults" in read)) throw new Error("It was taken.");
  const fault = read.faults.find((one) => one.path === path);
  expect(fault?.message).toContain(says);
  const line = JSON.stringify({ ...file, ...change }, null, 2).split("\n")[(fault?.line ?? 0) - 1];
  expect(line).toContain(`"${path.split(".").at(-1)}"`);
});

test("what is missing is told at what should hold it, what is no JSON at its line", () => {
  const { name: _name, ...nameless } = file;
  expect(readClientFile(JSON.stringify(nameless, null, 2))).toEqual({
    faults: [{ line: 1, path: "name", message: "Enter the name of the business." }],
  });
  expect(readClientFile('{\n  "name": "x",\n  "zone": \n}')).toMatchObject({
    faults: [{ line: expect.any(Number), path: "" }],
  });
  for (const text of ["", "[]", "null", "7", '"x"']) expect(readClientFile(text)).toHaveProperty("faults");
});

test("nothing that is missing is told in the words of a library", () => {
  for (const text of ["{}", "[]", "7", "null", '{"branches":[{}],"services":[{}],"team":[{}]}']) {
    const read = readClientFile(text);
    expect(
      "faults" in read && read.faults.map(({ message }) => message).filter((one) => /Invalid|expected/.test(one)),
    ).toEqual([]);
  }
});

test("whatever is read, it is answered, and a fault's line is one of the text's", () => {
  fc.assert(
    fc.property(
      fc.oneof(
        fc.string(),
        fc.json(),
        fc.jsonValue().map((value) => JSON.stringify({ ...file, branches: value }, null, 1)),
      ),
      (text) => {
        const read = readClientFile(text);
        if (!("faults" in read)) return;
        expect(read.faults.length).toBeGreaterThan(0);
        for (const { line } of read.faults) {
          expect(line).toBeGreaterThanOrEqual(1);
          expect(line).toBeLessThanOrEqual(text.split("\n").length);
        }
      },
    ),
  );
});

test("each trade's blanks come to a client as soon as what only the client knows is filled in", () => {
  for (const { key } of TRADES) {
    const draft = draftFor(key, null);
    expect(clientDraft.parse(draft)).toEqual(draft);
    expect(clientFile.safeParse(fileOf(draft)).success).toBe(false);
    const filled = {
      ...draft,
      name: "Osprey",
      senderEmail: "a@osprey.example",
      textNumber: "07700 900124",
      postalAddress: "1 Row",
    };
    const parsed = clientFile.safeParse(fileOf(filled));
    expect([key, parsed.error?.issues]).toEqual([key, undefined]);
    expect((parsed.data as ClientFile).branches.map(({ name }) => name)).toEqual(["Osprey"]);
  }
});

test("another trade changes what was left as it was, and nothing that somebody changed", () => {
  const draft = draftFor("locksmiths", null);
  expect(withTrade(draft, "boats")).toEqual({ ...draftFor("boats", null) });
  const own = { ...draft, name: "Osprey", services: [{ name: "Keys", neverAsk: false }], plan: "feeling" };
  expect(withTrade(own, "boats")).toEqual({ ...own, trade: "boats" });
});

test("a calendar without a right address is told at its field; the other ways in need none", () => {
  const draft = {
    ...draftFor("vets", null),
    name: "Osprey",
    senderEmail: "a@b.example",
    textNumber: "07700 900123",
    postalAddress: "1 Lane",
    feeds: ["webhook", "calendar", "drop-off"] as ("webhook" | "calendar" | "drop-off")[],
  };
  const faults = (calendarUrl: string) =>
    clientFile
      .safeParse(fileOf({ ...draft, calendarUrl }))
      .error?.issues.map(({ path }) => fieldOfFault(path.join(".")));
  expect(faults("nonsense")).toEqual(["calendarUrl"]);
  expect(faults("webcal://calendar.example/a.ics")).toBeUndefined();
  const made = clientFile.parse(fileOf({ ...draft, calendarUrl: "https://calendar.example/a.ics" }));
  expect(made.feeds.map(({ kind, name, url }) => [kind, name, url])).toEqual([
    ["webhook", "Job software", null],
    ["calendar", "Calendar", "https://calendar.example/a.ics"],
    ["drop-off", "Front desk", null],
  ]);
});

test("what is wrong a hundred thousand times over is told in one walk through the file", () => {
  const services = Array.from({ length: 60_000 }, () => ({}));
  const read = wrong({ services });
  if (!("faults" in read)) throw new Error("It was taken.");
  expect(read.faults.length).toBeGreaterThan(0);
  expect(read.faults.every(({ line }, index, all) => index === 0 || line >= all[index - 1].line)).toBe(true);
  expect(read.faults.at(-1)?.line).toBeGreaterThan(0);
});

test("a client made like another bears nothing that is the other one's own", () => {
  const read = readClientFile(
    JSON.stringify({
      ...file,
      settings: {
        restDays: 90,
        privacyNote: { en: "Osprey Locksmiths keeps …" },
        look: {
          typeface: "newsreader",
          replyTo: "desk@osprey.example",
          senderName: "Osprey",
          signature: "Wren of Osprey Locksmiths",
          links: [{ name: "Us", url: "https://osprey.example/" }],
        },
        awayWord: { isOn: true, words: { en: "Osprey Locksmiths is closed." } },
      },
      branches: [
        { name: "Osprey Locksmiths", address: "3 Harbour Row", phone: "+441134960001", look: { colour: "#113355" } },
      ],
      feeds: [{ kind: "calendar", name: "Osprey’s diary", url: "https://osprey.example/diary.ics" }],
    }),
  );
  if (!("file" in read)) throw new Error(JSON.stringify(read));
  const own = {
    name: "Heron Keys",
    textNumber: "+447700900124",
    senderEmail: "hello@heron.example",
    postalAddress: "9 Quay, Merrow Bay",
  };
  const made = clientFile.parse(copiedFile(read.file, own));
  expect(JSON.stringify(made)).not.toMatch(/osprey|harbour row|4960001/i);
  expect(made).toMatchObject({ ...own, settings: { restDays: 90, look: { typeface: "newsreader", signature: "" } } });
  expect(made.services).toEqual(read.file.services);
  expect(made.settings.awayWord?.words.en).toBe("Heron Keys is closed.");
  expect(made.branches).toMatchObject([{ name: "Heron Keys", address: "", phone: null, look: null, reviewPages: [] }]);
});
