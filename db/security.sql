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

-- Whoever is bound to some branches of a client (estima.branches, empty for nobody) sees and writes the rows of these alone. People are
-- of every branch where they have been, or whose staff added them.
create or replace function estima_is_at_branch(p_person uuid)
returns boolean language plpgsql stable security definer set search_path = public, pg_temp cost 10 as $$
begin
  return exists (
    select 1 from visits v where v.person_id = p_person and v.client_id = nullif(current_setting('estima.client', true), '')::uuid
      and v.branch_id = any(string_to_array(current_setting('estima.branches', true), ',')::uuid[]));
end $$;
create or replace function estima_is_ask_of_branch(p_ask uuid)
returns boolean language plpgsql stable security definer set search_path = public, pg_temp cost 10 as $$
begin
  return exists (
    select 1 from asks a where a.id = p_ask and a.client_id = nullif(current_setting('estima.client', true), '')::uuid
      and a.branch_id = any(string_to_array(current_setting('estima.branches', true), ',')::uuid[]));
end $$;
do $$
declare
  t record;
  unbound text := '(select coalesce(current_setting(''estima.branches'', true), '''') = '''')';
  own text := '%s = any((select string_to_array(nullif(current_setting(''estima.branches'', true), ''''), '','')::uuid[])::uuid[])';
begin
  for t in
    select c.table_name as name, case c.table_name when 'branches' then 'id' when 'people' then 'last_branch_id' else 'branch_id' end as branch,
      case c.table_name when 'people' then ' or estima_is_at_branch(id)' else '' end as beside
    from information_schema.tables c
    where c.table_schema = 'public' and c.table_type = 'BASE TABLE'
      and (c.table_name in ('branches', 'people') or exists (select 1 from information_schema.columns o
        where o.table_schema = 'public' and o.table_name = c.table_name and o.column_name = 'branch_id'))
    union all select name, 'null::uuid', beside from (values
      ('triggers', ' or estima_is_at_branch(person_id)'), ('ask_events', ' or estima_is_ask_of_branch(ask_id)'),
      ('merges', ' or estima_is_at_branch(kept_id)')) as others (name, beside)
  loop
    execute format('drop policy if exists own_branch on %I', t.name);
    execute format('create policy own_branch on %I as restrictive using (%s or %s%s)', t.name, unbound, format(own, t.branch), t.beside);
  end loop;
end $$;

-- Rows of an agency: every table with an agency and no client. Of its clients it sees the rows that describe them.

-- What belongs to a row of a branch and says no branch itself (the pictures of a message, the notes of a concern) is seen and
-- written by those who see that row. Worked out from the foreign keys, so that it holds for tables to come.
do $$
declare
  t record;
  unbound text := '(select coalesce(current_setting(''estima.branches'', true), '''') = '''')';
begin
  for t in
    select k.conrelid::regclass::text as name,
      string_agg(format('(%1$I is null or exists (select 1 from %2$s parent where parent.%3$I = %4$s.%1$I))',
        a.attname, k.confrelid::regclass, f.attname, k.conrelid::regclass), ' and ' order by a.attname) as beside
    from pg_constraint k
    join pg_attribute a on a.attrelid = k.conrelid and a.attnum = k.conkey[1]
    join pg_attribute f on f.attrelid = k.confrelid and f.attnum = k.confkey[1]
    where k.contype = 'f' and array_length(k.conkey, 1) = 1
      and k.confrelid::regclass::text in ('asks', 'visits', 'messages', 'answers', 'concerns', 'reviews', 'conversations')
      and exists (select 1 from pg_attribute o where o.attrelid = k.conrelid and o.attname = 'client_id' and not o.attisdropped)
      and not exists (select 1 from pg_policy p where p.polrelid = k.conrelid and p.polname = 'own_branch')
    group by k.conrelid
  loop
    execute format('drop policy if exists branch_of_parent on %s', t.name);
    execute format('create policy branch_of_parent on %s as restrictive using (%s or (%s))', t.name, unbound, t.beside);
  end loop;
end $$;

do $$
declare
  t record;
begin
  for t in
    select c.table_name from information_schema.columns c
    join information_schema.tables i using (table_schema, table_name)
    where c.table_schema = 'public' and c.column_name = 'agency_id' and i.table_type = 'BASE TABLE' and c.table_name <> 'clients'
      and not exists (select 1 from information_schema.columns o where o.table_schema = 'public' and o.table_name = c.table_name and o.column_name = 'client_id')
  loop
    execute format('alter table %I enable row level security', t.table_name);
    execute format('drop policy if exists own_agency on %I', t.table_name);
    execute format(
      'create policy own_agency on %I using (agency_id = nullif(current_setting(''estima.agency'', true), '''')::uuid)',
      t.table_name);
  end loop;
end $$;
alter table agencies enable row level security;
drop policy if exists own_agency on agencies;
create policy own_agency on agencies using (id = nullif(current_setting('estima.agency', true), '')::uuid);
drop policy if exists of_agency on clients;
create policy of_agency on clients for select using (agency_id = nullif(current_setting('estima.agency', true), '')::uuid
  and (coalesce(current_setting('estima.group', true), '') = '' or group_id = nullif(current_setting('estima.group', true), '')::uuid));

-- How its clients are doing, for an agency.
drop policy if exists of_agency on outlooks;
create policy of_agency on outlooks for select using (agency_id = nullif(current_setting('estima.agency', true), '')::uuid
  and (coalesce(current_setting('estima.group', true), '') = '' or exists (select 1 from clients c where c.id = client_id)));

-- The branches of its clients, and what was done there.
drop policy if exists of_agency on branches;
create policy of_agency on branches for select using (exists (
  select 1 from clients c where c.id = client_id and c.agency_id = nullif(current_setting('estima.agency', true), '')::uuid));
drop policy if exists of_agency on audit_entries;
create policy of_agency on audit_entries for select using (exists (
  select 1 from clients c where c.id = client_id and c.agency_id = nullif(current_setting('estima.agency', true), '')::uuid));

-- A text to a number that several clients share may be for any of them: whoever has a group of an agency's clients sees it
-- only where all of them are of that group.
drop policy if exists own_group on shared_texts;
create policy own_group on shared_texts as restrictive using (coalesce(current_setting('estima.group', true), '') = '' or not exists (
  select 1 from unnest(choices) as choice where not exists (select 1 from clients c where c.id = choice)));

-- The words of a client's agency, which its plans follow.
drop policy if exists of_client on agency_words;
create policy of_client on agency_words for select using (agency_id = (
  select c.agency_id from clients c where c.id = nullif(current_setting('estima.client', true), '')::uuid));

-- The saved replies of a client's agency, which its people use.
drop policy if exists of_client on agency_saved_replies;
create policy of_client on agency_saved_replies for select using (agency_id = (
  select c.agency_id from clients c where c.id = nullif(current_setting('estima.client', true), '')::uuid));

-- Which clients a signed-in person may enter, and as what: once for each seat.
drop function if exists estima_record_sign_in(text, timestamptz);
drop function if exists estima_seats_of(text);
create function estima_seats_of(p_user text)
returns table (client_id uuid, slug text, name text, zone text, colour text, agency_id uuid, agency text, agency_slug text, agency_colour text,
  agency_logo uuid, help_email text, needs_two_steps boolean, role text, role_name text, permissions text[], kind text, branch uuid, shown text[])
language sql stable security definer set search_path = public, pg_temp as $$
  select c.id, c.slug, c.name, c.zone, c.colour, a.id, a.name, a.slug, a.colour, a.logo_id, a.help_email, a.needs_two_steps, s.role, r.name, r.permissions,
    case when s.only_branch is not null then 'branch' when s.only_client is not null then 'client' when s.only_group is not null then 'group' else 'agency' end,
    s.only_branch, case when s.only_client is not null then c.shown_places end
  from seats s join agencies a on a.id = s.agency_id
  join clients c on c.agency_id = s.agency_id and (s.only_client is null or s.only_client = c.id) and (s.only_group is null or s.only_group = c.group_id)
  left join roles r on r.id = s.role_id
  where s.user_id = p_user and c.archived_at is null and c.deleting_at is null
  order by c.id, s.only_client nulls first, s.only_branch nulls first, s.id
