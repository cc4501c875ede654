import type { StarterWords } from "../pieces";

const STOP = "Abmelden mit STOP.";

export const DE: StarterWords = {
  messages: {
    "first.appointment": {
      text: `Guten Tag {first name|}, wie war der Besuch {about|} bei {business}? Ein Klick genügt: {link} ${STOP}`,
      subject: "Wie war Ihr Besuch bei {business}?",
      email:
        "Guten Tag {first name|},\n\nvielen Dank für Ihren Besuch bei {business}, {branch|}. Wie war der Besuch {about|}?\n\n{link}\n\nEin Klick genügt, und wir lesen jede Antwort.\n\n{team member|Das Team} von {business}",
    },
    "first.job": {
      text: `Guten Tag {first name|}, gestern waren wir bei Ihnen. Sind Sie mit allem zufrieden? {business}: {link} ${STOP}`,
      subject: "Sind Sie mit allem zufrieden?",
      email:
        "Guten Tag {first name|},\n\ngestern war {team member|unser Team} bei Ihnen. Sind Sie mit allem zufrieden?\n\n{link}\n\nEin Klick genügt. Wenn etwas nicht stimmt, sagen Sie es uns bitte.\n\n{business}",
    },
    "first.order": {
      text: `Guten Tag {first name|}, Ihre Bestellung bei {business} sollte inzwischen da sein. Sind Sie zufrieden? {link} ${STOP}`,
      subject: "Sind Sie mit Ihrer Bestellung zufrieden?",
      email:
        "Guten Tag {first name|},\n\nIhre Bestellung bei {business} sollte inzwischen da sein. Sind Sie damit zufrieden?\n\n{link}\n\nEin Klick genügt. Wenn etwas fehlt oder beschädigt ist, sagen Sie es uns, und wir bringen es in Ordnung.\n\n{business}",
    },
    "first.stay": {
      text: `Guten Tag {first name|}, danke für Ihren Aufenthalt bei {business}. Wie war es? {link} ${STOP}`,
      subject: "Wie war Ihr Aufenthalt bei {business}?",
      email:
        "Guten Tag {first name|},\n\ndanke für Ihren Aufenthalt bei uns. Wie war es, von Anfang bis Ende?\n\n{link}\n\nEin Klick genügt, und wir lesen jede Antwort.\n\n{business}",
    },
    "first.lessons": {
      text: `Guten Tag {first name|}, wie läuft der Unterricht {about|} bei {business}? Ein Klick genügt: {link} ${STOP}`,
      subject: "Wie läuft der Unterricht {about|}?",
      email:
        "Guten Tag {first name|},\n\nwie läuft der Unterricht {about|} bei {team member|uns}?\n\n{link}\n\nEin Klick genügt, und es hilft uns, besser zu unterrichten.\n\n{business}",
    },
    "first.invoice": {
      text: `Guten Tag {first name|}, vielen Dank von {business}. Wie war der Besuch {about|}? {link} ${STOP}`,
      subject: "Vielen Dank von {business}",
      email:
        "Guten Tag {first name|},\n\nvielen Dank, wir haben Ihre Zahlung erhalten. Wie war der Besuch {about|}?\n\n{link}\n\n{team member|Das Team} von {business}",
    },
    second: {
      text: `Guten Tag {first name|}, {business} würde immer noch gern wissen, wie es war: {link} ${STOP}`,
      subject: "{first name|Guten Tag}, wie war Ihr Besuch?",
      email:
        "Guten Tag {first name|},\n\nvor ein paar Tagen waren Sie bei uns ({branch|}). Wenn Sie einen Moment haben, sagen Sie uns, wie es war, ob gut oder schlecht:\n\n{link}\n\nZu diesem Besuch fragen wir nicht noch einmal.\n\n{business}",
    },
    reawaken: {
      text: `Guten Tag {first name|}, vor einiger Zeit waren Sie bei {business}. Sagen Sie anderen, wie es war? {link} ${STOP}`,
      subject: "Erinnern Sie sich an {business}?",
      email:
        "Guten Tag {first name|},\n\nes ist eine Weile her, dass Sie bei {business} waren. Ein paar Worte von Menschen, die uns kennen, helfen anderen mehr als alles, was wir sagen könnten:\n\n{link}\n\nWir fragen nur dieses eine Mal. Wenn Sie uns wieder brauchen, antworten Sie einfach auf diese E-Mail.\n\n{business}",
    },
    "put-right": {
      text: `Guten Tag {first name|}, hier ist {business}. Wir hoffen, jetzt ist alles in Ordnung. Stimmt das? {link} ${STOP}`,
      subject: "Ist jetzt alles in Ordnung?",
      email:
        "Guten Tag {first name|},\n\nSie haben uns gesagt, dass etwas nicht gut war, und wir haben versucht, es in Ordnung zu bringen. Ist uns das gelungen?\n\n{link}\n\nWir lesen jede Antwort, und wir fragen dazu nicht noch einmal.\n\n{business}",
    },
    feeling: {
      text: `Guten Tag {first name|}, lief der Besuch {about|} bei {business} gut? Ja: {good link} Eher nicht: {bad link} ${STOP}`,
      subject: "Lief bei {business} alles gut?",
      email:
        "Guten Tag {first name|},\n\nlief der Besuch {about|} gut?\n\n{good link}\n\n{bad link}\n\nEin Klick genügt.\n\n{team member|Das Team} von {business}",
    },
    review: {
      text: `Guten Tag {first name|}, schön, dass es gut lief. Sagen Sie es in ein, zwei Sätzen weiter? {link} ${STOP}`,
      subject: "Möchten Sie es weitersagen?",
      email:
        "Guten Tag {first name|},\n\ndanke für Ihre Rückmeldung, dass der Besuch {about|} gut lief. Möchten Sie es auch weitersagen? Ein, zwei Sätze helfen anderen bei der Wahl:\n\n{link}\n\n{business}",
    },
    "review.second": {
      text: `Guten Tag {first name|}, hätten Sie eine Minute? Zwei Sätze über {business} helfen anderen bei der Wahl: {link} ${STOP}`,
      subject: "Ein, zwei Sätze über {business}?",
      email:
        "Guten Tag {first name|},\n\nwenn Sie diese Woche kurz Zeit haben, helfen ein, zwei Sätze über {business} anderen bei der Wahl:\n\n{link}\n\nWir fragen dazu nicht noch einmal.\n\n{business}",
    },
  },
  page: {
    "question.appointment": "Wie war der Besuch {about|}?",
    "question.job": "Wie war die Arbeit {about|}?",
    "question.order": "Wie war die Bestellung {about|}?",
    "question.stay": "Wie war der Aufenthalt {about|}?",
    "question.lessons": "Wie war der Unterricht {about|}?",
    "question.member": "Wie war es bei {team member|uns}?",
    "two.appointment": "Lief der Besuch {about|} gut?",
    "two.job": "Lief die Arbeit {about|} gut?",
    "two.order": "Ist mit der Bestellung {about|} alles in Ordnung?",
    "two.stay": "War der Aufenthalt {about|} gut?",
    "two.lessons": "Lief der Unterricht {about|} gut?",
    "two.member": "Lief es bei {team member|uns} gut?",
    below: "Ein Klick genügt, {first name|}. Danach können Sie etwas dazu schreiben.",
    happy: "Das freut uns.",
    "happy.invite": "Ein, zwei Sätze helfen anderen bei der Wahl.",
    "happy.prompt": "Möchten Sie uns etwas lieber privat sagen?",
    unhappy: "Es tut uns leid, dass es nicht besser war.",
    "unhappy.prompt": "Was können wir in Ordnung bringen?",
    "thanks.happy": "Danke für Ihre Rückmeldung.",
    "thanks.unhappy": "Danke, dass Sie es uns sagen. Wir kümmern uns darum.",
    "thanks.site": "Danke, das hilft uns sehr.",
    "thanks.later": "Danke, das hören wir gern.",
    "thanks.would": "Danke, vor allem dafür, dass Sie uns empfehlen würden.",
    "thanks.undecided": "Danke. Wir überlegen, was wir besser machen können.",
    "thanks.wouldnot": "Danke für die offenen Worte. Wir nehmen sie ernst.",
    picture: "Danke, {first name|}",
  },
};
