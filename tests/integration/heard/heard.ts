import { eq } from "drizzle-orm";
import { alike, TOO_ALIKE } from "@/core/replies/guards";
import { HOUR } from "@/core/time/zone";
import { loadSetting } from "@/features/clients";
import {
  addTeamNote,
  answerConcern,
  closeConcern,
  concernCounts,
  listConcerns,
  openConcern,
  reopenConcern,
  takeConcern,
  teamNotes,
  viewConcern,
} from "@/features/concerns";
import {
  alikeOf,
  answeredSince,
  collect,
  countFacet,
  draftedOf,
  isFacet,
  listReviews,
  openDesk,
  postReply,
  reviewCounts,
  writerOf,
} from "@/features/reviews";
import { inPublic, setWriter } from "@/features/reviews/answered";
import { draftInput, lookedOver, redrafted } from "@/features/reviews/drafts";
import { setAside } from "@/features/reviews/service";
import { deleteReviewView, listReviewViews, MOST_VIEWS, saveReviewView, viewQuery } from "@/features/reviews/views";
import { readThemesOf } from "@/features/themes";
import { rowIn, withClient } from "@/platform/database";
import { answers } from "@/schema/answers";
import { listings, teamMembers } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { concerns } from "@/schema/concerns";
import { reviews } from "@/schema/reviews";
import { replyDue } from "@/worker/due";
import { type Harness, startHarness } from "../../support/harness";
import { post, Scene, TUESDAY } from "../../support/scene";

/**
 * What was heard: reviews when their site is out of order, concerns between two people, and the order in which both
 * are read.
 */
