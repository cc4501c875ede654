CREATE TABLE "notices" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"about" text NOT NULL,
	"subject" text NOT NULL,
	"words" text NOT NULL,
	"path" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"due_at" timestamp with time zone,
	"claimed_until" timestamp with time zone,
	"attempts" integer DEFAULT 0 NOT NULL,
	"told_at" timestamp with time zone,
	"told" text[] DEFAULT '{}' NOT NULL
);
--> statement-breakpoint
ALTER TABLE "notices" ADD CONSTRAINT "notices_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "notices_once" ON "notices" USING btree ("client_id","about");--> statement-breakpoint
CREATE INDEX "notices_due" ON "notices" USING btree ("due_at") WHERE "notices"."due_at" is not null;