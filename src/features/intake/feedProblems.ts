import { sql } from "drizzle-orm";
import type { FetchProblem } from "@/core/intake/feedReports";
import { sayCount } from "@/core/time/say";
import { fetchProblemSentence } from "@/locales/intake";
import { asOneRow, type Scope, type Tx, together } from "@/platform/database";
import { feeds } from "@/schema/feeds";
import { intakes } from "@/schema/intake";
import { openNamesCount } from "./names";

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
  const { broken, failed, lists, names } = await loadProblems(tx, scope);
  for (const { id, name, problem } of broken)
    found.push({
      title: `We can’t read ${name}`,
      words: problem ? fetchProblemSentence(problem) : "",
      path: `set-up/feeds/${id}`,
      button: "Check the feed",
      setUp: true,
    });
  for (const { id, name, n } of failed)
    found.push({
      title: `${sayCount(n, "delivery", "deliveries")} of ${name} failed`,
      words: "Each one says why. Fix the settings and try them again.",
      path: `set-up/feeds/${id}`,
      button: "Check the feed",
      setUp: true,
    });
  for (const { id, name } of lists)
    found.push({
      title: `A list is waiting: ${name}`,
      words: "We’ve read it, but nothing’s been imported yet.",
      path: `people/import/${id}`,
      button: "Check the list",
      setUp: false,
    });
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

type Named = { id: string; name: string };

async function loadProblems(tx: Tx, scope: Scope) {
  const own = sql`client_id = ${scope.clientId}`;
  const { broken, failed, lists, names } = await together(tx, {
    broken: asOneRow<Named & { problem: FetchProblem }>(
      sql`select id, name, problem from ${feeds} where ${own} and state = 'on' and problem is not null order by name`,
    ),
    failed: asOneRow<Named & { n: number }>(sql`select f.id, f.name, d.n from ${feeds} f, lateral (
        select count(*)::int as n from inbound_events d where d.feed_id = f.id and d.state = 'failed') d
      where f.${own} and f.kind = 'webhook' and d.n > 0`),
    lists: asOneRow<Named>(sql`select id, name from ${intakes} where ${own} and state = 'ready' order by at limit 3`),
    names: openNamesCount(scope),
  });
  return { broken: broken.rows, failed: failed.rows, lists: lists.rows, names: names.count };
}
