import { expect, it } from 'vitest';
import { plainText } from '@coffer/contract';
import { parse } from 'csv-parse/sync';
import { writeCsv } from './csv.ts';

// A table that is opened elsewhere must not work anything out that a name says (OWASP, CSV injection).
it.each(['=1+1', '+1+1', '-1+1', '@sum', '\t=1', '\r=1', '＝1', '＋1', '－1', '＠1', ' =1', '\n=1'])(
  'text that begins as a formula stays text: %j',
  (text) => {
    expect(plainText(text)).toBe(`'${text}`);
  },
);

it.each(['-12.34', '-5', '12.34', 'Loan = 5', 'a-b', ''])(
  'amounts and plain words stay as they are: %j',
  (text) => {
    expect(plainText(text)).toBe(text);
  },
);

// RFC 4180, sections 2.5 to 2.7: fields with commas, quotes or line breaks stand in quotes, a quote twice.
it('a field that holds a comma, a quote or a break is quoted', () => {
  const rows = [{ name: 'Loan, "the long one"\nof May', amount: '-1.00', gone: undefined }];
  expect(writeCsv(['name', 'amount', 'gone'], rows)).toBe(
    'name,amount,gone\r\n"Loan, ""the long one""\nof May",-1.00,\r\n',
  );
});

// Programs part cells by what a country writes decimals with; what is in quotes is one cell to all of them.
it.each(['Loan;=1+1', 'Loan\t=1+1', "'=1+1", '"=1+1"', '=1;2', ' =1', '+49 30', 'x;'])(
  'a text is one cell, and begins no formula, whatever parts cells: %j',
  (text) => {
    const csv = writeCsv(['name'], [{ name: text }]);
    for (const delimiter of [',', ';', '\t'])
      expect(parse(csv, { delimiter, from_line: 2 })).toEqual([[plainText(text)]]);
  },
);
