import { PeopleDryRun } from "@/features/people";
import { VisitsDryRun } from "@/features/visits";
import type { ReadingChoice } from "@/schema/intake";
import type { IngestOptions } from "./ingest";
import type { Intake } from "./listState";

type Kept = Pick<Intake, "id" | "name" | "source" | "feedId" | "asks">;

/** How the rows of a list are taken in. */
export function optionsOf(intake: Kept & Pick<Intake, "choice">, now: number): IngestOptions {
  const choice = intake.choice as ReadingChoice;
  return {
    source: intake.name,
    intakeId: intake.id,
    sharedAddress: choice.sharedAddress,
    replaces: false,
    way: intake.source === "end of day" || intake.source === "drop-off" ? intake.source : "file",
    feedId: intake.feedId,
    looked: intake.asks === true,
    serviceId: choice.serviceId,
    branchId: choice.branchId,
    now,
  };
}

/** How a list is taken in, and asked, without writing anything: by the very functions that keep it. */
export function dryRunOptions(
  intake: Kept,
  choice: ReadingChoice,
  names: IngestOptions["names"],
  now: number,
): IngestOptions {
  return {
    ...optionsOf({ ...intake, choice, asks: true }, now),
    names,
    rehearsal: new PeopleDryRun(),
    visitsRehearsal: new VisitsDryRun(),
  };
}
