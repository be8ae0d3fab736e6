-- The catalogue has editions. A horse goes on by the one he went by: that of the version of the program he came with.

alter table horse add column program_version integer check (program_version > 0);

-- Versions of the programs that ship, as they were until now; of a yard's own the newest is always his.
update horse set program_version = case when program_id = 'loose-pen-start' then 2 else 1 end
  where program_id in ('loose-pen-start', 'in-hand-classical-start', 'approach-and-stand', 'marker-and-reward',
    'weanling-course', 'learning-theory-start', 'lunge-and-helper-start');
