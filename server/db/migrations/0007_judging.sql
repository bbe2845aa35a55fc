-- Studies of values: versions of the level that they speak of, by name, and how targets stood. Their parts are kept as crowds' are, by number.
alter table studies add column versions jsonb not null default '{}';
alter table studies alter column versions set storage external;
alter table studies add column outcome jsonb;
