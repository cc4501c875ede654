import fc from "fast-check";
import { NOTHING_MORE } from "../plans/planRules";
import { type Change, changeOf, fingerprint, type Given, joined, type Said, type Typed } from "./change";

const ASKED = { ...NOTHING_MORE, aspects: ["The waiting"], questions: ["What should we change?"] };
const [QUESTION] = ASKED.questions;

const NOTHING: Said = {
  rating: null,
  ratings: [],
  words: null,
  draftWords: null,
  aspects: {},
  recommend: null,
  more: {},
  draftMore: {},
  mayShowAt: null,
};

const after = (before: Said, given: Given, typed: Typed = {}, now = 1): Said & Change => ({
  ...before,
  ...changeOf(before, given, typed, ASKED, now),
});

test("a text that is sent again, or with more in it, is one text; another one is added", () => {
  expect(joined("", "Cold.")).toBe("Cold.");
  expect(joined("Cold.", "Cold.")).toBe("Cold.");
  expect(joined("Cold.", "Cold. Please call me.")).toBe("Cold. Please call me.");
  expect(joined("Cold.", "Cold, and late.")).toBe("Cold, and late.");
  expect(joined("Cold. Please call me.", "Cold.")).toBe("Cold. Please call me.");
  expect(joined("Cold.", "Please call me.")).toBe("Cold.\n\nPlease call me.");
});

test("every rating is remembered in its time, the same one twice is one", () => {
  let said = after(NOTHING, { rating: 2 }, {}, 10);
  said = after(said, { rating: 2 }, {}, 20);
  said = after(said, { words: "Please call me." }, {}, 30);
  said = after(said, { rating: 5 }, {}, 40);
  expect(said.ratings).toEqual([
    { rating: 2, at: 10 },
    { rating: 5, at: 40 },
  ]);
  expect([said.rating, said.words, said.wordsAt]).toEqual([5, "Please call me.", 30]);
});

test("what is typed and not sent is a draft, and stays one whatever else is tapped", () => {
  let said = after(NOTHING, { rating: 5 });
  said = after(said, { recommend: 9 }, { words: "Lovely, and", more: ["Chairs"] });
  expect([said.words, said.draftWords, said.more, said.draftMore]).toEqual([
    null,
    "Lovely, and",
    {},
    { [QUESTION]: "Chairs" },
  ]);
  said = after(said, { aspect: { index: 0, value: 4 } });
  expect([said.draftWords, said.aspects]).toEqual(["Lovely, and", { "The waiting": 4 }]);
  said = after(said, { words: "Lovely, and on time", more: ["Chairs for dogs"] });
  expect(said).toMatchObject({
    words: "Lovely, and on time",
    draftWords: null,
    more: { [QUESTION]: "Chairs for dogs" },
    draftMore: {},
  });
});

test("new writing is to be read anew; a tap or the same words again is not", () => {
  const read = { readAt: null, readBy: null, wordsAt: 7 };
  expect(changeOf(NOTHING, { words: "Good." }, {}, ASKED, 7)).toMatchObject({ ...read, isUnread: true });
  expect(changeOf(NOTHING, { more: ["Chairs"] }, {}, ASKED, 7)).toMatchObject(read);
  const said = after(NOTHING, { words: "Good.", more: ["Chairs"] });
  for (const given of [{ words: "Good." }, { more: ["Chairs"] }, { recommend: 9 }, { rating: 4 }])
    expect(changeOf(said, given, {}, ASKED, 9)).not.toHaveProperty("wordsAt");
});

/** A page as it is opened, with its fields, and what is typed into them. */
class Opened {
  readonly shown: string;
  text: string;
  constructor(said: Said) {
    this.text = said.draftMore[QUESTION] ?? said.more[QUESTION] ?? "";
    this.shown = fingerprint(this.text);
  }
  get fields() {
    return { more: [this.text], shown: { more: [this.shown] } };
  }
}

test("on two phones at once nothing that was sent is lost, and nobody's empty field takes anything back", () => {
  const step = fc.record({
    on: fc.nat(1),
    does: fc.constantFrom("type", "send", "tap", "reload"),
    text: fc.stringMatching(/^[a-z]{3,6}$/),
  });
  fc.assert(
    fc.property(fc.array(step, { maxLength: 20 }), (steps) => {
      let said: Said = NOTHING;
      const pages = [new Opened(said), new Opened(said)];
      const sent: string[] = [];
      for (const [index, { on, does, text }] of steps.entries()) {
        const page = pages[on];
        if (does === "type") page.text = page.text ? `${page.text} ${text}${index}` : `${text}${index}`;
        else if (does === "reload") pages[on] = new Opened(said);
        else if (does === "tap") said = after(said, { rating: 4 }, page.fields);
        else {
          said = after(said, page.fields);
          sent.push(...page.text.split(/\s+/).filter(Boolean));
          pages[on] = new Opened(said);
        }
      }
      const words = (said.more[QUESTION] ?? "").split(/\s+/);
      for (const word of sent) expect(words).toContain(word);
    }),
  );
});

test("a field that was opened with what is on file can be emptied", () => {
  const said = after(NOTHING, { more: ["Chairs"] });
  expect(after(said, { more: [""], shown: { more: [fingerprint("Chairs")] } }).more).toEqual({});
  expect(after(said, { more: [""], shown: { more: [fingerprint("")] } }).more).toEqual({ [QUESTION]: "Chairs" });
});

test("the sign of a text does not depend on the ends of its lines", () => {
  expect(fingerprint("Cold.\r\nVery.\r\n")).toBe(fingerprint("Cold.\nVery."));
  expect(fingerprint("Cold.")).not.toBe(fingerprint("Cold"));
});
