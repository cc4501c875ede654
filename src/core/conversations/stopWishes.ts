import { foldLetters } from "../words/fold";
import type { Language } from "../words/languages";

/**
 * Messages in plain words from people who want no more of them. What carriers call keywords is in `keywords.ts`; this
 * reads sentences. Edit a language's patterns here; each is a whole sentence, in small letters without accents and signs.
 */

const many = (...patterns: string[]) => patterns.map((pattern) => new RegExp(`^(?:${pattern})$`));

/** Things that are sent, as people call them. */
const SENT = {
  en: "(?:texts?|messages?|sms|txts?|msgs?|emails?|mails?|spam|notifications?|reminders?|text messages?|crap|junk|rubbish)",
  es: "(?:mensajes?|mensajitos|sms|textos?|correos?|publicidad|spam|notificaciones)",
  fr: "(?:sms|messages?|textos?|mails?|courriels?|pubs?|publicites?|spams?)",
  de: "(?:sms|nachrichten?|texte|mails?|e mails?|werbung|spam|mitteilungen)",
  pt: "(?:mensagens|mensagem|sms|textos?|emails?|publicidade|spam)",
  pl: "(?:smsow|sms ow|smsy|sms|wiadomosci|tych wiadomosci|maili|spamu|reklam)",
};

const EN_WHOM = "(?:me|us|this number|my number|my phone|my mobile)";
const EN_DO =
  "(?:text|texting|txt|message|messaging|msg|contact|contacting|email|emailing|write|writing|writing to|bother|bothering|spam|spamming|send|sending|pester|pestering|harass|harassing)";
const EN_TAIL = "(?: (?:again|anymore|any more|ever|any longer|now|immediately|at once|today|already|altogether))*";
const EN_WHICH =
  "(?: (?:any|more|these|those|this|your|the|all|all these|all the|so many|such|bloody|damn|stupid|annoying|kind of|of these|of your))*";
const EN_WHAT = `${EN_WHICH}(?: ${SENT.en})?`;

