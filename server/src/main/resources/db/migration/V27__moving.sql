-- Where a copy is being moved to on its drive, as "folder|name"; empty for none. What lies on the drive tells, after a kill, whether it got
-- there.
alter table image_copy add column moving_to varchar(1200) default '' not null;
