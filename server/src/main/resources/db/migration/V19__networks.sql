-- What the network to a computer carried, in bytes a second, as a transfer measured it when the computer was last here by its agent.
create table network_row (
  computer_id uuid not null,
  up_bytes bigint not null,
  down_bytes bigint not null,
  measured_at timestamp with time zone not null,
  primary key (computer_id)
);
