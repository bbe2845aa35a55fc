-- What plays sessions, and what a study asks of them, changes as Dial does: parts of an earlier one are not gone on with.
-- 0: from before it was kept. All studies were asked by their first version then.
alter table studies add column simulation integer not null default 0;
alter table studies add column asking integer not null default 1;
