import { inject, Injectable } from '@angular/core';
import { downloads, endpoints, mostPaperBytes, type PaperView } from '@coffer/contract';
import { from, map, switchMap, throwError, type Observable } from 'rxjs';
import { ApiClient } from '../../api/api-client';
import { CompanyChoice } from '../../session/company-choice';

/** Reads, keeps and takes away the papers of an instrument. */
@Injectable({ providedIn: 'root' })
export class PapersService {
  private readonly api = inject(ApiClient);
  private readonly choice = inject(CompanyChoice);

  of(id: string): Observable<readonly PaperView[]> {
    return this.api.call(endpoints.papers, { params: { id } }).pipe(map(({ papers }) => papers));
  }

  keep(id: string, file: File): Observable<PaperView> {
    if (file.size > mostPaperBytes) {
      return throwError(
        () => new Error('It is larger than 25 MB. Bring it in parts, or scanned less finely.'),
      );
    }
    return from(file.arrayBuffer()).pipe(
      switchMap((bytes) =>
        this.api.call(endpoints.keepPaper, {
          params: { id },
          query: { name: file.name },
          body: new Uint8Array(bytes),
        }),
      ),
    );
  }

  takeAway(id: string, paper: string, reason: string): Observable<unknown> {
    return this.api.call(endpoints.takePaperAway, { params: { id, paper }, body: { reason } });
  }

  /** Where the bytes of a paper are fetched. */
  address(id: string, paper: string): string {
    return this.choice.file(downloads.paper, { id, paper }, {});
  }
}
