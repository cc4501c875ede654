-- What was kept as English sentences becomes codes with parameters; src/locales puts them into words. What cannot be
-- read back as a code becomes "not recorded".

create function pg_temp.count_of(p text) returns int language sql immutable as $$
  select coalesce(array_position(array['no','one','two','three','four','five','six','seven','eight','nine','ten'], lower(p)) - 1,
    nullif(regexp_replace(p, '\D', '', 'g'), '')::int, 0)
$$;
--> statement-breakpoint
create function pg_temp.days_of(p text) returns int language sql immutable as $$
  select case when p like 'less than%' then 0 else (regexp_match(p, '^(\d+) days?'))[1]::int end
$$;
--> statement-breakpoint
create function pg_temp.gateway_reply(p text) returns jsonb language sql immutable as $$
  select case p
    when 'The gateway gave an answer that could not be read.' then jsonb_build_object('code', 'not readable')
    when 'The gateway did not answer in time.' then jsonb_build_object('code', 'no answer in time')
    when 'The gateway could not be reached.' then jsonb_build_object('code', 'not reached')
    else (
      select jsonb_strip_nulls(jsonb_build_object('code', case
          when e.enhanced ~ '\.1\.(1|2|3|6|10)$' or e.enhanced ~ '\.2\.1$' then 'no such address'
          when e.enhanced ~ '\.2\.2$' then 'mailbox full'
          when e.enhanced ~ '\.7\.(1|26)$' then 'not accepted'
          when p ~* '\m(full|quota|storage)\M' then 'mailbox full'
          when p ~* '\m(spam|policy|blocked|reputation|blacklist|blocklist)\M' then 'not accepted'
          when p ~* '\m(no such|unknown|does not exist|not exist|no mailbox|no phone|no user|not in use|invalid)\M' then 'no such address'
          when p ~* '\m(could not be reached|unreachable|switched off|absent)\M' then 'phone unreachable'
          when e.smtp in (530, 534, 535, 538) or e.http in (401, 403) then 'not signed in'
          when e.smtp in (550, 551, 553) or e.http = 422 then 'no such address'
          when e.smtp in (452, 552) then 'mailbox full'
          when e.smtp < 500 or e.http = 429 then 'busy'
          when e.http >= 500 then 'out of order'
          when p ~* 'ECONN|ETIMEDOUT|ENOTFOUND|timeout|socket|connect' then 'not reached'
          else 'refused' end,
        'status', coalesce(e.smtp, e.http), 'enhanced', e.enhanced))
      from (select (regexp_match(p, '^\s*([245]\d\d)\M'))[1]::int as smtp, (regexp_match(p, '\((\d{3})\)$'))[1]::int as http,
        (regexp_match(p, '\m[245]\.\d{1,3}\.\d{1,3}\M'))[1] as enhanced) e)
  end
$$;
--> statement-breakpoint
create function pg_temp.opt_out_way(p text) returns jsonb language sql immutable as $$
  select case when p is null then null
    when p = 'by the link in an email' then '{"code": "link in an email"}'::jsonb
    when p ~ '^wrote “.*”$' then jsonb_build_object('code', 'wrote back', 'word', (regexp_match(p, '^wrote “(.*)”$'))[1])
    else '{"code": "not recorded"}'::jsonb end
$$;
--> statement-breakpoint
create function pg_temp.schedule_of(p text, p_channel text) returns jsonb language sql immutable as $$
  with parts as (select string_to_array(rtrim(p, '.'), '; ') as all_parts),
  head as (select all_parts[1] as start, all_parts[2:] as moved from parts),
  delay as (select regexp_match(start, '^(\d+) (minute|hour|day|week)s?(?: at (\d+):(\d+))? after (the visit ended|the message before|they had answered)$') as m, start, moved from head)
  select jsonb_strip_nulls(jsonb_build_object(
    'code', 'scheduled',
    'after', case when start ~ '(visit ended)$' then 'visit' when start ~ '(message before|message before left)$' then 'message' when start ~ 'they had answered$' then 'answer' else 'visit' end,
    'delay', case when m is null then '{"amount": 0, "unit": "minutes"}'::jsonb
      else jsonb_strip_nulls(jsonb_build_object('amount', m[1]::int, 'unit', m[2] || 's', 'at', m[3]::int * 60 + m[4]::int)) end,
    'channel', p_channel,
    'moves', to_jsonb(array_remove(array[
      case when start = 'Sent on before its time by hand' then 'sendNow' end,
      case when start = 'As soon as the hours allow' then 'at once' end,
      case when 'there is no mobile, so an email goes' = any(moved) or 'there is no email, so a text goes' = any(moved) then 'other channel' end,
      case when 'its list is spread over the send hours' = any(moved) then 'spread' end,
      case when 'no more may leave within the hour' = any(moved) then 'ceiling' end,
      case when 'this month’s allowance is used up, so it waits for the next' = any(moved) then 'allowance' end,
      case when 'another message went to this person shortly before' = any(moved) then 'gap' end,
      case when 'the last try did not get through' = any(moved) then 'retry' end,
      case when 'it could not leave on time' = any(moved) then 'late' end,
      case when 'nothing leaves on a closed day' = any(moved) then 'closed day' end,
      case when 'texts wait until it is 8:00 where the person is' = any(moved) then 'recipient hours' end,
      case when array_to_string(moved, '; ') ~ 'the hours open at' then 'hours' end], null)),
    'opens', (select x[1]::int * 60 + x[2]::int from regexp_match(array_to_string(moved, '; '), 'the hours open at (\d+):(\d+)') x)))
  from delay where start ~ '^(\d+ (minute|hour|day|week)s?( at \d+:\d+)? after (the visit ended|the message before|they had answered)|As soon as .*|Sent on before its time by hand)$'
