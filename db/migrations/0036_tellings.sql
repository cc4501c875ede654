CREATE TABLE "tellings" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"user_id" text NOT NULL,
	"about" text NOT NULL,
	"told" jsonb NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"due_at" timestamp with time zone,
	"claimed_until" timestamp with time zone,
	"attempts" integer DEFAULT 0 NOT NULL,
	"batch_id" uuid,
	"told_at" timestamp with time zone,
	"ways" text[] DEFAULT '{}' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "told_choices" (
	"client_id" uuid NOT NULL,
	"user_id" text NOT NULL,
	"choice" jsonb NOT NULL,
	"changed_at" timestamp with time zone NOT NULL,
	CONSTRAINT "told_choices_client_id_user_id_pk" PRIMARY KEY("client_id","user_id")
);
--> statement-breakpoint
ALTER TABLE "concerns" ADD COLUMN "remind_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "tellings" ADD CONSTRAINT "tellings_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "told_choices" ADD CONSTRAINT "told_choices_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "tellings_once" ON "tellings" USING btree ("client_id","user_id","about");--> statement-breakpoint
CREATE INDEX "tellings_of" ON "tellings" USING btree ("client_id","user_id","created_at");--> statement-breakpoint
CREATE INDEX "tellings_due" ON "tellings" USING btree ("due_at") WHERE due_at is not null;--> statement-breakpoint
CREATE INDEX "concerns_remind" ON "concerns" USING btree ("remind_at") WHERE remind_at is not null;