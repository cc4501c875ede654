import { wordingFor } from "@/core/plans/trial";
import type { Channel } from "@/core/time/sendHours";
import { type Composed, composeAsk } from "@/core/words/compose";
import { type AnyLanguage, firstLanguage } from "@/core/words/languages";
import { carriesPicture, pictureWords } from "@/core/words/namedPicture";
import { messageWords, pageWords, variantOf, wordsOf } from "@/core/words/planWords";
import type { Setting } from "@/features/clients";
import type { Person } from "@/features/people";
import { type AskContext, wordingFacts, writtenTo } from "./contexts";

/** The words of one message for one person: the same for sending, rehearsing, and showing before it is sent. */

/** In which language somebody is written to: their record's, else their last page's, else their client's. */
export function languageFor(person: Pick<Person, "language" | "pageLanguage">, setting: Setting): AnyLanguage {
  return firstLanguage(person.language, person.pageLanguage, setting.client.language);
}

export type ComposedMessage = Composed & {
  /** The wording on trial that it has; null where none is on trial, or the words are of another variant. */
  wording: string | null;
  /** "es", "en@<service>"; null for the client's own language and every service. */
  variant: string | null;
  language: AnyLanguage;
  /** What is written into the picture that it carries, "" for nothing; null where it carries none. */
  picture: string | null;
};

/** Step `index` of the ask's plan, filled in. `link` is the address of its answer page. */
export function composeStep(
  context: Pick<AskContext, "person" | "visit" | "guardian"> & {
    plan: Pick<AskContext["plan"], "id" | "rules">;
    along?: AskContext["along"];
  },
  setting: Setting,
  now: number,
  index: number,
  channel: Channel,
  link: string,
): ComposedMessage {
  const { plan, person, visit } = context;
  const step = plan.rules.steps[index];
  const wording = wordingFor(step, plan.id, person.id);
  const facts = wordingFacts(context, setting, now);
  const it = {
    language: languageFor(writtenTo(context, setting, now), setting),
    own: firstLanguage(setting.client.language),
    serviceId: visit.serviceId,
  };
  const found = messageWords(plan.rules, step, wording, it);
  const used = channel === "text" ? found.text : found.email;
  const variant = variantOf(used, it);
  const words = composeAsk(
    { text: found.text.words, subject: found.subject.words, email: found.email.words },
    channel,
    facts,
    link,
  );
  return {
    ...words,
    wording: step.others.length > 0 && variant === null ? wording.key : null,
    variant,
    language: it.language,
    picture: carriesPicture(plan.rules.picture, step.key, channel)
      ? pictureWords(pageWords(wordsOf(plan.rules), "picture", it).words, facts)
      : null,
  };
}
