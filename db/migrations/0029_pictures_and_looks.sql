CREATE TABLE "answer_photos" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"answer_id" uuid NOT NULL,
	"branch_id" uuid NOT NULL,
	"type" text NOT NULL,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	"content" "bytea" NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "agencies" ADD COLUMN "client_look" jsonb;--> statement-breakpoint
ALTER TABLE "branches" ADD COLUMN "look" jsonb;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "media_price" integer DEFAULT 120 NOT NULL;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "header" jsonb;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "portrait" jsonb;--> statement-breakpoint
ALTER TABLE "images" ADD COLUMN "about_branch" uuid;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "picture" text;--> statement-breakpoint
ALTER TABLE "answer_photos" ADD CONSTRAINT "answer_photos_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answer_photos" ADD CONSTRAINT "answer_photos_answer_id_answers_id_fk" FOREIGN KEY ("answer_id") REFERENCES "public"."answers"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answer_photos" ADD CONSTRAINT "answer_photos_branch_id_branches_id_fk" FOREIGN KEY ("branch_id") REFERENCES "public"."branches"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "answer_photos_answer" ON "answer_photos" USING btree ("answer_id");