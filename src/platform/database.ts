import { type SQL, sql } from "drizzle-orm";
import { drizzle, type NodePgDatabase } from "drizzle-orm/node-postgres";
import type { AnyPgColumn } from "drizzle-orm/pg-core";
import { Pool } from "pg";
import { environment } from "./environment";
import { Memory } from "./memory";
import { type ViewOnly, viewOnlyOfRequest } from "./requestState";

type Kept = { pool: Pool; outside: Pool; db: NodePgDatabase };
const kept = globalThis as typeof globalThis & { estimaDatabase?: Kept };

/** A transaction that sees one client's rows, and no others. */
export type Tx = Omit<NodePgDatabase, "transaction" | "$client">;

/** Whose rows a piece of work may touch. `requireAccess` makes one for a person, `workFor` one for the worker. */
export type Scope = By & {
  readonly clientId: string;
  /** Only rows of these branches; null or absent for all of the client's. */
  readonly branches?: readonly string[] | null;
};

/** An agency's own rows: its people, its clients, and what it makes for all of them. */
export type AgencyScope = By & {
  readonly agencyId: string;
  /** Only the clients of this group; null or absent for all. */
  readonly group?: string | null;
};

/** On whose behalf. */
type By = {
  /** The person who does it; nobody where the program itself does. */
  readonly user?: { readonly id: string };
  /** Nothing may be written; called when something was about to be. */
  readonly looksOnly?: { refused(): never };
};

function connect(): Kept {
  if (!kept.estimaDatabase) {
    const make = (max: number) => {
      const pool = new Pool({
        connectionString: environment().DATABASE_APP_URL,
        max,
        idleTimeoutMillis: 30_000,
        connectionTimeoutMillis: 60_000,
        options: "-c timezone=UTC -c statement_timeout=60000",
      });
      // A connection that the server closes, at rest or at work, must not end the process; whoever uses it is told,
      // the pool makes a new one.
      pool.on("error", () => {});
      pool.on("connect", (client) => client.on("error", () => {}));
      return pool;
    };
    // Single statements have connections of their own: a transaction that asks for one (the demo's time, say) must
    // never wait for another transaction that does the same.
    const [pool, outside] = [make(12), make(6)];
    kept.estimaDatabase = { pool, outside, db: drizzle(outside) };
  }
  return kept.estimaDatabase;
}

/** The connections themselves, for a library that brings its own statements. */
export function databasePool(): Pool {
  return connect().outside;
}

/**
 * The connection for account tables and the narrow functions of db/security.sql. Client rows are invisible through
 * it.
 */
export function database(): NodePgDatabase {
  return connect().db;
}

/**
 * The only door to a client's rows: row-level security shows this client's and nobody else's while `work` runs. Of two
 * transactions that wait for one another the database ends one, which then runs once more: `work` keeps to its
 * transaction.
 */
export async function withClient<T>(scope: Scope, work: (tx: Tx) => Promise<T>): Promise<T> {
  if (!UUID.test(scope.clientId)) throw new Error("Not a client.");
  return runAgain({ client: scope.clientId, branches: scope.branches ?? null, agency: "", group: "" }, scope, work);
}

/**
 * The second and last door: to the rows of one agency, and to no client's. Row-level security shows this agency's own
 * while `work` runs, and of its clients only the rows that describe them.
 */
export async function withAgency<T>(scope: AgencyScope, work: (tx: Tx) => Promise<T>): Promise<T> {
  if (!UUID.test(scope.agencyId) || (scope.group && !UUID.test(scope.group))) throw new Error("Not an agency.");
  return runAgain({ client: "", branches: null, agency: scope.agencyId, group: scope.group ?? "" }, scope, work);
}

/** What the policies of db/security.sql go by; identifiers, or empty. */
type Door = { client: string; branches: readonly string[] | null; agency: string; group: string };

async function runAgain<T>(door: Door, by: By, work: (tx: Tx) => Promise<T>): Promise<T> {
  // Viewing as someone else belongs to the request: a scope that was made without a person is bound by it too.
  const viewOnly = by.looksOnly ?? viewOnlyOfRequest();
  for (let again = 0; ; again++) {
    try {
      return await inTransaction(door, by, viewOnly !== null, work);
    } catch (error) {
      if (viewOnly && codeOf(error) === READ_ONLY) viewOnly.refused();
      if (again === 2 || codeOf(error) !== DEADLOCK) throw error;
    }
  }
}

