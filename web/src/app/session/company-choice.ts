import type { HttpInterceptorFn } from '@angular/common/http';
import { inject, Injectable, signal } from '@angular/core';
import { companyHeader, companyParameter, downloadAddress, type Download } from '@coffer/contract';
import type * as v from 'valibot';

const keptAs = 'coffer.company';

function kept(): number | undefined {
  // Each window has a company of its own; a new one begins with the last that was chosen in any.
  const text = sessionStorage.getItem(keptAs) ?? localStorage.getItem(keptAs);
  return text === null ? undefined : Number(text);
}

/** The company that this window works for; every call and every file says which. */
@Injectable({ providedIn: 'root' })
export class CompanyChoice {
  private readonly current = signal(kept());
  readonly chosen = this.current.asReadonly();

  choose(companyId: number): void {
    if (companyId !== this.current()) sessionStorage.removeItem('coffer.as-of');
    sessionStorage.setItem(keptAs, String(companyId));
    localStorage.setItem(keptAs, String(companyId));
    this.current.set(companyId);
  }

  /** Keeps to the chosen one where it is among these, else takes the first. */
  among(companyIds: readonly number[]): void {
    const chosen = this.current();
    const [first] = companyIds;
    if (first !== undefined && (chosen === undefined || !companyIds.includes(chosen))) this.choose(first);
  }

  /** The address of a file of the company. */
  file<Of extends Download>(
    of: Of,
    params: v.InferInput<Of['params']>,
    query: v.InferInput<Of['query']>,
  ): string {
    const address = downloadAddress(of, params, query);
    const chosen = this.current();
    if (chosen === undefined) return address;
    return `${address}${address.includes('?') ? '&' : '?'}${companyParameter}=${chosen}`;
  }
}

/** Says with each call which company it is about. */
export const companyInterceptor: HttpInterceptorFn = (request, next) => {
  const chosen = inject(CompanyChoice).chosen();
  return next(
    chosen === undefined ? request : request.clone({ setHeaders: { [companyHeader]: String(chosen) } }),
  );
};
