import { existsSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expect, it } from 'vitest';

const root = fileURLToPath(new URL('../../../', import.meta.url));

// What a document shows something by is there to be looked at.
it('docs/security.md names no file that is gone', () => {
  const told = readFileSync(`${root}docs/security.md`, 'utf8');
  const named = [...told.matchAll(/`([\w./-]+\.(?:ts|mjs|sh|json|md))`/g)].map(([, file = '']) => file);
  expect(named.length).toBeGreaterThan(80);
  const gone = named.filter((file) => !existsSync(root + file) && !existsSync(`${root}server/src/${file}`));
  expect(gone.filter((file) => file !== 'company.json' && !existsSync(`${root}web/src/app/${file}`))).toEqual(
    [],
  );
});