/** Said like this there is no doubt. */
const CERTAIN: Record<Language, readonly RegExp[]> = {
  en: many(
    `(?:stop|quit)(?: (?:stop|quit|it|this|that|now|all|everything|immediately|already|ok))*`,
    `(?:stop|quit|cease|enough|no more)(?: with)?${EN_WHAT}(?: to ${EN_WHOM})?${EN_TAIL}`,
    `(?:stop|quit|cease) ${EN_DO}(?: to)?(?: ${EN_WHOM})?${EN_WHAT}(?: to ${EN_WHOM})?${EN_TAIL}`,
    `(?:do not|dont|never|no longer) ${EN_DO}(?: to)? ${EN_WHOM}${EN_WHAT}(?: (?:to|on) ${EN_WHOM})?${EN_TAIL}`,
    `(?:do not|dont|never) send (?:${EN_WHOM} )?(?:any |any more |more |these |another )*${SENT.en}(?: to ${EN_WHOM})?${EN_TAIL}`,
    `(?:i |we )?(?:do not|dont|no longer) (?:want|wish|need|care for|like)(?: to)?(?: (?:get|receive|have|see|be sent))?${EN_WHICH} ${SENT.en}(?: (?:from (?:you|you guys|your company|this number)|on my phone|like this))?${EN_TAIL}`,
    `(?:please )?(?:remove|delete|erase|take|drop|strike|get)(?: off)? (?:me|us|my (?:name|number|phone number|mobile number|mobile|phone|email|email address|details|contact|contact details|info|information)|this number)(?: (?:from|off|out of|of))*(?: (?:your|the|this|ur|any))*(?: (?:text|sms|mailing|contact|marketing|email|message|calling))*(?: (?:list|lists|database|system|records|contacts|books|file|files|texts|messages))?${EN_TAIL}`,
    `(?:un ?subscribe|un ?sub)(?: (?:me|us|my number|this number))?(?: (?:from|to) (?:this|these|your|the|all)(?: (?:list|texts?|messages?|service|sms))?)?${EN_TAIL}`,
    `(?:i |we |id |i would )?(?:want|wish|like|would like|wanna|need|would love)? ?(?:to )?(?:opt|be opted|opting) (?:me |us )?out(?: (?:of|from) (?:this|these|your|the|all)(?: (?:list|texts?|messages?|service|sms))?)?${EN_TAIL}`,
    `(?:i |we |id )?(?:want|wish|would like|like|wanna|need|ask|asked you) (?:to )?(?:unsubscribe|stop|be removed|be taken off|come off|get off|you to stop)(?: (?:getting|receiving|texting me|messaging me|sending))?(?: from)?${EN_WHAT}(?: (?:your|the|this) list)?${EN_TAIL}`,
    `(?:leave (?:me|us) alone|lose my number|delete my number|forget my number|no contact|cease and desist)${EN_TAIL}`,
    `(?:can|could|would|will) you (?:please )?(?:stop|quit) ${EN_DO}(?: to)?(?: ${EN_WHOM})?${EN_WHAT}${EN_TAIL}`,
    `(?:can|could|would|will) you (?:please )?(?:remove|delete|take) (?:me|my number|this number)(?: (?:from|off))?(?: (?:your|the|this))?(?: list| texts)?`,
  ),
  es: many(
    `(?:stop|basta|alto|para|paren|pare|parad|baja)(?: ya)?(?: (?:stop|basta|de))*(?: (?:los|con los|con tantos|mas|tantos))*(?: ${SENT.es})?(?: ya)?`,
    `no (?:(?:me|nos) )?(?:escrib|mand|envi|molest|contact|llam)\\w*(?: (?:mas|otra vez|de nuevo|nunca|ya))*(?: (?:mas|estos|sus|tus|tantos))*(?: ${SENT.es})?(?: (?:mas|a este numero|nunca))*`,
    `(?:no|ya no) (?:quiero|queremos|deseo) (?:recibir )?(?:mas |sus |estos |tus |ningun )*${SENT.es}(?: (?:suyos|vuestros|de ustedes|mas))*`,
    `no mas ${SENT.es}`,
    `(?:deja|deje|dejen|dejad|para|pare|paren) de (?:escribir|mandar|enviar|molestar|contactar)(?:me|nos)?(?: (?:mas|estos|tantos|sus))*(?: ${SENT.es})?`,
    `(?:borr|elimin|quit|sac|retir|remuev)\\w* (?:mi|este|el) (?:numero|telefono|movil|contacto)(?: (?:de|en) (?:su|la|vuestra|tu|sus)(?: (?:lista|listas|base|base de datos|sistema))?)?`,
    `(?:(?:quiero|quisiera|deseo|solicito|pueden|puede|me) )*(?:dar|darme|dame|denme|deme|darse|darnos)(?: (?:me|nos))? de baja(?: (?:de|en) (?:la|esta|su) lista)?`,
    `(?:quit|sac|elimin|borr)\\w*(?:me|nos)(?: de (?:la|esta|su|vuestra) lista)?`,
    `(?:dejenme|dejame|dejeme|dejadme) en paz`,
  ),
  fr: many(
    `(?:stop|stop stop|arret|arretez|arrete|ca suffit|assez)(?: (?:aux|les|avec les|ces|vos|avec vos|de|tout|ca|maintenant|tout de suite))*(?: ${SENT.fr})?`,
    `arret(?:ez|e|er) (?:de|d) (?:m |me |nous |t )?(?:envoyer|ecrire|contacter|deranger|spammer|harceler|importuner)(?: (?:des|ces|vos|les|tous ces|de))*(?: ${SENT.fr})?`,
    `(?:(?:je (?:n en |ne )?veux|s il vous plait) )?(?:plus|plus jamais|aucun) (?:de |d |aucun )?${SENT.fr}`,
    `(?:ne|n) (?:m |me |nous )?(?:envoyez|envoie|ecrivez|ecris|contactez|contacte|derangez|derange|envoyer|ecrire|contacter)(?: (?:moi|nous))? (?:plus|plus jamais)(?: (?:de|d|aucun|vos|ces))*(?: ${SENT.fr})?`,
    `(?:je|nous) (?:ne |n )?(?:veux|voulons|souhaite|souhaitons|desire) (?:plus|pas|plus jamais)(?: (?:recevoir|avoir))?(?: (?:de|d|vos|ces|aucun|tous ces))* ${SENT.fr}(?: de votre part)?`,
    `(?:desinscri|desabonn|desinscriv)\\w*(?: (?:moi|nous))?(?: (?:de|a) (?:cette|votre|la|ces|vos)(?: (?:liste|sms|messages))?)?`,
    `(?:je (?:veux|souhaite|voudrais|desire) )?(?:me |m )(?:desinscrire|desabonner)(?: (?:de|a) (?:cette|votre|la|ces|vos)(?: (?:liste|sms|messages))?)?`,
    `(?:retir|supprim|enlev|effac|ray)\\w* (?:moi|nous|mon (?:numero|nom|contact)|mes (?:coordonnees|donnees)|ce numero)(?: (?:de|dans) (?:votre|vos|la|cette)(?: (?:liste|listes|base|fichier|fichiers))?)?`,
    `(?:laissez|laisse) (?:moi|nous) tranquilles?`,
  ),
  de: many(
    `(?:stop|stopp|halt|schluss|aufhoren|aufhoeren|genug)(?: (?:stop|stopp|mit|den|diesen|der|jetzt|damit|sofort))*(?: ${SENT.de})?`,
    `(?:ich |wir )?(?:(?:will|mochte|moechte|wollen|mochten|wunsche|brauche) )?(?:bitte )?keine (?:weiteren |weitere |solchen |mehr |ihrer )*${SENT.de}(?: (?:mehr|bitte|von ihnen|von euch|bekommen|erhalten|haben|schicken|senden|zu|an|diese|nummer|mich))*`,
    `(?:hor|hoer|horen|hoeren|hort)\\w*(?: (?:sie|doch|bitte|endlich))* auf(?: (?:mir|uns|mich|damit|sofort|bitte|zu|mit))*(?: (?:schreiben|schicken|nerven|belastigen|texten|simsen|${SENT.de}))*(?: zu (?:schreiben|schicken|senden|nerven|belastigen))?`,
    `(?:bitte )?(?:mich |mir |uns )?nicht (?:mehr|weiter|wieder)(?: (?:schreiben|anschreiben|kontaktieren|melden|texten|belastigen|simsen|nerven))+`,
    `(?:schreib|schreibt|schreiben|kontaktier|kontaktiere|kontaktieren|belastig|belastigen|nerv|nervt)\\w*(?: (?:sie|mir|mich|uns|bitte))* (?:bitte )?nicht(?: (?:mehr|wieder|an))*`,
    `(?:losch|loesch|entfern|streich|nehm|nimm)\\w*(?: (?:sie|bitte|doch))*(?: (?:mich|uns|meine (?:nummer|daten|handynummer|telefonnummer|kontaktdaten)|diese nummer))(?: (?:bitte|aus|von|in|ihrer|der|ihrem|dem|liste|verteiler|kartei|datenbank|raus|heraus|loschen|entfernen))*`,
    `(?:bitte )?(?:mich |meine (?:nummer|daten) |diese nummer )(?:bitte )?(?:aus (?:der|ihrer) liste |aus dem verteiler )?(?:abmelden|austragen|loschen|loeschen|entfernen|streichen|rausnehmen)`,
    `(?:ich )?(?:meld|trag|mochte|will)\\w*(?: (?:sie|mich|uns|bitte|hiermit))*(?: (?:ab|aus|abmelden|austragen))(?: bitte)?`,
    `(?:lass|lasst|lassen)(?: (?:sie))?(?: (?:mich|uns)) (?:bitte )?in ruhe`,
  ),
  pt: many(
    `(?:stop|chega|basta|pare|parem|para|parar)(?: (?:ja|com|de|disso|isso|as|essas|estas|mais|tantas))*(?: ${SENT.pt})?`,
    `nao (?:(?:me|nos) )?(?:mand|envi|escrev|contact|contat|incomod|chate)\\w*(?: (?:me|nos))?(?: (?:mais|nunca mais|essas|estas))*(?: ${SENT.pt})?(?: (?:por favor|mais))*`,
    `(?:nao|ja nao) (?:quero|queremos|desejo|pretendo)(?: (?:mais|receber|continuar a receber|as vossas|suas|estas|essas|nenhuma|nenhum))* ${SENT.pt}(?: (?:mais|vossas|suas|de voces))*`,
    `(?:mais nenhuma?|nao mais|sem mais|chega de) ${SENT.pt}`,
    `(?:pare|parem|para|deixe|deixem) de (?:me |nos )?(?:mandar|enviar|escrever|contactar|contatar|incomodar|chatear)(?: (?:me|nos))?(?: (?:mais|essas|estas|tantas))*(?: ${SENT.pt})?`,
    `(?:remov|apag|retir|tir|elimin|exclu)\\w*(?: (?:me|nos|o meu numero|meu numero|o meu contacto|meu contato|este numero|o meu nome))(?: (?:da|de|do)(?: (?:vossa|sua|lista|base|base de dados|sistema))*)?`,
    `(?:quero |gostaria de |desejo )?(?:cancelar|anular)(?: (?:a|as|minha|a minha|o|estas))* (?:subscricao|inscricao|assinatura|mensagens|sms)`,
    `(?:quero )?(?:me )?descadastr\\w*(?: (?:me|o meu numero|meu numero))?`,
    `(?:deixem|deixe|deixa) ?(?:me|nos) em paz|me deixem? em paz`,
  ),
  pl: many(
    `(?:stop|dosc|dosyc|koniec|wystarczy)(?: (?:juz|z|tych|tego|tym|tymi))*(?: ${SENT.pl})?`,
    `(?:prosze )?(?:juz )?nie (?:pisz|pisac|wysyla|wysylac|kontaktuj|kontaktowac|przysyla|przysylac|sle|slij|dzwon|nekaj|meczcie)\\w*(?: (?:do|mnie|mi|nas|nam|sie|ze|mna|juz|wiecej|nigdy|na ten numer))*(?: ${SENT.pl})?(?: (?:wiecej|juz))*`,
    `(?:zadnych|bez|zadnego)(?: wiecej| kolejnych)? ${SENT.pl}(?: wiecej)?`,
    `(?:ja )?(?:nie|juz nie) (?:chce|chcemy|zycze|zycze sobie|potrzebuje)(?: (?:juz|wiecej|sobie|dostawac|otrzymywac|od was|zadnych))* ${SENT.pl}(?: (?:wiecej|od was|juz))*`,
    `przestan\\w*(?: (?:juz|do|mnie|mi|prosze))*(?: (?:pisac|wysylac|przysylac|nekac|slac))?(?: (?:do|mnie|mi|te))*(?: ${SENT.pl})?`,
    `(?:prosze )?(?:o )?(?:usun|usunac|usuniecie|wykresl|wypisz|wypisac|skasuj|wymaz)\\w*(?: (?:mnie|moj|moje|mojego|ten|numer|numeru|dane|telefon|kontakt))+(?: (?:z|ze)(?: (?:listy|bazy|waszej|tej|danych|systemu))*)?`,
    `(?:dajcie|daj) (?:mi|nam) (?:juz )?(?:swiety )?spokoj`,
    `(?:chce |prosze )(?:sie )?(?:wypisac|zrezygnowac)(?: (?:sie|z|tych|tego|listy|smsow|wiadomosci))*`,
  ),
};

