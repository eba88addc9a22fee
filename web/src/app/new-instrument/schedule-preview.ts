import type { AccountRole } from '@coffer/core';
import type { Fault } from '@coffer/contract';

/** A row of a schedule in its published form: amounts as plain decimals. */
export type PreviewRow = Readonly<Record<string, string | number | null>>;

/** A schedule worked out from typed terms, in its published form. */
export interface SchedulePreview {
  readonly kind: 'loan' | 'bond';
  readonly rows: readonly PreviewRow[];
  readonly totals: Readonly<Record<string, string>>;
  readonly proofs: readonly { readonly name: string; readonly holds: boolean; readonly difference: string }[];
  readonly notices?: readonly { readonly on: string; readonly stated: string; readonly applied: string }[];
  readonly regularPayment?: string | null;
  readonly paymentCount?: number;
  readonly finalPayment?: string;
  readonly clears?: string | null;
  readonly proceeds?: string;
  readonly price?: string;
  readonly effectiveRate?: string;
}

/** One line of the issue entry. */
export interface PreviewLine {
  readonly account: AccountRole;
  readonly debit: string;
  readonly credit: string;
}

/** What is asked of the worker, and answered under the same number. */
export interface PreviewQuestion {
  readonly number: number;
  readonly document: object;
}

/** Either the schedule with its issue entry, or what is wrong. */
export type PreviewAnswer = { readonly number: number } & (
  | { readonly ok: true; readonly schedule: SchedulePreview; readonly issue: readonly PreviewLine[] }
  | { readonly ok: false; readonly faults: readonly Fault[] }
);