$$;
--> statement-breakpoint
create function pg_temp.message_reason(p text, p_channel text) returns jsonb language sql immutable as $$
  select case p
    when '' then null
    when 'Every message has been sent.' then jsonb_build_object('code', 'ask ended', 'ended', 'all sent')
    when 'Too late: it could not leave while the visit was fresh.' then jsonb_build_object('code', 'ask ended', 'ended', 'too late')
    when 'No address is left that reaches this person.' then jsonb_build_object('code', 'ask ended', 'ended', 'unreachable')
    when 'The send hours never open.' then jsonb_build_object('code', 'ask ended', 'ended', 'never open')
    when 'Not needed: they answered.' then jsonb_build_object('code', 'ask stopped', 'stop', 'answered')
    when 'Not needed: they went to a review site.' then jsonb_build_object('code', 'ask stopped', 'stop', 'followed a site')
    when 'Not needed: they wrote back.' then jsonb_build_object('code', 'ask stopped', 'stop', 'wrote back')
    when 'They want no more messages.' then jsonb_build_object('code', 'ask stopped', 'stop', 'opted out')
    when 'The visit was cancelled.' then jsonb_build_object('code', 'ask stopped', 'stop', 'visit cancelled')
    when 'Cancelled by hand.' then jsonb_build_object('code', 'ask stopped', 'stop', 'cancelled by hand')
    when 'Not needed: they wrote a review.' then jsonb_build_object('code', 'ask stopped', 'stop', 'reviewed')
    when 'Somebody said that they are not to be asked.' then jsonb_build_object('code', 'ask stopped', 'stop', 'not to be asked')
    when 'The plan is paused.' then jsonb_build_object('code', 'plan paused')
    when 'Not needed: what it depended on has changed.' then jsonb_build_object('code', 'condition changed')
    when 'It was being handed over when the ask ended, and was not repeated.' then jsonb_build_object('code', 'not repeated')
    when 'A personal answer leaves at once.' then jsonb_build_object('code', 'personal answer')
    when 'They asked for no more texts.' then jsonb_build_object('code', 'wants no texts')
    when 'The person was erased.' then jsonb_build_object('code', 'erased')
    else case
      when p ~ '^Held by .*\.$' then jsonb_build_object('code', 'held by hand', 'by', (regexp_match(p, '^Held by (.*)\.$'))[1])
      when p like 'To be tried again: %' then jsonb_build_object('code', 'tried again', 'reply', pg_temp.gateway_reply(substr(p, 20)))
      when p like 'The address refused it: %' then jsonb_build_object('code', 'refused', 'reply', pg_temp.gateway_reply(substr(p, 25)))
      when p like 'It came back: %' then jsonb_build_object('code', 'came back', 'reply', pg_temp.gateway_reply(substr(p, 15)))
      when p ~ '^Given up after \d+ tries: ' then jsonb_build_object('code', 'given up', 'attempts', (regexp_match(p, '^Given up after (\d+)'))[1]::int, 'reply', pg_temp.gateway_reply(regexp_replace(p, '^Given up after \d+ tries: ', '')))
      else coalesce(pg_temp.schedule_of(p, p_channel), '{"code": "not recorded"}'::jsonb) end
  end
$$;
--> statement-breakpoint
create function pg_temp.gateway_said(p text) returns text language sql immutable as $$
  select nullif(nullif(nullif(x[1], 'The gateway did not answer in time.'), 'The gateway could not be reached.'), 'The gateway gave an answer that could not be read.')
  from regexp_match(p, '^(?:To be tried again|The address refused it|It came back|Given up after \d+ tries): (.*)$') x
$$;
--> statement-breakpoint
create function pg_temp.names_of(p text) returns jsonb language sql immutable as $$
  select coalesce(jsonb_agg(x), '[]') from regexp_split_to_table(p, ', | and | or ') x where x <> ''
