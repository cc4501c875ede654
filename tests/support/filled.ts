import { eq, isNotNull, sql } from "drizzle-orm";
import { startChoice } from "@/core/notices/choices";
import { starterRules } from "@/core/plans/starters";
import { keepAnswerPhoto } from "@/features/answers";
import { makeKey } from "@/features/api";
import { decideVisits } from "@/features/asks";
import { keepTag, loadSetting } from "@/features/clients";
import { addTeamNote, setAbsence, setOwner } from "@/features/concerns";
import { addPhone } from "@/features/desk";
import { addFeed, receiveList, startImport } from "@/features/intake";
import { receiveTextAt } from "@/features/messaging";
import { enqueueNotice, keepChoice } from "@/features/notices";
import { refreshOutlook } from "@/features/outlook";
import { syncOwnReview } from "@/features/own-reviews";
import { savePerson, saveView } from "@/features/people";
import { dismissMatch, erasePeople, makeHousehold, mergePeople } from "@/features/people-admin";
import { installPlan } from "@/features/plans";
import { addRule } from "@/features/reviews/rules";
import { keepSaved } from "@/features/reviews/saved";
import { saveReviewView } from "@/features/reviews/views";
import { beginSignIn } from "@/features/sites";
import { makeLink } from "@/features/standing-links";
import { keepOwnTheme } from "@/features/themes/own";
import { recordVisit } from "@/features/visits";
import { makeWayLink } from "@/features/words";
import { rowsOf, withClient, workFor } from "@/platform/database";
import { answers } from "@/schema/answers";
import { newId } from "@/schema/columns";
import { concerns } from "@/schema/concerns";
import { needsAside } from "@/schema/outlook";
import { people, peopleMatches } from "@/schema/people";
import { siteTurns } from "@/schema/plans";
import { agencyReplyUses } from "@/schema/replyRules";
import { reviewImports } from "@/schema/reviewImports";
import { reviews } from "@/schema/reviews";
import { siteAccounts, siteReadings } from "@/schema/sites";
import { tellings } from "@/schema/tellings";
import { namedThemes } from "@/schema/themes";
import { doAllDue } from "@/worker/due";
import type { Harness, TestClient } from "./harness";

export async function fillClient(harness: Harness, client: TestClient, now: number): Promise<void> {
  const scope = workFor(client.id);
  const { person, visit } = await withClient(scope, async (tx) => {
    const { person } = await savePerson(
      tx,
      scope,
      {
        given: "Odette",
        family: "Marsh",
        email: "odette@post.example",
        phone: { number: "+447700900123", canText: true, country: "GB" },
        note: "",
        doNotAsk: null,
      },
      now,
    );
    const visit = await recordVisit(
      tx,
      scope,
      "Maud",
      {
        personId: person.id,
        serviceId: client.serviceId,
        branchId: client.branchId,
        about: "",
        endsAt: now - 3 * 3_600_000,
        outcome: "finished",
        requestKey: newId(),
      },
      now,
    );
    await decideVisits(tx, scope, [visit.id], now);
    return { person, visit };
  });
  await doAllDue();
  const [{ id: askId, token }] = (
    await harness.owner.query("select id, token from asks where client_id = $1", [client.id])
  ).rows;
  for (const [path, body] of [
    ["rate", "rating=2"],
    ["words", "words=Too+long"],
  ])
    await fetch(`${harness.env.APP_URL}/a/${token}/${path}`, { method: "POST", body, redirect: "manual" });
  const [{ id: listingId }] = (await harness.owner.query("select id from listings where client_id = $1", [client.id]))
    .rows;
  await fetch(`${harness.env.APP_URL}/a/${token}/site/${listingId}`, { method: "POST", redirect: "manual" });
  await fetch(`${harness.waypostUrl}/places/${client.place}`, {
    method: "POST",
    body: new URLSearchParams({ author: "O", stars: "2", words: "We waited an hour." }),
    redirect: "manual",
  });
  await harness.owner.query("update listings set collect_at = to_timestamp(0)");
  await doAllDue();
  expect([person.id, visit.id, askId].every(Boolean)).toBe(true);
  await fillRecords(harness, client, now);
  await refreshOutlook(client.id);
  await withClient(scope, (tx) =>
    tx.insert(needsAside).values({ clientId: client.id, key: "no plan runs", reason: "Closed", by: "Maud", at: now }),
  );
}

