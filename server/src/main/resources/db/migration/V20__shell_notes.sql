-- Which notes of a bare shell, found beside images on drives, were taken on already.
create table shell_note_row (
  digest varchar(64) not null,
  taken_on_at timestamp with time zone not null,
  primary key (digest)
);
