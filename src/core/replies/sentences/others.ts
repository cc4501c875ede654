import type { Bank } from "./bank";

/** Languages in which a draft answers a review as a whole. */

export const FRENCH: Bank = {
  greeting: {
    plain: { named: "Bonjour {name},", nameless: "Bonjour," },
    warm: { named: "Bonjour {name} !", nameless: "Bonjour !" },
    formal: { named: "Bonjour {name},", nameless: "Madame, Monsieur," },
  },
  opening: {
    happy: {
      plain: [
        "merci pour ces mots.",
        "merci d’avoir pris le temps d’écrire.",
        "cela nous fait plaisir, merci.",
        "merci, c’est bon à lire.",
      ],
      warm: [
        "quel plaisir de vous lire, merci !",
        "merci de tout cœur.",
        "vous avez éclairé notre journée, merci.",
        "merci, toute l’équipe sourit.",
      ],
      formal: [
        "nous vous remercions pour vos mots aimables.",
        "nous vous sommes reconnaissants de votre avis.",
        "c’est un plaisir de lire votre avis.",
      ],
    },
    mixed: {
      plain: [
        "merci de nous dire le bon et le moins bon.",
        "merci d’être aussi juste.",
        "merci, cela nous aide vraiment.",
      ],
      warm: [
        "merci pour un avis aussi sincère, il nous aide beaucoup.",
        "merci pour le bon, et autant pour le reste.",
        "merci de nous avoir tout dit.",
      ],
      formal: [
        "nous vous remercions de votre avis équilibré.",
        "nous apprécions votre franchise.",
        "merci d’avoir décrit si clairement ce qu’il en a été.",
      ],
    },
    unhappy: {
      plain: [
        "nous sommes désolés. Merci de nous l’avoir dit.",
        "nous regrettons que ce se soit passé ainsi.",
        "merci de le dire clairement. Nous sommes désolés.",
      ],
      warm: [
        "nous sommes sincèrement désolés, et reconnaissants que vous nous l’ayez dit.",
        "cela nous peine de vous lire, et nous sommes désolés.",
        "nous regrettons vraiment de ne pas avoir été à la hauteur.",
      ],
      formal: [
        "nous vous prions d’accepter nos excuses.",
        "nous regrettons vivement cette expérience.",
        "nous vous présentons nos excuses et vous remercions de nous alerter.",
      ],
    },
  },
  closing: {
    happy: {
      plain: ["À bientôt.", "Nous le transmettrons.", "Bien à vous."],
      warm: ["Nous le dirons à toute l’équipe.", "Cela compte beaucoup pour nous.", "Vous avez fait des heureux."],
      formal: [
        "Nous transmettrons vos mots à l’équipe.",
        "Avec nos salutations les meilleures.",
        "Nous serions heureux de vous accueillir à nouveau.",
      ],
    },
    mixed: {
      plain: [
        "Nous allons y travailler.",
        "Nous en prenons note.",
        "Si vous voulez en dire plus, écrivez-nous ou appelez-nous.",
      ],
      warm: [
        "Nous aimerions faire mieux la prochaine fois.",
        "Écrivez-nous, nous serions heureux d’en savoir plus.",
        "Nous en avons déjà parlé ici.",
      ],
      formal: [
        "Nous discuterons de vos remarques avec l’équipe.",
        "N’hésitez pas à nous contacter.",
        "Vos remarques seront prises au sérieux.",
      ],
    },
    unhappy: {
      plain: [
        "Contactez-nous, s’il vous plaît : nous voulons regarder cela avec vous.",
        "Écrivez-nous ou appelez-nous, pour que nous puissions y remédier.",
        "Nous aimerions en parler avec vous.",
      ],
      warm: [
        "Laissez-nous arranger cela : écrivez-nous ou appelez-nous.",
        "Parlez-nous, nous aimerions vraiment y remédier.",
        "Nous prendrons tout le temps qu’il faut.",
      ],
      formal: [
        "Nous vous saurions gré de nous contacter.",
        "Nous vous prions de vous adresser directement à nous.",
        "Nous souhaiterions en parler avec vous de vive voix.",
      ],
    },
  },
  wordless: {
    happy: ["merci pour cette note, cela fait plaisir.", "merci, nous en sommes ravis.", "merci de le faire savoir."],
    mixed: [
      "merci pour la note. Que pourrions-nous améliorer ?",
      "merci. Dites-nous ce qui a manqué, si vous voulez.",
      "merci d’avoir répondu. Un mot de plus nous aiderait.",
    ],
    unhappy: [
      "nous sommes désolés. Dites-nous ce qui n’a pas été, s’il vous plaît.",
      "nous le regrettons. Écrivez-nous ou appelez-nous.",
      "ce n’est pas ce que nous voulons, et nous le regrettons.",
    ],
  },
  themes: null,
};

