/**
 * A correction, and an opening, says which closed month it stands for; a closed month keeps how many instruments were
 * settled and how many reversals the next one opened with, so that it never tells otherwise later.
 */
export const correctionsByMonth = /* sql */ `
alter table entry add column for_period date;
alter table entry disable trigger entry_append_only;
update entry set for_period = (date_trunc('month', date) - interval '1 day')::date
  where kind in ('opening', 'correction');
alter table entry enable trigger entry_append_only;
alter table entry add constraint for_an_earlier_period check (for_period < date);
alter table period add column settled int, add column reversals int;
alter table period disable trigger period_keeps_closed;
update period set settled = 0, reversals = (
    select count(*) from entry
      where entry.company_id = period.company_id and kind = 'reversal' and date = period.ends_on + 1)
  where state = 'closed';
alter table period enable trigger period_keeps_closed;
`;
