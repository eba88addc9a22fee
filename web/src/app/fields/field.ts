/** Values to choose from, each with its name. */
export type Choices = readonly (readonly [value: string, name: string])[];

/** What a form knows beyond what is typed into it. */
export interface Told {
  readonly currency: string;
  /** What was worked out for a field that is left open, as people read it; empty where nothing was. */
  readonly worked: (control: string) => string;
  /** The company's reference rates: names, and what is said of one. */
  readonly indexes?: readonly ToldIndex[];
  /** The company's closed days, as they are typed. */
  readonly closedDays?: string;
}

/** A reference rate, and what is said of it. */
export interface ToldIndex {
  readonly name: string;
  readonly last: string;
}

interface Described<Typed> {
  /** The form's name of it. */
  readonly control: Extract<keyof Typed, string>;
  /** The document's key, beneath the key of the part; none for what only decides which fields are asked. */
  readonly key?: string;
  readonly label: string | ((typed: Typed, told: Told) => string);
  /** Whether it is asked for; always, unless this says otherwise. */
  readonly when?: (typed: Typed) => boolean;
  /** Further keys of the document whose faults are said at this field. */
  readonly faults?: readonly string[];
}

/** How what is typed freely is read. */
export type Reads = 'amount' | 'count' | 'day' | 'days' | 'price' | 'rate' | 'rise' | 'signed-rate' | 'text';

/** A field that people type into freely. */
export interface FreeField<Typed> extends Described<Typed> {
  readonly reads: Reads;
  /** Whether it may stay empty. */
  readonly optional?: boolean;
  /** Whether it may hold `?`, to have it worked out. */
  readonly solvable?: boolean;
  /** What an empty field means. */
  readonly empty?: string;
  /** What is said beneath it, where that is not just what was understood. */
  readonly hint?: (typed: Typed, told: Told) => string;
  readonly placeholder?: string;
  /** What is offered while it is typed into. */
  readonly offers?: (told: Told) => readonly string[];
}

/** A field with a few values to choose from. */
export interface ChosenField<Typed> extends Described<Typed> {
  readonly choices: Choices;
  /** The value that the document leaves out. */
  readonly absent?: string;
  /** What a document means that leaves out what the form writes. */
  readonly default?: string;
}

/** A field that is on or off; the document leaves out what is off. */
export interface FlagField<Typed> extends Described<Typed> {
  readonly flag: true;
}

/** Days and amounts, one a line. */
export interface ListedFieldOf<Typed> extends Described<Typed> {
  readonly listed: true;
}

/** One field of a form: where it stands in form and document, how it is called and how it is read. */
export type Field<Typed> = FreeField<Typed> | ChosenField<Typed> | FlagField<Typed> | ListedFieldOf<Typed>;

/** Fields beside each other, or words between fields. */
export type Row<Typed> = readonly Field<Typed>[] | ((typed: Typed) => string);

/** Rows of fields; under a title they can be folded away. */
export interface Section<Typed> {
  readonly title?: string;
  /** Whether what is folded away says something, and is shown. */
  readonly open?: (typed: Typed) => boolean;
  /** Keys of the document beside its fields' own whose faults are mended in it: with one it is shown. */
  readonly faults?: readonly string[];
  readonly rows: readonly Row<Typed>[];
}

/** All fields of some sections, in order. */
export function fieldsOf<Typed>(sections: readonly Section<Typed>[]): readonly Field<Typed>[] {
  return sections.flatMap(({ rows }) => rows.flatMap((row) => (typeof row === 'function' ? [] : row)));
}
