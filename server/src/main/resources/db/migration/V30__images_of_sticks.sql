-- A stick's own image, in the folder of rescue files: the file's name, when it was kept, and its SHA-256. Empty for none.
alter table rescue_stick add column image_file varchar(190) default '' not null;
alter table rescue_stick add column image_at timestamp(9) with time zone;
alter table rescue_stick add column image_digest varchar(64) default '' not null;