export const GERMAN: Bank = {
  greeting: {
    plain: { named: "Guten Tag {name},", nameless: "Guten Tag," },
    warm: { named: "Hallo {name},", nameless: "Hallo," },
    formal: { named: "Guten Tag {name},", nameless: "Sehr geehrte Damen und Herren," },
  },
  opening: {
    happy: {
      plain: [
        "danke für diese Worte.",
        "danke, dass Sie sich die Zeit genommen haben.",
        "das freut uns, danke.",
        "schön zu lesen, danke.",
      ],
      warm: [
        "wie schön, das zu lesen, vielen Dank!",
        "das hat uns den Tag gemacht, danke.",
        "von Herzen danke.",
        "danke, hier freuen sich alle.",
      ],
      formal: [
        "wir danken Ihnen sehr für Ihre freundlichen Worte.",
        "haben Sie vielen Dank für Ihre Bewertung.",
        "es ist uns eine Freude, das zu lesen.",
      ],
    },
    mixed: {
      plain: [
        "danke, dass Sie beides nennen.",
        "danke für die klaren Worte.",
        "danke, das hilft uns mehr als Lob allein.",
      ],
      warm: [
        "danke für die offene Bewertung, sie hilft uns sehr.",
        "danke für das Gute, und ebenso für den Rest.",
        "danke, dass Sie uns alles gesagt haben.",
      ],
      formal: [
        "wir danken Ihnen für Ihre ausgewogene Bewertung.",
        "wir schätzen Ihre Offenheit.",
        "vielen Dank, dass Sie so klar beschreiben, wie es war.",
      ],
    },
    unhappy: {
      plain: [
        "das tut uns leid. Danke, dass Sie es uns sagen.",
        "es tut uns leid, dass es so war.",
        "danke für die deutlichen Worte. Es tut uns leid.",
      ],
      warm: [
        "das tut uns wirklich leid, und wir sind dankbar, dass Sie es sagen.",
        "das zu lesen schmerzt, und es tut uns sehr leid.",
        "wir bedauern sehr, dass wir Sie enttäuscht haben.",
      ],
      formal: [
        "wir bitten Sie um Entschuldigung.",
        "wir bedauern sehr, dass Sie diese Erfahrung gemacht haben.",
        "wir entschuldigen uns und danken Ihnen für den Hinweis.",
      ],
    },
  },
  closing: {
    happy: {
      plain: ["Alles Gute.", "Bis zum nächsten Mal.", "Wir geben es weiter."],
      warm: ["Wir sagen es allen hier.", "Das bedeutet uns viel.", "Sie haben einige Leute glücklich gemacht."],
      formal: [
        "Gern geben wir Ihre Worte an das Team weiter.",
        "Mit freundlichen Grüßen.",
        "Wir würden uns freuen, Sie wieder zu begrüßen.",
      ],
    },
    mixed: {
      plain: [
        "Wir arbeiten daran.",
        "Das nehmen wir mit.",
        "Wenn Sie mehr erzählen möchten, schreiben oder rufen Sie uns an.",
      ],
      warm: [
        "Wir würden es gern besser machen.",
        "Melden Sie sich gern, wir möchten mehr hören.",
        "Wir haben hier schon darüber gesprochen.",
      ],
      formal: [
        "Wir besprechen Ihre Hinweise im Team.",
        "Bitte zögern Sie nicht, sich an uns zu wenden.",
        "Wir nehmen Ihre Hinweise ernst.",
      ],
    },
    unhappy: {
      plain: [
        "Bitte melden Sie sich bei uns: Wir möchten es mit Ihnen ansehen.",
        "Schreiben oder rufen Sie uns bitte an, damit wir es in Ordnung bringen.",
        "Wir möchten gern mit Ihnen darüber sprechen.",
      ],
      warm: [
        "Dürfen wir es in Ordnung bringen? Schreiben oder rufen Sie uns an.",
        "Bitte sprechen Sie mit uns, wir möchten es so gern gutmachen.",
        "Wir nehmen uns alle Zeit, die es braucht.",
      ],
      formal: [
        "Wir wären Ihnen dankbar, wenn Sie sich bei uns melden.",
        "Bitte wenden Sie sich direkt an uns.",
        "Gern würden wir persönlich mit Ihnen darüber sprechen.",
      ],
    },
  },
  wordless: {
    happy: [
      "danke für die Bewertung, das ist gut zu wissen.",
      "danke, das freut uns sehr.",
      "danke, dass Sie es weitersagen.",
    ],
    mixed: [
      "danke für die Bewertung. Was hätte besser sein können?",
      "danke. Sagen Sie uns gern, was gefehlt hat.",
      "danke für die Antwort. Ein Wort dazu würde uns helfen.",
    ],
    unhappy: [
      "das tut uns leid. Bitte sagen Sie uns, was nicht gut war.",
      "wir bedauern das. Bitte schreiben oder rufen Sie uns an.",
      "so soll es nicht sein, und es tut uns leid.",
    ],
  },
  themes: null,
};

