import { z } from "@hono/zod-openapi";
import { and, eq } from "drizzle-orm";
import { askByHand, beginningOf, stopAsks } from "@/features/asks";
import { planForHand } from "@/features/plans";
import { lastTraceSentence } from "@/locales/asking";
import { answers } from "@/schema/answers";
import { asks } from "@/schema/asks";
import { MESSAGE_STATES, messages } from "@/schema/messages";
import { visits } from "@/schema/visits";
import * as m from "./models";
import { type Operation, oneOf, Problem, page, pageOf } from "./operation";

/** Asks, their messages and answers, as the API gives and takes them. */
export const ASKS: Operation[] = [
  {
    id: "listAsks",
    method: "GET",
    path: "/asks",
    scope: "asks:read",
    summary: "Asks, in the order they started",
    query: z.object({ ...page, person_id: z.uuid().optional(), visit_id: z.uuid().optional() }),
    gives: { model: m.askModel, many: true },
    run: (call) => {
      const { person_id, visit_id } = call.query as Record<string, string | undefined>;
      return pageOf(
        call,
        asks,
        [person_id ? eq(asks.personId, person_id) : undefined, visit_id ? eq(asks.visitId, visit_id) : undefined],
        m.askJson,
      );
    },
  },
  {
    id: "ask",
    method: "POST",
    path: "/asks",
    scope: "asks:write",
    summary: "Ask someone about a visit now; the first message goes out as soon as the send hours allow",
    body: m.askInput,
    gives: { model: m.askModel, status: 201 },
    run: async (call) => {
      const it = call.body as z.output<typeof m.askInput>;
      const [visit] = await call.tx
        .select()
        .from(visits)
        .where(and(eq(visits.clientId, call.scope.clientId), eq(visits.id, it.visit_id)));
      if (!visit)
        throw new Problem(422, "This visit doesn’t exist.", [
          { pointer: "#/visit_id", detail: "This visit doesn’t exist." },
        ]);
      const plan = await planForHand(call.tx, call.scope, beginningOf(visit));
      const usual = plan?.rules.steps[0].channel;
      const asked = await askByHand(call.tx, call.scope, {
        visit: {
          ...visit,
          outcome: visit.outcome === "booked" && visit.endsAt <= call.now ? "finished" : visit.outcome,
        },
        channel: it.channel ?? (usual === "email" ? "email" : "text"),
        who: call.who,
        requestKey: `api ${visit.id} ${call.now}`,
        now: call.now,
      });
      if ("refused" in asked) throw new Problem(409, `Not asked. ${lastTraceSentence(asked.refused.trace)}`);
      const [ask] = await call.tx.select().from(asks).where(eq(asks.id, asked.askId));
      return { status: 201, body: m.askJson(ask) };
    },
  },
  {
    id: "getAsk",
    method: "GET",
    path: "/asks/{id}",
    scope: "asks:read",
    summary: "One ask",
    gives: { model: m.askModel },
    run: async (call) => ({ body: m.askJson(await oneOf(call, asks, "ask")) }),
  },
  {
    id: "stopAsk",
    method: "POST",
    path: "/asks/{id}/stop",
    scope: "asks:write",
    summary: "End an ask: its remaining messages aren't sent",
    gives: { model: m.askModel },
    run: async (call) => {
      await oneOf(call, asks, "ask");
      await stopAsks(call.tx, call.scope, [call.path.id], "cancelled by hand", call.now);
      return { body: m.askJson(await oneOf(call, asks, "ask")) };
    },
  },
  {
    id: "listMessages",
    method: "GET",
    path: "/messages",
    scope: "messages:read",
    summary: "Messages out and in",
    query: z.object({
      ...page,
      person_id: z.uuid().optional(),
      ask_id: z.uuid().optional(),
      state: z.enum(MESSAGE_STATES).optional(),
    }),
    gives: { model: m.messageModel, many: true },
    run: (call) => {
      const { person_id, ask_id, state } = call.query as Record<string, string | undefined>;
      return pageOf(
        call,
        messages,
        [
          person_id ? eq(messages.personId, person_id) : undefined,
          ask_id ? eq(messages.askId, ask_id) : undefined,
          state ? eq(messages.state, state as "planned") : undefined,
        ],
        m.messageJson,
      );
    },
  },
  {
    id: "getMessage",
    method: "GET",
    path: "/messages/{id}",
    scope: "messages:read",
    summary: "One message",
    gives: { model: m.messageModel },
    run: async (call) => ({ body: m.messageJson(await oneOf(call, messages, "message")) }),
  },
  {
    id: "listAnswers",
    method: "GET",
    path: "/answers",
    scope: "answers:read",
    summary: "Answers, in the order they were given",
    query: z.object({ ...page, person_id: z.uuid().optional() }),
    gives: { model: m.answerModel, many: true },
    run: (call) =>
      pageOf(
        call,
        answers,
        [call.query.person_id ? eq(answers.personId, String(call.query.person_id)) : undefined],
        m.answerJson,
      ),
  },
  {
    id: "getAnswer",
    method: "GET",
    path: "/answers/{id}",
    scope: "answers:read",
    summary: "One answer",
    gives: { model: m.answerModel },
    run: async (call) => ({ body: m.answerJson(await oneOf(call, answers, "answer")) }),
  },
];