$$;
--> statement-breakpoint
create function pg_temp.finding(p_rule text, p_value text) returns jsonb language sql immutable as $$
  select coalesce(case p_value
    when 'the visit has not ended' then jsonb_build_object('code', 'not ended')
    when 'has not been here yet' then jsonb_build_object('code', 'not known yet')
    when 'no plan begins with a visit like this' then jsonb_build_object('code', 'no plan begins')
    when 'the plan is running' then jsonb_build_object('code', 'plan running')
    when 'the plan is paused' then jsonb_build_object('code', 'plan paused')
    when 'no excluding tag' then jsonb_build_object('code', 'no excluding tag')
    when 'no tag is needed' then jsonb_build_object('code', 'no tag needed')
    when 'of age, or no birth date known' then jsonb_build_object('code', 'of age')
    when 'under age: the guardian is written to' then jsonb_build_object('code', 'guardian known')
    when 'under age, and no guardian is known' then jsonb_build_object('code', 'no guardian known')
    when 'never opted out' then jsonb_build_object('code', 'never opted out')
    when 'the only address came back' then jsonb_build_object('code', 'address bounced')
    when 'an address that has not come back' then jsonb_build_object('code', 'address works')
    when 'no email and no mobile' then jsonb_build_object('code', 'not reachable')
    when 'none under way' then jsonb_build_object('code', 'no ask open')
    when 'joins the ask of the same day' then jsonb_build_object('code', 'joins the ask')
    when 'an earlier ask is still under way' then jsonb_build_object('code', 'ask open')
    when 'nobody else of the household is asked for this day' then jsonb_build_object('code', 'household not asked')
    when 'they were asked for this day already' then jsonb_build_object('code', 'asked that day')
    when 'the plan may ask again' then jsonb_build_object('code', 'may ask again')
    when 'never asked by this plan' then jsonb_build_object('code', 'never asked by plan')
    when 'asked together with a visit of the same day' then jsonb_build_object('code', 'with the same day')
    when 'never asked before' then jsonb_build_object('code', 'never asked')
    when 'messages are left this month, or asks wait for the next' then jsonb_build_object('code', 'allowance left')
    when 'the month’s messages are used up, and the client wants nobody held' then jsonb_build_object('code', 'allowance used up')
    when 'agreed to be written to' then '{"code": "consent", "given": true, "whose": "own"}'::jsonb
    when 'did not agree to be written to' then '{"code": "consent", "given": false, "whose": "own"}'::jsonb
    when 'the guardian did not agree to be written to' then '{"code": "consent", "given": false, "whose": "guardian"}'::jsonb
    when 'nobody noted whether they agreed' then '{"code": "consent", "given": null, "whose": "own"}'::jsonb
    end, case
    when p_rule = 'do not ask' then case when p_value = 'nothing noted' then '{"code": "not marked"}'::jsonb
      else jsonb_build_object('code', 'marked', 'whose', case when p_value like 'of the guardian: %' then 'guardian' else 'own' end) end
    when p_value ~ '^outcome: ' then jsonb_build_object('code', 'outcome', 'outcome', substr(p_value, 10))
    when p_value ~ '^service: ' then jsonb_build_object('code', 'service', 'service', substr(p_value, 10))
    when p_rule = 'no plan' and p_value ~ '^“.*” takes it' then jsonb_build_object('code', 'plan takes it',
      'plan', (regexp_match(p_value, '^“(.*?)” takes it'))[1],
      'before', (select coalesce(jsonb_agg(x[1]), '[]') from regexp_matches(substring(p_value from 'being before (.*) in the order of plans$'), '“(.*?)”', 'g') x))
    when p_rule = 'excluding tag' then jsonb_build_object('code', 'tagged', 'tags', pg_temp.names_of(regexp_replace(p_value, '^(the guardian is )?tagged ', '')), 'whose', case when p_value like 'the guardian%' then 'guardian' else 'own' end)
    when p_rule = 'lacks the tag' then case when p_value like 'tagged %' then jsonb_build_object('code', 'tagged', 'tags', jsonb_build_array(substr(p_value, 8)), 'whose', 'own')
      else jsonb_build_object('code', 'not tagged', 'tags', pg_temp.names_of(regexp_replace(p_value, '^not tagged ', ''))) end
    when p_rule = 'opted out' then jsonb_build_object('code', 'opted out', 'channels', pg_temp.names_of(regexp_replace(p_value, '^by ', '')))
    when p_value ~ '^reachable by (text|email)$' then jsonb_build_object('code', 'reachable', 'channel', substr(p_value, 14))
    when p_rule = 'too late' then (select jsonb_build_object('code', 'ended', 'days', pg_temp.days_of(x[1]), 'most', x[2]::int) from regexp_match(p_value, '^ended (.*) ago, asked up to (\d+) days? after$') x)
    when p_value like '% is asked too; the plan asks each' then jsonb_build_object('code', 'plan asks each', 'name', regexp_replace(p_value, ' is asked too; the plan asks each$', ''))
    when p_value like 'asked together with %' then jsonb_build_object('code', 'asked together', 'name', substr(p_value, 21))
    when p_value like '% is asked for this day' then jsonb_build_object('code', 'household asked', 'name', regexp_replace(p_value, ' is asked for this day$', ''))
    when p_rule = 'once only' then (select jsonb_build_object('code', 'asked once', 'days', pg_temp.days_of(x[1])) from regexp_match(p_value, '^asked (.*) ago, and the plan asks once$') x)
    when p_value ~ 'let rest for \d+' then jsonb_build_object('code', 'let rest', 'days', (regexp_match(p_value, 'let rest for (\d+)'))[1]::int, 'whose', case when p_value like 'the guardian%' then 'guardian' else 'own' end)
    when p_rule = 'resting' then (select jsonb_build_object('code', 'rest', 'since', x[1], 'days', pg_temp.days_of(x[2]), 'rest', x[3]::int, 'everywhere', x[4] is not null)
      from regexp_match(p_value, '^(asked|reviewed) (.*) ago, rests (\d+) days?( from every plan)?$') x)
    end, '{"code": "not recorded"}'::jsonb)