/** Said like this they probably mean it; a person decides. In any language, anywhere in the message. */
const LIKELY: readonly RegExp[] = [
  /\b(?:stop|quit) (?:texting|messaging|contacting|emailing|bothering|spamming|writing|sending)\b/,
  /\b(?:dont|do not|never) (?:text|message|contact|email|bother|write to) (?:me|us)\b/,
  /\b(?:no more|enough of (?:these|your)|sick of (?:these|your)|fed up with (?:these|your)) (?:texts|messages|emails|sms)\b/,
  /\b(?:remove|delete|take) (?:me|my number|my details) (?:from|off)\b/,
  /\bunsubscribe\b|\bopt(?:ing)? out\b|\bleave me alone\b|\b(?:wrong number|wrong person)\b|^not interested\b/,
  /\bhow (?:do|can) i (?:stop|unsubscribe|opt out)\b|\bwho gave you (?:this|my) number\b/,
  /\b(?:dejen|deja|deje) de (?:mandar|enviar|escribir)|\bno (?:me )?(?:manden|envien|escriban|contacten) mas\b|\bdar(?:me)? de baja\b|\bnumero equivocado\b/,
  /\barretez de (?:m |me )?(?:envoyer|ecrire|contacter)|\bne (?:m |me )(?:envoyez|ecrivez|contactez) plus\b|\bmauvais numero\b|\bplus recevoir\b/,
  /\bnicht mehr (?:schreiben|kontaktieren|anschreiben)\b|\bkeine (?:sms|nachrichten|mails) mehr\b|\bfalsche nummer\b|\bnummer (?:bitte )?(?:loschen|loeschen)\b/,
  /\bparem? de (?:me )?(?:mandar|enviar)|\bnao (?:me )?(?:mandem|enviem|escrevam) mais\b|\bnumero errado\b/,
  /\bnie (?:piszcie|wysylajcie|przysylajcie)\b|\bprzestancie (?:pisac|wysylac)\b|\bpomylka\b|\bzly numer\b/,
];