$$;

-- Which client a shared phone that is signed in may ask for, at which branch (null for all), and until when.
create or replace function estima_phone_of(p_user text)
returns table (client_id uuid, branch uuid, name text, until timestamptz)
language sql stable security definer set search_path = public, pg_temp as $$
  select p.client_id, p.branch_id, p.name, p.until from shared_phones p join clients c on c.id = p.client_id
  where p.user_id = p_user and c.archived_at is null and c.deleting_at is null
$$;

-- A client as its shared phone sees it.
drop function if exists estima_client_of_phone(text);
create function estima_client_of_phone(p_user text)
returns table (client_id uuid, slug text, name text, zone text, colour text, agency_id uuid, agency text, agency_slug text, agency_colour text, agency_logo uuid, help_email text)
language sql stable security definer set search_path = public, pg_temp as $$
  select c.id, c.slug, c.name, c.zone, c.colour, a.id, a.name, a.slug, a.colour, a.logo_id, a.help_email
  from estima_phone_of(p_user) p join clients c on c.id = p.client_id join agencies a on a.id = c.agency_id
$$;

-- The shared phone that a link signs in.
create or replace function estima_phone_link(p_hash text, p_real timestamptz)
returns table (client_id uuid, phone_id uuid, user_id text)
language sql stable security definer set search_path = public, pg_temp as $$
  select client_id, id, user_id from shared_phones where link_hash = p_hash and link_expires_at > p_real
$$;

-- Who may say who they are on a shared phone of the current client: everybody with a seat there and four digits of their own.
create or replace function estima_people_at_phone()
returns table (id text, name text, code text)
language sql stable security definer set search_path = public, pg_temp as $$
  select distinct u.id, u.name, u.desk_code
  from clients c join seats s on s.agency_id = c.agency_id and (s.only_client is null or s.only_client = c.id) and (s.only_group is null or s.only_group = c.group_id)
  join users u on u.id = s.user_id
  where c.id = nullif(current_setting('estima.client', true), '')::uuid and u.desk_code is not null
  order by u.name, u.id
$$;

-- Whoever signed in with their password: their four digits count again on every shared phone.
create or replace function estima_unlock_digits(p_user text) returns void
language sql security definer set search_path = public, pg_temp as $$
  delete from desk_tries where user_id = p_user
$$;

-- The agencies in which a signed-in person has a seat for all its clients or for a group of them, and as what.
drop function if exists estima_agencies_of(text);
create function estima_agencies_of(p_user text)
returns table (agency_id uuid, slug text, name text, colour text, sender_email text, help_email text, needs_two_steps boolean,
  role text, role_name text, permissions text[], only_group uuid, group_name text)
language sql stable security definer set search_path = public, pg_temp as $$
  select a.id, a.slug, a.name, a.colour, case when a.sender_confirmed_at is null then '' else a.sender_email end, a.help_email, a.needs_two_steps, s.role, r.name, r.permissions, s.only_group, g.name
  from seats s join agencies a on a.id = s.agency_id left join roles r on r.id = s.role_id left join client_groups g on g.id = s.only_group
  where s.user_id = p_user and s.only_client is null
  order by a.id, s.only_group nulls first, s.id
$$;

-- Which draft of which agency a client fills in by a link.
create or replace function estima_draft_link(p_hash text, p_now timestamptz)
returns table (agency_id uuid, id uuid)
language sql stable security definer set search_path = public, pg_temp as $$
  select d.agency_id, d.id from client_drafts d where d.link_hash = p_hash and d.link_expires_at > p_now
$$;

-- Whose invitation a link is, by the hash of its token; nothing of one that has ended or run out.
create or replace function estima_invitation(p_hash text, p_now timestamptz)
returns table (id uuid, agency_id uuid, agency text, email text, name text)
language sql stable security definer set search_path = public, pg_temp as $$
  select i.id, i.agency_id, a.name, i.email, i.name
  from invitations i join agencies a on a.id = i.agency_id
  where i.token_hash = p_hash and i.ended_at is null and i.expires_at > p_now
$$;

-- Notes at every client of a person that they signed in.
create or replace function estima_record_sign_in(p_user text, p_at timestamptz)
returns void
language sql security definer set search_path = public, pg_temp as $$
  insert into audit_entries (id, client_id, at, who, who_id, action, subject)
  select gen_random_uuid(), s.client_id, p_at, u.name, u.id, 'signed in', 'sign-in'
  from (select distinct client_id from estima_seats_of(p_user)) s join users u on u.id = p_user
$$;

drop function if exists estima_search_people(text, int);

-- Whose ask a customer's link belongs to. In plpgsql, which plans it once per connection: it is asked with every page.
drop function if exists estima_ask_by_token(text);
create function estima_ask_by_token(p_token text)
returns table (client_id uuid, ask_id uuid, business text, colour text, archived_at timestamptz, last_sent_at timestamptz, link_days int, language text)
language plpgsql stable security definer set search_path = public, pg_temp as $$
begin
  return query select a.client_id, a.id, c.name, c.colour, c.archived_at, a.last_sent_at, c.link_days, c.language
  from asks a join clients c on c.id = a.client_id
  where a.token = p_token and c.deleting_at is null;
end
$$;

-- A person or a guardian, as far as their page goes: `Reader` of features/answers/view.ts.
create or replace function estima_reader(p people) returns json language sql stable as $$
  select json_build_object(
    'id', p.id, 'given', p.given, 'family', p.family, 'email', p.email,
    'emailBouncedAt', (date_part('epoch', p.email_bounced_at) * 1000)::bigint,
    'emailOptedOutAt', (date_part('epoch', p.email_opted_out_at) * 1000)::bigint,
    'phone', p.phone, 'phoneTakesTexts', p.phone_takes_texts,
    'textBouncedAt', (date_part('epoch', p.text_bounced_at) * 1000)::bigint,
    'textOptedOutAt', (date_part('epoch', p.text_opted_out_at) * 1000)::bigint,
    'birthDate', p.birth_date, 'language', p.language, 'pageLanguage', p.page_language)
$$;

-- What the page of an ask shows, in one statement: `PageRows` of features/answers/view.ts. Only for an ask of the client
-- whose rows the transaction may see, which it looks at by itself: the policies of twelve tables would take as long as the
-- rest of it.
create or replace function estima_answer_page(p_ask uuid)
returns json language plpgsql stable security definer set search_path = public, pg_temp as $$
begin
  return (
    select json_build_object(
      'ask', json_build_object('branchId', a.branch_id, 'firstSite', a.first_site, 'stop', a.stop, 'done', a.done),
      'rules', coalesce(v.rules, p.rules),
      'person', estima_reader(person),
      'guardian', case when person.guardian_id is not null then (
        select estima_reader(g) from people g where g.client_id = a.client_id and g.id = person.guardian_id) end,
      'visit', json_build_object(
        'branchId', visit.branch_id, 'serviceId', visit.service_id, 'teamMemberId', visit.team_member_id, 'about', visit.about),
      'along', (
        select json_agg(json_build_object('about', o.about, 'given', w.given, 'personId', w.id) order by o.ends_at, o.id)
        from visits o join people w on w.client_id = a.client_id and w.id = o.person_id
        where o.client_id = a.client_id and o.ask_id = a.id and o.id <> a.visit_id),
      'answer', case when answer.id is not null then json_build_object(
        'id', answer.id, 'scale', answer.scale, 'rating', answer.rating, 'recommend', answer.recommend,
        'aspects', answer.aspects, 'more', answer.more, 'words', answer.words, 'draftWords', answer.draft_words,
        'draftMore', answer.draft_more, 'replyTo', answer.reply_to,
        'hasConcern', exists (select 1 from concerns n where n.client_id = a.client_id and n.answer_id = answer.id),
        'mayShowAt', (date_part('epoch', answer.may_show_at) * 1000)::bigint) end,
      'hasPhoto', answer.id is not null and exists (
        select 1 from answer_photos f where f.client_id = a.client_id and f.answer_id = answer.id),
      'followed', case when answer.id is not null then (
        select json_agg(f.listing_id) from sites_followed f where f.client_id = a.client_id and f.ask_id = a.id) end,
      'reviewed', case when answer.id is not null then (
        select json_agg(l.site) from reviews r join listings l on l.id = r.listing_id
        where r.client_id = a.client_id and r.person_id = a.person_id and r.deleted_at is null) end,
      'client', json_build_object(
        'name', c.name, 'zone', c.zone, 'language', c.language, 'country', c.country, 'senderEmail', c.sender_email,
        'postalAddress', c.postal_address, 'privacyNote', c.privacy_note, 'colour', c.colour, 'logo', c.logo,
        'header', c.header, 'portrait', c.portrait, 'look', c.look),
      'branches', (
        select json_agg(json_build_object('id', b.id, 'name', b.name, 'look', b.look))
        from branches b where b.client_id = a.client_id and b.id in (a.branch_id, visit.branch_id)),
      'service', (select s.name from services s where s.client_id = a.client_id and s.id = visit.service_id),
      'teamMember', (select t.name from team_members t where t.client_id = a.client_id and t.id = visit.team_member_id),
      'listings', case when answer.id is not null then (
        select json_agg(json_build_object('id', l.id, 'site', l.site, 'url', l.url, 'branchId', l.branch_id)
          order by l.position, l.id)
        from listings l where l.client_id = a.client_id and l.branch_id = a.branch_id) end)
    from asks a
    join clients c on c.id = a.client_id
    join people person on person.client_id = a.client_id and person.id = a.person_id
    join visits visit on visit.client_id = a.client_id and visit.id = a.visit_id
    join plans p on p.client_id = a.client_id and p.id = a.plan_id
    left join plan_versions v on v.plan_id = a.plan_id and v.version = a.plan_version
    left join answers answer on answer.client_id = a.client_id and answer.ask_id = a.id
    where a.id = p_ask and a.client_id = nullif(current_setting('estima.client', true), '')::uuid);
