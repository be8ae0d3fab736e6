-- What a record says of its days gets a column, so that all of a yard's can be added up without reading every fold.
alter table horse_state add column day_sums jsonb generated always as (fold #> '{base,days}') stored;

-- Words that an update of the judge found otherwise, until somebody has read it.
create table words_anew (
  yard_id uuid not null,
  horse_id text collate "C" not null,
  words jsonb not null,
  primary key (yard_id, horse_id),
  foreign key (yard_id, horse_id) references horse (yard_id, id)
);
