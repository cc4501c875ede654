import { UNHAPPY_UP_TO } from "../reviews/rating";
import { foldLetters } from "../words/fold";
import type { Language } from "../words/languages";

/**
 * Whether a review speaks of something so grave that a cheerful reply would hurt: a death, an illness, danger, or a
 * serious accusation. Better ten sober replies too many than one that rejoices over grief, so words decide here and not
 * whole sentences. Edit the words of a language here.
 */

export const GRAVITIES = ["loss", "illness", "danger", "allegation"] as const;
export type Gravity = (typeof GRAVITIES)[number];

type Words = Record<Gravity, readonly string[]> & {
  /** Accusations where the writer is unhappy; the same words are harmless in praise. */
  accusing: readonly string[];
};

/** Patterns in small letters without accents, at the beginning and end of words. */
const WORDS: Record<Language, Words> = {
  en: {
    loss: [
      "died|(?:he|she|it|dog|cat|who) dies|dying|deaths?|dead|deceased|lifeless",
      "pass(?:ed|es|ing)? (?:away|over|peacefully|suddenly|in (?:her|his|its|their) (?:sleep|arms)|on(?! (?:my|the|to|our|your|his|her|their|a|all|this|that|it|first)))",
      "(?<!\\bi )(?<!\\bwe )passed (?:last|this) (?:night|week|month|year|morning|spring|summer|autumn|winter)(?! (?:with|first|at|on))",
      "(?:the |her |his |my |our |sudden )passing|passing of",
      "(?:lost|losing|lose|loss of|missing) (?:(?:my|our|his|her|their|a|the|both|one of|an) )+(?:\\w+ ){0,3}(?:dogs?|cats?|pets?|pupp(?:y|ies)|kittens?|horses?|pon(?:y|ies)|rabbits?|bunn(?:y|ies)|hamsters?|birds?|parrots?|guinea pigs?|boy|girl|lad|mum|mom|mam|mummy|mommy|mother|dad|daddy|father|parents?|husband|wife|wives|partner|fiancee?|sons?|daughters?|bab(?:y|ies)|child|children|twins?|brothers?|sisters?|siblings?|nan|nana|nanny|gran|granny|grandma|grandad|grandpa|grand(?:mother|father|parents?|son|daughter|child)|aunts?|aunty|uncles?|cousins?|nieces?|nephews?|friends?|companion|family|beloved|everything|home|house)",
      "(?:my|our|his|her|their|your|this|such a|terrible|great|recent) loss(?:es)?|(?:since|when|after|as) (?:we|i|she|he|they) lost",
      "put(?:ting)? (?:\\w+ ){1,4}?(?:to sleep|down|to rest)|put to sleep|laid to rest|rest in peace|r i p|rip (?:little|sweet|my|our|beautiful|dear|buddy|angel|old)",
      "euthani[sz]\\w*|cremat\\w+|crematorium|(?:his|her|their|its|mum s|dad s|scatter\\w* the) ashes|urns?|funerals?|memorial service|memorials?|burial|buried|bury|coffin|casket|grave(?:side)?|cemetery|undertakers?|mourn\\w*|grie[fv]\\w*|bereave\\w*|condolences?|sympath(?:y|ies) card|widow(?:ed|er|s)?|orphan\\w*",
      "(?:my|our|his|her|their) late (?:\\w+ )?(?:husband|wife|mum|mom|mother|dad|father|son|daughter|partner|brother|sister|gran\\w*|dog|cat|friend)",
      "miscarr\\w+|still ?born|still ?birth\\w*|ectopic|lost the (?:baby|pregnancy)|(?:lost|losing|end of) (?:my|our|a|the) pregnanc(?:y|ies)|terminat(?:ed|ion) (?:my|our|the|of) pregnancy|cot death|angel baby|infertil\\w+|ivf failed|failed ivf",
      "rainbow bridge|(?:say|saying|said|our|my|final|last|the) goodbyes?|(?:his|her|its|their) last (?:day|week|night)s?|last (?:moments|hours|days|breath|journey|hour|day with|walk|goodbyes?)|final (?:moments|hours|days|journey|hour)|end of (?:\\w+ )?life|(?:had|time|have|ready|decision) to let (?:\\w+ ){1,3}go|letting (?:him|her|our \\w+|my \\w+) go|no longer with us|gone too soon|(?:is|up|now) in heaven|crossed over|is gone now|(?:did not|didn t|would not|wouldn t) (?:make it(?! (?:to|in|on|by|home|any|there|easy|clear|right|feel|out|up|for))|pull through|survive|wake up)|(?:could not|couldn t|cannot) be saved|(?:could not|couldn t) save (?:him|her|it|them|our|my)",
      "suicid\\w*|(?:took|taken|take) (?:his|her|their|my) (?:own )?li(?:fe|ves)|self harm\\w*|overdos\\w*",
      "hospice|palliative|terminal(?:ly)? (?:ill\\w*|cancer|diagnosis|disease)|death ?bed",
    ],
    illness: [
      "cancer\\w*|tumou?rs?|leuk\\w+|lymphoma|chemo\\w*|radiotherapy|oncolog\\w*|metasta\\w+|biops(?:y|ies)|malignan\\w+|mastectomy",
      "(?:had|has|having|suffered|after|with) (?:a |an |his |her |my )?(?:\\w+ )?(?:strokes?|heart attacks?|seizures?|aneurysm|haemorrhage|hemorrhage)|my stroke|cardiac arrest|dementia|alzheimer\\w*|parkinson\\w*|multiple sclerosis|motor neurone|epilep\\w+|sepsis|mening\\w+",
      "intensive care|life support|in a coma|coma|organ failure|(?:kidney|heart|liver|renal) failure|(?:kidney|heart|liver|organ|lung|marrow) transplant|amputat\\w+|paraly[sz]\\w+|disabled by",
      "(?:critically|seriously|gravely|very|terminally|so|desperately) ill|life threatening|life or death|near death|nearly died|fight(?:ing)? for (?:his|her|my|their) life|rushed (?:to|into|in)|(?:saved|saving|save|saves) (?:\\w+ ){1,4}?li(?:fe|ves)|premature (?:baby|twins|birth)|born prematurely|neonatal",
      "depression|depressed|ptsd|breakdown|panic attacks?|mental health|traumati[sz]\\w+|trauma|anorexi\\w+|addiction",
    ],
    danger: [
      "carbon monoxide|gas leaks?|leaking gas|electrocut\\w+|electric shock|caught fire|house fire|fire in (?:our|my|the) (?:house|home|kitchen)|burn(?:ed|t) down|explod\\w+|explosions?|flooded (?:our|my) (?:house|home)|our house flooded|evict\\w+|homeless",
      "(?:could have|nearly|almost|might have) (?:been )?(?:died|killed|kill|drowned|electrocuted|seriously)|chok(?:ed|ing)|poison\\w*|anaphyla\\w+|allergic reaction|ambulance|emergency room|a and e|hospitali[sz]ed|in hospital|to hospital|car crash|car accident|accident in which|domestic (?:violence|abuse)|abusive (?:partner|husband|ex|relationship)|stalk(?:ed|er|ing)|kidnap\\w*|held at",
      "(?:was|were|been|got|being|had been) (?:robbed|burgled|mugged|attacked|assaulted|stabbed|raped)|burglar\\w*|break in|stolen|refugees?|(?:from|by|during|fled|in) (?:the |a )?war(?! (?:on|of|against))|war zone|earthquake",
    ],
    allegation: [
      "grop\\w+|molest\\w*|sexual\\w*|rap(?:e|ed|ist)|pervert\\w*|indecent\\w*|inappropriate\\w*|harass\\w*|assault\\w*|(?:touched|touching|touches) (?:me|my|her|his|him|us|our|them|their|a child|the children|girls?|boys?|women|patients)|paedophil\\w*|pedophil\\w*|voyeur\\w*|(?:hidden|secret) camera|filmed (?:me|my|her|him|us)|exposed himself",
      "stole|steals|stealing|to steal|theft|thie(?:f|ves|ving)|fraud\\w*|embezzl\\w*|forge(?:d|ry) (?:my|a|the|our)? ?signatures?|blackmail\\w*|extort\\w*|brib\\w+|pocketed",
      "racis\\w+|racial\\w*|discriminat\\w*|sexis[tm]\\w*|homophob\\w*|transphob\\w*|xenophob\\w*|islamophob\\w*|antisemit\\w*|anti semit\\w*|bigot\\w*|slurs?|because (?:i am|i m|we are|we re|of my|she is|he is|she s|he s|they are) (?:\\w+ )?(?:black|brown|asian|african|indian|pakistani|chinese|polish|romanian|muslim|islamic|jewish|jew|hindu|sikh|gay|lesbian|queer|trans|disabled|autistic|deaf|blind|foreign\\w*|an immigrant|a woman|female|old|pregnant|wheelchair|skin|accent|race|religion|hijab|headscarf|nationality|disability|age|gender|sexuality)",
      "(?:hit|hits|hitting|kick(?:ed|ing|s)?|punch(?:ed|ing)?|slapp(?:ed|ing)|beat|beats|beaten|beating|strangl\\w+|throttl\\w+|whipped) (?:him|her|me(?! to)|(?:my|our|the|a|his|her) (?:\\w+ )?(?:dogs?|cats?|horses?|child|children|bab(?:y|ies)|pupp(?:y|ies)|kids?|boys?|girls?|sons?|daughters?|wife|husband|mother|father|arm|face|head))|abus(?:e|ed|es|ive|ing|er)|cruel\\w*|tortur(?:ed|ing) (?:my|our|the|him|her)|starv(?:ed|ing) (?:my|our|the|him|her)",
      "negligen\\w*|malpractice|(?:serious|badly|severely|permanent\\w*) (?:\\w+ )?(?:injur\\w+|hurt|burn\\w*|scar\\w*|damage to (?:my|his|her))|injur(?:ed|y|ies|ing) (?:me|my|her|him|his|our)|(?:broke|fractured|dislocated) (?:my|his|her|our \\w+ s?) ?(?:arm|leg|tooth|teeth|jaw|rib|ribs|hip|wrist|finger|nose|tail|paw|ankle|shoulder|skull|back|neck)|wrong (?:medication|medicine|dose|drug|leg|tooth|patient|operation)|killed (?:him|her|them|(?:my|our|his|her|their) \\w+)",
      "(?:threaten\\w*|death threats?|threats? (?:of|to)|drunk(?:en)?|smell(?:ed|s|t|ing)? of (?:alcohol|drink|booze|weed)|on drugs|stoned|high on)",
    ],
    accusing: [
      "stolen|lawyers?|solicitors?|attorneys?|suing|to sue|will sue|ll sue|sued|legal (?:action|advice|proceedings|team|claim)|lawsuit|(?:small claims|in|to) court|court (?:case|action)|trading standards|ombudsman|police|tribunal|prosecut\\w+|compensation claim|claim(?:ing)? compensation|regulator|licen[cs]ing board|report(?:ed|ing) (?:you|them|this|him|her) to|health and safety|data (?:breach|protection)|gdpr|criminal\\w*|crime|illegal\\w*|scam\\w*|conned|con (?:man|men|artists?)|(?:ring|cash|money|jewell?ery|purse|wallet|necklace|watch|medication|dog|cat|phone) (?:is|was|are|were|went|has gone|had gone) missing|missing from my (?:bag|purse|wallet|house|car|account|room|home|drawer)",
      "injur\\w+|bleed(?:ing|s)?|infect\\w+|scarr?(?:ed|ing|s)?|burn(?:ed|t|s) (?:me|him|her|my (?:hands?|skin|scalp|face|arms?|legs?|heads?|ears?|neck|fingers?|daughter|son|dog|cat))|scald\\w*|bruis\\w+|unsafe|dangerous\\w*|hazard\\w*|nearly (?:killed|died)|unconscious|rough with|rough handling|locked (?:in|me|him|her)|left alone|alone with (?:my|our|a|the)|neglect\\w*|screamed at|shouted at (?:my|our|me|the)|swore at|bullied|bullying|intimidat\\w*|creep(?:y|s|ed)|stared at|leer\\w*",
      "(?:my|our|a|the|her|his) (?:\\w+ )?(?:son|daughter|child|children|kids?|toddler|baby|teenager|grandchild|grandson|granddaughter|minors?|pupils?|students?|\\d+ year old|year old)(?: \\w+){0,6} (?:alone|scared|frightened|afraid|hurt|upset|cried|crying|sobbing|touched|yelled|shouted|swore|unsupervised)|under ?age|(?:is|was|are|were) (?:a )?minors?",
    ],
  },
  es: {
    loss: [
      "muri\\w*|muert[oae]s?|muerte|morir\\w*|fallec\\w*|difunt[oa]s?|nos dejo|se fue al cielo|descans\\w+ en paz|paso a mejor vida",
      "perd\\w+ (?:a |de )?(?:(?:mi|nuestr[oa]|su|un|una|el|la|al)s? )+(?:\\w+ ){0,2}(?:perr\\w+|gat\\w+|mascota|caballo|conejo|madre|mama|padre|papa|marido|esposo|esposa|mujer|hij[oa]s?|bebe|herman[oa]s?|abuel\\w+|ti[oa]|amig[oa]s?|pareja|embarazo|todo|casa)|(?:mi|nuestra|su|gran|triste) perdida|perdida de (?:mi|nuestr|su|un)\\w*",
      "eutanasi\\w*|sacrific\\w+|dormir (?:a|para siempre)|dormirl[oa]|inciner\\w+|cremat\\w*|crem[oae]\\w*|cenizas|funeral\\w*|entierro|enterr\\w+|velatorio|luto|duelo|condolencias|pesame|viud[oa]s?|huerfan\\w+",
      "abort\\w*|aborto espontaneo|nacio muert\\w+|despedi(?:da|rnos|rme)|decir(?:le)? adios|ultimo adios|ultimos (?:momentos|dias|instantes|minutos)|ultimas horas|final de su vida|puente (?:del )?arcoiris|suicid\\w*|quit\\w+ la vida|no sobrevivio|no se pudo salvar|cuidados paliativos|paliativ\\w+|terminal(?:es)?",
    ],
    illness: [
      "cancer\\w*|tumor\\w*|leucemia|linfoma|quimio\\w*|radioterapia|oncolog\\w*|metastasis|biopsia|ictus|infarto|derrame|derrame cerebral|demencia|alzheimer|parkinson|esclerosis|epilep\\w+|convulsion\\w*|cuidados intensivos|uci|coma|trasplante|amput\\w+|parali\\w+|gravemente|muy enferm\\w+|enfermedad grave|salv\\w+ la vida|entre la vida y la muerte|prematur\\w+|depresion|ansiedad|trauma\\w*",
    ],
    danger: [
      "monoxido|fuga de gas|escape de gas|electrocut\\w+|descarga electrica|se incendio|incendio|explo(?:to|sion|tar)\\w*|ambulancia|urgencias|hospital\\w*|intoxic\\w+|envenen\\w+|alergi\\w+ grave|anafila\\w+|casi (?:muere|muero|me mata|se muere)|accidente|violencia|maltrat\\w+|robaron en|me robaron|nos robaron|atrac\\w+|desahuci\\w+|guerra",
    ],
    allegation: [
      "me toco|la toco|lo toco|tocaba a|toca(?:ba|ndo|ron|r)? (?:a )?(?:mi|la|las|los|l[oa]s nin\\w+)|manose\\w+|sexual\\w*|acos\\w+|abuso sexual|abus(?:o|aron) de (?:mi|ella|el|un|una|nin)\\w*|violo|violador|violaron|pederast\\w*|pervertid\\w*|indecent\\w*|me grab\\w+",
      "rob(?:o|aron|ado|ar|an|ando)|hurt(?:o|aron)|ladron\\w*|fraude\\w*|estaf\\w+|falsific\\w+|soborn\\w+|chantaj\\w+",
      "racis\\w+|discrimin\\w+|machis\\w+|homofob\\w*|transfob\\w*|xenofob\\w*|antisemit\\w*|por ser (?:negr|gitan|latin|moro|musulman|judi|gay|lesbiana|mujer|extranjer|inmigrante|discapacitad|trans)\\w*|por mi (?:color|acento|religion|discapacidad|raza|edad)",
      "(?:golpe|pate|peg|abofete|azot)\\w+ (?:a )?(?:mi|me|al|la|l[oa]s|un|una)|maltrat\\w+|tortur\\w+|cruel\\w*|negligen\\w*|mala praxis|me rompi\\w+|le rompi\\w+|me quem\\w+|lesion\\w*|medicacion equivocada|dosis equivocada|mat(?:aron|o) a (?:mi|nuestr)\\w*|amenaz\\w+|borrach\\w+|olia a alcohol|drogad\\w+",
    ],
    accusing: [
      "abogad\\w+|denunci\\w+|demand(?:a|are|ar|aremos)\\b|juicio|juzgado|tribunal\\w*|policia|consumo|hoja de reclamaciones|delito|ilegal\\w*|falta(?:ba)? dinero|sangr\\w+|infec\\w+|cicatri\\w+|quemad\\w+|herid\\w+|peligros\\w*|menor(?:es)? de edad|mi hij[oa](?: \\w+){0,6} (?:sol[oa]|miedo|llor\\w+|asustad\\w+)|grit\\w+ a mi",
    ],
  },
  fr: {
    loss: [
      "mort|morte|morts|mourir|meurt|mourut|mourant\\w*|deces|deced\\w+|defunt\\w*|disparition de (?:mon|ma|notre|nos)|nous a quittes?|parti (?:au ciel|trop tot|paisiblement|en paix)|partie (?:au ciel|trop tot|paisiblement|en paix)|repose en paix|s est eteint\\w*",
      "perd\\w+ (?:(?:mon|ma|mes|notre|nos|son|sa|ses|un|une|le|la) )+(?:\\w+ ){0,2}(?:chien\\w*|chat\\w*|animal|compagnon|cheval|lapin|mere|maman|pere|papa|mari|femme|epou\\w+|fils|fille|bebe|enfant\\w*|frere|soeur|grand\\w*|mamie|papi|oncle|tante|ami\\w*|conjoint\\w*|tout|maison)|(?:la|notre|ma|cette|sa) perte|perte de (?:mon|ma|notre|nos|mes)",
      "euthana\\w+|endorm\\w+ (?:notre|mon|ma|pour|a jamais|definitivement)|l endormir|le faire piquer|la faire piquer|crema\\w+|incinera\\w+|cendres|obseques|funerailles|enterre\\w*|deuil|condoleances|veu(?:f|ve)s?|orphelin\\w*|fausse couche|mort ne|ivg|interruption de grossesse|adieux?|derniers? (?:instants|moments|jours|souffle|au revoir|voyage|adieu)|dernieres heures|fin de (?:sa |la )?vie|arc en ciel|suicid\\w*|mis fin a ses jours|n a pas survecu|pas pu (?:le|la|les|etre) sauve\\w*|soins palliatifs|phase terminale",
    ],
    illness: [
      "cancer\\w*|tumeur\\w*|leucemie|lymphome|chimio\\w*|radiotherapie|oncolog\\w*|metastases?|biopsie|avc|infarctus|crise cardiaque|arret cardiaque|demence|alzheimer|parkinson|sclerose|epilep\\w+|soins intensifs|reanimation|coma|greffe|amput\\w+|paraly\\w+|gravement malade|maladie grave|sauve la vie|entre la vie et la mort|premature\\w*|depression|burn ?out|traumati\\w+",
    ],
    danger: [
      "monoxyde|fuite de gaz|electrocut\\w+|pris feu|incendie\\w*|explo(?:se|sion|ser)\\w*|ambulance|urgences|hopital|hospitalis\\w+|intoxi\\w+|empoison\\w+|choc anaphylactique|failli (?:mourir|y passer)|accident|violences? conjugales?|cambriol\\w+|agress\\w+|expuls\\w+|guerre",
    ],
    allegation: [
      "attouche\\w*|touche (?:ma|mon|mes|la poitrine|les fesses|la cuisse|les enfants)|m a touchee?|sexuel\\w*|harcel\\w+|viol|viole\\w*|pervers\\w*|pedophil\\w*|indecen\\w*|deplace\\w* (?:gestes?|propos)|gestes? deplaces?|m a filmee?",
      "vol|vole|volee?s?|voleur\\w*|voleuse|vols|derob\\w+|fraud\\w*|escro\\w*|falsifi\\w+|chantage|pot de vin",
      "racis\\w+|discrimin\\w+|sexis\\w+|homophob\\w*|transphob\\w*|xenophob\\w*|antisemit\\w*|islamophob\\w*|parce que je suis (?:noire?|arabe|musulman\\w*|juif|juive|gay|lesbienne|une femme|etrang\\w+|handicap\\w+|enceinte|trans)|a cause de (?:ma couleur|mon accent|ma religion|mon handicap|mon age|mes origines)",
      "frapp\\w+|gifl\\w+|coups? de (?:pied|poing)|maltrait\\w+|tortur\\w+|cruel\\w*|cruaute|negligen\\w*|faute (?:medicale|grave)|m a casse|lui a casse|bless(?:e|ee|ure|ures|es)|brulee?s?|mauvais (?:medicament|dosage)|tue (?:mon|ma|notre)|menac\\w+|ivre|saoul|sentait l alcool|drogue",
    ],
    accusing: [
      "avocat\\w*|plainte|au tribunal|tribunaux|en justice|police|gendarm\\w*|illegal\\w*|delit|saign\\w+|infect\\w+|cicatri\\w+|dangereu\\w+|mon (?:fils|enfant)(?: \\w+){0,6} (?:seul|peur|pleur\\w+)|ma fille(?: \\w+){0,6} (?:seule|peur|pleur\\w+)|cri\\w* sur (?:mon|ma|mes)",
    ],
  },
  de: {
    loss: [
      "gestorben\\w*|starb\\w*|sterben\\w*|stirbt|tod|todes\\w*|(?:ist|war|sind) tot|toter|totes|verstorben\\w*|verstarb\\w*|verschied\\w*|von uns gegangen|eingeschlafen fur immer|friedlich eingeschlafen|heimgegangen|ruhe in frieden",
      "verlor\\w*|verlust\\w*|eingeschlafer\\w+|einschlafer\\w+|erlos\\w+|regenbogenbrucke|eingeaschert\\w*|einascherung|krematorium|asche|urne|beerdig\\w*|begrabnis|bestatt\\w*|trauer\\w*|beileid|anteilnahme|witwe\\w*|hinterblieb\\w*|fehlgeburt\\w*|totgeburt\\w*|stillgeburt|sternenkind\\w*|schwangerschaftsabbruch|abschied\\w*|letzte[nr]? (?:stunden|tage|moment\\w*|weg|reise|atemzug|gang|lebensphase)|lebensende|suizid\\w*|selbstmord\\w*|das leben genommen|nicht uberlebt|nicht (?:mehr )?(?:retten|gerettet)|hospiz|palliativ\\w*|unheilbar\\w*|todkrank\\w*",
    ],
    illness: [
      "krebs\\w*|brustkrebs|tumor\\w*|leukamie|lymphom|chemo\\w*|bestrahlung|onkolog\\w*|metastasen?|schlaganfall\\w*|herzinfarkt\\w*|herzstillstand|demenz\\w*|alzheimer|parkinson|multiple sklerose|epilep\\w+|intensivstation|koma|transplant\\w*|amput\\w+|gelahmt|schwer(?:st)?krank\\w*|schwer erkrankt|lebensgefahr\\w*|leben gerettet|fruhchen|fruhgeburt|depression\\w*|burnout|trauma\\w*",
    ],
    danger: [
      "kohlenmonoxid|gasleck|gasaustritt|stromschlag|(?:ein|der|beim|im) brand|hausbrand|abgebrannt|brannte\\w*|explo(?:dier|sion)\\w*|notarzt|notaufnahme|krankenwagen|rettungswagen|krankenhaus|klinik eingeliefert|vergift\\w*|allergischer schock|anaphyla\\w*|beinahe gestorben|fast gestorben|unfall|unfalls|hausliche gewalt|einbruch\\w*|eingebrochen|uberfallen|obdachlos\\w*|krieg\\w*",
    ],
    allegation: [
      "angefasst|begrapscht|begrabscht|betatscht|unsittlich\\w*|sexuell\\w*|belastig\\w*|missbrauch\\w*|vergewaltig\\w*|pervers\\w*|padophil\\w*|heimlich gefilmt|anzuglich\\w*",
      "gestohlen\\w*|klau\\w*|geklaut\\w*|diebstahl\\w*|dieb\\w*|betrug\\w*|betrog\\w*|betrieger\\w*|unterschlag\\w*|gefalscht\\w*|erpress\\w*|bestech\\w*",
      "rassis\\w+|diskriminier\\w*|sexis\\w+|homophob\\w*|transphob\\w*|auslanderfeindlich\\w*|fremdenfeindlich\\w*|antisemit\\w*|weil ich (?:\\w+ )?(?:schwarz|turk\\w*|arab\\w*|muslim\\w*|judisch|schwul|lesbisch|behindert|eine frau|auslander\\w*|schwanger|trans)|wegen mein\\w* (?:hautfarbe|akzent|herkunft|religion|behinderung|kopftuch|alter\\w*)",
      "geschlagen|schlug\\w*|getreten|geohrfeigt|verprugel\\w*|misshandel\\w*|gequalt\\w*|qualen|qualte\\w*|grausam\\w*|fahrlassig\\w*|kunstfehler|behandlungsfehler|verletz\\w*|(?:arm|bein|nase|zahn|rippe|finger|hand) gebrochen|verbruht|falsches medikament|falsche (?:dosis|medikamente)|umgebracht|getotet|bedroh\\w*|drohung\\w*|betrunken\\w*|alkoholfahne|nach alkohol|unter drogen",
    ],
    accusing: [
      "anwalt\\w*|anwalte|rechtsanwalt\\w*|verklag\\w*|vor gericht|gerichtlich\\w*|anzeige erstatt\\w*|strafanzeige|polizei|strafbar\\w*|illegal\\w*|verbraucherschutz|verbraucherzentrale|datenschutz\\w*|verschwunden|fehlt geld|blutend\\w*|geblutet|entzund\\w*|infekt\\w*|narbe\\w*|gefahrlich\\w*|minderjahrig\\w*|mein (?:sohn|kind)(?: \\w+){0,6} (?:allein|angst|weint\\w*)|meine tochter(?: \\w+){0,6} (?:allein|angst|weint\\w*)|angeschrien|angebrullt",
    ],
  },
  pt: {
    loss: [
      "morr\\w+|mort[eoa]s?|falec\\w+|falecid[oa]s?|obito|partiu (?:para|em paz|cedo|tranquil\\w+)|nos deixou|descans\\w+ em paz|virou estrelinha",
      "perd\\w+ (?:(?:o|a|os|as|meu|minha|nosso|nossa|um|uma|do|da) )+(?:\\w+ ){0,2}(?:cao|caes|cachorr\\w+|gat\\w+|animal|mae|pai|marido|esposa|esposo|mulher|filh[oa]s?|bebe|irma\\w*|irmao|av[oa]|tia|tio|amig[oa]s?|companheir\\w+|casa|tudo)|(?:a|minha|nossa|sua|grande|essa) perda|perda (?:do|da|de)",
      "eutanasi\\w*|abat(?:er|ido|ida)|adormecer para sempre|cremac\\w*|cremad\\w*|cinzas|funeral|funerais|velorio|enterro|enterr\\w+|luto|condolencias|pesames|viuv[oa]s?|orfa\\w*|aborto\\w*|nado morto|natimorto|despedi\\w+|dizer adeus|ultimo adeus|ultimos (?:momentos|dias|instantes)|ultimas horas|fim da vida|fim de vida|suicid\\w*|tirou a (?:propria )?vida|nao resistiu|nao sobreviveu|cuidados paliativos|paliativ\\w+|termina(?:l|is)",
    ],
    illness: [
      "cancro\\w*|cancer\\w*|tumor\\w*|leucemia|linfoma|quimio\\w*|radioterapia|oncolog\\w*|metastases?|avc|derrame|enfarte|infarto|ataque cardiaco|paragem cardiaca|demencia|alzheimer|parkinson|esclerose|epilep\\w+|cuidados intensivos|uti|coma|transplante|amput\\w+|parali\\w+|gravemente doente|doenca grave|salv\\w+ a vida|entre a vida e a morte|prematur\\w+|depressao|trauma\\w*",
    ],
    danger: [
      "monoxido|fuga de gas|vazamento de gas|eletrocut\\w+|choque eletrico|incendio\\w*|pegou fogo|explo(?:diu|sao|dir)|ambulancia|urgencias?|pronto socorro|hospital\\w*|intoxic\\w+|envenen\\w+|anafila\\w+|quase (?:morr\\w+|mat\\w+)|acidente|violencia|assalt\\w+|despej\\w+|guerra",
    ],
    allegation: [
      "apalp\\w+|tocou (?:me|na|no|em mim|nas)|me tocou|sexual\\w*|assedi\\w+|abuso sexual|abus(?:ou|aram) (?:de|da|do)|viol(?:ou|ador|acao)|estupr\\w*|pedofil\\w*|pervertid\\w*|indecent\\w*|filmou",
      "roub(?:o|ou|aram|ad[oa]s?|ar)|furt(?:o|ou|aram|ad[oa]s?)|ladra\\w*|ladroes|fraud\\w*|burl(?:a|ou|ad[oa]s?|oes)|vigar\\w+|golpista\\w*|falsific\\w+|suborn\\w+|chantag\\w+",
      "racis\\w+|racial|discrimin\\w+|machis\\w+|sexis\\w+|homofob\\w*|transfob\\w*|xenofob\\w*|antissemit\\w*|por ser (?:negr|preto|preta|cigan|brasileir|muculman|jude|gay|lesbica|mulher|estrangeir|imigrante|deficiente|trans)\\w*|por causa d[oa] (?:minha cor|meu sotaque|minha religiao|minha deficiencia|minha idade)",
      "bateu (?:em|no|na)|bateram|pontape\\w*|esbofete\\w+|espanc\\w+|maus tratos|maltrat\\w+|tortur\\w+|cruel\\w*|crueldade|negligen\\w*|erro medico|partiu me|quebrou (?:o|a|meu|minha)|queimou (?:me|o|a)|ferimento\\w*|lesao|lesoes|medicacao errada|dose errada|mat(?:ou|aram) (?:o|a|meu|minha)|ameac\\w+|bebado\\w*|embriagad\\w+|cheirava a alcool|drogad\\w+",
    ],
    accusing: [
      "advogad\\w+|process(?:ar|o|arei)|tribunal|justica|policia|queixa|livro de reclamacoes|procon|ilegal\\w*|crime|dinheiro (?:desaparec\\w+|sumiu)|sangr\\w+|infe(?:c|ccao|tad)\\w*|cicatri\\w+|perigos\\w*|menor(?:es)? de idade|meu filho(?: \\w+){0,6} (?:sozinho|medo|chor\\w+)|minha filha(?: \\w+){0,6} (?:sozinha|medo|chor\\w+)|grit\\w+ com (?:o|a|meu|minha)",
    ],
  },
  pl: {
    loss: [
      "zmarl\\w*|umar\\w+|umier\\w+|umrze\\w*|smier(?:c|ci|cia|telnie)\\w*|niezyj\\w+|nie zyje|(?:od nas|nam|pies|kot|piesek|kotek|tata|mama|babcia|dziadek) (?:odszed\\w*|odesz\\w+)|(?:odszed\\w*|odesz\\w+) (?:na zawsze|od nas|spokojnie|za teczowy)|pozegna\\w*|pozegnani\\w+|spoczyw\\w+ w pokoju",
      "strac\\w+ (?:\\w+ ){0,3}(?:psa|psin\\w*|piesk\\w*|kota|kotk\\w*|zwierz\\w*|mame|matke|tate|ojca|meza|zone|syna|corke|dziecko|brata|siostre|babcie|dziadka|przyjaci\\w+|ciaze|dom|wszystko)|utrat\\w+|strat[aeyz]\\b|stracie|eutanazj\\w*|uspi\\w+|uspieni\\w+|kremacj\\w*|prochy|prochow|urn[aey]|pogrzeb\\w*|pochow\\w+|zalob\\w*|kondolencj\\w*|wyrazy wspolczucia|wdow\\w+|wdowiec|poronil\\w*|poronieni\\w*|martwe urodzenie|ostatni\\w* (?:chwil\\w*|dni|godzin\\w*|pozegnani\\w*|drog\\w*)|koniec zycia|teczowy\\w* most\\w*|za teczowym|samoboj\\w*|odebral\\w* sobie zycie|nie przezyl\\w*|nie udalo sie uratowac|hospicjum|paliatywn\\w*|terminaln\\w*",
    ],
    illness: [
      "raka|rakiem|nowotwor\\w*|guz\\w*|bialaczk\\w*|chlonia\\w*|chemi(?:a|i|e|oterapi)\\w*|radioterapi\\w*|onkolog\\w*|przerzut\\w*|udar\\w*|zawal\\w*|demencj\\w*|alzheimer\\w*|parkinson\\w*|stwardnienie|padaczk\\w*|intensywn\\w* terapi\\w*|oiom\\w*|spiaczk\\w*|przeszczep\\w*|amputacj\\w*|sparalizowan\\w*|ciezko chor\\w*|ciezk\\w* chorob\\w*|smiertelnie chor\\w*|uratowal\\w* (?:\\w+ )?zycie|uratowali\\w* (?:\\w+ )?zycie|wczesniak\\w*|depresj\\w*|traum\\w*",
    ],
    danger: [
      "zaczadz\\w*|tlenek wegla|wyciek gazu|porazenie pradem|porazil\\w*|pozar\\w*|spalil\\w*|wybuch\\w*|eksplo\\w*|karetk\\w*|pogotowi\\w*|szpital\\w*|zatru\\w*|wstrzas anafilaktyczny|omal nie (?:zgin\\w+|umar\\w+)|wypad\\w+|przemoc\\w*|wlamani\\w*|wlamal\\w*|napad\\w*|pobit\\w*|eksmisj\\w*|wojn\\w*",
    ],
    allegation: [
      "dotyka\\w*|obmacyw\\w*|molest\\w*|seksual\\w*|nekal\\w*|nekani\\w*|gwalt\\w*|zgwalc\\w*|pedofil\\w*|zbocze\\w*|nieprzyzwoit\\w*|nagrywal\\w* mnie",
      "ukrad\\w*|kradn\\w*|kradziez\\w*|zlodziej\\w*|oszust\\w*|oszuk\\w*|sfalszow\\w*|wyludz\\w*|szantaz\\w*|lapowk\\w*|defraud\\w*",
      "rasis\\w*|rasizm\\w*|dyskrymin\\w*|seksis\\w*|homofob\\w*|transfob\\w*|ksenofob\\w*|antysemi\\w*|bo jestem (?:\\w+ )?(?:czarn\\w*|ukrain\\w*|zyd\\w*|muzulm\\w*|gej\\w*|lesbijk\\w*|kobiet\\w*|obcokrajow\\w*|niepelnospraw\\w*|w ciazy|trans)|ze wzgledu na (?:moj|kolor|pochodzenie|religi\\w*|niepelnosprawnosc|wiek|akcent)",
      "uderzyl\\w*|kopn\\w*|spoliczkow\\w*|bil (?:mojego|moja|psa|dziecko)|zneca\\w*|maltretow\\w*|tortur\\w*|okrutn\\w*|okrucienstw\\w*|zaniedban\\w*|blad lekarski|bledy? lekarsk\\w*|zlamal\\w* (?:mi|mu|jej)|okaleczyl\\w*|poparzyl\\w*|zranil\\w*|zly lek|zla dawk\\w*|zabil\\w*|grozil\\w*|grozb\\w*|pijan\\w*|smierdzial\\w* alkoholem|czuc bylo alkohol|nacpan\\w*",
    ],
    accusing: [
      "prawnik\\w*|adwokat\\w*|pozew|pozwe|pozwiemy|do sadu|w sadzie|sadow\\w*|policj\\w*|prokuratur\\w*|nielegaln\\w*|przestepstw\\w*|rzecznik\\w*|uokik|rodo|zginely pieniadze|krwaw\\w*|krew|zakazeni\\w*|infekcj\\w*|blizn\\w*|niebezpieczn\\w*|nieletni\\w*|moj syn(?: \\w+){0,6} (?:sam|bal\\w*|plaka\\w*)|moja corka(?: \\w+){0,6} (?:sama|bala|plaka\\w*)|krzycz\\w* na (?:moje|mojego|moja|mnie)",
    ],
  },
};

