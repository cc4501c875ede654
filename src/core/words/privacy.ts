import { type AnyLanguage, PSEUDO, pseudoWords } from "./languages";

/** The starter text of what a business keeps of its customers; its own words take its place. */

const GDPR = new Set(
  "AT BE BG HR CY CZ DK EE FI FR DE GR HU IE IT LV LT LU MT NL PL PT RO SK SI ES SE IS LI NO".split(" "),
);

type Law = "uk" | "eu" | "other";
const lawOf = (country: string): Law => (country === "GB" ? "uk" : GDPR.has(country) ? "eu" : "other");

type Note = { keeps: string; rights: Record<Law, string>; reach: string };

const NOTES: Record<Exclude<AnyLanguage, "en-XA">, Note> = {
  en: {
    keeps:
      "{business} keeps your name, how to reach you, what you came for and when, and what you say here, to hear how it went and to put right what went wrong. It is passed on to nobody; what you agree to show is shown on our own page.",
    rights: {
      uk: "Under the UK GDPR you may see what we keep, have it corrected or erased, and object to being asked. You can also complain to the Information Commissioner.",
      eu: "Under the GDPR you may see what we keep, have it corrected or erased, and object to being asked. You can also complain to your data protection authority.",
      other: "You may see what we keep, have it corrected or erased, and say that you do not want to be asked.",
    },
    reach: "For any of it write to {email} or to {address}.",
  },
  es: {
    keeps:
      "{business} guarda su nombre, cómo localizarle, a qué vino y cuándo, y lo que diga aquí, para saber qué tal fue y arreglar lo que salió mal. No se pasa a nadie; lo que acepte mostrar se muestra en nuestra propia página.",
    rights: {
      uk: "Según el RGPD del Reino Unido puede ver lo que guardamos, pedir que se corrija o se borre, y oponerse a que le preguntemos. También puede reclamar ante la autoridad de protección de datos.",
      eu: "Según el RGPD puede ver lo que guardamos, pedir que se corrija o se borre, y oponerse a que le preguntemos. También puede reclamar ante la autoridad de protección de datos.",
      other: "Puede ver lo que guardamos, pedir que se corrija o se borre, y decir que no quiere que le preguntemos.",
    },
    reach: "Para todo ello escriba a {email} o a {address}.",
  },
  fr: {
    keeps:
      "{business} garde votre nom, comment vous joindre, l’objet et la date de votre visite et ce que vous dites ici, pour savoir comment c’était et corriger ce qui n’allait pas. Rien n’est transmis ; ce que vous acceptez de montrer figure sur notre propre page.",
    rights: {
      uk: "Selon le RGPD britannique, vous pouvez voir ce que nous gardons, le faire corriger ou effacer, et refuser d’être interrogé. Vous pouvez aussi saisir l’autorité de protection des données.",
      eu: "Selon le RGPD, vous pouvez voir ce que nous gardons, le faire corriger ou effacer, et refuser d’être interrogé. Vous pouvez aussi saisir l’autorité de protection des données.",
      other: "Vous pouvez voir ce que nous gardons, le faire corriger ou effacer, et refuser d’être interrogé.",
    },
    reach: "Pour cela, écrivez à {email} ou à {address}.",
  },
  de: {
    keeps:
      "{business} bewahrt Ihren Namen auf, wie Sie zu erreichen sind, weshalb und wann Sie da waren und was Sie hier sagen, um zu hören, wie es war, und in Ordnung zu bringen, was schiefging. Es wird niemandem weitergegeben; was Sie zeigen lassen, steht auf unserer eigenen Seite.",
    rights: {
      uk: "Nach der britischen DSGVO dürfen Sie sehen, was wir aufbewahren, es berichtigen oder löschen lassen und widersprechen, gefragt zu werden. Sie können sich auch bei der Datenschutzbehörde beschweren.",
      eu: "Nach der DSGVO dürfen Sie sehen, was wir aufbewahren, es berichtigen oder löschen lassen und widersprechen, gefragt zu werden. Sie können sich auch bei Ihrer Datenschutzbehörde beschweren.",
      other:
        "Sie dürfen sehen, was wir aufbewahren, es berichtigen oder löschen lassen und sagen, dass Sie nicht gefragt werden möchten.",
    },
    reach: "Schreiben Sie dafür an {email} oder an {address}.",
  },
  pt: {
    keeps:
      "{business} guarda o seu nome, como o contactar, ao que veio e quando, e o que diz aqui, para saber como foi e corrigir o que correu mal. Nada é passado a ninguém; o que aceitar mostrar aparece na nossa própria página.",
    rights: {
      uk: "Segundo o RGPD do Reino Unido pode ver o que guardamos, pedir a correção ou o apagamento e opor-se a que lhe perguntem. Também pode reclamar junto da autoridade de proteção de dados.",
      eu: "Segundo o RGPD pode ver o que guardamos, pedir a correção ou o apagamento e opor-se a que lhe perguntem. Também pode reclamar junto da autoridade de proteção de dados.",
      other: "Pode ver o que guardamos, pedir a correção ou o apagamento e dizer que não quer que lhe perguntem.",
    },
    reach: "Para isso escreva para {email} ou para {address}.",
  },
  pl: {
    keeps:
      "{business} przechowuje imię i nazwisko, dane kontaktowe, powód i datę wizyty oraz to, co zostanie tu napisane, aby wiedzieć, jak było, i naprawić to, co poszło źle. Nic nie jest przekazywane dalej; to, na co jest zgoda, widać na naszej własnej stronie.",
    rights: {
      uk: "Zgodnie z brytyjskim RODO można zobaczyć, co przechowujemy, poprawić to lub usunąć oraz sprzeciwić się pytaniom. Można też złożyć skargę do organu ochrony danych.",
      eu: "Zgodnie z RODO można zobaczyć, co przechowujemy, poprawić to lub usunąć oraz sprzeciwić się pytaniom. Można też złożyć skargę do organu ochrony danych.",
      other: "Można zobaczyć, co przechowujemy, poprawić to lub usunąć oraz nie zgodzić się na pytania.",
    },
    reach: "W tych sprawach prosimy pisać: {email} albo {address}.",
  },
};

/** The note in a language, for a business of a country (ISO 3166-1 alpha-2). Paragraphs are parted by a blank line. */
export function privacyNote(
  language: AnyLanguage,
  it: { business: string; country: string; email: string; address: string },
): string {
  const note = NOTES[language === PSEUDO ? "en" : language];
  const said = [note.keeps, note.rights[lawOf(it.country)], note.reach];
  return (language === PSEUDO ? said.map(pseudoWords) : said)
    .join("\n\n")
    .replaceAll("{business}", it.business)
    .replaceAll("{email}", it.email)
    .replaceAll("{address}", it.address);
}
