-- The journal says which devices took part, with which figures, where the evidence is, and what a line corrects; every line is sealed with the one before it.
alter table journal_entry add devices varchar(1000) default '' not null;
alter table journal_entry add figures varchar(1000) default '' not null;
alter table journal_entry add evidence varchar(300) default '' not null;
alter table journal_entry add corrects bigint default 0 not null;
alter table journal_entry add seal varchar(64) default '' not null;
alter table journal_entry add words varchar(5000) generated always as lower(account || ' ' || action || ' ' || subject || ' ' || devices || ' ' || result || ' ' || sentence);
create index journal_entry_at on journal_entry (at);
create index journal_entry_action on journal_entry (action, id);

create table journal_head (
  id int primary key,
  number bigint not null,
  seal varchar(64) not null
);
