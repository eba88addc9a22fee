import { Injectable } from '@angular/core';
import { from, map, Observable, switchMap } from 'rxjs';
import type { SheetAnswer } from './sheet.worker';
import type { FileTable } from './table-of-file';

/** Milliseconds after which a file is given up. */
const patience = 60_000;

/** What a file holds. */
export type FileContent = Exclude<SheetAnswer, { readonly failed: string }>;

/** Reads tables and documents from files, in a worker of its own for each, which a hostile file may bring down alone. */
@Injectable({ providedIn: 'root' })
export class SheetReader {
  /** What a file holds. Fails with what is wrong with it, for people. */
  open(file: File): Observable<FileContent> {
    return from(file.arrayBuffer()).pipe(switchMap((bytes) => inWorker(new Uint8Array(bytes))));
  }

  /** The tables of a file, by sheet. Fails alike, and where it is a ZIP of documents. */
  read(file: File): Observable<readonly FileTable[]> {
    return this.open(file).pipe(
      map((content) => {
        if ('tables' in content) return content.tables;
        throw new Error('This is a ZIP and no table. Documents of instruments are read at “Take on many”.');
      }),
    );
  }
}

function inWorker(bytes: Uint8Array<ArrayBuffer>): Observable<FileContent> {
  return new Observable((out) => {
    const worker = new Worker(new URL('./sheet.worker', import.meta.url), { type: 'module' });
    const giveUp = setTimeout(
      () => out.error(new Error('Reading the file takes more than a minute. Bring it in parts.')),
      patience,
    );
    worker.addEventListener('message', ({ data }: MessageEvent<SheetAnswer>) => {
      if ('failed' in data) out.error(new Error(data.failed));
      else {
        out.next(data);
        out.complete();
      }
    });
    worker.addEventListener('error', () => out.error(new Error('This file cannot be read as a table.')));
    worker.postMessage(bytes, [bytes.buffer]);
    return () => {
      clearTimeout(giveUp);
      worker.terminate();
    };
  });
}
