/** How long an address of what is in memory lasts once it is followed, milliseconds. */
const lasts = 10_000;

/** Hands a file to the browser, which keeps it where its downloads go. */
export function saveFile(name: string, content: Blob): void {
  const address = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), lasts);
}

/** The name that an answer gives its file. Source: RFC 6266, 4.3, and RFC 8187. */
export function nameOfFile(disposition: string): string {
  const extended = /filename\*=UTF-8''([^;]+)/i.exec(disposition)?.[1];
  if (extended !== undefined) return decodeURIComponent(extended);
  return /filename="?([^";]+)"?/i.exec(disposition)?.[1] ?? 'file';
}
