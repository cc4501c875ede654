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
        "muito obrigado por estas palavras.",
        "obrigado, do fundo do coração.",
        "dá gosto ler isto, obrigado.",
      ],
      formal: [
        "agradecemos as suas palavras amáveis.",
        "muito obrigado pela sua avaliação.",
        "é um prazer ler as suas palavras.",
      ],
    },
    mixed: {
      plain: ["obrigado por contar como foi.", "obrigado pela clareza.", "obrigado, uma opinião assim é-nos útil."],
      warm: [
        "obrigado por uma opinião tão sincera, ajuda-nos muito.",
        "obrigado por falar connosco tão abertamente.",
        "obrigado por nos dizer como foi.",
      ],
      formal: [
        "agradecemos a sua opinião.",
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
      plain: ["Obrigado mais uma vez.", "Um abraço.", "Tudo de bom."],
      warm: ["Significa muito para nós.", "Ficámos muito contentes.", "Um grande abraço."],
      formal: ["Com os melhores cumprimentos.", "Ficamos sempre ao dispor.", "Renovamos os nossos agradecimentos."],
    },
    mixed: {
      plain: [
        "Se quiser contar mais, escreva-nos ou ligue-nos.",
        "Diga-nos se podemos fazer alguma coisa.",
        "Gostávamos de saber mais.",
      ],
      warm: [
        "Queremos fazer melhor da próxima vez.",
        "Escreva-nos, gostávamos de saber mais.",
        "Conte-nos mais, se quiser.",
      ],
      formal: [
        "Não hesite em contactar-nos.",
        "Gostaríamos de saber mais.",
        "Gostaríamos de ter a oportunidade de fazer melhor.",
      ],
    },
    unhappy: {
      plain: [
        "Contacte-nos, por favor: queremos ver isto consigo.",
        "Escreva-nos ou ligue-nos, para podermos resolver.",
        "Gostávamos de falar consigo.",
      ],
      warm: [
        "Deixe-nos tentar resolver: escreva-nos ou ligue-nos.",
        "Fale connosco, gostávamos muito de resolver.",
        "Escreva-nos ou ligue-nos, gostávamos de falar consigo.",
      ],
      formal: [
        "Agradecemos que nos contacte.",
        "Pedimos que se dirija diretamente a nós.",
        "Gostaríamos de falar consigo pessoalmente.",
      ],
    },
  },
  apologises: /lamentamos|desculpa/i,
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
