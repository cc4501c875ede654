import { and, asc, eq, isNotNull, sql } from "drizzle-orm";
import { sayCount } from "@/core/time/say";
import { fetchProblemSentence } from "@/locales/intake";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { feeds } from "@/schema/feeds";
import { intakes } from "@/schema/intake";
import { openNames } from "./names";

/** What stands in the way of people and visits coming in: said in a sentence, with the page that puts it right. */
export type FeedProblem = {
  title: string;
  words: string;
  path: string;
  button: string /** Only for those who may set up. */;
  setUp: boolean;
};

/** Everything that waits for somebody before it can come in. Nothing breaks silently. */
export async function feedProblems(tx: Tx, scope: Scope): Promise<FeedProblem[]> {
  const found: FeedProblem[] = [];
  const broken = await tx
    .select({ id: feeds.id, name: feeds.name, problem: feeds.problem })
    .from(feeds)
    .where(and(eq(feeds.clientId, scope.clientId), eq(feeds.state, "on"), isNotNull(feeds.problem)))
    .orderBy(asc(feeds.name));
  for (const { id, name, problem } of broken)
    found.push({
      title: `We can’t read ${name}`,
      words: problem ? fetchProblemSentence(problem) : "",
      path: `set-up/feeds/${id}`,
      button: "Check the feed",
      setUp: true,
    });
  const failed = await rowsIn<{ id: string; name: string; n: number }>(
    tx,
    sql`select f.id, f.name, (select count(*)::int from inbound_events d where d.feed_id = f.id and d.state = 'failed') as n from feeds f where f.client_id = ${scope.clientId} and f.kind = 'webhook'`,
  );
  for (const { id, name, n } of failed)
    if (n > 0)
      found.push({
        title: `${sayCount(n, "delivery", "deliveries")} of ${name} failed`,
        words: "Each one says why. Fix the settings and try them again.",
        path: `set-up/feeds/${id}`,
        button: "Check the feed",
        setUp: true,
      });
  const lists = await tx
    .select({ id: intakes.id, name: intakes.name })
    .from(intakes)
    .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.state, "ready")))
    .orderBy(asc(intakes.at))
    .limit(3);
  for (const { id, name } of lists)
    found.push({
      title: `A list is waiting: ${name}`,
      words: "We’ve read it, but nothing’s been imported yet.",
      path: `people/import/${id}`,
      button: "Check the list",
      setUp: false,
    });
  const names = (await openNames(tx, scope)).length;
  if (names > 0)
    found.push({
      title: `${sayCount(names, "name")} we don’t recognise`,
      words: "New service, branch or tag names. Visits wait until you match each one, once.",
      path: "set-up/names",
      button: "Match names",
      setUp: false,
    });
  return found;
}
