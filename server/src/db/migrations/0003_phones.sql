-- Phones: who is let in, and in which order what they send came in.

-- The order of coming in. Events of one horse are stored by one writer at a time: within an outing a later event never has a smaller number.
alter table event add column arrival bigint generated always as identity;
drop index event_by_outing;
create index event_by_outing on event (yard_id, outing_id, arrival) where outing_id is not null;

-- How far a horse's record has come, for phones that keep a part of it.
create index event_by_arrival on event (yard_id, horse_id, arrival);

-- Outings somebody began lately: what runs is among them.
create index event_of_start on event (yard_id, stored_at) where type = 'outing-start';

-- A device that was let in. Its key is known here by its hash alone.
create table device (
  yard_id uuid not null references yard,
  id uuid not null,
  -- What the device calls itself in the events it records.
  recorder text collate "C" not null,
  name text not null,
  -- A browser of the laptop itself, let in by the yard's pass phrase.
  is_laptop boolean not null,
  rights text not null check (rights in ('all', 'write')),
  -- The one outing a helper writes down.
  outing_id text collate "C",
  key_hash bytea not null,
  paired_at timestamptz not null,
  seen_at timestamptz not null,
  expires_at timestamptz not null,
  withdrawn_at timestamptz,
  version integer not null default 1,
  primary key (yard_id, id),
  check ((rights = 'write') = (outing_id is not null))
);
create unique index device_by_key on device (yard_id, key_hash);
create index device_by_recorder on device (yard_id, recorder, paired_at);

-- A code shown on the laptop, good for one device.
create table pairing_code (
  yard_id uuid not null references yard,
  id uuid not null,
  code_hash bytea not null,
  rights text not null check (rights in ('all', 'write')),
  outing_id text collate "C",
  made_at timestamptz not null,
  expires_at timestamptz not null,
  used_at timestamptz,
  primary key (yard_id, id)
);
create unique index pairing_code_by_hash on pairing_code (yard_id, code_hash);

-- Codes that were tried and are none: so many within a while, and nobody is let in until it has passed.
create table pairing_miss (
  yard_id uuid not null references yard,
  id uuid not null,
  at timestamptz not null,
  primary key (yard_id, id)
);

-- What opens the laptop itself, where a yard wants that: argon2.
alter table yard add column pass_phrase_hash text;

-- What an outing set out with, so that whoever joins it has the same coach. Not part of the record: it follows from it.
create table outing_plan (
  yard_id uuid not null,
  outing_id text collate "C" not null,
  plan jsonb not null,
  primary key (yard_id, outing_id)
);
