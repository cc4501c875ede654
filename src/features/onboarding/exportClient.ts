import type { z } from "zod";
import { CLIENT_FILE_VERSION, type ClientFile, type ClientFileInput } from "@/core/onboarding/clientFile";
import { type NamedRules, namedRules, type settingsPart } from "@/core/onboarding/fileParts";
import type { PlanRules } from "@/core/plans/planRules";
import type { Logo } from "@/core/words/logo";
import { readKey } from "@/core/words/pieces";
import { type IdsByName, loadSetting, type Setting, setClientPicture } from "@/features/clients";
import { BOXES, findImage, keepClientPicture, NotAPicture, type Picture, readPicture } from "@/features/images";
import { installIntakeParts, intakeParts } from "@/features/intake";
import { directoryQuery, listViews, saveView } from "@/features/people";
import { installPlan, listPlans } from "@/features/plans";
import type { Scope, Tx } from "@/platform/database";

/** All that is set up for a client as its file, and the parts of such a file brought in. Secrets and history stay out. */

/** The client's file. */
export async function exportClient(tx: Tx, scope: Scope): Promise<ClientFileInput> {
  const setting = await loadSetting(tx);
  const { client, branches, services, team, listings, tags } = setting;
  const plans = await listPlans(tx, scope);
  return {
    estima: "client",
    version: CLIENT_FILE_VERSION,
    name: client.name,
    country: client.country,
    zone: client.zone,
    colour: client.colour,
    senderEmail: client.senderEmail,
    textNumber: client.textNumber,
    postalAddress: client.postalAddress,
    sendHours: client.sendHours,
    logo: await packed(client.logo),
    header: await packed(client.header),
    portrait: await packed(client.portrait),
    settings: settingsOf(client),
    branches: branches.map(({ id, name, address, zone, region, phone, officeHours, look }) => ({
      name,
      address,
      zone,
      region,
      phone,
      officeHours,
      look: look?.look ? { colour: look.colour, look: look.look } : null,
      reviewPages: listings
        .filter(({ branchId }) => branchId === id)
        .map(({ site, url, accountDomains, connector, connectorUrl, placeId, scale }) => ({
          site,
          url,
          accountDomains,
          connector,
          connectorUrl,
          placeId,
          scale,
        })),
    })),
    services: services.map(({ name, neverAsk, retired }) => ({ name, neverAsk, retired })),
    team: team.map(({ name, retired }) => ({ name, retired })),
    tags: tags.map(({ name, effect }) => ({ name, effect })),
    plans: plans.map(({ name, state, rules, draft }) => ({
      name,
      state,
      rules: namedRules((draft ?? rules) as unknown as NamedRules, (kind, id) => nameOf(setting, kind, id)),
    })),
    ...(await intakeParts(tx, scope, setting)),
    views: (await listViews(tx, scope)).map(({ name, query }) => ({
      name,
      query: withBranch(query, (id) => nameOf(setting, "branch", id)),
    })),
  };
}

const SETTINGS = [
  "language",
  "keepsHolidays",
  "closedDates",
  "gapMinutes",
  "restDays",
  "needsConsent",
  "textsAnHour",
  "emailsAnHour",
  "textsAMonth",
  "emailsAMonth",
  "partPrice",
  "mediaPrice",
  "currency",
  "leavesOutWhenUsedUp",
  "answerWithinHours",
  "urgentWithinHours",
  "awayWord",
  "openAnswers",
  "bookedCountsAsFinished",
  "look",
  "linkDays",
  "privacyNote",
  "keepsMarks",
  "replyTone",
] as const satisfies readonly (keyof z.output<typeof settingsPart>)[];

const settingsOf = (client: Setting["client"]) =>
  Object.fromEntries(SETTINGS.map((name) => [name, client[name]])) as z.output<typeof settingsPart>;

function nameOf({ services, branches }: Setting, kind: "service" | "branch", id: string): string {
  return (kind === "service" ? services : branches).find((one) => one.id === id)?.name ?? "";
}

/** A view's filters with the branch, if any, changed by `to`. */
function withBranch(query: string, to: (branch: string) => string): string {
  const parts = new URLSearchParams(query);
  const branch = parts.get("branch");
  if (branch) parts.set("branch", to(branch));
  return parts.toString();
}

/** A picture as a file holds it: base 64. */
const packed = async (picture: Logo | null): Promise<string | null> =>
  picture && ((await findImage(picture.id))?.content.toString("base64") ?? null);

const KINDS = ["logo", "header", "portrait"] as const;
export type FilePictures = Record<(typeof KINDS)[number], Picture | null>;

/** The pictures in a file, null where there is none; or which of them is no picture. */
export async function picturesOf(
  owner: string,
  file: ClientFile,
): Promise<FilePictures | { unreadable: keyof FilePictures }> {
  const pictures: FilePictures = { logo: null, header: null, portrait: null };
  for (const kind of KINDS) {
    const content = file[kind];
    if (content === null) continue;
    const { box, as } = BOXES[kind];
    try {
      pictures[kind] = await readPicture(owner, Buffer.from(content, "base64"), box, as);
    } catch (error) {
      if (error instanceof NotAPicture) return { unreadable: kind };
      throw error;
    }
  }
  return pictures;
}

/** Keeps the pictures of a client that is being made. */
export async function installPictures(
  tx: Tx,
  scope: Scope,
  agencyId: string,
  who: string,
  pictures: FilePictures,
  now: number,
): Promise<void> {
  const at = { clientId: scope.clientId, agencyId, branchId: null };
  for (const kind of KINDS) {
    if (!pictures[kind]) continue;
    const picture = await keepClientPicture(tx, at, kind, pictures[kind], now);
    await setClientPicture(tx, scope, who, { kind, branchId: null, picture }, now);
  }
}

/**
 * Brings in what a file says beside the business itself. Its plans have never run here, whatever they did elsewhere:
 * nothing is sent before somebody lets one. Gives the first plan, or null for a file without plans.
 */
export async function installParts(
  tx: Tx,
  scope: Scope,
  who: string,
  file: ClientFile,
  ids: IdsByName,
  now: number,
): Promise<string | null> {
  let first: string | null = null;
  for (const [position, { name, state, rules }] of (file.plans ?? []).entries()) {
    const named = namedRules(rules, (kind, each) => ids[kind].get(each) ?? each) as unknown as PlanRules;
    // Words for a service that this client does not have are nobody's.
    const own: PlanRules = named.words
      ? {
          ...named,
          words: {
            ...named.words,
            own: Object.fromEntries(Object.entries(named.words.own).filter(([key]) => readKey(key) !== null)),
          },
        }
      : named;
    const plan = await installPlan(tx, scope, {
      name,
      rules: own,
      runningSince: now,
      position,
      state: state === "archived" ? "archived" : "draft",
      by: who,
    });
    first ??= plan.id;
  }
  await installIntakeParts(tx, scope, who, file, ids, now);
  for (const { name, query } of file.views) {
    const own = withBranch(query, (branch) => ids.branch.get(branch) ?? "");
    await saveView(
      tx,
      scope,
      who,
      name,
      directoryQuery.parse({ q: "", ...Object.fromEntries(new URLSearchParams(own)) }),
    );
  }
  return first;
}
