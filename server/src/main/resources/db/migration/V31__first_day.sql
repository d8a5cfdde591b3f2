-- Whether a person left the page that leads a new office; an office that has images already is not new.
alter table office_choices add column first_day_left boolean default false not null;
