import { and, eq } from "drizzle-orm";
import { connectorOf, SiteUnreachable } from "@/connectors";
import { normaliseRating } from "@/core/reviews/rating";
import { CONNECTOR_IDS, type ConnectorId } from "@/core/reviews/sites";
import { HOUR, MINUTE } from "@/core/time/zone";
import { connectListing, loadSetting } from "@/features/clients";
import { collect, draftedOf, openDesk, postDueReply, postReply } from "@/features/reviews";
import { claimReplies, takeDownReply } from "@/features/reviews/replies";
import { beginSignIn, finishSignIn, handleSiteHook } from "@/features/sites";
import { secretOfHook } from "@/features/sites/connecting";
import { withClient } from "@/platform/database";
import { encrypt } from "@/platform/secrets";
import { listings } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { reviews } from "@/schema/reviews";
import { siteAccounts } from "@/schema/sites";
import { tellings } from "@/schema/tellings";
import type { Fault } from "../../standins/faults";
import { chanceFor, pick } from "../../standins/townsfolk/chance";
import { placeKey } from "../../standins/waypost";
import { type Harness, SECRETS, startHarness } from "../support/harness";
import { Scene, TUESDAY } from "../support/scene";
import { size } from "../support/size";

/**
 * The contract of all connectors: whatever a site does and however badly it answers, what is kept is what it shows, and
 * a reply stands there once.
 */
