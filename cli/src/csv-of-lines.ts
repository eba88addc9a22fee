import { csvForm } from '@coffer/contract';

/** How the command line writes CSV: a line ends as lines do here. */
export const csvOfLines = { ...csvForm, record_delimiter: 'unix' } as const;