describe("heard", () => {
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("heard");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    harness.town.waypost.faults.clear();
    await scene.moveTo(TUESDAY);
  });
  afterAll(() => harness.stop());

  const listing = async () => (await withClient(scene.scope, loadSetting)).listings[0];
  const collectNow = async () => collect(scene.client.id, (await listing()).id);
  const all = () =>
    withClient(scene.scope, (tx) => tx.select().from(reviews).where(eq(reviews.clientId, scene.client.id)));

  async function write(stars: number, words = "So it was."): Promise<void> {
    await post(`${harness.waypostUrl}/places/${scene.client.place}`, { author: "Jun A.", stars: String(stars), words });
  }

  describe("drafts of replies", () => {
    const draftNow = async (turn = 0) => {
      const [review] = (await all()).filter(({ replyState }) => replyState === "none");
      return withClient(scene.scope, async (tx) => {
        const desk = await openDesk(tx, scene.scope, await loadSetting(tx), [review], "Maud");
        return { review, desk, drafted: draftedOf(desk, review), input: draftInput(desk, review, turn) };
      });
    };

    test("come from the review's words, in its language, and hold nothing that is known of who wrote it", async () => {
      const person = await scene.addPerson({ given: "Jun", family: "Albrecht" });
      await scene.visit(person.id, { about: "Time" });
      await scene.advance(TUESDAY + 3 * HOUR);
      await write(2, "Kind, but we waited an hour.");
      await collectNow();
      const { review, drafted, input } = await draftNow();
      expect(review.personId).toBe(person.id);
      expect(input.facts).toMatchObject({
        family: "Albrecht",
        abouts: ["Time"],
        services: ["Check-up"],
        days: expect.arrayContaining(["24 November", "24 de noviembre", "24 listopada"]),
      });
      expect(drafted.named.map(({ theme, polarity }) => `${theme} ${polarity}`)).toEqual([
        "kindness happy",
        "waiting unhappy",
      ]);
      // Their animal is called Time: that word is in no draft.
      expect(drafted.draft?.text).toMatch(/^Hello Jun/);
      expect(drafted.draft?.text.toLowerCase()).not.toMatch(/\btime\b/);
      await harness.owner.query("update clients set reply_tone = 'formal' where id = $1", [scene.client.id]);
      expect((await draftNow()).drafted.draft?.text).toMatch(/^Dear Jun/);
      await harness.owner.query(
        "update reviews set words = 'Nos hicieron esperar una hora, aunque son muy amables.' where id = $1",
        [review.id],
      );
      const { drafted: spanish } = await draftNow();
      expect([spanish.language, spanish.draft?.text.startsWith("Buenos días, Jun:")]).toEqual(["es", true]);
      // Words that tell no language are taken for the writer's own, where that is known.
      await harness.owner.query("update reviews set words = 'Top!' where id = $1", [review.id]);
      expect((await draftNow()).drafted.language).toBe("en");
      await harness.owner.query("update people set language = 'de' where id = $1", [person.id]);
      expect((await draftNow()).drafted.language).toBe("de");
    });

    test("are unlike the last replies of the listing, and another is really another", async () => {
      await write(5, "Lovely staff.");
      await collectNow();
      const first = await draftNow();
      await postReply(scene.scope, "Maud", first.review.id, first.drafted.draft?.text ?? "");
      await scene.moveTo(TUESDAY + HOUR);
      await write(5, "Lovely staff.");
      await collectNow();
      const next = await draftNow();
      expect(next.input.recent).toEqual([first.drafted.draft?.text]);
      expect(next.drafted.draft?.alike).toBeLessThan(TOO_ALIKE);
      const other = redrafted(next.desk, next.review, 0, next.drafted.draft?.text ?? "");
      expect(alike(other?.draft.text ?? "", next.drafted.draft?.text ?? "")).toBeLessThan(TOO_ALIKE);
      // What somebody types is warned of.
      const { refusals } = lookedOver(next.desk, next.review, `${first.drafted.draft?.text} Dr Hale sends a voucher.`);
      expect(refusals.map(({ guard }) => guard).sort()).toEqual(["money", "private fact", "repeats a reply"]);
    });
  });

  describe("set aside", () => {
    test("waits for nothing, comes back when taken up or when its writer says something new", async () => {
      await write(4, "Fine.");
      await collectNow();
      const [{ id }] = await all();
      const aside = (isAside: boolean, who = "Maud") =>
        withClient(scene.scope, (tx) => setAside(tx, scene.scope, who, id, isAside, TUESDAY));
      const counts = async () => {
        const { waiting, aside } = await withClient(scene.scope, (tx) =>
          rowIn(tx, reviewCounts(scene.scope, TUESDAY - HOUR)),
        );
        return [waiting, aside];
      };
      expect(await counts()).toEqual([1, 0]);
      // Twice at once is once.
      expect(await Promise.all([aside(true), aside(true, "Jonah")])).toEqual([true, true]);
      expect(await counts()).toEqual([0, 1]);
      const { rows } = await harness.owner.query(
        "select count(*)::int as n from audit_entries where client_id = $1 and action = 'set aside'",
        [scene.client.id],
      );
      expect(rows[0].n).toBe(1);
      expect(await aside(false)).toBe(true);
      expect(await counts()).toEqual([1, 0]);
      await aside(true);
      const [review] = await all();
      await scene.moveTo(TUESDAY + HOUR);
      await fetch(`${harness.waypostUrl}/api/reviews/${review.externalId}`, {
        method: "PATCH",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ words: "Not fine at all.", stars: 1 }),
      });
      await collectNow();
      expect(await counts()).toEqual([1, 0]);
      await postReply(scene.scope, "Maud", id, "Thank you.");
      expect(await aside(true)).toBe(false);
      expect(await withClient(scene.scope, (tx) => setAside(tx, scene.scope, "Maud", newId(), true, TUESDAY))).toBe(
        false,
      );
    });
  });

  describe("reviews", () => {
    test("are read unhappiest first while they wait, newest first otherwise, and counted alike", async () => {
      for (const [minutes, stars] of [
        [0, 5],
        [1, 1],
        [2, 3],
        [3, 1],
      ] as const) {
        await scene.moveTo(TUESDAY + minutes * 60_000);
        await write(stars);
      }
      expect(await collectNow()).toBe(4);
      const read = (waiting: boolean) =>
        withClient(scene.scope, (tx) =>
          listReviews(tx, scene.scope, { waiting, site: null, branchId: null, before: null }),
        );
      expect((await read(true)).map(({ review }) => [review.rating, review.writtenAt >= TUESDAY + 3 * 60_000])).toEqual(
        [
          [1, false],
          [1, true],
          [3, false],
          [5, false],
        ],
      );
      expect((await read(false)).map(({ review }) => review.rating)).toEqual([1, 3, 1, 5]);
      expect(await withClient(scene.scope, (tx) => rowIn(tx, reviewCounts(scene.scope, TUESDAY - HOUR)))).toMatchObject(
        {
          all: 4,
          waiting: 4,
          lately: 4,
          answered: 0,
          medianHours: null,
        },
      );
      // A second turn finds nothing new and changes nothing.
      expect(await collectNow()).toBe(0);
      expect(await all()).toHaveLength(4);
    });

    test("are found by words and names, without accents or order, inside the client alone; odd words are only words", async () => {
      const theirs = new Scene(harness, await harness.addClient());
      for (const words of [
        "The café was lovely, and on time.",
        "Nothing to say.",
        "Late again, the lovely café notwithstanding.",
      ])
        await write(4, words);
      harness.town.waypost.write(theirs.client.place, { author: "Zoë Á.", stars: 1, words: "Lovely café." }, TUESDAY);
      harness.town.waypost.write(scene.client.place, { author: "Zoë Álvarez", stars: 1, words: "No." }, TUESDAY);
      await collectNow();
      const { listings: all } = await withClient(theirs.scope, loadSetting);
      await collect(theirs.client.id, all[0].id);
      const found = async (search: string, more = {}) =>
        (
          await withClient(scene.scope, (tx) =>
            listReviews(tx, scene.scope, { waiting: false, site: null, branchId: null, before: null, search, ...more }),
          )
        ).map(({ review }) => review.words);
      expect((await found("cafe lov")).sort()).toEqual([
        "Late again, the lovely café notwithstanding.",
        "The café was lovely, and on time.",
      ]);
      expect(await found("LATE cafe")).toEqual(["Late again, the lovely café notwithstanding."]);
      expect(await found("alvarez zoe")).toEqual(["No."]);
      expect(await found("cafe", { ratings: [1, 2] })).toEqual([]);
      for (const odd of [
        "' | !! & :*",
        "\\",
        "a'b",
        "((",
        "*",
        "%",
        "zz zz",
        "'; drop table reviews; --",
        "x".repeat(500),
      ])
        expect(await found(odd)).toEqual([]);
      const bound = { ...scene.scope, branches: [newId()] };
      const seen = await withClient(bound, (tx) =>
        listReviews(tx, bound, { waiting: false, site: null, branchId: null, before: null, search: "cafe" }),
      );
      expect(seen).toEqual([]);
    });

    test("what they are narrowed down to is kept under a name, for the client alone", async () => {
      expect(viewQuery({ q: "late", rating: "unhappy", site: null, theme: "" })).toBe("rating=unhappy&q=late");
      const other = new Scene(harness, await harness.addClient());
      await withClient(scene.scope, async (tx) => {
        expect(await saveReviewView(tx, scene.scope, "Maud", "Unhappy", "rating=unhappy")).toBe(true);
        expect(await saveReviewView(tx, scene.scope, "Jonah", "Unhappy", "rating=unhappy&words=with")).toBe(true);
        for (let n = 1; n < MOST_VIEWS; n++) await saveReviewView(tx, scene.scope, "Maud", `View ${n}`, "words=with");
        expect(await saveReviewView(tx, scene.scope, "Maud", "One more", "words=with")).toBe(false);
      });
      const [{ id }] = (await withClient(scene.scope, (tx) => listReviewViews(tx, scene.scope))).filter(
        ({ name }) => name === "Unhappy",
      );
      expect(await withClient(other.scope, (tx) => deleteReviewView(tx, other.scope, id))).toBe(false);
      expect(await withClient(scene.scope, (tx) => deleteReviewView(tx, scene.scope, id))).toBe(true);
      expect(await withClient(scene.scope, (tx) => deleteReviewView(tx, scene.scope, id))).toBe(false);
    });

    test("are narrowed down by what they are", async () => {
      for (const [stars, words] of [
        [5, ""],
        [5, "Lovely."],
        [3, "Fine."],
        [1, "No."],
      ] as const)
        await write(stars, words);
      await collectNow();
      const [first] = await all();
      await postReply(scene.scope, "Maud", first.id, "Thanks.");
      const count = async (more: Partial<Parameters<typeof listReviews>[2]>) =>
        (
          await withClient(scene.scope, (tx) =>
            listReviews(tx, scene.scope, { waiting: false, site: null, branchId: null, before: null, ...more }),
          )
        ).length;
      expect([
        await count({ ratings: [4, 5] }),
        await count({ ratings: [1, 2] }),
        await count({ words: "without" }),
        await count({ words: "with", ratings: [3, 3] }),
        await count({ answered: true }),
        await count({ answered: false }),
        await count({ until: TUESDAY - HOUR }),
        await count({ since: TUESDAY + HOUR }),
        await count({ theme: "waiting" }),
      ]).toEqual([2, 1, 1, 1, 1, 3, 0, 0, 0]);
    });

    test("each choice says how many it would leave, as the other filters stand", async () => {
      const person = await scene.addPerson({ given: "Jun", family: "Albrecht" });
      const [member] = await withClient(scene.scope, (tx) => tx.select().from(teamMembers));
      await scene.visit(person.id, { teamMemberId: member.id });
      await scene.advance(TUESDAY + 3 * HOUR);
      for (const [stars, words] of [
        [5, ""],
        [5, "Muy amables y nada caro, gracias por todo."],
        [1, "We waited an hour and nobody said why."],
        [2, "We waited an hour and nobody said why."],
      ] as const)
        await write(stars, words);
      await collectNow();
      await readThemesOf(scene.client.id);
      const everything = { waiting: false, site: null, branchId: null, before: null };
      const count = (facet: string, more: Partial<Parameters<typeof listReviews>[2]> = {}) =>
        withClient(scene.scope, (tx) =>
          isFacet(facet) ? countFacet(tx, scene.scope, facet, { ...everything, ...more }) : Promise.resolve({}),
        );
      expect(await count("rating")).toEqual({ happy: 2, unhappy: 2 });
      // The part itself counts as if nobody had chosen anything in it.
      expect(await count("rating", { ratings: [4, 5], words: "with" })).toEqual({ happy: 1, unhappy: 2 });
      expect(await count("words", { ratings: [4, 5] })).toEqual({ with: 1, without: 1 });
      expect(await count("language")).toEqual({ en: 2, es: 1 });
      expect(await count("site")).toEqual({ Waypost: 4 });
      expect(await count("branch")).toEqual({ [scene.client.branchId]: 4 });
      expect(await count("answered")).toEqual({ no: 4 });
      expect(await count("theme")).toMatchObject({ waiting: 2 });
      expect(await count("member")).toEqual({ [member.id]: 4 });
      expect(await count("since")).toEqual({});
      const listed = async (more: Partial<Parameters<typeof listReviews>[2]>) =>
        (await withClient(scene.scope, (tx) => listReviews(tx, scene.scope, { ...everything, ...more }))).length;
      expect([
        await listed({ language: "es" }),
        await listed({ language: "pl" }),
        await listed({ memberId: member.id }),
        await listed({ memberId: newId() }),
        await listed({ site: "Waypost" }),
        await listed({ site: "Nowhere" }),
      ]).toEqual([1, 0, 4, 0, 4, 0]);
    });

    test("how many are answered and how soon stands by site, branch and person; who wrote is told with its reason", async () => {
      const person = await scene.addPerson({ given: "Jun", family: "Albrecht" });
      await scene.visit(person.id);
      await scene.advance(TUESDAY + 3 * HOUR);
      await write(5, "Lovely.");
      await write(1, "No.");
      await write(4, "Fine.");
      await collectNow();
      const [first, second] = await all();
      await scene.moveTo(TUESDAY + 5 * HOUR);
      await postReply(scene.scope, "Maud", first.id, "Thanks.");
      await postReply(scene.scope, "Jonah", second.id, "We are sorry.");
      await withClient(scene.scope, async (tx) => {
        const { all: sum, sites, branches, people } = await answeredSince(tx, scene.scope, TUESDAY, null);
        expect(sum).toMatchObject({ reviews: 3, answered: 2 });
        expect(sum.medianHours).toBeCloseTo(2);
        expect(sites).toMatchObject([{ name: "Waypost", reviews: 3, answered: 2 }]);
        expect(branches).toMatchObject([{ name: "Fenwick", reviews: 3 }]);
        expect(people.map(({ name, answered }) => [name, answered])).toEqual([
          ["Jonah", 1],
          ["Maud", 1],
        ]);
        expect((await answeredSince(tx, scene.scope, TUESDAY + 9 * HOUR, null)).all).toMatchObject({
          reviews: 0,
          answered: 0,
        });
        // Of the happy ones before the last two, and of none as unhappy.
        const [latest] = (await all()).filter(({ rating }) => rating === 4);
        expect(await alikeOf(tx, scene.scope, latest.id)).toMatchObject({ count: 1, answered: 1 });
        expect(await alikeOf(tx, scene.scope, second.id)).toBeNull();
        const writer = await writerOf(tx, scene.scope, first.id);
        expect(writer).toMatchObject({ personId: person.id, name: "Jun Albrecht", visits: 1 });
        expect(writer?.askedAt).not.toBeNull();
        expect(await writerOf(tx, scene.scope, newId())).toBeNull();
      });
    });

    test("a site out of order is noted with its listing, and forgotten once it answers again", async () => {
      harness.town.waypost.faults.add({ kind: "error", count: 1 });
      await write(4);
      expect(await collectNow()).toBe(0);
      expect((await listing()).collectError).toEqual({ code: "answered", status: 500 });
      expect(await collectNow()).toBe(1);
      expect((await listing()).collectError).toBeNull();
    });

    test("a reply that does not get through keeps its words and its reason, and goes at the next try", async () => {
      await write(2);
      await collectNow();
      const [review] = await all();
      harness.town.waypost.faults.add({ kind: "down", count: 1 });
      expect(await postReply(scene.scope, "Maud", review.id, "We are sorry.")).toMatchObject({
        kind: "later",
        problem: { code: "answered", status: 500 },
      });
      expect((await all())[0]).toMatchObject({
        reply: "We are sorry.",
        replyState: "posting",
        replyError: { code: "answered", status: 500 },
      });
      await scene.moveTo(TUESDAY + HOUR);
      expect(await replyDue(TUESDAY + HOUR)).toBe(1);
      await collectNow();
      expect((await all())[0]).toMatchObject({ reply: "We are sorry.", replyState: "posted", replyError: null });
    });

    test("one that was taken down, or that is somebody else's, takes no reply", async () => {
      await write(2);
      await collectNow();
      const [review] = await all();
      await fetch(`${harness.waypostUrl}/api/reviews/${review.externalId}`, { method: "DELETE" });
      await collectNow();
      const other = new Scene(harness, await harness.addClient());
      for (const scope of [scene.scope, other.scope])
        expect(await postReply(scope, "Maud", review.id, "Hello?")).toEqual({
          kind: "refused",
          problem: { code: "review gone" },
        });
    });

    test("a site that only has a link says that it takes no replies", async () => {
      await write(3);
      await collectNow();
      await withClient(scene.scope, (tx) => tx.update(listings).set({ connector: null }));
      const [review] = await all();
      expect(await postReply(scene.scope, "Maud", review.id, "Thanks")).toEqual({
        kind: "refused",
        problem: { code: "takes no replies" },
      });
    });
  });

  describe("concerns", () => {
    async function concernOf(phone: boolean) {
      const { person, visit } = await scene.finishVisit(phone ? { email: null } : { phone: null });
      const ask = await scene.askOf(person.id);
      return withClient(scene.scope, async (tx) => {
        const [answer] = await tx
          .insert(answers)
          .values({
            clientId: scene.client.id,
            askId: ask.id,
            personId: person.id,
            branchId: ask.branchId,
            rating: 2,
            words: "No.",
            givenAt: TUESDAY,
          })
          .returning();
        await openConcern(
          tx,
          scene.scope,
          {
            answerId: answer.id,
            personId: person.id,
            visitId: visit.id,
            branchId: ask.branchId,
            rating: 2,
            words: "No.",
          },
          TUESDAY,
        );
        const [concern] = await tx.select().from(concerns).where(eq(concerns.personId, person.id));
        return { concern, person };
      });
    }

    test("the team's notes stay with the team; what the same person said in public stands beside it", async () => {
      const { concern, person } = await concernOf(true);
      const note = (who: string, words: string) =>
        withClient(scene.scope, (tx) => addTeamNote(tx, scene.scope, who, concern.id, words, TUESDAY));
      expect(await Promise.all([note("Maud", "Ring her first."), note("Maud", "Ring her first.")])).toEqual([
        null,
        null,
      ]);
      expect(await note("Jonah", "Done.")).toBeNull();
      await write(2, "Not what we were told.");
      await collectNow();
      const [review] = await all();
      const other = new Scene(harness, await harness.addClient());
      await withClient(scene.scope, async (tx) => {
        expect((await teamNotes(tx, scene.scope, concern.id)).map(({ words }) => words)).toEqual([
          "Ring her first.",
          "Done.",
        ]);
        const before = await inPublic(tx, scene.scope, concern);
        expect([before.theirs.length, before.candidates.map(({ id }) => id)]).toEqual([0, [review.id]]);
        expect(await setWriter(tx, scene.scope, "Maud", review.id, newId(), TUESDAY)).toBe(false);
        expect(await setWriter(tx, scene.scope, "Maud", review.id, person.id, TUESDAY)).toBe(true);
        expect((await inPublic(tx, scene.scope, concern)).theirs.map(({ id }) => id)).toEqual([review.id]);
        expect((await writerOf(tx, scene.scope, review.id))?.concernId).toBe(concern.id);
      });
      expect(await withClient(other.scope, (tx) => setWriter(tx, other.scope, "Eve", review.id, null, TUESDAY))).toBe(
        false,
      );
      await withClient(scene.scope, async (tx) => {
        expect(await setWriter(tx, scene.scope, "Maud", review.id, null, TUESDAY)).toBe(true);
        expect((await inPublic(tx, scene.scope, concern)).theirs).toEqual([]);
      });
    });

    test("opened twice for one answer is one, with the later words", async () => {
      const { concern, person } = await concernOf(true);
      await withClient(scene.scope, async (tx) => {
        await openConcern(
          tx,
          scene.scope,
          {
            answerId: concern.answerId,
            personId: person.id,
            visitId: concern.visitId,
            branchId: concern.branchId,
            rating: 1,
            words: "Still no.",
          },
          TUESDAY + HOUR,
        );
        expect(await rowIn(tx, concernCounts(scene.scope))).toEqual({ all: 1, open: 1, waiting: 1 });
      });
      expect((await withClient(scene.scope, (tx) => viewConcern(tx, scene.scope, concern.id)))?.concern).toMatchObject({
        words: "Still no.",
        rating: 1,
        openedAt: TUESDAY,
      });
    });

    test("answering takes it; a channel that reaches nobody is refused in words", async () => {
      const { concern } = await concernOf(true);
      const answer = (channel: "text" | "email") =>
        withClient(scene.scope, (tx) =>
          answerConcern(
            tx,
            scene.scope,
            "Jonah",
            concern.id,
            { channel, words: "I’m sorry – truly.", requestKey: newId() },
            TUESDAY,
          ),
        );
      expect(await answer("email")).toEqual({ refused: "You can’t email this person: no address." });
      expect(await answer("text")).toBeNull();
      const seen = await withClient(scene.scope, (tx) => viewConcern(tx, scene.scope, concern.id));
      expect(seen?.concern).toMatchObject({ state: "taken", takenBy: "Jonah", answeredAt: TUESDAY });
      // Put plainly, so that it stays in the small alphabet.
      expect(seen?.letters).toMatchObject([{ message: { body: "I'm sorry - truly.", parts: 1, writtenBy: "Jonah" } }]);
    });

    test("closed and opened again, with a trail; what waits longest comes first", async () => {
      const first = await concernOf(true);
      const second = await concernOf(false);
      await withClient(scene.scope, async (tx) => {
        expect(
          await closeConcern(
            tx,
            scene.scope,
            "Maud",
            first.concern.id,
            { outcome: "explained", note: "by phone" },
            TUESDAY + HOUR,
          ),
        ).toBeNull();
        expect(await takeConcern(tx, scene.scope, "Jonah", first.concern.id, TUESDAY + HOUR)).toEqual({
          refused: "Maud has closed this concern in the meantime.",
        });
        expect((await listConcerns(tx, scene.scope, { open: true })).map(({ concern }) => concern.id)).toEqual([
          second.concern.id,
        ]);
        expect(await reopenConcern(tx, scene.scope, "Jonah", first.concern.id, TUESDAY + 2 * HOUR)).toBeNull();
        expect((await listConcerns(tx, scene.scope, { open: true })).map(({ concern }) => concern.id)).toHaveLength(2);
        expect(await viewConcern(tx, scene.scope, newId())).toBeNull();
      });
      const { rows } = await harness.owner.query(
        "select who, action from audit_entries where subject_id = $1 order by at",
        [first.concern.id],
      );
      expect(rows).toEqual([
        { who: "Maud", action: "closed" },
        { who: "Jonah", action: "reopened" },
      ]);
    });
  });
});
