import { sql } from "drizzle-orm";
import {
  allowedBy,
  type Grant,
  givenFor,
  narrowed,
  type Permission,
  type PlacePermission,
  permissionsOf,
  type StarterRole,
} from "@/core/access/permissions";
import { rowsIn, type Tx } from "@/platform/database";

/** Who looks after a client, and what each may do there. */

export type Staff = {
  id: string;
  name: string;
  email: string;
  phone: string | null;
  grants: Grant[];
  permissions: readonly Permission[];
  /** With a seat for the agency or one of its groups, and not for this client. */
  isOfAgency: boolean;
};

type Row = {
  id: string;
  name: string;
  email: string;
  phone: string | null;
  role: StarterRole;
  permissions: Permission[] | null;
  kind: "agency" | "group" | "client" | "branch";
  branch: string | null;
  shown: PlacePermission[] | null;
};

/** Everybody with a seat at the current client; who has several may do what any of them allows. */
export async function staffOf(tx: Tx): Promise<Staff[]> {
  const rows = await rowsIn<Row>(tx, sql`select * from estima_staff()`);
  const staff = new Map<string, Staff>();
  for (const row of rows) {
    const permissions = narrowed(givenFor(row.kind, row.permissions ?? permissionsOf(row.role)), row.shown);
    const before = staff.get(row.id);
    const grants = [...(before?.grants ?? []), { permissions, branches: row.branch ? [row.branch] : null }];
    const isOfAgency = (before?.isOfAgency ?? true) && (row.kind === "agency" || row.kind === "group");
    const { id, name, email, phone } = row;
    staff.set(id, { id, name, email, phone, grants, permissions: allowedBy(grants), isOfAgency });
  }
  return [...staff.values()];
}

/** What somebody may do at one branch; of no branch are the rights of those who are bound to none. */
export function rightsAt({ grants }: Staff, branchId: string | null): { permissions: Permission[] } {
  return {
    permissions: allowedBy(
      grants.filter(({ branches }) => branches === null || (branchId !== null && branches.includes(branchId))),
    ),
  };
}
