import type { Bank } from "./bank";

/** A draft in this language answers a review as a whole. */
export const PORTUGUESE: Bank = {
  greeting: {
    plain: { named: "Olá, {name},", nameless: "Olá," },
    warm: { named: "Olá, {name}!", nameless: "Olá!" },
    formal: { named: "Bom dia, {name},", nameless: "Bom dia," },
  },
  opening: {
    happy: {
      plain: [
        "obrigado pela sua opinião.",
        "obrigado por ter escrito.",
        "ficamos contentes por saber, obrigado.",
        "é bom ler isto, obrigado.",
      ],
      warm: [
        "que bom ler isto, muito obrigado!",
        "alegrou o nosso dia, obrigado.",
        "obrigado, do fundo do coração.",
        "obrigado, toda a equipa ficou a sorrir.",
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
        "obrigado pela clareza.",
        "obrigado, isto ajuda-nos mais do que os elogios.",
      ],
      warm: [
        "obrigado por uma opinião tão sincera, ajuda-nos muito.",
        "obrigado pelos elogios, e também pelas críticas.",
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
        "lamentamos o sucedido. Obrigado por nos dizer.",
        "lamentamos que tenha sido assim.",
        "obrigado por o dizer com clareza. Lamentamos o sucedido.",
      ],
      warm: [
        "lamentamos muito, e agradecemos que nos conte.",
        "custa-nos ler isto, e lamentamos muito.",
        "lamentamos não termos estado à altura.",
      ],
      formal: [
        "pedimos que aceite as nossas desculpas.",
        "lamentamos muito que a sua experiência tenha sido esta.",
        "pedimos desculpa e agradecemos o aviso.",
      ],
    },
  },
  closing: {
    happy: {
      plain: ["Até à próxima.", "Vamos transmitir à equipa.", "Tudo de bom."],
      warm: ["Vamos contar a toda a equipa.", "Significa muito para nós.", "Deixou-nos a todos muito contentes."],
      formal: [
        "Transmitiremos as suas palavras à equipa.",
        "Com os melhores cumprimentos.",
        "Ficamos sempre ao dispor.",
      ],
    },
    mixed: {
      plain: ["Vamos trabalhar nisso.", "Tomamos nota.", "Se quiser contar mais, escreva-nos ou ligue-nos."],
      warm: [
        "Queremos fazer melhor da próxima vez.",
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
        "Escreva-nos ou ligue-nos, para podermos resolver.",
        "Gostávamos de falar consigo.",
      ],
      warm: [
        "Deixe-nos resolver: escreva-nos ou ligue-nos.",
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
  sober: {
    happy: [
      "obrigado por dedicar o seu tempo a escrever-nos. Estamos consigo neste momento.",
      "obrigado por nos contar. Estamos a pensar em si.",
      "obrigado pelas suas palavras. Desejamos-lhe muita força.",
    ],
    unhappy: [
      "obrigado por nos contar. Lamentamos muito e estamos consigo neste momento.",
      "lamentamos muito ler isto. Entre em contacto connosco quando quiser.",
      "obrigado por nos escrever. Lamentamos muito o que está a passar.",
    ],
  },
  wordless: {
    happy: ["obrigado pela avaliação, é bom saber.", "obrigado, ficamos muito contentes.", "obrigado por partilhar."],
    mixed: [
      "obrigado pela avaliação. O que podia ter sido melhor?",
      "obrigado. Diga-nos o que faltou, se quiser.",
      "obrigado pela avaliação. Mais umas palavras ajudavam-nos.",
    ],
    unhappy: [
      "lamentamos. Diga-nos o que correu mal, por favor.",
      "lamentamos. Escreva-nos ou ligue-nos, por favor.",
      "não é isto que queremos, e lamentamos.",
    ],
  },
  themes: null,
};