/** PostgreSQL's error code 40P01. */
const DEADLOCK = "40P01";

/** PostgreSQL's error code 25006: something was to be written in a transaction that only reads. */
const READ_ONLY = "25006";

/** The SQLSTATE of an error that the database gave, also where it was wrapped. */
export function codeOf(error: unknown): string | null {
  const { code, cause } = error as { code?: unknown; cause?: unknown };
  if (typeof code === "string" && code.length === 5) return code;
  return cause ? codeOf(cause) : null;
}

/** A statement that failed, without what it was given: parameters are what customers and staff have typed. */
export class StatementFailed extends Error {
  override readonly name = "StatementFailed";

  constructor(
    readonly code: string | null,
    readonly constraint: string | undefined,
    readonly table: string | undefined,
  ) {
    super(`The database refused a statement (${code ?? "no code"}${constraint ? `, ${constraint}` : ""}).`);
  }
}

/** The same error; one of the database as `StatementFailed`, with the stack of whoever called. */
function withoutValues(error: unknown): unknown {
  const { query, cause } = error as { query?: unknown; cause?: unknown };
  const isWrapped = typeof query === "string";
  const origin = (isWrapped ? cause : error) as { constraint?: string; table?: string; severity?: string } | undefined;
  if (!isWrapped && origin?.severity === undefined) return error;
  const failed = new StatementFailed(codeOf(error), origin?.constraint, origin?.table);
  if (error instanceof Error && error.stack)
    failed.stack = `${failed.name}\n${error.stack.slice(error.stack.indexOf("\n    at ") + 1)}`;
  return failed;
}

async function inTransaction<T>(door: Door, by: By, isReadOnly: boolean, work: (tx: Tx) => Promise<T>): Promise<T> {
  const connection = await connect().pool.connect();
  let broken: Error | undefined;
  try {
    // One round trip for all; the identifiers were checked to be nothing but that.
    const user = by.user && USER.test(by.user.id) ? by.user.id : "";
    const settings = Object.entries({ ...door, branches: branchList(door.branches), user })
      .map(([name, value]) => `set_config('estima.${name}', '${value}', true)`)
      .join(", ");
    await connection.query(`begin${isReadOnly ? " read only" : ""}; select ${settings}`);
    const memory = new Memory();
    const tx = drizzle(connection, { logger: memory }) as unknown as Tx;
    memories.set(tx, memory);
    const result = await work(tx);
    await connection.query("commit");
    return result;
  } catch (error) {
    await connection.query("rollback").catch((failure: Error) => {
      broken = failure;
    });
    throw withoutValues(error);
  } finally {
    // A connection that could not even roll back is not handed to anybody else.
    connection.release(broken);
  }
}

const memories = new WeakMap<Tx, Memory>();

/**
 * Loads something once in a transaction, and again only after the transaction itself has written to one of the tables
 * that it comes from. Whoever is given it leaves it as it is: others are given the same.
 */
export function oncePerTransaction<T>(
  tx: Tx,
  key: string,
  tables: readonly string[],
  load: () => Promise<T>,
): Promise<T> {
  return memories.get(tx)?.remember(key, tables, load) ?? load();
}

/** As the policies read it: empty for all branches. Nobody's branch stands for none. */
function branchList(branches: readonly string[] | null): string {
  if (branches === null) return "";
  if (!branches.every((id) => UUID.test(id))) throw new Error("Not a branch.");
  return branches.length > 0 ? branches.join(",") : "00000000-0000-0000-0000-000000000000";
}

/**
 * Runs the program's own reckoning over the whole client, inside a transaction that a person bound to some branches
 * began: who somebody is and whether they may be asked does not end at a branch. Whoever calls it has looked that the
 * person may see what it is about.
 */
export async function acrossBranches<T>(tx: Tx, work: () => Promise<T>): Promise<T> {
  const [{ before }] = await rowsIn<{ before: string }>(
    tx,
    sql`select coalesce(current_setting('estima.branches', true), '') as before, set_config('estima.branches', '', true)`,
  );
  const result = await work();
  if (before) await tx.execute(sql`select set_config('estima.branches', ${before}, true)`);
  return result;
}

