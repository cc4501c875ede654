ALTER TABLE "agencies" ADD COLUMN "sender_confirmed_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "sender_confirmed_at" timestamp with time zone;--> statement-breakpoint
-- Addresses that were there count as confirmed; where several clients claimed one, the oldest claim does.
UPDATE "agencies" SET "sender_confirmed_at" = to_timestamp(0) WHERE "sender_email" <> '';--> statement-breakpoint
UPDATE "clients" SET "sender_confirmed_at" = to_timestamp(0) WHERE "id" IN (SELECT DISTINCT ON (lower("sender_email")) "id" FROM "clients" ORDER BY lower("sender_email"), "id");--> statement-breakpoint
CREATE UNIQUE INDEX "clients_confirmed_sender" ON "clients" USING btree (lower(sender_email)) WHERE sender_confirmed_at is not null;