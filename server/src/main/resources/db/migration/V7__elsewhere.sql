-- Images made elsewhere: their files with the digests they are to have, what they hold, and what a disk is known again by.
alter table disk add table_id varchar(40) default '' not null;
alter table image add joined_digest varchar(64) default '' not null;
alter table image add content_digest varchar(64) default '' not null;
alter table image add inside varchar(100000) default '' not null;

create table image_file (
  id uuid primary key,
  image_id uuid not null references image,
  place int not null,
  name varchar(1000) not null,
  bytes bigint not null,
  digest varchar(64) not null,
  source varchar(300) not null
);
create index image_file_by_image on image_file (image_id, place);
