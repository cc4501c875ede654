import type { StarterWords } from "../pieces";

const STOP = "Mit STOP antworten, um nichts mehr zu bekommen.";

export const DE: StarterWords = {
  messages: {
    "first.appointment": {
      text: `Guten Tag {first name|}, wie war der Besuch {about|} bei {business}? Ein Tippen genügt: {link} ${STOP}`,
      subject: "Wie war es bei {business}?",
      email:
        "Guten Tag {first name|},\n\nvielen Dank für den Besuch bei {business} in {branch}. Wie war der Besuch {about|}?\n\n{link}\n\nEin Tippen genügt, und wir lesen jede Antwort.\n\n{team member|Das Team} von {business}",
    },
    "first.job": {
      text: `Guten Tag {first name|}, gestern waren wir bei Ihnen. Ist alles so, wie Sie es wollten? {business}: {link} ${STOP}`,
      subject: "Ist alles so, wie Sie es wollten?",
      email:
        "Guten Tag {first name|},\n\ngestern war {team member|jemand von uns} bei Ihnen. Ist alles so, wie Sie es wollten?\n\n{link}\n\nEin Tippen genügt. Wenn etwas nicht stimmt, möchten wir es gern als Erste wissen.\n\n{business}",
    },
    "first.order": {
      text: `Guten Tag {first name|}, Ihre Bestellung von {business} sollte angekommen sein. Ist sie, wie Sie gehofft haben? {link} ${STOP}`,
      subject: "Ist Ihre Bestellung, wie Sie gehofft haben?",
      email:
        "Guten Tag {first name|},\n\nIhre Bestellung von {business} sollte angekommen sein. Ist sie, wie Sie gehofft haben?\n\n{link}\n\nEin Tippen genügt. Wenn etwas fehlt oder kaputt ist, sagen Sie es uns, und wir bringen es in Ordnung.\n\n{business}",
    },
    "first.stay": {
      text: `Guten Tag {first name|}, danke für Ihren Aufenthalt bei {business}. Wie war es? {link} ${STOP}`,
      subject: "Wie war Ihr Aufenthalt bei {business}?",
      email:
        "Guten Tag {first name|},\n\ndanke für Ihren Aufenthalt bei uns. Wie war es, von der Ankunft bis zur Abreise?\n\n{link}\n\nEin Tippen genügt, und wir lesen jede Antwort.\n\n{business}",
    },
    "first.lessons": {
      text: `Guten Tag {first name|}, wie läuft der Unterricht {about|} bei {business}? Ein Tippen genügt: {link} ${STOP}`,
      subject: "Wie läuft der Unterricht {about|}?",
      email:
        "Guten Tag {first name|},\n\nwie läuft der Unterricht {about|} bei {team member|uns}?\n\n{link}\n\nEin Tippen genügt, und es hilft uns, besser zu unterrichten.\n\n{business}",
    },
    "first.invoice": {
      text: `Guten Tag {first name|}, vielen Dank von {business}. Wie war der Besuch {about|}? {link} ${STOP}`,
      subject: "Vielen Dank von {business}",
      email:
        "Guten Tag {first name|},\n\nvielen Dank, Ihre Zahlung ist angekommen. Dürfen wir fragen, wie der Besuch {about|} war?\n\n{link}\n\n{team member|Das Team} von {business}",
    },
    second: {
      text: `Guten Tag {first name|}, {business} wüsste noch immer gern, wie es war: {link} ${STOP}`,
      subject: "{first name|Guten Tag}, ein Wort zu Ihrem Besuch?",
      email:
        "Guten Tag {first name|},\n\nvor ein paar Tagen waren Sie bei uns in {branch}. Wenn Sie einen Moment haben, sagen Sie uns, wie es war, gut oder schlecht:\n\n{link}\n\nWir schreiben Ihnen zu diesem Besuch nicht noch einmal.\n\n{business}",
    },
    reawaken: {
      text: `Guten Tag {first name|}, vor einiger Zeit waren Sie bei {business}. Würden Sie anderen sagen, wie es war? {link} ${STOP}`,
      subject: "Erinnern Sie sich an {business}?",
      email:
        "Guten Tag {first name|},\n\nes ist eine Weile her, dass Sie bei {business} waren. Ein paar Worte von Menschen, die uns kennen, helfen anderen mehr als alles, was wir sagen könnten:\n\n{link}\n\nWir fragen das nur einmal. Wenn Sie uns wieder brauchen, antworten Sie einfach auf diese Mail.\n\n{business}",
    },
    "put-right": {
      text: `Guten Tag {first name|}, hier ist {business}. Wir hoffen, es ist wieder gut. Ist es das? {link} ${STOP}`,
      subject: "Ist es wieder gut?",
      email:
        "Guten Tag {first name|},\n\nSie haben uns gesagt, dass etwas nicht gut war, und wir haben versucht, es wieder gutzumachen. Ist uns das gelungen?\n\n{link}\n\nWas Sie auch sagen, wir lesen es, und wir fragen danach nicht noch einmal.\n\n{business}",
    },
    feeling: {
      text: `Guten Tag {first name|}, lief der Besuch {about|} bei {business} gut? Ja: {good link} Eher nicht: {bad link} ${STOP}`,
      subject: "Lief alles gut bei {business}?",
      email:
        "Guten Tag {first name|},\n\nlief der Besuch {about|} gut?\n\n{good link}\n\n{bad link}\n\nEin Tippen genügt.\n\n{team member|Das Team} von {business}",
    },
    review: {
      text: `Guten Tag {first name|}, schön, dass es gut lief. Würden Sie es anderen in zwei Sätzen sagen? {link} ${STOP}`,
      subject: "Würden Sie es anderen sagen?",
      email:
        "Guten Tag {first name|},\n\nSie haben uns gesagt, dass der Besuch {about|} gut lief. Danke. Würden Sie es auch anderen sagen? Zwei Sätze helfen bei der Wahl:\n\n{link}\n\n{business}",
    },
    "review.second": {
      text: `Guten Tag {first name|}, wenn Sie eine Minute haben: Zwei Sätze über {business} helfen anderen bei der Wahl. {link} ${STOP}`,
      subject: "Zwei Sätze über {business}?",
      email:
        "Guten Tag {first name|},\n\nwenn Sie diese Woche eine Minute haben: Zwei Sätze über {business} helfen anderen bei der Wahl:\n\n{link}\n\nWir schreiben Ihnen dazu nicht noch einmal.\n\n{business}",
    },
  },
  page: {
    "question.appointment": "Wie war der Besuch {about|}?",
    "question.job": "Wie war die Arbeit {about|}?",
    "question.order": "Wie war die Bestellung {about|}?",
    "question.stay": "Wie war der Aufenthalt {about|}?",
    "question.lessons": "Wie war die Stunde {about|}?",
    "question.member": "Wie war es mit {team member|uns}?",
    "two.appointment": "Lief der Besuch {about|} gut?",
    "two.job": "Lief die Arbeit {about|} gut?",
    "two.order": "Lief die Bestellung {about|} gut?",
    "two.stay": "War der Aufenthalt {about|} gut?",
    "two.lessons": "Lief die Stunde {about|} gut?",
    "two.member": "Lief es gut mit {team member|uns}?",
    below: "Ein Tippen genügt, {first name|}. Worte können Sie danach hinzufügen.",
    happy: "Das freut uns.",
    "happy.invite": "Zwei Sätze helfen anderen bei der Wahl.",
    "happy.prompt": "Möchten Sie uns etwas lieber privat sagen?",
    unhappy: "Es tut uns leid, dass es nicht besser war.",
    "unhappy.prompt": "Was sollen wir in Ordnung bringen?",
    "thanks.happy": "Danke für Ihre Worte.",
    "thanks.unhappy": "Danke, dass Sie es uns sagen. Wir kümmern uns darum.",
    "thanks.site": "Danke, das hilft uns sehr.",
    "thanks.later": "Danke, das hören wir gern.",
    "thanks.would": "Danke, vor allem für die Empfehlung.",
    "thanks.undecided": "Danke. Wir überlegen, was noch fehlt.",
    "thanks.wouldnot": "Danke für die offenen Worte. Wir nehmen sie ernst.",
    picture: "Danke, {first name|}!",
  },
};