describe("connectors", () => {
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("connectors");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    for (const site of [harness.town.waypost, harness.town.guides, harness.town.tenfold]) site.faults.clear();
    await scene.moveTo(TUESDAY);
  });
  afterAll(() => harness.stop());

  /** Somebody who sets the client up, and is told when a site stops. */
  async function manager(): Promise<string> {
    const id = newId();
    await harness.owner.query("insert into users (id, name, email) values ($1, 'Maud Vane', $2)", [
      id,
      `${id}@staff.example`,
    ]);
    await harness.owner.query(
      "insert into seats (id, user_id, agency_id, only_client, role) select $1, $2, agency_id, id, 'manager' from clients where id = $3",
      [newId(), id, scene.client.id],
    );
    return id;
  }
  const toldOf = async () =>
    (
      await withClient(scene.scope, (tx) => tx.select().from(tellings).where(eq(tellings.clientId, scene.client.id)))
    ).map(({ told }) => told);

  /** A review as a site shows it. */
  type Shown = {
    author: string;
    value: number;
    words: string;
    at: number;
    isReported: boolean;
    reply: string | null;
  };

  /** A site from its writers' side. */
  type Site = {
    write(it: { author: string; value: number; words: string }, at: number): string;
    change(id: string, it: Partial<Shown>): void;
    remove(id: string): void;
    shown(): Map<string, Shown>;
    fault(kind: Fault, count?: number): void;
    values: number[];
    faults: Fault[];
    canReport: boolean;
  };

  const READ_FAULTS: Fault[] = ["too many", "error", "down", "half a page", "repeat"];

  function siteOf(id: ConnectorId, place: string): Site {
    const { waypost, guides, tenfold } = harness.town;
    const now = () => harness.town.clock.now();
    if (id === "waypost") {
      type Kept = Parameters<typeof waypost.put>[0];
      const put = (key: string, change: Partial<Kept>) =>
        waypost.put({ ...(waypost.reviews.get(key) as Kept), changedAt: now(), ...change });
      return {
        values: [1, 2, 3, 4, 5],
        faults: READ_FAULTS,
        canReport: true,
        fault: (kind, count = 1) => waypost.faults.add({ kind, match: place, count }),
        write: ({ author, value, words }, at) => waypost.write(place, { author, stars: value, words }, at).id,
        change: (key, { author, value, words, isReported, reply }) =>
          put(key, {
            ...(author === undefined ? {} : { author }),
            ...(value === undefined ? {} : { stars: value }),
            ...(words === undefined ? {} : { words }),
            ...(isReported === undefined ? {} : { reported: isReported }),
            ...(reply === undefined ? {} : { reply: reply === null ? null : { words: reply, at: now() } }),
          }),
        remove: (key) => put(key, { deleted: true }),
        shown: () =>
          new Map(
            [...waypost.reviews.values()]
              .filter((it) => it.place === place && !it.deleted)
              .map((it) => [
                it.id,
                {
                  author: it.author,
                  value: it.stars,
                  words: it.words,
                  at: it.at,
                  isReported: it.reported ?? false,
                  reply: it.reply?.words ?? null,
                },
              ]),
          ),
      };
    }
    if (id === "commons") {
      const entry = (key: string) => {
        const found = guides.book.entries.get(key);
        if (!found) throw new Error("There is no such entry.");
        return found;
      };
      return {
        values: [0, 1],
        faults: READ_FAULTS,
        canReport: true,
        fault: (kind, count = 1) => guides.faults.add({ kind, match: place, count }),
        write: ({ author, value, words }, at) =>
          guides.write("commons", place, { author, words, likes: value > 0 }, at).id,
        change: (key, { author, value, words, isReported, reply }) =>
          guides.book.put({
            ...entry(key),
            changedAt: now(),
            ...(author === undefined ? {} : { author }),
            ...(value === undefined ? {} : { likes: value > 0 }),
            ...(words === undefined ? {} : { words }),
            ...(isReported === undefined ? {} : { state: isReported ? "reported" : "shown" }),
            ...(reply === undefined ? {} : { answer: reply === null ? null : { words: reply, at: now() } }),
          }),
        remove: (key) => guides.book.put({ ...entry(key), changedAt: now(), state: "removed" }),
        shown: () =>
          new Map(
            guides.book
              .of(place)
              .filter(({ guide, state }) => guide === "commons" && state !== "removed")
              .map((it) => [
                it.id,
                {
                  author: it.author,
                  value: it.likes ? 1 : 0,
                  words: it.words,
                  at: it.at,
                  isReported: it.state === "reported",
                  reply: it.answer?.words ?? null,
                },
              ]),
          ),
      };
    }
    const review = (key: string) => {
      const found = tenfold.book.entries.get(key);
      if (!found) throw new Error("This review no longer exists.");
      return found;
    };
    return {
      values: [1, 2.5, 4.9, 6.1, 7.7, 10],
      faults: READ_FAULTS,
      canReport: false,
      fault: (kind, count = 1) => tenfold.faults.add({ kind, match: place, count }),
      write: ({ author, value, words }, at) => tenfold.write(place, { author, points: value, words }, at).id,
      change: (key, { author, value, words }) =>
        tenfold.book.put({
          ...review(key),
          changedAt: now(),
          ...(author === undefined ? {} : { author }),
          ...(value === undefined ? {} : { points: value }),
          ...(words === undefined ? {} : { words }),
        }),
      remove: (key) => tenfold.book.put({ ...review(key), changedAt: now(), deleted: true }),
      shown: () =>
        new Map(
          tenfold.book
            .of(place)
            .filter(({ deleted }) => !deleted)
            .map((it) => [
              it.id,
              {
                author: it.author,
                value: it.points,
                words: it.words,
                // Told to the second.
                at: Math.floor(it.at / 1000) * 1000,
                isReported: false,
                reply: null,
              },
            ]),
        ),
    };
  }

  /** Signs in at Commons as whoever looks after a place there, and gives the account. */
  async function signInAtCommons(
    who = { name: "Maud", id: "maud" },
    account = accountName(),
    again: string | null = null,
  ) {
    const now = harness.town.clock.now();
    const address = await withClient(scene.scope, (tx) =>
      beginSignIn(tx, scene.scope, who, scene.client.slug, "commons", again, now),
    );
    const page = new URL(address ?? "");
    const agreed = await fetch(page.origin + page.pathname, {
      method: "POST",
      redirect: "manual",
      body: new URLSearchParams({ ...Object.fromEntries(page.searchParams), account, say: "allow" }),
    });
    const back = new URL(agreed.headers.get("location") ?? "").searchParams;
    return { state: back.get("state") ?? "", code: back.get("code") };
  }
  const accountName = () => `Place ${scene.client.place.split("-")[1]}`;

  async function accountAtCommons(): Promise<string> {
    const who = { name: "Maud", id: "maud" };
    await finishSignIn(scene.scope, who, await signInAtCommons(who), harness.town.clock.now());
    const [account] = await withClient(scene.scope, (tx) =>
      tx.select().from(siteAccounts).where(eq(siteAccounts.clientId, scene.client.id)),
    );
    return account.id;
  }

  /** Has a site read at the scene's branch; gives the listing. */
  async function connectTo(id: ConnectorId): Promise<string> {
    const connector = connectorOf(id);
    const { place } = scene.client;
    const accountId = id === "commons" ? await accountAtCommons() : null;
    return withClient(scene.scope, (tx) =>
      connectListing(
        tx,
        scene.scope,
        {
          branchId: scene.client.branchId,
          site: connector.name,
          connector: id,
          placeId: place,
          url: `${harness.env.TOWN_URL}/${id}/${place}`,
          connectorUrl: connector.placeUrl(place),
          connectorKey: id === "waypost" ? encrypt(placeKey(SECRETS.waypost, place)) : null,
          accountId,
          scale: connector.scale,
        },
        TUESDAY,
      ),
    );
  }

  async function keptAt(listingId: string) {
    const rows = await withClient(scene.scope, (tx) =>
      tx
        .select()
        .from(reviews)
        .where(and(eq(reviews.clientId, scene.client.id), eq(reviews.listingId, listingId))),
    );
    return rows;
  }
  const shownOf = (rows: (typeof reviews.$inferSelect)[]) =>
    new Map(
      rows
        .filter(({ deletedAt }) => deletedAt === null)
        .map((it) => [
          it.externalId,
          {
            author: it.author,
            value: it.ownRating,
            words: it.words,
            at: it.writtenAt,
            isReported: it.isReported,
            reply: it.replyState === "posted" ? it.reply : null,
          },
        ]),
    );
  const listingOf = async (id: string) =>
    (await withClient(scene.scope, loadSetting)).listings.find((each) => each.id === id);
  const sorted = (shown: Map<string, Shown>) => [...shown].sort(([a], [b]) => (a < b ? -1 : 1));

  /** Rounds of random histories for each connector; more with HISTORIES. */
  const ROUNDS = Number(process.env.HISTORIES ?? size(80, 2500));

  describe.each(CONNECTOR_IDS)("%s", (id) => {
    const connector = connectorOf(id);

    test("finds a business by name and town, as it counts there", async () => {
      const { place } = scene.client;
      const site = siteOf(id, place);
      for (const value of site.values) site.write({ author: "Jun A.", value, words: "" }, TUESDAY);
      const found = await connector.search(`Place ${place.split("-")[1]}`, "Merrow Bay");
      const mine = found.find((each) => each.id === place);
      expect(mine).toMatchObject({ name: accountName(), address: "Merrow Bay", count: site.values.length });
      expect(mine?.rating).toMatch(id === "waypost" ? /^3\.0 of 5$/ : id === "commons" ? /^50% recommend$/ : /of 10$/);
      expect(connector.placeUrl(mine?.id ?? "")).toContain(place);
      expect(await connector.search("Nobody of that name", "Merrow Bay")).toEqual([]);
      expect(await connector.search(accountName(), "Another Town")).toEqual([]);
    });

    test("what is kept is what the site shows, after any history and any fault", async () => {
      const site = siteOf(id, scene.client.place);
      const listingId = await connectTo(id);
      const chance = chanceFor(Number(process.env.HISTORY_SEED ?? 11), id);
      const gone = new Set<string>();
      let now = TUESDAY;
      for (let round = 1; round <= ROUNDS; round++) {
        const steps = Math.floor(chance() * 6);
        for (let step = 0; step < steps; step++) {
          const ids = [...site.shown().keys()];
          const one = ids.length > 0 ? pick(ids, chance) : null;
          const turn = chance();
          if (one === null || turn < 0.35)
            // Also in the past, and out of order.
            site.write(
              {
                author: pick(["Jun A.", "Odette", "Ím Ó."], chance),
                value: pick(site.values, chance),
                words: pick(["", "Fine.", "Zero\u200bwidth \u202eturned 🙂"], chance),
              },
              now - Math.floor(chance() * 90) * HOUR,
            );
          else if (turn < 0.5) site.change(one, { words: `Said anew ${round}`, value: pick(site.values, chance) });
          else if (turn < 0.6) site.change(one, { author: pick(["Jun B.", "J."], chance) });
          else if (turn < 0.7 && site.canReport) site.change(one, { isReported: chance() < 0.5 });
          else if (turn < 0.82 && connector.reply)
            site.change(one, { reply: chance() < 0.7 ? `Thanks ${round}` : null });
          else if (turn < 0.92) {
            site.remove(one);
            gone.add(one);
          }
        }
        if (chance() < 0.3) site.fault(pick(site.faults, chance), 1 + Math.floor(chance() * 2));
        now += MINUTE + Math.floor(chance() * 1000);
        await scene.moveTo(now);
        // Twice at once now and then, as after a lease that ran out.
        await Promise.all(Array.from({ length: chance() < 0.1 ? 2 : 1 }, () => collect(scene.client.id, listingId)));
        if (round % 25 !== 0 && round !== ROUNDS) continue;
        for (const stand of [harness.town.waypost, harness.town.guides, harness.town.tenfold]) stand.faults.clear();
        now += MINUTE;
        await scene.moveTo(now);
        await collect(scene.client.id, listingId);
        const kept = await keptAt(listingId);
        expect(sorted(shownOf(kept))).toEqual(sorted(site.shown()));
        // Nothing is kept twice, and what is gone is kept as gone.
        expect(kept.length).toBe(new Set(kept.map(({ externalId }) => externalId)).size);
        for (const { externalId, deletedAt } of kept) expect(deletedAt !== null).toBe(gone.has(externalId));
        for (const it of kept) expect(it.rating).toBe(normaliseRating(it.ownRating, connector.scale));
      }
      const listing = await listingOf(listingId);
      const shown = [...site.shown().values()];
      expect(listing).toMatchObject({ reviewCount: shown.length, collectError: null, failures: 0 });
      expect(listing?.ownRatingSum).toBeCloseTo(shown.reduce((sum, { value }) => sum + value, 0));
    });

    // Waiting ten seconds for an answer is tried at one of them.
    const told: Fault[] = [
      "too many",
      "error",
      "down",
      "half a page",
      ...(id === "waypost" ? ["time out" as const] : []),
    ];

    test.each(told)(
      "told %s it waits, says so, and misses nothing",
      async (kind) => {
        const site = siteOf(id, scene.client.place);
        const listingId = await connectTo(id);
        site.write({ author: "Jun A.", value: site.values[0], words: "So it was." }, TUESDAY);
        site.fault(kind, 1);
        expect(await collect(scene.client.id, listingId)).toBe(0);
        const failing = await listingOf(listingId);
        expect(failing?.collectError?.code).toBe(
          { "too many": "asks for patience", "half a page": "not readable", "time out": "not reached" }[
            kind as "too many"
          ] ?? "answered",
        );
        expect(failing).toMatchObject({ failingSince: TUESDAY, failures: 1 });
        expect(failing?.collectAt).toBeGreaterThan(TUESDAY);
        if (kind === "too many")
          expect(failing?.collectError).toMatchObject({ until: expect.stringMatching(/^\d\d?:\d\d$/) });
        await scene.moveTo(TUESDAY + 10 * MINUTE);
        expect(await collect(scene.client.id, listingId)).toBe(1);
        expect(await listingOf(listingId)).toMatchObject({ collectError: null, failingSince: null, failures: 0 });
      },
      20_000,
    );

    test("a first reading of several pages tells how far it is, and is over", async () => {
      const site = siteOf(id, scene.client.place);
      for (let n = 0; n < 230; n++)
        site.write(
          { author: "Jun A.", value: site.values[n % site.values.length], words: `${n}` },
          TUESDAY - n * 12 * HOUR,
        );
      const listingId = await connectTo(id);
      expect(await listingOf(listingId)).toMatchObject({ firstReadAt: null, readCount: 0 });
      expect(await collect(scene.client.id, listingId)).toBe(230);
      expect(await listingOf(listingId)).toMatchObject({ firstReadAt: TUESDAY, readCount: 230, reviewCount: 230 });
      expect(sorted(shownOf(await keptAt(listingId)))).toEqual(sorted(site.shown()));
      // What lies long back waits for no reply, and where none is possible nothing does.
      const states = (await keptAt(listingId)).map(({ replyState, writtenAt }) =>
        writtenAt < TUESDAY - 60 * 24 * HOUR ? `old ${replyState}` : `new ${replyState}`,
      );
      expect(new Set(states)).toEqual(
        new Set(connector.reply ? ["new none", "old set aside"] : ["new not possible", "old not possible"]),
      );
      await scene.moveTo(TUESDAY + MINUTE);
      expect(await collect(scene.client.id, listingId)).toBe(0);
    });

    test("long, odd and hostile words are kept as they are, keep no other review away, and are answered sensibly", async () => {
      const site = siteOf(id, scene.client.place);
      const listingId = await connectTo(id);
      await collect(scene.client.id, listingId);
      const odd = [
        "We waited an hour. ".repeat(2500),
        "<script>alert(1)</script> Lovely <b>staff</b>",
        "\u202eneddih saw siht\u202c and \u200bthis\ufeff",
        "🙂🙂🙂",
        "half \ud83d a pair",
        "a nul \u0000 in it",
        " ",
      ];
      for (const [n, words] of odd.entries())
        site.write({ author: n === 0 ? "A".repeat(5000) : "Jun A.", value: site.values[0], words }, TUESDAY + n);
      await scene.moveTo(TUESDAY + MINUTE);
      expect(await collect(scene.client.id, listingId)).toBe(odd.length);
      const kept = (await keptAt(listingId)).sort(
        (a, b) => a.writtenAt - b.writtenAt || a.words.length - b.words.length,
      );
      const said = kept.map(({ words }) => words);
      for (const words of odd) expect(said).toContain(words.replace("\u0000", "").toWellFormed());
      for (const review of kept) {
        expect(review.author.length).toBeLessThanOrEqual(200);
        const draft = await withClient(scene.scope, async (tx) => {
          const desk = await openDesk(tx, scene.scope, await loadSetting(tx), [review], "Maud");
          return draftedOf(desk, review).draft;
        });
        expect(draft?.text.length).toBeGreaterThan(20);
        expect(draft?.text).not.toMatch(/script|[<>]|\u202e|\u200b/);
      }
    });

    test("a site that stops for an hour is told of once", async () => {
      await manager();
      const site = siteOf(id, scene.client.place);
      const listingId = await connectTo(id);
      site.fault("error", 100);
      for (const minutes of [0, 30, 70, 130, 190]) {
        await scene.moveTo(TUESDAY + minutes * MINUTE);
        await collect(scene.client.id, listingId);
      }
      expect(await toldOf()).toMatchObject([{ code: "site", site: connector.name, branch: "Fenwick", since: TUESDAY }]);
    });

    if (!connector.reply) {
      test("takes no reply, and says so", async () => {
        const site = siteOf(id, scene.client.place);
        const listingId = await connectTo(id);
        site.write({ author: "Jun A.", value: 7, words: "Fine." }, TUESDAY);
        await collect(scene.client.id, listingId);
        const [review] = await keptAt(listingId);
        expect(await postReply(scene.scope, "Maud", review.id, "Thank you.")).toEqual({
          kind: "refused",
          problem: { code: "takes no replies" },
        });
      });
      return;
    }

    describe("replies", () => {
      async function reviewed() {
        const site = siteOf(id, scene.client.place);
        const listingId = await connectTo(id);
        const key = site.write({ author: "Jun A.", value: site.values[0], words: "So it was." }, TUESDAY);
        await collect(scene.client.id, listingId);
        const review = async () => (await keptAt(listingId))[0];
        return { site, listingId, key, review, reviewId: (await review()).id };
      }

      test("a reply is posted, changed and taken down, and stands there once", async () => {
        const { site, listingId, key, review, reviewId } = await reviewed();
        expect(await postReply(scene.scope, "Maud", reviewId, "Thank you.")).toEqual({ kind: "posted" });
        // A double click.
        expect(await postReply(scene.scope, "Maud", reviewId, "Thank you.")).toEqual({ kind: "posted" });
        expect(site.shown().get(key)?.reply).toBe("Thank you.");
        // Somebody else had the form open.
        expect(await postReply(scene.scope, "Jonah", reviewId, "Thanks a lot.")).toEqual({
          kind: "meanwhile",
          who: "Maud",
          words: "Thank you.",
        });
        expect(await postReply(scene.scope, "Jonah", reviewId, "Thanks a lot.", "Thank you.")).toEqual({
          kind: "posted",
        });
        expect(site.shown().get(key)?.reply).toBe("Thanks a lot.");
        await scene.moveTo(TUESDAY + MINUTE);
        await collect(scene.client.id, listingId);
        expect(await review()).toMatchObject({ reply: "Thanks a lot.", replyState: "posted", replyBy: "Jonah" });
        expect(await takeDownReply(scene.scope, "Maud", reviewId)).toEqual({ kind: "posted" });
        expect(site.shown().get(key)?.reply).toBeNull();
        expect(await review()).toMatchObject({ reply: null, replyState: "none" });
      });

      test("two at once: one posts, the other is told", async () => {
        const { site, key, reviewId } = await reviewed();
        const done = await Promise.all(
          ["Maud", "Jonah"].map((who) => postReply(scene.scope, who, reviewId, `From ${who}.`)),
        );
        expect(done.map(({ kind }) => kind).sort()).toEqual(["meanwhile", "posted"]);
        const winner = done[0].kind === "posted" ? "Maud" : "Jonah";
        expect(site.shown().get(key)?.reply).toBe(`From ${winner}.`);
      });

      test.each(["error", "taken"] as Fault[])(
        "told %s, it goes again by itself and stands there once",
        async (kind) => {
          const { site, key, review, reviewId } = await reviewed();
          site.fault(kind, 1);
          expect(await postReply(scene.scope, "Maud", reviewId, "Thank you.")).toMatchObject({ kind: "later" });
          expect(await review()).toMatchObject({ replyState: "posting", replyAttempts: 1 });
          expect(await claimReplies(TUESDAY)).not.toContainEqual({ clientId: scene.client.id, reviewId });
          await scene.moveTo(TUESDAY + 5 * MINUTE);
          for (const claim of await claimReplies(TUESDAY + 5 * MINUTE)) await postDueReply(claim);
          expect(site.shown().get(key)?.reply).toBe("Thank you.");
          expect(await review()).toMatchObject({ replyState: "posted", replyDueAt: null, replyError: null });
        },
      );

      test("what a killed worker left under way is posted by another", async () => {
        const { site, key, review, reviewId } = await reviewed();
        await harness.owner.query(
          "update reviews set reply = 'Thank you.', reply_state = 'posting', reply_by = 'Maud', reply_key = $2, reply_due_at = $3 where id = $1",
          [reviewId, newId(), new Date(TUESDAY)],
        );
        const claims = (await claimReplies(TUESDAY)).filter((claim) => claim.reviewId === reviewId);
        // Both workers believe that it is theirs.
        await Promise.all([...claims, ...claims].map(postDueReply));
        expect(site.shown().get(key)?.reply).toBe("Thank you.");
        expect(await review()).toMatchObject({ replyState: "posted" });
      });

      test("a review that is gone takes none, and a reply too long is refused before the site is asked", async () => {
        const { site, listingId, key, reviewId } = await reviewed();
        expect(await postReply(scene.scope, "Maud", reviewId, "x".repeat(4001))).toMatchObject({
          kind: "refused",
          problem: { code: "not taken" },
        });
        site.remove(key);
        expect(await postReply(scene.scope, "Maud", reviewId, "Hello?")).toEqual({
          kind: "refused",
          problem: { code: "review gone" },
        });
        await scene.moveTo(TUESDAY + MINUTE);
        await collect(scene.client.id, listingId);
        expect(await postReply(scene.scope, "Maud", reviewId, "Hello?")).toMatchObject({
          problem: { code: "review gone" },
        });
      });
    });
  });

  describe("the sign-in at Commons", () => {
    const maud = { name: "Maud", id: "maud" };
    const finish = (back: { state: string; code: string | null }, who = maud, now = TUESDAY) =>
      finishSignIn(scene.scope, who, back, now);

    test("counts once, in time, with its state, for whoever began it", async () => {
      const back = await signInAtCommons();
      expect(await finish({ ...back, state: `${back.state.slice(0, -1)}x` })).toEqual({
        refused: "not begun",
        connector: null,
      });
      expect(await finish(back, { name: "Jonah", id: "jonah" })).toEqual({ refused: "not begun", connector: null });
      expect(await finish(back)).toEqual({ connector: "commons", isAgain: false });
      expect(await finish(back)).toEqual({ refused: "not begun", connector: null });
      const late = await signInAtCommons();
      expect(await finish(late, maud, TUESDAY + HOUR)).toEqual({ refused: "too late", connector: "commons" });
      const denied = await signInAtCommons();
      expect(await finish({ ...denied, code: null })).toEqual({ refused: "not agreed", connector: "commons" });
      // A code that somebody else was given is of no use without its verifier.
      const [one, other] = [await signInAtCommons(), await signInAtCommons()];
      expect(await finish({ state: other.state, code: one.code })).toEqual({
        refused: { code: "key refused" },
        connector: "commons",
      });
      // Another client's state is nobody's here.
      const stranger = new Scene(harness, await harness.addClient());
      const mine = await signInAtCommons();
      expect(await finishSignIn(stranger.scope, maud, mine, TUESDAY)).toEqual({
        refused: "not begun",
        connector: null,
      });
    });

    test("tokens are encrypted, renewed in time by one worker only, and a withdrawn one is told of once", async () => {
      await manager();
      const listingId = await connectTo("commons");
      const { rows } = await harness.owner.query("select * from site_accounts where client_id = $1", [scene.client.id]);
      expect(rows).toHaveLength(1);
      expect(JSON.stringify(rows)).not.toMatch(/[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[0-9a-f]{4}-[0-9a-f]{12}"/);
      // An hour later the token has run out: of four workers one renews it, and all can read.
      await scene.moveTo(TUESDAY + 61 * MINUTE);
      const errors = await Promise.all(
        Array.from({ length: 4 }, async () => {
          await collect(scene.client.id, listingId);
          return (await listingOf(listingId))?.collectError;
        }),
      );
      expect(errors).toEqual([null, null, null, null]);
      harness.town.guides.withdraw(accountName());
      const ended = TUESDAY + 62 * MINUTE;
      await scene.moveTo(ended);
      await Promise.all([collect(scene.client.id, listingId), collect(scene.client.id, listingId)]);
      expect(await listingOf(listingId)).toMatchObject({
        collectError: { code: "sign-in ended", at: ended },
        collectAt: null,
      });
      expect((await toldOf()).filter(({ code }) => code === "site")).toHaveLength(1);
      // Signed in again it is read on, and nothing was missed.
      siteOf("commons", scene.client.place).write({ author: "Jun A.", value: 0, words: "No." }, ended);
      const [account] = rows as { id: string }[];
      expect(await finish(await signInAtCommons(maud, accountName(), account.id), maud, ended)).toEqual({
        connector: "commons",
        isAgain: true,
      });
      expect(await listingOf(listingId)).toMatchObject({ collectError: null, collectAt: ended });
      expect(await collect(scene.client.id, listingId)).toBe(1);
      expect((await toldOf()).filter(({ code }) => code === "site")).toHaveLength(1);
    });

    test("another account than the page's opens nothing", async () => {
      const listingId = await connectTo("commons");
      const other = await finish(await signInAtCommons(maud, "Place 39"));
      expect(other).toEqual({ connector: "commons", isAgain: false });
      await harness.owner.query(
        "update listings set account_id = (select id from site_accounts where client_id = $1 and name = 'Place 39') where id = $2",
        [scene.client.id, listingId],
      );
      await collect(scene.client.id, listingId);
      expect((await listingOf(listingId))?.collectError).toEqual({ code: "key refused" });
    });
  });

  test("Tenfold asks for patience in the middle of a first reading: it goes on where it stood", async () => {
    const site = siteOf("tenfold", scene.client.place);
    for (let n = 0; n < 170; n++) site.write({ author: "Jun A.", value: 7, words: `${n}` }, TUESDAY - n * HOUR);
    const listingId = await connectTo("tenfold");
    // The second page is refused.
    const { tenfold } = connectorsRead();
    tenfold.refuseAfter(1);
    expect(await collect(scene.client.id, listingId)).toBe(50);
    expect(await listingOf(listingId)).toMatchObject({
      firstReadAt: null,
      readCount: 50,
      readTotal: 170,
      collectError: { code: "asks for patience" },
    });
    await scene.moveTo(TUESDAY + 2 * MINUTE);
    expect(await collect(scene.client.id, listingId)).toBe(120);
    expect(await listingOf(listingId)).toMatchObject({ readCount: 170, reviewCount: 170, collectError: null });
    expect(sorted(shownOf(await keptAt(listingId)))).toEqual(sorted(site.shown()));
  });

  /** Faults that begin after some answers. */
  function connectorsRead() {
    const { tenfold } = harness.town;
    return {
      tenfold: {
        refuseAfter: (pages: number) => {
          const take = tenfold.faults.take.bind(tenfold.faults);
          let count = 0;
          tenfold.faults.take = (address, kinds) => {
            count += 1;
            if (count === pages + 1) {
              tenfold.faults.take = take;
              return "too many";
            }
            return take(address, kinds);
          };
        },
      },
    };
  }

  test("Waypost tells of a new review at once, and nobody else can", async () => {
    const listingId = await connectTo("waypost");
    await collect(scene.client.id, listingId);
    const dueIn = async () => ((await listingOf(listingId))?.collectAt ?? 0) - TUESDAY;
    expect(await dueIn()).toBe(MINUTE);
    const bare = () => new Request(`${harness.env.APP_URL}/hooks/sites/${listingId}`, { method: "POST", body: "{}" });
    expect((await handleSiteHook(bare(), listingId)).status).toBe(401);
    expect(await dueIn()).toBe(MINUTE);
    const address = `${harness.env.APP_URL}/hooks/sites/${listingId}`;
    const access = {
      url: connectorOf("waypost").placeUrl(scene.client.place),
      secret: placeKey(SECRETS.waypost, scene.client.place),
    };
    // Signed with another page's secret it is nobody's word.
    await connectorOf("waypost").listen?.(access, { address, secret: secretOfHook(newId()) });
    siteOf("waypost", scene.client.place).write({ author: "Jun A.", value: 1, words: "No." }, TUESDAY);
    await harness.town.waypost.settled();
    expect(await dueIn()).toBe(MINUTE);
    await connectorOf("waypost").listen?.(access, { address, secret: secretOfHook(listingId) });
    siteOf("waypost", scene.client.place).write({ author: "Jun A.", value: 1, words: "No, no." }, TUESDAY);
    await harness.town.waypost.settled();
    expect(await dueIn()).toBe(0);
    expect((await handleSiteHook(bare(), "nonsense")).status).toBe(404);
  });

  test("what only looks like an answer of a site is not believed", async () => {
    const listingId = await connectTo("waypost");
    await withClient(scene.scope, (tx) =>
      tx
        .update(listings)
        .set({ connectorUrl: `${harness.env.TOWN_URL}/health?` })
        .where(eq(listings.id, listingId)),
    );
    await collect(scene.client.id, listingId);
    expect((await listingOf(listingId))?.collectError).toEqual({ code: "not readable" });
    for (const id of CONNECTOR_IDS)
      await expect(connectorOf(id).read({ url: "http://10.0.0.1/x", secret: "x" }, "")).rejects.toThrow(
        SiteUnreachable,
      );
  });
});
