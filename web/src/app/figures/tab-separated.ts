import { habitsNow, numberHabits } from '@coffer/contract';

/**
 * Lines of cells as tab-separated text; figures lose their thousands separators, and keep the mark before decimals that the
 * company writes, so that they can be reckoned with.
 */
export function asTabSeparated(lines: readonly (readonly string[])[]): string {
  return lines.map((line) => line.map(plain).join('\t')).join('\n');
}

function plain(text: string): string {
  const { group, mark } = numberHabits[habitsNow().numbers];
  const bare = text.replace(/^\((.*)\)$/, '−$1').replaceAll(group, '');
  const [whole = '', decimals = '0', ...more] = bare.split(mark);
  if (/^−?\d+$/.test(whole) && /^\d+$/.test(decimals) && more.length === 0) return bare.replace('−', '-');
  return text === '–' ? '0' : text.replaceAll(/\s+/g, ' ');
}
