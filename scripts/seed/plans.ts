import type { MoreQuestions, PlanRules } from "@/core/plans/planRules";
import { STARTERS, starterRules } from "@/core/plans/starters";
import { PLAIN_PICTURE } from "@/core/words/namedPicture";
import { installPlan } from "@/features/plans";
import type { Scope, Tx } from "@/platform/database";
import type { DemoClient } from "./scenario";

const starter = (key: string): PlanRules => {
  const found = STARTERS.find((one) => one.key === key);
  if (!found) throw new Error(`No such starter: ${key}`);
  return found.rules(["do-not-ask"]);
};

/** The plans of a demo client as its history begins: each trade asks in its own way. */
export async function installPlans(tx: Tx, scope: Scope, client: DemoClient, runningSince: number): Promise<void> {
  const add = (name: string, rules: PlanRules, position: number, state: "running" | "draft" = "running") =>
    installPlan(tx, scope, { name, rules, runningSince, position, state });
  if (client.trade === "vets") {
    const rules = starterRules();
    const [first, second] = rules.steps;
    const shorter = {
      key: "b",
      text: "Hi {first name|there}, did {about|your} {service|visit} at {business} go as it should? {link} Reply STOP to opt out.",
      subject: "One question, {first name|if you like}",
      email:
        "Hi {first name|there},\n\none question about {about|your} {service|visit}: did it go as it should?\n\n{link}\n\n{team member|All of us} at {business}",
    };
    const more: MoreQuestions = {
      aspects: ["The waiting", "The vet", "The price"],
      recommend: "ten",
      questions: [],
      mayShow: true,
      photo: true,
      doorsLookAt: "rating",
    };
    const picture = { ...PLAIN_PICTURE, background: "leaves" as const, y: 46, emails: [second.key], texts: [] };
    await add("After a visit", { ...rules, more, picture, steps: [first, { ...second, others: [shorter] }] }, 0);
    await add(
      "A year with us",
      { ...starterRules(), begins: { kind: "customer", days: 365 }, goesFirst: true },
      1,
      "draft",
    );
  } else if (client.trade === "driving") {
    const rules = starter("feeling");
    await add(
      "How it went first",
      {
        ...rules,
        sites: { order: ["Waypost", "Commons"], most: 3, mix: "shares", shares: { Waypost: 2, Commons: 1 } },
      },
      0,
    );
  } else if (client.trade === "piano") {
    await add(
      "Win back past customers",
      { ...starter("reawaken"), portions: { perDay: 12, mostBounced: 5, mostOptedOut: 3 } },
      0,
    );
    await add("After a tuning", starterRules(), 1);
  } else {
    await add("After a paid invoice", starter("invoice"), 0, "draft");
    await add("After every visit", starterRules(), 1);
  }
}
