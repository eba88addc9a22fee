export * from './document/bond-document.ts';
export * from './document/instrument-document.ts';
export * from './document/loan-document.ts';
export * from './document/read-instrument.ts';
export * from './document/scalars.ts';
export * from './document/schedule-json.ts';
export * from './faults/fault.ts';
