import type { StarterWords } from "../pieces";

const STOP = "Reply STOP to opt out.";

export const EN: StarterWords = {
  messages: {
    "first.appointment": {
      text: `Hi {first name|there}, how was {about|your} {service|visit} at {business} today? Tell us in one tap: {link} ${STOP}`,
      subject: "How did it go at {business}?",
      email:
        "Hi {first name|there},\n\nthank you for coming to {business} in {branch}. How did {about|your} {service|visit} go?\n\n{link}\n\nIt takes one tap, and we read every answer.\n\n{team member|All of us} at {business}",
    },
    "first.job": {
      text: `Hi {first name|there}, {team member|we} from {business} came by yesterday. Is {about|everything} as you wanted it? {link} ${STOP}`,
      subject: "Is everything as you wanted it?",
      email:
        "Hi {first name|there},\n\nyesterday {team member|one of us} was with you for {about|your} {service|job}. Is everything as you wanted it?\n\n{link}\n\nOne tap is enough. If something is not right, we would like to know first.\n\n{business}",
    },
    "first.order": {
      text: `Hi {first name|there}, your order from {business} should be with you by now. Is it as you hoped? {link} ${STOP}`,
      subject: "Is your order as you hoped?",
      email:
        "Hi {first name|there},\n\nyour order from {business} should be with you by now. Is it as you hoped?\n\n{link}\n\nOne tap is enough. If something is missing or broken, tell us first and we put it right.\n\n{business}",
    },
    "first.stay": {
      text: `Hi {first name|there}, thank you for staying with {business}. How was it? {link} ${STOP}`,
      subject: "How was your stay with {business}?",
      email:
        "Hi {first name|there},\n\nthank you for staying with us. How was it, from arriving to leaving?\n\n{link}\n\nIt takes one tap, and we read every answer.\n\n{business}",
    },
    "first.lessons": {
      text: `Hi {first name|there}, how are {about|your} lessons at {business} going? Tell us in one tap: {link} ${STOP}`,
      subject: "How are {about|your} lessons going?",
      email:
        "Hi {first name|there},\n\nhow are {about|your} lessons with {team member|us} going?\n\n{link}\n\nIt takes one tap, and it helps us teach better.\n\n{business}",
    },
    "first.invoice": {
      text: `Hi {first name|there}, thank you from {business}. How was {about|your} {service|visit}? {link} ${STOP}`,
      subject: "Thank you from {business}",
      email:
        "Hi {first name|there},\n\nthank you, your payment has reached us. May we ask how you found {about|your} {service|visit}?\n\n{link}\n\n{team member|All of us} at {business}",
    },
    second: {
      text: `Hi {first name|there}, {business} would still love to hear how it went: {link} ${STOP}`,
      subject: "A word about your visit, {first name|if you like}?",
      email:
        "Hi {first name|there},\n\na few days ago you were with us in {branch}. If you have a moment, tell us how {about|your} {service|visit} went, good or bad:\n\n{link}\n\nWe will not write about this visit again.\n\n{business}",
    },
    reawaken: {
      text: `Hi {first name|there}, some time ago you were with {business}. Would you tell others how it was? {link} ${STOP}`,
      subject: "Do you remember {business}?",
      email:
        "Hi {first name|there},\n\nit has been a while since {about|your} {service|visit} with {business}. A few words from people who know us help others more than anything we could say:\n\n{link}\n\nWe ask this once only. If you need us again, just answer this mail.\n\n{business}",
    },
    "put-right": {
      text: `Hi {first name|there}, {business} again. We hope it is put right now. Is it? {link} ${STOP}`,
      subject: "Is it put right, {first name|we hope}?",
      email:
        "Hi {first name|there},\n\nyou told us that something went wrong, and we have tried to put it right. Have we?\n\n{link}\n\nWhatever you say, we read it, and we will not ask about this again.\n\n{business}",
    },
    feeling: {
      text: `Hi {first name|there}, did {about|your} {service|visit} at {business} go well? Yes: {good link} Not really: {bad link} ${STOP}`,
      subject: "Did it go well at {business}?",
      email:
        "Hi {first name|there},\n\ndid {about|your} {service|visit} go well?\n\n{good link}\n\n{bad link}\n\nOne tap tells us.\n\n{team member|All of us} at {business}",
    },
    review: {
      text: `Hi {first name|there}, we are glad it went well. Would you tell others in two sentences? {link} ${STOP}`,
      subject: "Would you tell others?",
      email:
        "Hi {first name|there},\n\nyou told us that {about|your} {service|visit} went well. Thank you. Would you tell others too? Two sentences help people choose:\n\n{link}\n\n{business}",
    },
    "review.second": {
      text: `Hi {first name|there}, if you have a minute: two sentences about {business} would help others choose. {link} ${STOP}`,
      subject: "Two sentences about {business}?",
      email:
        "Hi {first name|there},\n\nif you have a minute this week, two sentences about {business} would help others choose:\n\n{link}\n\nWe will not write about this again.\n\n{business}",
    },
  },
  page: {
    "question.appointment": "How was {about|your} {service|visit}?",
    "question.job": "How was {about|your} {service|job}?",
    "question.order": "How was {about|your} {service|order}?",
    "question.stay": "How was {about|your} {service|stay}?",
    "question.lessons": "How was {about|your} {service|lesson}?",
    "question.member": "How was it with {team member|us}?",
    "two.appointment": "Did {about|your} {service|visit} go well?",
    "two.job": "Did {about|your} {service|job} go well?",
    "two.order": "Did {about|your} {service|order} go well?",
    "two.stay": "Did {about|your} {service|stay} go well?",
    "two.lessons": "Did {about|your} {service|lesson} go well?",
    "two.member": "Did it go well with {team member|us}?",
    below: "One tap is enough, {first name|}. You can add words after it.",
    happy: "We are glad to hear it.",
    "happy.invite": "Two sentences help people choose.",
    "happy.prompt": "Anything you would rather tell us privately?",
    unhappy: "We are sorry it was not better.",
    "unhappy.prompt": "What should we put right?",
    "thanks.happy": "Thank you for your words.",
    "thanks.unhappy": "Thank you for telling us. We will look into it.",
    "thanks.site": "Thank you, that helps a great deal.",
    "thanks.later": "Thank you, that is good to hear.",
    "thanks.would": "Thank you, above all for recommending us.",
    "thanks.undecided": "Thank you. We will think about what is missing.",
    "thanks.wouldnot": "Thank you for saying so openly. We take it seriously.",
    picture: "Thank you, {first name|}!",
  },
};