end
$$;

-- Follows a customer's link: counts whoever asks and what was asked for, says whose the link is, and what its page shows
-- where that is wanted. Hits are counted as `platform/publicLimit` does and in its rows, at most so many a minute, `p_now`
-- being real time in milliseconds. `p_client` is the address of whoever asks, null where nobody knows it; `p_hits` of its
-- requests are counted with this one, and none where that is 0. Gives {refused: "limit" or "lost"}, or {link, page}.
-- Plain statements one after the other are planned once a connection, and quicker than one that does it all.
create or replace function estima_follow_link(
  p_token text, p_kind text, p_client text, p_hits int, p_most_client int, p_most_guesses int, p_most_link int, p_now bigint, p_page boolean)
returns json language plpgsql security definer set search_path = public, pg_temp as $$
declare
  v_ask uuid;
  v_client uuid;
  v_link json;
  v_key text;
  v_most int;
  v_points int;
begin
  if p_hits > 0 and p_client is not null then
    insert into rate_limits as l (key, points, expire)
    values (p_most_client || '/60:client ' || p_client, p_hits, p_now + 60000)
    on conflict (key) do update set
      points = case when l.expire <= p_now then p_hits else l.points + p_hits end,
      expire = case when l.expire <= p_now then excluded.expire else l.expire end
    returning points into v_points;
    if v_points > p_most_client then return json_build_object('refused', 'limit'); end if;
  end if;
  select a.id, a.client_id, json_build_object(
      'client_id', a.client_id, 'ask_id', a.id, 'business', c.name, 'colour', c.colour, 'archived_at', c.archived_at,
      'last_sent_at', a.last_sent_at, 'link_days', c.link_days, 'language', c.language)
    into v_ask, v_client, v_link
    from asks a join clients c on c.id = a.client_id where a.token = p_token and c.deleting_at is null;
  -- Guesses are one row for whoever makes them: nothing is kept of each.
  v_key := case when v_ask is null then 'guess ' || p_client else p_kind || ' ' || p_token end;
  v_most := case when v_ask is null then p_most_guesses else p_most_link end;
  if v_key is not null then
    insert into rate_limits as l (key, points, expire) values (v_most || '/60:' || v_key, 1, p_now + 60000)
    on conflict (key) do update set
      points = case when l.expire <= p_now then 1 else l.points + 1 end,
      expire = case when l.expire <= p_now then excluded.expire else l.expire end
    returning points into v_points;
    if v_points > v_most then return json_build_object('refused', 'limit'); end if;
  end if;
  if v_ask is null then return json_build_object('refused', 'lost'); end if;
  if not p_page then return json_build_object('link', v_link); end if;
  perform set_config('estima.client', v_client::text, true);
  return json_build_object('link', v_link, 'page', estima_answer_page(v_ask));
end
$$;

-- Which customer's way a link shows to somebody outside.
create or replace function estima_preview_link(p_hash text)
returns table (client_id uuid, plan_id uuid, expires_at timestamptz, sample jsonb)
language sql stable security definer set search_path = public, pg_temp as $$
  select l.client_id, l.plan_id, l.expires_at, l.sample from preview_links l join clients c on c.id = l.client_id
  where l.token_hash = p_hash and c.archived_at is null and c.deleting_at is null
$$;
-- Whose own reviews stand at an address.
create or replace function estima_reviews_at(p_address text)
returns table (client_id uuid)
language sql stable security definer set search_path = public, pg_temp as $$
  select c.id from clients c where c.reviews_address = p_address and c.archived_at is null and c.deleting_at is null
$$;
-- Whose standing link an address is.
create or replace function estima_standing_link(p_token text)
returns table (client_id uuid, link_id uuid, archived boolean)
language sql stable security definer set search_path = public, pg_temp as $$
  select l.client_id, l.id, c.archived_at is not null from standing_links l join clients c on c.id = l.client_id
  where l.token = p_token and l.ended_at is null and c.deleting_at is null
$$;

-- Which client a message that a gateway or a picture names belongs to.
create or replace function estima_client_of_message(p_message uuid)
returns uuid language sql stable security definer set search_path = public, pg_temp as $$
  select client_id from messages where id = p_message
$$;

drop function if exists estima_client_by_text_number(text);
-- The clients whose texts come from a number, with their agency, and when each last wrote to and heard from a phone.
create or replace function estima_clients_by_text_number(p_number text, p_phone text)
returns table (client_id uuid, agency_id uuid, name text, wrote_at timestamptz, heard_at timestamptz)
language sql stable security definer set search_path = public, pg_temp as $$
  select c.id, c.agency_id, c.name,
    (select max(p.last_message_at) from people p where p.client_id = c.id and p.phone = p_phone and p.merged_into is null and p.erased_at is null),
    greatest(
      (select max(v.heard_at) from conversations v where v.client_id = c.id and v.person_id is null and v.address = p_phone),
      (select max(v.heard_at) from people p join conversations v on v.client_id = p.client_id and v.person_id = p.id
        where p.client_id = c.id and p.phone = p_phone and v.channel = 'text'))
  from clients c where c.text_number = p_number and c.deleting_at is null
  order by c.name, c.id
$$;

-- Forgets what these phones wrote to a number that clients of the current client's agency share.
create or replace function estima_forget_shared_texts(p_phones text[])
returns void language sql volatile security definer set search_path = public, pg_temp as $$
  delete from shared_texts where sender = any(p_phones) and agency_id = (
    select c.agency_id from clients c where c.id = nullif(current_setting('estima.client', true), '')::uuid)
$$;

-- The confirmed address of the current client's agency; null for none.
create or replace function estima_agency_sender()
returns text language sql stable security definer set search_path = public, pg_temp as $$
  select nullif(a.sender_email, '') from clients c join agencies a on a.id = c.agency_id
  where c.id = nullif(current_setting('estima.client', true), '')::uuid and a.sender_confirmed_at is not null
$$;

-- Whoever reads the mail of an agency's address said that mails may go out from it; nothing where it is another one by now.
create or replace function estima_confirm_agency_sender(p_agency uuid, p_address text)
returns void language sql security definer set search_path = public, pg_temp as $$
  update agencies set sender_confirmed_at = clock_timestamp() where id = p_agency and sender_email = p_address and sender_confirmed_at is null
$$;

