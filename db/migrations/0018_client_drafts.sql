CREATE TABLE "client_drafts" (
	"id" uuid PRIMARY KEY NOT NULL,
	"agency_id" uuid NOT NULL,
	"values" jsonb NOT NULL,
	"by" text NOT NULL,
	"updated_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "client_drafts" ADD CONSTRAINT "client_drafts_agency_id_agencies_id_fk" FOREIGN KEY ("agency_id") REFERENCES "public"."agencies"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "client_drafts_agency" ON "client_drafts" USING btree ("agency_id","updated_at");