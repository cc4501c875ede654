CREATE TABLE "outlooks" (
	"client_id" uuid PRIMARY KEY NOT NULL,
	"agency_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"needs" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"urgency" smallint,
	"asked" integer DEFAULT 0 NOT NULL,
	"new_reviews" integer DEFAULT 0 NOT NULL,
	"shown" double precision,
	"answered" double precision,
	"weeks" integer[] DEFAULT '{}' NOT NULL,
	"claimed_until" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "agencies" ALTER COLUMN "slug" SET DEFAULT 'agency-' || substr(md5(random()::text), 1, 12);--> statement-breakpoint
ALTER TABLE "outlooks" ADD CONSTRAINT "outlooks_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "outlooks" ADD CONSTRAINT "outlooks_agency_id_agencies_id_fk" FOREIGN KEY ("agency_id") REFERENCES "public"."agencies"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "outlooks_agency" ON "outlooks" USING btree ("agency_id","urgency");--> statement-breakpoint
CREATE INDEX "outlooks_age" ON "outlooks" USING btree ("at");