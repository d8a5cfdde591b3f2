-- What is looked at when a computer is back, besides what is looked at on every one: a line each.
alter table computer add column checks varchar(2000) default '' not null;
