import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';
import { workflowJsonSchema } from '@north-pebble/core/formats';

test('the JSON Schema in docs/formats is the one that the code makes today', () => {
  const kept = JSON.parse(readFileSync(join('docs', 'formats', 'workflow.schema.json'), 'utf8')) as unknown;
  expect(kept).toEqual(JSON.parse(JSON.stringify(workflowJsonSchema())));
});
