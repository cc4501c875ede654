import fc from "fast-check";
import { runs } from "../../../tests/support/size";
import { readKeyword } from "./keywords";
import { readStopWish } from "./stopWishes";

/** Written as people write on phones, in six languages. */
const SURE = {
  en: [
    "STOP STOP STOP",
    "Stop\n\nSent from my phone",
    "stop thx",
    "stop texting me",
    "remove my number",
    "Please remove me from your list",
    "take my number off your list please",
    "STOP!!!!",
    "stop now",
    "Stop this",
    "stop sending me messages",
    "Stop sending these texts!!",
    "Please stop texting this number",
    "quit texting me",
    "Do not text me again",
    "Don't text me anymore.",
    "don’t message me again please",
    "dont contact me",
    "never text me again",
    "no more texts please",
    "No more messages thanks",
    "No more of these",
    "I don't want these messages",
    "I do not want any more texts",
    "I don't want to receive these messages anymore",
    "we don't want your texts",
    "Unsubscribe me please",
    "unsubscribe from this list",
    "opt out",
    "I want to opt out",
    "i would like to opt out of these messages",
    "Opt me out",
    "delete my number",
    "Delete my number from your database",
    "leave me alone",
    "lose my number",
    "enough with the texts",
    "Can you stop texting me please?",
    "Could you please remove me from your list?",
    "I want to stop receiving these messages",
    "hi, please stop messaging me. thanks",
    "cease and desist",
    "stop spamming me",
    "Stop emailing me",
    "get me off this list",
    "Take me off the list",
  ],
  es: [
    "No quiero recibir más mensajes",
    "no más mensajes por favor",
    "No quiero recibir más mensajes",
    "Dejen de mandarme mensajes",
    "quiero darme de baja",
    "Borren mi número",
    "basta ya",
    "ya no quiero sus mensajes",
    "Elimine mi número de su lista",
    "déjenme en paz",
    "no me manden más SMS",
  ],
  fr: [
    "arrete",
    "plus de sms",
    "Arrêtez de m'envoyer des messages",
    "Ne m'écrivez plus",
    "je ne veux plus recevoir de messages",
    "désinscrivez-moi",
    "Supprimez mon numéro",
    "retirez-moi de votre liste svp",
    "Stop SMS",
    "laissez-moi tranquille",
    "plus de messages merci",
  ],
  de: [
    "keine SMS mehr",
    "Bitte keine Nachrichten mehr",
    "Hören Sie auf mir zu schreiben",
    "schreiben Sie mir bitte nicht mehr",
    "Löschen Sie meine Nummer",
    "bitte meine Nummer löschen",
    "ich möchte keine SMS mehr bekommen",
    "Lassen Sie mich in Ruhe",
    "nicht mehr schreiben bitte",
    "Melden Sie mich ab",
    "Stop danke",
  ],
  pt: [
    "Não me mandem mais mensagens",
    "não quero receber mais mensagens",
    "parem de enviar mensagens",
    "chega de sms",
    "Removam o meu número",
    "retire meu número da lista",
    "Mais nenhuma mensagem por favor",
    "me deixem em paz",
  ],
  pl: [
    "Proszę nie pisać",
    "nie piszcie więcej",
    "nie chcę więcej smsów",
    "Proszę usunąć mój numer",
    "przestańcie do mnie pisać",
    "usuńcie mnie z listy",
    "żadnych wiadomości więcej",
    "dajcie mi spokój",
    "proszę nie wysyłać mi smsów",
  ],
} as const;

const LIKELY = [
  "I've told you three times now, stop texting me, I am at a funeral",
  "Who gave you my number? Wrong person.",
  "wrong number",
  "Not interested",
  "how do I unsubscribe from this",
  "You keep asking and asking, I am sick of these texts and you still charge too much",
  "Falsche Nummer",
  "Numero equivocado, yo no tengo perro",
];

const NEITHER = [
  "We will stop by tomorrow",
  "Can I stop in at 5?",
  "Please don't stop the reminders",
  "Don't stop what you are doing, it is great",
  "The bus stop outside is closed, where do I park?",
  "Could you stop the bleeding?",
  "Has the vomiting stopped?",
  "He won't stop scratching",
  "Please cancel my appointment on Friday",
  "Can you remove my stitches on Monday?",
  "remove the second booking please",
  "Take me off the waiting list for Tuesday, I found another slot",
  "Can you text me the address?",
  "Please text me tomorrow",
  "I got your message, thanks",
  "No more pain, thank you!",
  "Enough said, brilliant service",
  "I don't want another appointment this week",
  "I want to stop the medication, is that ok?",
  "leave the key with Maud",
  "Please email me instead of texting",
  "use my other number, stop texting this one: 07700 900123 is my new number",
  "End of the day suits us",
  "quit smoking and my cough is better",
  "I never got a text from you",
  "Don't message the school, I will",
  "delete the photo please",
  "I need to cancel",
  "Start at 9?",
  "thanks",
  "yes",
  "5",
  "No",
  "Nie chcę teraz, może w czwartek",
  "nie dzwońcie przed 10, śpimy",
  "No quiero cita el lunes",
  "para el martes está bien",
  "El perro no quiere parar de rascarse",
  "Je ne veux plus de rendez-vous le matin",
  "arrêt de bus devant chez vous ?",
  "Ich möchte keinen Termin mehr am Montag",
  "Keine Ahnung, fragen Sie meine Frau",
  "Não quero marcar para segunda",
  "para segunda está ótimo",
  "Stop! I found the invoice, all good",
  "Alto precio, pero bien",
];

describe("somebody who wants no more messages", () => {
  test.each(Object.entries(SURE).flatMap(([language, texts]) => texts.map((text) => [text, language])))(
    "“%s” is sure",
    (text) => expect(readKeyword(text)?.keyword).toBe("stop"),
  );

  test.each(LIKELY)("“%s” is likely, and for a person to decide", (text) => {
    expect(readKeyword(text)).toBeNull();
    expect(readStopWish(text)).toEqual({ sure: false });
  });

  test.each(NEITHER)("“%s” is a message like any other", (text) => {
    expect(readKeyword(text)).toBeNull();
    expect(readStopWish(text)?.sure ?? false).toBe(false);
  });

  test("it is read in linear time, whatever it says", () => {
    const word = fc.constantFrom(
      "stop",
      "more",
      "any",
      "texts",
      "my",
      "number",
      "no",
      "me",
      "from",
      "your",
      "mas",
      "plus",
      "nie",
      "de",
      "sie",
    );
    fc.assert(
      fc.property(fc.array(word, { maxLength: 400 }), (words) => void readStopWish(words.join(" "))),
      { numRuns: runs(2000) },
    );
    for (const text of ["any more ".repeat(200), "stop ".repeat(400), "from your ".repeat(200), "\n--".repeat(500)])
      readStopWish(text);
  });
});
