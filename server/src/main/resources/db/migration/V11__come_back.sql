-- Coming back: what was restored onto what and signed, spares, rollouts, rescue media with their tests, rehearsals.
create table restoration (
  id uuid primary key,
  kind varchar(20) not null,
  run_id uuid not null,
  image_id uuid references image (id),
  image_name varchar(200) not null,
  made_at timestamp(3) with time zone not null,
  disk_id varchar(200) not null,
  computer varchar(100) not null,
  disk varchar(200) not null,
  target_id varchar(200) not null,
  target_name varchar(200) not null,
  target_model varchar(200) not null,
  target_serial varchar(200) not null,
  target_bytes bigint not null,
  for_computer varchar(100) not null,
  firmware varchar(10) not null,
  rollout_id uuid,
  choice varchar(2000) not null,
  state varchar(20) not null,
  outcome varchar(2000) not null,
  asked_at timestamp(3) with time zone not null,
  asked_by varchar(60) not null,
  ended_at timestamp(3) with time zone,
  checked varchar(2000) not null,
  note varchar(1000) not null,
  signed_at timestamp(3) with time zone,
  signed_by varchar(60) not null,
  place varchar(200) not null,
  retired_at timestamp(3) with time zone,
  tries int not null,
  version bigint not null
);
create index restoration_asked on restoration (asked_at);
create index restoration_run on restoration (run_id);

create table rollout (
  id uuid primary key,
  name varchar(100) not null,
  image_id uuid not null references image (id),
  image_name varchar(200) not null,
  targets varchar(4000) not null,
  begun_at timestamp(3) with time zone not null,
  begun_by varchar(60) not null,
  ended_at timestamp(3) with time zone,
  ended_by varchar(60) not null,
  version bigint not null
);

create table rescue_stick (
  id uuid primary key,
  name varchar(60) not null,
  kind varchar(10) not null,
  model varchar(200) not null,
  serial varchar(200) not null,
  size_bytes bigint not null,
  contents varchar(200) not null,
  starts varchar(40) not null,
  since timestamp(3) with time zone not null,
  writes int not null,
  errors int not null,
  place varchar(200) not null,
  spare_set boolean not null,
  retired_at timestamp(3) with time zone,
  pending_run uuid,
  pending_contents varchar(200) not null,
  pending_starts varchar(40) not null,
  version bigint not null
);

create table boot_trial (
  id uuid primary key,
  stick_id uuid not null references rescue_stick (id),
  computer varchar(100) not null,
  at timestamp(3) with time zone not null,
  by_account varchar(60) not null,
  started boolean not null,
  write_count int not null,
  note varchar(300) not null
);
create index boot_trial_stick on boot_trial (stick_id);

create table rehearsal (
  id uuid primary key,
  image_id uuid not null references image (id),
  run_id uuid not null,
  asked_at timestamp(3) with time zone not null,
  asked_by varchar(60) not null,
  ended_at timestamp(3) with time zone,
  ok boolean not null,
  started boolean not null,
  rested boolean not null,
  serial varchar(20000) not null,
  outcome varchar(2000) not null
);
create index rehearsal_image on rehearsal (image_id);

create table drive_preparation (
  run_id uuid primary key,
  target_id varchar(200) not null,
  target_model varchar(200) not null,
  target_serial varchar(200) not null,
  target_bytes bigint not null,
  scheme varchar(10) not null,
  file_system varchar(10) not null,
  name varchar(20) not null,
  rescue_bytes bigint not null,
  asked_at timestamp(3) with time zone not null
);

create table rehearsal_schedule (
  id int primary key,
  days int not null
);
insert into rehearsal_schedule (id, days) values (1, 0);
