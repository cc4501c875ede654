/** What `auth` needs of the sign-in library, in one module so that it is loaded in one piece. */
export { betterAuth } from "better-auth";
export { drizzleAdapter } from "better-auth/adapters/drizzle";
export { nextCookies } from "better-auth/next-js";
export { twoFactor } from "better-auth/plugins/two-factor";
