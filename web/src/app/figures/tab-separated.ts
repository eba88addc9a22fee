/** Lines of cells as tab-separated text; figures lose their thousands separators so that they can be reckoned with. */
export function asTabSeparated(lines: readonly (readonly string[])[]): string {
  return lines.map((line) => line.map(plain).join('\t')).join('\n');
}

function plain(text: string): string {
  if (/^−?[\d,]+(\.\d+)?$/.test(text)) return text.replaceAll(',', '').replace('−', '-');
  return text === '–' ? '0' : text.replaceAll(/\s+/g, ' ');
}
