import type { Polarity, Theme } from "@/core/themes/themes";

/**
 * The set by which reading for themes is measured. Its sentences share no template with what the townsfolk say, and
 * were written before any rule was: what is learnt from here would measure nothing.
 */

type Sayings = Record<Theme, Record<Polarity, readonly string[]>>;

export const ENGLISH: Sayings = {
  waiting: {
    happy: [
      "I was called through before I had even taken my coat off",
      "they took us straight in",
      "no hanging around at all",
      "he turned up bang on nine as promised",
      "in and out within half an hour",
      "the engineer arrived earlier than the slot I was given",
      "hardly any queue even on a Saturday",
      "everything ran to schedule",
    ],
    unhappy: [
      "we sat there for ages before anyone saw us",
      "the appointment started forty minutes late",
      "I lost the whole morning in the waiting area",
      "he was supposed to come between eight and ten and showed up at two",
      "nobody apologised for the delay",
      "it was not quick by any stretch",
      "they always run behind",
      "an hour and a quarter in that room with a sick animal is too much",
    ],
  },
  price: {
    happy: [
      "good value for what you get",
      "it came to exactly what I had been quoted",
      "cheaper than the last two places I tried",
      "very fair charges",
      "there were no surprises when it came to paying",
      "worth every penny",
      "the invoice matched the figure he gave me on the phone",
      "reasonably priced",
    ],
    unhappy: [
      "the final invoice was far higher than what I was told",
      "way too dear for ten minutes of work",
      "they charged me for things I never agreed to",
      "daylight robbery",
      "the fees have gone up again",
      "I did not expect to pay that much",
      "not exactly cheap",
      "two hundred pounds and nothing to show for it is overpriced",
    ],
  },
  explanation: {
    happy: [
      "she walked me through each option",
      "he answered all my questions without jargon",
      "I finally understand what is wrong",
      "they drew me a little picture of how it works",
      "everything was made clear before we started",
      "very informative",
      "he told me what he was doing as he went along",
      "she took the trouble to show me the x-rays and say what they meant",
    ],
    unhappy: [
      "nobody told me what the treatment was for",
      "I left with more questions than answers",
      "he just mumbled something technical",
      "they never explained why it had to be replaced",
      "I was given no information about the side effects",
      "it was not made clear to us what would happen next",
      "she talked over my head",
      "I am still none the wiser about what they did",
    ],
  },
  kindness: {
    happy: [
      "the lady at reception could not have been nicer",
      "such a friendly bunch",
      "they were gentle with my nervous boy",
      "everyone made us feel welcome",
      "polite from start to finish",
      "the team showed real compassion when we had to say goodbye",
      "he was patient with my mother who is hard of hearing",
      "lovely people",
    ],
    unhappy: [
      "the man on the desk was rude",
      "I was spoken to like a child",
      "she rolled her eyes when I asked",
      "the staff could not care less",
      "he was short with me on the phone",
      "not a smile from anybody",
      "quite an unfriendly reception",
      "they were anything but welcoming",
    ],
  },
  result: {
    happy: [
      "the boiler has worked perfectly ever since",
      "my dog is back to his old self",
      "the piano has never sounded better",
      "it fixed the problem straight away",
      "I passed on my first attempt",
      "very pleased with how it turned out",
      "the pain is completely gone",
      "a first class job",
    ],
    unhappy: [
      "it broke again after two days",
      "the leak is still there",
      "it made no difference whatsoever",
      "she is worse than before",
      "a botched repair",
      "the noise has not gone away",
      "I had to get somebody else in to finish the work",
      "the finish looks shoddy",
    ],
  },
  booking: {
    happy: [
      "I got an appointment for the very next day",
      "booking online took seconds",
      "they picked up on the second ring",
      "easy to get hold of",
      "they fitted me in at short notice",
      "rescheduling was no trouble",
      "the reminder the day before was handy",
      "they were flexible about the date",
    ],
    unhappy: [
      "it is impossible to get through on the phone",
      "they cancelled on me at the last minute",
      "the next free slot was three weeks away",
      "my booking had vanished from their system",
      "I kept getting the answering machine",
      "nobody replied to my emails",
      "they double booked us",
      "the online form would not let me choose a time",
    ],
  },
  cleanliness: {
    happy: [
      "the place is spotless",
      "he put down dust sheets and left no mess",
      "it smelled fresh",
      "they tidied up after themselves",
      "a bright and clean room",
      "you could eat off the floor",
      "he even hoovered before he went",
      "everything was hygienic",
    ],
    unhappy: [
      "there was hair and dirt everywhere",
      "the toilet was filthy",
      "he left soot all over the carpet",
      "the waiting room smelled awful",
      "it was not very clean in there",
      "sticky tables",
      "they did not clean up after the job",
      "the floor could have done with a mop",
    ],
  },
  access: {
    happy: [
      "plenty of parking right outside",
      "easy to find",
      "there is a ramp for my wheelchair",
      "two minutes from the bus stop",
      "I could park in front of the door",
      "well signposted",
      "the lift made it simple with the pram",
      "handy location",
    ],
    unhappy: [
      "nowhere to park",
      "I circled the block for twenty minutes looking for a space",
      "steep stairs and no lift",
      "the entrance is hard to find",
      "the car park is tiny and always full",
      "I could not get the pushchair through the door",
      "no disabled access",
      "got a parking ticket while I was inside",
    ],
  },
  "follow-up": {
    happy: [
      "they phoned the day after to check on her",
      "he came back to make sure it was still working",
      "I had a message a week later asking how things were",
      "the aftercare has been superb",
      "she emailed me the results as promised",
      "they kept in touch throughout the recovery",
      "he called in again at no cost to look it over",
      "the nurse rang twice to see how we were getting on",
    ],
    unhappy: [
      "nobody ever called me back with the results",
      "I heard nothing more after I paid",
      "they promised to ring and did not",
      "no aftercare to speak of",
      "I had to chase them for a week",
      "he said he would come back to finish and never did",
      "still waiting for the report they said they would send",
      "once the money was taken they lost interest",
    ],
  },
  damage: {
    happy: [
      "not a scratch on the paintwork",
      "they were careful with the furniture",
      "everything came back in one piece",
      "he protected the floor and nothing got damaged",
      "when they chipped a tile they replaced it the same day",
      "my parcel was well wrapped and arrived intact",
    ],
    unhappy: [
      "they scratched my hallway floor",
      "my jacket came back with a hole in it",
      "he cracked the window frame and said nothing",
      "they lost my keys",
      "the lamp was broken when they left",
      "a dent in the car door that was not there before",
      "they ruined the rug",
      "our collar went missing",
    ],
  },
  thoroughness: {
    happy: [
      "he checked every last thing",
      "nothing was too much trouble and no corner was cut",
      "she took her time with us",
      "a very detailed inspection",
      "I never felt hurried",
      "meticulous work",
      "they went over it twice to be sure",
      "she examined him from nose to tail",
    ],
    unhappy: [
      "I was in and out in three minutes and he barely looked at it",
      "a rushed job",
      "they skipped half of what was on the list",
      "he did not even open the panel",
      "it felt like a conveyor belt",
      "slapdash",
      "she hardly examined him",
      "they missed the obvious crack",
    ],
  },
  honesty: {
    happy: [
      "he told me I did not need a new one",
      "no attempt to sell me extras",
      "they were straight with us about the chances",
      "an honest firm",
      "she advised against the expensive treatment",
      "you can trust these people",
      "he owned up to his mistake at once",
      "upfront about everything",
    ],
    unhappy: [
      "they tried to push a plan on me",
      "I was lied to about the parts",
      "they talked me into something I never needed",
      "it felt like a sales pitch",
      "he made up faults that another mechanic could not find",
      "they were not truthful about what had happened",
      "pressure to buy the premium package",
      "a con",
    ],
  },
};

