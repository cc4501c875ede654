CREATE TABLE "concern_notes" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"concern_id" uuid NOT NULL,
	"words" text NOT NULL,
	"written_by" text NOT NULL,
	"written_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "concern_notes" ADD CONSTRAINT "concern_notes_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "concern_notes" ADD CONSTRAINT "concern_notes_concern_id_concerns_id_fk" FOREIGN KEY ("concern_id") REFERENCES "public"."concerns"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "concern_notes_concern" ON "concern_notes" USING btree ("concern_id","written_at");--> statement-breakpoint
CREATE INDEX "concern_notes_client" ON "concern_notes" USING btree ("client_id");