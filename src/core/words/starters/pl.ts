import type { StarterWords } from "../pieces";

const STOP = "Odpisz STOP, aby nic więcej nie dostawać.";

export const PL: StarterWords = {
  messages: {
    "first.appointment": {
      text: `Dzień dobry {first name|}, jak przebiegła wizyta {about|} w {business}? Wystarczy jedno dotknięcie: {link} ${STOP}`,
      subject: "Jak było w {business}?",
      email:
        "Dzień dobry {first name|},\n\ndziękujemy za wizytę w {business}, {branch}. Jak przebiegła wizyta {about|}?\n\n{link}\n\nWystarczy jedno dotknięcie, a czytamy każdą odpowiedź.\n\n{team member|Zespół}, {business}",
    },
    "first.job": {
      text: `Dzień dobry {first name|}, wczoraj byliśmy u Państwa. Czy wszystko jest tak, jak miało być? {business}: {link} ${STOP}`,
      subject: "Czy wszystko jest tak, jak miało być?",
      email:
        "Dzień dobry {first name|},\n\nwczoraj był u Państwa ktoś z nas: {team member|nasz zespół}. Czy wszystko jest tak, jak miało być?\n\n{link}\n\nWystarczy jedno dotknięcie. Jeśli coś jest nie tak, chcemy wiedzieć o tym pierwsi.\n\n{business}",
    },
    "first.order": {
      text: `Dzień dobry {first name|}, zamówienie z {business} powinno już być na miejscu. Czy jest takie, jak miało być? {link} ${STOP}`,
      subject: "Czy zamówienie jest takie, jak miało być?",
      email:
        "Dzień dobry {first name|},\n\nzamówienie z {business} powinno już być na miejscu. Czy jest takie, jak miało być?\n\n{link}\n\nWystarczy jedno dotknięcie. Jeśli czegoś brakuje albo coś jest uszkodzone, prosimy o znak, a to naprawimy.\n\n{business}",
    },
    "first.stay": {
      text: `Dzień dobry {first name|}, dziękujemy za pobyt w {business}. Jak było? {link} ${STOP}`,
      subject: "Jak minął pobyt w {business}?",
      email:
        "Dzień dobry {first name|},\n\ndziękujemy za pobyt u nas. Jak było, od przyjazdu do wyjazdu?\n\n{link}\n\nWystarczy jedno dotknięcie, a czytamy każdą odpowiedź.\n\n{business}",
    },
    "first.lessons": {
      text: `Dzień dobry {first name|}, jak idą lekcje {about|} w {business}? Wystarczy jedno dotknięcie: {link} ${STOP}`,
      subject: "Jak idą lekcje {about|}?",
      email:
        "Dzień dobry {first name|},\n\njak idą lekcje {about|}? {team member|Nasz zespół} chętnie się dowie:\n\n{link}\n\nWystarczy jedno dotknięcie, a pomaga nam to lepiej uczyć.\n\n{business}",
    },
    "first.invoice": {
      text: `Dzień dobry {first name|}, dziękujemy, {business}. Jak przebiegła wizyta {about|}? {link} ${STOP}`,
      subject: "Dziękujemy, {business}",
      email:
        "Dzień dobry {first name|},\n\ndziękujemy, płatność dotarła. Jak przebiegła wizyta {about|}?\n\n{link}\n\n{team member|Zespół}, {business}",
    },
    second: {
      text: `Dzień dobry {first name|}, w {business} nadal chcemy wiedzieć, jak było: {link} ${STOP}`,
      subject: "{first name|Dzień dobry}, kilka słów o wizycie?",
      email:
        "Dzień dobry {first name|},\n\nkilka dni temu gościliśmy Państwa: {branch}. W wolnej chwili prosimy napisać, jak było, dobrze czy źle:\n\n{link}\n\nO tej wizycie nie napiszemy już więcej.\n\n{business}",
    },
    reawaken: {
      text: `Dzień dobry {first name|}, jakiś czas temu gościliśmy Państwa w {business}. Czy opowiedzą Państwo innym, jak było? {link} ${STOP}`,
      subject: "Czy pamiętają Państwo {business}?",
      email:
        "Dzień dobry {first name|},\n\nod wizyty w {business} minęło trochę czasu. Kilka słów od ludzi, którzy nas znają, pomaga innym bardziej niż wszystko, co sami powiemy:\n\n{link}\n\nPytamy o to tylko raz. Jeśli znów będziemy potrzebni, wystarczy odpisać na tę wiadomość.\n\n{business}",
    },
    "put-right": {
      text: `Dzień dobry {first name|}, tu {business}. Mamy nadzieję, że już jest dobrze. Czy tak? {link} ${STOP}`,
      subject: "Czy już jest dobrze?",
      email:
        "Dzień dobry {first name|},\n\nusłyszeliśmy, że coś poszło nie tak, i staraliśmy się to naprawić. Czy się udało?\n\n{link}\n\nPrzeczytamy każdą odpowiedź i nie będziemy o to więcej pytać.\n\n{business}",
    },
    feeling: {
      text: `Dzień dobry {first name|}, czy wizyta {about|} w {business} przebiegła dobrze? Tak: {good link} Nie bardzo: {bad link} ${STOP}`,
      subject: "Czy wszystko poszło dobrze w {business}?",
      email:
        "Dzień dobry {first name|},\n\nczy wizyta {about|} przebiegła dobrze?\n\n{good link}\n\n{bad link}\n\nWystarczy jedno dotknięcie.\n\n{team member|Zespół}, {business}",
    },
    review: {
      text: `Dzień dobry {first name|}, cieszymy się, że poszło dobrze. Czy powiedzą to Państwo innym w dwóch zdaniach? {link} ${STOP}`,
      subject: "Czy powiedzą to Państwo innym?",
      email:
        "Dzień dobry {first name|},\n\nwiemy już, że wizyta {about|} przebiegła dobrze. Dziękujemy. Czy powiedzą to Państwo także innym? Dwa zdania pomagają wybrać:\n\n{link}\n\n{business}",
    },
    "review.second": {
      text: `Dzień dobry {first name|}, w wolnej chwili: dwa zdania o {business} pomogą innym wybrać. {link} ${STOP}`,
      subject: "Dwa zdania o {business}?",
      email:
        "Dzień dobry {first name|},\n\nw wolnej chwili prosimy o dwa zdania o {business}, które pomogą innym wybrać:\n\n{link}\n\nNie napiszemy o tym już więcej.\n\n{business}",
    },
  },
  page: {
    "question.appointment": "Jak przebiegła wizyta {about|}?",
    "question.job": "Jak przebiegła praca {about|}?",
    "question.order": "Jak oceniają Państwo zamówienie {about|}?",
    "question.stay": "Jak minął pobyt {about|}?",
    "question.lessons": "Jak poszła lekcja {about|}?",
    "question.member": "Jak było u nas? {team member|}",
    "two.appointment": "Czy wizyta {about|} przebiegła dobrze?",
    "two.job": "Czy praca {about|} przebiegła dobrze?",
    "two.order": "Czy z zamówieniem {about|} wszystko dobrze?",
    "two.stay": "Czy pobyt {about|} był udany?",
    "two.lessons": "Czy lekcja {about|} poszła dobrze?",
    "two.member": "Czy wszystko poszło dobrze? {team member|}",
    below: "Wystarczy jedno dotknięcie, {first name|}. Potem można dodać kilka słów.",
    happy: "Bardzo nas to cieszy.",
    "happy.invite": "Dwa zdania pomagają innym wybrać.",
    "happy.prompt": "Czy jest coś, co wolą Państwo powiedzieć tylko nam?",
    unhappy: "Przykro nam, że nie było lepiej.",
    "unhappy.prompt": "Co powinniśmy naprawić?",
    "thanks.happy": "Dziękujemy za te słowa.",
    "thanks.unhappy": "Dziękujemy za tę wiadomość. Zajmiemy się tym.",
    "thanks.site": "Dziękujemy, to bardzo nam pomaga.",
    "thanks.later": "Dziękujemy, miło to słyszeć.",
    "thanks.would": "Dziękujemy, zwłaszcza za polecenie.",
    "thanks.undecided": "Dziękujemy. Zastanowimy się, czego brakuje.",
    "thanks.wouldnot": "Dziękujemy za szczerość. Bierzemy to poważnie.",
    picture: "Dziękujemy, {first name|}!",
  },
};
