import { planRulesSchema } from "../plans/planRules";
import { starterRules } from "../plans/starters";
import { composeAsk, type WordingFacts } from "./compose";
import { emailPage } from "./emailPage";
import { withoutFallback } from "./placeholders";
import { textParts } from "./textParts";

const facts: WordingFacts = {
  person: { given: "Odette", family: "Marsh" },
  business: "Bramble Lane Vets",
  branch: "Fenwick",
  service: "Check-up",
  about: "Biscuit",
  teamMember: "Dr Hale",
};
const link = "https://ask.example/a/k7q2m9wx4tzr3n.0";
const [first, second] = starterRules().steps;

describe("the starter plan", () => {
  test("is in order as it stands: valid, every placeholder with a fallback, every text with a way to stop", () => {
    expect(planRulesSchema.safeParse(starterRules()).success).toBe(true);
    for (const step of starterRules().steps) {
      expect([step.text, step.subject, step.email].flatMap(withoutFallback)).toEqual([]);
      expect(step.text).toMatch(/STOP/);
    }
  });

  test("reads as a person would write it", () => {
    expect(composeAsk(first, "text", facts, link)).toMatchObject({
      body: `Hi Odette, how was Biscuit's check-up at Bramble Lane Vets today? Tell us in one tap: ${link} Reply STOP to opt out.`,
      subject: null,
      parts: 1,
    });
    expect(composeAsk(second, "email", facts, link).subject).toBe("A word about your visit, Odette?");
  });

  test("reads well when hardly anything is known", () => {
    const bare = { ...facts, person: { given: "O.", family: "" }, about: null, teamMember: null };
    expect(composeAsk(first, "text", bare, link).body).toMatch(/^Hi there, how was your check-up at/);
    expect(composeAsk(first, "email", bare, link).body).toMatch(/All of us at Bramble Lane Vets$/);
  });

  test("stays in one part and the small alphabet, also for names in s and with typographic marks", () => {
    const { body } = composeAsk(first, "text", { ...facts, about: "Figgy’s", business: "B & Co" }, link);
    expect(textParts(body)).toMatchObject({ alphabet: "GSM 03.38", parts: 1 });
    expect(composeAsk(first, "text", { ...facts, about: "Iris" }, link).body).toContain("Iris' check-up");
  });
});

describe("the HTML of an email", () => {
  const frame = {
    business: "Vets & <Co>",
    colour: "#2F5D50",
    postalAddress: "4 Lane",
    link,
    optOut: "https://ask.example/u/k7q2m9wx4tzr3n",
    picture: "https://ask.example/o/1.gif",
  };

  test("customers' and businesses' words are never read as markup", () => {
    const { html, text } = emailPage(`Hi <img src=x onerror=alert(1)> & "you"\n\n${link}`, frame);
    expect(html).not.toMatch(/<img src=x/);
    expect(html).toContain("&lt;img src=x onerror=alert(1)&gt; &amp; &quot;you&quot;");
    expect(html).toContain("Vets &amp; &lt;Co&gt;");
    expect(text).toContain("<img src=x");
  });

  test("a link on a line of its own becomes five taps that only preselect", () => {
    const { html } = emailPage(`Hello\n\n${link}\n\nBye`, frame);
    expect([...html.matchAll(/\?r=(\d)"/g)].map((match) => match[1])).toEqual(["1", "2", "3", "4", "5"]);
    expect(emailPage(`Hello, see ${link}`, frame).html).toContain(`<a href="${link}"`);
  });

  test("both forms say who writes, from where, and how to end it; a personal letter does without", () => {
    const { html, text } = emailPage("Hello", frame);
    for (const form of [html, text]) expect(form).toContain("https://ask.example/u/k7q2m9wx4tzr3n");
    expect(text).toMatch(/4 Lane/);
    const letter = emailPage("Hello", { ...frame, link: null, optOut: null, picture: null });
    expect(letter.html).not.toContain("/u/");
    expect(letter.html).not.toContain("<img");
    expect(letter.text).not.toContain("No more messages");
  });
});
