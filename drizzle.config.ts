import { defineConfig } from "drizzle-kit";

export default defineConfig({
  dialect: "postgresql",
  schema: ["./src/platform/tables.ts", "./src/features/*/tables.ts"],
  out: "./db/migrations",
});
