import { and, eq, isNotNull, isNull, sql } from "drizzle-orm";
import { STARTERS } from "@/core/plans/starters";
import { DAY, HOUR, MINUTE } from "@/core/time/zone";
import { loadSetting } from "@/features/clients";
import { setOwner } from "@/features/concerns";
import { assignConversation, conversationOf, setConversationAside } from "@/features/conversations";
import { receiveTextAt } from "@/features/messaging";
import { installPlan } from "@/features/plans";
import { keepAgencySaved, keepSaved } from "@/features/reviews";
import { withAgency, withClient, workFor } from "@/platform/database";
import { people } from "@/schema/people";
import { DEMO_NOW } from "./scenario";

/** What people have written to the vets when the demo begins, and what helps to answer them. */

const QUESTIONS = [
  {
    words: "{about} will not put weight on that paw since this morning. Should we come in again?",
    minutes: 22,
    picture: "paw",
  },
  { words: "Thank you for yesterday. Could I have the same tablets again, we have three left?", minutes: 95 },
  { words: "Can we move Thursday to next week, same time?", minutes: 26 * 60, aside: true },
];

const SAVED = [
  ["Come in today", "Hello {first name|there}, yes, please come by today before six and ask for me. {signature}"],
  ["Tablets", "Hello {first name|there}, we will have them ready at {branch} from four o’clock. {signature}"],
] as const;

export async function plantConversations(
  agencyId: string,
  clientId: string | undefined,
  it: { texts: string },
): Promise<void> {
  if (!clientId) return;
  const scope = workFor(clientId);
  const who = { id: "demo-manager", name: "Maud Ellery" };
  const { client, branches } = await withClient(scope, loadSetting);
  const writers = await withClient(scope, (tx) =>
    tx
      .select()
      .from(people)
      .where(
        and(
          eq(people.clientId, clientId),
          isNotNull(people.phone),
          eq(people.phoneTakesTexts, true),
          isNull(people.textOptedOutAt),
          isNull(people.doNotAsk),
          isNull(people.guardianId),
          sql`${people.lastMessageAt} between ${new Date(DEMO_NOW - 6 * DAY).toISOString()} and ${new Date(DEMO_NOW - DAY).toISOString()}`,
        ),
      )
      .orderBy(people.id)
      .limit(QUESTIONS.length),
  );
  for (const [index, person] of writers.entries()) {
    const { words, minutes, picture, aside } = QUESTIONS[index];
    await receiveTextAt(clientId, {
      id: `demo letter ${index}`,
      from: person.phone ?? "",
      to: client.textNumber,
      body: words.replace("{about}", "Our dog"),
      pictures: picture ? [`${it.texts}/pictures/${picture}`] : [],
      cameAt: DEMO_NOW - minutes * MINUTE,
    });
    if (!aside) continue;
    await withClient(scope, async (tx) => {
      const conversation = await conversationOf(tx, scope, person.id);
      if (!conversation) return;
      await assignConversation(tx, scope, conversation.id, "demo-desk");
      await setConversationAside(tx, scope, conversation.id, DEMO_NOW + 18 * HOUR);
    });
  }
  await receiveTextAt(clientId, {
    id: "demo letter of nobody",
    from: "+447700900871",
    to: client.textNumber,
    body: "Do you see rabbits? A friend told me about you. And is there parking at Fenwick?",
    pictures: [],
    cameAt: DEMO_NOW - 48 * MINUTE,
  });
  await withClient({ ...scope, user: who }, async (tx) => {
    for (const [purpose, words] of SAVED)
      await keepSaved(
        tx,
        scope,
        who,
        { id: null, isOwn: false, use: "conversations", purpose, language: "en", words },
        DEMO_NOW,
      );
    const fenwick = branches.find(({ name }) => name === "Fenwick");
    if (fenwick)
      await setOwner(tx, scope, who.name, { branchId: fenwick.id, teamMemberId: null, userId: "demo-desk" }, DEMO_NOW);
    const starter = STARTERS.find(({ key }) => key === "put-right");
    if (starter)
      await installPlan(tx, scope, {
        name: starter.name,
        rules: starter.rules(["do-not-ask"]),
        runningSince: DEMO_NOW,
        position: 50,
      });
  });
  await withAgency({ agencyId }, (tx) =>
    keepAgencySaved(
      tx,
      { agencyId },
      "Iris Vane",
      null,
      {
        use: "conversations",
        purpose: "We will ring you",
        language: "en",
        words: "Hello {first name|there}, thank you for writing. Somebody from {business} rings you today. {signature}",
      },
      DEMO_NOW,
    ),
  );
}
