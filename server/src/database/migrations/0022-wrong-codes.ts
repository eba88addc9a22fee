/** Wrong codes of a second factor: how many in a row, until when the next is waited for, and since the last log-in. */
export const wrongCodes = /* sql */ `
alter table second_factor
  add column wrong_in_row int not null default 0 check (wrong_in_row >= 0),
  add column wait_until timestamptz,
  add column wrong_since int not null default 0 check (wrong_since >= 0);
`;
