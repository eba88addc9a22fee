import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pdfmake from 'pdfmake';
import { inHabits, scheduleJson, type PortfolioView, type ReadInstrument } from '@coffer/contract';
import { writeCsv } from '../../http/csv.ts';
import { closePaper, type ClosePaperContext } from '../../periods/paper/close-paper.ts';
import type { CloseRecord } from '../../periods/paper/close-record.ts';
import { portfolioPaper, type PortfolioPaperContext } from '../../portfolio/portfolio-paper.ts';
import { knownInstrument, type StoredVersion } from '../known-instruments.ts';
import { scheduleWorkbook } from './schedule-workbook.ts';
import { workingPaper, type PaperContext } from './working-paper.ts';

// One font with Latin, Greek and Cyrillic letters, since lenders and instruments have names of their own.
const regular = fileURLToPath(import.meta.resolve('pdfmake/fonts/Roboto/Roboto-Regular.ttf'));
const fonts = dirname(regular);
const bold = join(fonts, 'Roboto-Medium.ttf');
pdfmake.setFonts({ Sans: { normal: regular, bold } });
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path: string) => path.startsWith(fonts));

/** What the worker is given: a portfolio or a close for a paper, or an instrument and which file is made of it. */
export type FileTask = PortfolioTask | CloseTask | InstrumentTask;

interface CloseTask {
  readonly file: 'close-paper';
  readonly record: CloseRecord;
  readonly context: ClosePaperContext;
}

interface PortfolioTask {
  readonly file: 'portfolio-paper';
  readonly view: PortfolioView;
  readonly context: PortfolioPaperContext;
}

type InstrumentTask = { readonly version: StoredVersion } & (
  | {
      readonly file: 'working-paper';
      readonly context: PaperContext;
      /** The newest version, where the paper is of what an earlier one reported. */
      readonly newest?: StoredVersion | undefined;
    }
  | { readonly file: 'workbook' | 'csv' }
);

/** Makes a file. */
export default async function makeFile(task: FileTask): Promise<Uint8Array> {
  if (task.file === 'portfolio-paper') {
    const { view, context } = task;
    return pdfmake.createPdf(inHabits(context.habits, () => portfolioPaper(view, context))).getBuffer();
  }
  if (task.file === 'close-paper') {
    const { record, context } = task;
    return pdfmake.createPdf(inHabits(context.habits, () => closePaper(record, context))).getBuffer();
  }
  const instrument = knownInstrument(task.version);
  if (task.file === 'working-paper') {
    const newest = task.newest && knownInstrument(task.newest);
    const { context } = task;
    const paper = inHabits(context.habits, () => workingPaper(instrument, context, newest));
    return pdfmake.createPdf(paper).getBuffer();
  }
  return task.file === 'csv'
    ? new TextEncoder().encode(scheduleCsv(instrument))
    : scheduleWorkbook(instrument);
}

function scheduleCsv({ schedule }: Pick<ReadInstrument, 'schedule'>): string {
  const { rows } = scheduleJson(schedule);
  const columns = [...new Set(rows.flatMap((row) => Object.keys(row)))];
  return writeCsv(columns, rows);
}
