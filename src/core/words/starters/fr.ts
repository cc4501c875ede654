import type { StarterWords } from "../pieces";

const STOP = "Désabonnement : STOP.";

export const FR: StarterWords = {
  messages: {
    "first.appointment": {
      text: `Bonjour {first name|}, comment s’est passée la visite {about|} chez {business} ? Un clic suffit : {link} ${STOP}`,
      subject: "Comment s’est passée votre visite chez {business} ?",
      email:
        "Bonjour {first name|},\n\nMerci de votre visite chez {business}, {branch|}. Comment s’est passée la visite {about|} ?\n\n{link}\n\nUn clic suffit, et nous lisons chaque réponse.\n\n{team member|Toute l’équipe}, {business}",
    },
    "first.job": {
      text: `Bonjour {first name|}, ici {business}. Nous étions chez vous hier. Tout vous convient-il ? {link} ${STOP}`,
      subject: "Tout est-il à votre goût ?",
      email:
        "Bonjour {first name|},\n\nHier, {team member|notre équipe} était chez vous. Tout est-il à votre goût ?\n\n{link}\n\nUn clic suffit. Si quelque chose ne va pas, dites-le-nous.\n\n{business}",
    },
    "first.order": {
      text: `Bonjour {first name|}, votre commande chez {business} est-elle bien arrivée ? Est-elle comme prévu ? {link} ${STOP}`,
      subject: "Votre commande vous plaît-elle ?",
      email:
        "Bonjour {first name|},\n\nVotre commande chez {business} a dû arriver. Vous plaît-elle ?\n\n{link}\n\nUn clic suffit. S’il manque quelque chose ou si quelque chose est abîmé, dites-le-nous et nous ferons le nécessaire.\n\n{business}",
    },
    "first.stay": {
      text: `Bonjour {first name|}, merci de votre séjour chez {business}. Tout s’est-il bien passé ? {link} ${STOP}`,
      subject: "Comment s’est passé votre séjour chez {business} ?",
      email:
        "Bonjour {first name|},\n\nMerci de votre séjour chez nous. Comment ça s’est passé, du début à la fin ?\n\n{link}\n\nUn clic suffit, et nous lisons chaque réponse.\n\n{business}",
    },
    "first.lessons": {
      text: `Bonjour {first name|}, comment se passent les cours {about|} chez {business} ? Un clic suffit : {link} ${STOP}`,
      subject: "Comment se passent les cours {about|} ?",
      email:
        "Bonjour {first name|},\n\nComment se passent les cours {about|} avec {team member|nous} ?\n\n{link}\n\nUn clic suffit, et cela nous aide à mieux enseigner.\n\n{business}",
    },
    "first.invoice": {
      text: `Bonjour {first name|}, {business} vous remercie. Comment s’est passée la visite {about|} ? {link} ${STOP}`,
      subject: "{business} vous remercie",
      email:
        "Bonjour {first name|},\n\nMerci, nous avons bien reçu votre paiement. Comment s’est passée la visite {about|} ?\n\n{link}\n\n{team member|Toute l’équipe}, {business}",
    },
    second: {
      text: `Bonjour {first name|}, chez {business} nous aimerions savoir comment s’est passée votre visite : {link} ${STOP}`,
      subject: "{first name|Bonjour}, comment s’est passée votre visite ?",
      email:
        "Bonjour {first name|},\n\nVous étiez chez nous il y a quelques jours ({branch|}). Si vous avez un instant, dites-nous comment ça s’est passé, en bien ou en mal :\n\n{link}\n\nNous ne vous demanderons plus rien sur cette visite.\n\n{business}",
    },
    reawaken: {
      text: `Bonjour {first name|}, vous étiez chez {business} il y a quelque temps. Partageriez-vous votre avis ? {link} ${STOP}`,
      subject: "Vous souvenez-vous de votre visite chez {business} ?",
      email:
        "Bonjour {first name|},\n\nVotre visite chez {business} remonte à quelque temps. Quelques mots de personnes qui nous connaissent aident plus que tout ce que nous pourrions dire :\n\n{link}\n\nNous ne vous le demanderons qu’une fois. Si vous avez de nouveau besoin de nous, répondez simplement à cet e-mail.\n\n{business}",
    },
    "put-right": {
      text: `Bonjour {first name|}, ici {business}. Nous espérons que tout est rentré dans l’ordre. Est-ce le cas ? {link} ${STOP}`,
      subject: "Tout est-il rentré dans l’ordre ?",
      email:
        "Bonjour {first name|},\n\nVous nous avez dit que quelque chose n’allait pas, et nous avons essayé d’y remédier. Est-ce réussi ?\n\n{link}\n\nNous lisons chaque réponse, et nous ne vous demanderons plus rien à ce sujet.\n\n{business}",
    },
    feeling: {
      text: `Bonjour {first name|}, la visite {about|} chez {business} s’est-elle bien passée ? Oui : {good link} Pas vraiment : {bad link} ${STOP}`,
      subject: "Tout s’est bien passé chez {business} ?",
      email:
        "Bonjour {first name|},\n\nLa visite {about|} s’est-elle bien passée ?\n\n{good link}\n\n{bad link}\n\nUn clic suffit.\n\n{team member|Toute l’équipe}, {business}",
    },
    review: {
      text: `Bonjour {first name|}, merci de votre réponse. Partageriez-vous votre avis en une phrase ou deux ? {link} ${STOP}`,
      subject: "Souhaitez-vous partager votre avis ?",
      email:
        "Bonjour {first name|},\n\nMerci de nous avoir dit que la visite {about|} s’était bien passée. Souhaitez-vous aussi partager votre avis ? Une phrase ou deux aident à choisir :\n\n{link}\n\n{business}",
    },
    "review.second": {
      text: `Bonjour {first name|}, si vous avez une minute, une phrase ou deux sur {business} aideraient d’autres à choisir : {link} ${STOP}`,
      subject: "Une phrase ou deux sur {business} ?",
      email:
        "Bonjour {first name|},\n\nSi vous avez une minute cette semaine, une phrase ou deux sur {business} aideraient d’autres personnes à choisir :\n\n{link}\n\nNous ne vous redemanderons rien à ce sujet.\n\n{business}",
    },
  },
  page: {
    "question.appointment": "Comment s’est passée la visite {about|} ?",
    "question.job": "Comment s’est passée l’intervention {about|} ?",
    "question.order": "Comment était la commande {about|} ?",
    "question.stay": "Comment s’est passé le séjour {about|} ?",
    "question.lessons": "Comment s’est passé le cours {about|} ?",
    "question.member": "Comment ça s’est passé avec {team member|nous} ?",
    "two.appointment": "La visite {about|} s’est-elle bien passée ?",
    "two.job": "L’intervention {about|} s’est-elle bien passée ?",
    "two.order": "Tout va bien avec la commande {about|} ?",
    "two.stay": "Le séjour {about|} s’est-il bien passé ?",
    "two.lessons": "Le cours {about|} s’est-il bien passé ?",
    "two.member": "Tout s’est bien passé avec {team member|nous} ?",
    below: "Un clic suffit, {first name|}. Vous pourrez ensuite ajouter un commentaire.",
    happy: "Nous en sommes ravis.",
    "happy.invite": "Une phrase ou deux aident d’autres personnes à choisir.",
    "happy.prompt": "Y a-t-il quelque chose que vous préférez nous dire en privé ?",
    unhappy: "Nous regrettons que cela n’ait pas été mieux.",
    "unhappy.prompt": "Que pouvons-nous corriger ?",
    "thanks.happy": "Merci pour votre commentaire.",
    "thanks.unhappy": "Merci de nous l’avoir dit. Nous allons nous en occuper.",
    "thanks.site": "Merci, cela nous aide beaucoup.",
    "thanks.later": "Merci, cela fait plaisir à entendre.",
    "thanks.would": "Merci, et surtout merci de nous recommander.",
    "thanks.undecided": "Merci. Nous allons réfléchir à ce que nous pouvons améliorer.",
    "thanks.wouldnot": "Merci de votre franchise. Nous prenons cela au sérieux.",
    picture: "Merci, {first name|}",
  },
};