/** Things of which people say that they died, or are dead. */
const ONLY_THINGS =
  /\b(?:(?:my|our|the|his|her|a|old|whole|car|phone|laptop|flat) )+(?:phone|battery|batter(?:y|ies)|car|van|engine|motor|boiler|heating|laptop|computer|screen|fridge|freezer|oven|cooker|tv|telly|washer|washing machine|dishwasher|dryer|bike|clock|watch|lights?|signal|wifi|internet|printer|hoover|mower|lawn|plants?|flowers?|tree|trees|grass|hedge|piano|stove|fire) (?:had |has |just |suddenly |finally |completely )*(?:died|dies|dying|is dead|was dead|went dead|dead)\b|\b(?:flowers?|roses?|bouquets?|lilies|tulips|plants?|lawns?|grass|hedges?|trees?|batter(?:y|ies)|phones?|cars?|engines?|boilers?)(?: (?:that|which|were|was|are|is|had|have|all|half|already|looked|arrived|came|turned up|practically|basically|completely))* (?:dead|dying|died)\b|\bdead (?:battery|phone|end|on time|easy|slow|quiet|good|nice|friendly|helpful|honest|polite|professional|impressed|clean|tidy|quick|fast|simple|proud|lovely|grateful|keen|straight|cheap|chuffed|happy|pleased|right|centre|center|key|keys|note|notes|bolt|pixel|wood|tree|trees|branch|branches|plants?|flowers?|boiler|stove|car|weight|zone|line|lines|ringer)\b|\b(?:deadline|deadbolt|drop dead gorgeous|dying to (?:see|go|come|try|get|know|wear|play|show)|to die for|die hard|died (?:laughing|of laughter|of embarrassment)|never say die|over my dead body|last (?:day|days|hours) (?:of|before)|saying goodbye to (?:the|our) (?:noise|cold|leak|smoke|old)|(?:killed|nailed) it|my feet (?:were|are) killing|kill(?:ed|ing)? (?:time|two birds))\b/g;

