import type { Bank } from "./bank";

/** A draft in this language answers a review as a whole. */
export const GERMAN: Bank = {
  greeting: {
    plain: { named: "Guten Tag {name},", nameless: "Guten Tag," },
    warm: { named: "Hallo {name},", nameless: "Hallo," },
    formal: { named: "Guten Tag {name},", nameless: "Guten Tag," },
  },
  opening: {
    happy: {
      plain: [
        "danke für Ihre Bewertung.",
        "danke, dass Sie sich die Zeit genommen haben.",
        "das freut uns, danke.",
        "schön zu lesen, danke.",
      ],
      warm: [
        "wie schön, das zu lesen, vielen Dank!",
        "das freut uns sehr, danke.",
        "herzlichen Dank für diese Worte.",
        "vielen herzlichen Dank.",
      ],
      formal: [
        "wir danken Ihnen sehr für Ihre freundlichen Worte.",
        "haben Sie vielen Dank für Ihre Bewertung.",
        "es ist uns eine Freude, das zu lesen.",
      ],
    },
    mixed: {
      plain: [
        "danke, dass Sie schreiben, wie es war.",
        "danke für die klaren Worte.",
        "danke, eine solche Bewertung hilft uns.",
      ],
      warm: [
        "danke für die offene Bewertung, sie hilft uns sehr.",
        "danke, dass Sie so offen mit uns sind.",
        "danke, dass Sie es so klar sagen.",
      ],
      formal: [
        "wir danken Ihnen für Ihre Bewertung.",
        "wir schätzen Ihre Offenheit.",
        "vielen Dank, dass Sie so klar beschreiben, wie es war.",
      ],
    },
    unhappy: {
      plain: [
        "das tut uns leid. Danke, dass Sie es uns sagen.",
        "es tut uns leid, dass es so war.",
        "danke für die klaren Worte. Es tut uns leid.",
      ],
      warm: [
        "das tut uns wirklich leid, und wir sind dankbar, dass Sie es sagen.",
        "das zu lesen tut weh, und es tut uns sehr leid.",
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
      plain: ["Alles Gute.", "Nochmals danke.", "Viele Grüße."],
      warm: ["Das bedeutet uns viel.", "Damit haben Sie uns eine große Freude gemacht.", "Herzliche Grüße."],
      formal: ["Mit freundlichen Grüßen.", "Wir würden uns freuen, Sie wieder zu begrüßen.", "Nochmals vielen Dank."],
    },
    mixed: {
      plain: [
        "Wenn Sie mehr erzählen möchten, schreiben Sie uns oder rufen Sie an.",
        "Sagen Sie uns gern, ob wir etwas tun können.",
        "Wir würden gern mehr darüber erfahren.",
      ],
      warm: [
        "Beim nächsten Mal möchten wir es besser machen.",
        "Melden Sie sich gern bei uns, wir möchten mehr darüber erfahren.",
        "Erzählen Sie uns gern mehr.",
      ],
      formal: [
        "Bitte zögern Sie nicht, sich an uns zu wenden.",
        "Gern würden wir mehr darüber erfahren.",
        "Wir würden es beim nächsten Mal gern besser machen.",
      ],
    },
    unhappy: {
      plain: [
        "Bitte melden Sie sich bei uns: Wir möchten das mit Ihnen klären.",
        "Bitte schreiben Sie uns oder rufen Sie an, damit wir es in Ordnung bringen können.",
        "Wir möchten gern mit Ihnen darüber sprechen.",
      ],
      warm: [
        "Dürfen wir versuchen, es in Ordnung zu bringen? Schreiben Sie uns oder rufen Sie an.",
        "Bitte sprechen Sie mit uns, wir möchten es gern wiedergutmachen.",
        "Schreiben Sie uns oder rufen Sie an, wir würden uns freuen.",
      ],
      formal: [
        "Wir wären Ihnen dankbar, wenn Sie sich bei uns melden.",
        "Bitte wenden Sie sich direkt an uns.",
        "Gern würden wir persönlich mit Ihnen darüber sprechen.",
      ],
    },
  },
  apologises: /leid|entschuldig|bedauern/i,
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
      "danke für die Bewertung, das freut uns.",
      "danke, das freut uns sehr.",
      "danke, dass Sie das mit anderen teilen.",
    ],
    mixed: [
      "danke für die Bewertung. Was hätte besser sein können?",
      "danke. Sagen Sie uns gern, was gefehlt hat.",
      "danke für die Bewertung. Ein paar Worte dazu würden uns helfen.",
    ],
    unhappy: [
      "das tut uns leid. Bitte sagen Sie uns, was nicht gut war.",
      "wir bedauern das. Bitte schreiben Sie uns oder rufen Sie an.",
      "so soll es nicht sein, und es tut uns leid.",
    ],
  },
  themes: null,
};