/** Rows in every table of lists, feeds, keys and records. */
async function fillRecords(harness: Harness, client: TestClient, now: number): Promise<void> {
  const scope = workFor(client.id);
  const bytes = new TextEncoder().encode(
    "Name,Email,Date,Service\nJun Pike,jun@post.example,24/11/2026,Unheard of\nNobody,wrong,,\n",
  );
  await startImport(
    scope,
    await receiveList(scope, { source: "file", name: "x.csv", bytes, who: "Maud", requestKey: newId() }),
    "Maud",
    false,
  );
  await withClient(scope, async (tx) => {
    const base = { note: "", doNotAsk: null };
    const one = async (given: string) =>
      (
        await savePerson(
          tx,
          scope,
          { ...base, given, family: "Twin", email: `${given}@post.example`, phone: null },
          now,
        )
      ).person.id;
    const [a, b, c] = [await one("a"), await one("b"), await one("c")];
    await makeHousehold(tx, scope, [a, b], "Maud", now);
    await dismissMatch(tx, scope, "duplicates", [a, c], "Maud", now);
    await mergePeople(tx, scope, a, c, "Maud", now);
    await erasePeople(tx, scope, [await one("d")], "Maud", now);
    await keepTag(tx, scope, "Maud", null, { name: "vip", effect: "none" }, now);
    await installPlan(tx, scope, {
      name: "Tagged",
      rules: { ...starterRules(), begins: { kind: "tag", tag: "vip" } },
      runningSince: now,
      position: 1,
    });
    await tx
      .update(people)
      .set({ tags: ["vip"] })
      .where(eq(people.id, b));
    await tx
      .insert(siteTurns)
      .values({ clientId: client.id, planId: client.planId, branchId: client.branchId, site: "Waypost", turns: 1 });
    await tx.insert(peopleMatches).values({ clientId: client.id, foundAt: now, pairs: [], homes: [] });
    await saveView(tx, scope, "Maud", "Mine", { q: "x" });
    await enqueueNotice(tx, scope, "x", { code: "not recorded" }, now);
  });
  const { rows: replies } = await harness.owner.query<{ id: string }>(
    "insert into agency_saved_replies (id, agency_id, purpose, language, words, changed_by, changed_at) select gen_random_uuid(), agency_id, 'Thanks', 'en', 'x', 'Maud', now() from clients where id = $1 returning id",
    [client.id],
  );
  const replyId = replies[0].id;
  await receiveTextAt(client.id, {
    id: `letter to ${client.id}`,
    from: "+447700900123",
    to: "",
    body: "Could I come on Friday?",
    pictures: ["http://127.0.0.1:9/picture.png"],
  });
  await withClient(scope, async (tx) => {
    const [answer] = await tx.select().from(answers).limit(1);
    await syncOwnReview(
      tx,
      scope,
      { ...answer, mayShowAt: now },
      { id: answer.personId ?? "", given: "Odette", family: "Marsh" },
      "en",
      now,
    );
    await addRule(tx, scope, "Maud", now);
    await keepChoice(tx, scope, "maud", startChoice({ permissions: [] }, false), now);
    await tx.insert(tellings).values({
      clientId: client.id,
      userId: "maud",
      about: "x",
      told: { code: "concern", concernId: newId() },
      createdAt: now,
    });
    await keepOwnTheme(tx, scope, "Maud", null, { name: "Coffee", words: ["coffee"] }, now);
    const [review] = await tx.select().from(reviews).limit(1);
    await saveReviewView(tx, scope, "Maud", "Mine", "rating=unhappy");
    const [concern] = await tx.select().from(concerns).limit(1);
    await addTeamNote(tx, scope, "Maud", concern.id, "x", now);
    await setOwner(tx, scope, "Maud", { branchId: client.branchId, teamMemberId: null, userId: "maud" }, now);
    await setAbsence(tx, scope, "Maud", { userId: "maud", until: "2026-12-24", standInId: null }, now);
    await tx.insert(agencyReplyUses).values({ clientId: client.id, replyId, uses: 1, usedAt: now });
    const [said] = await tx.select().from(answers).where(isNotNull(answers.personId)).limit(1);
    const named = { clientId: client.id, theme: "waiting", polarity: "unhappy" as const, from: 0, to: 1, saidAt: now };
    await tx.insert(namedThemes).values([
      { ...named, reviewId: review.id, branchId: client.branchId },
      { ...named, answerId: said.id, branchId: client.branchId },
    ]);
    await keepSaved(
      tx,
      scope,
      { name: "Maud", id: "maud" },
      { id: null, isOwn: false, purpose: "Thanks", language: "en", words: "Hello {first name|there}." },
      now,
    );
    const [{ id: listingId }] = (await loadSetting(tx)).listings;
    await tx.insert(reviewImports).values({
      clientId: client.id,
      listingId,
      name: "x.csv",
      state: "kept",
      matching: [],
      madeBy: "Maud",
      madeAt: now,
    });
    await tx
      .insert(siteReadings)
      .values({ listingId, clientId: client.id, cursor: "2 x", seen: ["t-1"], beganAt: now });
    await beginSignIn(tx, scope, { name: "Maud", id: "maud" }, client.slug, "commons", null, now);
    await tx.insert(siteAccounts).values({
      clientId: client.id,
      connector: "commons",
      name: "Test Vets",
      accessToken: "x",
      refreshToken: "y",
      expiresAt: now,
      signedInBy: "Maud",
      signedInAt: now,
    });
    await makeWayLink(tx, scope, "Maud", client.planId, now);
    const photo = { content: Buffer.from("x"), type: "image/jpeg", width: 1, height: 1 };
    await keepAnswerPhoto(tx, scope, answer, photo, now);
  });
  await withClient(scope, (tx) =>
    makeLink(tx, scope, "Maud", { name: "Counter", branchId: client.branchId, teamMemberId: null }, now),
  );
  await addPhone(scope, "Maud", { name: "Front desk", branchId: null, days: 30 }, now);
  await harness.owner.query(
    "insert into desk_tries (client_id, phone_id, user_id, wrong) select client_id, id, user_id, 1 from shared_phones where client_id = $1",
    [client.id],
  );
  const feed = await withClient(scope, (tx) =>
    addFeed(tx, scope, "Maud", { kind: "webhook", name: "Book", url: "", branchId: null, serviceId: null }, now),
  );
  await rowsOf(sql`select estima_add_inbound_event(${newId()}, ${feed.id}, 'e', '{}'::jsonb, now())`);
  const { key } = await withClient(scope, (tx) => makeKey(tx, scope, "Maud", "x", ["people:write"], now));
  await fetch(`${harness.env.APP_URL}/api/v1/people`, {
    method: "POST",
    body: JSON.stringify({ name: "Ines", email: "ines@post.example" }),
    headers: { authorization: `Bearer ${key}`, "content-type": "application/json", "idempotency-key": "k" },
  });
}
