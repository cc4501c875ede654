CREATE TABLE "named_themes" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"review_id" uuid,
	"answer_id" uuid,
	"theme" text NOT NULL,
	"polarity" text NOT NULL,
	"clause_from" integer NOT NULL,
	"clause_to" integer NOT NULL,
	"branch_id" uuid NOT NULL,
	"team_member_id" uuid,
	"service_id" uuid,
	"said_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "own_themes" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"name" text NOT NULL,
	"words" text[] NOT NULL,
	"changed_by" text NOT NULL,
	"changed_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "is_unread" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "is_unread" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "named_themes" ADD CONSTRAINT "named_themes_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "named_themes" ADD CONSTRAINT "named_themes_review_id_reviews_id_fk" FOREIGN KEY ("review_id") REFERENCES "public"."reviews"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "named_themes" ADD CONSTRAINT "named_themes_answer_id_answers_id_fk" FOREIGN KEY ("answer_id") REFERENCES "public"."answers"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "own_themes" ADD CONSTRAINT "own_themes_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "named_themes_said" ON "named_themes" USING btree ("client_id","said_at");--> statement-breakpoint
CREATE INDEX "named_themes_theme" ON "named_themes" USING btree ("client_id","theme","said_at");--> statement-breakpoint
CREATE INDEX "named_themes_review" ON "named_themes" USING btree ("review_id");--> statement-breakpoint
CREATE INDEX "named_themes_answer" ON "named_themes" USING btree ("answer_id");--> statement-breakpoint
CREATE UNIQUE INDEX "own_themes_name" ON "own_themes" USING btree ("client_id","name");--> statement-breakpoint
CREATE INDEX "answers_unread" ON "answers" USING btree ("client_id") WHERE is_unread and words <> '';--> statement-breakpoint
CREATE INDEX "reviews_unread" ON "reviews" USING btree ("client_id") WHERE is_unread and words <> '';