/** Says nothing of any theme. */
export const ENGLISH_ASIDES: readonly string[] = [
  "this was our second time",
  "my sister told me about them",
  "I came here on a Tuesday",
  "we have lived in the area for years",
  "it was about our old cat",
  "I am writing this from my phone",
  "they have three branches",
  "I had never been before",
];

/** Whole texts that try what is easily read wrongly, with what they say. */
export const ENGLISH_HARD: readonly { text: string; says: readonly [Theme, Polarity][] }[] = [
  {
    text: "Kind, but slow.",
    says: [
      ["kindness", "happy"],
      ["waiting", "unhappy"],
    ],
  },
  {
    text: "Not at all expensive, and not at all rushed.",
    says: [
      ["price", "happy"],
      ["thoroughness", "happy"],
    ],
  },
  { text: "I expected a long wait. There was none.", says: [["waiting", "happy"]] },
  { text: "The staff were never rude to me.", says: [["kindness", "happy"]] },
  {
    text: "Although the parking is dreadful, the vet is wonderful.",
    says: [
      ["access", "unhappy"],
      ["kindness", "happy"],
    ],
  },
  {
    text: "Friendly enough, yet nobody explained a thing.",
    says: [
      ["kindness", "happy"],
      ["explanation", "unhappy"],
    ],
  },
  { text: "I can't complain about the price.", says: [["price", "happy"]] },
  { text: "They didn't leave any mess.", says: [["cleanliness", "happy"]] },
  { text: "No problem getting an appointment.", says: [["booking", "happy"]] },
  { text: "It wasn't cheap but it was worth it.", says: [["price", "happy"]] },
  {
    text: "Couldn't fault the work, only wish they had called me back.",
    says: [
      ["result", "happy"],
      ["follow-up", "unhappy"],
    ],
  },
  { text: "Never again.", says: [] },
  { text: "Good.", says: [] },
  { text: "👍👍", says: [] },
];

