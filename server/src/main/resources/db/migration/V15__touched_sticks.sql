-- Whether a stick's pending run may have written its first byte was known in memory only, and a kill lost it.
alter table rescue_stick add touched boolean default false not null;
update rescue_stick set touched = true where pending_run in (select id from run where state = 'RUNNING');