/** Not to be taken for it, whatever else is said: they ask not to be forgotten, or speak of something else. */
const ON_THE_CONTRARY =
  /\b(?:dont|do not|never|please dont) stop\b|\bstop (?:by|in|off|over|at|the|for)\b|\b(?:instead|other number|new number|neue nummer|otro numero|outro numero|autre numero|inny numer)\b/;

/** What people add: a greeting, politeness, the phone's own line below. Taken off before the patterns are tried. */
const FILLERS =
  /\b(?:please|pls|plz|plse|kindly|thanks|thank you|thx|ty|tks|cheers|ta|hi|hello|hey|dear|ok|okay|sorry|just|now|sir|madam|guys|por favor|porfa|porfavor|gracias|hola|ya|s il vous plait|s il te plait|svp|stp|merci|bonjour|bitte|danke|hallo|guten tag|faz favor|por gentileza|obrigado|obrigada|ola|prosze|dziekuje|dzieki|dzien dobry)\b/g;

const SIGNATURES =
  /\n\s*(?:--|sent from|sent via|get the app|envoye de|envoye depuis|gesendet von|von meinem|enviado desde|enviado do|enviado de|enviado a partir|wyslano z|wyslane z)\b[\s\S]*$/;

const letters = (text: string) =>
  text
    .replace(/(\w)['’](?=t\b)/g, "$1")
    .replace(/[^\p{L}\s]/gu, " ")
    .replace(/\s+/g, " ")
    .trim();

/** A wish like this is short; what is longer is a letter, and a person reads it. */
const MAX_LETTERS = 160;

export type StopWish = { sure: true; language: Language } | { sure: false };

/**
 * Whether the person who wrote this wants no more messages: surely, when the message says nothing else; likely, when it
 * says so among other things. Null for any other message.
 *
 * @example readStopWish("pls stop texting me\n\nSent from my phone"); // { sure: true, language: "en" }
 */
export function readStopWish(text: string): StopWish | null {
  const whole = foldLetters(text.slice(0, 2000)).replace(SIGNATURES, "");
  const said = letters(whole);
  if (said === "" || ON_THE_CONTRARY.test(said)) return null;
  if (said.length <= MAX_LETTERS) {
    for (const tried of [said, letters(said.replace(FILLERS, " "))])
      for (const [language, patterns] of Object.entries(CERTAIN) as [Language, readonly RegExp[]][])
        if (tried !== "" && patterns.some((pattern) => pattern.test(tried))) return { sure: true, language };
  }
  // A message that asks for something else as well, or tells another number, is for a person.
  return LIKELY.some((pattern) => pattern.test(said)) ? { sure: false } : null;
}
