import { z } from "zod";
import { legsOf } from "@/core/plans/legs";
import { DAY } from "@/core/time/zone";
import { type WalkChoice, walkChoice } from "@/core/words/walk";
import { pictureAddress, pictureOf } from "@/platform/customerLinks";
import type { Walk } from "./walk";

/** Addresses of the pictures that messages of a customer's way carry. */

/** Stands for the letters of a link that nobody has. */
export const WALK_TOKEN = "k7q2m9wx4tzr3n";

export const wayInput = z.object({
  client: z.uuid(),
  plan: z.uuid(),
  step: z.number().int().min(0).max(5),
  choice: walkChoice,
  /** Milliseconds since the epoch: until when it is shown. */
  until: z.number(),
});

/** Where the picture of a message of the way is shown: to who looks at the way, for two days, or behind a sample's link. */
export function walkPicture(walk: Walk, step: number, token: string): string {
  const leg = Math.max(
    0,
    legsOf(walk.rules).findIndex((one) => one.step === step),
  );
  if (token !== WALK_TOKEN) return pictureAddress(token, leg);
  const { stop: _, ...choice } = walk.choice;
  const way: z.input<typeof wayInput> = {
    client: walk.context.ask.clientId,
    plan: walk.plan.id,
    step,
    choice: choice as WalkChoice,
    // The same address all day, so that a frame that is drawn anew loads nothing twice.
    until: (Math.floor(walk.now / DAY) + 2) * DAY,
  };
  return pictureOf(`way.${Buffer.from(JSON.stringify(way)).toString("base64url")}`);
}