export const SPANISH: Sayings = {
  waiting: {
    happy: [
      "nos atendieron enseguida",
      "llegó puntual",
      "sin esperas",
      "no tuvimos que hacer cola",
      "entramos a la hora exacta",
    ],
    unhappy: [
      "estuvimos más de una hora en la sala de espera",
      "llegó con mucho retraso",
      "nos hicieron esperar muchísimo",
      "siempre van tarde",
      "nadie se disculpó por la demora",
    ],
  },
  price: {
    happy: [
      "buena relación calidad-precio",
      "me cobraron justo lo que decía el presupuesto",
      "precios razonables",
      "nada caro",
      "vale cada euro",
    ],
    unhappy: [
      "es carísimo",
      "la factura fue el doble de lo acordado",
      "me cobraron cosas que no pedí",
      "han subido las tarifas otra vez",
      "un abuso de precio",
    ],
  },
  explanation: {
    happy: [
      "me aclararon todas las dudas",
      "nos lo contó todo con detalle",
      "me explicó cada paso",
      "hablan claro",
      "entendí por fin qué pasaba",
    ],
    unhappy: [
      "nadie me dijo para qué era el tratamiento",
      "salí con más dudas que antes",
      "no explican nada",
      "no me dieron ninguna información",
      "no quedó claro qué habían hecho",
    ],
  },
  kindness: {
    happy: [
      "un trato exquisito",
      "la recepcionista es encantadora",
      "muy amables todos",
      "tuvieron mucha paciencia con mi madre",
      "gente maja",
    ],
    unhappy: [
      "el chico del mostrador fue un maleducado",
      "nos trataron fatal",
      "me hablaron de malas maneras",
      "ni una sonrisa",
      "muy bordes por teléfono",
    ],
  },
  result: {
    happy: [
      "desde entonces funciona perfectamente",
      "quedó como nuevo",
      "mi perra está recuperada",
      "aprobé a la primera",
      "un trabajo impecable",
    ],
    unhappy: [
      "se volvió a estropear a los dos días",
      "sigue goteando",
      "no sirvió de nada",
      "está peor que antes",
      "una chapuza",
    ],
  },
  booking: {
    happy: [
      "me dieron cita para el día siguiente",
      "es fácil reservar por internet",
      "cogen el teléfono a la primera",
      "me cambiaron la hora sin problema",
      "nos hicieron un hueco",
    ],
    unhappy: [
      "no hay manera de que cojan el teléfono",
      "me anularon la cita a última hora",
      "no contestan los correos",
      "habían perdido mi reserva",
      "no dan hora hasta dentro de un mes",
    ],
  },
  cleanliness: {
    happy: ["todo reluciente", "lo dejaron todo recogido", "un local muy limpio", "olía bien", "muy higiénico"],
    unhappy: [
      "el baño daba asco",
      "lo dejaron todo lleno de polvo",
      "había suciedad por todas partes",
      "olía fatal",
      "poco limpio",
    ],
  },
  access: {
    happy: [
      "se aparca bien",
      "fácil de encontrar",
      "hay rampa para sillas de ruedas",
      "muy bien comunicado",
      "con aparcamiento propio",
    ],
    unhappy: [
      "imposible aparcar",
      "no hay ascensor",
      "cuesta encontrar la entrada",
      "el aparcamiento siempre está lleno",
      "demasiadas escaleras",
    ],
  },
  "follow-up": {
    happy: [
      "llamaron al día siguiente para ver cómo estaba",
      "me escribieron a la semana para preguntar",
      "volvió para comprobar que todo iba bien",
      "un seguimiento estupendo",
      "me enviaron los resultados como prometieron",
    ],
    unhappy: [
      "nunca me devolvieron la llamada",
      "después de pagar no supe más de ellos",
      "prometieron llamar y no llamaron",
      "sigo esperando el informe",
      "tuve que perseguirlos una semana",
    ],
  },
  damage: {
    happy: ["no rompieron nada", "cuidaron mucho los muebles", "llegó todo intacto", "ni un rasguño"],
    unhappy: [
      "me rayaron el suelo",
      "perdieron mis llaves",
      "rompieron un azulejo",
      "la chaqueta volvió con un agujero",
      "me estropearon la alfombra",
    ],
  },
  thoroughness: {
    happy: ["lo revisó todo a fondo", "se tomó su tiempo", "muy minuciosos", "sin prisas", "cuidan cada detalle"],
    unhappy: [
      "ni siquiera lo miró",
      "con prisas",
      "se dejaron la mitad por hacer",
      "un trabajo descuidado",
      "en dos minutos estábamos fuera",
    ],
  },
  honesty: {
    happy: [
      "me dijo que no hacía falta cambiarlo",
      "gente honrada",
      "no intentaron venderme nada",
      "fueron sinceros con nosotros",
      "de total confianza",
    ],
    unhappy: [
      "me mintieron",
      "quisieron venderme un seguro que no necesitaba",
      "un timo",
      "se inventaron una avería",
      "te presionan para que compres",
    ],
  },
};

export const SPANISH_ASIDES: readonly string[] = [
  "fuimos un martes",
  "me lo recomendó mi hermana",
  "era nuestra segunda vez",
  "vivimos cerca",
  "tienen tres locales",
];

export const SPANISH_HARD: readonly { text: string; says: readonly [Theme, Polarity][] }[] = [
  {
    text: "Amables, pero lentos.",
    says: [
      ["kindness", "happy"],
      ["waiting", "unhappy"],
    ],
  },
  {
    text: "Aunque es imposible aparcar, el veterinario explica muy bien.",
    says: [
      ["access", "unhappy"],
      ["explanation", "happy"],
    ],
  },
  {
    text: "No es barato, pero el trabajo es perfecto.",
    says: [
      ["price", "unhappy"],
      ["result", "happy"],
    ],
  },
  { text: "Bien.", says: [] },
];
