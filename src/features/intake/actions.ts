"use server";

import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import { z } from "zod";
import { may } from "@/core/access/permissions";
import { VISIT_KINDS } from "@/core/intake/arrival";
import { FIELDS } from "@/core/intake/fields";
import { capital, sayCount, sayFigure, sayWhen } from "@/core/time/say";
import { cleanText } from "@/core/words/clean";
import { loadSetting } from "@/features/clients";
import { remarkSentences } from "@/locales/intake";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, formTexts } from "@/ui/result";
import { Unreadable } from "./files";
import { retryRow, startImport } from "./listImport";
import { chooseReading, receiveSheet } from "./listReading";
import { findIntake } from "./listState";
import { undoImport } from "./listUndo";
import { assignName } from "./names";

const gone = {
  ok: false as const,
  message: "This list is no longer waiting. Reload the page to see what happened.",
};

const emptyId = z
  .union([z.literal(""), z.uuid()])
  .default("")
  .transform((id) => id || null);

const choiceInput = z.object({
  matching: z.array(z.union([z.literal("").transform(() => null), z.enum(FIELDS)])).max(300),
  order: z.union([z.literal("").transform(() => null), z.enum(["day first", "month first"])]),
  undated: z.enum(["today", "no visit"]),
  sharedAddress: z.enum(["same person", "another person"]),
  kind: z.enum(VISIT_KINDS),
  serviceId: emptyId,
  branchId: emptyId,
});

/** Reads a list another way and looks at it again. */
export const chooseList = action(
  atClientWith("import lists"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const values = choiceInput.safeParse({
      matching: formTexts(form, "column"),
      order: formText(form, "order"),
      undated: formText(form, "undated") || "today",
      sharedAddress: formText(form, "sharedAddress") || "another person",
      kind: formText(form, "kind") || "appointment",
      serviceId: formText(form, "serviceId"),
      branchId: formText(form, "branchId"),
    });
    if (!values.success || !z.uuid().safeParse(id).success)
      return { ok: false, message: "One of your choices isn’t valid. Choose again." };
    const belongs = await withClient(access, async (tx) => {
      const { services, branches } = await loadSetting(tx);
      const { serviceId, branchId } = values.data;
      return (
        (!serviceId || services.some((one) => one.id === serviceId)) &&
        (!branchId || branches.some((one) => one.id === branchId))
      );
    });
    if (!belongs) return { ok: false, message: "This service or branch has been removed. Reload the page." };
    const intake = await chooseReading(access, id, values.data);
    revalidatePath(`/c/${access.seat.slug}/people/import/${id}`);
    return intake ? { ok: true } : gone;
  },
);

/** Keeps a list: its people only, or also to ask. A second click finds it kept. */
export const importList = action(
  atClientWith("import lists"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    if (!z.uuid().safeParse(id).success) return gone;
    const asks = formText(form, "asks") === "yes";
    if (asks && !may(access.seat, "ask many"))
      return { ok: false, message: "You can import people, but not ask them. Import the list without asking." };
    const done = await startImport(access, id, access.user.name, asks);
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    if (done)
      return {
        ok: true,
        message: asks ? "Imported. Plans are now deciding who to ask." : "Imported. Nobody will be asked.",
      };
    const intake = await withClient(access, (tx) => findIntake(tx, access, id));
    return intake?.state === "imported" || intake?.state === "importing"
      ? { ok: true, message: "It’s already been imported." }
      : gone;
  },
);

/** Reads another sheet of the workbook as a list of its own, and goes there. */
export const readSheet = action(
  atClientWith("import lists"),
  [text, text],
  async (access, id, sheet): Promise<Exclude<ActionResult, null>> => {
    const wanted = z.object({ id: z.uuid(), sheet: z.string().max(200) }).safeParse({ id, sheet });
    if (!wanted.success) return gone;
    const made = await receiveSheet(access, wanted.data.id, wanted.data.sheet, access.user.name).catch(
      (error: unknown) => {
        if (error instanceof Unreadable) return null;
        throw error;
      },
    );
    if (!made) return { ok: false, message: "We no longer have this sheet. Import the workbook again." };
    redirect(`/c/${access.seat.slug}/people/import/${made}`);
  },
);

/** Takes a whole list back, or says what was sent of it. */
export const undoList = action(
  atClientWith("import lists"),
  [text],
  async (access, id): Promise<Exclude<ActionResult, null>> => {
    if (!z.uuid().safeParse(id).success) return gone;
    const now = await clockNow();
    const result = await withClient(access, (tx) => undoImport(tx, access, id, access.user.name));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    if (!result) return gone;
    if (result.undone)
      return {
        ok: true,
        message: `Undone: ${sayFigure(result.people, "person", "people")} and ${sayFigure(result.visits, "visit")}.`,
      };
    const told = result.sent.slice(0, 3).map(({ name, at }) => `${name} ${sayWhen(access.seat.zone, at, now)}`);
    return {
      ok: false,
      message: `You can’t undo this import: ${result.sent.length} ${result.sent.length === 1 ? "message was" : "messages were"} sent (${told.join("; ")}${result.sent.length > 3 ? " and more" : ""}).`,
    };
  },
);

/** Tries one refused row again with the cells as typed. */
export const fixListRow = action(
  atClientWith("import lists"),
  [text, z.number(), before<ActionResult>(), form],
  async (access, id, row, _before, form): Promise<ActionResult> => {
    if (!z.object({ id: z.uuid(), row: z.int32().positive() }).safeParse({ id, row }).success) return gone;
    const cells = formTexts(form, "cell").map((cell) => cleanText(String(cell)).slice(0, 2000));
    const result = await withClient(access, (tx) => retryRow(tx, access, id, row, cells.slice(0, 300)));
    if (!result) return { ok: false, message: "This row has already been fixed." };
    if ("problems" in result) return { ok: false, message: remarkSentences(result.problems) };
    revalidatePath(`/c/${access.seat.slug}/people/import/${id}`);
    return { ok: true, message: "Added." };
  },
);

/** Says what a name stands for. */
export const assign = action(
  atClientWith("edit people", "whole client"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const to = z
      .union([z.literal("new"), z.literal("nothing"), z.uuid().transform((target) => ({ id: target }))])
      .safeParse(formText(form, "to"));
    if (!to.success || !z.uuid().safeParse(id).success)
      return { ok: false, message: "Choose what it means.", fields: { to: "Choose what it means." } };
    const now = await clockNow();
    const visits = await withClient(access, async (tx) =>
      assignName(tx, access, await loadSetting(tx), access.user.name, id, to.data, now),
    );
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    if (visits === null) return { ok: false, message: "This name, or what you matched it to, has been removed." };
    return {
      ok: true,
      message: visits > 0 ? `Matched. ${capital(sayCount(visits, "visit goes", "visits go"))} ahead.` : "Matched.",
    };
  },
);
