import { z } from "zod";
import { cleanText } from "./clean";
import { type AnyLanguage, LANGUAGES, PSEUDO, pseudoWords } from "./languages";

/** The starter text of what a business keeps of its customers; its own words take its place. */

const GDPR = new Set(
  "AT BE BG HR CY CZ DK EE FI FR DE GR HU IE IT LV LT LU MT NL PL PT RO SK SI ES SE IS LI NO".split(" "),
);

/** A business's own notes, by language; one that is missing is the starter text. */
export const privacyNotes = z.partialRecord(
  z.enum(LANGUAGES),
  z.string().transform(cleanText).pipe(z.string().trim().max(6000, "Keep the note under 6,000 characters.")),
);
export type PrivacyNotes = z.output<typeof privacyNotes>;

type Law = "uk" | "eu" | "other";
const lawOf = (country: string): Law => (country === "GB" ? "uk" : GDPR.has(country) ? "eu" : "other");

type Note = { keeps: string; rights: Record<Law, string>; reach: string };

const NOTES: Record<Exclude<AnyLanguage, "en-XA">, Note> = {
  en: {
    keeps:
      "{business} keeps your name, your contact details, what you came for and when, and what you tell us here, so that we can find out how it went and put things right. We only share it with the services that send our messages for us. If you agree to show your comments, they appear on our own reviews page.",
    rights: {
      uk: "Under the UK GDPR you can see what we keep, have it corrected or erased, and object to being asked. You can also complain to the Information Commissioner.",
      eu: "Under the GDPR you can see what we keep, have it corrected or erased, and object to being asked. You can also complain to your data protection authority.",
      other: "You can see what we keep, have it corrected or erased, and tell us you don’t want to be asked.",
    },
    reach: "To do any of this, write to {email} or {address}.",
  },
  es: {
    keeps:
      "{business} guarda su nombre, sus datos de contacto, el motivo y la fecha de su visita y lo que nos diga aquí, para saber qué tal fue y arreglar lo que no haya ido bien. Solo acceden a ellos los servicios que envían nuestros mensajes. Si acepta mostrar su comentario, aparecerá en nuestra página de opiniones.",
    rights: {
      uk: "Según el RGPD del Reino Unido, puede acceder a lo que guardamos, pedir que se rectifique o se suprima y oponerse a que le preguntemos. También puede presentar una reclamación ante la autoridad británica de protección de datos (Information Commissioner).",
      eu: "Según el RGPD, puede acceder a lo que guardamos, pedir que se rectifique o se suprima y oponerse a que le preguntemos. También puede presentar una reclamación ante la autoridad de protección de datos.",
      other:
        "Puede acceder a lo que guardamos, pedir que se rectifique o se suprima y decirnos que no quiere que le preguntemos.",
    },
    reach: "Para ello, escriba a {email} o a {address}.",
  },
  fr: {
    keeps:
      "{business} conserve votre nom, vos coordonnées, l’objet et la date de votre visite et ce que vous nous dites ici, pour savoir comment ça s’est passé et corriger ce qui n’allait pas. Seuls les prestataires qui envoient nos messages y ont accès. Si vous acceptez de publier votre commentaire, il apparaît sur notre page d’avis.",
    rights: {
      uk: "En vertu du RGPD britannique, vous pouvez consulter ce que nous conservons, le faire rectifier ou effacer, et vous opposer à nos demandes d’avis. Vous pouvez aussi introduire une réclamation auprès de l’autorité britannique de protection des données (Information Commissioner).",
      eu: "En vertu du RGPD, vous pouvez consulter ce que nous conservons, le faire rectifier ou effacer, et vous opposer à nos demandes d’avis. Vous pouvez aussi introduire une réclamation auprès de votre autorité de protection des données.",
      other:
        "Vous pouvez consulter ce que nous conservons, le faire rectifier ou effacer, et refuser nos demandes d’avis.",
    },
    reach: "Pour cela, écrivez à {email} ou à {address}.",
  },
  de: {
    keeps:
      "{business} speichert Ihren Namen, Ihre Kontaktdaten, Anlass und Datum Ihres Besuchs und das, was Sie uns hier mitteilen, um zu erfahren, wie es war, und Fehler in Ordnung zu bringen. Zugriff haben nur die Dienste, die unsere Nachrichten versenden. Wenn Sie der Veröffentlichung zustimmen, erscheint Ihr Kommentar auf unserer eigenen Bewertungsseite.",
    rights: {
      uk: "Nach der britischen DSGVO können Sie Auskunft über Ihre gespeicherten Daten verlangen, sie berichtigen oder löschen lassen und unseren Anfragen widersprechen. Sie können sich auch bei der britischen Datenschutzbehörde (Information Commissioner) beschweren.",
      eu: "Nach der DSGVO können Sie Auskunft über Ihre gespeicherten Daten verlangen, sie berichtigen oder löschen lassen und unseren Anfragen widersprechen. Sie können sich auch bei Ihrer Datenschutzbehörde beschweren.",
      other:
        "Sie können Auskunft über Ihre gespeicherten Daten verlangen, sie berichtigen oder löschen lassen und uns sagen, dass Sie nicht gefragt werden möchten.",
    },
    reach: "Schreiben Sie dazu an {email} oder an {address}.",
  },
  pt: {
    keeps:
      "{business} guarda o seu nome, os seus contactos, o motivo e a data da sua visita e o que nos disser aqui, para saber como correu e corrigir o que não correu bem. Só os serviços que enviam as nossas mensagens têm acesso a eles. Se aceitar mostrar o seu comentário, este aparece na nossa página de opiniões.",
    rights: {
      uk: "Nos termos do RGPD do Reino Unido, pode consultar o que guardamos, pedir a retificação ou o apagamento e opor-se a que lhe façamos perguntas. Também pode apresentar reclamação à autoridade britânica de proteção de dados (Information Commissioner).",
      eu: "Nos termos do RGPD, pode consultar o que guardamos, pedir a retificação ou o apagamento e opor-se a que lhe façamos perguntas. Também pode apresentar reclamação à autoridade de proteção de dados.",
      other:
        "Pode consultar o que guardamos, pedir a retificação ou o apagamento e dizer que não quer que lhe façamos perguntas.",
    },
    reach: "Para isso, escreva para {email} ou para {address}.",
  },
  pl: {
    keeps:
      "{business} przechowuje Państwa imię i nazwisko, dane kontaktowe, powód i datę wizyty oraz to, co nam tu Państwo napiszą, aby dowiedzieć się, jak było, i naprawić to, co poszło nie tak. Dostęp do nich mają tylko usługi, które wysyłają nasze wiadomości. Jeśli zgodzą się Państwo na pokazanie komentarza, pojawi się on na naszej stronie z opiniami.",
    rights: {
      uk: "Zgodnie z brytyjskim RODO mają Państwo prawo dostępu do swoich danych, ich sprostowania i usunięcia oraz prawo sprzeciwu wobec naszych pytań. Można też złożyć skargę do brytyjskiego organu ochrony danych (Information Commissioner).",
      eu: "Zgodnie z RODO mają Państwo prawo dostępu do swoich danych, ich sprostowania i usunięcia oraz prawo sprzeciwu wobec naszych pytań. Można też złożyć skargę do organu ochrony danych (w Polsce: do Prezesa UODO).",
      other:
        "Mogą Państwo sprawdzić, co przechowujemy, poprosić o poprawienie lub usunięcie tych danych oraz nie zgodzić się na pytania.",
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
