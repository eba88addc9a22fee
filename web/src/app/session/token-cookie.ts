/**
 * The name of the anti-forgery cookie, as the server tells it with the page: several installations of one machine each have
 * their own. Pages that are served by what builds them are told nothing; they take the one that is there.
 */
export function tokenCookie(): string {
  const told = document.querySelector<HTMLMetaElement>('meta[name=coffer-token-cookie]')?.content ?? '';
  if (told.includes('XSRF-TOKEN')) return told;
  return /(?:^|; )([\w-]*XSRF-TOKEN[\w-]*)=/.exec(document.cookie)?.[1] ?? 'XSRF-TOKEN';
}
