import type { Bank } from "./bank";

/** A draft in this language answers a review as a whole. */
export const POLISH: Bank = {
  greeting: {
    plain: { named: "Dzień dobry,", nameless: "Dzień dobry," },
    warm: { named: "Dzień dobry!", nameless: "Dzień dobry!" },
    formal: { named: "Szanowni Państwo,", nameless: "Szanowni Państwo," },
  },
  opening: {
    happy: {
      plain: [
        "dziękujemy za tę opinię.",
        "dziękujemy za poświęcony czas.",
        "bardzo nas to cieszy, dziękujemy.",
        "miło to czytać, dziękujemy.",
      ],
      warm: [
        "jak miło to czytać, bardzo dziękujemy!",
        "bardzo dziękujemy za te słowa.",
        "dziękujemy z całego serca.",
        "ogromnie nas to cieszy, dziękujemy.",
      ],
      formal: ["bardzo dziękujemy za miłe słowa.", "dziękujemy za opinię.", "z przyjemnością czytamy te słowa."],
    },
    mixed: {
      plain: [
        "dziękujemy za opis, jak było.",
        "dziękujemy za szczerą opinię.",
        "dziękujemy, taka opinia jest dla nas ważna.",
      ],
      warm: [
        "dziękujemy za tak szczerą opinię, bardzo nam pomaga.",
        "dziękujemy za otwarte słowa.",
        "dziękujemy, że napisali Państwo, jak było.",
      ],
      formal: ["dziękujemy za opinię.", "cenimy Państwa szczerość.", "dziękujemy za tak jasny opis."],
    },
    unhappy: {
      plain: [
        "przykro nam. Dziękujemy, że nam Państwo o tym piszą.",
        "przykro nam, że tak było.",
        "dziękujemy za szczerość. Przykro nam.",
      ],
      warm: [
        "naprawdę nam przykro. Dziękujemy, że nam Państwo o tym napisali.",
        "trudno to czytać i bardzo nam przykro.",
        "żałujemy, że zawiedliśmy.",
      ],
      formal: [
        "prosimy o przyjęcie przeprosin.",
        "bardzo nam przykro, że tak to wyglądało.",
        "przepraszamy i dziękujemy za zgłoszenie.",
      ],
    },
  },
  closing: {
    happy: {
      plain: ["Wszystkiego dobrego.", "Jeszcze raz dziękujemy.", "Pozdrawiamy."],
      warm: ["To dla nas dużo znaczy.", "Serdecznie pozdrawiamy.", "Jeszcze raz bardzo dziękujemy."],
      formal: ["Z wyrazami szacunku.", "Z przyjemnością znowu Państwa powitamy.", "Jeszcze raz dziękujemy."],
    },
    mixed: {
      plain: [
        "Jeśli jest coś jeszcze, prosimy napisać lub zadzwonić.",
        "Prosimy o wiadomość, jeśli możemy coś zrobić.",
        "Chętnie dowiemy się więcej.",
      ],
      warm: [
        "Następnym razem chcemy zrobić to lepiej.",
        "Prosimy o kontakt, chętnie usłyszymy więcej.",
        "Chętnie o tym porozmawiamy.",
      ],
      formal: ["Prosimy o kontakt.", "Chętnie dowiemy się więcej.", "Chcielibyśmy następnym razem zrobić to lepiej."],
    },
    unhappy: {
      plain: [
        "Prosimy o kontakt: chcemy to wspólnie sprawdzić.",
        "Prosimy napisać lub zadzwonić, żebyśmy mogli to naprawić.",
        "Chcielibyśmy o tym porozmawiać.",
      ],
      warm: [
        "Czy możemy spróbować to naprawić? Prosimy napisać lub zadzwonić.",
        "Prosimy o rozmowę, bardzo chcemy to naprawić.",
        "Prosimy napisać lub zadzwonić, chętnie porozmawiamy.",
      ],
      formal: [
        "Będziemy wdzięczni za kontakt.",
        "Prosimy o kontakt bezpośrednio z nami.",
        "Chętnie porozmawiamy osobiście.",
      ],
    },
  },
  apologises: /przykro|przepra|żałujemy/i,
  sober: {
    happy: [
      "dziękujemy za poświęcony czas. Jesteśmy z Państwem myślami.",
      "dziękujemy, że zechcieli Państwo o tym napisać. Myślimy o Państwu.",
      "dziękujemy za tę opinię. Życzymy Państwu dużo siły.",
    ],
    unhappy: [
      "dziękujemy, że nam Państwo o tym mówią. Bardzo nam przykro i jesteśmy z Państwem myślami.",
      "bardzo nam przykro to czytać. Prosimy o kontakt, kiedy tylko będą Państwo chcieli.",
      "dziękujemy za wiadomość. Bardzo nam przykro z powodu tego, co Państwo przeżywają.",
    ],
  },
  wordless: {
    happy: [
      "dziękujemy za ocenę, bardzo nam miło.",
      "dziękujemy, bardzo się cieszymy.",
      "dziękujemy, że polecają nas Państwo innym.",
    ],
    mixed: [
      "dziękujemy za ocenę. Co mogłoby być lepsze?",
      "dziękujemy. Prosimy napisać, czego brakowało.",
      "dziękujemy za ocenę. Kilka słów by nam pomogło.",
    ],
    unhappy: [
      "przykro nam. Prosimy napisać, co poszło źle.",
      "bardzo nam przykro. Prosimy napisać lub zadzwonić.",
      "nie tak powinno być i jest nam przykro.",
    ],
  },
  themes: null,
};
