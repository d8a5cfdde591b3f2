-- Computers that joined are known by the digest of what they show themselves by, so that they come back by themselves when Granary was
-- stopped and started.
create table agent_row (
  id uuid not null,
  name varchar(100) not null,
  joined_by varchar(255) not null,
  token_digest varchar(64) not null,
  since timestamp with time zone not null,
  heard_at timestamp with time zone not null,
  primary key (id)
);
