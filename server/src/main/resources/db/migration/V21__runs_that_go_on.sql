-- In which computer that joined the whole of a run is done, so that it goes on there while Granary is away; an empty string for none.
alter table run add column goes_on_in varchar(64) default '' not null;
