import type { Bank } from "./bank";

/** A draft in this language answers a review as a whole. */
export const FRENCH: Bank = {
  greeting: {
    plain: { named: "Bonjour {name},", nameless: "Bonjour," },
    warm: { named: "Bonjour {name} !", nameless: "Bonjour !" },
    formal: { named: "Bonjour {name},", nameless: "Madame, Monsieur," },
  },
  opening: {
    happy: {
      plain: [
        "merci pour votre avis.",
        "merci d’avoir pris le temps d’écrire.",
        "cela nous fait plaisir, merci.",
        "merci, cela fait plaisir à lire.",
      ],
      warm: [
        "quel plaisir de vous lire, merci !",
        "merci de tout cœur.",
        "merci beaucoup pour ces mots.",
        "vous lire fait vraiment plaisir, merci.",
      ],
      formal: [
        "nous vous remercions de votre message très aimable.",
        "nous vous sommes reconnaissants de votre avis.",
        "c’est un plaisir de lire votre avis.",
      ],
    },
    mixed: {
      plain: [
        "merci de nous dire comment cela s’est passé.",
        "merci pour votre franchise.",
        "merci, un tel avis nous est utile.",
      ],
      warm: [
        "merci pour un avis aussi sincère, il nous aide beaucoup.",
        "merci de nous parler aussi ouvertement.",
        "merci de nous l’avoir dit si clairement.",
      ],
      formal: [
        "nous vous remercions de votre avis.",
        "nous apprécions votre franchise.",
        "merci d’avoir décrit si clairement votre expérience.",
      ],
    },
    unhappy: {
      plain: [
        "nous sommes désolés. Merci de nous l’avoir dit.",
        "nous regrettons que ce se soit passé ainsi.",
        "merci de le dire clairement. Nous sommes désolés.",
      ],
      warm: [
        "nous sommes sincèrement désolés, et nous vous remercions de nous l’avoir dit.",
        "nous sommes peinés de lire cela, et vraiment désolés.",
        "nous regrettons vraiment de ne pas avoir été à la hauteur.",
      ],
      formal: [
        "nous vous prions d’accepter nos excuses.",
        "nous regrettons vivement que vous ayez vécu cela.",
        "nous vous présentons nos excuses et vous remercions de nous avoir prévenus.",
      ],
    },
  },
  closing: {
    happy: {
      plain: ["Merci encore.", "Bonne continuation.", "Bien à vous."],
      warm: ["Cela compte beaucoup pour nous.", "Merci encore, du fond du cœur.", "Bien chaleureusement."],
      formal: [
        "Avec nos meilleures salutations.",
        "Nous serions heureux de vous accueillir à nouveau.",
        "Nous vous renouvelons nos remerciements.",
      ],
    },
    mixed: {
      plain: [
        "Si vous voulez en dire plus, écrivez-nous ou appelez-nous.",
        "Dites-nous si nous pouvons faire quelque chose.",
        "Nous aimerions en savoir plus, si vous avez un moment.",
      ],
      warm: [
        "Nous aimerions faire mieux la prochaine fois.",
        "Écrivez-nous, nous serions heureux d’en savoir plus.",
        "N’hésitez pas à nous en parler.",
      ],
      formal: [
        "N’hésitez pas à nous contacter.",
        "Nous serions heureux d’en savoir davantage.",
        "Nous aimerions avoir l’occasion de faire mieux.",
      ],
    },
    unhappy: {
      plain: [
        "Contactez-nous, s’il vous plaît : nous voulons en parler avec vous.",
        "Écrivez-nous ou appelez-nous, pour que nous puissions y remédier.",
        "Nous aimerions en parler avec vous.",
      ],
      warm: [
        "Laissez-nous essayer d’arranger cela : écrivez-nous ou appelez-nous.",
        "Parlez-nous, nous aimerions vraiment y remédier.",
        "Écrivez-nous ou appelez-nous, nous serions heureux d’en parler avec vous.",
      ],
      formal: [
        "Nous vous saurions gré de nous contacter.",
        "Nous vous prions de vous adresser directement à nous.",
        "Nous souhaiterions en parler avec vous de vive voix.",
      ],
    },
  },
  apologises: /désolés|excuses|regrettons/i,
  sober: {
    happy: [
      "merci d’avoir pris le temps de nous écrire. Nos pensées vous accompagnent.",
      "merci de nous l’avoir confié. Nous pensons à vous.",
      "merci pour vos mots. Nous vous souhaitons beaucoup de courage.",
    ],
    unhappy: [
      "merci de nous l’avoir dit. Nous sommes sincèrement désolés, et nos pensées vous accompagnent.",
      "nous sommes profondément désolés de lire cela. Contactez-nous quand vous le souhaitez.",
      "merci de nous avoir écrit. Nous sommes désolés de ce que vous traversez.",
    ],
  },
  wordless: {
    happy: [
      "merci pour cette note, cela nous fait plaisir.",
      "merci, nous en sommes ravis.",
      "merci de nous l’avoir fait savoir.",
    ],
    mixed: [
      "merci pour la note. Que pourrions-nous améliorer ?",
      "merci. Dites-nous ce qui a manqué, si vous voulez.",
      "merci de votre note. Quelques mots de plus nous aideraient.",
    ],
    unhappy: [
      "nous sommes désolés. Dites-nous ce qui n’allait pas, s’il vous plaît.",
      "nous le regrettons. Écrivez-nous ou appelez-nous.",
      "ce n’est pas ce que nous voulons, et nous le regrettons.",
    ],
  },
  themes: null,
};
