import { inject, Injectable, signal } from '@angular/core';
import * as v from 'valibot';
import { comparedFigures } from '@coffer/core';
import type { DifferenceLine } from '@coffer/contract';
import { CompanyService } from '../../company/company.service';
import { KeptInBrowser } from '../../session/kept-in-browser';

const kept = v.record(v.string(), v.string());

/** Figures of a line, by which it is told whether it is still the one that was looked at. */
const signatureOf = (line: DifferenceLine): string =>
  comparedFigures.map((figure) => `${line[figure].now} ${line[figure].change}`).join(' ');

/** The lines of a month that somebody has looked at, kept in this browser; one that changes is to be looked at anew. */
@Injectable()
export class LookedAt {
  private readonly browser = inject(KeptInBrowser);
  private readonly company = inject(CompanyService);
  private readonly marks = signal<Readonly<Record<string, string>>>({});
  private month = '';

  /** Takes up what was marked of a month. */
  of(endsOn: string): void {
    this.month = `${this.company.company()?.id ?? 0}.${endsOn}`;
    this.marks.set(this.browser.restore('looked-at', this.month, (text) => v.parse(kept, text)) ?? {});
  }

  has(line: DifferenceLine): boolean {
    return this.marks()[line.id] === signatureOf(line);
  }

  toggle(line: DifferenceLine): void {
    const { [line.id]: was, ...others } = this.marks();
    const now = was === signatureOf(line) ? others : { ...others, [line.id]: signatureOf(line) };
    this.marks.set(now);
    this.browser.keep('looked-at', this.month, now);
  }
}
