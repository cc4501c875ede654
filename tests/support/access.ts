import { permissionsOf, type StarterRole } from "@/core/access/permissions";
import type { Access } from "@/platform/access";
import type { Scope } from "@/platform/database";
import { newId } from "@/schema/columns";
import type { TestClient } from "./harness";

/** Somebody with a seat at a client, or at the branches that a scope is bound to, as a page knows them. */
export function accessOf(client: TestClient, scope: Scope, role: StarterRole = "desk"): Access {
  const permissions = permissionsOf(role);
  return {
    ...scope,
    user: { id: "u1", name: "Desk", email: "desk@client.example" },
    seats: [],
    seat: {
      ...client,
      role,
      roleName: null,
      kind: scope.branches ? "branch" : "client",
      grants: [{ permissions, branches: scope.branches ?? null }],
      permissions,
      clientId: client.id,
      name: "Test Vets",
      zone: "Europe/London",
      colour: "#6A2156",
      agencyId: newId(),
      agency: "Test agency",
      agencySlug: "test-agency",
      agencyColour: "#6A2156",
      agencyLogo: null,
      helpEmail: "",
    },
  };
}
