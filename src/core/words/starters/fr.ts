import type { StarterWords } from "../pieces";

const STOP = "Répondez STOP pour ne plus rien recevoir.";

export const FR: StarterWords = {
  messages: {
    "first.appointment": {
      text: `Bonjour {first name|}, comment s’est passée la visite {about|} chez {business} ? Dites-le d’un geste : {link} ${STOP}`,
      subject: "Comment ça s’est passé chez {business} ?",
      email:
        "Bonjour {first name|},\n\nmerci d’être venu chez {business}, {branch}. Comment s’est passée la visite {about|} ?\n\n{link}\n\nUn geste suffit, et nous lisons chaque réponse.\n\n{team member|Toute l’équipe}, {business}",
    },
    "first.job": {
      text: `Bonjour {first name|}, nous sommes passés hier. Tout est comme vous le vouliez ? {business} : {link} ${STOP}`,
      subject: "Tout est comme vous le vouliez ?",
      email:
        "Bonjour {first name|},\n\nhier, {team member|l’un de nous} est passé chez vous. Tout est comme vous le vouliez ?\n\n{link}\n\nUn geste suffit. Si quelque chose ne va pas, nous aimerions être les premiers à le savoir.\n\n{business}",
    },
    "first.order": {
      text: `Bonjour {first name|}, votre commande chez {business} doit être arrivée. Est-elle comme prévu ? {link} ${STOP}`,
      subject: "Votre commande est-elle comme prévu ?",
      email:
        "Bonjour {first name|},\n\nvotre commande chez {business} doit être arrivée. Est-elle comme prévu ?\n\n{link}\n\nUn geste suffit. S’il manque quelque chose, dites-le-nous et nous réglons cela.\n\n{business}",
    },
    "first.stay": {
      text: `Bonjour {first name|}, merci de votre séjour chez {business}. Comment était-ce ? {link} ${STOP}`,
      subject: "Comment était votre séjour chez {business} ?",
      email:
        "Bonjour {first name|},\n\nmerci de votre séjour chez nous. Comment était-ce, de l’arrivée au départ ?\n\n{link}\n\nUn geste suffit, et nous lisons chaque réponse.\n\n{business}",
    },
    "first.lessons": {
      text: `Bonjour {first name|}, comment se passent les cours {about|} chez {business} ? Dites-le d’un geste : {link} ${STOP}`,
      subject: "Comment se passent les cours {about|} ?",
      email:
        "Bonjour {first name|},\n\ncomment se passent les cours {about|} avec {team member|nous} ?\n\n{link}\n\nUn geste suffit, et cela nous aide à mieux enseigner.\n\n{business}",
    },
    "first.invoice": {
      text: `Bonjour {first name|}, merci de la part de {business}. Comment s’est passée la visite {about|} ? {link} ${STOP}`,
      subject: "Merci de la part de {business}",
      email:
        "Bonjour {first name|},\n\nmerci, nous avons bien reçu votre paiement. Comment s’est passée la visite {about|} ?\n\n{link}\n\n{team member|Toute l’équipe}, {business}",
    },
    second: {
      text: `Bonjour {first name|}, chez {business} nous aimerions encore savoir comment c’était : {link} ${STOP}`,
      subject: "{first name|Bonjour}, un mot sur votre visite ?",
      email:
        "Bonjour {first name|},\n\nil y a quelques jours vous étiez chez nous, {branch}. Si vous avez un instant, dites-nous comment c’était, en bien ou en mal :\n\n{link}\n\nNous ne vous écrirons plus au sujet de cette visite.\n\n{business}",
    },
    reawaken: {
      text: `Bonjour {first name|}, il y a quelque temps vous étiez chez {business}. Diriez-vous aux autres comment c’était ? {link} ${STOP}`,
      subject: "Vous souvenez-vous de {business} ?",
      email:
        "Bonjour {first name|},\n\nvotre visite chez {business} remonte à quelque temps. Quelques mots de gens qui nous connaissent aident plus que tout ce que nous pourrions dire :\n\n{link}\n\nNous ne le demandons qu’une fois. Si vous avez encore besoin de nous, répondez à ce message.\n\n{business}",
    },
    "put-right": {
      text: `Bonjour {first name|}, c’est {business}. Nous espérons que tout est réparé. Est-ce le cas ? {link} ${STOP}`,
      subject: "Est-ce réparé ?",
      email:
        "Bonjour {first name|},\n\nvous nous avez dit que quelque chose n’allait pas, et nous avons essayé d’y remédier. Est-ce réussi ?\n\n{link}\n\nQuoi que vous disiez, nous le lisons, et nous ne vous demanderons plus rien à ce sujet.\n\n{business}",
    },
    feeling: {
      text: `Bonjour {first name|}, la visite {about|} chez {business} s’est-elle bien passée ? Oui : {good link} Pas vraiment : {bad link} ${STOP}`,
      subject: "Tout s’est bien passé chez {business} ?",
      email:
        "Bonjour {first name|},\n\nla visite {about|} s’est-elle bien passée ?\n\n{good link}\n\n{bad link}\n\nUn geste suffit.\n\n{team member|Toute l’équipe}, {business}",
    },
    review: {
      text: `Bonjour {first name|}, nous sommes ravis que tout se soit bien passé. Le diriez-vous aux autres en deux phrases ? {link} ${STOP}`,
      subject: "Le diriez-vous aux autres ?",
      email:
        "Bonjour {first name|},\n\nvous nous avez dit que la visite {about|} s’était bien passée. Merci. Le diriez-vous aussi aux autres ? Deux phrases aident à choisir :\n\n{link}\n\n{business}",
    },
    "review.second": {
      text: `Bonjour {first name|}, si vous avez une minute : deux phrases sur {business} aideraient d’autres à choisir. {link} ${STOP}`,
      subject: "Deux phrases sur {business} ?",
      email:
        "Bonjour {first name|},\n\nsi vous avez une minute cette semaine, deux phrases sur {business} aideraient d’autres à choisir :\n\n{link}\n\nNous ne vous écrirons plus à ce sujet.\n\n{business}",
    },
  },
  page: {
    "question.appointment": "Comment s’est passée la visite {about|} ?",
    "question.job": "Comment s’est passé le travail {about|} ?",
    "question.order": "Comment était la commande {about|} ?",
    "question.stay": "Comment était le séjour {about|} ?",
    "question.lessons": "Comment était le cours {about|} ?",
    "question.member": "Comment c’était avec {team member|nous} ?",
    "two.appointment": "La visite {about|} s’est-elle bien passée ?",
    "two.job": "Le travail {about|} s’est-il bien passé ?",
    "two.order": "La commande {about|} s’est-elle bien passée ?",
    "two.stay": "Le séjour {about|} s’est-il bien passé ?",
    "two.lessons": "Le cours {about|} s’est-il bien passé ?",
    "two.member": "Tout s’est bien passé avec {team member|nous} ?",
    below: "Un geste suffit, {first name|}. Vous pourrez ajouter quelques mots ensuite.",
    happy: "Nous en sommes ravis.",
    "happy.invite": "Deux phrases aident d’autres à choisir.",
    "happy.prompt": "Quelque chose que vous préférez nous dire en privé ?",
    unhappy: "Nous regrettons que ce n’ait pas été mieux.",
    "unhappy.prompt": "Que devrions-nous corriger ?",
    "thanks.happy": "Merci pour vos mots.",
    "thanks.unhappy": "Merci de nous l’avoir dit. Nous allons nous en occuper.",
    "thanks.site": "Merci, cela nous aide beaucoup.",
    "thanks.later": "Merci, cela fait plaisir à entendre.",
    "thanks.would": "Merci, et surtout de nous recommander.",
    "thanks.undecided": "Merci. Nous allons réfléchir à ce qui manque.",
    "thanks.wouldnot": "Merci de le dire franchement. Nous le prenons au sérieux.",
    picture: "Merci, {first name|} !",
  },
};
