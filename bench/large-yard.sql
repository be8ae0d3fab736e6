-- A yard of twenty years: $1 horses, each with $2 outings of $3 asks, seeded by their numbers alone.
-- Run with the yard's id in place of :yard.
insert into person (yard_id, id, label) values
  (:yard, '00000000-0000-4000-8000-000000000001', 'M'), (:yard, '00000000-0000-4000-8000-000000000002', 'N');
insert into place (yard_id, id, label) values
  (:yard, '00000000-0000-4000-8000-000000000011', 'Round pen'), (:yard, '00000000-0000-4000-8000-000000000012', 'Top yard');

insert into horse (yard_id, id, name, foaled, foaled_precision, sex, program_id)
select :yard, 'horse-' || lpad(h::text, 4, '0'), 'Horse ' || h, date '2003-05-01' + h, 'day', 'gelding', 'loose-pen-start'
from generate_series(1, :horses) h;

create temp table outing_plan as
select 'horse-' || lpad(h::text, 4, '0') as horse_id,
       'horse-' || lpad(h::text, 4, '0') || '-outing-' || lpad(o::text, 5, '0') as outing_id,
       h, o,
       timestamptz '2006-01-02 09:00+00' + make_interval(days => (o * :days_between + h % :days_between)::int, mins => h % 400) as start
from generate_series(1, :horses) h, generate_series(0, :outings - 1) o;

insert into outing_owner (yard_id, outing_id, horse_id) select :yard, outing_id, horse_id from outing_plan;

insert into event (yard_id, id, horse_id, outing_id, at, type, body)
select :yard, p.outing_id || ':start', p.horse_id, p.outing_id, p.start, 'outing-start',
  jsonb_build_object('id', p.outing_id || ':start', 'at', to_char(p.start at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'),
    'type', 'outing-start', 'place', '00000000-0000-4000-8000-00000000001' || (1 + p.o % 2),
    'handler', '00000000-0000-4000-8000-00000000000' || (1 + (p.h + p.o) % 10 / 9))
from outing_plan p;

insert into event (yard_id, id, horse_id, outing_id, at, type, body)
select :yard, p.outing_id || ':end', p.horse_id, p.outing_id, p.start + interval '35 minutes', 'outing-end',
  jsonb_build_object('id', p.outing_id || ':end', 'at', to_char((p.start + interval '35 minutes') at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'),
    'type', 'outing-end')
from outing_plan p;

insert into event (yard_id, id, horse_id, outing_id, at, type, body)
select :yard, id, horse_id, outing_id, at, 'ask',
  jsonb_build_object('id', id, 'at', to_char(at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'), 'type', 'ask', 'step', step,
    'side', case when step in ('share-space', 'catch-rope') then 'none' when n % 8 < 4 then 'near' else 'off' end,
    'answer', case when luck < 85 then 'gave' when luck < 92 then 'tried' when luck < 97 then 'none' else 'against' end,
    'mood', case when luck % 10 < 9 then 1 else 2 end)
  || case when step in ('swap-sides', 'give-halter', 'yield-hind', 'flex') then '{"phase": 1}'::jsonb else '{}'::jsonb end
from (
  select p.horse_id, p.outing_id, p.outing_id || '-' || lpad(n::text, 3, '0') as id, p.start + make_interval(secs => 30 + n * 45) as at, n,
    (array['share-space', 'catch-rope', 'first-touch', 'head-rub', 'swap-sides', 'body-rub', 'halter-on', 'give-halter', 'yield-hind', 'flex'])
      [1 + (n / 8 + p.o) % 10] as step,
    -- A plain linear congruence of the place in the yard.
    ((p.h * 7919 + p.o * 104729 + n * 1299709) % 1000003) % 100 as luck
  from outing_plan p, generate_series(0, :asks - 1) n
) as ask;
drop table outing_plan;
