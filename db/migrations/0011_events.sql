CREATE TABLE "ask_events" (
	"id" uuid NOT NULL,
	"client_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"kind" text NOT NULL,
	"source" text NOT NULL,
	"ask_id" uuid,
	"message_id" uuid,
	"step" smallint,
	"wording" text,
	"channel" text,
	"listing_id" uuid,
	"rating" smallint,
	"code" text,
	CONSTRAINT "ask_events_id_at_pk" PRIMARY KEY("id","at")
) PARTITION BY RANGE ("at");
--> statement-breakpoint
CREATE TABLE "ask_events_other" PARTITION OF "ask_events" DEFAULT;
--> statement-breakpoint
ALTER TABLE "ask_events" ADD CONSTRAINT "ask_events_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "ask_events_time" ON "ask_events" USING btree ("client_id","at","kind");--> statement-breakpoint
CREATE INDEX "ask_events_ask" ON "ask_events" USING btree ("client_id","ask_id");--> statement-breakpoint
-- What happened before there was a log, as far as other rows tell it.
DO $$
DECLARE
  month date;
BEGIN
  FOR month IN SELECT generate_series(date_trunc('month', min(created_at at time zone 'UTC')), date_trunc('month', max(created_at at time zone 'UTC')) + interval '1 month', interval '1 month')::date FROM asks HAVING count(*) > 0
  LOOP
    EXECUTE format('CREATE TABLE ask_events_%s PARTITION OF ask_events FOR VALUES FROM (%L) TO (%L)', to_char(month, 'YYYY_MM'), month::text || ' 00:00:00+00', (month + interval '1 month')::date::text || ' 00:00:00+00');
  END LOOP;
END $$;--> statement-breakpoint
INSERT INTO ask_events (id, client_id, at, kind, source, ask_id, code)
SELECT gen_random_uuid(), client_id, created_at, 'planned', CASE WHEN by_hand THEN 'staff' ELSE 'plan' END, id, NULL FROM asks
UNION ALL SELECT gen_random_uuid(), client_id, coalesce(ended_at, created_at), 'stopped', CASE WHEN stop IN ('cancelled by hand', 'visit cancelled') THEN 'staff' WHEN stop = 'not to be asked' THEN 'plan' ELSE 'person' END, id, stop FROM asks WHERE stop IS NOT NULL
UNION ALL SELECT gen_random_uuid(), client_id, coalesce(ended_at, created_at), 'ended', 'plan', id, ended FROM asks WHERE ended IS NOT NULL AND stop IS NULL
UNION ALL SELECT gen_random_uuid(), client_id, reviewed_at, 'reviewed', 'person', id, NULL FROM asks WHERE reviewed_at IS NOT NULL;--> statement-breakpoint
INSERT INTO ask_events (id, client_id, at, kind, source, ask_id, rating)
SELECT gen_random_uuid(), a.client_id, a.answered_at, 'answered', 'person', a.id, r.rating FROM asks a LEFT JOIN answers r ON r.ask_id = a.id WHERE a.answered_at IS NOT NULL;--> statement-breakpoint
INSERT INTO ask_events (id, client_id, at, kind, source, ask_id, listing_id)
SELECT gen_random_uuid(), client_id, at, 'site opened', 'person', ask_id, listing_id FROM sites_followed;--> statement-breakpoint
INSERT INTO ask_events (id, client_id, at, kind, source, ask_id, message_id, step, wording, channel)
SELECT gen_random_uuid(), m.client_id, e.at, e.kind, e.source, m.ask_id, m.id, m.step, m.wording, m.channel
FROM messages m CROSS JOIN LATERAL (VALUES (m.sent_at, 'sent', 'gateway'), (m.delivered_at, 'delivered', 'gateway'), (m.opened_at, 'opened', 'unknown'), (m.followed_at, 'followed', 'unknown'),
  (CASE WHEN m.state = 'bounced' THEN coalesce(m.ended_at, m.sent_at) END, 'bounced', 'gateway')) e (at, kind, source)
WHERE m.direction = 'out' AND m.ask_id IS NOT NULL AND e.at IS NOT NULL;
--> statement-breakpoint
UPDATE "visits" SET "source" = 'webhook' WHERE "source" = 'demo book';
