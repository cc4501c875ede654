import type { ClientFile } from "@/core/onboarding/clientFile";
import type { Scope, Tx } from "@/platform/database";
import { branches, clients, listings, services, tags, teamMembers } from "@/schema/clients";
import { newId } from "@/schema/columns";

/** Which identifiers the things got that a file names. */
export type IdsByName = Record<"branch" | "service" | "team" | "tag", Map<string, string>>;

/**
 * Makes a client of an agency with what its file says of the business itself; a file without tags brings the one that
 * keeps people from being asked.
 */
export async function createClient(
  tx: Tx,
  scope: Scope,
  agencyId: string,
  slug: string,
  file: ClientFile,
): Promise<IdsByName> {
  const { clientId } = scope;
  const ids: IdsByName = { branch: new Map(), service: new Map(), team: new Map(), tag: new Map() };
  const idFor = (kind: keyof IdsByName, name: string) => {
    const id = newId();
    ids[kind].set(name, id);
    return id;
  };
  const { name, country, zone, colour, senderEmail, textNumber, postalAddress, sendHours } = file;
  await tx.insert(clients).values({
    id: clientId,
    agencyId,
    slug,
    name,
    country,
    zone,
    colour,
    senderEmail,
    textNumber,
    postalAddress,
    sendHours,
    ...file.settings,
  });
  for (const [position, branch] of file.branches.entries()) {
    const branchId = idFor("branch", branch.name);
    const { name, region, phone, officeHours, look, reviewPages } = branch;
    const address = branch.address || postalAddress;
    const at = { zone: branch.zone ?? zone, region, address, officeHours };
    await tx.insert(branches).values({ id: branchId, clientId, name, ...at, phone, look, position });
    for (const [order, page] of reviewPages.entries())
      await tx.insert(listings).values({ id: newId(), clientId, branchId, ...page, position: order });
  }
  await tx
    .insert(services)
    .values(file.services.map((service) => ({ id: idFor("service", service.name), clientId, ...service })));
  if (file.team.length > 0)
    await tx.insert(teamMembers).values(file.team.map((one) => ({ id: idFor("team", one.name), clientId, ...one })));
  const own = file.tags ?? [{ name: "do-not-ask", effect: "do not ask" as const }];
  if (own.length > 0)
    await tx.insert(tags).values(own.map((tag) => ({ id: idFor("tag", tag.name), clientId, ...tag })));
  return ids;
}
