-- The whole record: settings, versions of rows, media, burial, and read models built beside the events.

alter table yard
  add column units text not null default 'metric' check (units in ('metric', 'imperial')),
  add column words text not null default 'american' check (words in ('american', 'british'));

alter table place add column version integer not null default 1;
alter table person add column version integer not null default 1;
alter table horse add column buried_at timestamptz;

-- Which corrections name an event, wherever they stand.
create index event_by_replaced on event (yard_id, (body ->> 'replaces')) where type = 'correction';
create index event_of_horse_itself on event (yard_id, horse_id) where outing_id is null;

-- A photo or clip. The record names it by a media event; its bytes lie here and go when the horse is buried.
create table media (
  yard_id uuid not null,
  id text collate "C" not null,
  horse_id text collate "C" not null,
  outing_id text collate "C",
  content_type text not null,
  byte_count integer not null,
  sha256 text not null,
  content bytea not null,
  stored_at timestamptz not null default now(),
  primary key (yard_id, id),
  foreign key (yard_id, horse_id) references horse (yard_id, id)
);
-- Uncompressed, so that a range of a clip is read without the rest.
alter table media alter column content set storage external;
create index media_by_horse on media (yard_id, horse_id, stored_at);

create table media_thumbnail (
  yard_id uuid not null,
  media_id text collate "C" not null,
  content bytea not null,
  primary key (yard_id, media_id),
  foreign key (yard_id, media_id) references media (yard_id, id)
);

-- Read models. Everything below can be made anew from the events (bin/rebuild).

create table outing (
  yard_id uuid not null,
  id text collate "C" not null,
  horse_id text collate "C" not null,
  day date not null,
  started_at timestamptz not null,
  ended_at timestamptz not null,
  place text collate "C",
  handler text collate "C",
  asks integer not null,
  mishaps integer not null,
  steps text[] not null,
  primary key (yard_id, id)
);
create index outing_by_horse on outing (yard_id, horse_id, started_at, id);

-- One row an event as it counts now, and one an outing; those have the kind '', which no event can have.
create table ledger (
  yard_id uuid not null,
  id text collate "C" not null,
  kind text collate "C" not null,
  day date not null,
  at timestamptz not null,
  horse_id text collate "C" not null,
  outing_id text collate "C",
  step text collate "C",
  side text collate "C",
  place text collate "C",
  handler text collate "C",
  asks integer not null,
  minutes integer not null,
  voided boolean not null,
  -- The event with its corrections, where it has any.
  current jsonb,
  primary key (yard_id, id, kind)
);
create index ledger_by_time on ledger (yard_id, day, at, id, kind);
create index ledger_by_horse on ledger (yard_id, horse_id, day, at, id, kind);
create index ledger_by_kind on ledger (yard_id, kind, day, at, id);
create index ledger_by_step on ledger (yard_id, step, day, at, id, kind) where step is not null;
create index ledger_by_place on ledger (yard_id, place, day, at, id, kind) where place is not null;
create index ledger_by_handler on ledger (yard_id, handler, day, at, id, kind) where handler is not null;
create index ledger_by_outing on ledger (yard_id, outing_id) where outing_id is not null;

-- What was gathered from a horse's outings, to go on from, and its line of the string for one day.
create table horse_state (
  yard_id uuid not null,
  horse_id text collate "C" not null,
  fold jsonb not null,
  judged_on date not null,
  line json not null,
  primary key (yard_id, horse_id)
);

create or replace function refuse_change() returns trigger language plpgsql as $$
begin
  if current_setting('still_pine.burying', true) = 'yes' and tg_op = 'UPDATE' then
    return null;
  end if;
  raise exception 'what is recorded is not changed in place: store a correction instead';
end
$$;

-- The one procedure that changes what is recorded: a horse is buried. Its media and the words of its notes are erased; every
-- event stays, so that what rests on it stays true.
create function bury_horse(of_yard uuid, of_horse text) returns void language plpgsql security definer set search_path = public as $$
begin
  perform set_config('still_pine.burying', 'yes', true);
  delete from media_thumbnail t using media m
    where t.yard_id = of_yard and m.yard_id = of_yard and m.id = t.media_id and m.horse_id = of_horse;
  delete from media where yard_id = of_yard and horse_id = of_horse;
  update event set body = body || '{"text": "—"}' where yard_id = of_yard and horse_id = of_horse and type = 'note';
  update event set body = body - 'text' where yard_id = of_yard and horse_id = of_horse and type = 'media';
  update event set body = jsonb_set(body, '{with,text}', '"—"')
    where yard_id = of_yard and horse_id = of_horse and type = 'correction' and body #> '{with,text}' is not null;
  update ledger set current = current || '{"text": "—"}'
    where yard_id = of_yard and horse_id = of_horse and kind = 'note' and current is not null;
  update ledger set current = current - 'text'
    where yard_id = of_yard and horse_id = of_horse and kind = 'media' and current is not null;
  update horse set name = 'Buried', buried_at = now(), version = version + 1 where yard_id = of_yard and id = of_horse;
  perform set_config('still_pine.burying', 'no', true);
end
$$;
revoke all on function bury_horse(uuid, text) from public;
