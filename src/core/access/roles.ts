/** Who may do what. Checked on the server for every page and every action; the interface only mirrors it. */

export const ROLES = ["agency", "manager", "desk", "reader"] as const;
export type Role = (typeof ROLES)[number];

/** Everything a role can be allowed, each named by what a person does. */
const ALLOWED = {
  view: ["agency", "manager", "desk", "reader"],
  ask: ["agency", "manager", "desk"],
  "edit people": ["agency", "manager", "desk"],
  "import lists": ["agency", "manager", "desk"],
  "export people": ["agency", "manager"],
  "erase people": ["agency", "manager"],
  "set up": ["agency", "manager"],
  "answer concerns": ["agency", "manager", "desk"],
  "reply in public": ["agency", "manager"],
  "change plans": ["agency", "manager"],
  "move the demo clock": ["agency", "manager", "desk"],
} as const satisfies Record<string, readonly Role[]>;

export type Permission = keyof typeof ALLOWED;

/** Whether `role` may do `permission`. */
export function may(role: Role, permission: Permission): boolean {
  return (ALLOWED[permission] as readonly Role[]).includes(role);
}
