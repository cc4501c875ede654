import { type Lexicon, rulesOf } from "../reading";
import { OF_PEOPLE } from "./people";
import { SCENES } from "./scenes";
import { BLAME, PRAISE } from "./words";
import { OF_WORK } from "./work";

/**
 * How people name things in English reviews. Patterns work on a clause in small letters with its contractions written
 * out ("did not"), and say what they find whatever negates it: reading turns that round.
 */

export const ENGLISH: Lexicon = {
  rules: rulesOf("not|never|no|nobody|nothing|without", OF_PEOPLE, OF_WORK, SCENES),
  pleases: new RegExp(
    `\\b(?:${PRAISE.slice(3, -1)}|happy|pleased|delighted|impressed|smooth|easy|quick|fast|fair|reasonable|fine|ok|okay|helpful|clear|pleasant|superb|no problem|no trouble|well|better|love|loved|enjoyed|recommend)\\b`,
    "g",
  ),
  displeases: new RegExp(
    `\\b(?:${BLAME.slice(3, -1)}|slow|wrong|nightmare|joke|mess|shambles|chaos|disgrace|unacceptable|ridiculous|annoying|frustrating|disappointed|let down|unhappy|complain|problem|problems|issues?|trouble|hate|hated|too (?:long|much|high|small|far)|lacking|mistake|mistakes|gripes?|downsides?|drawbacks?|criticisms?|complaints?|negatives?|niggles?|let ?downs?|shame|pity|minus|annoyance|frustration|poorly|badly)\\b`,
    "g",
  ),
  negates:
    /^(?:not|never|no|nobody|none|nothing|neither|nor|without|hardly|barely|scarcely|cannot|wish|fail|failed|less|lack|lacked|lacking|isn|instead)$/,
  closes: /^(?:why|how|what|that|but|although|though|because|since|when|if|after|before|until|who|which|only)$/,
  wishes:
    /\b(?:could (?:really |certainly )?(?:do|have done) with|would (?:be|have been) (?:\w+ )?(?:nice|good|great|better|helpful|appreciated|nicer) (?:if|to|for|had)|wish(?:ed)?|if only|needs? to (?:be|learn|get)|ought to|should (?:be|try|learn|have been)|room for)\b/,
  wishesAfter: /\b(?:would|could|might) not (?:hurt|go amiss|kill (?:them|him|her|you)|be a bad thing)\b/,
  sayings:
    /\b(?:for love (?:n|nor) ?(?:or)? ?money|for nothing$|day off for nothing|could not wait|can not wait|kind of|sort of thing|rather than .{1,24}$|clean (?:chimneys|windows|carpets|ovens|gutters|houses|offices|teeth|drains)|(?:will|to) update\b|update$|dropped (?:it |her |him |me |us )?off|at the end of the day|to be (?:fair|honest)|by the way|a load of|waste of space|my foot|price list|cleaning (?:products|company|lady|service)|full of beans|no wonder|good ?bye|goodness|good (?:morning|afternoon|evening)|best friend|sister in law|brother in law|in (?:great|good) pain|fast food|free from|cold mornings?|cold (?:day|night|weather|evening|winter)s?|hard of hearing|take (?:her|him|it|me|us|them) home|went home|came home)\b/g,
  takesBack:
    /^(?:(?:but |and )?there (?:was|were) (?:none|no such thing)|(?:but )?(?:not|none) (?:so|of (?:it|that))|quite the opposite|far from it)$/,
  supposes:
    /(?<!than (?:i|we|he|she) (?:had )?)(?<!as (?:i |we )?)\b(?:expect(?:ed|ing)|feared|fearing|dreaded|dreading|braced|worried about|afraid of|was told to expect)\b(?! (?:to|more|better|less))/,
};