const plain = (text: string) =>
  foldLetters(text)
    // The end of a sentence stays one: what belongs together does not go beyond it.
    .replace(/[.!?;\n]+/g, " . ")
    .replace(/[^\p{L}\d\s.]/gu, " ")
    .replace(/\s+/g, " ");

const compiled = new Map<string, RegExp>();

function patternOf(language: Language, kind: keyof Words): RegExp {
  const key = `${language} ${kind}`;
  let pattern = compiled.get(key);
  if (!pattern) {
    pattern = new RegExp(`(?<![\\p{L}\\d])(?:${WORDS[language][kind].join("|")})(?![\\p{L}\\d])`, "u");
    compiled.set(key, pattern);
  }
  return pattern;
}

/** As much of a review as is looked at, in characters. */
const MAX_TEXT = 20_000;

/**
 * What a review speaks of that forbids a cheerful reply, the gravest first; null for nothing of the kind. All languages
 * are tried, since a short text does not surely tell its own.
 *
 * @param isUnhappy Whether its writer is: words that accuse are harmless in praise ("a police officer recommended you"),
 * and something that befell the writer elsewhere ("after my bike was stolen") is no accusation.
 * @example gravityOf("They were so kind when I miscarried.", false); // "loss"
 */
export function gravityOf(text: string, isUnhappy: boolean): Gravity | null {
  const said = plain(text.slice(0, MAX_TEXT)).replace(ONLY_THINGS, " ");
  if (said.trim() === "") return null;
  const speaksOf = (kind: keyof Words) => LANGUAGE_KEYS.some((language) => patternOf(language, kind).test(said));
  if (speaksOf("allegation")) return isUnhappy ? "allegation" : "danger";
  if (isUnhappy && speaksOf("accusing")) return "allegation";
  for (const kind of ["loss", "illness", "danger"] as const) if (speaksOf(kind)) return kind;
  return null;
}

/** The same of a review with this rating (1 to 5). */
export function gravityOfReview({ words, rating }: { words: string; rating: number }): Gravity | null {
  return gravityOf(words, rating <= UNHAPPY_UP_TO);
}

/** Whether a review with this rating (1 to 5) accuses the business of something serious. */
export function isAllegation(words: string, rating: number): boolean {
  return gravityOfReview({ words, rating }) === "allegation";
}

const LANGUAGE_KEYS = Object.keys(WORDS) as Language[];
