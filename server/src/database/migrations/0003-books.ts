/** Accounts, fiscal periods, entries that must balance, and what closed periods reported. */
export const books = /* sql */ `
create table account (
  company_id int not null references company,
  role text not null,
  code text not null check (code <> ''),
  name text not null check (name <> ''),
  primary key (company_id, role)
);

create table period (
  company_id int not null references company,
  ends_on date not null,
  state text not null check (state in ('open', 'closed')),
  closed_at timestamptz,
  closed_by int references person,
  primary key (company_id, ends_on),
  check (ends_on = (date_trunc('month', ends_on) + interval '1 month - 1 day')::date),
  check ((state = 'closed') = (closed_at is not null))
);
create unique index period_one_open on period (company_id) where state = 'open';

create function period_keeps_closed() returns trigger language plpgsql as $$
begin
  if tg_op = 'DELETE' or old.state = 'closed' or new.company_id <> old.company_id or new.ends_on <> old.ends_on then
    raise exception 'The period to % is kept as it is.', old.ends_on using errcode = 'CF001';
  end if;
  return new;
end $$;
create trigger period_keeps_closed before update or delete on period
  for each row execute function period_keeps_closed();

-- Shared lock on the period: a close that is under way is waited for, and then refuses. Checked once a statement,
-- however many rows it brings.
create function period_must_be_open() returns trigger language plpgsql as $$
declare asked record; found text;
begin
  for asked in select distinct company_id, period_end from added loop
    select state into found from period
      where company_id = asked.company_id and ends_on = asked.period_end for share;
    if found is distinct from 'open' then
      raise exception 'The period to % is closed.', asked.period_end using errcode = 'CF001';
    end if;
  end loop;
  return null;
end $$;

create table entry (
  company_id int not null references company,
  number int not null check (number >= 1),
  period_end date not null,
  date date not null,
  kind text not null,
  memo text not null,
  instrument_id uuid not null references instrument,
  instrument_version int not null,
  row_number int,
  posted_by int references person,
  posted_at timestamptz not null default now(),
  primary key (company_id, number),
  foreign key (company_id, period_end) references period (company_id, ends_on),
  foreign key (instrument_id, instrument_version) references instrument_version (instrument_id, version),
  check (date <= period_end and date >= date_trunc('month', period_end)::date)
);
create index entry_by_date on entry (company_id, date, number);
create index entry_by_instrument on entry (instrument_id);

create table entry_line (
  company_id int not null,
  number int not null,
  line smallint not null check (line >= 1),
  role text not null,
  debit minor_units not null check (debit >= 0),
  credit minor_units not null check (credit >= 0),
  primary key (company_id, number, line),
  foreign key (company_id, number) references entry (company_id, number),
  foreign key (company_id, role) references account (company_id, role),
  check ((debit = 0) <> (credit = 0))
);

create trigger entry_period_open after insert on entry
  referencing new table as added for each statement execute function period_must_be_open();
create trigger entry_append_only before update or delete on entry
  for each row execute function reject_change();
create trigger entry_no_truncate before truncate on entry execute function reject_change();
create trigger entry_line_append_only before update or delete on entry_line
  for each row execute function reject_change();
create trigger entry_line_no_truncate before truncate on entry_line execute function reject_change();

-- Lines come with their entry or not at all: adding to an entry of a closed period is adding to the period.
create function entry_line_period_open() returns trigger language plpgsql as $$
begin
  if exists (
    select from added join entry using (company_id, number)
      join period on period.company_id = entry.company_id and period.ends_on = entry.period_end
      where period.state <> 'open') then
    raise exception 'The period of the entry is closed.' using errcode = 'CF001';
  end if;
  return null;
end $$;
create trigger entry_line_period_open after insert on entry_line
  referencing new table as added for each statement execute function entry_line_period_open();

-- Balance is checked twice: for the lines a statement brings at once, which must make whole entries, and for
-- every entry when the transaction ends, so that none is left without lines.
create function entry_lines_must_balance() returns trigger language plpgsql as $$
declare wrong record;
begin
  select company_id, number, sum(debit) - sum(credit) as off, count(*) as lines into wrong
    from entry_line where (company_id, number) in (select company_id, number from added)
    group by company_id, number having sum(debit) <> sum(credit) or count(*) < 2 limit 1;
  if found then
    raise exception 'Entry % does not balance: % lines, off by %.', wrong.number, wrong.lines, wrong.off
      using errcode = 'CF004';
  end if;
  return null;
end $$;
create trigger entry_lines_must_balance after insert on entry_line
  referencing new table as added for each statement execute function entry_lines_must_balance();

create function entry_must_balance() returns trigger language plpgsql as $$
declare off numeric; lines int;
begin
  select coalesce(sum(debit), 0) - coalesce(sum(credit), 0), count(*) into off, lines
    from entry_line where company_id = new.company_id and number = new.number;
  if off <> 0 or lines < 2 then
    raise exception 'Entry % does not balance: % lines, off by %.', new.number, lines, off using errcode = 'CF004';
  end if;
  return null;
end $$;
create constraint trigger entry_must_balance after insert on entry
  deferrable initially deferred for each row execute function entry_must_balance();

-- Numbers run without gaps: those added continue where the last stopped.
create function entry_numbers_without_gaps() returns trigger language plpgsql as $$
declare run record;
begin
  for run in select company_id, min(number) as first, max(number) as last, count(*) as many from added group by 1 loop
    if run.last - run.first + 1 <> run.many
      or (run.first > 1 and not exists (select from entry where company_id = run.company_id and number = run.first - 1))
    then
      raise exception 'Entry numbers % to % leave a gap.', run.first, run.last using errcode = 'CF005';
    end if;
  end loop;
  return null;
end $$;
create trigger entry_numbers_without_gaps after insert on entry
  referencing new table as added for each statement execute function entry_numbers_without_gaps();

create table reported_position (
  company_id int not null,
  period_end date not null,
  instrument_id uuid not null references instrument,
  instrument_version int not null,
  outstanding minor_units not null,
  accrued_interest minor_units not null,
  unpaid_interest minor_units not null,
  unamortized_discount minor_units not null,
  unamortized_premium minor_units not null,
  unamortized_issue_costs minor_units not null,
  carrying minor_units not null,
  current minor_units not null,
  non_current minor_units not null,
  expense minor_units not null,
  amortized minor_units not null,
  current_change minor_units not null,
  primary key (company_id, period_end, instrument_id),
  foreign key (company_id, period_end) references period (company_id, ends_on),
  foreign key (instrument_id, instrument_version) references instrument_version (instrument_id, version),
  check (current + non_current = carrying),
  check (carrying = outstanding - unamortized_discount - unamortized_issue_costs + unamortized_premium)
);
create trigger reported_position_period_open after insert on reported_position
  referencing new table as added for each statement execute function period_must_be_open();
create trigger reported_position_append_only before update or delete on reported_position
  for each row execute function reject_change();
create trigger reported_position_no_truncate before truncate on reported_position execute function reject_change();
`;
