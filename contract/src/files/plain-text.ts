/** A figure as it is written into files: it is no formula, whatever sign it begins with. */
const figure = /^-?\d+(\.\d+)?$/;

/** How a formula begins, after spaces that a reader of tables may pass over; in full width too. */
const asFormula = /^\s*[=+\-@\t\r＝＋－＠]/;

/** Text that a reader of tables would take for a formula, marked so that it stays text. Source: OWASP, CSV Injection. */
export function plainText(text: string): string {
  return asFormula.test(text) && !figure.test(text) ? `'${text}` : text;
}

/**
 * How CSV is written: as RFC 4180 has it, and in quotes also what a program that parts cells by semicolons or tabs, or
 * takes a leading quote for the beginning of one, would read as more than one cell.
 */
export const csvForm = {
  record_delimiter: 'windows',
  cast: { string: plainText },
  quoted_match: /[;\t]|^\s*['"=+\-@＝＋－＠](?!\d+(\.\d+)?$)/,
} as const;
