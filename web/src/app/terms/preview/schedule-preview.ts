import type { AccountRole } from '@coffer/core';
import type { Fault } from '@coffer/contract';
import type { LifeSpans, RenewedSpan } from '../timeline/stretch-spans';

/** A row of a schedule in its published form: amounts as plain decimals. */
export type PreviewRow = Readonly<Record<string, string | number | null>>;

/** A schedule worked out from typed terms, in its published form. */
export interface SchedulePreview {
  readonly kind: 'loan' | 'credit-line' | 'bond';
  readonly rows: readonly PreviewRow[];
  readonly totals: Readonly<Record<string, string>>;
  readonly proofs: readonly { readonly name: string; readonly holds: boolean; readonly difference: string }[];
  readonly notices?: readonly { readonly on: string; readonly kind: string; readonly message: string }[];
  readonly solved?: Readonly<Record<string, string | number>>;
  readonly left?: string;
  readonly purchase?: { readonly financeCost: string };
  readonly regularPayment?: string | null;
  readonly paymentCount?: number;
  /** Those of a loan in which something is paid; not part of the published form. */
  readonly paymentsMade?: number;
  readonly finalPayment?: string;
  readonly clears?: string | null;
  readonly proceeds?: string;
  readonly price?: string;
  readonly effectiveRate?: string;
  /** The rate of the price, where expense runs at another. */
  readonly yield?: string;
  readonly accruedReceived?: string;
  readonly issueCosts?: string;
  /** Negative for a premium. */
  readonly discount?: string;
  readonly discountOfFace?: string;
}

/** One line of the issue entry. */
export interface PreviewLine {
  readonly account: AccountRole;
  readonly debit: string;
  readonly credit: string;
}

/** Where the stretches of a loan lie in time, and the days payments fall due. */
export interface LoanLife extends LifeSpans {
  readonly renewals: readonly (RenewedSpan & { readonly payment: string | null })[];
  readonly dues: readonly number[];
  /** Payment of each stretch as it was set, where it was set as an amount; plain decimals. */
  readonly payments: readonly (string | null)[];
}

/** What is asked of the worker, and answered under the same number. */
export interface PreviewQuestion {
  readonly number: number;
  readonly document: object;
}

/** Either the schedule with its issue entry, or what is wrong. */
export type PreviewAnswer = { readonly number: number } & (
  | {
      readonly ok: true;
      readonly schedule: SchedulePreview;
      readonly issue: readonly PreviewLine[];
      readonly life?: LoanLife;
    }
  | { readonly ok: false; readonly faults: readonly Fault[] }
);
