import type { ClientFile } from "@/core/onboarding/clientFile";
import type { Scope, Tx } from "@/platform/database";
import { branches, clients, listings, services, tags, teamMembers } from "@/schema/clients";
import { newId } from "@/schema/columns";

/** Makes a client of an agency with all that its file says but the plan; the tag that keeps people from being asked with it. */
export async function createClient(
  tx: Tx,
  scope: Scope,
  agencyId: string,
  slug: string,
  file: ClientFile,
): Promise<void> {
  const { clientId } = scope;
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
  });
  for (const [position, branch] of file.branches.entries()) {
    const branchId = newId();
    const address = branch.address || postalAddress;
    await tx.insert(branches).values({ id: branchId, clientId, name: branch.name, zone, address, position });
    for (const [order, page] of branch.reviewPages.entries())
      await tx
        .insert(listings)
        .values({ id: newId(), clientId, branchId, site: page.site, url: page.url, position: order });
  }
  await tx.insert(services).values(file.services.map((service) => ({ id: newId(), clientId, ...service })));
  if (file.team.length > 0)
    await tx.insert(teamMembers).values(file.team.map((member) => ({ id: newId(), clientId, name: member.name })));
  await tx.insert(tags).values({ id: newId(), clientId, name: "do-not-ask", effect: "do not ask" });
}
