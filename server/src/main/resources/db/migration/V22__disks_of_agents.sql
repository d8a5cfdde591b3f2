-- Which disks each computer told of when it joined, so that it is known again when it joins anew after Granary was started anew.
alter table agent_row add column disks varchar default '[]' not null;
