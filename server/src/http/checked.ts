import * as v from 'valibot';
import { faultsOf } from '@coffer/contract';
import { faultyInput } from './refusal.ts';

/** What was sent, read by its schema. Throws {@link Refusal} 422 with every fault. */
export function checked<S extends v.GenericSchema>(schema: S, value: unknown): v.InferOutput<S> {
  const read = v.safeParse(schema, value);
  if (!read.success) throw faultyInput(faultsOf(read.issues));
  return read.output;
}
