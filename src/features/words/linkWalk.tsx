import { asPlanRules, PLAIN_ANSWER_RULES } from "@/core/answers/answerRules";
import type { PlanRules } from "@/core/plans/planRules";
import type { Language } from "@/core/words/languages";
import { linkWalkOf, type PageMoment, type Stop, type WalkChoice } from "@/core/words/walk";
import { AnswerPage } from "@/features/answers";
import { loadSetting, type Setting } from "@/features/clients";
import { linkPageOf } from "@/features/standing-links";
import type { Scope, Tx } from "@/platform/database";
import { markupOf } from "@/ui/markup";
import { ownLanguage } from "./agencyWords";
import { answerAt } from "./walk";
import { WALK_TOKEN } from "./walkPicture";

/** The way of whoever follows a standing link: every page as it is served. */

export type LinkWalk = {
  scope: Scope;
  setting: Setting;
  /** As those of a plan; its messages are nobody's. */
  rules: PlanRules;
  stops: Stop[];
  stop: Stop & { kind: "page" };
  own: Language;
  language: Language;
  now: number;
};

export async function loadLinkWalk(tx: Tx, scope: Scope, choice: WalkChoice, now: number): Promise<LinkWalk> {
  const setting = await loadSetting(tx);
  const rules = asPlanRules(setting.client.openAnswers ?? PLAIN_ANSWER_RULES);
  const own = ownLanguage(setting.client.language);
  const stops = linkWalkOf(
    rules,
    setting.team.some(({ retired }) => !retired),
  );
  const pages = stops.filter((stop): stop is Stop & { kind: "page" } => stop.kind === "page");
  const stop = pages.find(({ key }) => key === choice.stop) ?? pages[0];
  return { scope, setting, rules, stops, stop, own, language: choice.language ?? own, now };
}

/** A page of the way as it would be served. */
export function linkWalkPage(walk: LinkWalk, moment: PageMoment): Promise<string> {
  const { scope, setting, rules, language, own, now } = walk;
  const branchId = setting.branches[0]?.id ?? "";
  const of = { clientId: scope.clientId, askId: null, personId: null, branchId, origin: "standing link" as const };
  const member = moment === "member" ? setting.team.find(({ retired }) => !retired) : undefined;
  const view = linkPageOf(
    setting,
    { token: WALK_TOKEN, branchId, teamMemberId: member?.id ?? null },
    { answer: answerAt(moment, rules, { ...of, givenAt: now }), hasPhoto: false },
    language === own ? null : language,
  );
  return markupOf(<AnswerPage view={view} preselect={null} wrong={null} typed={{}} changing={false} />);
}
