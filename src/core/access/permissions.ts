/**
 * What a person may do. Checked on the server for every page and every action; the interface only mirrors it. Edit this
 * to add a permission: its words stand in `src/locales/en.json` under "permissions".
 */

/** Which places somebody sees. A client's own people can be shown fewer of them than their role allows. */
export const PLACES = ["see today", "see people", "see asking", "see heard"] as const;
export type PlacePermission = (typeof PLACES)[number];

/** What can be done at a client. */
const AT_CLIENTS = [
  "ask",
  "ask many",
  "edit people",
  "import lists",
  "export people",
  "erase people",
  "answer concerns",
  "draft replies",
  "reply in public",
  "change words",
  "change plans",
  "set up",
  "pause everything",
] as const;

/** What can be done for an agency: with its clients, and with the people who have a seat. */
export const FOR_AGENCIES = ["start clients", "end clients", "manage people"] as const;

export const PERMISSIONS = [...PLACES, ...AT_CLIENTS, ...FOR_AGENCIES, "move the demo clock"] as const;
export type Permission = (typeof PERMISSIONS)[number];

/** The roles that every agency has to begin with; it makes its own of them. */
export const STARTER_ROLES = ["agency", "manager", "desk", "reader"] as const;
export type StarterRole = (typeof STARTER_ROLES)[number];

const DESK: readonly Permission[] = [
  ...PLACES,
  "ask",
  "ask many",
  "edit people",
  "import lists",
  "answer concerns",
  "draft replies",
  "move the demo clock",
];
const MANAGER: readonly Permission[] = [
  ...DESK,
  "export people",
  "erase people",
  "reply in public",
  "change words",
  "change plans",
  "set up",
  "pause everything",
];

/**
 * What a phone that several people share may do: ask one person at a time, and nothing else, whoever says there who
 * they are.
 */
export const OF_SHARED_PHONES: readonly Permission[] = ["ask"];

const ALLOWED: Record<StarterRole, readonly Permission[]> = {
  agency: PERMISSIONS,
  manager: MANAGER,
  desk: DESK,
  reader: PLACES,
};

/** What a starter role allows, in the order of `PERMISSIONS`. */
export function permissionsOf(role: StarterRole): Permission[] {
  return PERMISSIONS.filter((permission) => ALLOWED[role].includes(permission));
}

/**
 * What a role can allow at a branch. What concerns a whole client (its lists, plans, settings and pauses) or a whole
 * agency is nobody's who is bound to less.
 */
export const AT_BRANCHES: readonly Permission[] = [
  ...PLACES,
  "ask",
  "ask many",
  "edit people",
  "export people",
  "answer concerns",
  "draft replies",
  "reply in public",
  "move the demo clock",
];

/** What is left of a role's permissions where it is given for less than an agency. */
export function givenFor(kind: "agency" | "group" | "client" | "branch", permissions: readonly Permission[]) {
  if (kind === "agency") return [...permissions];
  if (kind === "branch") return permissions.filter((permission) => AT_BRANCHES.includes(permission));
  return permissions.filter((permission) => !(FOR_AGENCIES as readonly Permission[]).includes(permission));
}

/** What one seat gives at a client: permissions, at some of its branches or (null) at all of it. */
export type Grant = { permissions: readonly Permission[]; branches: readonly string[] | null };

/** What all of somebody's seats at a client allow, wherever at it. */
export function allowedBy(grants: readonly Grant[]): Permission[] {
  return PERMISSIONS.filter((permission) => grants.some(({ permissions }) => permissions.includes(permission)));
}

/**
 * At which branches these seats allow something: null for the whole client, none where nowhere. Whoever sees all
 * branches and may ask at one asks there only.
 */
export function branchesFor(grants: readonly Grant[], permission: Permission): string[] | null {
  const giving = grants.filter(({ permissions }) => permissions.includes(permission));
  if (giving.some(({ branches }) => branches === null)) return null;
  return [...new Set(giving.flatMap(({ branches }) => branches ?? []))];
}

/** Somebody's rights somewhere: a seat, a role. */
export type Rights = { permissions: readonly Permission[] };

/** Whether these rights allow something. */
export function may({ permissions }: Rights, permission: Permission): boolean {
  return permissions.includes(permission);
}

/**
 * What is left of a role's permissions for a client's own people, who are shown only some places (null: all). Whoever
 * does not see a place can do nothing there.
 *
 * @example narrowed(["see today", "see heard", "answer concerns", "ask"], ["see heard"]) // ["see heard", "answer concerns"]
 */
export function narrowed(permissions: readonly Permission[], shown: readonly PlacePermission[] | null): Permission[] {
  if (!shown) return [...permissions];
  const hidden = PLACES.filter((place) => !shown.includes(place));
  return permissions.filter(
    (permission) =>
      !(hidden as readonly Permission[]).includes(permission) && !hidden.some((place) => DONE_AT[permission] === place),
  );
}

/** At which place something is done. */
const DONE_AT: Partial<Record<Permission, PlacePermission>> = {
  "edit people": "see people",
  "import lists": "see people",
  "export people": "see people",
  "erase people": "see people",
  "answer concerns": "see heard",
  "draft replies": "see heard",
  "reply in public": "see heard",
  "change words": "see asking",
  "change plans": "see asking",
  ask: "see people",
  "ask many": "see people",
};
