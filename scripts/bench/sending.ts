import nodemailer from "nodemailer";
import { starterRules } from "@/core/plans/starters";
import { weekOf } from "@/core/time/sendHours";
import { composeAsk } from "@/core/words/compose";
import { claimDue, deliver } from "@/features/messaging";
import { installPlan } from "@/features/plans";
import { withAgency, withClient, workFor } from "@/platform/database";
import { environment } from "@/platform/environment";
import { newToken } from "@/platform/secrets";
import { agencies } from "@/schema/accounts";
import { asks } from "@/schema/asks";
import { branches, clients, services } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { messages } from "@/schema/messages";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";
import { BATCH, JOBS_AT_ONCE } from "@/worker/due";
import { emailPage, mailWords } from "../../src/ui/emailPage";

/**
 * Sending through the whole road (claim, decide, compose, write, hand over, write, plan what follows) beside a bare
 * mailer.
 */

const ALWAYS = weekOf([0, 1, 2, 3, 4, 5, 6], 0, 1440);

/** Makes a client to send for. */
export async function benchClient(): Promise<{ id: string; branchId: string; serviceId: string; planId: string }> {
  const agency = { id: newId() };
  await withAgency({ agencyId: agency.id }, (tx) => tx.insert(agencies).values({ ...agency, name: "Bench" }));
  const ids = { id: newId(), branchId: newId(), serviceId: newId(), planId: newId() };
  await withClient(workFor(ids.id), async (tx) => {
    await tx.insert(clients).values({
      id: ids.id,
      agencyId: agency.id,
      slug: "bench",
      name: "Bench Vets",
      country: "GB",
      zone: "Europe/London",
      senderEmail: "hello@bench.example",
      senderConfirmedAt: Date.now(),
      postalAddress: "1 Lane",
      textNumber: "+447700900999",
      sendHours: { text: ALWAYS, email: ALWAYS },
      keepsHolidays: false,
    });
    await tx
      .insert(branches)
      .values({ id: ids.branchId, clientId: ids.id, name: "Fenwick", zone: "Europe/London", address: "1 Lane" });
    await tx.insert(services).values({ id: ids.serviceId, clientId: ids.id, name: "Check-up" });
    await installPlan(
      tx,
      { clientId: ids.id },
      { id: ids.planId, name: "After a visit", rules: starterRules(), runningSince: 0 },
    );
  });
  return ids;
}

/** Writes `count` due emails. */
export async function planMails(client: Awaited<ReturnType<typeof benchClient>>, count: number): Promise<void> {
  const now = Date.now();
  const scope = { clientId: client.id };
  for (let done = 0; done < count; done += 500) {
    const rows = Array.from({ length: Math.min(500, count - done) }, () => ({
      person: newId(),
      visit: newId(),
      ask: newId(),
    }));
    await withClient(scope, async (tx) => {
      await tx.insert(people).values(
        rows.map(({ person }) => ({
          id: person,
          clientId: client.id,
          given: "Odette",
          family: "Marsh",
          email: `${person}@post.example`,
          createdAt: now,
        })),
      );
      await tx.insert(visits).values(
        rows.map(({ person, visit }) => ({
          id: visit,
          clientId: client.id,
          personId: person,
          branchId: client.branchId,
          serviceId: client.serviceId,
          about: "Biscuit",
          endsAt: now - 10_800_000,
          outcome: "finished" as const,
          source: "by hand" as const,
          createdAt: now,
        })),
      );
      await tx.insert(asks).values(
        rows.map(({ person, visit, ask }) => ({
          id: ask,
          clientId: client.id,
          planId: client.planId,
          personId: person,
          visitId: visit,
          branchId: client.branchId,
          token: newToken(),
          anchorAt: now - 10_800_000,
          createdAt: now,
        })),
      );
      await tx.insert(messages).values(
        rows.map(({ person, ask }) => ({
          clientId: client.id,
          personId: person,
          branchId: client.branchId,
          askId: ask,
          direction: "out" as const,
          channel: "email" as const,
          step: 0,
          state: "planned" as const,
          dueAt: now - 3_600_000,
          createdAt: now,
        })),
      );
    });
  }
}

/** Sends all that is due, in as many batches at a time as a worker does; mails per second. */
export async function throughEstima(count: number): Promise<number> {
  const began = performance.now();
  let sent = 0;
  const lane = async () => {
    for (;;) {
      const claims = await claimDue(Date.now(), BATCH);
      if (claims.length === 0) return;
      for (const claim of claims) {
        await deliver(claim);
        sent += claim.messageIds.length;
      }
    }
  };
  await Promise.all(Array.from({ length: JOBS_AT_ONCE }, lane));
  if (sent !== count) throw new Error(`${sent} of ${count} were sent.`);
  return count / ((performance.now() - began) / 1000);
}

/** The same mails through a bare pooled mailer to the same server; mails per second. */
export async function throughBareMailer(count: number): Promise<number> {
  const url = new URL(environment().SMTP_URL);
  const transport = nodemailer.createTransport({
    host: url.hostname,
    port: Number(url.port),
    pool: true,
    maxConnections: 8,
    maxMessages: Number.POSITIVE_INFINITY,
  });
  const link = `${environment().APP_URL}/a/k7q2m9wx4tzr3n.0`;
  const words = composeAsk(
    starterRules().steps[0],
    "email",
    {
      person: { given: "Odette", family: "Marsh" },
      business: "Bench Vets",
      branch: "Fenwick",
      service: "Check-up",
      about: "Biscuit",
      teamMember: null,
    },
    link,
  );
  const { text, html } = await emailPage(words.body, {
    business: "Bench Vets",
    colour: "#6A2156",
    postalAddress: "1 Lane",
    link,
    asksRating: true,
    words: mailWords("en", "Bench Vets"),
    optOut: `${environment().APP_URL}/u/k7q2m9wx4tzr3n`,
    picture: `${environment().APP_URL}/o/${newId()}.gif`,
  });
  const began = performance.now();
  let next = 0;
  const lane = async () => {
    while (next < count) {
      const id = newId();
      next += 1;
      await transport.sendMail({
        messageId: `<${id}@bench.example>`,
        from: { name: "Bench Vets", address: "hello@bench.example" },
        to: `${id}@post.example`,
        replyTo: `hello+${id}@bench.example`,
        subject: words.subject ?? "",
        text,
        html,
        headers: { "List-Unsubscribe": `<${link}>`, "List-Unsubscribe-Post": "List-Unsubscribe=One-Click" },
      });
    }
  };
  await Promise.all(Array.from({ length: 32 }, lane));
  const rate = count / ((performance.now() - began) / 1000);
  transport.close();
  return rate;
}

/** Empties what a turn left behind, so that every turn finds the same. */
export async function clearBench(clientId: string): Promise<void> {
  await withClient({ clientId }, (tx) => tx.delete(people));
}
