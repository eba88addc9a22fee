import { Injectable } from '@angular/core';
import { from, Observable, switchMap } from 'rxjs';
import type { SheetAnswer } from './sheet.worker';
import type { FileTable } from './table-of-file';

/** Milliseconds after which a file is given up. */
const patience = 60_000;

/** Reads tables from files, in a worker of its own for each, which a hostile file may bring down alone. */
@Injectable({ providedIn: 'root' })
export class SheetReader {
  /** The tables of a file, by sheet. Fails with what is wrong with it, for people. */
  read(file: File): Observable<readonly FileTable[]> {
    return from(file.arrayBuffer()).pipe(switchMap((bytes) => inWorker(new Uint8Array(bytes))));
  }
}

function inWorker(bytes: Uint8Array<ArrayBuffer>): Observable<readonly FileTable[]> {
  return new Observable((out) => {
    const worker = new Worker(new URL('./sheet.worker', import.meta.url), { type: 'module' });
    const giveUp = setTimeout(
      () => out.error(new Error('Reading the file takes more than a minute. Bring it in parts.')),
      patience,
    );
    worker.addEventListener('message', ({ data }: MessageEvent<SheetAnswer>) => {
      if ('failed' in data) out.error(new Error(data.failed));
      else {
        out.next(data.tables);
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
