/**
 * What a public reply never says. Applied to drafts, saved replies and what rules post; what people type themselves is
 * warned of. Each refusal names the very words.
 */

export const GUARDS = [
  "private fact",
  "money",
  "blame",
  "asks to change it",
  "admission",
  "contact data",
  "repeats a reply",
] as const;
export type Guard = (typeof GUARDS)[number];

export type Refusal = { guard: Guard; words: string };

/** What is known about whoever wrote a review: none of it may be said that they did not say themselves. */
export type PrivateFacts = {
  family: string | null;
  /** What or whom visits were about: "Biscuit". */
  abouts: readonly string[];
  services: readonly string[];
  teamMembers: readonly string[];
  emails: readonly string[];
  phones: readonly string[];
  /** Days of visits as they would be written: "24 November", "Tuesday". */
  days: readonly string[];
};

export const NOTHING_KNOWN: PrivateFacts = {
  family: null,
  abouts: [],
  services: [],
  teamMembers: [],
  emails: [],
  phones: [],
  days: [],
};

export type Reviewed = {
  text: string;
  /** As the site shows it. */
  author: string;
};

/** Small letters without accents and invisible signs, words parted by one space: so that nothing hides in spelling. */
export function plainWords(text: string): string {
  return text
    .normalize("NFKD")
    .replace(/[\p{M}\p{Cf}]/gu, "")
    .toLocaleLowerCase("en")
    .replace(/[\u2018\u2019\u02BC`\u00B4]/g, "'")
    .replace(/[^\p{L}\p{N}'%@+.£€$]+/gu, " ")
    .trim();
}

const WHOLE: readonly (readonly [RegExp, string])[] = [
  [/\bcan't\b/g, "cannot"],
  [/\bwon't\b/g, "will not"],
  [/\b(\w+)n't\b/g, "$1 not"],
  [/\b(\w+)'ll\b/g, "$1 will"],
  [/\b(\w+)'ve\b/g, "$1 have"],
  [/\b(\w+)'re\b/g, "$1 are"],
  [/\b(i)'m\b/g, "$1 am"],
  [/\b(it|that|this|there|what|he|she)'s\b/g, "$1 is"],
  [/\b(i|we|you|he|she|they|it)'d\b/g, "$1 would"],
];

/** English without contractions: "we'll" says what "we will" does. */
export const written = (plain: string): string =>
  plain.includes("'") ? WHOLE.reduce((text, [short, long]) => text.replace(short, long), plain) : plain;

const bounded = (pattern: string) => new RegExp(`(?<![\\p{L}\\p{N}])(?:${pattern})(?![\\p{L}\\p{N}])`, "u");
const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

/** Whether a text holds these words, as words. */
const holds = (plain: string, words: string) => words !== "" && bounded(escaped(words)).test(plain);

/** That somebody came, had an appointment, was treated: said in public only where they said it themselves. */
const VISIT = bounded(
  "(?:your|last|recent|the|that) (?:recent |last |next )?(?:visit|visits|appointment|appointments|booking|consultation|check ?up|treatment|operation|surgery|session|lesson|lessons|stay)|when you (?:came|were here|visited|stayed)|(?:coming|came|come) (?:in|to (?:see )?us)|visiting us|having visited|you visited|(?:su|tu|la|vuestra) (?:ultima )?(?:visita|cita|consulta|clase|estancia|operacion)|cuando (?:vino|viniste|vinieron)|por (?:venir|visitarnos|su visita|tu visita)|(?:votre|ta|notre derniere) (?:derniere |recente )?(?:visite|consultation|seance|intervention|rendez vous|venue|passage|sejour)|(?:lors|apres|pendant) (?:de )?votre (?:visite|venue|passage|sejour)|etre venue?s?|vous etes venue?s?|(?:ihre?[nmrs]?|deine?[nmrs]?) (?:letzte[nmrs]? |jungste[nmrs]? )?(?:besuch\\p{L}*|termin\\p{L}*|behandlung\\p{L}*|aufenthalt\\p{L}*|fahrstunde\\p{L}*|sprechstunde\\p{L}*)|(?:als|dass) sie (?:bei uns|hier|da) waren|sie bei uns waren|fur (?:ihren|deinen) besuch|(?:sua|tua|vossa) (?:ultima |recente )?(?:visita|consulta|marcacao|aula|estadia)|quando (?:ca )?(?:veio|vieram|esteve ca|nos visitou)|(?:por )?ter vindo|por nos visitar|(?:twoj\\p{L}*|panstwa|pana|pani|ostatni\\p{L}*) (?:ostatni\\p{L}* )?(?:wizyt\\p{L}*|pobyt\\p{L}*|lekcj\\p{L}*|zabieg\\p{L}*)|(?:po|podczas|w trakcie) (?:\\p{L}+ )?wizy\\p{L}*|wizyt[aey] (?:w|z|dnia) |za wizyte|(?:thanks|thank you) (?:\\w+ ){0,2}for (?:coming|stopping by|dropping in|popping in|visiting)|(?:your|our|the) (?:records|notes|files?) (?:show|say)|according to (?:our|your) (?:records|notes|files?)|your (?:file|records|invoice|bill|treatment|procedure)|you (?:saw|met) (?:dr|our)|when we (?:saw|treated|met) you|(?:as|being) (?:our|a) (?:patient|client|customer) of ours|you were (?:in|here|with us)|we saw you|sus? (?:expediente|historial|factura)|le atendimos|(?:votre|ta) (?:dossier|facture)|nous vous avons (?:recu|vu|soigne)\\p{L}*|ihre (?:akte|unterlagen|rechnung)|wir (?:haben|hatten) sie (?:behandelt|gesehen)|a sua (?:fatura|ficha)|(?:pana|pani|twoj\\p{L}*) (?:kartotek|dokumentacj|faktur|rachunk)\\p{L}*|przyjelismy (?:pania|pana)",
);
/** Words of a review by which they say that they were there. */
const WAS_THERE = bounded(
  "visit|visits|visited|appointment|appointments|booking|went|came|come|been|was seen|were seen|waited|waiting|arrived|left|stayed|lesson|lessons|session|consultation|treated|took (?:my|our|him|her)|brought|cita|visita|fui|fuimos|estuve|estuvimos|vine|venimos|esperamos|espere|clase|clases|consulta|llegue|llegamos|visite|visites|rendez vous|consultation|seance|seances|venue?s?|alle|allee|alles|attendu|arrive|arrivee|besuch\\p{L}*|termin\\p{L}*|fahrstunde\\p{L}*|war|waren|gewartet|wartezeit|gekommen|gewesen|consultas|aulas?|fomos|estive|estivemos|esperei|cheguei|wizyt\\p{L}*|by[lł]\\p{L}*|czeka\\p{L}*|przysz\\p{L}*|przyjech\\p{L}*|lekcj\\p{L}*",
);

/** What tells of somebody's health. */
const HEALTH =
  "injection|injections|vaccin\\w*|tumou?r|cancer|surgery|operation|diabet\\w*|allerg\\w*|infection|medication|medicine|tablets|pills|prescription|diagnos\\w*|symptoms?|illness|disease|pregnan\\w*|depress\\w*|anxiety|blood test|x-?rays?|scan|biopsy|wound|fracture|chemo\\w*|put to sleep|euthan\\w*|operacion|vacuna\\w*|medicamento\\w*|pastillas|receta|diagnostico|enfermedad|alergia\\w*|embaraz\\w*|herida|cirugia|piqure|tumeurs?|chirurgie|maladies?|ordonnance|grossesse|enceinte|blessure|impfung\\p{L}*|krebs|operation\\p{L}*|entzundung\\p{L}*|medikament\\p{L}*|tabletten|krankheit\\p{L}*|schwanger\\p{L}*|rontgen\\p{L}*|einschlafern|vacinas?|cancro|cirurgia|operacao|infecao|comprimidos|doencas?|gravidez|ferida|szczepi\\p{L}*|zastrzyk\\p{L}*|nowotw\\p{L}*|operacj\\p{L}*|cukrzyc\\p{L}*|infekcj\\p{L}*|lekarstw\\p{L}*|tabletk\\p{L}*|recept[aęey]|diagnoz\\p{L}*|chorob\\p{L}*|ciaz\\p{L}*|zlaman\\p{L}*|złaman\\p{L}*";

const MONEY = bounded(
  "refund\\w*|reimburs\\w*|discount\\w*|vouchers?|coupons?|gift (?:card|voucher|certificate)s?|(?:a|small|little) gift|gift for you|free of charge|for free|complimentary|on the house|money back|compensat\\w*|credit (?:note|to|on)|\\d+ ?%(?: off)?|% off|cash ?back|reduced price|we (?:will|can|shall) (?:pay|cover)|waive\\w*|half price|free (?:visit|lesson|check|service|treatment|session|appointment|consultation)|reembols\\w*|devolver\\w* (?:el|su|tu) dinero|descuento\\w*|regal\\w*|gratis|gratuit\\w*|cupon\\w*|(?:un|el|su|tu|este) vale(?! la pena)(?= (?:de|por|para|regalo)|$)|vales? (?:de|por valor|regalo)|compensar\\w*|compensacion|invit\\w+ a la proxima|rembours\\w*|remise|reduction|cadeau|bon d'achat|gratuit|erstatt\\w*|rabatt|gutschein\\w*|geschenk\\w*|kostenlos|desconto\\w*|oferta gratuita|zwrot\\w*|rabat\\w*|gratis|prezent\\w*|[£€$] ?\\d+|\\d+ ?(?:pounds|euros?|dollars|eur|gbp|usd|zl)|(?:is|are|be|it's) on us|(?:no|without|at no) (?:extra |further )?(?:charge|cost|fee)s?|will not (?:charge|bill|invoice)|(?:take|knock|deduct) (?:\\w+ ){0,3}off (?:your|the) (?:bill|invoice|price|next)|(?:your|the) (?:next|following) (?:\\w+ )?(?:\\w+ )?(?:is|will be) (?:free|half)|free next time|(?:pay|paying|cover|covering|foot) (?:for |the |all |your )+(?:\\w+ ){0,2}(?:cost|costs|bill|repair|repairs|replacement|damage|cleaning)|money off|price reduction|out of (?:our|my) own pocket|credit your|le pagaremos|nos haremos cargo de(?:l| los)? (?:coste|gasto)s?|sin coste|correra de nuestra cuenta|a nuestra cuenta|nous (?:paierons|prendrons en charge)|a nos frais|sans frais|geste commercial|offert(?:e|s|es)?|avoir de|wir (?:ubernehmen|bezahlen|zahlen) (?:die|den|das|ihnen)|auf unsere kosten|kostenfrei|umsonst|gutschrift\\p{L}*|geht auf uns|nachlass|pagaremos|sem custos?|por nossa conta|oferecemos|devolvemos|desconto|pokryjemy|zaplacimy|zapłacimy|na nasz koszt|za darmo|bezplatn\\p{L}*|bezpłatn\\p{L}*|znizk\\p{L}*|zniżk\\p{L}*|upust\\p{L}*|nie policzymy",
);

const BLAME = bounded(
  "your (?:own )?fault|you should (?:have|not have)|you (?:failed|refused|forgot|neglected|misunderstood|were (?:late|rude|wrong|aggressive|mistaken|told)|are (?:wrong|mistaken|lying)|did not (?:tell|listen|read|ask|follow|pay|come|turn up|show))|you (?:lied|exaggerat\\w+)|(?:that|this|it) is (?:not true|untrue|false|a lie|nonsense)|(?:your|these) (?:claims|accusations|lies)|as you (?:well )?know|if you had|unreasonable|slander\\w*|defam\\w*|su culpa|tu culpa|deberia haber|usted no (?:aviso|dijo|siguio|leyo|vino)|es (?:mentira|falso)|no es (?:cierto|verdad)|se equivoca|miente|votre faute|vous (?:auriez du|avez menti|mentez|exagerez|vous trompez)|vous n'(?:avez|aviez) (?:pas|rien)|c'est (?:faux|un mensonge)|mensong\\p{L}*|ihre (?:eigene )?schuld|selbst schuld|sie (?:lugen|ubertreiben|irren sich|haben (?:nicht|gelogen|ubertrieben))|(?:das|dies|es) (?:stimmt nicht|ist (?:falsch|gelogen|unwahr|eine luge))|unwahrheit\\p{L}*|(?:a )?culpa (?:e )?sua|sua culpa|(?:deveria|devia) ter|nao (?:avisou|disse|veio|leu|pagou)|e (?:mentira|falso)|nao e (?:verdade|certo)|esta enganad[oa]|(?:pana|pani|panstwa|twoja) wina|to (?:nieprawda|klamstwo|kłamstwo)|(?:pan|pani) (?:klamie|kłamie|przesadza|myli sie)|powin(?:ien|na) (?:byl|był|byla|była|pan|pani)|trzeba bylo|trzeba było|nie (?:powiedzial|powiedział|przysz)\\p{L}* (?:pan|pani)|(?:that|this|it) (?:did not|never) happen(?:ed)?|not what happened|(?:a|an outright|complete) lie|(?:completely|simply|totally|just|plainly) (?:untrue|false|made up)|made (?:this|that|it) up|you never (?:\\w+ )?(?:told|said|came|paid|asked|arrived|listened|called|mentioned|showed)|you could have (?:told|said|called|asked|mentioned|come)|you chose to|your (?:own )?(?:mistake|doing|behaviour|behavior|attitude|choice)|you were (?:the one|rude|late|shouting|abusive|impatient)|you missed (?:your|the)|you (?:ignored|caused|insisted|exaggerate)|fake review|ungrateful|hysterical|overreact\\w*|es falso|se lo invento|fue usted quien|usted se equivoc\\p{L}*|inventado|c'est vous qui|vous avez (?:oublie|refuse|ignore|invente|exagere)|inexact|sie sind (?:selbst|zu spat)|sie hatten (?:uns|sich|fruher)|erfunden|gelogen|falsche behauptung\\p{L}*|inventou|exagerou|foi (?:o senhor|a senhora|voce) que|klamstw\\p{L}*|kłamstw\\p{L}*|sama? sobie|zmysl\\p{L}*|zmyśl\\p{L}*|to pan[ai]? ",
);

const ASKS = bounded(
  "(?:change|update|edit|remove|delete|reconsider|amend|raise|revise|take down|adjust|improve|withdraw|upgrade) (?:\\w+ ){0,3}(?:review|rating|stars?|post|score|comment)|(?:more|extra|another) stars|(?:please|could you|can you|would you|will you|if you) (?:\\w+ ){0,4}(?:five|5) stars|(?:cambi\\w+|modific\\w+|elimin\\w+|borr\\w+|retir\\w+|reconsider\\w+|actualic\\w+|sub\\w+) (?:\\w+ ){0,3}(?:resena|opinion|valoracion|estrellas|puntuacion|comentario)|(?:chang|modifi|supprim|retir|revo|corrig|amelior|reconsider)\\p{L}* (?:\\p{L}+ ){0,3}(?:avis|note|commentaire|etoiles?|evaluation)|(?:bewertung|rezension|sterne|kommentar|beurteilung)\\p{L}* (?:\\p{L}+ ){0,3}(?:ander|anpass|losch|entfern|zuruckzieh|zurucknehm|verbesser|uberdenk)\\p{L}*|(?:andern|loschen|entfernen|uberdenken) sie (?:\\p{L}+ ){0,3}(?:bewertung|rezension|kommentar)\\p{L}*|(?:alter|mud|apag|remov|retir|reconsider|corrig|atualiz)\\p{L}* (?:\\p{L}+ ){0,3}(?:avaliac\\p{L}*|critica|comentario|estrelas|pontuacao)|(?:zmian|zmieni|usun|skasow|popraw|edyt|wycof|podnies)\\p{L}* (?:\\p{L}+ ){0,3}(?:opini|ocen|recenzj|gwiazd|komentarz)\\p{L}*|mas estrellas|mehr sterne|plus d'etoiles|mais estrelas|(?:wiecej|więcej) gwiazdek|(?:chang|updat|edit|remov|delet|reconsider|amend|rais|revis|adjust|improv|withdraw|upgrad|rethink|correct)(?:e|ing|ed|es|ting)? (?:\\w+ ){0,4}(?:your|this|the|that) (?:\\w+ )?(?:review|rating|score|stars|post|comment)|tak(?:e|ing) (?:\\w+ ){0,4}(?:review|rating|post|comment) (?:down|off)|tak(?:e|ing) down (?:\\w+ ){0,3}(?:review|post|comment)|(?:another|second) (?:review|rating)|better (?:review|rating)|higher (?:rating|score)|(?:podria|podrias|quiere|le importaria) (?:\\p{L}+ ){0,3}(?:cambiar|modificar|quitar|borrar|retirar)|(?:pourriez|pouvez|voulez) vous (?:\\p{L}+ ){0,4}(?:changer|modifier|retirer|supprimer|revoir)|(?:bitte|konnten sie|wurden sie) (?:\\p{L}+ ){0,6}(?:ander|losch|entfern|zuruckzieh|zurucknehm|anpass)\\p{L}*|(?:ander|losch|entfern|anpass)(?:n|en)? sie (?:\\p{L}+ ){0,3}(?:bewertung|rezension|sterne|kommentar)",
);

const ADMISSION = bounded(
  "negligen\\w*|malpractice|liab(?:le|ility)|legally|lawsuit|(?:we|i) (?:admit|accept (?:full )?(?:liability|responsibility|blame|fault))|(?:our|my) (?:own )?(?:fault|negligence|malpractice)|we (?:caused|injured|harmed|damaged|broke the law|are to blame|are responsible for (?:the|your) (?:injury|damage|loss))|at fault|insurance|solicitors?|lawyers?|attorneys?|sue (?:us|you)|negligencia|responsabilidad legal|demanda judicial|abogad\\w+|fue culpa nuestra|culpa nuestra|admitimos|causamos|seguro de responsabilidad|responsabilite (?:juridique|legale|civile)|(?:notre|ma) (?:propre )?faute|avocate?s?|nous (?:reconnaissons|admettons)|tribunal|fahrlassig\\p{L}*|haftung\\p{L}*|haftbar|(?:unsere|meine) (?:eigene )?schuld|rechtsanwalt\\p{L}*|anwalt\\p{L}*|anwalte|wir (?:geben zu|haften)|haftpflicht\\p{L}*|negligenc\\p{L}*|responsabilidade (?:legal|civil)|(?:culpa nossa|nossa culpa)|advogad\\p{L}*|processo judicial|zaniedban\\p{L}*|odpowiedzialnosc\\p{L}* (?:prawn|cywiln|karn)\\p{L}*|(?:nasza wina|z naszej winy)|adwokat\\p{L}*|prawnik\\p{L}*|pozew|przyznajemy sie|odszkodowan\\p{L}*|(?:that|this|it) was (?:entirely |all |completely )?(?:our|my) (?:mistake|error|doing)|we take (?:full|complete|all) responsibility|we (?:were|are) (?:negligent|liable|legally|responsible)|we (?:broke|damaged|hurt|injured) (?:your|the|it|her|him)|we should (?:pay|compensate)|down to our (?:carelessness|negligence|mistake)|careless(?:ness)? (?:of|on) our|malpractice|breach of|our (?:legal|insurance)|es culpa nuestra|reconocemos (?:nuestra|el|la) (?:culpa|error|responsabilidad)|asumimos (?:toda )?la responsabilidad|nous (?:assumons|portons) (?:l'entiere |toute la |la )?(?:responsabilite|faute)|(?:c'est|c'etait) notre (?:faute|erreur)|wir (?:sind|waren) (?:schuld|verantwortlich)|wir tragen die (?:schuld|verantwortung|haftung)|assumimos (?:toda )?a (?:culpa|responsabilidade)|foi (?:nosso erro|culpa nossa)|(?:to|byla|była|byl|był) (?:nasza wina|nasz blad|nasz błąd)|ponosimy (?:pelna |pełną )?odpowiedzialnosc|bierzemy (?:pelna |pełną )?odpowiedzialnosc",
);

const EMAIL = /[\p{L}\p{N}._%+-]+@[\p{L}\p{N}.-]+\.\p{L}{2,}/gu;
const PHONE = /(?:\+|\b0)[\d ().-]{7,}\d/g;
const digits = (text: string) => text.replace(/\D/g, "");

/** From how alike two replies count as nearly the same words. */
export const TOO_ALIKE = 0.6;

export type GuardInput = {
  review: Reviewed;
  facts: PrivateFacts;
  /** The business's contact data, which it may give. */
  own?: readonly string[];
  /** Its last replies at this listing. */
  recent?: readonly string[];
  /** Who signs, below the words: named by choice, and never a secret. */
  signature?: string;
};

/** Everything in a reply that it must not say. */
export function refusalsOf(reply: string, it: GuardInput): Refusal[] {
  return guardFor(it)(reply);
}

const HEALTHY = new RegExp(bounded(HEALTH).source, "gu");
const RULES = [
  ["money", MONEY],
  ["blame", BLAME],
  ["asks to change it", ASKS],
  ["admission", ADMISSION],
] as const;

/** The guard of one review, for as many replies as are tried. */
export function guardFor(it: GuardInput): (reply: string) => Refusal[] {
  const { facts, signature = "" } = it;
  const said = plainWords(`${it.review.text} ${it.review.author}`);
  const wasThere = WAS_THERE.test(said);
  const secrets = secretsOf(facts).filter((words) => !holds(said, words));
  const secret = secrets.length > 0 ? new RegExp(bounded(secrets.map(escaped).join("|")).source, "gu") : null;
  const own = (it.own ?? []).map(plainWords);
  const ownDigits = (it.own ?? []).map(digits).filter((each) => each.length >= 7);
  const theirs = [...facts.emails, ...facts.phones].filter((known) => known.length >= 5).map(plainWords);
  return (reply) => {
    const words = signature && reply.endsWith(signature) ? reply.slice(0, reply.length - signature.length) : reply;
    const plain = plainWords(words);
    const found: Refusal[] = [];
    const refuse = (guard: Guard, words: string) => {
      if (!found.some((each) => each.guard === guard && each.words === words))
        found.push({ guard, words: words.trim() });
    };
    if (secret) for (const match of plain.matchAll(secret)) refuse("private fact", match[0]);
    const visit = wasThere ? null : (VISIT.exec(plain) ?? VISIT.exec(written(plain)));
    if (visit) refuse("private fact", visit[0]);
    for (const match of plain.matchAll(HEALTHY)) if (!holds(said, match[0])) refuse("private fact", match[0]);
    const whole = written(plain);
    for (const [guard, pattern] of RULES) {
      const match = pattern.exec(plain) ?? pattern.exec(whole);
      if (match) refuse(guard, match[0]);
    }
    for (const [address] of words.matchAll(EMAIL))
      if (!own.includes(plainWords(address))) refuse("contact data", address);
    for (const [number] of words.matchAll(PHONE))
      if (!ownDigits.some((each) => each.endsWith(digits(number).slice(-7)))) refuse("contact data", number);
    for (const known of theirs) if (plain.includes(known) && !own.includes(known)) refuse("contact data", known);
    const nearest = nearestOf(words, it.recent ?? []);
    if (nearest && nearest.alike >= TOO_ALIKE) refuse("repeats a reply", nearest.reply.slice(0, 80));
    return found;
  };
}

/** What is known of somebody, as it would stand in a reply. A name is known by any of its parts; a title is nobody's. */
function secretsOf({ family, abouts, services, days, teamMembers }: PrivateFacts): string[] {
  const parts = teamMembers
    .flatMap((name) => name.split(/\s+/))
    .filter((part) => !/^(?:dr|mr|mrs|ms|miss|prof)\.?$/i.test(part));
  return [...new Set([family ?? "", ...abouts, ...services, ...days, ...parts].map(plainWords))]
    .filter((words) => words.length >= 2)
    .sort((a, b) => b.length - a.length);
}

/** Pairs of neighbouring words, and the words themselves: what two texts can share. */
function piecesOf(text: string): Set<string> {
  const words = plainWords(text).replace(/[.']/g, "").split(" ").filter(Boolean);
  const pieces = new Set(words.length === 1 ? words : []);
  for (let at = 0; at + 1 < words.length; at++) pieces.add(`${words[at]} ${words[at + 1]}`);
  return pieces;
}

/** How alike two texts are, from 0 (no two words in a row are shared) to 1 (all are): the share of pairs in common. */
export function alike(a: string, b: string): number {
  const [one, other] = [piecesOf(a), piecesOf(b)];
  return shareOf([...one].filter((piece) => other.has(piece)).length, one.size, other.size);
}

/** The share of pieces in common, of two texts with so many. */
function shareOf(shared: number, one: number, other: number): number {
  if (one === 0 || other === 0) return one === other ? 1 : 0;
  return (2 * shared) / (one + other);
}

/** Replies that many texts are compared with: which of them hold a piece, and how many pieces each has. */
type Compared = { holding: Map<string, number[]>; sizes: number[] };

const compared = new WeakMap<readonly string[], Compared>();

function comparedOf(recent: readonly string[]): Compared {
  const known = compared.get(recent);
  if (known?.sizes.length === recent.length) return known;
  const made: Compared = { holding: new Map(), sizes: [] };
  for (const [index, reply] of recent.entries()) {
    const pieces = piecesOf(reply);
    made.sizes.push(pieces.size);
    for (const piece of pieces) {
      const holding = made.holding.get(piece);
      if (holding) holding.push(index);
      else made.holding.set(piece, [index]);
    }
  }
  compared.set(recent, made);
  return made;
}

/** The reply that a text is most like, and how much; null where there is none. `recent` is not changed afterwards. */
export function nearestOf(text: string, recent: readonly string[]): { reply: string; alike: number } | null {
  if (recent.length === 0) return null;
  const { holding, sizes } = comparedOf(recent);
  const pieces = piecesOf(text);
  const shared = sizes.map(() => 0);
  for (const piece of pieces) for (const index of holding.get(piece) ?? []) shared[index] += 1;
  let nearest: { reply: string; alike: number } | null = null;
  for (const [index, reply] of recent.entries()) {
    const how = shareOf(shared[index], pieces.size, sizes[index]);
    if (!nearest || how > nearest.alike) nearest = { reply, alike: how };
  }
  return nearest;
}
