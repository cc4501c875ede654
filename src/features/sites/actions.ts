"use server";

import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import { z } from "zod";
import { CONNECTOR_IDS } from "@/core/reviews/sites";
import { capital } from "@/core/time/say";
import { cleanText } from "@/core/words/clean";
import { typedText } from "@/core/words/typed";
import { loadSetting } from "@/features/clients";
import { siteProblemWords } from "@/locales/operations";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import {
  beginSignIn,
  choosePlaces,
  dropConnection,
  finishConnecting,
  noteSearch,
  searchSite,
  stopReading,
} from "./connecting";

const connectorId = z.enum(CONNECTOR_IDS);
const NO_SITE: ActionResult = { ok: false, message: "This site doesn’t exist." };

const searched = z.object({
  name: typedText(120, "Enter the name of the business."),
  town: z.string().max(80, "That’s too long for a town.").transform(cleanText),
});

/** Looks for the business at a site, and keeps what was looked for. */
export const searchForPlaces = action(
  atClientWith("set up"),
  [text, before<ActionResult>(), form],
  async (access, site, _before, form): Promise<ActionResult> => {
    const id = connectorId.safeParse(site);
    if (!id.success) return NO_SITE;
    const values = searched.safeParse({ name: formText(form, "name"), town: formText(form, "town") });
    if (!values.success) return refusal(values.error);
    const now = await clockNow();
    await withClient(access, (tx) => noteSearch(tx, access, access.user.name, id.data, values.data, now));
    revalidatePath(`/c/${access.seat.slug}/set-up/pages`, "layout");
    return { ok: true };
  },
);

/** Keeps which place of those found is which branch's. */
export const choose = action(
  atClientWith("set up"),
  [text, before<ActionResult>(), form],
  async (access, site, _before, form): Promise<ActionResult> => {
    const id = connectorId.safeParse(site);
    if (!id.success) return NO_SITE;
    const looked = searched.safeParse({ name: formText(form, "name"), town: formText(form, "town") });
    if (!looked.success) return refusal(looked.error);
    const setting = await withClient(access, loadSetting);
    const result = await searchSite(id.data, looked.data);
    if ("problem" in result) return { ok: false, message: `${capital(siteProblemWords(result.problem))}. Try again.` };
    const choices = setting.branches.map(({ id: branchId }) => ({
      branchId,
      place: result.found.find((place) => place.id === formText(form, branchId)) ?? null,
    }));
    const places = choices.flatMap(({ place }) => place?.id ?? []);
    if (places.length === 0) return { ok: false, message: "Choose a page for at least one branch." };
    if (new Set(places).size < places.length)
      return { ok: false, message: "Two branches can’t have the same page. Change one of them." };
    const now = await clockNow();
    await withClient(access, async (tx) => {
      await noteSearch(tx, access, access.user.name, id.data, looked.data, now);
      await choosePlaces(tx, access, id.data, choices, now);
    });
    revalidatePath(`/c/${access.seat.slug}/set-up/pages`, "layout");
    return { ok: true };
  },
);

/** Leads to the site, where somebody agrees; `again` is the sign-in that has ended. */
export const signIn = action(
  atClientWith("set up"),
  [text, text.nullable()],
  async (access, site, again): Promise<void> => {
    const id = connectorId.safeParse(site);
    const account = z.uuid().nullable().safeParse(again);
    if (!id.success || !account.success) return;
    const now = await clockNow();
    const address = await withClient(access, (tx) =>
      beginSignIn(tx, access, access.user, access.seat.slug, id.data, account.data, now),
    );
    if (address) redirect(address);
  },
);

/** Opens the places that were chosen, and has them read. */
export const connect = action(
  atClientWith("set up"),
  [text, before<ActionResult>(), form],
  async (access, site, _before, form): Promise<ActionResult> => {
    const id = connectorId.safeParse(site);
    if (!id.success) return NO_SITE;
    const { branches } = await withClient(access, loadSetting);
    const keys = new Map(
      branches.map((branch) => [branch.id, formText(form, `key-${branch.id}`).trim().slice(0, 500)]),
    );
    const now = await clockNow();
    const done = await finishConnecting(
      access,
      access.user.name,
      id.data,
      keys,
      now,
      formText(form, "asksOffered") !== "yes" || formText(form, "isOffered") === "yes",
    );
    if (done && "refused" in done)
      return {
        ok: false,
        message: done.refused
          .map(({ branchId, problem }) => {
            const branch = branches.find((each) => each.id === branchId)?.name ?? "";
            return `${branch}: ${siteProblemWords(problem)}.`;
          })
          .join(" "),
      };
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    redirect(`/c/${access.seat.slug}/set-up/pages`);
  },
);

/** Leaves a connecting that was begun. */
export const leaveConnecting = action(atClientWith("set up"), [text], async (access, site): Promise<void> => {
  const id = connectorId.safeParse(site);
  if (!id.success) return;
  await withClient(access, (tx) => dropConnection(tx, access, id.data));
  revalidatePath(`/c/${access.seat.slug}/set-up/pages`, "layout");
  redirect(`/c/${access.seat.slug}/set-up/pages`);
});

/** Has a page read no more; what was read stays. */
export const stopReadingPage = action(
  atClientWith("set up"),
  [text],
  async (access, listingId): Promise<ActionResult> => {
    const now = await clockNow();
    const isDone = await withClient(access, async (tx) => {
      const listing = (await loadSetting(tx)).listings.find(({ id }) => id === listingId);
      return listing ? stopReading(tx, access, access.user.name, listing, now) : false;
    });
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return isDone
      ? {
          ok: true,
          message: "Disconnected. Reviews we’ve collected stay, and plans that offer the site still offer it.",
        }
      : { ok: false, message: "This page isn’t connected." };
  },
);
