import { prepareDatabase } from "./database";

/** `npm run db:migrate`: brings the database of DATABASE_URL up to date. For installations in earnest. */
const ownerUrl = process.env.DATABASE_URL;
if (!ownerUrl) {
  console.error("Set DATABASE_URL to the owner's address of the database. See docs/running.md.");
  process.exit(1);
}
await prepareDatabase(ownerUrl, process.env.ESTIMA_APP_PASSWORD || null);
console.log("The database is up to date.");
