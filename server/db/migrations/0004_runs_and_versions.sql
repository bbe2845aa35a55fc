-- Runs and versions are deleted out of sight, so that it can be undone. Runs can be starred; how long they are is told in lists.
alter table versions add column deleted_at timestamptz;
alter table runs add column deleted_at timestamptz;
alter table runs add column starred boolean not null default false;
alter table runs add column steps integer;
update runs set steps = (run ->> 'steps')::integer;
alter table runs alter column steps set not null;
