-- Studies: crowds of simulated players, each of a level as it was then. What it came to is kept in parts, as gzipped texts of their JSON.
create table studies (
  id text not null,
  level_id text not null references levels (id) on delete cascade,
  name text not null,
  revision integer not null,
  document jsonb not null,
  settings jsonb not null,
  sessions integer not null,
  state text not null default 'waiting',
  why text,
  created_at timestamptz not null default now(),
  ended_at timestamptz,
  deleted_at timestamptz,
  sequence bigint generated always as identity,
  primary key (id)
);
alter table studies alter column document set storage external;
create index studies_of_level on studies (level_id, sequence);

create table shards (
  study_id text not null references studies (id) on delete cascade,
  first integer not null,
  sessions integer not null,
  summary bytea not null,
  primary key (study_id, first)
);
alter table shards alter column summary set storage external;
