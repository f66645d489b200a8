-- Fills a workshop that holds the demo data with UNITS more units over five years and HISTORY rows of who did what, with the mends,
-- faults, stays, decisions, endings and sales that go with them. Run by bench/shop.mjs with psql-like variables replaced.
set session_replication_role = replica;
set synchronous_commit = off;

create temp table models as
  select distinct on (key) key, id, row_number() over (order by key) - 1 as n,
    array(select jsonb_array_elements(body->'revisions')->>'id') as revisions,
    array(select c->>'id' from jsonb_array_elements(body->'controls') c) as controls,
    array(select c->>'id' from jsonb_array_elements(body->'controls') c where c->>'kind' = 'stick') as sticks
  from model_profile order by key, version desc;
create temp table people as select id, row_number() over (order by name) - 1 as n from person where name in ('ida', 'bram', 'oona');
create temp table routes as
  select r.route, r.place, r.measure, r.part, r.good, row_number() over () - 1 as n from (values
    ('clean-contacts', 'stick.left', 'restOffset', '', 0.55), ('sensors-dear', 'stick.left', 'jumps', 'CS-DUN-D', 0.86),
    ('module-cheap', 'stick.left', 'restOffset', 'SM-DUN-C', 0.8), ('module-dear', 'stick.left', 'restNoise', 'SM-DUN-D', 0.9),
    ('dome-dear', 'face.south', 'decision', 'DO-DUN-D', 0.92), ('trigger-reseat', 'trigger.right', 'fullPull', '', 0.7)
  ) r(route, place, measure, part, good);

insert into lot (code, seller, price_minor, carriage_minor, units_promised, by, at)
  select 'L-' || lpad((1000 + g)::text, 5, '0'), 'seller ' || g % 60, 24000, 1500, 20, p.id, now() - (:UNITS / 100 - g) * interval '2 days'
  from generate_series(1, :UNITS / 100) g, people p where p.n = 0;

create temp table made as
  select gen_random_uuid() as id, g, 'B-' || lpad((1000 + g)::text, 6, '0') as tag, m.id as profile_id, m.key,
    m.revisions[1 + (g % greatest(1, array_length(m.revisions, 1)))] as revision, p.id as person,
    now() - ((:UNITS - g)::float8 / :UNITS * 1825 + 1) * interval '1 day' as received,
    g > :UNITS * 0.995 as open, r.route, r.place, r.measure, r.part,
    hashtext('w' || g) % 1000 < r.good * 1000 as worked,
    case g % 5 when 0 then 'customer' when 1 then 'lot' else 'single' end as source,
    900 + (abs(hashtext('p' || g)) % 900) as paid, 2200 + (abs(hashtext('s' || g)) % 3000) as sold,
    10 + (abs(hashtext('m' || g)) % 45) as minutes
  from generate_series(1, :UNITS) g
  join models m on m.n = g % (select count(*) from models)
  join people p on p.n = g % 3
  join routes r on r.n = (g / 7) % (select count(*) from routes);
create index on made (id);

insert into unit (id, tag, profile_id, revision, source, seller, price_minor, carriage_minor, claim, intake, stage, next_action, ending,
    changed_by, changed_at, received_at, closed_at, customer_id, lot_id, lot_share_minor)
  select id, tag, profile_id, revision, source, case when source = 'single' then 'seller ' || g % 60 else '' end, paid, 390,
    (array['left stick drifts', 'buttons miss now and then', 'untested', 'trigger does not reach the end', 'cuts out when moved'])[1 + g % 5],
    (select intake from unit limit 1), case when open then (array['test', 'decide', 'mend', 'prove', 'release'])[1 + g % 5] else 'closed' end,
    case when open then (array['first-test', 'decide', 'mend', 'prove', 'release'])[1 + g % 5] else 'closed' end,
    case when open then null when g % 25 = 0 then case when g > :UNITS * 0.98 then 'donor' else 'scrap' end when g % 40 = 0 then 'scrap' else 'released' end, person,
    received + interval '6 days', received, case when open then null else received + interval '6 days' end,
    case when source = 'customer' then (select id from customer order by name limit 1) end,
    case when source = 'lot' then (select id from lot where code = 'L-' || lpad((1001 + (g - 1) / 100)::text, 5, '0')) end, case when source = 'lot' then paid end
  from made;
