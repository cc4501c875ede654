import type { StarterWords } from "../pieces";

const STOP = "Reply STOP to opt out.";

export const EN: StarterWords = {
  messages: {
    "first.appointment": {
      text: `Hi {first name|there}, how was {about|your} {service|visit} at {business} today? Tell us in one tap: {link} ${STOP}`,
      subject: "How was your visit to {business}?",
      email:
        "Hi {first name|there},\n\nThank you for coming to {business}, {branch|}. How did {about|your} {service|visit} go?\n\n{link}\n\nIt only takes one tap, and we read every answer.\n\n{team member|All of us} at {business}",
    },
    "first.job": {
      text: `Hi {first name|there}, {team member|someone} from {business} came round yesterday. Did {about|your} {service|job} go as you wanted? {link} ${STOP}`,
      subject: "Are you happy with everything?",
      email:
        "Hi {first name|there},\n\n{team member|One of us} came round yesterday for {about|your} {service|job}. Are you happy with everything?\n\n{link}\n\nIt only takes one tap. If something isn’t right, we’d like to know.\n\n{business}",
    },
    "first.order": {
      text: `Hi {first name|there}, your order from {business} should be with you by now. Is it what you hoped for? {link} ${STOP}`,
      subject: "Is your order what you hoped for?",
      email:
        "Hi {first name|there},\n\nYour order from {business} should be with you by now. Is it what you hoped for?\n\n{link}\n\nIt only takes one tap. If something’s missing or broken, tell us and we’ll put it right.\n\n{business}",
    },
    "first.stay": {
      text: `Hi {first name|there}, thank you for staying with {business}. How was it? {link} ${STOP}`,
      subject: "How was your stay with {business}?",
      email:
        "Hi {first name|there},\n\nThank you for staying with us. How was it, from start to finish?\n\n{link}\n\nIt takes one tap, and we read every answer.\n\n{business}",
    },
    "first.lessons": {
      text: `Hi {first name|there}, how are {about|your} lessons at {business} going? Tell us in one tap: {link} ${STOP}`,
      subject: "How are {about|your} lessons going?",
      email:
        "Hi {first name|there},\n\nHow are {about|your} lessons with {team member|us} going?\n\n{link}\n\nIt only takes one tap, and it helps us teach better.\n\n{business}",
    },
    "first.invoice": {
      text: `Hi {first name|there}, thank you from {business}. How was {about|your} {service|visit}? {link} ${STOP}`,
      subject: "Thank you from {business}",
      email:
        "Hi {first name|there},\n\nThank you, we’ve received your payment. How was {about|your} {service|visit}?\n\n{link}\n\n{team member|All of us} at {business}",
    },
    second: {
      text: `Hi {first name|there}, {business} would still love to hear how it went: {link} ${STOP}`,
      subject: "{first name|Hello}, how was your visit?",
      email:
        "Hi {first name|there},\n\nYou visited us a few days ago ({branch|}). If you have a moment, tell us how {about|your} {service|visit} went, good or bad:\n\n{link}\n\nWe won’t ask about this visit again.\n\n{business}",
    },
    reawaken: {
      text: `Hi {first name|there}, you visited {business} a while ago. Would you tell others how it went? {link} ${STOP}`,
      subject: "Do you remember {business}?",
      email:
        "Hi {first name|there},\n\nIt’s been a while since {about|your} {service|visit} with {business}. A few words from people who know us help others more than anything we could say:\n\n{link}\n\nWe’ll only ask once. If you need us again, just reply to this email.\n\n{business}",
    },
    "put-right": {
      text: `Hi {first name|there}, {business} again. We hope we’ve put things right. Have we? {link} ${STOP}`,
      subject: "{first name|Hello}, have we put things right?",
      email:
        "Hi {first name|there},\n\nYou told us something went wrong, and we’ve tried to put it right. Have we?\n\n{link}\n\nWe read every answer, and we won’t ask about this again.\n\n{business}",
    },
    feeling: {
      text: `Hi {first name|there}, did {about|your} {service|visit} at {business} go well? Yes: {good link} Not really: {bad link} ${STOP}`,
      subject: "Did it go well at {business}?",
      email:
        "Hi {first name|there},\n\ndid {about|your} {service|visit} go well?\n\n{good link}\n\n{bad link}\n\nOne tap is all it takes.\n\n{team member|All of us} at {business}",
    },
    review: {
      text: `Hi {first name|there}, we’re glad it went well. Would you tell others in a sentence or two? {link} ${STOP}`,
      subject: "Would you tell others?",
      email:
        "Hi {first name|there},\n\nThank you for telling us that {about|your} {service|visit} went well. Would you tell others too? A sentence or two helps people choose:\n\n{link}\n\n{business}",
    },
    "review.second": {
      text: `Hi {first name|there}, if you have a minute, a sentence or two about {business} would help others choose: {link} ${STOP}`,
      subject: "A sentence or two about {business}?",
      email:
        "Hi {first name|there},\n\nIf you have a minute this week, a sentence or two about {business} would help others choose:\n\n{link}\n\nWe won’t ask about this again.\n\n{business}",
    },
  },
  page: {
    "question.appointment": "How was {about|your} {service|visit}?",
    "question.job": "How was {about|your} {service|job}?",
    "question.order": "How was {about|your} {service|order}?",
    "question.stay": "How was {about|your} {service|stay}?",
    "question.lessons": "How was {about|your} {service|lesson}?",
    "question.member": "How did it go with {team member|us}?",
    "two.appointment": "Did {about|your} {service|visit} go well?",
    "two.job": "Did {about|your} {service|job} go well?",
    "two.order": "Did {about|your} {service|order} go well?",
    "two.stay": "Did {about|your} {service|stay} go well?",
    "two.lessons": "Did {about|your} {service|lesson} go well?",
    "two.member": "Did it go well with {team member|us}?",
    below: "One tap is enough, {first name|}. You can add a comment afterwards.",
    happy: "We’re glad to hear it.",
    "happy.invite": "A sentence or two helps other people choose.",
    "happy.prompt": "Anything you’d rather tell us privately?",
    unhappy: "We’re sorry it wasn’t better.",
    "unhappy.prompt": "What could we put right?",
    "thanks.happy": "Thank you for your feedback.",
    "thanks.unhappy": "Thank you for telling us. We’ll look into it.",
    "thanks.site": "Thank you, that really helps.",
    "thanks.later": "Thank you, that’s good to hear.",
    "thanks.would": "Thank you, especially for recommending us.",
    "thanks.undecided": "Thank you. We’ll think about what we could do better.",
    "thanks.wouldnot": "Thank you for being honest. We take it seriously.",
    picture: "Thank you, {first name|}",
  },
};
