import { readFileSync } from "node:fs";
import pg from "pg";
import { z } from "zod";
import { normaliseEmail } from "@/core/contacts/email";
import { normalisePhone } from "@/core/contacts/phone";
import { starterRules } from "@/core/plans/starters";
import { weekOf } from "@/core/time/sendHours";
import { isZone } from "@/core/time/zone";
import { newId } from "@/schema/columns";

/**
 * `npm run client:add -- FILE.json`: sets up a client with its branches, services, team, review pages and the starter
 * plan, from a file like the example in docs/running.md. Works on the database of DATABASE_URL as its owner.
 */
const schema = z.object({
  agency: z.string().min(1),
  slug: z.string().regex(/^[a-z0-9-]{2,40}$/, "small letters, digits and hyphens"),
  name: z.string().min(1),
  country: z.string().regex(/^[A-Z]{2}$/, "two capital letters, ISO 3166-1"),
  zone: z.string().refine(isZone, "not an IANA time zone"),
  colour: z
    .string()
    .regex(/^#[0-9a-fA-F]{6}$/)
    .default("#6A2156"),
  senderEmail: z
    .string()
    .transform((text) => normaliseEmail(text) ?? "")
    .refine(Boolean, "not an email address"),
  textNumber: z.string().min(3),
  postalAddress: z.string().min(1),
  branches: z
    .array(
      z.object({
        name: z.string().min(1),
        address: z.string().min(1),
        reviewPages: z.array(z.object({ site: z.string().min(1), url: z.url({ protocol: /^https?$/ }) })).default([]),
      }),
    )
    .min(1),
  services: z.array(z.object({ name: z.string().min(1), neverAsk: z.boolean().default(false) })).min(1),
  team: z.array(z.string().min(1)).default([]),
});
const [file] = process.argv.slice(2);
if (!process.env.DATABASE_URL || !file) {
  console.error("Usage: DATABASE_URL=... npm run client:add -- FILE.json");
  process.exit(1);
}
const parsed = schema.safeParse(JSON.parse(readFileSync(file, "utf8")));
if (!parsed.success) {
  console.error(z.prettifyError(parsed.error));
  process.exit(1);
}
const it = parsed.data;
const pool = new pg.Pool({ connectionString: process.env.DATABASE_URL, max: 1 });
const connection = await pool.connect();
try {
  await connection.query("begin");
  const found = (await connection.query("select id from agencies where name = $1", [it.agency])).rows[0];
  const agencyId = found?.id ?? newId();
  if (!found) await connection.query("insert into agencies (id, name) values ($1, $2)", [agencyId, it.agency]);
  const id = newId();
  const week = weekOf([0, 1, 2, 3, 4], 9 * 60, 19 * 60);
  const number = normalisePhone(it.textNumber, it.country)?.number ?? it.textNumber;
  await connection.query(
    "insert into clients (id, agency_id, slug, name, country, zone, colour, sender_email, postal_address, text_number, send_hours) values ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11)",
    [
      id,
      agencyId,
      it.slug,
      it.name,
      it.country,
      it.zone,
      it.colour,
      it.senderEmail,
      it.postalAddress,
      number,
      JSON.stringify({ text: week, email: week }),
    ],
  );
  for (const [position, branch] of it.branches.entries()) {
    const branchId = newId();
    await connection.query(
      "insert into branches (id, client_id, name, zone, address, position) values ($1,$2,$3,$4,$5,$6)",
      [branchId, id, branch.name, it.zone, branch.address, position],
    );
    for (const [order, page] of branch.reviewPages.entries()) {
      await connection.query(
        "insert into listings (id, client_id, branch_id, site, url, position) values ($1,$2,$3,$4,$5,$6)",
        [newId(), id, branchId, page.site, page.url, order],
      );
    }
  }
  for (const service of it.services)
    await connection.query("insert into services (id, client_id, name, never_ask) values ($1,$2,$3,$4)", [
      newId(),
      id,
      service.name,
      service.neverAsk,
    ]);
  for (const name of it.team)
    await connection.query("insert into team_members (id, client_id, name) values ($1,$2,$3)", [newId(), id, name]);
  const planId = newId();
  await connection.query(
    "insert into plans (id, client_id, name, state, rules, running_since) values ($1,$2,'After a visit','paused',$3, now())",
    [planId, id, JSON.stringify(starterRules())],
  );
  await connection.query(
    "insert into plan_versions (plan_id, version, client_id, rules, by, at) values ($1,1,$2,$3,'Estima', now())",
    [planId, id, JSON.stringify(starterRules())],
  );
  await connection.query("commit");
  console.log(`${it.name} is set up. Its plan is paused: look at it under Asking, then resume it.`);
} catch (error) {
  await connection.query("rollback");
  console.error((error as Error).message);
  process.exitCode = 1;
} finally {
  connection.release();
  await pool.end();
}
