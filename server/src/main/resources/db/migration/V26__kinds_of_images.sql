-- Which kind of files an image made elsewhere is: one disk's bytes as they are (RAW), a table and partitions in files of their own (SET), a
-- virtual computer's disk (VIRTUAL), or a file nobody can look into (KEPT). Until now all were RAW; of no meaning for Granary's own.
alter table image add column kind varchar(20) default 'RAW' not null;