insert into recording (id, unit_id, purpose, source, tester, profile_id, revision, started_at, samples, duration_ms, csv_gz, sha256, analysis, plots, grades, grade, by, at)
  select gen_random_uuid(), m.id, 'full', 'simulated', '{"label": "bench", "host": ""}', m.profile_id, m.revision, m.received + k * interval '2 days', 0, 240000, ''::bytea, '',
    (select analysis || '{"controls": {}}' from recording order by at limit 1), '{"v": 1, "sticks": {}, "triggers": {}, "buttons": {}, "rims": {}}', '{}', case when k = 1 then 'fail' else 'A' end, m.person, m.received + k * interval '2 days'
  from made m, generate_series(1, 2) k;
insert into fault (unit_id, number, place, kind, words, found_when, claimed, measure, status, by, at, cause)
  select id, 1, place, measure, '', 'test', g % 2 = 0, measure, case when open then 'open' when worked then 'mended' else 'open' end, person, received + interval '2 days', 'wear' from made;
create temp table mended as select gen_random_uuid() as mend_id, m.*, f.id as fault_id from made m join fault f on f.unit_id = m.id where not m.open;
insert into mend (id, unit_id, fault_id, number, what, part, minutes, opened, by, at, route, outcome, part_minor)
  select mend_id, id, fault_id, 1, 'Worked on ' || place, part, minutes, true, person, received + interval '3 days', route,
    case when worked then 'worked' else 'failed' end, 120 from mended;
insert into decision (unit_id, disposition, route, why, faults, advised, forecast, by, at)
  select id, 'mend', route, '', '[1]', '{"best": "mend", "value": 900, "first": null, "policy": null, "schools": []}',
    jsonb_build_object('value', 900, 'margin', sold - paid - 900, 'low', sold - paid - 1900, 'high', sold - paid, 'loss', 0.1, 'minutes', 30), person, received + interval '2 days' from made;
insert into ending (unit_id, kind, grade, price_minor, warranty_days, by, at)
  select u.id, u.ending, 'A', m.sold, 90, m.person, u.closed_at from unit u join made m on m.id = u.id where u.ending is not null;
insert into handover (unit_id, ending_id, kind, channel, price_minor, fees_minor, handed_on, unit_until, parts_until, by, at)
  select e.unit_id, e.id, case when m.source = 'customer' then 'returned' else 'sold' end, 'online market', m.sold, m.sold / 9, (e.at + interval '2 days')::date, (e.at + interval '92 days')::date, null, m.person, e.at + interval '2 days'
  from ending e join made m on m.id = e.unit_id where e.kind = 'released' and m.g < :UNITS * 0.993;
update unit set handed_on = h.handed_on from handover h where h.unit_id = unit.id;
insert into comeback (unit_id, mend_id, words, released_at, by, at, in_warranty)
  select m.unit_id, m.id, 'it is back', m.at + interval '3 days', m.by, m.at + (5 + abs(hashtext(m.id::text)) % 80) * interval '1 day', true
  from mend m where abs(hashtext(m.id::text)) % 25 = 0;
insert into outcome (unit_id, model, revision, source, seller, ending, grade, closed_at, sold_on, price_minor, margin_minor, minutes, forecast_minor, forecast_low_minor, forecast_high_minor, routes, families, poor_parcel, differed, faults, faults_claimed)
  select u.id, m.key, m.revision, m.source, u.seller, u.ending, 'A', u.closed_at, (u.closed_at + interval '2 days')::date, m.sold, m.sold - m.paid - m.minutes * 25 - 900,
    m.minutes, m.sold - m.paid - 900, m.sold - m.paid - 1900, m.sold - m.paid, array[m.route], array['stick-drift'], m.g % 13 = 0, m.g % 17 = 0, 1, (m.g % 2)
  from unit u join made m on m.id = u.id where u.ending is not null;
