// Writes the JSON Schemas of the instrument document and of published schedules and positions, and the description of the HTTP interface, into docs/;
// with --check only says whether what is there is what the validation schemas make.
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { register } from 'tsx/esm/api';

register();
const { documentJsonSchema, openApiDescription, publishedJsonSchemas } =
  await import('../contract/src/index.ts');
const { schedule, position } = publishedJsonSchemas();
const files = {
  'instrument-document.schema.json': documentJsonSchema(),
  'schedule.schema.json': schedule,
  'position.schema.json': position,
  'http-interface.openapi.json': openApiDescription(),
};
let stale = false;
for (const [name, made] of Object.entries(files)) {
  const path = fileURLToPath(new URL(`../docs/${name}`, import.meta.url));
  const text = `${JSON.stringify(made, null, 2)}\n`;
  if (!process.argv.includes('--check')) writeFileSync(path, text);
  else if (readFileSync(path, 'utf8') !== text) {
    stale = true;
    console.error(`docs/${name} is not what the schemas make; run node scripts/document-schema.mjs.`);
  }
}
process.exit(stale ? 1 : 0);
