import { randomBytes } from "node:crypto";
import pg from "pg";
import { z } from "zod";
import { STARTER_ROLES } from "@/core/access/permissions";
import { normaliseEmail } from "@/core/contacts/email";
import { hashPassword } from "@/platform/passwords";
import { newId } from "@/schema/columns";

/**
 * `npm run user:add -- EMAIL NAME ROLE AGENCY [CLIENT-SLUG]`: gives somebody a seat, making the agency when there is
 * none of that name, and prints a first password. Works on the database of DATABASE_URL as its owner.
 */
const [email, name, role, agency, client] = process.argv.slice(2);
const input = z
  .object({
    email: z
      .string()
      .transform((text) => normaliseEmail(text) ?? "")
      .refine(Boolean, "not an email address"),
    name: z.string().min(1),
    role: z.enum(STARTER_ROLES),
    agency: z.string().min(1),
    client: z.string().optional(),
  })
  .safeParse({ email: email ?? "", name: name ?? "", role, agency: agency ?? "", client });
if (!process.env.DATABASE_URL || !input.success) {
  console.error(
    "Usage: DATABASE_URL=... npm run user:add -- EMAIL NAME agency|manager|desk|reader AGENCY [CLIENT-SLUG]",
  );
  if (!input.success) console.error(z.prettifyError(input.error));
  process.exit(1);
}
const it = input.data;
const pool = new pg.Pool({ connectionString: process.env.DATABASE_URL, max: 1 });
const first = async (text: string, values: unknown[]) => (await pool.query(text, values)).rows[0];
const agencyId =
  (await first("select id from agencies where name = $1", [it.agency]))?.id ??
  (await first("insert into agencies (id, name) values ($1, $2) returning id", [newId(), it.agency])).id;
const clientId = it.client
  ? (await first("select id from clients where slug = $1 and agency_id = $2", [it.client, agencyId]))?.id
  : null;
if (it.client && !clientId) {
  console.error(`There is no client ${it.client} at ${it.agency}.`);
  process.exit(1);
}
const password = randomBytes(12).toString("base64url");
const known = await first("select id from users where email = $1", [it.email]);
const userId = known?.id ?? newId();
if (!known) {
  await pool.query("insert into users (id, name, email, email_verified) values ($1, $2, $3, true)", [
    userId,
    it.name,
    it.email,
  ]);
  await pool.query(
    "insert into accounts (id, account_id, provider_id, user_id, password) values ($1, $2, 'credential', $2, $3)",
    [newId(), userId, await hashPassword(password)],
  );
}
await pool.query(
  "insert into seats (id, user_id, agency_id, only_client, role) values ($1, $2, $3, $4, $5) on conflict do nothing",
  [newId(), userId, agencyId, clientId, it.role],
);
console.log(known ? `${it.email} has another seat now.` : `${it.email} may sign in with: ${password}`);
await pool.end();