insert into stay (unit_id, stage, came_at, left_at)
  select m.id, s.stage, m.received + (s.k - 1) * interval '1 day', case when s.k < 6 then m.received + s.k * interval '1 day' end
  from made m cross join (values (1, 'test'), (2, 'find'), (3, 'decide'), (4, 'mend'), (5, 'prove'), (6, 'closed')) s(k, stage) where not m.open;
insert into stay (unit_id, stage, came_at) select u.id, u.stage, u.received_at from unit u join made m on m.id = u.id where m.open;
insert into stage_day (day, model, stage, delta)
  select day, model, stage, sum(d) from (
    select (s.came_at at time zone 'UTC')::date as day, m.key as model, s.stage, 1 as d from stay s join made m on m.id = s.unit_id
    union all select (s.left_at at time zone 'UTC')::date, m.key, s.stage, -1 from stay s join made m on m.id = s.unit_id where s.left_at is not null) x
  group by 1, 2, 3 on conflict (day, model, stage) do update set delta = stage_day.delta + excluded.delta;
insert into work_order (unit_id, profile_id, revision, body, status, closed_at, by, at)
  select id, profile_id, revision, '{"targets": [], "cleaningLevel": 1, "calibrate": []}', 'closed', received + interval '4 days', person, received + interval '3 days' from made where not open and g % 2 = 0;
insert into work_event (work_order_id, body, minutes, by, at)
  select o.id, jsonb_build_object('kind', k.kind, 'step', k.step), 1 + (abs(hashtext(o.id::text || k.step || k.kind)) % 60) / 10.0, o.by, o.at + interval '1 hour'
  from work_order o join made m on m.id = o.unit_id
  cross join (values ('apart', 'cells'), ('apart', 'shell.fasteners'), ('apart', 'halves'), ('back', 'halves'), ('back', 'shell.fasteners'), ('back', 'cells')) k(kind, step);
insert into function_check (unit_id, function_id, result, by, at)
  select m.id, f, 'pass', m.person, m.received + interval '4 days' from made m cross join unnest(array['power', 'radio', 'port']) f;
insert into batch (code, part, source, supplier, bin, pieces, cost_minor, on_hand, value_minor, status, by, at)
  select 'P-' || lpad((1000 + g)::text, 5, '0'), (array['CS-DUN-D', 'SM-DUN-C', 'DO-DUN-D', 'SW-4L-O'])[1 + g % 4], 'bought', (array['old-mill-spares', 'longshore-packs', 'tidewater-parts', 'harbour-originals'])[1 + g % 4],
    'A' || g % 9, 40, 1600, case when g > 1900 then 10 else 0 end, case when g > 1900 then 400 else 0 end, 'open', (select id from people limit 1), now() - (2000 - g) * interval '21 hours'
  from generate_series(1, 2000) g;
insert into piece_reading (batch_id, number, body, verdict, findings, instrument, took_ms, by, at)
  select b.id, k, '{"ohms": null, "thicknessMm": null, "feel": null, "tells": null}', case when abs(hashtext(b.code || k)) % 100 < 4 then 'bad' else 'good' end, '[]', 'meter', 60000, b.by, b.at
  from batch b cross join generate_series(1, 20) k where b.code >= 'P-01001' and length(b.code) = 7;
insert into fitted (unit_id, slot, part, count, batch_id, mend_id, cost_minor, condition, cover_days, by, at)
  select m.unit_id, 'module.left', 'SM-DUN-C', 1, b.id, m.id, 120, 'new', 180, m.by, m.at
  from (select *, row_number() over () as n from mend where part <> '' and number = 1) m join (select id, row_number() over () as n from batch) b on b.n = m.n % 2000;
insert into event (unit_id, kind, body, by, at)
  select m.id, (array['recording-stored', 'function-checked', 'fault-named', 'mend-logged', 'decision-taken', 'tray', 'reading-taken', 'bench'])[1 + k % 8], '{"note": "as it went"}', m.person, m.received + k * interval '5 hours'
  from made m cross join generate_series(1, :HISTORY / :UNITS) k;
update counter set last = greatest(last, 1000 + :UNITS) where key = 'unit-tag';
set session_replication_role = default;
analyze;
