import { may } from "@/core/access/permissions";
import { changesOf } from "@/features/audit";
import { loadSetting, todayOf } from "@/features/clients";
import { conversationOf } from "@/features/conversations";
import { addresseeOf, findPerson, findWards, guardiansOf } from "@/features/people";
import { timelineOf } from "@/features/timeline";
import type { Access } from "@/platform/access";
import { withClient } from "@/platform/database";
import { housemates } from "./households";
import { mergesOf } from "./merge";

export type PersonView = NonNullable<Awaited<ReturnType<typeof loadPersonView>>>;

/** All that a person's page shows, or null where the client has nobody of this id. */
export async function loadPersonView(access: Access, id: string, now: number) {
  const { slug, zone } = access.seat;
  return withClient(access, async (tx) => {
    const person = await findPerson(tx, access, id);
    if (!person) return null;
    const setting = await loadSetting(tx);
    const guardian = (await guardiansOf(tx, [person])).get(person.guardianId ?? "") ?? null;
    return {
      person,
      guardian,
      /** Who is written to for them; null for a minor whose guardian nobody knows. */
      addressee: addresseeOf(person, guardian, todayOf(setting, now)),
      setting,
      timeline: await timelineOf(tx, access, id),
      wards: await findWards(tx, access, id),
      mates: await housemates(tx, access, person),
      merges: await mergesOf(tx, access, id),
      changes: await changesOf(tx, access, id),
      /** What they and the business wrote to each other, for whoever may see it. */
      conversation: may(access.seat, "see heard") ? await conversationOf(tx, access, id) : null,
      slug,
      zone,
      now,
      may: {
        edit: may(access.seat, "edit people"),
        export: may(access.seat, "export people"),
        erase: may(access.seat, "erase people"),
      },
    };
  });
}
