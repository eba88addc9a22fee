import { Habits } from '@coffer/contract';
import type { AccountRole, Instrument } from '@coffer/core';
import type {
  BondScheduleJson,
  Fault,
  LoanScheduleJson,
  PublishedRow,
  PublishedSchedule,
} from '@coffer/contract';
import type { LifeSpans, RenewedSpan } from '../timeline/stretch-spans';

/** A row of a schedule in its published form. */
export type PreviewRow = PublishedRow;

/** What only schedules of some kinds have. */
type Own<Json extends PublishedSchedule> = Partial<Omit<Json, keyof PublishedSchedule>>;

/** A schedule worked out from typed terms, in its published form. */
export interface SchedulePreview extends PublishedSchedule, Own<LoanScheduleJson>, Own<BondScheduleJson> {
  readonly kind: Instrument['kind'];
  /** What its columns are called, by their keys; not part of the published form. */
  readonly titles: Readonly<Record<string, string>>;
  /** Payments in which something is paid; not part of the published form. */
  readonly paymentsMade?: number;
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
  /** How figures are written in what it says. */
  readonly habits: Habits;
}

/** Either the schedule with its issue entry, or what is wrong. */
export type PreviewAnswer = { readonly number: number } & (
  | {
      readonly ok: true;
      readonly schedule: SchedulePreview;
      readonly issue: readonly PreviewLine[];
      /** What was asked for, beside the figures that every one of its kind has. */
      readonly headline: readonly (readonly [string, string])[];
      /** What is right as it is typed and seldom meant. */
      readonly surprises: readonly string[];
      readonly life?: LoanLife;
    }
  | { readonly ok: false; readonly faults: readonly Fault[] }
);