$$;
--> statement-breakpoint
create function pg_temp.site_reason(p text) returns jsonb language sql immutable as $$
  select case when p is null then null else (
    select case
      when why ~ ' first: their mailbox is an account there$' then jsonb_build_object('code', 'mailbox account', 'site', regexp_replace(why, ' first: .*$', ''), 'reviewed', reviewed)
      when why ~ ' first: their mailbox belongs to no site$' then jsonb_build_object('code', 'mailbox of no site', 'site', regexp_replace(why, ' first: .*$', ''), 'reviewed', reviewed)
      when why ~ ' first: it is behind its share$' then jsonb_build_object('code', 'behind its share', 'site', regexp_replace(why, ' first: .*$', ''), 'reviewed', reviewed)
      when why ~ ' first in the plan’s order$' then jsonb_build_object('code', 'plan order', 'site', regexp_replace(why, ' first in the plan’s order$', ''), 'reviewed', reviewed)
      when why = 'no site is left to offer' then jsonb_build_object('code', 'none left', 'reviewed', reviewed)
      else '{"code": "not recorded"}'::jsonb end
    from (select regexp_replace(p, '; .* passed over, reviewed already$', '') as why,
      coalesce((select jsonb_agg(x) from regexp_split_to_table((regexp_match(p, '; (.*) passed over, reviewed already$'))[1], ', ') x), '[]') as reviewed) s) end
$$;
--> statement-breakpoint
create function pg_temp.site_problem(p text) returns jsonb language sql immutable as $$
  select case when p is null then null
    when p = 'nobody answers there' or p like '% could not be reached%' then '{"code": "not reached"}'::jsonb
    when p = 'the address is inside a private network' then '{"code": "private network"}'::jsonb
    when p like '% gave an answer that could not be read.' then '{"code": "not readable"}'::jsonb
    when p like '% takes no replies through Estima.' then '{"code": "takes no replies"}'::jsonb
    when p ~ '\(?\d{3}\)?$' then (select case when s in (401, 403) then '{"code": "key refused"}'::jsonb when s = 429 then '{"code": "asks for patience"}'::jsonb
      when s in (404, 410) and p !~ '^the site answers' then '{"code": "not there"}'::jsonb else jsonb_build_object('code', 'answered', 'status', s) end
      from (select (regexp_match(p, '(\d{3})\)?$'))[1]::int as s) t)
    else '{"code": "not reached"}'::jsonb end
$$;
--> statement-breakpoint
create function pg_temp.pause_reason(p text) returns jsonb language sql immutable as $$
  select case when p is null then null else coalesce((
    select jsonb_build_object('code', case when x[2] like 'of its messages%' then 'came back' else 'opted out' end,
      'share', x[1]::numeric, 'count', x[3]::int, 'of', x[4]::int, 'most', x[5]::numeric)
    from regexp_match(p, '([\d.]+) % (of its messages came back|of the people asked opted out) \((\d+) of (\d+)\), more than the ([\d.]+) % it may') x), '{"code": "not recorded"}'::jsonb) end
