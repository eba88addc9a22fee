import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pdfmake from 'pdfmake';
import { readInstrument } from '@coffer/contract';
import { workingPaper, type PaperContext } from './working-paper.ts';

// One font with Latin, Greek and Cyrillic letters, since lenders and instruments have names of their own.
const regular = fileURLToPath(import.meta.resolve('pdfmake/fonts/Roboto/Roboto-Regular.ttf'));
const fonts = dirname(regular);
const bold = join(fonts, 'Roboto-Medium.ttf');
pdfmake.setFonts({ Sans: { normal: regular, bold } });
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path: string) => path.startsWith(fonts));

/** What the worker is given: an instrument's document and what stands around it. */
export interface PaperTask {
  readonly document: unknown;
  readonly context: PaperContext;
}

/** Makes the PDF of a working paper. */
export default async function makePaper({ document, context }: PaperTask): Promise<Uint8Array> {
  const reading = readInstrument(document);
  if (!reading.ok) throw new Error(`The document cannot be read: ${reading.faults[0]?.message ?? ''}`);
  return pdfmake.createPdf(workingPaper(reading.instrument, context)).getBuffer();
}
