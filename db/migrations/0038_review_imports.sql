CREATE TABLE "review_imports" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"listing_id" uuid NOT NULL,
	"name" text NOT NULL,
	"state" text NOT NULL,
	"content" "bytea",
	"matching" jsonb NOT NULL,
	"kept" integer DEFAULT 0 NOT NULL,
	"made_by" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "import_id" uuid;--> statement-breakpoint
ALTER TABLE "review_imports" ADD CONSTRAINT "review_imports_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_imports" ADD CONSTRAINT "review_imports_listing_id_listings_id_fk" FOREIGN KEY ("listing_id") REFERENCES "public"."listings"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "review_imports_client" ON "review_imports" USING btree ("client_id","made_at");--> statement-breakpoint
CREATE INDEX "reviews_import" ON "reviews" USING btree ("import_id") WHERE import_id is not null;