import { and, eq, isNull, lt, ne } from "drizzle-orm";
import { v5 } from "uuid";
import { HOUR } from "@/core/time/zone";
import { answerConcern, closeConcern, takeConcern } from "@/features/concerns";
import { answerConversation } from "@/features/conversations";
import { findPerson } from "@/features/people";
import { postReply } from "@/features/reviews";
import { now as clockNow } from "@/platform/clock";
import { withClient, workFor } from "@/platform/database";
import { concerns } from "@/schema/concerns";
import { conversations } from "@/schema/conversations";
import { reviews } from "@/schema/reviews";
import { chanceFor, pick } from "../../standins/townsfolk/chance";
import { SEED } from "./scenario";

/** What the staff of the demo clients do each morning of the history, through the same services as anybody. */

const KIND = [
  "Thank you for writing this, {name}. It is pinned up in the staff room.",
  "That is lovely to read, {name}. See you both next time.",
  "Thank you, {name}: we will pass it on to everyone who was in that day.",
  "How kind, {name}. Give our best to the whole household.",
];
const SORRY = [
  "Thank you for saying it plainly, {name}. That is not how it should go. Please ring us and ask for the manager, so that we can put it right.",
  "We are sorry, {name}. We have talked it through with the team, and would like to hear more: please call us when it suits you.",
];

const ANSWERS = [
  "Thank you for writing. I will ring you this afternoon about it. {who}",
  "Yes, that is fine. Come by any time before five. {who}",
  "Good to hear from you. I have noted it down, and we will see to it. {who}",
];

/** `finalDay` leaves the latest concerns and reviews for whoever opens the demo. */
export async function actAsStaff(clientId: string, who: string, finalDay: boolean): Promise<void> {
  const scope = workFor(clientId);
  const now = await clockNow();
  const patience = finalDay ? 54 * HOUR : HOUR;
  const open = await withClient(scope, (tx) =>
    tx
      .select()
      .from(concerns)
      .where(and(eq(concerns.clientId, clientId), ne(concerns.state, "closed"), lt(concerns.openedAt, now - patience))),
  );
  for (const concern of open) {
    const chance = chanceFor(SEED, concern.words + concern.openedAt);
    await withClient(scope, async (tx) => {
      if (concern.state === "new") {
        const person = concern.personId ? await findPerson(tx, scope, concern.personId) : null;
        await takeConcern(tx, scope, who, concern.id, now);
        const reachable = person?.phoneTakesTexts && !person.textOptedOutAt && !person.textBouncedAt ? "text" : "email";
        const words = `Hello ${person?.given ?? ""}, I read what you wrote and I am sorry. May I ring you tomorrow about it? ${who}`;
        await answerConcern(
          tx,
          scope,
          who,
          concern.id,
          { channel: reachable, words, requestKey: v5(`${concern.id} answer`, v5.URL) },
          now,
        );
      } else if (concern.takenAt && concern.takenAt < now - 20 * HOUR) {
        const outcome = chance() < 0.6 ? "put right" : chance() < 0.7 ? "apologised" : "could not be reached";
        await closeConcern(tx, scope, who, concern.id, { outcome, note: "" }, now);
      }
    });
  }
  const written = await withClient(scope, (tx) =>
    tx
      .select()
      .from(conversations)
      .where(and(eq(conversations.clientId, clientId), lt(conversations.waitingSince, now - patience))),
  );
  for (const conversation of written)
    await withClient(scope, (tx) =>
      answerConversation(
        tx,
        scope,
        who,
        conversation.id,
        {
          channel: conversation.channel,
          words: pick(ANSWERS, chanceFor(SEED, conversation.address ?? "")).replace("{who}", who),
          requestKey: v5(`${conversation.id} ${conversation.waitingSince}`, v5.URL),
          seenAt: now,
        },
        now,
      ),
    );
  const waiting = await withClient(scope, (tx) =>
    tx
      .select()
      .from(reviews)
      .where(
        and(
          eq(reviews.clientId, clientId),
          eq(reviews.replyState, "none"),
          isNull(reviews.deletedAt),
          lt(reviews.writtenAt, now - patience),
        ),
      ),
  );
  for (const review of waiting) {
    const chance = chanceFor(SEED, review.externalId.length + review.words);
    if (review.rating >= 4 && chance() < 0.02) continue;
    const name = review.author.split(" ")[0];
    await postReply(scope, who, review.id, pick(review.rating >= 4 ? KIND : SORRY, chance).replace("{name}", name));
  }
}
