import { eq, sql } from "drizzle-orm";
import { type AnswerRules, answerRulesSchema, PLAIN_ANSWER_RULES } from "@/core/answers/answerRules";
import { keepOpenAnswer } from "@/features/answers";
import { answerConcern, takeConcern, viewConcern } from "@/features/concerns";
import { readLog } from "@/features/messaging";
import { erasePeople } from "@/features/people-admin";
import { withClient } from "@/platform/database";
import { answers } from "@/schema/answers";
import { askEvents } from "@/schema/askEvents";
import { clients } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { concerns } from "@/schema/concerns";
import { messages } from "@/schema/messages";
import { type Harness, startHarness } from "../../support/harness";
import { sendHook } from "../../support/hooks";
import { Scene, TUESDAY } from "../../support/scene";

/** Answers, concerns and messages that no ask began, and that may be nobody's. */
describe("open answers", () => {
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("open_answers");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
  });
  afterAll(() => harness.stop());

  const inside = <T>(work: Parameters<typeof withClient<T>>[1]) => withClient(scene.scope, work);
  const keep = (it: { personId?: string | null; rating: number | null; words?: string | null }) =>
    inside((tx) =>
      keepOpenAnswer(tx, scene.scope, {
        ...{ origin: "standing link", branchId: scene.client.branchId, personId: null, words: null },
        ...it,
      }),
    );

  test("a happy answer of nobody known is kept and noted, and opens no concern", async () => {
    const id = await keep({ rating: 5, words: "Lovely" });
    expect(await inside((tx) => tx.select().from(answers).where(eq(answers.id, id)))).toMatchObject([
      { askId: null, personId: null, origin: "standing link", rating: 5, words: "Lovely", scale: "five" },
    ]);
    expect(await inside((tx) => tx.select().from(concerns))).toEqual([]);
    expect(
      await inside((tx) => tx.select().from(askEvents).where(eq(askEvents.clientId, scene.client.id))),
    ).toMatchObject([{ kind: "answered", source: "person", askId: null, rating: 5 }]);
  });

  test("an unhappy one becomes a concern that can be taken and not written to; with a person, it can", async () => {
    await keep({ rating: 2, words: "Cold tea" });
    const { person } = await scene.finishVisit();
    await keep({ rating: 1, words: "No towel", personId: person.id });
    const [nobodys, theirs] = await inside((tx) => tx.select().from(concerns).orderBy(concerns.words));
    expect([nobodys, theirs]).toMatchObject([
      { words: "Cold tea", personId: null, visitId: null },
      { words: "No towel", personId: person.id, visitId: null },
    ]);
    expect(await inside((tx) => viewConcern(tx, scene.scope, nobodys.id))).toMatchObject({
      person: null,
      endsAt: null,
    });
    expect(await inside((tx) => takeConcern(tx, scene.scope, "Maud", nobodys.id, TUESDAY))).toBeNull();
    const answer = (id: string) =>
      inside((tx) =>
        answerConcern(tx, scene.scope, "Maud", id, { channel: "text", words: "Sorry", requestKey: newId() }, TUESDAY),
      );
    expect(await answer(nobodys.id)).toEqual({ refused: expect.stringContaining("We don’t know who this was") });
    expect(await answer(theirs.id)).toBeNull();
  });

  test("the client's own rules say what counts as unhappy and how the question is put", async () => {
    const rules: AnswerRules = {
      ...PLAIN_ANSWER_RULES,
      question: "two",
      doors: { mode: "open", threshold: 1, acknowledgedBy: null },
    };
    await inside((tx) =>
      tx
        .update(clients)
        .set({ openAnswers: answerRulesSchema.parse(rules) })
        .where(eq(clients.id, scene.client.id)),
    );
    const id = await keep({ rating: 2, words: "Fine" });
    expect(await inside((tx) => tx.select().from(concerns))).toEqual([]);
    expect((await inside((tx) => tx.select().from(answers).where(eq(answers.id, id))))[0].scale).toBe("two");
  });

  test("an answer is of an ask, or comes from somewhere else, and never neither", async () => {
    const values = (origin: string) =>
      inside((tx) =>
        tx.execute(
          sql`insert into answers (id, client_id, branch_id, origin, given_at) values (${newId()}, ${scene.client.id}, ${scene.client.branchId}, ${origin}, now())`,
        ),
      );
    await expect(values("ask")).rejects.toThrow();
    await values("website");
  });

  test("a text from a number that nobody has is kept once, shown in the log, and emptied with whoever turns out to have it", async () => {
    const [{ textNumber }] = await inside((tx) => tx.select().from(clients).where(eq(clients.id, scene.client.id)));
    const from = "+447400123456";
    const text = {
      type: "text.received",
      data: { id: newId(), from, to: textNumber, body: "Do you open on Sundays?" },
    };
    for (let n = 0; n < 2; n++) expect(await sendHook(harness, "texts", text)).toMatchObject({ body: { kept: true } });
    const kept = () => inside((tx) => tx.select().from(messages).where(eq(messages.clientId, scene.client.id)));
    expect(await kept()).toMatchObject([{ personId: null, direction: "in", address: from, body: text.data.body }]);
    const log = await inside((tx) => readLog(tx, scene.scope, { state: null, channel: null, after: null }));
    expect(log).toMatchObject([{ message: { address: from }, given: null, family: null }]);
    const person = await scene.addPerson({ phone: { number: from, canText: true, country: "GB" } });
    await inside((tx) => erasePeople(tx, scene.scope, [person.id], "Maud", TUESDAY));
    expect(await kept()).toMatchObject([{ address: null, body: null }]);
  });
});
