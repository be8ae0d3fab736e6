-- Programs of a yard's own. A published version never changes and is never dropped: outings were worked under it.
create table program (
  yard_id uuid not null references yard,
  id text collate "C" not null,
  version integer not null check (version > 0),
  -- As it is written down; the shape of docs/program.schema.json.
  file jsonb not null,
  published_at timestamptz not null,
  primary key (yard_id, id, version)
);

-- What is being written; it may be unsound until it is published.
create table program_draft (
  yard_id uuid not null references yard,
  id text collate "C" not null,
  version integer not null default 1,
  file jsonb not null,
  changed_at timestamptz not null,
  primary key (yard_id, id)
);

-- Troubles a yard has added to the table of where to look. A row that is dropped is gone: nothing was recorded under it.
create table trouble (
  yard_id uuid not null references yard,
  id text collate "C" not null,
  version integer not null default 1,
  body jsonb not null,
  primary key (yard_id, id)
);
