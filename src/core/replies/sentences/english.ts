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
        "we are glad to hear it, thank you.",
      ],
      warm: [
        "what a lovely thing to read, thank you.",
        "this made our day, thank you so much.",
        "thank you, the whole team is smiling.",
        "how kind of you to write, thank you.",
        "thank you for such a heartening message.",
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
        "thank you for telling us both sides.",
        "thank you for being so fair and clear.",
        "thanks for writing, and for being straight with us.",
        "thank you, this helps us more than praise alone would.",
      ],
      warm: [
        "thank you for such an open review, it really helps us.",
        "thanks for the kind parts, and thank you just as much for the rest.",
        "thank you for putting it so fairly.",
        "we are grateful that you told us all of it.",
      ],
      formal: [
        "thank you for your balanced review.",
        "we appreciate your frank words.",
        "we are grateful for a review that mentions both the good and the bad.",
        "thank you for describing so clearly how it was for you.",
      ],
    },
    unhappy: {
      plain: [
        "we are sorry. Thank you for telling us.",
        "we’re sorry it was like this for you.",
        "thank you for being honest with us. We’re sorry.",
        "this is not how it should be, and we are sorry.",
        "we have read this carefully, and we are sorry.",
      ],
      warm: [
        "we are truly sorry, and grateful that you told us.",
        "reading this hurts, and we are so sorry.",
        "thank you for telling us, even though it cannot have been pleasant. We are very sorry.",
        "we are really sorry that we let you down.",
      ],
      formal: [
        "please accept our sincere apologies.",
        "we regret very much that this was your experience.",
        "we apologise, and thank you for bringing it to our attention.",
        "thank you for your frank words. We apologise.",
      ],
    },
  },
  closing: {
    happy: {
      plain: ["All the best.", "Until next time.", "We will pass this on.", "Take care."],
      warm: [
        "We will pass your words on to everyone here.",
        "It means a lot to all of us.",
        "All our best to you.",
        "You have made some people very happy.",
      ],
      formal: [
        "We will gladly share your words with the team.",
        "With our best regards.",
        "We would be pleased to welcome you again.",
        "Your words encourage us all.",
      ],
    },
    mixed: {
      plain: [
        "We will work on it.",
        "We’ll take that on board.",
        "If you’d like to tell us more, please write or ring.",
        "We are going to look at it together this week.",
      ],
      warm: [
        "We would love to do better for you next time.",
        "Do get in touch, we would be glad to hear more.",
        "We have talked about it here already, and we want to do better.",
        "Your words will change something here.",
      ],
      formal: [
        "We will discuss your remarks with the team.",
        "We would welcome the opportunity to do better.",
        "Please do not hesitate to contact us about it.",
        "Your remarks will be taken seriously.",
      ],
    },
    unhappy: {
      plain: [
        "Please get in touch with us: we want to look into it with you.",
        "We would like to talk about it. Please ring or write to us.",
        "Write or ring, please, so that we can put it right.",
        "Please let us hear from you, so that we can go through it together.",
      ],
      warm: [
        "Would you let us make it right? Please write or ring, we will take the time.",
        "Please talk to us, we would so much like to put this right.",
        "Do ring or write; someone will take all the time it needs.",
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
        "Being on time matters to us, so it’s good to know it worked.",
        "Nobody likes to wait, and we are glad that it went quickly.",
        "We try hard to keep to the clock, and it is good that it showed.",
        "The people who plan our day will be pleased there was no long wait.",
      ],
      unhappy: [
        "Nobody should have to wait that long.",
        "Your time is as valuable as ours, and that was a poor use of it.",
        "We plan our days too tightly when this happens, and we will look at that.",
        "Nobody should be kept waiting without a word about why.",
      ],
    },
    price: {
      happy: [
        "We want a price to be fair and known beforehand, so thank you for saying so.",
        "It is good to hear that the price felt right.",
        "Clear prices are a promise of ours, and we are glad that it was kept.",
        "We’re glad you found it good value.",
      ],
      unhappy: [
        "A bill should never come as a surprise.",
        "What something costs has to be clear before it is done, and we will look at how that was handled.",
        "We understand that the price was not what you had in mind, and would like to go through it with you.",
        "You are right to expect a price that can be explained line by line.",
      ],
    },
    explanation: {
      happy: [
        "We think people should know what’s being done and why, so that’s good to hear.",
        "Explaining things properly takes time, and we are glad that it was worth it.",
        "Thank you for mentioning how things were explained.",
        "Questions are always welcome here, and it is good that yours were answered.",
      ],
      unhappy: [
        "You should have been told clearly what was happening and why.",
        "Leaving questions open is not good enough, and we will gladly answer them now.",
        "We owe everyone an explanation they can follow.",
        "We should have explained it better, and we need to change that.",
      ],
    },
    kindness: {
      happy: [
        "We will tell the people you mean, who will be delighted.",
        "Kindness is the part that we care about most, so that is lovely to hear.",
        "It is the people here who make the difference, and they will be glad to read this.",
        "How we treat people matters most to us, thank you for noticing.",
      ],
      unhappy: [
        "Nobody should be spoken to or treated like that.",
        "That isn’t how we want to treat people.",
        "We expect everyone here to be friendly, and we will talk about this.",
        "That is not how we want to treat people.",
      ],
    },
    result: {
      happy: [
        "We’re really glad it turned out well.",
        "Good work is what we are here for, so that is good to hear.",
        "It’s a pleasure when the work lives up to its promise.",
        "We are proud of that kind of result, thank you.",
      ],
      unhappy: [
        "Our work should last, and it’s up to us to make sure it does.",
        "We’re not happy with a result like this either, and we’d like to take another look.",
        "It should have been right the first time.",
        "We want to understand why it did not turn out as it should have.",
      ],
    },
    booking: {
      happy: [
        "It should be easy to reach us, so thank you for saying that it was.",
        "Finding a time that suits is half the job, and we’re glad it worked.",
        "The people on the phone will be pleased to read this.",
        "We are glad that getting hold of us was easy.",
      ],
      unhappy: [
        "Booking with us should be easy, and a booking should be kept.",
        "Plans that change at short notice are a nuisance, and we will look at how it came about.",
        "You should be able to rely on a booking, and that’s for us to fix.",
        "We are going to look at how our bookings are handled.",
      ],
    },
    cleanliness: {
      happy: [
        "A clean place is the least anyone can expect, and we’re glad it shows.",
        "Tidiness is a matter of respect, so that is good to hear.",
        "The people who clean will be pleased to be mentioned.",
        "Leaving things as clean as we found them is a rule here.",
      ],
      unhappy: [
        "It should have been clean, no excuses.",
        "That isn’t how our place should look, and we’ll sort it out.",
        "Cleanliness is not up for discussion, and we fell short.",
        "We will look at who cleans when, and change what has to be changed.",
      ],
    },
    access: {
      happy: [
        "It is good to know that getting here was easy.",
        "We are glad that finding us was no trouble.",
        "An easy way in helps everyone, so thank you for mentioning it.",
        "It’s good to hear that getting in and out was easy.",
      ],
      unhappy: [
        "Getting here should not be the hard part, and we will see what can be done.",
        "We know that finding a space is not easy, and are sorry for the trouble.",
        "Everyone should be able to get in easily, and we will see what we can change.",
        "Better directions and an easier way in are on our list.",
      ],
    },
    "follow-up": {
      happy: [
        "For us, the job isn’t over when the work is done, so that’s good to read.",
        "Asking how things are afterwards is important to us.",
        "We are glad that you felt looked after later, too.",
        "We are glad that our getting in touch again was welcome.",
      ],
      unhappy: [
        "When we say that we will get in touch, we have to do so.",
        "Nobody should have to chase us for an answer.",
        "It’s not acceptable that you heard nothing more, and we’ll find out why.",
        "We owed you an answer, and you didn’t get one.",
      ],
    },
    damage: {
      happy: [
        "We treat other people’s things as if they were ours, so thank you for noticing.",
        "Taking care of what’s yours is simply part of the job.",
        "Everything arriving in one piece is how it should be.",
        "We are glad that the care showed.",
      ],
      unhappy: [
        "Nothing should come to harm in our hands, and we want to put this right.",
        "Please show us what happened, so that we can look into it straight away.",
        "Anything you trust us with should come back in one piece.",
        "We would like to see it for ourselves and sort it out with you.",
      ],
    },
    thoroughness: {
      happy: [
        "We like to take the time a job needs.",
        "We would rather look twice, and are glad that it was noticed.",
        "Thank you for seeing the care behind it.",
        "Doing it properly is what we are proud of.",
      ],
      unhappy: [
        "Hurry is no excuse, and we should take the time that it needs.",
        "We don’t want anyone to feel rushed.",
        "More care was called for, and we take that seriously.",
        "We ought to have looked more closely.",
      ],
    },
    honesty: {
      happy: [
        "Your trust means a great deal to us, thank you.",
        "We only recommend what we’d choose ourselves, and it’s good that came across.",
        "A straight answer is worth more than a sale to us.",
        "Being frank is how we want to work.",
      ],
      unhappy: [
        "Nobody here should ever be talked into anything.",
        "You should be able to rely on what we say, and we’re troubled that you couldn’t.",
        "We never want to give that impression, and we’d like to know how it happened.",
        "We want to be straight with people, and are sorry that it did not feel like it.",
      ],
    },
  },
};
