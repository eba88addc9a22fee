import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import pdfmake from 'pdfmake';
import { readInstrument } from '@coffer/contract';
import { workingPaper, type PaperContext } from './working-paper.ts';

/** A font of the application, in the form that a PDF can hold. */
function font(family: string, weight: number): string {
  const file = `@fontsource/${family}/files/${family}-latin-${weight}-normal.woff`;
  return fileURLToPath(import.meta.resolve(file));
}

pdfmake.setFonts({
  Sans: { normal: font('public-sans', 400), bold: font('public-sans', 600) },
  Serif: { normal: font('source-serif-4', 600) },
});
const folders = ['public-sans', 'source-serif-4'].map((family) => dirname(font(family, 400)));
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path: string) => folders.some((folder) => path.startsWith(folder)));

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