-- The client that writes its emails from an address, where that is confirmed.
create or replace function estima_client_by_mailbox(p_address text)
returns uuid language sql stable security definer set search_path = public, pg_temp as $$
  select case when count(*) = 1 then min(id::text)::uuid end from clients where lower(sender_email) = lower(p_address) and sender_confirmed_at is not null and deleting_at is null
$$;

-- Claims pictures that came with messages and are to be fetched, and sets when another may take them.
create or replace function estima_claim_pictures(p_now timestamptz, p_until timestamptz, p_most int)
returns table (client_id uuid, picture_id uuid)
language sql volatile security definer set search_path = public, pg_temp as $$
  with due as (
    select x.id from message_pictures x where x.fetch_at <= p_now order by x.fetch_at limit p_most for update skip locked
  )
  update message_pictures x set fetch_at = p_until from due where x.id = due.id
  returning x.client_id, x.id
$$;

-- Claims due messages for a while of real time. Clients that have any share the claim evenly, those that waited longest first, so that
-- ten messages of one do not wait for ten thousand of another. Of each client those leave first that go first, then in the order of
-- an index. Those whose claim ran out (a killed worker) are claimed again. The planner cannot see how few rows are asked for: it is
-- kept to the index.
create or replace function estima_claim_messages(p_now timestamptz, p_most int, p_lease_seconds numeric)
returns table (client_id uuid, message_id uuid, claim_id uuid)
language sql volatile security definer set search_path = public, pg_temp set enable_seqscan = off set enable_bitmapscan = off set enable_sort = off set jit = off as $$
  -- Where everything is paused, asks that are due wait; what people write by hand goes first, and goes out.
  with open as materialized (
    select c.id, c.paused_at is not null and (c.paused_until is null or c.paused_until > p_now) as is_paused from clients c
  ), waiting as materialized (
    select c.id, c.is_paused, least(f.due_at, o.due_at) as due_at from open c
    left join lateral (
      select m.due_at from messages m
      where m.client_id = c.id and m.state in ('planned', 'sending') and m.goes_first = true and m.due_at <= p_now
        and (not c.is_paused or m.ask_id is null)
        and (m.claimed_until is null or m.claimed_until < clock_timestamp())
      order by m.due_at limit 1) f on true
    left join lateral (
      select m.due_at from messages m
      where not c.is_paused and m.client_id = c.id and m.state in ('planned', 'sending') and m.goes_first = false and m.due_at <= p_now
        and (m.claimed_until is null or m.claimed_until < clock_timestamp())
      order by m.due_at limit 1) o on true
    where f.due_at is not null or o.due_at is not null
    order by 3, 1 limit p_most
  ), share as materialized (
    select ceil(p_most::numeric / greatest(1, count(*)))::bigint as most from waiting
  ), first as materialized (
    select w.id as client, m.id from waiting w cross join share s cross join lateral (
      select m.id from messages m
      where m.client_id = w.id and m.state in ('planned', 'sending') and m.goes_first = true and m.due_at <= p_now
        and (not w.is_paused or m.ask_id is null)
        and (m.claimed_until is null or m.claimed_until < clock_timestamp())
      order by m.due_at, m.person_id limit s.most for update skip locked) m
  ), others as materialized (
    select m.id from waiting w cross join share s cross join lateral (
      select m.id from messages m
      where not w.is_paused and m.client_id = w.id and m.state in ('planned', 'sending') and m.goes_first = false and m.due_at <= p_now
        and (m.claimed_until is null or m.claimed_until < clock_timestamp())
      order by m.due_at, m.person_id limit greatest(0, s.most - (select count(*) from first f where f.client = w.id)) for update skip locked) m
  ), claim as materialized (select gen_random_uuid() as id)
  update messages m
  set claim_id = (select id from claim), claimed_until = clock_timestamp() + make_interval(secs => p_lease_seconds)
  -- As a list: how many rows there are is not known beforehand, and a join would look at every message.
  where m.id = any(array(select id from first union all select id from others))
  returning m.client_id, m.id, m.claim_id
$$;

-- Claims rows that are due, for a while of real time: the same for visits that plans have to look at, triggers (a tag given, so long a
-- customer), notices that have to be handed over, and events that feeds delivered. Written once, made for each, so that each is planned
-- by its own index. Messages are claimed otherwise (fairly, below their own index), lists by a lease of their own that also says their
-- state, and listings and feeds are not claimed: taking them sets when they come next.
do $$
declare
  c record;
begin
  for c in select * from (values
    ('visits', 'visit_id', 'x.examine_at is not null and x.examine_at <= p_now', 'x.examine_at'),
    ('triggers', 'trigger_id', 'x.examine_at is not null and x.examine_at <= p_now', 'x.examine_at'),
    ('notices', 'notice_id', 'x.due_at is not null and x.due_at <= p_now', 'x.due_at'),
    ('inbound_events', 'event_id', 'x.state = ''waiting''', 'x.at, x.id')
  ) as claims (name, id, due, place)
  loop
    execute format($f$
      create or replace function estima_claim_%1$s(p_now timestamptz, p_most int, p_lease_seconds numeric)
      returns table (client_id uuid, %2$I uuid)
      language sql volatile security definer set search_path = public, pg_temp as $body$
        with due as (
          select x.id from %1$I x where %3$s and (x.claimed_until is null or x.claimed_until < clock_timestamp())
          order by %4$s limit p_most for update skip locked
        )
        update %1$I t set claimed_until = clock_timestamp() + make_interval(secs => p_lease_seconds)
        from due where t.id = due.id
        returning t.client_id, t.id
      $body$ $f$, c.name, c.id, c.due, c.place);
  end loop;
end $$;

-- Claims listings whose reviews are to be collected, and sets when next.
create or replace function estima_claim_listings(p_now timestamptz, p_next timestamptz, p_most int)
returns table (client_id uuid, listing_id uuid)
language sql volatile security definer set search_path = public, pg_temp as $$
  with due as (
    select l.id from listings l where l.collect_at <= p_now order by l.collect_at limit p_most for update skip locked
  )
  update listings l set collect_at = p_next from due where l.id = due.id
  returning l.client_id, l.id
$$;

-- Everybody with a seat at the current client, a row for each seat: what it allows, and where.
drop function if exists estima_staff();
create function estima_staff()
returns table (id text, name text, email text, phone text, role text, permissions text[], kind text, branch uuid, shown text[])
language sql stable security definer set search_path = public, pg_temp as $$
  select u.id, u.name, u.email, u.phone, s.role, r.permissions,
    case when s.only_branch is not null then 'branch' when s.only_client is not null then 'client' when s.only_group is not null then 'group' else 'agency' end,
    s.only_branch, case when s.only_client is not null then c.shown_places end
  from clients c join seats s on s.agency_id = c.agency_id and (s.only_client is null or s.only_client = c.id) and (s.only_group is null or s.only_group = c.group_id)
  join users u on u.id = s.user_id left join roles r on r.id = s.role_id
  where c.id = nullif(current_setting('estima.client', true), '')::uuid and c.archived_at is null and c.deleting_at is null
  order by u.id, s.id
$$;

-- How many open invitations would give a seat at the current client.
create or replace function estima_invited()
returns int
language sql stable security definer set search_path = public, pg_temp as $$
  select count(*)::int
  from clients c join invitations i on i.agency_id = c.agency_id and i.ended_at is null
    and (i.only_client is null or i.only_client = c.id) and (i.only_group is null or i.only_group = c.group_id)
  where c.id = nullif(current_setting('estima.client', true), '')::uuid
$$;

-- Claims those for whom something is to be told, for a while of real time.
create or replace function estima_claim_tellings(p_now timestamptz, p_most int, p_lease int)
returns table (client_id uuid, user_id text)
language sql volatile security definer set search_path = public, pg_temp as $$
  with due as (
    select t.id from tellings t where t.due_at <= p_now and (t.claimed_until is null or t.claimed_until < clock_timestamp())
    order by t.due_at limit p_most for update skip locked
  ), claimed as (
    update tellings t set claimed_until = clock_timestamp() + make_interval(secs => p_lease) from due where t.id = due.id
    returning t.client_id, t.user_id
  )
  select distinct c.client_id, c.user_id from claimed c
