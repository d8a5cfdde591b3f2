-- What a disk says of itself besides its serial, what persons said of attachments that do not tell, and what a target held when it was confirmed.
alter table disk add world_wide_name varchar(100) default '' not null;

create table disk_tie (
  attachment varchar(300) primary key,
  disk_id varchar(200) not null references disk (id),
  tied_at timestamp(3) with time zone not null,
  tied_by varchar(60) not null
);

alter table restoration add target_held varchar(20000) default '' not null;
alter table drive_preparation add target_held varchar(20000) default '' not null;

-- What of its disk an image does not hold, a line each; null as long as nobody looked into it.
alter table image add lacks varchar(4000);

-- What of a failing disk is not on its spare, and which files lie there.
alter table restoration add flaw varchar(1000) default '' not null;
alter table restoration add lost varchar(20000) default '' not null;

-- Nights whose mail went, so that none goes twice.
create table night_mail (
  night date primary key,
  sent_at timestamp(3) with time zone not null
);
insert into night_mail (night, sent_at) select distinct night, current_timestamp from run where night is not null;
