import { sql } from "drizzle-orm";
import { z } from "zod";
import { typedEmail, typedText } from "@/core/words/typed";
import { rowsIn, rowsOf, withAgency } from "@/platform/database";
import { hashPassword } from "@/platform/passwords";
import { sameSecret, tagFor } from "@/platform/secrets";
import { accounts, agencies, users } from "@/schema/accounts";
import { newId } from "@/schema/columns";
import { passwordInput } from "./invitations";
import { WHOLE_AGENCY } from "./places";
import { addSeat } from "./seats";
import { slugFor } from "./slug";
import { recordAccountEntry } from "./trail";

/** The very first account of an installation, made by whoever can read what the server printed. */

/** Whether nobody has an account yet. */
export async function isUnbegun(): Promise<boolean> {
  const [{ any }] = await rowsOf<{ any: boolean }>(sql`select exists (select 1 from users) as any`);
  return !any;
}

/** What the server prints while nobody has an account: known to whoever has its secret, and to nobody else. */
export const beginToken = () => tagFor("begin", "the first account");

export const beginInput = z.object({
  token: z
    .string()
    .refine((token) => sameSecret(token.trim(), beginToken()), "That isn’t the code the server printed."),
  agency: typedText(80, "Enter the name of your agency or business."),
  name: typedText(80, "Enter your name."),
  email: typedEmail,
  password: passwordInput,
});

/** Makes the first account and its agency. Null where somebody has begun meanwhile: of two at once one begins. */
export async function begin(
  it: z.output<typeof beginInput>,
  now: number,
): Promise<{ slug: string; agencyId: string } | null> {
  const agencyId = newId();
  const userId = newId();
  const hash = await hashPassword(it.password);
  const slug = slugFor(it.agency, "agency");
  return withAgency({ agencyId }, async (tx) => {
    await tx.execute(sql`lock table users in share row exclusive mode`);
    const [{ any }] = await rowsIn<{ any: boolean }>(tx, sql`select exists (select 1 from users) as any`);
    if (any) return null;
    await tx.insert(agencies).values({ id: agencyId, slug, name: it.agency, senderEmail: it.email });
    await tx.insert(users).values({ id: userId, name: it.name, email: it.email, emailVerified: true });
    await tx
      .insert(accounts)
      .values({ id: newId(), accountId: userId, providerId: "credential", userId, password: hash });
    await addSeat(tx, { agencyId }, { userId, ...WHOLE_AGENCY, role: "agency", roleId: null });
    await recordAccountEntry(
      tx,
      { agencyId },
      { at: now, who: it.name, action: "began", subject: "agency", name: it.agency },
    );
    return { slug, agencyId };
  });
}
