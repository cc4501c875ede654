CREATE TABLE "handovers" (
	"id" uuid PRIMARY KEY NOT NULL,
	"agency_id" uuid NOT NULL,
	"to_agency_id" uuid NOT NULL,
	"about_client" uuid NOT NULL,
	"from_name" text NOT NULL,
	"client_name" text NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	"ended" text
);
--> statement-breakpoint
ALTER TABLE "account_entries" ADD COLUMN "details" jsonb;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "archived_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "archived_by" text;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "deleting_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "deleting_for" text;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "deleted" jsonb;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "delete_claimed_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "client_drafts" ADD COLUMN "link_hash" text;--> statement-breakpoint
ALTER TABLE "client_drafts" ADD COLUMN "link_expires_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "client_drafts" ADD COLUMN "proposed" jsonb;--> statement-breakpoint
ALTER TABLE "client_drafts" ADD COLUMN "proposed_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "client_drafts" ADD COLUMN "done_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "handovers" ADD CONSTRAINT "handovers_agency_id_agencies_id_fk" FOREIGN KEY ("agency_id") REFERENCES "public"."agencies"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "handovers" ADD CONSTRAINT "handovers_to_agency_id_agencies_id_fk" FOREIGN KEY ("to_agency_id") REFERENCES "public"."agencies"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "handovers_open" ON "handovers" USING btree ("about_client") WHERE ended_at is null;--> statement-breakpoint
CREATE INDEX "handovers_to" ON "handovers" USING btree ("to_agency_id","ended_at");--> statement-breakpoint
CREATE INDEX "handovers_from" ON "handovers" USING btree ("agency_id","ended_at");--> statement-breakpoint
ALTER TABLE "client_drafts" ADD CONSTRAINT "client_drafts_link_hash_unique" UNIQUE("link_hash");