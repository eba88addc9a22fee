/** The address of a call: its path with `:name` filled in, and its query. */
export function addressOf(
  path: string,
  params: Readonly<Record<string, string>> = {},
  query: Readonly<Record<string, string | undefined>> = {},
): string {
  const filled = path.replaceAll(/:(\w+)/g, (_, name: string) => encodeURIComponent(params[name] ?? ''));
  const asked = Object.entries(query).filter((pair): pair is [string, string] => pair[1] !== undefined);
  const parts = asked.map((pair) => pair.map(encodeURIComponent).join('='));
  return parts.length === 0 ? filled : `${filled}?${parts.join('&')}`;
}
