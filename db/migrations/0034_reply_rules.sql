CREATE TABLE "reply_rules" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"is_on" boolean DEFAULT true NOT NULL,
	"rule" jsonb NOT NULL,
	"changed_by" text NOT NULL,
	"changed_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "saved_replies" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"user_id" text,
	"purpose" text NOT NULL,
	"language" text NOT NULL,
	"words" text NOT NULL,
	"uses" integer DEFAULT 0 NOT NULL,
	"used_at" timestamp with time zone,
	"changed_by" text NOT NULL,
	"changed_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
DROP INDEX "reviews_waiting";--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "reply_drafted_by" text;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "reply_due_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "reply_attempts" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "reply_key" uuid;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "reply_rule_id" uuid;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "reply_why" jsonb;--> statement-breakpoint
ALTER TABLE "reply_rules" ADD CONSTRAINT "reply_rules_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "saved_replies" ADD CONSTRAINT "saved_replies_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "reply_rules_client" ON "reply_rules" USING btree ("client_id","position");--> statement-breakpoint
CREATE INDEX "saved_replies_client" ON "saved_replies" USING btree ("client_id","purpose");--> statement-breakpoint
CREATE INDEX "reviews_planned" ON "reviews" USING btree ("client_id","reply_due_at") WHERE reply_state = 'planned';--> statement-breakpoint
CREATE INDEX "reviews_reply_due" ON "reviews" USING btree ("reply_due_at") WHERE reply_due_at is not null;--> statement-breakpoint
CREATE INDEX "reviews_by_rule" ON "reviews" USING btree ("client_id","reply_rule_id","replied_at") WHERE reply_rule_id is not null;--> statement-breakpoint
CREATE INDEX "reviews_waiting" ON "reviews" USING btree ("client_id","rating","written_at") WHERE reply_state in ('none', 'failed', 'posting', 'awaits approval') and deleted_at is null;--> statement-breakpoint
UPDATE "reviews" SET "reply_state" = 'failed', "reply_error" = '{"code": "not reached"}' WHERE "reply_state" = 'posting';
