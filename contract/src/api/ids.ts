import * as v from 'valibot';

/** An amount in minor units of the company's currency. */
export const minorUnits = v.pipe(v.number(), v.safeInteger());

/** The id of an instrument, or of a fund. */
export const instrumentId = v.pipe(v.string(), v.uuid('expected the id of an instrument.'));
