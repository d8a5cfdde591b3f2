-- In which folder of a drive images lie; an empty string for Granary's own.
alter table office_choices add column folder varchar(100) default '' not null;

-- What a person chose while a run waited or ran: it outlives an end of Granary.
create table run_wish (
    run_id uuid primary key,
    afterwards varchar(20),
    mail_to varchar(4000)
);