export const PORTUGUESE: Bank = {
  greeting: {
    plain: { named: "Olá, {name},", nameless: "Olá," },
    warm: { named: "Olá, {name}!", nameless: "Olá!" },
    formal: { named: "Caro/a {name},", nameless: "Bom dia," },
  },
  opening: {
    happy: {
      plain: [
        "obrigado por estas palavras.",
        "obrigado por ter escrito.",
        "ficamos contentes, obrigado.",
        "é bom ler isto, obrigado.",
      ],
      warm: [
        "que bom ler isto, muito obrigado!",
        "alegrou o nosso dia, obrigado.",
        "obrigado do coração.",
        "obrigado, toda a equipa sorri.",
      ],
      formal: [
        "agradecemos as suas palavras amáveis.",
        "muito obrigado pela sua avaliação.",
        "é um prazer ler as suas palavras.",
      ],
    },
    mixed: {
      plain: [
        "obrigado por contar o bom e o menos bom.",
        "obrigado por ser tão claro.",
        "obrigado, isto ajuda-nos mais do que os elogios.",
      ],
      warm: [
        "obrigado por uma opinião tão sincera, ajuda-nos muito.",
        "obrigado pelo bom, e também pelo resto.",
        "obrigado por nos ter dito tudo.",
      ],
      formal: [
        "agradecemos a sua opinião equilibrada.",
        "apreciamos a sua franqueza.",
        "obrigado por descrever tão claramente como foi.",
      ],
    },
    unhappy: {
      plain: [
        "lamentamos. Obrigado por nos dizer.",
        "lamentamos que tenha sido assim.",
        "obrigado por o dizer com clareza. Lamentamos.",
      ],
      warm: [
        "lamentamos muito, e agradecemos que nos conte.",
        "custa-nos ler isto, e lamentamos muito.",
        "lamentamos não ter estado à altura.",
      ],
      formal: [
        "pedimos que aceite as nossas desculpas.",
        "lamentamos muito esta experiência.",
        "pedimos desculpa e agradecemos o aviso.",
      ],
    },
  },
  closing: {
    happy: {
      plain: ["Até à próxima.", "Vamos transmitir.", "Tudo de bom."],
      warm: ["Vamos contar a toda a equipa.", "Significa muito para nós.", "Fez algumas pessoas felizes."],
      formal: [
        "Transmitiremos as suas palavras à equipa.",
        "Com os melhores cumprimentos.",
        "Teremos gosto em recebê-lo de novo.",
      ],
    },
    mixed: {
      plain: ["Vamos trabalhar nisso.", "Tomamos nota.", "Se quiser contar mais, escreva ou ligue-nos."],
      warm: [
        "Gostávamos de fazer melhor da próxima vez.",
        "Escreva-nos, gostávamos de saber mais.",
        "Já falámos disto aqui.",
      ],
      formal: [
        "Discutiremos as suas observações com a equipa.",
        "Não hesite em contactar-nos.",
        "Levaremos a sério as suas observações.",
      ],
    },
    unhappy: {
      plain: [
        "Contacte-nos, por favor: queremos ver isto consigo.",
        "Escreva ou ligue-nos, para podermos resolver.",
        "Gostávamos de falar consigo.",
      ],
      warm: [
        "Deixe-nos resolver: escreva ou ligue-nos.",
        "Fale connosco, gostávamos muito de resolver.",
        "Teremos todo o tempo que for preciso.",
      ],
      formal: [
        "Agradecemos que nos contacte.",
        "Pedimos que se dirija diretamente a nós.",
        "Gostaríamos de falar consigo pessoalmente.",
      ],
    },
  },
  wordless: {
    happy: [
      "obrigado pela avaliação, é bom saber.",
      "obrigado, ficamos muito contentes.",
      "obrigado por dizer a outros.",
    ],
    mixed: [
      "obrigado pela avaliação. O que podia ter sido melhor?",
      "obrigado. Diga-nos o que faltou, se quiser.",
      "obrigado por responder. Uma palavra ajudava-nos.",
    ],
    unhappy: [
      "lamentamos. Diga-nos o que correu mal, por favor.",
      "lamentamos. Escreva ou ligue-nos, por favor.",
      "não é o que queremos, e lamentamos.",
    ],
  },
  themes: null,
};

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
