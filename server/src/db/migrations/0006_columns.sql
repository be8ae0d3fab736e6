-- What is looked for gets a column; until now it was looked for inside JSON. The database works these out by itself.

alter table horse_state
  add column judge text generated always as (fold ->> 'judge') stored,
  add column program_id text generated always as (coalesce(fold #>> '{about,program,id}', fold ->> 'program')) stored;
create index horse_state_by_program on horse_state (yard_id, program_id);

alter table event
  -- Which entry a correction is about.
  add column replaces text collate "C" generated always as (case when type = 'correction' then body ->> 'replaces' end) stored,
  -- Written down by a device while it happened, and not afterwards.
  add column is_live boolean generated always as (body ? 'device' and not body ? 'recordedAt') stored,
  -- The program a horse is said to go by, an outing was worked under, or a correction puts there.
  add column program_id text collate "C" generated always as (
    case when type in ('program', 'outing-start', 'head', 'correction')
      then coalesce(body #>> '{with,program}', body ->> 'program') end) stored;
drop index event_by_replaced;
create index event_by_replaced on event (yard_id, replaces) where replaces is not null;
