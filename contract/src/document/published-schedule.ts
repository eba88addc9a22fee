/** What stands in a cell of a published row: an amount as a plain decimal, a day as `YYYY-MM-DD`, a number or a word. */
export type PublishedCell = string | number | null;

/** A row of a schedule in its published form, by the keys of its columns. */
export type PublishedRow = Readonly<Record<string, PublishedCell>>;

/** A proof in its published form. */
export interface PublishedProof {
  readonly name: string;
  readonly holds: boolean;
  readonly difference: string;
}

/** What did not go as the terms say, in its published form. */
export interface PublishedNotice {
  readonly on: string;
  readonly kind: string;
  readonly message: string;
}

/** What the published schedules of all kinds have. */
export interface PublishedSchedule {
  readonly kind: string;
  /** What was left open in the terms, worked out. */
  readonly solved?: Readonly<Record<string, string | number | undefined>>;
  readonly rows: readonly PublishedRow[];
  /** Of the rows that were asked for, where only some were. */
  readonly range?: Readonly<Record<string, string | number>>;
  readonly totals: Readonly<Record<string, string>>;
  /** What a debt and the fund that repays it come to. */
  readonly together?: Readonly<Record<string, string>>;
  readonly notices?: readonly PublishedNotice[];
  readonly proofs: readonly PublishedProof[];
}
