CREATE TABLE "summary_readers" (
	"agency_id" uuid NOT NULL,
	"user_id" text NOT NULL,
	"last_day" text,
	CONSTRAINT "summary_readers_agency_id_user_id_pk" PRIMARY KEY("agency_id","user_id")
);
--> statement-breakpoint
CREATE TABLE "two_factors" (
	"id" text PRIMARY KEY NOT NULL,
	"secret" text NOT NULL,
	"backup_codes" text NOT NULL,
	"user_id" text NOT NULL,
	"verified" boolean DEFAULT true NOT NULL,
	"failed_verification_count" integer DEFAULT 0 NOT NULL,
	"locked_until" timestamp with time zone
);
--> statement-breakpoint
DROP INDEX "seats_once";--> statement-breakpoint
ALTER TABLE "agencies" ADD COLUMN "help_email" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "agencies" ADD COLUMN "needs_two_steps" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "invitations" ADD COLUMN "only_group" uuid;--> statement-breakpoint
ALTER TABLE "invitations" ADD COLUMN "only_branch" uuid;--> statement-breakpoint
ALTER TABLE "seats" ADD COLUMN "only_group" uuid;--> statement-breakpoint
ALTER TABLE "seats" ADD COLUMN "only_branch" uuid;--> statement-breakpoint
ALTER TABLE "users" ADD COLUMN "phone" text;--> statement-breakpoint
ALTER TABLE "users" ADD COLUMN "reply_name" text;--> statement-breakpoint
ALTER TABLE "users" ADD COLUMN "two_factor_enabled" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "summary_readers" ADD CONSTRAINT "summary_readers_agency_id_agencies_id_fk" FOREIGN KEY ("agency_id") REFERENCES "public"."agencies"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "summary_readers" ADD CONSTRAINT "summary_readers_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "two_factors" ADD CONSTRAINT "two_factors_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "two_factors_user" ON "two_factors" USING btree ("user_id");--> statement-breakpoint
ALTER TABLE "seats" ADD CONSTRAINT "seats_once" UNIQUE NULLS NOT DISTINCT("user_id","agency_id","only_group","only_client","only_branch");