const UUID = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

const USER = /^[\w-]{1,64}$/;

/**
 * The identifier of the person on whose behalf the transaction runs, for columns that keep who did something; null
 * for the program.
 */
export const actingUser = sql<string | null>`nullif(current_setting('estima.user', true), '')`;

/** `column = any(ids)` with the ids as one array parameter: the statement stays the same however many there are. */
export function anyOf(column: AnyPgColumn, ids: readonly string[]): SQL {
  return sql`${column} = any(${sql.param([...ids])}::uuid[])`;
}

/** The scope of background work for one client. */
export function workFor(clientId: string): Scope {
  return { clientId };
}

/** Runs one of the narrow functions or any statement outside a client, and gives its rows. */
export async function rowsOf<Row extends Record<string, unknown>>(statement: SQL): Promise<Row[]> {
  const viewOnly = viewOnlyOfRequest();
  if (viewOnly) return readOnlyRows<Row>(statement, viewOnly);
  const result = await connect()
    .db.execute(statement)
    .catch((error: unknown) => {
      throw withoutValues(error);
    });
  return result.rows as Row[];
}

/** The same for a request that only views. */
async function readOnlyRows<Row extends Record<string, unknown>>(statement: SQL, viewOnly: ViewOnly): Promise<Row[]> {
  try {
    return await connect().db.transaction(async (tx) => (await tx.execute(statement)).rows as Row[], {
      accessMode: "read only",
    });
  } catch (error) {
    if (codeOf(error) === READ_ONLY) viewOnly.refused();
    throw withoutValues(error);
  }
}

/** The same with a statement that each connection plans once, by its name; `text` has $1, $2 … for its values. */
export async function preparedRowsOf<Row extends Record<string, unknown>>(
  name: string,
  text: string,
  values: readonly unknown[],
): Promise<Row[]> {
  const result = await connect()
    .outside.query<Row>({ name, text, values: [...values] })
    .catch((error: unknown) => {
      throw withoutValues(error);
    });
  return result.rows;
}

/** Runs a statement inside a client's transaction, and gives its rows. */
export async function rowsIn<Row extends Record<string, unknown>>(tx: Tx, statement: SQL): Promise<Row[]> {
  return (await tx.execute(statement)).rows as Row[];
}

/** What a statement says that gives one row. */
export async function rowIn<Row>(tx: Tx, statement: SQL<Row>): Promise<Row> {
  return (await tx.execute(statement)).rows[0] as Row;
}

/** The rows of a statement as one row, to be asked for together with others. */
export const asOneRow = <Row>(statement: SQL<Row>): SQL<{ rows: Row[] }> =>
  sql`select coalesce(json_agg(t), '[]') as rows from (${statement}) t`;

/** What each of several statements that give one row says, asked in one. Moments come as the database writes them in JSON. */
export async function together<Parts extends Record<string, SQL<unknown>>>(
  tx: Tx,
  parts: Parts,
): Promise<{ [Name in keyof Parts]: Parts[Name] extends SQL<infer Row> ? Row : never }> {
  const each = Object.entries(parts).map(
    ([name, part]) => sql`(select row_to_json(t) from (${part}) t) as ${sql.identifier(name)}`,
  );
  const [row] = await rowsIn(tx, sql`select ${sql.join(each, sql`, `)}`);
  return row as Awaited<ReturnType<typeof together<Parts>>>;
}

/** Ends all connections; for scripts and tests. */
export async function closeDatabase(): Promise<void> {
  const open = kept.estimaDatabase;
  kept.estimaDatabase = undefined;
  await Promise.all([open?.pool.end(), open?.outside.end()]);
}

/**
 * Throws unless the role is bound by row-level security: neither superuser, nor table owner, nor allowed to bypass
 * it.
 */
export async function checkRole(): Promise<void> {
  const [role] = await rowsOf<{ unbound: boolean; owns: boolean }>(sql`
    select rolsuper or rolbypassrls as unbound,
           exists (select 1 from pg_tables where schemaname = 'public' and tableowner = current_user) as owns
    from pg_roles where rolname = current_user`);
  if (!role || role.unbound || role.owns) {
    throw new Error(
      "The database role of the program must not own tables or bypass row-level security. See docs/running.md.",
    );
  }
}
