-- Every row carries yard_id, first in every key and index.

create table yard (
  id uuid primary key,
  name text not null,
  time_zone text not null,
  version integer not null default 1,
  created_at timestamptz not null default now()
);

create table place (
  yard_id uuid not null references yard,
  id uuid not null,
  label text not null,
  primary key (yard_id, id),
  unique (yard_id, label)
);

create table person (
  yard_id uuid not null references yard,
  id uuid not null,
  label text not null,
  primary key (yard_id, id),
  unique (yard_id, label)
);

create table horse (
  yard_id uuid not null references yard,
  id text collate "C" not null,
  name text not null,
  foaled date not null,
  foaled_precision text not null check (foaled_precision in ('day', 'month', 'year')),
  sex text not null check (sex in ('mare', 'gelding', 'stallion')),
  program_id text not null,
  -- Fields of an imported record that this version does not know; handed on.
  extra jsonb not null default '{}',
  version integer not null default 1,
  created_at timestamptz not null default now(),
  primary key (yard_id, id)
);

-- What happened. outing_id is null for what is true of the horse and not of one outing.
create table event (
  yard_id uuid not null,
  id text collate "C" not null,
  horse_id text collate "C" not null,
  outing_id text collate "C",
  at timestamptz not null,
  type text not null,
  body jsonb not null,
  stored_at timestamptz not null default now(),
  primary key (yard_id, id),
  foreign key (yard_id, horse_id) references horse (yard_id, id)
);

create index event_by_horse on event (yard_id, horse_id, at, id);
create index event_by_outing on event (yard_id, outing_id) where outing_id is not null;

-- A correction is an event too: nothing recorded is edited in place or dropped.
create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception 'what is recorded is not changed in place: store a correction instead';
end
$$;

create trigger event_is_kept before update or delete or truncate on event
  for each statement execute function refuse_change();
