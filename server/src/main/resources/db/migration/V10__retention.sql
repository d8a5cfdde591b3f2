-- What the office chose for all its plans; why images are held; what was released, from the asking to the emptied trash.
create table office_choices (
  id int primary key,
  name varchar(100) not null,
  units varchar(10) not null,
  keeping varchar(500) not null,
  trash_days int not null,
  copies_to varchar(200) not null,
  mail_to varchar(200) not null,
  version bigint not null
);

alter table image add shelf varchar(20) default 'KEPT' not null;
create index image_shelf on image (shelf, made_at);
create index image_set on image (set_id);

create table image_hold (
  id uuid primary key,
  set_id uuid not null,
  reason varchar(300) not null,
  until_day date,
  placed_at timestamp(3) with time zone not null,
  placed_by varchar(60) not null,
  ended_at timestamp(3) with time zone,
  ended_by varchar(60) not null
);
create index image_hold_set on image_hold (set_id);

create table image_release (
  id uuid primary key,
  image_id uuid not null references image (id),
  image_name varchar(200) not null,
  disk varchar(300) not null,
  destination_id varchar(200) not null,
  destination varchar(200) not null,
  bytes bigint not null,
  rule varchar(30) not null,
  why varchar(1000) not null,
  asked_at timestamp(3) with time zone not null,
  asked_by varchar(60) not null,
  state varchar(20) not null,
  trouble varchar(2000) not null,
  moved_at timestamp(3) with time zone,
  ended_at timestamp(3) with time zone,
  version bigint not null
);
create index image_release_state on image_release (state, destination_id);
create index image_release_image on image_release (image_id);

alter table computer add files_saved_on date;
alter table computer add files_note varchar(300) default '' not null;
alter table account add valid_from timestamp(3) with time zone;
alter table account add closed_at timestamp(3) with time zone;

alter table run add seen_at timestamp(3) with time zone;

create table invitation (
  token_hash varchar(64) primary key,
  name varchar(60) not null,
  role varchar(20) not null,
  made_at timestamp(3) with time zone not null,
  made_by varchar(60) not null,
  used_at timestamp(3) with time zone
);
