/** A place in the application, and the letter that leads there after `g`. */
export interface PagePlace {
  readonly path: string;
  readonly name: string;
  readonly key: string;
}

/** The places, in the order of the month's work. */
export const pages: readonly PagePlace[] = [
  { path: '/', name: 'Register', key: 'r' },
  { path: '/payments', name: 'Payments', key: 'p' },
  { path: '/portfolio', name: 'Portfolio', key: 'o' },
  { path: '/plan', name: 'Paydown plan', key: 'd' },
  { path: '/close', name: 'Period close', key: 'c' },
  { path: '/journal', name: 'Journal', key: 'j' },
  { path: '/instruments/new', name: 'New instrument', key: 'n' },
];
