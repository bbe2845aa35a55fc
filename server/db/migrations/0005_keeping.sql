-- Names stand apart, so that lists need no documents. A level and a version are made once for each key, however often
-- they are asked for. The log of patches begins at a base, before which it has been cleared.
alter table levels add column name text generated always as (document ->> 'name') stored;
alter table levels add column made_with text unique;
alter table levels add column base jsonb;
alter table levels add column base_revision integer;
alter table versions add column made_with text;
create unique index versions_made_with on versions (level_id, made_with);
alter table levels alter column document set storage external;
alter table levels alter column base set storage external;
create table facts (name text primary key, value text not null);
update levels set base = document, base_revision = revision;
alter table levels alter column base set not null;
alter table levels alter column base_revision set not null;

-- A long recording as jsonb would take the database seconds to store: it is kept as the gzipped text of its JSON. Those kept
-- before stay plain text until they are kept anew. What tells two runs apart is a digest of all but their names.
alter table runs alter column run type bytea using convert_to(run::text, 'UTF8');
alter table runs alter column run set storage external;
alter table runs add column content text;
