/** `npm run formats`: writes the JSON Schema of the workflow format to docs/formats, made from the schema that reads it. */
import { writeFileSync } from 'node:fs';
import { workflowJsonSchema } from '@north-pebble/core/formats';

const path = new URL('../../docs/formats/workflow.schema.json', import.meta.url);
writeFileSync(path, `${JSON.stringify(workflowJsonSchema(), null, 2)}\n`);
process.stdout.write(`${path.pathname.split('/').slice(-3).join('/')}\n`);
