import { documentsOfZip, isZipOfDocuments, type PackedDocument } from './documents-of-zip';
import { NoTable } from './no-table';
import { tablesOfFile, type FileTable } from './table-of-file';

/** What reading a file came to. */
export type SheetAnswer =
  | { readonly tables: readonly FileTable[] }
  | { readonly documents: readonly PackedDocument[] }
  | { readonly failed: string };

async function answer(bytes: Uint8Array<ArrayBuffer>): Promise<SheetAnswer> {
  try {
    if (isZipOfDocuments(bytes)) return { documents: documentsOfZip(bytes) };
    return { tables: await tablesOfFile(bytes) };
  } catch (error) {
    return { failed: error instanceof NoTable ? error.message : 'This file cannot be read as a table.' };
  }
}

addEventListener('message', ({ data }: MessageEvent<Uint8Array<ArrayBuffer>>) => {
  void answer(data).then((read) => postMessage(read));
});
