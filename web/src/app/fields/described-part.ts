import type { Field, FreeField } from './field';
import type { FieldReader } from './field-reader';
import { listedAmounts, typedList } from '../typed/listed-amounts';
import { amountOf, countOf, dayOf, percentOf, risesOf } from './typed-text';

/** A part of a document, by its keys. */
export type Part = Record<string, unknown>;

/**
 * Reads what was typed into fields as the part of a document that they describe; what cannot be read is noted with the
 * `reader`, under keys beneath `under`. Fields that are not asked for are left out.
 */
export function partOf<Typed>(
  fields: readonly Field<Typed>[],
  typed: Typed,
  reader: FieldReader,
  under = '',
): Part {
  const part: Part = {};
  for (const field of fields) {
    if (field.key === undefined || field.when?.(typed) === false) continue;
    const value = valueOf(
      field,
      typed[field.control],
      reader,
      under === '' ? field.key : `${under}.${field.key}`,
    );
    if (value !== undefined) put(part, field.key.split('.'), value);
  }
  return part;
}

function valueOf<Typed>(field: Field<Typed>, typed: unknown, reader: FieldReader, key: string): unknown {
  if ('flag' in field) return typed === true ? true : undefined;
  if ('choices' in field) return typed === field.absent ? undefined : typed;
  const text = String(typed);
  if ('listed' in field) return listedAmounts(text, key, reader);
  if (field.optional && text.trim() === '') return undefined;
  if (field.solvable && text.trim() === '?') return '?';
  return readFree(field, text, reader, key);
}

function readFree<Typed>(
  { reads }: FreeField<Typed>,
  text: string,
  reader: FieldReader,
  key: string,
): string | number | readonly string[] | undefined {
  return reads === 'signed-rate' ? reader.signedRate(key, text) : reader[reads](key, text);
}

function put(part: Part, [first = '', ...rest]: readonly string[], value: unknown): void {
  if (rest.length === 0) part[first] = value;
  else put((part[first] ??= {}) as Part, rest, value);
}

/** What a part of a document says, as people type it into fields. A field of what it leaves out is left as it is. */
export function typedOf<Typed>(fields: readonly Field<Typed>[], part: object): Partial<Typed> {
  const typed: Part = {};
  for (const field of fields) {
    if (field.key === undefined) continue;
    const said = at(part, field.key.split('.'));
    // A control of several fields holds what one of them says.
    if (said !== undefined || !(field.control in typed)) {
      const text = textOf(field, said);
      if (text !== undefined) typed[field.control] = text;
    }
  }
  return typed as Partial<Typed>;
}

function textOf<Typed>(field: Field<Typed>, value: unknown): unknown {
  if ('flag' in field) return value ?? false;
  if ('choices' in field) return value ?? field.absent ?? field.default;
  if ('listed' in field)
    return value === undefined ? undefined : typedList(value as Parameters<typeof typedList>[0]);
  const text = typeof value === 'string' || typeof value === 'number' ? String(value) : undefined;
  switch (field.reads) {
    case 'amount':
      return amountOf(text);
    case 'count':
      return countOf(text);
    case 'day':
      return dayOf(text);
    case 'days':
      return Array.isArray(value) ? value.map((day) => dayOf(String(day))).join(', ') : '';
    case 'rate':
    case 'signed-rate':
      return percentOf(text);
    case 'price':
      return percentOf(text);
    case 'rise':
      return risesOf(text);
    case 'text':
      return text ?? '';
  }
}

function at(part: unknown, [first, ...rest]: readonly string[]): unknown {
  if (first === undefined || typeof part !== 'object' || part === null)
    return first === undefined ? part : undefined;
  return at((part as Part)[first], rest);
}
