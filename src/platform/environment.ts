import { z } from "zod";

const flag = z
  .enum(["0", "1", "true", "false", ""])
  .default("")
  .transform((value) => value === "1" || value === "true");
const optional = z
  .string()
  .trim()
  .transform((value) => value || undefined)
  .optional();
const port = z.coerce.number().int().min(1).max(65535);

/** Everything the program reads from its environment; docs/running.md explains each name. */
const schema = z.object({
  NODE_ENV: z.string().default("development"),
  /** PostgreSQL as the role that owns no table. */
  DATABASE_APP_URL: z.string().regex(/^postgres(ql)?:\/\//, "DATABASE_APP_URL must be a postgres:// address."),
  /** Where people reach this installation, without a slash at the end. */
  APP_URL: z.url().transform((value) => value.replace(/\/+$/, "")),
  /** A short host for the links in messages and codes, that leads to this installation as well; without it, APP_URL. */
  SHORT_URL: z
    .union([z.literal(""), z.url()])
    .default("")
    .transform((value) => value.replace(/\/+$/, "")),
  /** At least 32 characters. Signs sessions and encrypts the keys of connectors. */
  ESTIMA_SECRET: z.string().min(32, "ESTIMA_SECRET needs at least 32 characters."),
  ESTIMA_DEMO: flag,
  SMTP_URL: z.string().regex(/^smtps?:\/\//, "SMTP_URL must be an smtp:// or smtps:// address."),
  MAIL_HOOK_SECRET: z.string().min(1),
  DKIM_DOMAIN: optional,
  DKIM_SELECTOR: optional,
  DKIM_KEY_FILE: optional,
  TEXT_GATEWAY_URL: z.url(),
  TEXT_GATEWAY_KEY: z.string().min(1),
  TEXT_HOOK_SECRET: z.string().min(1),
  /** A resolver that answers in JSON over HTTP; without it, only a mailbox's own domain is looked at. */
  RESOLVER_URL: optional,
  /** Origins on private addresses that connectors may call all the same, separated by commas. */
  OUTBOUND_ALLOW: z
    .string()
    .default("")
    .transform((value) =>
      value
        .split(",")
        .map((origin) => origin.trim())
        .filter(Boolean),
    ),
  /** Where the review sites with a connector are reached; those without an address cannot be connected. */
  WAYPOST_URL: optional,
  COMMONS_URL: optional,
  /** As which application Commons knows this installation. */
  COMMONS_CLIENT_ID: optional,
  COMMONS_CLIENT_SECRET: optional,
  TENFOLD_URL: optional,
  /** The simulated town; only in demo mode. */
  TOWN_URL: optional,
  /** Where the web process listens. */
  PORT: port.default(3000),
  HOST: z.string().min(1).default("0.0.0.0"),
  /**
   * How many proxies stand before the web process, each of which adds to X-Forwarded-For; 0 when it is reached
   * directly.
   */
  TRUSTED_PROXIES: z.coerce.number().int().min(0).max(10).default(0),
  LEASE_SECONDS: z.coerce.number().min(1).max(600).default(60),
  SEND_CONCURRENCY: z.coerce.number().int().min(1).max(100).default(16),
  WORKER_PORT: port.default(3001),
  LOG_LEVEL: z.enum(["silent", "error", "warn", "info", "debug"]).default("info"),
});

export type Environment = z.infer<typeof schema>;

/** Variables that are missing or wrong, by name and never by value, each with what would be right. */
export class EnvironmentIncomplete extends Error {
  override readonly name = "EnvironmentIncomplete";
}

let known: Environment | undefined;

/** The environment, validated once. Throws an Error that names every wrong variable. */
export function environment(): Environment {
  if (!known) known = readEnvironment(process.env);
  return known;
}

/** Reads the environment anew at its next use; for tests, which play one installation after another. */
export function forgetEnvironment(): void {
  known = undefined;
}

/** Validates `source`; exported so that a start-up check and the tests can call it. */
export function readEnvironment(source: Record<string, string | undefined>): Environment {
  const result = schema.safeParse(source);
  if (result.success) return result.data;
  const lines = result.error.issues.map((issue) => `  ${issue.path.join(".")}: ${issue.message}`);
  throw new EnvironmentIncomplete(`The environment is not complete:\n${lines.join("\n")}\nSee docs/running.md.`);
}
