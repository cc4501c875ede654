import Papa from "papaparse";
import pg from "pg";
import { findIntake, importRows, parseIntake, receiveList, startImport } from "@/features/intake";
import { withClient } from "@/platform/database";
import { newId } from "@/schema/columns";
import { copyInto } from "./copy";

/** A list of people and visits, end to end, beside bare parsing and COPY into the very same tables. */

const HEADER = "Customer,Email,Mobile,Visit date,Finished,Service,Note";

/** A list as a program would write it: `count` rows, nobody twice. */
export function makeList(count: number): Buffer {
  const lines = [HEADER];
  for (let n = 0; n < count; n++) {
    const phone = n % 3 === 0 ? `07${String(400_000_000 + n * 7).slice(0, 9)}` : "";
    lines.push(
      `Given${n % 997} Family${n % 3001},person${n}@post.example,${phone},${String(1 + (n % 28)).padStart(2, "0")}/${String(1 + (n % 12)).padStart(2, "0")}/2025,14:${String(n % 60).padStart(2, "0")},Check-up,row ${n}`,
    );
  }
  return Buffer.from(lines.join("\r\n"));
}

/**
 * From bytes to kept people and visits, with everything on the way: reading, guessing, the look ahead, keeping. Gives
 * rows a second.
 */
export async function throughEstima(clientId: string, bytes: Buffer): Promise<number> {
  const scope = { clientId };
  const began = performance.now();
  const id = await receiveList(scope, { source: "file", name: "bench.csv", bytes, who: "Bench", requestKey: newId() });
  await parseIntake(scope, id);
  await startImport(scope, id, "Bench", false);
  await importRows(scope, id);
  const seconds = (performance.now() - began) / 1000;
  const intake = await withClient(scope, (tx) => findIntake(tx, scope, id));
  if (intake?.state !== "imported" || intake.counts?.new !== intake.total)
    throw new Error(`The list was not kept whole: ${JSON.stringify(intake?.counts)}`);
  return intake.total / seconds;
}

/**
 * Parses the same bytes and copies the same columns into the same tables with the same indexes. Gives rows a second.
 */
export async function throughCopy(
  ownerUrl: string,
  client: { id: string; branchId: string; serviceId: string },
  bytes: Buffer,
): Promise<number> {
  const connection = new pg.Client({ connectionString: ownerUrl });
  await connection.connect();
  const began = performance.now();
  const { data } = Papa.parse<string[]>(bytes.toString("utf8"), { delimiter: "," });
  const rows = data.slice(1).map((row) => ({ person: newId(), visit: newId(), row }));
  const now = new Date().toISOString();
  await copyInto(
    connection,
    "people",
    ["id", "client_id", "given", "family", "email", "phone", "phone_takes_texts", "note", "source", "created_at"],
    rows.map(({ person, row }) => [
      person,
      client.id,
      ...row[0].split(" "),
      row[1],
      row[2] || null,
      row[2] !== "",
      row[6],
      "bare",
      now,
    ]),
  );
  await copyInto(
    connection,
    "visits",
    ["id", "client_id", "person_id", "branch_id", "service_id", "ends_at", "outcome", "source", "created_at"],
    rows.map(({ person, visit, row }) => {
      const [day, month, year] = row[3].split("/");
      return [
        visit,
        client.id,
        person,
        client.branchId,
        client.serviceId,
        `${year}-${month}-${day}T${row[4]}:00Z`,
        "finished",
        "file",
        now,
      ];
    }),
  );
  const seconds = (performance.now() - began) / 1000;
  await connection.end();
  return rows.length / seconds;
}

/**
 * Sets the tables back to twenty thousand people with a visit each: on empty tables PostgreSQL would settle on walking
 * through them to check references, and keep to it while they grow.
 */
export async function clearLists(
  ownerUrl: string,
  client: { id: string; branchId: string; serviceId: string },
): Promise<void> {
  const connection = new pg.Client({ connectionString: ownerUrl });
  await connection.connect();
  await connection.query("truncate people, visits, intakes, intake_rows, readings, audit_entries cascade");
  await connection.query(
    `insert into people (id, client_id, given, family, email, created_at) select gen_random_uuid(), $1, 'Given' || n, 'Before' || n, 'before' || n || '@post.example', now() from generate_series(1, 20000) n`,
    [client.id],
  );
  await connection.query(
    `insert into visits (id, client_id, person_id, branch_id, service_id, ends_at, outcome, source, created_at) select gen_random_uuid(), $1, id, $2, $3, now() - interval '400 days', 'finished', 'file', now() from people`,
    [client.id, client.branchId, client.serviceId],
  );
  await connection.query("vacuum analyze people, visits");
  await connection.end();
}
