import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pdfmake from 'pdfmake';
import type { TDocumentDefinitions } from 'pdfmake/interfaces';
import type { Count } from '@coffer/core';
import { inHabits, type PortfolioView, type PublishedRow } from '@coffer/contract';
import { writeCsv } from '../../http/csv.ts';
import { closePaper, type ClosePaperContext } from '../../periods/paper/close-paper.ts';
import type { CloseRecord } from '../../periods/paper/close-record.ts';
import { portfolioPaper, type PortfolioPaperContext } from '../../portfolio/portfolio-paper.ts';
import type { InstrumentRecord, PaperRecord } from './instrument-record.ts';
import { scheduleWorkbook } from './schedule-workbook.ts';
import { workingPaper, type PaperContext } from './working-paper.ts';

// One font with Latin, Greek and Cyrillic letters, since lenders and instruments have names of their own.
const regular = fileURLToPath(import.meta.resolve('pdfmake/fonts/Roboto/Roboto-Regular.ttf'));
const fonts = dirname(regular);
const bold = join(fonts, 'Roboto-Medium.ttf');
pdfmake.setFonts({ Sans: { normal: regular, bold } });
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path: string) => path.startsWith(fonts));

/** What the worker is given: what a file is made of, worked out by others; it only sets it. */
export type FileTask =
  | { readonly file: 'close-paper'; readonly record: CloseRecord; readonly context: ClosePaperContext }
  | {
      readonly file: 'portfolio-paper';
      readonly view: PortfolioView;
      readonly context: PortfolioPaperContext;
    }
  | { readonly file: 'working-paper'; readonly record: PaperRecord; readonly context: PaperContext }
  | { readonly file: 'workbook'; readonly record: InstrumentRecord; readonly version: Count }
  | { readonly file: 'csv'; readonly rows: readonly PublishedRow[] };

/** Makes a file. */
export default async function makeFile(task: FileTask): Promise<Uint8Array> {
  if (task.file === 'csv') return new TextEncoder().encode(scheduleCsv(task.rows));
  if (task.file === 'workbook') return scheduleWorkbook(task.record, task.version);
  return pdfmake.createPdf(inHabits(task.context.habits, () => paperOf(task))).getBuffer();
}

type PaperTask = Extract<FileTask, { readonly context: unknown }>;

function paperOf(task: PaperTask): TDocumentDefinitions {
  if (task.file === 'portfolio-paper') return portfolioPaper(task.view, task.context);
  if (task.file === 'close-paper') return closePaper(task.record, task.context);
  return workingPaper(task.record, task.context);
}

function scheduleCsv(rows: readonly PublishedRow[]): string {
  const columns = [...new Set(rows.flatMap((row) => Object.keys(row)))];
  return writeCsv(columns, rows);
}
