CREATE TABLE "review_views" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"name" text NOT NULL,
	"query" text NOT NULL,
	"made_by" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "review_views" ADD CONSTRAINT "review_views_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "review_views_name" ON "review_views" USING btree ("client_id","name");