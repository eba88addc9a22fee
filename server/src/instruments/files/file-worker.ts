import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pdfmake from 'pdfmake';
import { readInstrument } from '@coffer/contract';
import { scheduleWorkbook } from './schedule-workbook.ts';
import { workingPaper, type PaperContext } from './working-paper.ts';

// One font with Latin, Greek and Cyrillic letters, since lenders and instruments have names of their own.
const regular = fileURLToPath(import.meta.resolve('pdfmake/fonts/Roboto/Roboto-Regular.ttf'));
const fonts = dirname(regular);
const bold = join(fonts, 'Roboto-Medium.ttf');
pdfmake.setFonts({ Sans: { normal: regular, bold } });
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path: string) => path.startsWith(fonts));

/** What the worker is given: an instrument's document and which file is made of it. */
export type FileTask = { readonly document: unknown } & (
  | { readonly file: 'working-paper'; readonly context: PaperContext }
  | { readonly file: 'workbook'; readonly version: number }
);

/** Makes a file of an instrument. */
export default async function makeFile(task: FileTask): Promise<Uint8Array> {
  const reading = readInstrument(task.document);
  if (!reading.ok) throw new Error(`The document cannot be read: ${reading.faults[0]?.message ?? ''}`);
  const { instrument } = reading;
  return task.file === 'workbook'
    ? scheduleWorkbook({ ...instrument, version: task.version })
    : pdfmake.createPdf(workingPaper(instrument, task.context)).getBuffer();
}
