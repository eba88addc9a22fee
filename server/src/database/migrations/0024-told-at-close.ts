import { byMonth, sealsHeldAgainst, sealsOfMonths } from './0023-seals.ts';

const byMonthNow = { ...byMonth, told_at_close: 'instrument_id' };

/**
 * What a close told of an instrument beside its figures: how and why it differs from the month before, which payments
 * were not recorded, which rates not fixed. It stays as it was approved, whatever is withdrawn or worked out otherwise
 * later. Months that were closed before have no such rows.
 */
export const toldAtClose = /* sql */ `
create table told_at_close (
  company_id int not null,
  period_end date not null,
  instrument_id uuid not null references instrument,
  told jsonb not null check (jsonb_typeof(told) = 'object'),
  primary key (company_id, period_end, instrument_id),
  foreign key (company_id, period_end) references period (company_id, ends_on)
);
create trigger told_at_close_period_open after insert on told_at_close
  referencing new table as added for each statement execute function period_must_be_open();
create trigger told_at_close_append_only before update or delete on told_at_close
  for each row execute function reject_change();
create trigger told_at_close_no_truncate before truncate on told_at_close execute function reject_change();
grant select, insert on told_at_close to coffer;

${sealsOfMonths(byMonthNow, 'create or replace')}
${sealsHeldAgainst(byMonthNow, 'create or replace')}
`;
