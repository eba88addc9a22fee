import type { Knex } from 'knex';
import type { Question } from '@coffer/contract';

/** What was asked and who asked it, about an instrument or the month. */
interface Asked {
  readonly about: string | null;
  readonly text: string;
  readonly by: string | null;
}

/** Letters of a comment that a question repeats. */
const repeated = 120;

/**
 * Comments on a month that nobody answered, each as a question to who approves it: the last word about an instrument or the
 * month is not that of who handed it over.
 */
export async function unansweredOn(database: Knex, companyId: number, endsOn: string): Promise<Question[]> {
  const { rows } = await database.raw<{ rows: Asked[] }>(
    `with last as (
       select distinct on (instrument_id) instrument_id, text, said_by, id from period_comment
         where company_id = :companyId and period_end = :endsOn order by instrument_id, id desc)
     select instrument.name as about, last.text, person.name as by from last
       left join instrument on instrument.id = last.instrument_id left join person on person.id = last.said_by
       where last.said_by is distinct from (select taken_by from period_step
         where company_id = :companyId and period_end = :endsOn and step = 'handed-over' order by id desc limit 1)
       order by last.id`,
    { companyId, endsOn },
  );
  return rows.map(({ about, text, by }) => ({
    code: 'comment-unanswered',
    key: '',
    message: `${by ?? 'Somebody'} said about ${about ?? 'the month'}, and had no answer: “${shortened(text)}”`,
  }));
}

function shortened(text: string): string {
  const letters = [...text];
  return letters.length <= repeated
    ? text
    : `${letters
        .slice(0, repeated - 1)
        .join('')
        .trimEnd()}…`;
}
