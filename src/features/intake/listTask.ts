import { withClient, workFor } from "@/platform/database";
import { importRows, startImport } from "./listImport";
import { parseIntake, previewIntake } from "./listReading";
import { findIntake, working } from "./listState";

/** What the worker does with a large list. */
export async function runListTask(
  { clientId, intakeId, action }: { clientId: string; intakeId: string; action: "read" | "check" | "import" },
  signal?: AbortSignal,
): Promise<void> {
  const scope = workFor(clientId);
  await working(scope, intakeId, async () => {
    if (action === "import") return importRows(scope, intakeId, signal);
    if (action === "read") await parseIntake(scope, intakeId);
    else await previewIntake(scope, intakeId);
    // What a feed brings is kept by itself, unless somebody has to look at it first.
    const intake = await withClient(scope, (tx) => findIntake(tx, scope, intakeId));
    if (intake?.feedId && intake.state === "ready" && intake.choice?.order)
      await startImport(scope, intakeId, intake.broughtBy, true);
  });
}
