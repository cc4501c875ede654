CREATE TABLE "needs_aside" (
	"client_id" uuid NOT NULL,
	"key" text NOT NULL,
	"reason" text NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "needs_aside_client_id_key_pk" PRIMARY KEY("client_id","key")
);
--> statement-breakpoint
ALTER TABLE "outlooks" ADD COLUMN "aside" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "needs_aside" ADD CONSTRAINT "needs_aside_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
UPDATE "messages" m SET "reason" = m.reason || jsonb_build_object('begun', v.rules -> 'begins' ->> 'kind')
FROM "asks" a JOIN "plan_versions" v ON v.plan_id = a.plan_id AND v.version = a.plan_version
WHERE a.id = m.ask_id AND m.reason ->> 'code' = 'scheduled' AND m.reason ->> 'after' = 'visit'
  AND v.rules -> 'begins' ->> 'kind' IN ('invoice', 'tag', 'customer', 'put right');
