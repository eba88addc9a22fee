import { NoTable, tablesOfFile, type FileTable } from './table-of-file';

/** What reading a file came to. */
export type SheetAnswer = { readonly tables: readonly FileTable[] } | { readonly failed: string };

addEventListener('message', ({ data }: MessageEvent<Uint8Array<ArrayBuffer>>) => {
  tablesOfFile(data).then(
    (tables) => postMessage({ tables } satisfies SheetAnswer),
    (error: unknown) => {
      const failed = error instanceof NoTable ? error.message : 'This file cannot be read as a table.';
      postMessage({ failed } satisfies SheetAnswer);
    },
  );
});
