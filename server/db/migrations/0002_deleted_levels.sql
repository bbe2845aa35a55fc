-- A deleted level is kept, out of sight, so that deleting it can be undone.
alter table levels add column deleted_at timestamptz;
