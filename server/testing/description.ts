/**
 * Answers held against the description of the API, as others read it. It takes seconds to make ready, so that it is done
 * where every route is tried.
 */
import { openApi } from '@north-pebble/contract/openapi';
import { methodOf, pathOf } from '@north-pebble/contract/routes';
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import formats from 'ajv-formats';
import { type AlsoHeld, holdAlso } from './answers.ts';

type Operation = { responses: Record<string, { content?: Record<string, { schema?: { $ref: string } }> }> };
type Document = { paths: Record<string, Record<string, Operation>> };

/** From here on answers are held against the description too. @returns the routes that were */
export function holdDescription(): ReadonlySet<string> {
  const document = openApi('test') as Document;
  const ajv = new Ajv2020({ strict: false, inlineRefs: false, code: { optimize: false } });
  formats.default(ajv);
  ajv.addSchema({ ...document, $id: 'api' });
  const compiled = new Map<string, ValidateFunction>();
  const checkOf = (ref: string): ValidateFunction => {
    const known = compiled.get(ref) ?? ajv.compile({ $ref: `api${ref}` });
    compiled.set(ref, known);
    return known;
  };
  const held = new Set<string>();
  const check: AlsoHeld = (name, status, answer) => {
    const ref =
      name === null
        ? '#/components/schemas/Problem'
        : document.paths[pathOf(name).replace(/:(\w+)/g, '{$1}')]?.[methodOf(name).toLowerCase()]?.responses[status]
            ?.content?.['application/json']?.schema?.$ref;
    if (ref === undefined) return 'it is not described.';
    if (name !== null) held.add(name);
    const holds = checkOf(ref);
    return holds(answer) ? null : `it answers otherwise than described: ${JSON.stringify(holds.errors)}`;
  };
  holdAlso(check);
  return held;
}
