-- Pictures that levels lay under their Plan, by the SHA-256 of their bytes: the same picture is kept once.
create table pictures (
  hash text primary key,
  type text not null,
  bytes bytea not null,
  created_at timestamptz not null default now()
);
