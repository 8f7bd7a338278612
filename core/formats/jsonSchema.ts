/** JSON Schema of the workflow format, made from the same schema that reads it. */
import { z } from 'zod';
import { Definition, formatVersion } from '../workflow/index.ts';

export function workflowJsonSchema(): Record<string, unknown> {
  const schema = z.toJSONSchema(Definition, {
    io: 'input',
    unrepresentable: 'any',
    reused: 'ref',
    target: 'draft-2020-12',
  });
  return {
    ...schema,
    title: `North Pebble workflow, format ${formatVersion}`,
    description:
      'A workflow as one document: opening, form, access, figures, steps, messages, closings, notes and kept checks.',
  };
}
