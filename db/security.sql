-- Run by the owner of the tables after every migration; safe to run again.
-- Gives the program's role its rights, shuts every client's rows off from the others, and opens the few narrow
-- functions that must look across clients (what is due, whose link this is). Each returns identifiers, never content.

grant usage on schema public to estima_app;
grant select, insert, update, delete on all tables in schema public to estima_app;
grant usage on all sequences in schema public to estima_app;

do $$
declare
  t record;
begin
  for t in
    select c.table_name from information_schema.columns c
    join information_schema.tables i using (table_schema, table_name)
    where c.table_schema = 'public' and c.column_name = 'client_id' and i.table_type = 'BASE TABLE'
  loop
    execute format('alter table %I enable row level security', t.table_name);
    execute format('drop policy if exists own_client on %I', t.table_name);
    execute format(
      'create policy own_client on %I using (client_id = nullif(current_setting(''estima.client'', true), '''')::uuid)',
      t.table_name);
  end loop;
end $$;

alter table clients enable row level security;
drop policy if exists own_client on clients;
create policy own_client on clients using (id = nullif(current_setting('estima.client', true), '')::uuid);

-- Which clients a signed-in person may enter, and as what.
create or replace function estima_seats_of(p_user text)
returns table (client_id uuid, slug text, name text, zone text, colour text, agency text, role text)
language sql stable security definer set search_path = public as $$
  select c.id, c.slug, c.name, c.zone, c.colour, a.name, s.role
  from seats s join agencies a on a.id = s.agency_id
  join clients c on c.agency_id = s.agency_id and (s.only_client is null or s.only_client = c.id)
  where s.user_id = p_user
  order by c.id
$$;

-- Whose ask a customer's link belongs to.
create or replace function estima_ask_by_token(p_token text)
returns table (client_id uuid, ask_id uuid)
language sql stable security definer set search_path = public as $$
  select client_id, id from asks where token = p_token
$$;

-- Which client a message that a gateway or a picture names belongs to.
create or replace function estima_client_of_message(p_message uuid)
returns uuid language sql stable security definer set search_path = public as $$
  select client_id from messages where id = p_message
$$;

create or replace function estima_client_by_text_number(p_number text)
returns uuid language sql stable security definer set search_path = public as $$
  select id from clients where text_number = p_number
$$;

-- Claims due messages for a while of real time. Those whose claim ran out (a killed worker) are claimed again.
create or replace function estima_claim_messages(p_now timestamptz, p_most int, p_lease_seconds numeric)
returns table (client_id uuid, message_id uuid, claim_id uuid)
language sql volatile security definer set search_path = public as $$
  with due as (
    select m.id from messages m
    where m.state in ('planned', 'sending') and m.due_at <= p_now
      and (m.claimed_until is null or m.claimed_until < clock_timestamp())
    order by m.due_at limit p_most for update skip locked
  ), claim as (select gen_random_uuid() as id)
  update messages m
  set claim_id = claim.id, claimed_until = clock_timestamp() + make_interval(secs => p_lease_seconds)
  from due, claim where m.id = due.id
  returning m.client_id, m.id, m.claim_id
$$;

-- Claims visits that plans have to look at.
create or replace function estima_claim_visits(p_now timestamptz, p_most int, p_lease_seconds numeric)
returns table (client_id uuid, visit_id uuid)
language sql volatile security definer set search_path = public as $$
  with due as (
    select v.id from visits v
    where v.examine_at is not null and v.examine_at <= p_now
      and (v.claimed_until is null or v.claimed_until < clock_timestamp())
    order by v.examine_at limit p_most for update skip locked
  )
  update visits v set claimed_until = clock_timestamp() + make_interval(secs => p_lease_seconds)
  from due where v.id = due.id
  returning v.client_id, v.id
$$;

-- Claims listings whose reviews are to be collected, and sets when next.
create or replace function estima_claim_listings(p_now timestamptz, p_next timestamptz, p_most int)
returns table (client_id uuid, listing_id uuid)
language sql volatile security definer set search_path = public as $$
  with due as (
    select l.id from listings l where l.collect_at <= p_now order by l.collect_at limit p_most for update skip locked
  )
  update listings l set collect_at = p_next from due where l.id = due.id
  returning l.client_id, l.id
$$;

-- When the next message or visit is due, over all clients; for the demo clock's "next message".
create or replace function estima_next_due()
returns table (message_at timestamptz, visit_at timestamptz)
language sql stable security definer set search_path = public as $$
  select (select min(due_at) from messages where state in ('planned', 'sending')),
         (select min(examine_at) from visits where examine_at is not null)
$$;

-- People by any part of name, email, phone or note. Inside this function the trigram index can be used, which row-level
-- security would forbid outside; it looks at the current client alone.
create or replace function estima_search_people(p_query text, p_most int)
returns setof people language sql stable security definer set search_path = public as $$
  select * from people
  where client_id = nullif(current_setting('estima.client', true), '')::uuid
    and search like '%' || replace(replace(replace(lower(p_query), '\', '\\'), '%', '\%'), '_', '\_') || '%'
  order by family, given, id limit least(p_most, 200)
$$;

do $$
declare
  f record;
begin
  for f in select oid::regprocedure as name from pg_proc where pronamespace = 'public'::regnamespace and proname like 'estima\_%'
  loop
    execute format('revoke all on function %s from public', f.name);
    execute format('grant execute on function %s to estima_app', f.name);
  end loop;
end $$;

-- The job queue's own tables: the program's role may work the queue. Its jobs hold identifiers only.
do $$
declare
  t record;
begin
  if not exists (select 1 from pg_namespace where nspname = 'graphile_worker') then return; end if;
  grant usage on schema graphile_worker to estima_app;
  grant all on all tables in schema graphile_worker to estima_app;
  grant usage on all sequences in schema graphile_worker to estima_app;
  grant execute on all functions in schema graphile_worker to estima_app;
  for t in select tablename from pg_tables where schemaname = 'graphile_worker' and rowsecurity
  loop
    execute format('drop policy if exists program on graphile_worker.%I', t.tablename);
    execute format('create policy program on graphile_worker.%I to estima_app using (true) with check (true)', t.tablename);
  end loop;
end $$;
