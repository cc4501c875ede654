import type { StarterWords } from "../pieces";

const STOP = "Rezygnacja: STOP w odpowiedzi.";

export const PL: StarterWords = {
  messages: {
    "first.appointment": {
      text: `Dzień dobry, tu {business}. Jak minęła wizyta {about|}? Jedno kliknięcie: {link} ${STOP}`,
      subject: "Jak minęła wizyta w firmie {business}?",
      email:
        "Dzień dobry,\n\ndziękujemy za wizytę w firmie {business} ({branch|}). Jak minęła wizyta {about|}?\n\n{link}\n\nWystarczy jedno kliknięcie. Czytamy każdą odpowiedź.\n\n{team member|Zespół}, {business}",
    },
    "first.job": {
      text: `Dzień dobry, tu {business}. Wczoraj byliśmy u Państwa. Czy wszystko w porządku? {link} ${STOP}`,
      subject: "Czy wszystko jest w porządku?",
      email:
        "Dzień dobry,\n\nwczoraj byliśmy u Państwa ({team member|nasz zespół}). Czy wszystko jest w porządku?\n\n{link}\n\nWystarczy jedno kliknięcie. Jeśli coś jest nie tak, chcemy o tym wiedzieć.\n\n{business}",
    },
    "first.order": {
      text: `Dzień dobry, tu {business}. Czy zamówienie dotarło i spełnia oczekiwania? {link} ${STOP}`,
      subject: "Czy zamówienie spełnia oczekiwania?",
      email:
        "Dzień dobry,\n\nPaństwa zamówienie z firmy {business} powinno już być na miejscu. Czy spełnia oczekiwania?\n\n{link}\n\nWystarczy jedno kliknięcie. Jeśli czegoś brakuje albo coś jest uszkodzone, prosimy dać znać, a to naprawimy.\n\n{business}",
    },
    "first.stay": {
      text: `Dzień dobry, tu {business}. Dziękujemy za pobyt u nas. Jak było? {link} ${STOP}`,
      subject: "Jak minął pobyt w obiekcie {business}?",
      email:
        "Dzień dobry,\n\ndziękujemy za pobyt u nas. Jak było, od początku do końca?\n\n{link}\n\nWystarczy jedno kliknięcie. Czytamy każdą odpowiedź.\n\n{business}",
    },
    "first.lessons": {
      text: `Dzień dobry, tu {business}. Jak idą lekcje {about|}? Jedno kliknięcie: {link} ${STOP}`,
      subject: "Jak idą lekcje {about|}?",
      email:
        "Dzień dobry,\n\njak idą lekcje {about|}? {team member|Nasz zespół} chętnie się dowie:\n\n{link}\n\nWystarczy jedno kliknięcie, a nam pomaga to lepiej uczyć.\n\n{business}",
    },
    "first.invoice": {
      text: `Dzień dobry, tu {business}. Dziękujemy za płatność. Jak minęła wizyta {about|}? {link} ${STOP}`,
      subject: "{business} dziękuje",
      email:
        "Dzień dobry,\n\ndziękujemy, płatność dotarła. Jak minęła wizyta {about|}?\n\n{link}\n\n{team member|Zespół}, {business}",
    },
    second: {
      text: `Dzień dobry, tu {business}. Nadal chętnie się dowiemy, jak było: {link} ${STOP}`,
      subject: "Kilka słów o wizycie w firmie {business}?",
      email:
        "Dzień dobry,\n\nkilka dni temu gościliśmy Państwa u nas ({branch|}). W wolnej chwili prosimy napisać, jak było, dobrze czy źle:\n\n{link}\n\nO tę wizytę nie będziemy już pytać.\n\n{business}",
    },
    reawaken: {
      text: `Dzień dobry, tu {business}. Jakiś czas temu gościliśmy Państwa. Czy powiedzą Państwo innym, jak było? {link} ${STOP}`,
      subject: "Czy pamiętają Państwo firmę {business}?",
      email:
        "Dzień dobry,\n\nod wizyty w firmie {business} minęło trochę czasu. Kilka słów od osób, które nas znają, pomaga innym bardziej niż wszystko, co sami powiemy:\n\n{link}\n\nPytamy o to tylko raz. Jeśli znów będziemy potrzebni, wystarczy odpisać na tę wiadomość.\n\n{business}",
    },
    "put-right": {
      text: `Dzień dobry, tu {business}. Mamy nadzieję, że już wszystko w porządku. Czy tak jest? {link} ${STOP}`,
      subject: "Czy już wszystko w porządku?",
      email:
        "Dzień dobry,\n\ndali nam Państwo znać, że coś poszło nie tak, i staraliśmy się to naprawić. Czy się udało?\n\n{link}\n\nCzytamy każdą odpowiedź i nie będziemy o to więcej pytać.\n\n{business}",
    },
    feeling: {
      text: `Dzień dobry, tu {business}. Czy wizyta {about|} była udana? Tak: {good link} Nie bardzo: {bad link} ${STOP}`,
      subject: "Czy wizyta w firmie {business} była udana?",
      email:
        "Dzień dobry,\n\nczy wizyta {about|} była udana?\n\n{good link}\n\n{bad link}\n\nWystarczy jedno kliknięcie.\n\n{team member|Zespół}, {business}",
    },
    review: {
      text: `Dzień dobry, cieszymy się, że poszło dobrze. Czy powiedzą to Państwo innym w dwóch zdaniach? {link} ${STOP}`,
      subject: "Czy podzielą się Państwo tym z innymi?",
      email:
        "Dzień dobry,\n\ndziękujemy za wiadomość, że wizyta {about|} była udana. Czy podzielą się Państwo tym także z innymi? Dwa zdania pomagają wybrać:\n\n{link}\n\n{business}",
    },
    "review.second": {
      text: `Dzień dobry, tu {business}. W wolnej chwili prosimy o dwa zdania, pomogą innym wybrać: {link} ${STOP}`,
      subject: "Dwa zdania o firmie {business}?",
      email:
        "Dzień dobry,\n\nw wolnej chwili prosimy o dwa zdania o firmie {business}, które pomogą innym wybrać:\n\n{link}\n\nNie napiszemy o tym już więcej.\n\n{business}",
    },
  },
  page: {
    "question.appointment": "Jak minęła wizyta {about|}?",
    "question.job": "Jak oceniają Państwo naszą pracę {about|}?",
    "question.order": "Jak oceniają Państwo zamówienie {about|}?",
    "question.stay": "Jak minął pobyt {about|}?",
    "question.lessons": "Jak minęła lekcja {about|}?",
    "question.member": "Jak było u nas ({team member|nasz zespół})?",
    "two.appointment": "Czy wizyta {about|} była udana?",
    "two.job": "Czy nasza praca {about|} spełniła oczekiwania?",
    "two.order": "Czy z zamówieniem {about|} wszystko w porządku?",
    "two.stay": "Czy pobyt {about|} był udany?",
    "two.lessons": "Czy lekcja {about|} była udana?",
    "two.member": "Czy wszystko poszło dobrze ({team member|nasz zespół})?",
    below: "Wystarczy jedno kliknięcie. Potem można dodać komentarz.",
    happy: "Bardzo nas to cieszy.",
    "happy.invite": "Dwa zdania pomagają innym wybrać.",
    "happy.prompt": "Czy jest coś, co wolą Państwo powiedzieć tylko nam?",
    unhappy: "Przykro nam, że nie było lepiej.",
    "unhappy.prompt": "Co możemy naprawić?",
    "thanks.happy": "Dziękujemy za komentarz.",
    "thanks.unhappy": "Dziękujemy za tę wiadomość. Sprawdzimy, co się stało.",
    "thanks.site": "Dziękujemy, to bardzo nam pomaga.",
    "thanks.later": "Dziękujemy, miło to słyszeć.",
    "thanks.would": "Dziękujemy, zwłaszcza za polecenie.",
    "thanks.undecided": "Dziękujemy. Zastanowimy się, co możemy poprawić.",
    "thanks.wouldnot": "Dziękujemy za szczerość. Bierzemy to poważnie.",
    picture: "{first name|Dzień dobry}, dziękujemy",
  },
};