$$;

-- Claims unanswered concerns of which somebody is to be reminded, and sets when another may take them.
create or replace function estima_claim_reminders(p_now timestamptz, p_until timestamptz, p_most int)
returns table (client_id uuid, concern_id uuid)
language sql volatile security definer set search_path = public, pg_temp as $$
  with due as (
    select c.id from concerns c where c.remind_at <= p_now order by c.remind_at limit p_most for update skip locked
  )
  update concerns c set remind_at = p_until from due where c.id = due.id
  returning c.client_id, c.id
$$;

-- Clients whose customers' words are still to be read for what they name.
create or replace function estima_clients_to_read(p_most int)
returns table (client_id uuid) language sql stable security definer set search_path = public, pg_temp as $$
  select distinct t.client_id from (
    (select r.client_id from reviews r where r.is_unread and r.words <> '' limit 2000)
    union all
    (select a.client_id from answers a where a.is_unread and a.words <> '' and not a.is_doubtful limit 2000)) t limit p_most
$$;

-- Clients of whose customers' words an earlier reader read some.
create or replace function estima_clients_to_read_anew(p_reader int)
returns table (client_id uuid) language sql stable security definer set search_path = public, pg_temp as $$
  select id from clients where themes_reader < p_reader order by id
$$;

-- Reviews of the current client that hold all of these words (the last of them may be a beginning), the latest first. As a
-- function of the tables' owner, because such operators may not run before a row policy.
create or replace function estima_search_reviews(p_words text, p_most int)
returns table (id uuid) language plpgsql stable security definer set search_path = public, pg_temp as $$
declare
  wanted text := (select string_agg(w, ' & ') from (
    select quote_literal(w) || ':*' as w from regexp_split_to_table(estima_plain_words(p_words), '[^[:alnum:]]+') w where w <> '' limit 12) t);
  own uuid := nullif(current_setting('estima.client', true), '')::uuid;
  bound uuid[] := (string_to_array(nullif(current_setting('estima.branches', true), ''), ','))::uuid[];
begin
  if wanted is null or own is null then return; end if;
  return query
    select r.id from reviews r
    where r.client_id = own and r.search @@ to_tsquery('simple', wanted) and (bound is null or r.branch_id = any(bound))
    order by r.written_at desc, r.id desc limit p_most;
end $$;

-- Claims replies whose time has come, and sets when another may take them.
create or replace function estima_claim_replies(p_now timestamptz, p_until timestamptz, p_most int)
returns table (client_id uuid, review_id uuid)
language sql volatile security definer set search_path = public, pg_temp as $$
  with due as (
    select r.id from reviews r where r.reply_due_at <= p_now order by r.reply_due_at limit p_most for update skip locked
  )
  update reviews r set reply_due_at = p_until from due where r.id = due.id
  returning r.client_id, r.id
$$;

-- A site tells that something is new on a page: its turn is now, unless its sign-in has ended.
create or replace function estima_page_is_due(p_listing uuid, p_now timestamptz)
returns boolean language plpgsql volatile security definer set search_path = public, pg_temp as $$
begin
  update listings set collect_at = p_now where id = p_listing and connector is not null and collect_at > p_now;
  return exists (select 1 from listings where id = p_listing and connector is not null);
end $$;

-- Who may set up the current client: those who are told when something of it cannot wait.
drop function if exists estima_managers();
create function estima_managers()
returns table (id text, name text, email text, phone text)
language sql stable security definer set search_path = public, pg_temp as $$
  select distinct u.id, u.name, u.email, u.phone
  from clients c join seats s on s.agency_id = c.agency_id and (s.only_client is null or s.only_client = c.id)
    and (s.only_group is null or s.only_group = c.group_id) and s.only_branch is null
  join users u on u.id = s.user_id
  left join roles r on r.id = s.role_id
  where c.id = nullif(current_setting('estima.client', true), '')::uuid
    and case when r.id is null then s.role in ('agency', 'manager') else 'set up' = any(r.permissions) end
  order by u.id
$$;

-- Clients whose outlook was not worked out for five minutes, or never; each is claimed for a minute of real time.
-- Which clients something happened to that their outlook tells of: it is worked out anew at the worker's next look. Rows are
-- only added by those who change something, so that nobody waits for anybody; what is lost in a crash comes five minutes later.
create unlogged table if not exists outlook_marks (of_client uuid not null);
create index if not exists outlook_marks_client on outlook_marks (of_client);

-- Takes the marks of the current client away, before its outlook is worked out: what changes from then on marks it anew.
create or replace function estima_take_outlook_marks() returns void
language sql volatile security definer set search_path = public, pg_temp as $$
  delete from outlook_marks where of_client = nullif(current_setting('estima.client', true), '')::uuid
$$;

create or replace function estima_mark_outlook() returns trigger
language plpgsql security definer set search_path = public, pg_temp as $$
declare
  v_client uuid;
begin
  if tg_table_name = 'clients' then v_client := new.id;
  elsif tg_op = 'DELETE' then v_client := old.client_id;
  else v_client := new.client_id;
  end if;
  if not exists (select 1 from outlook_marks m where m.of_client = v_client) then
    insert into outlook_marks (of_client) values (v_client);
  end if;
  return null;
end $$;

do $$
declare
  t record;
begin
  for t in
    select * from (values
      ('concerns', true, array['state', 'answered_at', 'answer_by']),
      ('conversations', true, array['waiting_since', 'aside_until']),
      ('plans', true, array['state']),
      ('feeds', true, array['state', 'problem']),
      ('listings', true, array['collect_error', 'connector']),
      ('intakes', true, array['state']),
      ('needs_aside', true, array['reason']),
      ('clients', false, array['paused_at', 'paused_until', 'paused_why', 'texts_a_month', 'emails_a_month'])
    ) as x (name, counts_rows, columns)
  loop
    execute format('drop trigger if exists outlook_changed on %I', t.name);
    execute format('drop trigger if exists outlook_rows on %I', t.name);
    execute format('create trigger outlook_changed after update on %I for each row when (%s) execute function estima_mark_outlook()',
      t.name, (select string_agg(format('old.%1$I is distinct from new.%1$I', c), ' or ') from unnest(t.columns) c));
    if t.counts_rows then
      execute format('create trigger outlook_rows after insert or delete on %I for each row execute function estima_mark_outlook()', t.name);
    end if;
  end loop;
end $$;

create or replace function estima_claim_outlooks(p_now timestamptz, p_most int)
returns table (client_id uuid)
language plpgsql security definer set search_path = public, pg_temp as $$
begin
  insert into outlooks (client_id, agency_id, at)
    select c.id, c.agency_id, to_timestamp(0) from clients c where not exists (select 1 from outlooks o where o.client_id = c.id)
    on conflict do nothing;
  return query
    with ready as (
      select o.client_id as id from outlooks o
      where exists (select 1 from clients c where c.id = o.client_id and c.archived_at is null and c.deleting_at is null)
        and (o.at < p_now - interval '5 minutes' or o.at > p_now or exists (select 1 from outlook_marks m where m.of_client = o.client_id))
        and (o.claimed_until is null or o.claimed_until < clock_timestamp())
      order by o.at limit p_most for update skip locked)
    update outlooks o set claimed_until = clock_timestamp() + interval '60 seconds' from ready where o.client_id = ready.id returning o.client_id;
end $$;

-- Pictures of a client are also the client's.
drop policy if exists of_client on images;
create policy of_client on images using (about_client = nullif(current_setting('estima.client', true), '')::uuid);

-- A picture by its address, for whoever has it: what is uploaded is shown to customers and staff anyway.
create or replace function estima_image(p_id uuid)
returns table (type text, content bytea, hash text)
language sql stable security definer set search_path = public, pg_temp as $$
  select type, content, hash from images where id = p_id
$$;

-- The agency that goes by this name in addresses.
create or replace function estima_agency_of_slug(p_slug text)
returns uuid language sql stable security definer set search_path = public, pg_temp as $$
  select id from agencies where slug = p_slug
$$;

-- An offer of a client is seen by both agencies.
drop policy if exists of_agency on handovers;
create policy of_agency on handovers using (to_agency_id = nullif(current_setting('estima.agency', true), '')::uuid);