$$;
--> statement-breakpoint
create function pg_temp.remark(p_field text, p text) returns jsonb language sql immutable as $$
  select jsonb_build_object('field', p_field) || coalesce((case
    when p ~ '^Cut to (.*) characters\.$' then (select jsonb_build_object('code', 'cut', 'most', x[1]::int) from regexp_match(p, '^Cut to (.*) characters\.$') x)
    when p = 'Neither an email address nor a phone number is here.' then jsonb_build_object('code', 'no address')
    when p = 'There is no name.' then jsonb_build_object('code', 'no name')
    when p ~ '^“(.*)” is neither yes nor no; nothing is noted\.$' then (select jsonb_build_object('code', 'neither yes nor no', 'text', x[1]) from regexp_match(p, '^“(.*)” is neither yes nor no; nothing is noted\.$') x)
    when p ~ '^“(.*)” is not an email address\.$' then (select jsonb_build_object('code', 'not an email', 'text', x[1]) from regexp_match(p, '^“(.*)” is not an email address\.$') x)
    when p ~ '^“(.*)” is not a phone number\.$' then (select jsonb_build_object('code', 'not a phone', 'text', x[1]) from regexp_match(p, '^“(.*)” is not a phone number\.$') x)
    when p ~ '^“(.*)” was rounded by a spreadsheet: its last digits are lost\. Format the column as text there and bring it again\.$' then (select jsonb_build_object('code', 'phone rounded', 'text', x[1]) from regexp_match(p, '^“(.*)” was rounded by a spreadsheet: its last digits are lost\. Format the column as text there and bring it again\.$') x)
    when p ~ '^“(.*)” isn’t a number of your country\. If (.*) is meant, write it with the \+\.$' then (select jsonb_build_object('code', 'phone abroad', 'text', x[1], 'suggested', replace(x[2], ' ', '')) from regexp_match(p, '^“(.*)” isn’t a number of your country\. If (.*) is meant, write it with the \+\.$') x)
    when p ~ '^Two addresses: (.*) is used, the rest is in the note\.$' then (select jsonb_build_object('code', 'several emails', 'used', x[1]) from regexp_match(p, '^Two addresses: (.*) is used, the rest is in the note\.$') x)
    when p ~ '^Two numbers: (.*) is used, the rest is in the note\.$' then (select jsonb_build_object('code', 'several phones', 'used', x[1]) from regexp_match(p, '^Two numbers: (.*) is used, the rest is in the note\.$') x)
    when p = 'The guardian has no address; they are not kept.' then jsonb_build_object('code', 'guardian without address')
    when p ~ '^“(.*)” is no birth date; it is left aside\.$' then (select jsonb_build_object('code', 'not a birth date', 'text', x[1]) from regexp_match(p, '^“(.*)” is no birth date; it is left aside\.$') x)
    when p ~ '^“.*” is not a date like (24/11/2026|11/24/2026)\.$' then (select jsonb_build_object('code', 'not a date', 'text', x[1], 'order', case when x[2] like '24%' then 'day first' else 'month first' end) from regexp_match(p, '^“(.*)” is not a date like (.*)\.$') x)
    when p = 'No day is given, so no visit is kept.' then jsonb_build_object('code', 'no day')
    when p = 'The visit lies more than two years ahead.' then jsonb_build_object('code', 'too far ahead')
    when p ~ '^“(.*)” is no known outcome; the date decides\.$' then (select jsonb_build_object('code', 'unknown outcome', 'text', x[1]) from regexp_match(p, '^“(.*)” is no known outcome; the date decides\.$') x)
    when p ~ '^“(.*)” is not a time like 14:05\.$' then (select jsonb_build_object('code', 'not a time', 'text', x[1]) from regexp_match(p, '^“(.*)” is not a time like 14:05\.$') x)
    when p ~ '^The tag “(.*)” is not known yet: it waits to be assigned\.$' then (select jsonb_build_object('code', 'unknown tag', 'text', x[1]) from regexp_match(p, '^The tag “(.*)” is not known yet: it waits to be assigned\.$') x)
    when p ~ '^The service “(.*)” is not known yet: the visit waits until it is assigned\.$' then (select jsonb_build_object('code', 'unknown service', 'text', x[1]) from regexp_match(p, '^The service “(.*)” is not known yet: the visit waits until it is assigned\.$') x)
    when p ~ '^The branch “(.*)” is not known yet: the visit waits until it is assigned\.$' then (select jsonb_build_object('code', 'unknown branch', 'text', x[1]) from regexp_match(p, '^The branch “(.*)” is not known yet: the visit waits until it is assigned\.$') x)
    when p ~ '^The team member “(.*)” is not known yet\.$' then (select jsonb_build_object('code', 'unknown team member', 'text', x[1]) from regexp_match(p, '^The team member “(.*)” is not known yet\.$') x)
    when p ~ '^“(.*)” counts as no visit\.$' then (select jsonb_build_object('code', 'counts as no visit', 'text', x[1]) from regexp_match(p, '^“(.*)” counts as no visit\.$') x)
    when p ~ '^This address belongs to (.*); it is taken to be the same person\.$' then (select jsonb_build_object('code', 'taken for the same', 'name', x[1]) from regexp_match(p, '^This address belongs to (.*); it is taken to be the same person\.$') x)
    when p ~ '^This address belongs to (.*) too; it is taken to be another person of one household\.$' then (select jsonb_build_object('code', 'taken for another', 'name', x[1]) from regexp_match(p, '^This address belongs to (.*) too; it is taken to be another person of one household\.$') x)
    when p = 'They asked to be erased, and are not taken in again.' then jsonb_build_object('code', 'erased')
    end), '{"code": "not recorded"}'::jsonb)
$$;
--> statement-breakpoint
create function pg_temp.file_problem(p text) returns jsonb language sql immutable as $$
  select case when p is null then null else coalesce(case p
    when 'The file itself is no longer here.' then jsonb_build_object('code', 'gone')
    when 'The file is empty.' then jsonb_build_object('code', 'empty')
    when 'This is a workbook of the old kind (.xls). Save it as .xlsx or CSV and bring it again.' then jsonb_build_object('code', 'old workbook')
    when 'This is a PDF. Save the list as CSV or XLSX and bring that.' then jsonb_build_object('code', 'PDF')
    when 'This is no list of text. Bring a CSV, TSV or XLSX file.' then jsonb_build_object('code', 'not text')
    when 'There are no rows in it.' then jsonb_build_object('code', 'no rows')
    when 'The workbook has no filled sheet.' then jsonb_build_object('code', 'no filled sheet')
    when 'The workbook unpacks to more than 300 MB. Save the sheet as CSV and bring that.' then jsonb_build_object('code', 'unpacks too large')
    when 'It has too many cells. Leave out columns that say nothing of people or visits, or bring it in parts.' then jsonb_build_object('code', 'too many cells')
    when 'Reading it takes too long. Save it as CSV, or bring it in parts.' then jsonb_build_object('code', 'too slow')
    when 'It needs too much memory to be read. Save it as CSV, or bring it in parts.' then jsonb_build_object('code', 'too much memory')
    when 'It could not be read just now. Try again.' then jsonb_build_object('code', 'not now')
    when 'The file could not be read. Save it as CSV and bring that.' then jsonb_build_object('code', 'not readable')
    when 'The workbook is damaged or protected by a password. Save it again without one, and bring that.' then jsonb_build_object('code', 'damaged workbook')
    end, case
    when p ~ '^Nobody kept it within \d+ days' then jsonb_build_object('code', 'not kept in time', 'days', (regexp_match(p, '(\d+) days'))[1]::int)
    when p ~ '^The file is larger than \d+ MB' then jsonb_build_object('code', 'too large', 'megabytes', (regexp_match(p, '(\d+) MB'))[1]::int)
    when p ~ '^It has more than [\d,]+ rows' then jsonb_build_object('code', 'too many rows', 'most', replace((regexp_match(p, '([\d,]+) rows'))[1], ',', '')::int)
    when p ~ '^It has more than [\d,]+ columns' then jsonb_build_object('code', 'too many columns', 'most', replace((regexp_match(p, '([\d,]+) columns'))[1], ',', '')::int)
    else '{"code": "not readable"}'::jsonb end) end
