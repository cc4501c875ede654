import type { Bank } from "./bank";

export const ENGLISH: Bank = {
  greeting: {
    plain: { named: "Hello {name},", nameless: "Hello," },
    warm: { named: "Hi {name},", nameless: "Hi there," },
    formal: { named: "Dear {name},", nameless: "Good day," },
  },
  opening: {
    happy: {
      plain: [
        "thank you for writing this.",
        "thank you for taking the time to tell others.",
        "thanks for these words.",
        "good to read this, thank you.",
        "we’re glad to hear it, thank you.",
      ],
      warm: [
        "what a lovely thing to read, thank you.",
        "thank you so much for this.",
        "how kind of you to write, thank you.",
        "thank you for such a heartening review.",
        "it’s so nice to read this, thank you.",
      ],
      formal: [
        "thank you very much for your kind words.",
        "we are most grateful for your review.",
        "we appreciate that you took the time to write.",
        "it is a pleasure to read your words.",
      ],
    },
    mixed: {
      plain: [
        "thank you for telling us how it was.",
        "thank you for being so clear.",
        "thanks for writing, and for being straight with us.",
        "thank you, a review like this is useful to us.",
      ],
      warm: [
        "thank you for such an open review, it really helps.",
        "thank you for telling us so openly.",
        "thank you for putting it so clearly, that helps us.",
        "we’re grateful that you told us how it was.",
      ],
      formal: [
        "thank you for your review.",
        "we appreciate your frank words.",
        "thank you for describing so clearly how it was for you.",
        "we are grateful that you took the time to write.",
      ],
    },
    unhappy: {
      plain: [
        "we’re sorry. Thank you for telling us.",
        "we’re sorry it was like this for you.",
        "thank you for being honest with us. We’re sorry.",
        "this isn’t how it should be, and we’re sorry.",
        "we’re sorry to read this.",
        "thank you for telling us.",
        "thank you for being honest with us.",
        "thank you for letting us know.",
        "thanks for being straight with us.",
      ],
      warm: [
        "we’re truly sorry, and grateful that you told us.",
        "we’re so sorry to read this.",
        "thank you for telling us. We’re very sorry.",
        "we’re really sorry that we let you down.",
        "we’re grateful that you told us.",
        "thank you for taking the time to tell us.",
        "thank you for telling us so openly.",
        "thank you for letting us know how it was.",
      ],
      formal: [
        "please accept our sincere apologies.",
        "we regret very much that this was your experience.",
        "we apologise, and thank you for bringing it to our attention.",
        "thank you for your frank words. We apologise.",
        "thank you for bringing this to our attention.",
        "thank you for your frank words.",
        "we appreciate that you told us.",
        "thank you for describing how it was for you.",
      ],
    },
  },
  closing: {
    happy: {
      plain: ["All the best.", "Take care.", "Thanks again.", "Best wishes."],
      warm: [
        "It means a lot to us.",
        "All our best to you.",
        "Thank you again, it really does mean a lot.",
        "Warmest wishes to you.",
      ],
      formal: [
        "With our best regards.",
        "Your words are much appreciated.",
        "Thank you once again.",
        "We would be pleased to be of service again.",
      ],
    },
    mixed: {
      plain: [
        "If you’d like to tell us more, please write or ring.",
        "We’d like to hear more, if you have a moment.",
        "Please let us know if there’s anything we can do.",
        "Do get in touch if you’d like to talk about it.",
      ],
      warm: [
        "We would love to do better for you next time.",
        "Do get in touch, we would be glad to hear more.",
        "Please tell us more if you’d like to.",
        "We’d be so glad to hear from you.",
      ],
      formal: [
        "We would welcome the opportunity to do better.",
        "Please do not hesitate to contact us about it.",
        "We would be glad to hear more from you.",
        "Please contact us if you would like to discuss it.",
      ],
    },
    unhappy: {
      plain: [
        "Please get in touch with us: we want to look into it with you.",
        "We’d like to talk about it. Please ring or write to us.",
        "Please write or ring, so that we can try to put it right.",
        "Please get in touch, so that we can go through it together.",
      ],
      warm: [
        "Would you let us try to make it right? Please write or ring.",
        "Please talk to us, we would so much like to put this right.",
        "Do ring or write, we’d be glad to hear from you.",
        "We would be grateful for a word with you, whichever way suits you.",
      ],
      formal: [
        "We would be grateful if you contacted us, so that we may look into it.",
        "Please contact us at your convenience; we would like to resolve this.",
        "We kindly ask you to get in touch with us directly.",
        "We would welcome the opportunity to discuss this with you in person.",
      ],
    },
  },
  apologises: /sorry|apolog|regret/i,
  sober: {
    happy: [
      "thank you for taking the time to write to us. Our thoughts are with you.",
      "thank you for telling us. We are thinking of you.",
      "thank you for your words. We wish you all the strength you need.",
      "we are grateful that you wrote to us. Our thoughts are with you.",
    ],
    unhappy: [
      "thank you for telling us. We are very sorry, and our thoughts are with you.",
      "we are very sorry to read this. Please get in touch with us whenever you feel able to.",
      "thank you for writing. We are so sorry for what you are going through.",
    ],
  },
  wordless: {
    happy: [
      "thank you for the rating, it is good to know.",
      "thank you, we are glad that you were happy.",
      "that is lovely to see, thank you.",
      "thanks for letting others know.",
      "we are pleased, and thank you.",
    ],
    mixed: [
      "thank you for the rating. What could have been better? We would like to know.",
      "thanks for letting us know. Tell us what was missing, if you like.",
      "thank you. We would be glad to hear what we can improve.",
      "thank you for answering. A word about what was not right would help us.",
    ],
    unhappy: [
      "we are sorry that you were not happy. Please tell us what went wrong.",
      "we are sorry. Would you tell us more? Please write or ring.",
      "that is not what we want, and we are sorry. Please get in touch with us.",
      "we regret this. We would like to hear what happened, whichever way suits you.",
    ],
  },
  themes: {
    waiting: {
      happy: [
        "It’s good to hear the timing worked for you.",
        "Your time matters, so that’s good to read.",
        "We’re pleased we didn’t keep you waiting.",
        "Thank you for mentioning the timing; it matters to us.",
      ],
      unhappy: [
        "We’re sorry we kept you waiting.",
        "Your time matters, and we’re sorry we didn’t respect it better.",
        "We understand how frustrating it is to lose time like that.",
        "We’re sorry the timing went so wrong.",
      ],
    },
    price: {
      happy: [
        "We’re glad the price felt fair.",
        "It’s good to hear it was worth it to you.",
        "We’re pleased you found it good value.",
        "Thank you for mentioning the price; it’s good to know.",
      ],
      unhappy: [
        "We’re sorry the cost was a disappointment.",
        "We understand that the price matters, and we’re sorry you were unhappy with it.",
        "We’re sorry you didn’t feel it was good value.",
        "If you’d like to go through the price with us, please get in touch.",
      ],
    },
    explanation: {
      happy: [
        "We’re glad things were clear.",
        "It’s good to hear you felt well informed.",
        "Clear explanations matter to us, so thank you for mentioning them.",
        "We’re pleased it all made sense.",
      ],
      unhappy: [
        "We’re sorry things weren’t clearer.",
        "You deserved a clearer explanation, and we’re sorry.",
        "We’re sorry you weren’t better informed.",
        "If there’s anything you’d still like to know, please ask us.",
      ],
    },
    kindness: {
      happy: [
        "It’s lovely to hear you felt looked after.",
        "Thank you for the kind words about the people here.",
        "We’re so pleased you felt in good hands.",
        "It’s the people who make the difference, so that’s good to hear.",
      ],
      unhappy: [
        "We’re sorry about the way you were treated.",
        "Everyone deserves courtesy and respect, and we’re sorry you didn’t feel you got it.",
        "That isn’t how anyone should be made to feel.",
        "We’re sorry you didn’t feel well treated.",
      ],
    },
    result: {
      happy: [
        "We’re really glad it turned out well.",
        "It’s great to hear you’re happy with how it turned out.",
        "We’re delighted with a result like that.",
        "That’s just what we hope for.",
      ],
      unhappy: [
        "We’re sorry it didn’t turn out as it should have.",
        "We’re sorry about the result.",
        "You were right to expect better, and we’re sorry.",
        "We understand how disappointing that is.",
      ],
    },
    booking: {
      happy: [
        "We’re glad it was easy to arrange.",
        "It’s good to hear the arrangements suited you.",
        "Thank you for mentioning how it was arranged.",
        "We’re pleased getting it arranged went well.",
      ],
      unhappy: [
        "We’re sorry about the trouble with the arrangements.",
        "We’re sorry it wasn’t easier to arrange.",
        "Arranging it shouldn’t have been that much trouble.",
        "We’re sorry for the inconvenience before you’d even got started.",
      ],
    },
    cleanliness: {
      happy: [
        "We’re glad you noticed how clean it was.",
        "It’s good to hear it was all clean and tidy.",
        "Cleanliness matters to us, so thank you for mentioning it.",
        "We’re pleased you found it so clean.",
      ],
      unhappy: [
        "We’re sorry it wasn’t as clean as it should have been.",
        "You should be able to expect things to be clean.",
        "We’re sorry we fell short on cleanliness.",
        "We understand how unpleasant that was.",
      ],
    },
    access: {
      happy: [
        "We’re glad it was easy to get to us.",
        "It’s good to hear that getting here was easy.",
        "Thank you for mentioning that; it helps other people find their way.",
        "We’re pleased you could reach us without trouble.",
      ],
      unhappy: [
        "We’re sorry getting to us was difficult.",
        "We’re sorry getting here wasn’t easier.",
        "Thank you for pointing out how hard it was to get to us.",
        "Everyone should be able to reach us easily, and we’re sorry that wasn’t so.",
      ],
    },
    "follow-up": {
      happy: [
        "We’re glad you felt looked after afterwards, too.",
        "Being there afterwards matters to us, so thank you for mentioning it.",
        "It’s good to hear that what came afterwards was right, too.",
        "We’re pleased we could be there for you afterwards.",
      ],
      unhappy: [
        "We’re sorry we weren’t there for you afterwards.",
        "You shouldn’t have been left waiting like that.",
        "We’re sorry about how things were left.",
        "You should be able to count on us afterwards, too, and we’re sorry.",
      ],
    },
    damage: {
      happy: [
        "We’re glad everything came through safely.",
        "It’s good to hear everything was in safe hands.",
        "Thank you for noticing the care.",
        "Being careful with what’s yours matters to us.",
      ],
      unhappy: [
        "We’re very sorry about the damage.",
        "We’re sorry that something came to harm.",
        "Please get in touch so that we can talk about the damage.",
        "We understand how upsetting that is.",
      ],
    },
    thoroughness: {
      happy: [
        "Doing things properly matters to us, so that’s good to hear.",
        "Thank you for noticing the attention to detail.",
        "We’re pleased the care that went into it showed.",
        "It’s good to hear the work was done with care.",
      ],
      unhappy: [
        "We’re sorry it wasn’t done with more care.",
        "You should be able to expect more care than that.",
        "We’re sorry we weren’t more thorough.",
        "That needed more attention, and we’re sorry.",
      ],
    },
    honesty: {
      happy: [
        "Your trust means a lot to us.",
        "It’s good to hear you felt you could trust us.",
        "Being straight with people matters to us, so thank you for saying so.",
        "We’re glad you felt fairly treated.",
      ],
      unhappy: [
        "We’re sorry we gave you reason to doubt us.",
        "You should be able to trust us, and we’re sorry you felt you couldn’t.",
        "We’re sorry you didn’t feel fairly treated.",
        "We’d like to understand what happened.",
      ],
    },
  },
};
