-- Of a restore from what a virtual computer left of an image's disk: that computer. It is gone when Granary ends; null for all others.
alter table restoration add column served_id uuid;