$$;
--> statement-breakpoint
create function pg_temp.fetch_problem(p text) returns jsonb language sql immutable as $$
  select case when p is null then null
    when p = 'Addresses inside a private network cannot be called.' then '{"code": "private network"}'::jsonb
    when p = 'Only http and https addresses can be called.' then '{"code": "not http"}'::jsonb
    when p = 'This is no calendar in the iCalendar format.' then '{"code": "not a calendar"}'::jsonb
    when p = 'The other side could not be reached.' then '{"code": "not reached"}'::jsonb
    when p ~ '^The other side answered \d+' then jsonb_build_object('code', 'answered', 'status', (regexp_match(p, '(\d+)\.$'))[1]::int)
    when p ~ '^It is larger than \d+ MB' then jsonb_build_object('code', 'too large', 'megabytes', (regexp_match(p, '(\d+) MB'))[1]::int)
    else jsonb_build_object('code', 'file', 'problem', pg_temp.file_problem(p)) end
$$;
--> statement-breakpoint
create function pg_temp.fetch_report(p text) returns jsonb language sql immutable as $$
  select case when p is null then null
    when p = 'Nothing new.' then '{"code": "nothing new"}'::jsonb
    when p = 'A file came and is being read.' then '{"code": "file being read"}'::jsonb
    when p like 'A file came that somebody has to look at%' then '{"code": "file to look at"}'::jsonb
    when p ~ ' looked at, ' then jsonb_build_object('code', 'calendar read',
      'events', pg_temp.count_of((regexp_match(p, '^(\S+) events? looked at'))[1]), 'added', pg_temp.count_of((regexp_match(p, ', (\S+) new visits?'))[1]),
      'changed', coalesce((regexp_match(p, ', (\d+) changed'))[1]::int, 0), 'gone', coalesce((regexp_match(p, ', (\d+) gone'))[1]::int, 0),
      'nobody', coalesce((regexp_match(p, ', (\d+) without anybody'))[1]::int, 0), 'unreadable', coalesce((regexp_match(p, ', (\d+) could not be read'))[1]::int, 0),
      'isWhole', p !~ 'not read whole')
    when p ~ ': \d+ new, \d+ visits, \d+ not usable' then jsonb_build_object('code', 'file read', 'rows', pg_temp.count_of((regexp_match(p, '^(\S+) rows?:'))[1]),
      'added', (regexp_match(p, ': (\d+) new'))[1]::int, 'visits', (regexp_match(p, ', (\d+) visits'))[1]::int, 'refused', (regexp_match(p, ', (\d+) not usable'))[1]::int)
    else '{"code": "not recorded"}'::jsonb end
$$;
--> statement-breakpoint
create function pg_temp.event_result(p text, p_state text, p_ends timestamptz, p_outcome text) returns jsonb language sql immutable as $$
  select case when p is null then null
    when p = 'The person was erased.' then '{"code": "erased"}'::jsonb
    when p = 'The delivery names no event.' then '{"code": "names no event"}'::jsonb
    when p ~ '^“.*” is left aside by this feed''s setting\.$' then jsonb_build_object('code', 'left aside', 'event', (regexp_match(p, '^“(.*)” is left'))[1])
    when p ~ '^“.*” is no event that Estima knows' then jsonb_build_object('code', 'unknown event', 'event', (regexp_match(p, '^“(.*)” is no event'))[1])
    when p ~ '^Visit .* is not known yet; tried again shortly\.$' then jsonb_build_object('code', 'visit not known', 'number', (regexp_match(p, '^Visit (.*) is not known'))[1])
    when p_state = 'failed' then jsonb_build_object('code', 'unusable', 'remarks', jsonb_build_array(pg_temp.remark('full name', p)))
    when p_state = 'done' then jsonb_build_object('code', 'taken in',
      'name', nullif(regexp_replace(regexp_replace(p, '(;|:) .*$', ''), ' is new$', ''), 'Nobody'), 'isNew', p ~ '^[^:;]* is new(:|;)',
      'visit', case when p ~ '; no visit\.$' or p_ends is null then null else jsonb_build_object('change', case when p ~ ': a visit ' then 'new' when p ~ ': the visit ' then 'changed' else 'unchanged' end,
        'endsAt', floor(extract(epoch from p_ends) * 1000), 'outcome', p_outcome) end, 'remark', null)
    else '{"code": "not recorded"}'::jsonb end
