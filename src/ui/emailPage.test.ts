import { planRulesSchema } from "@/core/plans/planRules";
import { starterRules } from "@/core/plans/starters";
import { composeAsk, type WordingFacts } from "@/core/words/compose";
import { LANGUAGES } from "@/core/words/languages";
import { withoutFallback } from "@/core/words/placeholders";
import { textParts } from "@/core/words/textParts";
import { emailPage, mailWords, STAFF_FRAME } from "./emailPage";

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
    expect(composeAsk(second, "email", facts, link).subject).toBe("Odette, how was your visit?");
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
    asksRating: true,
    words: mailWords("en", "Vets & <Co>"),
    optOut: "https://ask.example/u/k7q2m9wx4tzr3n",
    picture: "https://ask.example/o/1.gif",
  };

  test("customers' and businesses' words are never read as markup", async () => {
    const { html, text } = await emailPage(`Hi <img src=x onerror=alert(1)> & "you"\n\n${link}`, frame);
    expect(html).not.toMatch(/<img src=x/);
    expect(html).toContain("&lt;img src=x onerror=alert(1)&gt; &amp; &quot;you&quot;");
    expect(html).toContain("Vets &amp; &lt;Co&gt;");
    expect(text).toContain("<img src=x");
  });

  test("a link on a line of its own becomes five taps that only preselect", async () => {
    const { html } = await emailPage(`Hello\n\n${link}\n\nBye`, frame);
    expect([...html.matchAll(/\?r=(\d)"/g)].map((match) => match[1])).toEqual(["1", "2", "3", "4", "5"]);
    expect((await emailPage(`Hello, see ${link}`, frame)).html).toContain(`<a href="${link}" class="own"`);
  });

  test("both forms say who writes, from where, and how to end it; a personal letter does without", async () => {
    const { html, text } = await emailPage("Hello", frame);
    for (const form of [html, text]) expect(form).toContain("https://ask.example/u/k7q2m9wx4tzr3n");
    expect(text).toMatch(/4 Lane/);
    const letter = await emailPage("Hello", { ...frame, link: null, optOut: null, picture: null });
    expect(letter.html).not.toContain("/u/");
    expect(letter.html).not.toContain("<img");
    expect(letter.text).not.toContain("No more messages");
  });
});

test("a logo stands for the name, which is said where pictures are off; what is typed is never markup", async () => {
  const { html } = await emailPage("Hello", {
    business: 'A "B" <b>',
    colour: "#2F5D50",
    postalAddress: "",
    link: null,
    asksRating: false,
    words: mailWords("en", "x"),
    optOut: null,
    picture: null,
    logo: { url: "https://app.example/images/x.png", width: 120, height: 40 },
  });
  const [image] = /<img [^>]*images[^>]*>/.exec(html) ?? [""];
  expect(image).toContain('src="https://app.example/images/x.png"');
  expect(image).toContain('alt="A &quot;B&quot; &lt;b&gt;"');
  expect(image).toMatch(/height="40".*width="120"/);
  expect(html).not.toContain("<b>");
});

test("a mail is in its language, light and dark, under 90 KB, and says its first words before it is opened", async () => {
  for (const language of ["en", "pl", "es"] as const) {
    const words = mailWords(language, "Bramble Lane Vets");
    const { html } = await emailPage(`Hello {name},\n\n${link}\n\nThank you`, {
      business: "Bramble Lane Vets",
      colour: "#2F5D50",
      postalAddress: "4 Lane",
      link,
      asksRating: true,
      optOut: "https://ask.example/u/x",
      picture: "https://ask.example/o/x.gif",
      words,
      language,
    });
    expect(html).toContain(`lang="${language}"`);
    expect(html).toContain("prefers-color-scheme:dark");
    expect(html).toContain(words.noMore);
    expect(html).toContain("Hello {name}, Thank you</div>");
    expect(html).not.toMatch(/estima\.invalid|\[\[estima/);
    expect(html.length).toBeLessThan(12_000);
  }
});

test("what is typed into a mail is never taken for a mark of the frame", async () => {
  const { html } = await emailPage("[[estima:body]] https://estima.invalid/opt-out $& $1", {
    business: "[[estima:preheader]]",
    colour: "#2F5D50",
    postalAddress: "",
    link: null,
    asksRating: false,
    optOut: null,
    picture: null,
    words: mailWords("en", "x"),
  });
  expect(html).toContain("[[estima:body]] https://estima.invalid/opt-out $&amp; $1");
});

test("a link to staff is a link, not a rating", async () => {
  const { html } = await emailPage(`Hello\n\n${link}`, {
    business: "Estima",
    colour: "#6A2156",
    postalAddress: "",
    link,
    ...STAFF_FRAME,
  });
  expect(html).not.toContain("?r=5");
  expect(html).toContain(`<a href="${link}"`);
});

describe("the standard", () => {
  test("an email has no fault that an HTML validator finds, in any language, with and without each part", async () => {
    const { HtmlValidate } = await import("html-validate/node");
    const validator = new HtmlValidate({
      extends: ["html-validate:standard"],
      // Mail programs read styles where they stand, tables that lay out, and attributes that browsers left behind.
      rules: {
        "no-inline-style": "off",
        "no-deprecated-attr": "off",
        "attr-quotes": "off",
        "void-style": "off",
        "attribute-boolean-style": "off",
        "no-trailing-whitespace": "off",
        "doctype-style": "off",
        "no-raw-characters": "off",
        "attr-case": "off",
        "require-sri": "off",
        "no-dup-class": "error",
        "long-title": "off",
      },
    });
    const wrong: string[] = [];
    for (const language of LANGUAGES)
      for (const change of [
        {},
        { optOut: null, picture: null },
        { logo: { url: "https://ask.example/images/x.png", width: 120, height: 40 }, signature: "Maud & <Co>" },
        { links: [{ name: "Bandstand", url: "https://bandstand.example/a?b=1&c=2" }] },
      ]) {
        const { html } = await emailPage(`Dzień dobry ‹Odette› & <b>co</b>,\n\n${link}\n\nBye`, {
          business: "Vets & <Co>",
          colour: "#2F5D50",
          postalAddress: "4 Lane",
          link,
          asksRating: true,
          words: mailWords(language, "Vets & <Co>"),
          language,
          optOut: "https://ask.example/u/k7q2m9wx4tzr3n",
          picture: "https://ask.example/o/1.gif",
          ...change,
        });
        const report = await validator.validateString(html);
        for (const { messages } of report.results)
          for (const { ruleId, message, severity } of messages)
            if (severity === 2) wrong.push(`${language}: ${ruleId}: ${message}`);
      }
    expect([...new Set(wrong)]).toEqual([]);
  }, 30_000);
});
