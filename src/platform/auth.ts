import { accounts, sessions, twoFactors, users, verifications } from "@/schema/accounts";
import { CLIENT_HEADER } from "./clientAddress";
import { database } from "./database";
import { environment } from "./environment";
import { log } from "./log";

type Auth = Awaited<ReturnType<typeof make>>;
const kept = globalThis as typeof globalThis & { estimaAuth?: Promise<Auth> };

/** The library is loaded at the first sign-in or session: most of what a process does needs neither. */
async function make() {
  const { betterAuth, drizzleAdapter, nextCookies, twoFactor } = await import("./authLibrary");
  const { APP_URL, ESTIMA_SECRET } = environment();
  return betterAuth({
    baseURL: APP_URL,
    secret: ESTIMA_SECRET,
    database: drizzleAdapter(database(), {
      provider: "pg",
      schema: { user: users, session: sessions, account: accounts, verification: verifications, twoFactor: twoFactors },
    }),
    // Seats are given by an agency; nobody signs up from outside.
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      minPasswordLength: 10,
      // Whoever chose a new password ends what others had opened with the old one.
      revokeSessionsOnPasswordReset: true,
    },
    user: { additionalFields: { replyName: { type: "string", required: false, input: false } } },
    // A link that was mailed cannot be read out of the table.
    verification: { storeIdentifier: "hashed" },
    session: { expiresIn: 60 * 60 * 24 * 14, updateAge: 60 * 60 * 24 },
    // Nothing of the library is reached from outside: the sign-in page's own action limits tries.
    rateLimit: { enabled: false },
    advanced: {
      cookiePrefix: "estima",
      useSecureCookies: APP_URL.startsWith("https:"),
      ipAddress: { ipAddressHeaders: [CLIENT_HEADER] },
    },
    logger: { log: (level) => log[level === "error" ? "error" : "debug"]({}, "sign-in library") },
    telemetry: { enabled: false },
    appName: "Estima",
    plugins: [twoFactor({ issuer: "Estima", trustDeviceMaxAge: 60 * 60 * 24 * 30 }), nextCookies()],
  });
}

/** Sign-in with email and password: sessions in the database, attempts limited, no sign-up from outside. */
export function auth(): Promise<Auth> {
  kept.estimaAuth ??= make();
  return kept.estimaAuth;
}

/** Makes the library anew at its next use; for tests, which play one installation after another. */
export function forgetAuth(): void {
  kept.estimaAuth = undefined;
}

/** Whether the sign-in library refused what it was asked, rather than failed. */
export function isSignInRefusal(error: unknown): boolean {
  return error instanceof Error && error.name === "APIError";
}
