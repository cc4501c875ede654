import fc from "fast-check";
import { splitQuoted } from "./quoted";

test.each([
  [
    "Yes please.\n\nOn Tue, 24 Nov 2026 at 14:05, Bramble Lane Vets <hello@x.example> wrote:\n> How was it?",
    "Yes please.",
  ],
  [
    "Yes please.\n\nOn Tue, 24 Nov 2026 at 14:05, Bramble Lane Vets\n<hello@x.example> wrote:\n\nHow was it?",
    "Yes please.",
  ],
  ["Sí, gracias.\n\nEl mar, 24 nov 2026 a las 14:05, Vets (<hello@x.example>) escribió:\n> ¿Qué tal?", "Sí, gracias."],
  ["Oui.\n\nLe mar. 24 nov. 2026 à 14:05, Vets <hello@x.example> a écrit :\n> Alors ?", "Oui."],
  ["Ja.\n\nAm Di., 24. Nov. 2026 um 14:05 Uhr schrieb Vets <hello@x.example>:\n> Wie war es?", "Ja."],
  ["Ok.\n\n-----Original Message-----\nFrom: Vets", "Ok."],
  ["Ok.\n________________________________\nFrom: Vets <hello@x.example>\nSent: today", "Ok."],
  ["Fine.\n\n> How was it?\n> Tell us.\n", "Fine."],
])("%j", (mail, words) => {
  expect(splitQuoted(mail).words).toBe(words);
  expect(splitQuoted(mail).quoted).not.toBe("");
});

test.each([
  "On Tuesday I wrote you already: nothing came.\nOdette",
  "> only this is quoted",
  "First line\n> a thought of mine\nlast line",
  "From here it is easy to find you.",
  "",
])("%j is all theirs", (mail) => {
  expect(splitQuoted(mail)).toEqual({ words: mail.trim(), quoted: "" });
});

test("nothing is lost, and there are words where there were any", () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom("hello", "> quoted", "", "On Tue X <a@b.example> wrote:", "From: a@b.example")),
      (lines) => {
        const text = lines.join("\n");
        const { words, quoted } = splitQuoted(text);
        if (text.trim() !== "") expect(words).not.toBe("");
        const kept = `${words}\n${quoted}`.split("\n").filter((line) => line.trim() !== "");
        expect(kept).toEqual(lines.map((line) => line.trim()).filter((line) => line !== ""));
      },
    ),
  );
});
