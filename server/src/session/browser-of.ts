const browsers: readonly [RegExp, string][] = [
  [/Edg\//, 'Edge'],
  [/OPR\//, 'Opera'],
  [/Firefox\//, 'Firefox'],
  [/Chrome\//, 'Chrome'],
  [/Safari\//, 'Safari'],
];
const systems: readonly [RegExp, string][] = [
  [/Android/, 'Android'],
  [/iPhone|iPad/, 'iOS'],
  [/Windows/, 'Windows'],
  [/Mac OS X/, 'macOS'],
  [/Linux/, 'Linux'],
];

/** A browser and its system in words, so that a person knows a session of their own again. */
export function browserOf(userAgent: string): string {
  const found = (list: readonly [RegExp, string][]): string | undefined =>
    list.find(([shape]) => shape.test(userAgent))?.[1];
  const browser = found(browsers) ?? 'Another program';
  const system = found(systems);
  return system === undefined ? browser : `${browser} on ${system}`;
}
