const everyWords: Readonly<Record<string, string>> = {
  week: 'weekly',
  'two-weeks': 'every two weeks',
  'half-month': 'twice a month',
  month: 'monthly',
  'two-months': 'every two months',
  'four-months': 'every four months',
  quarter: 'quarterly',
  'half-year': 'half-yearly',
  year: 'yearly',
};

/** A frequency in words, such as `half-yearly`. */
export function frequencyInWords(every: string): string {
  return everyWords[every] ?? every;
}
