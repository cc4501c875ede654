import type { Bank } from "./bank";

/** A draft in this language answers a review as a whole. */
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
  sober: {
    happy: [
      "danke, dass Sie sich die Zeit genommen haben, uns zu schreiben. Unsere Gedanken sind bei Ihnen.",
      "danke, dass Sie uns das geschrieben haben. Wir denken an Sie.",
      "danke für Ihre Worte. Wir wünschen Ihnen viel Kraft.",
    ],
    unhappy: [
      "danke, dass Sie uns das sagen. Es tut uns sehr leid, und unsere Gedanken sind bei Ihnen.",
      "es tut uns sehr leid, das zu lesen. Bitte melden Sie sich bei uns, wann immer Sie möchten.",
      "danke, dass Sie uns geschrieben haben. Was Sie gerade durchmachen, tut uns sehr leid.",
    ],
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
