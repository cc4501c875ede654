DROP INDEX "messages_concern";--> statement-breakpoint
CREATE INDEX "messages_concern" ON "messages" USING btree ("client_id","concern_id") WHERE concern_id is not null;--> statement-breakpoint
-- Rows of these tables change often in columns that no index holds: room on the page spares the indexes.
ALTER TABLE "people" SET (fillfactor = 80);
--> statement-breakpoint
ALTER TABLE "asks" SET (fillfactor = 80);
--> statement-breakpoint
ALTER TABLE "messages" SET (fillfactor = 80);
