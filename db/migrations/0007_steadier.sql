CREATE TABLE "rate_limits" (
	"key" varchar(255) PRIMARY KEY NOT NULL,
	"points" integer DEFAULT 0 NOT NULL,
	"expire" bigint
);
--> statement-breakpoint
CREATE TABLE "people_matches" (
	"client_id" uuid PRIMARY KEY NOT NULL,
	"found_at" timestamp with time zone NOT NULL,
	"pairs" jsonb NOT NULL,
	"homes" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "public_hits" DISABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "sign_in_attempts" DISABLE ROW LEVEL SECURITY;--> statement-breakpoint
DROP TABLE "public_hits" CASCADE;--> statement-breakpoint
DROP TABLE "sign_in_attempts" CASCADE;--> statement-breakpoint
DROP INDEX "reviews_waiting";--> statement-breakpoint
ALTER TABLE "audit_entries" ADD COLUMN "who_id" text DEFAULT nullif(current_setting('estima.user', true), '');--> statement-breakpoint
ALTER TABLE "branches" ADD COLUMN "region" text;--> statement-breakpoint
ALTER TABLE "listings" ADD COLUMN "review_count" integer;--> statement-breakpoint
ALTER TABLE "listings" ADD COLUMN "rating_sum" double precision;--> statement-breakpoint
ALTER TABLE "concerns" ADD COLUMN "taken_by_id" text;--> statement-breakpoint
ALTER TABLE "concerns" ADD COLUMN "closed_by_id" text;--> statement-breakpoint
ALTER TABLE "intake_rows" ADD COLUMN "after" jsonb;--> statement-breakpoint
ALTER TABLE "intakes" ADD COLUMN "worked_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "people_matches" ADD CONSTRAINT "people_matches_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "rate_limits_over" ON "rate_limits" USING btree ("expire");--> statement-breakpoint
CREATE INDEX "audit_time" ON "audit_entries" USING btree ("client_id","at","id");--> statement-breakpoint
CREATE INDEX "intakes_worked" ON "intakes" USING btree ("worked_until") WHERE state in ('reading', 'looking', 'keeping');--> statement-breakpoint
CREATE INDEX "reviews_waiting" ON "reviews" USING btree ("client_id","rating","written_at") WHERE reply_state in ('none', 'failed', 'posting') and deleted_at is null;--> statement-breakpoint
update "listings" l set "review_count" = s.n, "rating_sum" = s.total from (select listing_id, count(*)::int as n, coalesce(sum(rating), 0) as total from reviews where deleted_at is null group by 1) s where s.listing_id = l.id;
