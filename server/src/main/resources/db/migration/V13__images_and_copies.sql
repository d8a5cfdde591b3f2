-- An image is what was read of a disk at one moment; a copy is one place where it lies. What was read, notes and holds belong to the
-- image, proof and the shelf to its copies.
alter table image rename to image_copy;
alter table image_copy alter column set_id rename to image_id;

create table image (
  id uuid primary key,
  name varchar(100) not null,
  disk_id varchar(200) not null,
  computer varchar(100) not null,
  disk varchar(200) not null,
  serial varchar(100) not null,
  made_at timestamp(3) with time zone not null,
  made_by varchar(60) not null,
  origin varchar(20) not null,
  codec varchar(10) not null,
  level int not null,
  raw_bytes bigint not null,
  used_bytes bigint not null,
  low_bytes bigint not null,
  likely_bytes bigint not null,
  high_bytes bigint not null,
  encrypted boolean not null,
  bad_bytes bigint not null,
  bad_places int not null,
  lacks varchar(4000),
  inside varchar(100000) not null,
  content_digest varchar(64) not null,
  recheck_days int not null,
  note varchar(10000) not null
);

-- What all copies of an image have in common is taken from the one that was made first; what was noted of any copy is noted of the image.
insert into image (id, name, disk_id, computer, disk, serial, made_at, made_by, origin, codec, level, raw_bytes, used_bytes, low_bytes,
  likely_bytes, high_bytes, encrypted, bad_bytes, bad_places,
  lacks, inside, content_digest, recheck_days, note)
select c.image_id, c.name, c.disk_id, c.computer, c.disk, c.serial, c.made_at, c.made_by,
  case c.origin when 'COPIED' then 'MADE' else c.origin end, c.codec, c.level, c.raw_bytes, c.used_bytes,
  c.low_bytes, c.likely_bytes, c.high_bytes, c.encrypted, c.bad_bytes, c.bad_places, c.lacks, c.inside, c.content_digest, c.recheck_days,
  coalesce((select listagg(n.note, U&'\000a') within group (order by n.note) from (select distinct image_id,
    note from image_copy where note <> '') n where n.image_id = c.image_id), '')
from image_copy c
where c.id = (select first.id from image_copy first where first.image_id = c.image_id
  order by case when first.id = first.image_id then 0 else 1 end, first.made_at, first.id fetch first row only);

alter table image_copy add laid_by varchar(60);
update image_copy set laid_by = made_by;
alter table image_copy alter column laid_by set not null;

drop index image_disk;
drop index image_shelf;
drop index image_set;
alter table image_copy drop column name, disk_id, computer, disk, serial, made_at, made_by, origin, codec, level, raw_bytes, used_bytes,
  low_bytes, likely_bytes, high_bytes, encrypted, bad_bytes,
  bad_places, lacks, inside, content_digest, recheck_days, note;
alter table image_copy alter column location rename to folder;
alter table image_copy add constraint image_copy_image foreign key (image_id) references image (id);
create index image_copy_image on image_copy (image_id);
create index image_copy_shelf on image_copy (shelf, destination_id);
create index image_disk on image (disk_id, made_at);

alter table image_check alter column image_id rename to copy_id;
alter table image_file alter column image_id rename to copy_id;
alter table image_release alter column image_id rename to copy_id;
alter table image_hold alter column set_id rename to image_id;
alter table image_hold add constraint image_hold_image foreign key (image_id) references image (id);

-- Lists were lines in one column; a line break within one would have cut it in two. They are JSON arrays now.
alter table image alter column lacks varchar(20000);
alter table destination alter column only_for varchar(20000);
update image set lacks = case lacks when '' then '[]' else '["' || replace(replace(replace(lacks, '\', '\\'), '"', '\"'), U&'\000a',
  '","') || '"]' end where lacks is not null;
update destination set only_for = case only_for when '' then '[]' else '["' || replace(replace(replace(only_for, '\', '\\'), '"', '\"'),
  U&'\000a', '","') || '"]' end;
update disk set remarks = case remarks when '' then '[]' else '["' || replace(replace(replace(remarks, '\', '\\'), '"', '\"'), U&'\000a',
  '","') || '"]' end;
update plan_version set changes = case changes when '' then '[]' else '["' || replace(replace(replace(changes, '\', '\\'), '"', '\"'),
  U&'\000a', '","') || '"]' end;
