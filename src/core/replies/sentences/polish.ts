import type { Bank } from "./bank";

/** A draft in this language answers a review as a whole. */
export const POLISH: Bank = {
  greeting: {
    plain: { named: "Dzień dobry, {name},", nameless: "Dzień dobry," },
    warm: { named: "Dzień dobry, {name}!", nameless: "Dzień dobry!" },
    formal: { named: "Dzień dobry, {name},", nameless: "Szanowni Państwo," },
  },
  opening: {
    happy: {
      plain: [
        "dziękujemy za te słowa.",
        "dziękujemy za poświęcony czas.",
        "cieszymy się, dziękujemy.",
        "dobrze to czytać, dziękujemy.",
      ],
      warm: [
        "jak miło to czytać, bardzo dziękujemy!",
        "to nam poprawiło dzień, dziękujemy.",
        "dziękujemy z całego serca.",
        "dziękujemy, wszyscy się tu uśmiechają.",
      ],
      formal: ["bardzo dziękujemy za miłe słowa.", "dziękujemy za opinię.", "z przyjemnością czytamy te słowa."],
    },
    mixed: {
      plain: [
        "dziękujemy za obie strony.",
        "dziękujemy za jasne słowa.",
        "dziękujemy, to pomaga nam bardziej niż same pochwały.",
      ],
      warm: [
        "dziękujemy za tak szczerą opinię, bardzo nam pomaga.",
        "dziękujemy za dobre słowa, i tak samo za resztę.",
        "dziękujemy, że mówią nam Państwo wszystko.",
      ],
      formal: ["dziękujemy za wyważoną opinię.", "cenimy szczerość.", "dziękujemy za tak jasny opis."],
    },
    unhappy: {
      plain: [
        "przykro nam. Dziękujemy, że nam o tym mówisz.",
        "przykro nam, że tak było.",
        "dziękujemy za jasne słowa. Przykro nam.",
      ],
      warm: [
        "naprawdę nam przykro, i dziękujemy za te słowa.",
        "trudno to czytać, i bardzo nam przykro.",
        "żałujemy, że zawiedliśmy.",
      ],
      formal: [
        "prosimy o przyjęcie przeprosin.",
        "bardzo żałujemy tego doświadczenia.",
        "przepraszamy i dziękujemy za uwagę.",
      ],
    },
  },
  closing: {
    happy: {
      plain: ["Wszystkiego dobrego.", "Do następnego razu.", "Przekażemy dalej."],
      warm: ["Powiemy wszystkim tutaj.", "To dla nas dużo znaczy.", "Te słowa ucieszyły kilka osób."],
      formal: ["Przekażemy te słowa zespołowi.", "Z wyrazami szacunku.", "Z przyjemnością powitamy ponownie."],
    },
    mixed: {
      plain: [
        "Będziemy nad tym pracować.",
        "Bierzemy to do serca.",
        "Prosimy napisać lub zadzwonić, jeśli jest coś więcej.",
      ],
      warm: [
        "Chcielibyśmy zrobić to lepiej.",
        "Prosimy o kontakt, chętnie usłyszymy więcej.",
        "Już o tym tu rozmawialiśmy.",
      ],
      formal: ["Omówimy te uwagi z zespołem.", "Prosimy o kontakt.", "Traktujemy te uwagi poważnie."],
    },
    unhappy: {
      plain: [
        "Prosimy o kontakt: chcemy to wspólnie sprawdzić.",
        "Prosimy napisać lub zadzwonić, żebyśmy mogli to naprawić.",
        "Chcielibyśmy o tym porozmawiać.",
      ],
      warm: [
        "Czy możemy to naprawić? Prosimy napisać lub zadzwonić.",
        "Prosimy o rozmowę, bardzo chcemy to naprawić.",
        "Poświęcimy tyle czasu, ile trzeba.",
      ],
      formal: [
        "Będziemy wdzięczni za kontakt.",
        "Prosimy zwrócić się bezpośrednio do nas.",
        "Chętnie porozmawiamy osobiście.",
      ],
    },
  },
  sober: {
    happy: [
      "dziękujemy za poświęcony czas. Jesteśmy z Państwem myślami.",
      "dziękujemy, że zechcieli Państwo o tym napisać. Myślimy o Państwu.",
      "dziękujemy za te słowa. Życzymy Państwu dużo siły.",
    ],
    unhappy: [
      "dziękujemy, że nam Państwo o tym mówią. Bardzo nam przykro i jesteśmy z Państwem myślami.",
      "bardzo nam przykro to czytać. Prosimy o kontakt, kiedy tylko będą Państwo chcieli.",
      "dziękujemy za wiadomość. Bardzo nam przykro z powodu tego, co Państwo przeżywają.",
    ],
  },
  wordless: {
    happy: [
      "dziękujemy za ocenę, dobrze to wiedzieć.",
      "dziękujemy, bardzo się cieszymy.",
      "dziękujemy za polecenie innym.",
    ],
    mixed: [
      "dziękujemy za ocenę. Co mogłoby być lepsze?",
      "dziękujemy. Prosimy napisać, czego brakowało.",
      "dziękujemy za odpowiedź. Kilka słów by nam pomogło.",
    ],
    unhappy: [
      "przykro nam. Prosimy napisać, co poszło źle.",
      "żałujemy. Prosimy napisać lub zadzwonić.",
      "nie tak powinno być, i przykro nam.",
    ],
  },
  themes: null,
};
