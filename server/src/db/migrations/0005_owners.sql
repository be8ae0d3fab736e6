-- Whose an outing is, where wrong codes were tried, what of a demo yard is a person's own, and how far photos and clips are stripped.

-- Wrong tries are counted by what was tried and from where, so that nobody is kept out by somebody else's.
alter table pairing_miss
  add column door text not null default 'code' check (door in ('code', 'phrase')),
  add column origin text collate "C" not null default '';
create index pairing_miss_by_origin on pairing_miss (yard_id, door, origin, at);

-- How much was taken out of a photo or clip when it was stored: what a former build left in goes at the next start.
alter table media add column stripped integer not null default 1;

-- The last entry that the demo yard was made with; whatever came in after it is a person's own. None in a yard that is no demo, or
-- was made before this was kept.
alter table yard add column demo_until bigint;

-- Whose an outing is. One horse's, and the database sees to it: of two that were written down under one id, the one whose entry
-- came in first has it, and the other's entries are filed under an id made of both.

create table outing_owner (
  yard_id uuid not null references yard,
  outing_id text collate "C" not null,
  horse_id text collate "C" not null,
  primary key (yard_id, outing_id),
  unique (yard_id, outing_id, horse_id),
  foreign key (yard_id, horse_id) references horse (yard_id, id)
);

-- What a horse's entries say their outing is, where they are filed under another id.
create table outing_alias (
  yard_id uuid not null,
  horse_id text collate "C" not null,
  said_id text collate "C" not null,
  outing_id text collate "C" not null,
  primary key (yard_id, horse_id, said_id),
  foreign key (yard_id, outing_id, horse_id) references outing_owner (yard_id, outing_id, horse_id)
);

insert into outing_owner (yard_id, outing_id, horse_id)
  select distinct on (yard_id, outing_id) yard_id, outing_id, horse_id from event
  where outing_id is not null order by yard_id, outing_id, arrival;

-- The same id as `filedApart` makes (server/src/store/owners.ts).
create temporary table apart on commit drop as
  select distinct e.yard_id, e.horse_id, e.outing_id as said_id,
    left(e.outing_id, 120) || '~' || left(encode(sha256(convert_to(e.outing_id || chr(10) || e.horse_id, 'UTF8')), 'hex'), 16) as outing_id
  from event e join outing_owner o on o.yard_id = e.yard_id and o.outing_id = e.outing_id
  where o.horse_id <> e.horse_id;
insert into outing_owner (yard_id, outing_id, horse_id) select yard_id, outing_id, horse_id from apart;
insert into outing_alias (yard_id, horse_id, said_id, outing_id) select yard_id, horse_id, said_id, outing_id from apart;

-- Nothing that was written down changes: only where it is filed.
alter table event disable trigger event_is_kept;
update event e set outing_id = a.outing_id from apart a
  where e.yard_id = a.yard_id and e.horse_id = a.horse_id and e.outing_id = a.said_id;
alter table event enable trigger event_is_kept;
update media m set outing_id = a.outing_id from apart a
  where m.yard_id = a.yard_id and m.horse_id = a.horse_id and m.outing_id = a.said_id;

-- What was derived of such horses was wrong; whoever starts next makes it anew.
create temporary table mixed on commit drop as
  select yard_id, horse_id from apart
  union select o.yard_id, o.horse_id from outing_owner o join apart a on a.yard_id = o.yard_id and a.said_id = o.outing_id;
delete from outing d using mixed m where d.yard_id = m.yard_id and d.horse_id = m.horse_id;
delete from ledger d using mixed m where d.yard_id = m.yard_id and d.horse_id = m.horse_id;
delete from horse_state d using mixed m where d.yard_id = m.yard_id and d.horse_id = m.horse_id;

alter table event add foreign key (yard_id, outing_id, horse_id) references outing_owner (yard_id, outing_id, horse_id);

-- Chains of corrections are gone along in memory, all of a horse's at once.
create index event_correction_of_horse on event (yard_id, horse_id) where type = 'correction';
