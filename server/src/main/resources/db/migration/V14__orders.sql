-- What a run was asked to do is kept in one place for all kinds; what a run has in common with all others stays with it.
create table work_order (
  run_id uuid primary key references run (id) on delete cascade,
  version int not null,
  document varchar(100000) not null
);
insert into work_order (run_id, version, document) select id, 1, document from run where kind in ('CAPTURE', 'CHECK', 'COPY', 'REPAIR');
insert into work_order (run_id, version, document)
select r.run_id, 1, '{"rehearsalId":"' || r.id || '","copyId":"' || r.image_id || '"}' from rehearsal r join run on run.id = r.run_id;
insert into work_order (run_id, version, document)
select p.run_id, 1, '{"target":{"targetId":"' || replace(replace(p.target_id, '\', '\\'), '"', '\"') || '","identity":{"model":"'
  || replace(replace(p.target_model, '\', '\\'), '"', '\"')
  || '","serial":"' || replace(replace(p.target_serial, '\', '\\'), '"', '\"') || '","sizeBytes":' || p.target_bytes
    || ',"worldWideName":""},"holds":'
  || case p.target_held when '' then '[]' else '["' || replace(replace(replace(p.target_held, '\', '\\'), '"', '\"'), U&'\000a', '","')
    || '"]' end
  || '},"how":{"scheme":"' || p.scheme || '","fileSystem":"' || p.file_system || '","name":"' || replace(replace(p.name, '\', '\\'), '"',
    '\"') || '","rescueBytes":' || p.rescue_bytes || '}}'
from drive_preparation p join run on run.id = p.run_id;
drop table drive_preparation;

-- What a capture was estimated to take, and took.
create table capture_time (
  run_id uuid primary key references run (id) on delete cascade,
  codec varchar(10) not null,
  plain_seconds double precision not null,
  slowest varchar(20) not null,
  estimated_capturing double precision not null,
  estimated_checking double precision not null,
  capturing_seconds double precision not null,
  checking_seconds double precision not null
);
insert into capture_time (run_id, codec, plain_seconds, slowest, estimated_capturing, estimated_checking, capturing_seconds,
  checking_seconds)
select id, codec, plain_seconds, slowest, thought_capturing, thought_checking, capturing_seconds,
  checking_seconds from run where kind = 'CAPTURE' and codec <> '';
create index capture_time_codec on capture_time (codec);

-- What a run waits for and whether it found damage was read out of its sentence.
alter table run add waits varchar(20) default 'NOTHING' not null;
update run set waits = 'PASSPHRASE' where state = 'QUEUED' and outcome like '%passphrase%';
alter table run add found_damage boolean default false not null;
update run set found_damage = true where kind = 'CHECK' and state = 'FAILED' and outcome like '%damaged%';

drop index run_alike;
alter table run drop column codec, plain_seconds, document, slowest, thought_capturing, thought_checking, capturing_seconds,
  checking_seconds, differs;
alter table run alter column image_id rename to copy_id;

-- More lists that were lines, tabs or commas in one column.
alter table restoration alter column checked varchar(20000);
alter table restoration alter column lost varchar(100000);
alter table restoration alter column target_held varchar(100000);
alter table rollout alter column targets varchar(20000);
alter table rescue_stick alter column starts varchar(200);
alter table rescue_stick alter column pending_starts varchar(200);
alter table disk_partition alter column left_out varchar(20000);
update restoration set
  checked = case checked when '' then '[]' else '["' || replace(replace(replace(checked, '\', '\\'), '"', '\"'), U&'\000a', '","')
    || '"]' end,
  lost = case lost when '' then '[]' else '["' || replace(replace(replace(lost, '\', '\\'), '"', '\"'), U&'\000a', '","') || '"]' end,
  target_held = case target_held when '' then '[]' else '["' || replace(replace(replace(target_held, '\', '\\'), '"', '\"'), U&'\000a',
    '","') || '"]' end;
update rescue_stick set
  starts = case starts when '' then '[]' else '["' || replace(starts, ',', '","') || '"]' end,
  pending_starts = case pending_starts when '' then '[]' else '["' || replace(pending_starts, ',', '","') || '"]' end;
update rollout set targets = '[{"computer":"' || replace(replace(replace(replace(targets, '\', '\\'), '"', '\"'), U&'\0009',
  '","targetId":"'), U&'\000a', '"},{"computer":"') || '"}]';
update office_hours set
  working_days = '["' || replace(working_days, ',', '","') || '"]',
  closed_days = case closed_days when '' then '{}'
    else '{"' || replace(regexp_replace(replace(replace(closed_days, '\', '\\'), '"', '\"'), '(?m)^(\d{4}-\d{2}-\d{2}) ', '$1":"'),
      U&'\000a', '","') || '"}' end;
update disk_partition set left_out = case left_out when '' then '[]'
  else '[' || regexp_replace(replace(replace(left_out, '\', '\\'), '"', '\"'), '(?m)^([^\t]*)\t([^\t]*)\t(\d+)$',
    '{"what":"$1","path":"$2","bytes":$3}') || ']' end;
update disk_partition set left_out = replace(left_out, U&'\000a', ',') where left_out <> '[]';

-- What the change of its type took away.
alter table destination alter column only_for set default '[]';
