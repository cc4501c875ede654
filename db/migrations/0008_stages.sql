DROP INDEX "asks_made";--> statement-breakpoint
DROP INDEX "messages_state";--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "delivered_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "followed_at" timestamp with time zone;--> statement-breakpoint
UPDATE "asks" a SET "delivered_at" = m.delivered, "followed_at" = m.followed, "opened_at" = coalesce(a.opened_at, m.opened) FROM (SELECT ask_id, min(delivered_at) AS delivered, min(followed_at) AS followed, max(opened_at) AS opened FROM messages WHERE direction = 'out' AND ask_id IS NOT NULL GROUP BY 1) m WHERE m.ask_id = a.id AND (m.delivered IS NOT NULL OR m.followed IS NOT NULL OR m.opened IS NOT NULL);--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "furthest" smallint GENERATED ALWAYS AS (case when reviewed_at is not null then 7 when site_followed_at is not null then 6 when answered_at is not null then 5 when first_sent_at is null then 0 when followed_at is not null then 4 when opened_at is not null then 3 when delivered_at is not null then 2 else 1 end) STORED NOT NULL;--> statement-breakpoint
CREATE INDEX "asks_made" ON "asks" USING btree ("client_id","created_at","id","furthest","plan_id","branch_id","answered_at","site_followed_at");--> statement-breakpoint
CREATE INDEX "messages_state" ON "messages" USING btree ("client_id","state","due_at","id","sent_at","branch_id");