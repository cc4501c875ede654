import { compiled, type Lexicon, type Rule, type Signs } from "../reading";
import type { Theme } from "../themes";
import { OF_PEOPLE } from "./people";
import { BLAME, PRAISE } from "./words";
import { OF_WORK } from "./work";

/**
 * How people name things in English reviews. Patterns work on a clause in small letters with its contractions written
 * out ("did not"), and say what they find whatever negates it: reading turns that round.
 */

const RULES: readonly Rule[] = (Object.entries({ ...OF_PEOPLE, ...OF_WORK }) as [Theme, Signs][]).flatMap(
  ([theme, { happy, unhappy, named }]) => [
    ...compiled(theme, happy, "happy"),
    ...compiled(theme, unhappy, "unhappy"),
    ...compiled(theme, named),
  ],
);

export const ENGLISH: Lexicon = {
  rules: RULES,
  pleases: new RegExp(
    `\\b(?:${PRAISE.slice(3, -1)}|happy|pleased|delighted|impressed|smooth|easy|quick|fast|fair|reasonable|fine|ok|okay|helpful|clear|pleasant|superb|no problem|no trouble|well|better|love|loved|enjoyed|recommend)\\b`,
    "g",
  ),
  displeases: new RegExp(
    `\\b(?:${BLAME.slice(3, -1)}|slow|wrong|nightmare|joke|mess|shambles|chaos|disgrace|unacceptable|ridiculous|annoying|frustrating|disappointed|let down|unhappy|complain|problem|problems|trouble|hate|hated|too (?:long|much|high|small|far)|lacking|mistake|mistakes|gripes?|downsides?|drawbacks?|criticisms?|complaints?|negatives?|niggles?|let ?downs?|shame|pity|minus|annoyance|frustration|poorly|badly)\\b`,
    "g",
  ),
  negates:
    /^(?:not|never|no|nobody|none|nothing|neither|nor|without|hardly|barely|scarcely|cannot|wish|fail|failed|less|lack|lacked|lacking|isn|instead)$/,
  closes: /^(?:why|how|what|that|but|although|though|because|since|when|if|after|before|until|who|which|only)$/,
  takesBack:
    /^(?:(?:but |and )?there (?:was|were) (?:none|no such thing)|(?:but )?(?:not|none) (?:so|of (?:it|that))|quite the opposite|far from it)$/,
  supposes:
    /(?<!than (?:i|we|he|she) (?:had )?)(?<!as (?:i |we )?)\b(?:expect(?:ed|ing)|feared|fearing|dreaded|dreading|braced|worried about|afraid of|was told to expect)\b(?! (?:to|more|better|less))/,
};
