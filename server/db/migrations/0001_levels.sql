-- Levels as documents with a revision, their named versions, recorded runs, and the log of every accepted patch.
create table levels (
  id text primary key,
  revision integer not null,
  document jsonb not null,
  created_at timestamptz not null default now(),
  updated_at timestamptz not null default now()
);

create table versions (
  id bigint generated always as identity primary key,
  level_id text not null references levels (id) on delete cascade,
  name text not null,
  document jsonb not null,
  created_at timestamptz not null default now()
);
create index versions_of_level on versions (level_id, id);

create table runs (
  id text not null,
  level_id text not null references levels (id) on delete cascade,
  name text not null,
  level_hash text not null,
  rate integer not null,
  simulation integer not null,
  run jsonb not null,
  created_at timestamptz not null default now(),
  sequence bigint generated always as identity,
  primary key (level_id, id)
);
create index runs_of_level on runs (level_id, sequence);

create table patches (
  level_id text not null references levels (id) on delete cascade,
  revision integer not null,
  idempotency_key text not null,
  operations jsonb not null,
  created_at timestamptz not null default now(),
  primary key (level_id, revision),
  unique (level_id, idempotency_key)
);
