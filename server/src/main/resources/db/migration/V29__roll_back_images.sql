-- Whether a copy lies on the very disk its image is of: for a quick roll-back, and for nothing else.
alter table image_copy add column on_its_disk boolean default false not null;
