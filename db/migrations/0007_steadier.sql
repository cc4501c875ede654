CREATE TABLE "rate_limits" (
	"key" varchar(255) PRIMARY KEY NOT NULL,
	"points" integer DEFAULT 0 NOT NULL,
	"expire" bigint
);
--> statement-breakpoint
ALTER TABLE "public_hits" DISABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "sign_in_attempts" DISABLE ROW LEVEL SECURITY;--> statement-breakpoint
DROP TABLE "public_hits" CASCADE;--> statement-breakpoint
DROP TABLE "sign_in_attempts" CASCADE;--> statement-breakpoint
ALTER TABLE "audit_entries" ADD COLUMN "who_id" text DEFAULT nullif(current_setting('estima.user', true), '');--> statement-breakpoint
ALTER TABLE "branches" ADD COLUMN "region" text;--> statement-breakpoint
ALTER TABLE "concerns" ADD COLUMN "taken_by_id" text;--> statement-breakpoint
ALTER TABLE "concerns" ADD COLUMN "closed_by_id" text;--> statement-breakpoint
ALTER TABLE "intake_rows" ADD COLUMN "after" jsonb;--> statement-breakpoint
CREATE INDEX "rate_limits_over" ON "rate_limits" USING btree ("expire");--> statement-breakpoint
CREATE INDEX "audit_time" ON "audit_entries" USING btree ("client_id","at","id");