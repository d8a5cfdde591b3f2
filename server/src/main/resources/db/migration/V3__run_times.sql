-- What a run was thought to take before this office's own runs corrected it, and with which codec: what the next correction is made from.
alter table run add column codec varchar(10) default '' not null;
alter table run add column plain_seconds double precision default 0 not null;
create index run_alike on run (destination_id, codec, ended_at);