$$;
--> statement-breakpoint
-- Each sentence is read once, however many rows say it.
CREATE TEMPORARY TABLE message_reasons ON COMMIT DROP AS
  SELECT "reason" AS words, "channel", pg_temp.message_reason("reason", "channel") AS code, pg_temp.gateway_said("reason") AS said
  FROM (SELECT DISTINCT "reason", "channel" FROM "messages") m;--> statement-breakpoint
CREATE INDEX ON message_reasons (words, channel);--> statement-breakpoint
ALTER TABLE "messages" RENAME COLUMN "reason" TO "reason_words";--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "reason" jsonb;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "gateway_said" text;--> statement-breakpoint
UPDATE "messages" m SET "reason" = r.code, "gateway_said" = r.said FROM message_reasons r WHERE r.words = m."reason_words" AND r.channel = m."channel" AND r.code IS NOT NULL;--> statement-breakpoint
ALTER TABLE "messages" DROP COLUMN "reason_words";--> statement-breakpoint
CREATE TEMPORARY TABLE findings ON COMMIT DROP AS
  SELECT rule, value, pg_temp.finding(rule, regexp_replace(value, '; asked by hand all the same$', '')) AS finding,
    CASE WHEN value LIKE '%; asked by hand all the same' THEN '{"overruled": true}'::jsonb ELSE '{}'::jsonb END AS more
  FROM (SELECT DISTINCT line ->> 'rule' AS rule, coalesce(line ->> 'value', '') AS value FROM (
    SELECT "trace" FROM "visits" UNION ALL SELECT "trace" FROM "asks" UNION ALL SELECT "trace" FROM "triggers") t, jsonb_array_elements(t."trace") line
    WHERE jsonb_typeof(t."trace") = 'array') lines;--> statement-breakpoint
CREATE INDEX ON findings (rule, value);--> statement-breakpoint
ANALYZE findings;--> statement-breakpoint
create function pg_temp.trace_of(p jsonb) returns jsonb language sql stable as $$
  select coalesce(jsonb_agg(jsonb_build_object('rule', line -> 'rule', 'objects', line -> 'objects', 'finding', f.finding) || f.more order by n), '[]')
  from jsonb_array_elements(p) with ordinality as t(line, n) join findings f on f.rule = line ->> 'rule' and f.value = coalesce(line ->> 'value', '')
$$;
--> statement-breakpoint
ALTER TABLE "asks" ALTER COLUMN "site_why" SET DATA TYPE jsonb USING pg_temp.site_reason("site_why");--> statement-breakpoint
UPDATE "asks" SET "trace" = pg_temp.trace_of("trace") WHERE "trace" IS NOT NULL;--> statement-breakpoint
UPDATE "visits" SET "trace" = pg_temp.trace_of("trace") WHERE "trace" IS NOT NULL;--> statement-breakpoint
UPDATE "triggers" SET "trace" = pg_temp.trace_of("trace") WHERE "trace" IS NOT NULL;--> statement-breakpoint
ALTER TABLE "listings" ALTER COLUMN "problem" SET DATA TYPE jsonb USING pg_temp.site_problem("problem");--> statement-breakpoint
ALTER TABLE "listings" ALTER COLUMN "collect_error" SET DATA TYPE jsonb USING pg_temp.site_problem("collect_error");--> statement-breakpoint
ALTER TABLE "reviews" ALTER COLUMN "reply_error" SET DATA TYPE jsonb USING pg_temp.site_problem("reply_error");--> statement-breakpoint
ALTER TABLE "plans" ALTER COLUMN "paused_why" SET DATA TYPE jsonb USING pg_temp.pause_reason("paused_why");--> statement-breakpoint
ALTER TABLE "people" ALTER COLUMN "email_bounced_why" SET DATA TYPE jsonb USING CASE WHEN "email_bounced_why" IS NOT NULL THEN pg_temp.gateway_reply("email_bounced_why") END;--> statement-breakpoint
ALTER TABLE "people" ALTER COLUMN "text_bounced_why" SET DATA TYPE jsonb USING CASE WHEN "text_bounced_why" IS NOT NULL THEN pg_temp.gateway_reply("text_bounced_why") END;--> statement-breakpoint
ALTER TABLE "people" ALTER COLUMN "email_opted_out_how" SET DATA TYPE jsonb USING pg_temp.opt_out_way("email_opted_out_how");--> statement-breakpoint
ALTER TABLE "people" ALTER COLUMN "text_opted_out_how" SET DATA TYPE jsonb USING pg_temp.opt_out_way("text_opted_out_how");--> statement-breakpoint
ALTER TABLE "intakes" ALTER COLUMN "error" SET DATA TYPE jsonb USING pg_temp.file_problem("error");--> statement-breakpoint
UPDATE "intakes" SET "forecast" = jsonb_set("forecast", '{visits}', coalesce((
  SELECT jsonb_agg(jsonb_set(v, '{what}', CASE
    WHEN v ->> 'what' = 'asked at once' THEN '{"code": "asked", "at": 0}'::jsonb
    WHEN v ->> 'what' = 'waits until its service is assigned' THEN '{"code": "waits for names"}'::jsonb
    WHEN v ->> 'what' = 'looked at when it ends' THEN '{"code": "decided later"}'::jsonb
    WHEN v ->> 'what' LIKE 'asked %' THEN '{"code": "not recorded"}'::jsonb
    ELSE jsonb_build_object('code', 'left out', 'reason', v -> 'what') END) ORDER BY n)
  FROM jsonb_array_elements("forecast" -> 'visits') WITH ORDINALITY AS t(v, n)), '[]')) WHERE jsonb_typeof("forecast" -> 'visits') = 'array';--> statement-breakpoint
