-- What was tried on a computer goes by the computer, not by its name; its name as it was then stays.
alter table boot_trial add computer_id uuid;
update boot_trial t set computer_id = (
  select min(c.id) from computer c where lower(c.name) = lower(t.computer) and c.retired_at is null);