-- Makes a client that was offered to an agency that agency's own: its groups and carers are gone, its own people stay, with a copy of
-- each role that the other agency had made for them. Both agencies keep an entry of it.
create or replace function estima_hand_over(p_handover uuid, p_agency uuid, p_user text, p_name text, p_at timestamptz)
returns table (slug text)
language plpgsql volatile security definer set search_path = public, pg_temp as $$
declare
  h handovers;
  r record;
  copy uuid;
begin
  select * into h from handovers where id = p_handover and to_agency_id = p_agency and ended_at is null for update;
  if h.id is null then return; end if;
  -- One that was archived meanwhile, or is not the other agency's any more, is not to be had.
  perform 1 from clients c where c.id = h.about_client and c.agency_id = h.agency_id and c.archived_at is null and c.deleting_at is null for update;
  if not found then return; end if;
  update handovers set ended_at = p_at, ended = 'accepted' where id = h.id;
  for r in
    select distinct o.* from roles o where o.agency_id = h.agency_id and o.id in (
      select s.role_id from seats s where s.agency_id = h.agency_id and s.only_client = h.about_client
      union select i.role_id from invitations i where i.agency_id = h.agency_id and i.only_client = h.about_client)
  loop
    select o.id into copy from roles o where o.agency_id = p_agency and lower(o.name) = lower(r.name) and o.permissions @> r.permissions and r.permissions @> o.permissions;
    if copy is null then
      copy := gen_random_uuid();
      insert into roles (id, agency_id, name, permissions, created_at)
      values (copy, p_agency, case when exists (select 1 from roles o where o.agency_id = p_agency and lower(o.name) = lower(r.name))
        then left(r.name, 24) || ' (' || substr(copy::text, 1, 8) || ')' else r.name end, r.permissions, p_at);
    end if;
    update seats set role_id = copy where agency_id = h.agency_id and only_client = h.about_client and role_id = r.id;
    update invitations set role_id = copy where agency_id = h.agency_id and only_client = h.about_client and role_id = r.id;
  end loop;
  -- Whoever has the same seat there already keeps that one.
  delete from seats s using seats o where s.agency_id = h.agency_id and s.only_client = h.about_client
    and o.agency_id = p_agency and o.user_id = s.user_id and o.only_client = s.only_client and o.only_branch is not distinct from s.only_branch;
  update seats set agency_id = p_agency where agency_id = h.agency_id and only_client = h.about_client;
  update invitations set ended_at = p_at, ended = 'withdrawn' where agency_id = h.agency_id and only_client = h.about_client and ended_at is null;
  -- What opens the client without a seat was known to the other agency: it ends, and the new agency makes its own.
  update api_keys set ended_at = p_at where client_id = h.about_client and ended_at is null;
  update feeds set secret = null where client_id = h.about_client and kind = 'webhook';
  update feeds set token = substr(replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', ''), 1, 22)
    where client_id = h.about_client and token is not null;
  delete from preview_links where client_id = h.about_client;
  delete from sessions s using shared_phones p where p.client_id = h.about_client and s.user_id = p.user_id;
  update shared_phones set link_expires_at = p_at where client_id = h.about_client and link_expires_at > p_at;
  update clients set agency_id = p_agency, group_id = null, looked_after_by = null where id = h.about_client;
  update outlooks set agency_id = p_agency where client_id = h.about_client;
  update images set agency_id = p_agency where about_client = h.about_client;
  insert into account_entries (id, agency_id, at, who, who_id, action, subject, name, about_client) values
    (gen_random_uuid(), h.agency_id, p_at, p_name, p_user, 'handed over', 'client', h.client_name, null),
    (gen_random_uuid(), p_agency, p_at, p_name, p_user, 'took over', 'client', h.client_name, h.about_client);
  return query select c.slug from clients c where c.id = h.about_client;
end $$;

-- Clients that are to be deleted for good: those somebody deleted, and those that were archived a year ago (core/offboarding/retention.ts).
create or replace function estima_claim_deletions(p_now timestamptz)
returns table (client_id uuid)
language plpgsql volatile security definer set search_path = public, pg_temp as $$
begin
  update clients set deleting_at = p_now, deleted = '{}' where archived_at < p_now - interval '365 days' and deleting_at is null;
  return query update clients set delete_claimed_until = clock_timestamp() + interval '60 seconds'
    where deleting_at is not null and (delete_claimed_until is null or delete_claimed_until < clock_timestamp()) returning id;
end $$;

-- Deletes a client of which no row is left, with the seats and invitations that were for it alone, and says what it was.
create or replace function estima_finish_deletion(p_client uuid, p_at timestamptz)
returns table (agency_id uuid, agency text, colour text, sender_email text, name text, counts jsonb, user_name text, user_email text)
language plpgsql volatile security definer set search_path = public, pg_temp as $$
declare
  c clients;
begin
  select * into c from clients where id = p_client and deleting_at is not null for update;
  if c.id is null then return; end if;
  delete from seats where only_client = p_client;
  delete from invitations where only_client = p_client;
  update handovers set ended_at = p_at, ended = 'withdrawn' where about_client = p_client and ended_at is null;
  delete from images where about_client = p_client;
  -- The users as whom its shared phones were signed in.
  delete from users u where u.id like 'phone-%' and not exists (select 1 from shared_phones p where p.user_id = u.id);
  delete from clients where id = p_client;
  insert into account_entries (id, agency_id, at, who, who_id, action, subject, name, about_client, details)
  values (gen_random_uuid(), c.agency_id, p_at, coalesce((select u.name from users u where u.id = c.deleting_for), 'Estima'), c.deleting_for, 'deleted', 'client', c.name, null, c.deleted);
  return query select a.id, a.name, a.colour, case when a.sender_confirmed_at is null then '' else a.sender_email end, c.name, c.deleted, u.name, u.email
    from agencies a left join users u on u.id = c.deleting_for where a.id = c.agency_id;
end $$;

-- Claims the mails that tell agencies' people each morning how their clients are doing: once for each day where most clients are.
create or replace function estima_claim_summaries(p_now timestamptz)
returns table (agency_id uuid, user_id text, day text)
language sql volatile security definer set search_path = public, pg_temp as $$
  with mornings as (
    select a.id, to_char(p_now at time zone coalesce(
      (select c.zone from clients c where c.agency_id = a.id and c.archived_at is null group by c.zone order by count(*) desc, c.zone limit 1), 'UTC'), 'YYYY-MM-DD HH24') as at
    from agencies a where exists (select 1 from summary_readers r where r.agency_id = a.id)
  )
  update summary_readers r set last_day = left(m.at, 10)
  from mornings m
  where r.agency_id = m.id and right(m.at, 2)::int >= 7 and r.last_day is distinct from left(m.at, 10)
    and exists (select 1 from seats s where s.user_id = r.user_id and s.agency_id = r.agency_id and s.only_client is null)
  returning r.agency_id, r.user_id, r.last_day
$$;

-- Plans whose turn it is: a portion of a list, or customers of so many days. Whoever does the work locks the plan and sets when next.
create or replace function estima_due_plans(p_now timestamptz)
returns table (client_id uuid, plan_id uuid)
language sql stable security definer set search_path = public, pg_temp as $$
  select client_id, id from plans where next_run_at is not null and next_run_at <= p_now order by next_run_at limit 200
$$;

-- Somebody got a tag with which plans begin, by whichever way it came.
create or replace function estima_add_tag_triggers() returns trigger language plpgsql set search_path = public, pg_temp as $$
begin
  insert into triggers (id, client_id, plan_id, person_id, key, examine_at)
  select gen_random_uuid(), p.client_id, p.id, new.id, 'tag ' || (p.rules -> 'begins' ->> 'tag'), to_timestamp(0)
  from plans p
  where p.client_id = new.client_id and p.state = 'running' and p.rules -> 'begins' ->> 'kind' = 'tag'
    and (p.rules -> 'begins' ->> 'tag') = any(new.tags) and (tg_op = 'INSERT' or not (p.rules -> 'begins' ->> 'tag') = any(old.tags))
  on conflict do nothing;
  return null;
end $$;
drop trigger if exists people_tagged on people;
create trigger people_tagged after insert on people for each row when (new.tags <> '{}') execute function estima_add_tag_triggers();
drop trigger if exists people_retagged on people;
create trigger people_retagged after update of tags on people for each row when (new.tags is distinct from old.tags) execute function estima_add_tag_triggers();

-- What these functions were called before.
drop function if exists estima_note_tags();
drop function if exists estima_note_sign_in(text, timestamptz);
drop function if exists estima_keepers();
drop function if exists estima_claim_occasions(timestamptz, int, numeric);
drop function if exists estima_take_delivery(uuid, uuid, text, jsonb, timestamptz);
drop function if exists estima_claim_deliveries(int, numeric);
drop function if exists estima_claim_inbound_events(int, numeric);

-- When the next message, visit, trigger or plan is due, over all clients; for the demo clock's "next message".
drop function if exists estima_next_due();
create or replace function estima_next_due()
returns table (message_at timestamptz, visit_at timestamptz, trigger_at timestamptz, plan_at timestamptz, reply_at timestamptz)
language sql stable security definer set search_path = public, pg_temp as $$
  select (select min(greatest(h.due_at, c.paused_until)) from clients c cross join (values (true), (false)) g (goes_first) cross join lateral (
            select m.due_at from messages m
            where m.client_id = c.id and m.state in ('planned', 'sending') and m.goes_first = g.goes_first order by m.due_at limit 1) h
          where c.paused_at is null or c.paused_until is not null),
         (select min(examine_at) from visits where examine_at is not null),
         (select min(examine_at) from triggers where examine_at is not null),
         (select min(next_run_at) from plans where next_run_at is not null),
         (select min(reply_due_at) from reviews where reply_due_at is not null)
$$;

-- A feed by its address: whose it is, and what checks its signatures.
create or replace function estima_feed(p_feed uuid)
returns table (client_id uuid, kind text, state text, secret text)
language sql stable security definer set search_path = public, pg_temp as $$
  select client_id, kind, state, secret from feeds where id = p_feed
$$;

-- Keeps what a feed delivered; false when it was here already.
create or replace function estima_add_inbound_event(p_id uuid, p_feed uuid, p_event text, p_body jsonb, p_at timestamptz)
returns boolean language sql volatile security definer set search_path = public, pg_temp as $$
  with added as (
    insert into inbound_events (id, client_id, feed_id, event_id, body, at)
    select p_id, f.client_id, f.id, p_event, p_body, p_at from feeds f where f.id = p_feed and f.kind = 'webhook' and f.state = 'on'
    on conflict do nothing returning 1
  ) select exists (select 1 from added)
$$;

-- Claims feeds whose turn it is to be fetched, and sets when next.
create or replace function estima_claim_feeds(p_now timestamptz, p_most int)
returns table (client_id uuid, feed_id uuid)
language sql volatile security definer set search_path = public, pg_temp as $$
  with due as (
    select f.id from feeds f where f.poll_at is not null and f.poll_at <= p_now and f.state = 'on' order by f.poll_at limit p_most for update skip locked
  )
  update feeds f set poll_at = p_now + make_interval(mins => f.poll_minutes) from due where f.id = due.id
  returning f.client_id, f.id
$$;

-- Claims lists that wait to be worked on while nobody does: the worker that had begun was killed.
create or replace function estima_claim_lists(p_most int, p_lease_seconds numeric)
returns table (client_id uuid, intake_id uuid, state text)
language sql volatile security definer set search_path = public, pg_temp as $$
  with stalled as (
    select i.id from intakes i
    where i.state in ('reading', 'checking', 'importing') and (i.worked_until is null or i.worked_until < clock_timestamp())
    limit p_most for update skip locked
  )
  update intakes i set worked_until = clock_timestamp() + make_interval(secs => p_lease_seconds) from stalled where i.id = stalled.id
  returning i.client_id, i.id, i.state
$$;

-- Whose drop-off page a link opens.
create or replace function estima_drop_off(p_token text)
returns table (client_id uuid, feed_id uuid)
language sql stable security definer set search_path = public, pg_temp as $$
  select client_id, id from feeds where token = p_token and kind = 'drop-off' and state = 'on'
$$;

-- Whose key a program shows; notes now and then that it was used.
drop function if exists estima_api_key(text, timestamptz);
create function estima_api_key(p_hash text, p_now timestamptz)
returns table (client_id uuid, key_id uuid, scopes text[], shown text[])
language plpgsql volatile security definer set search_path = public, pg_temp as $$
begin
  update api_keys k set used_at = p_now where k.hash = p_hash and k.ended_at is null and (k.used_at is null or k.used_at < p_now - interval '1 minute');
  return query select k.client_id, k.id, k.scopes, case when k.is_of_client then c.shown_places end from api_keys k join clients c on c.id = k.client_id
    where k.hash = p_hash and k.ended_at is null and c.archived_at is null and c.deleting_at is null;
end $$;

-- One page of the current client's people by name, after filters (see features/people/directory.ts). Inside this function
-- trigram and array indexes can be used, which row-level security would forbid outside; it looks at the current client alone.
-- Every filter has an index, and a walk through all clients' people is never the better way.
create or replace function estima_list_people(p_filter jsonb, p_after text[], p_most int)
returns setof people language plpgsql stable security definer set search_path = public, pg_temp set enable_seqscan = off as $$
declare
  own uuid := nullif(current_setting('estima.client', true), '')::uuid;
  wanted text := 'p.client_id = $1 and p.merged_into is null and p.erased_at is null';
  word text;
  now_at timestamptz := coalesce((p_filter ->> 'now')::timestamptz, now());
begin
  if own is null then return; end if;
  for word in select jsonb_array_elements_text(coalesce(p_filter -> 'words', '[]')) loop
    if length(word) < 3 then
      wanted := wanted || format(' and (lower(p.family) like %1$L or lower(p.given) like %1$L)', replace(replace(replace(word, '\', '\\'), '%', '\%'), '_', '\_') || '%');
    else
      wanted := wanted || format(' and p.search like %L', '%' || replace(replace(replace(word, '\', '\\'), '%', '\%'), '_', '\_') || '%');
    end if;
  end loop;
  if coalesce(current_setting('estima.branches', true), '') <> '' then
    wanted := wanted || format(' and (p.last_branch_id = any(string_to_array(%1$L, %2$L)::uuid[]) or p.id in (select v.person_id from visits v where v.client_id = $1 and v.branch_id = any(string_to_array(%1$L, %2$L)::uuid[])))',
      current_setting('estima.branches', true), ',');
  end if;
  if p_filter ? 'tag' then wanted := wanted || format(' and p.tags @> array[%L]', p_filter ->> 'tag'); end if;
  if p_filter ? 'branch' then wanted := wanted || format(' and p.last_branch_id = %L::uuid', p_filter ->> 'branch'); end if;
  if p_filter ? 'intake' then wanted := wanted || format(' and p.intake_id = %L::uuid', p_filter ->> 'intake'); end if;
  if p_filter ? 'household' then wanted := wanted || format(' and p.household_id = %L::uuid', p_filter ->> 'household'); end if;
  if p_filter ? 'ids' then wanted := wanted || format(' and p.id = any(%L::uuid[])', (select array_agg(value) from jsonb_array_elements_text(p_filter -> 'ids'))); end if;
  if p_filter ? 'leftout' then
    wanted := wanted || format(' and p.id in (select v.person_id from visits v where v.client_id = $1 and v.ends_at >= %L and v.ends_at < %L and v.decision = %L and v.reason = %L)',
      p_filter ->> 'from', p_filter ->> 'to', 'left out', p_filter ->> 'leftout');
  end if;
  wanted := wanted || case p_filter ->> 'asked'
    when 'never' then ' and p.last_asked_at is null'
    when 'month' then $q$ and p.last_asked_at >= $2 - interval '30 days'$q$
    when 'year' then $q$ and p.last_asked_at >= $2 - interval '365 days'$q$
    when 'longer' then $q$ and p.last_asked_at < $2 - interval '365 days'$q$
    else '' end;
  wanted := wanted || case p_filter ->> 'state'
    when 'planned' then case when (select count(*) from (select 1 from messages m where m.client_id = own and m.state = 'planned' limit 5001) few) <= 5000
      then $q$ and p.id = any(array(select m.person_id from messages m where m.client_id = $1 and m.state = 'planned' and m.direction = 'out'))$q$
      -- Where many are planned, one looks through people in their order and stops at the end of the page.
      else $q$ and (select true from messages m where m.client_id = $1 and m.person_id = p.id and m.state = 'planned' and m.direction = 'out' limit 1)$q$ end
    when 'asked' then ' and p.last_asked_at is not null and (p.last_answered_at is null or p.last_answered_at < p.last_asked_at)'
    when 'answered' then ' and p.last_answered_at is not null'
    when 'reviewed' then ' and p.last_reviewed_at is not null'
    when 'would recommend' then ' and p.last_recommend >= 9'
    when 'undecided' then ' and p.last_recommend in (7, 8)'
    when 'would not' then ' and p.last_recommend < 7'
    when 'concern' then $q$ and p.id in (select c.person_id from concerns c where c.client_id = $1 and c.state in ('new', 'taken'))$q$
    when 'resting' then format(' and (p.rest_until > $2 or p.last_asked_at > $2 - make_interval(days => %1$s) or p.last_reviewed_at > $2 - make_interval(days => %1$s))', coalesce((p_filter ->> 'restDays')::int, 0))
    when 'opted out' then ' and (p.email_opted_out_at is not null or p.text_opted_out_at is not null)'
    when 'unreachable' then ' and (p.email is null or p.email_bounced_at is not null) and (not p.phone_takes_texts or p.text_bounced_at is not null)'
    when 'excluded' then ' and p.do_not_ask is not null'
    else '' end;
  if p_after is not null then wanted := wanted || ' and (p.family, p.given, p.id) > ($3[1], $3[2], $3[3]::uuid)'; end if;
  return query execute 'select p.* from people p where ' || wanted || ' order by p.family, p.given, p.id limit $4' using own, now_at, p_after, least(p_most, 20000);
end $$;

-- How many people the current client has, or those branches of it to which whoever asks is bound: counted from an index, which the
-- policy of branches would keep from being enough.
create or replace function estima_count_people()
returns bigint language plpgsql stable security definer set search_path = public, pg_temp as $$
declare
  own uuid := nullif(current_setting('estima.client', true), '')::uuid;
  bound uuid[] := string_to_array(nullif(current_setting('estima.branches', true), ''), ',')::uuid[];
begin
  if bound is null then
    return (select count(*) from people where client_id = own and merged_into is null and erased_at is null);
  end if;
  return (select count(*) from people p where p.client_id = own and p.merged_into is null and p.erased_at is null
    and (p.last_branch_id = any(bound) or p.id in (select v.person_id from visits v where v.client_id = own and v.branch_id = any(bound))));
end $$;

-- People of the current client whose mailboxes are at one of these domains. Nearly always very few.
create or replace function estima_people_at_domains(p_domains text[], p_most int)
returns table (id uuid) language sql stable security definer set search_path = public, pg_temp as $$
  select p.id from people p
  where p.client_id = nullif(current_setting('estima.client', true), '')::uuid and p.email is not null and p.search like any (select '%@' || d || '%' from unnest(p_domains) d)
    and split_part(p.email, '@', 2) = any(p_domains)
  limit p_most
$$;

-- Makes the monthly partitions (UTC) of the log of events for the month of p_at and the two after it, unless they are there. What was
-- logged for a month without one waits in the partition for everything else, and moves.
create or replace function estima_prepare_events(p_at timestamptz)
returns int language plpgsql volatile security definer set search_path = public, pg_temp set timezone = 'UTC' as $$
declare
  first date;
  made int := 0;
begin
  for ahead in 0..2 loop
    first := (date_trunc('month', p_at) + make_interval(months => ahead))::date;
    continue when to_regclass(format('ask_events_%s', to_char(first, 'YYYY_MM'))) is not null;
    -- Two workers at once: the second waits, and finds it made.
    perform pg_advisory_xact_lock(hashtext('estima_prepare_events'));
    continue when to_regclass(format('ask_events_%s', to_char(first, 'YYYY_MM'))) is not null;
    execute format('create table ask_events_%s (like ask_events including defaults including constraints)', to_char(first, 'YYYY_MM'));
    execute format('with moved as (delete from ask_events_other where at >= %L and at < %L returning *) insert into ask_events_%s select * from moved',
      first, first + interval '1 month', to_char(first, 'YYYY_MM'));
    execute format('alter table ask_events attach partition ask_events_%s for values from (%L) to (%L)', to_char(first, 'YYYY_MM'), first, first + interval '1 month');
    execute format('alter table ask_events_%s enable row level security', to_char(first, 'YYYY_MM'));
    made := made + 1;
  end loop;
  return made;
end $$;

-- Takes away what has served its time, a portion of each kind. p_now is the clock of the business, p_real that of the machine.
create or replace function estima_sweep(p_now timestamptz, p_real timestamptz, p_most int)
returns jsonb language plpgsql volatile security definer set search_path = public, pg_temp as $$
declare
  n int;
  swept jsonb := '{}';
begin
  with old as (select id from intakes where at < p_now - interval '30 days' and (content is not null or forecast is not null) order by at limit p_most for update skip locked)
  update intakes i set content = null, forecast = null, found = case when i.found is null then null else jsonb_set(i.found, '{samples}', '[]') end,
    state = case when i.state in ('reading', 'checking', 'ready') then 'failed' else i.state end,
    error = case when i.state in ('reading', 'checking', 'ready') then '{"code": "not imported in time", "days": 30}' else i.error end
  from old where i.id = old.id;
  get diagnostics n = row_count;
  swept := swept || jsonb_build_object('lists', n);
  with old as (select r.intake_id, r.row, r.state from intake_rows r join intakes i on i.id = r.intake_id where i.at < p_now - interval '30 days' and r.cells is not null limit p_most)
  update intake_rows r set cells = null, problems = '[]' from old where r.intake_id = old.intake_id and r.row = old.row and r.state = old.state;
  get diagnostics n = row_count;
  swept := swept || jsonb_build_object('rows of lists', n);
  delete from inbound_events where id in (select id from inbound_events where state <> 'waiting' and at < p_now - interval '90 days' order by at limit p_most);
  get diagnostics n = row_count;
  swept := swept || jsonb_build_object('inbound_events', n);
  delete from api_repeats where (key_id, key) in (select key_id, key from api_repeats where at < p_now - interval '2 days' order by at limit p_most);
  get diagnostics n = row_count;
  swept := swept || jsonb_build_object('repeated calls', n);
  delete from rate_limits where key in (select key from rate_limits where expire < extract(epoch from p_real) * 1000 order by expire limit p_most);
  get diagnostics n = row_count;
  swept := swept || jsonb_build_object('limits', n);
  delete from shared_texts where id in (select id from shared_texts where received_at < p_now - interval '90 days' limit p_most);
  get diagnostics n = row_count;
  swept := swept || jsonb_build_object('shared texts', n);
  delete from sessions where id in (select id from sessions where expires_at < p_real limit p_most);
  get diagnostics n = row_count;
  swept := swept || jsonb_build_object('sessions', n);
  delete from ask_events where (id, at) in (
    select e.id, e.at from ask_events e where e.at < p_now - interval '3 years' and not exists (select 1 from asks a where a.id = e.ask_id) limit p_most);
  get diagnostics n = row_count;
  swept := swept || jsonb_build_object('events', n);
  delete from audit_entries where id in (select id from audit_entries where at < p_now - interval '6 years' order by at limit p_most);
  get diagnostics n = row_count;
  swept := swept || jsonb_build_object('audit', n);
  delete from verifications where expires_at < p_real;
  return swept;
end $$;

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

-- Nothing that the program makes for itself stands before what a function means: it has no tables of its own.
do $$
begin
  if pg_has_role(current_user, (select datdba from pg_database where datname = current_database()), 'member') then
    execute format('revoke temporary on database %I from public, estima_app', current_database());
  end if;
end $$;