UPDATE "intake_rows" SET "problems" = (SELECT coalesce(jsonb_agg(pg_temp.remark(p ->> 'field', p ->> 'message') ORDER BY n), '[]') FROM jsonb_array_elements("problems") WITH ORDINALITY AS t(p, n)) WHERE "problems" <> '[]';--> statement-breakpoint
ALTER TABLE "feeds" ADD COLUMN "report" jsonb;--> statement-breakpoint
ALTER TABLE "feeds" ADD COLUMN "problem" jsonb;--> statement-breakpoint
UPDATE "feeds" SET "report" = pg_temp.fetch_report("said"), "problem" = pg_temp.fetch_problem("error");--> statement-breakpoint
ALTER TABLE "feeds" DROP COLUMN "said";--> statement-breakpoint
ALTER TABLE "feeds" DROP COLUMN "error";--> statement-breakpoint
ALTER TABLE "inbound_events" ADD COLUMN "result" jsonb;--> statement-breakpoint
UPDATE "inbound_events" e SET "result" = pg_temp.event_result(e."what", e."state", v."ends_at", v."outcome")
  FROM "inbound_events" d LEFT JOIN "visits" v ON v."id" = d."visit_id" WHERE e."id" = d."id" AND e."what" IS NOT NULL;--> statement-breakpoint
ALTER TABLE "inbound_events" DROP COLUMN "what";--> statement-breakpoint
ALTER TABLE "notices" ADD COLUMN "content" jsonb;--> statement-breakpoint
UPDATE "notices" n SET "content" = coalesce(CASE
  WHEN n."about" ~ '^allowance [0-9-]+ (text|email) \d+$' THEN (
    SELECT jsonb_build_object('code', 'allowance used up', 'channel', x[2], 'most', x[3]::int,
      'renewedAt', floor(extract(epoch FROM ((x[1] || '-01')::timestamp + interval '1 month') AT TIME ZONE c."zone") * 1000), 'leavesOut', n."words" LIKE '%left out, with that reason%')
    FROM "clients" c, regexp_match(n."about", '^allowance (\d{4}-\d{2}) (text|email) (\d+)$') x WHERE c."id" = n."client_id" AND x IS NOT NULL)
  WHEN n."path" ~ '^/asking/plans/[0-9a-f-]{36}$' THEN jsonb_build_object('code', 'plan paused', 'plan', coalesce((regexp_match(n."words", '^“(.*?)” paused by itself'))[1], ''),
    'planId', substr(n."path", 15), 'why', pg_temp.pause_reason(n."words"))
  END, '{"code": "not recorded"}'::jsonb);--> statement-breakpoint
ALTER TABLE "notices" ALTER COLUMN "content" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "notices" DROP COLUMN "subject";--> statement-breakpoint
ALTER TABLE "notices" DROP COLUMN "words";--> statement-breakpoint
ALTER TABLE "notices" DROP COLUMN "path";--> statement-breakpoint
-- Found anew when somebody looks.
DELETE FROM "people_matches";--> statement-breakpoint
UPDATE "audit_entries" SET "details" = jsonb_set("details", '{why}', pg_temp.pause_reason("details" ->> 'why')) WHERE "subject" = 'plan' AND jsonb_typeof("details") = 'object' AND "details" ? 'why';--> statement-breakpoint
UPDATE "audit_entries" SET "details" = jsonb_build_object('outcome', substr("action", 8)), "action" = 'set outcome' WHERE "action" LIKE 'set to %';--> statement-breakpoint
UPDATE "audit_entries" SET "action" = CASE
  WHEN "action" = 'set running' THEN 'started'
  WHEN "action" = 'set aside' THEN 'drafted'
  WHEN "action" = 'threw changes away' THEN 'discarded changes'
  WHEN "action" = 'undid a merge of' THEN 'undid merge'
  WHEN "action" = 'made one household of' THEN 'made household'
  WHEN "action" = 'took out of the household' THEN 'left household'
  WHEN "action" = 'ended the rest of' THEN 'ended rest'
  WHEN "action" = 'allowed asking' THEN 'readmitted'
  WHEN "action" = 'mended the address of' THEN 'corrected address'
  WHEN "action" = 'took out everything known of' THEN 'exported all'
  WHEN "action" = 'took out the refused rows of' THEN 'exported refused rows'
  WHEN "action" = 'took out' THEN 'exported'
  WHEN "action" = 'kept and began asking' THEN 'imported and asked'
  WHEN "action" = 'renewed the secret of' THEN 'renewed secret'
  WHEN "action" = 'renewed the link of' THEN 'renewed link'
  WHEN "action" = 'kept' AND "subject" = 'list' THEN 'imported'
  WHEN "action" = 'undid' AND "subject" = 'list' THEN 'undid import'
  WHEN "action" = 'left aside' THEN 'ignored name'
  WHEN "action" = 'assigned' THEN 'assigned name'
  WHEN "action" = 'ended' AND "subject" = 'API key' THEN 'ended key'
  ELSE "action" END;
