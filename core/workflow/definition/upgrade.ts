/** Documents of older formats, brought up step by step to the format that is read today. */

type Document = Record<string, unknown>;
const isObject = (value: unknown): value is Document =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Until format 2 the sum of a column without rows was 0; now it is not known, as FEEL has it, and 0 where that is said. */
function sumsOfNone(figures: unknown): unknown {
  if (!Array.isArray(figures)) return figures;
  return figures.map(figure =>
    isObject(figure) && typeof figure.formula === 'string'
      ? {
          ...figure,
          formula: figure.formula.replace(
            /\bsum\(\s*([\p{L}][\p{L}\p{N} ]*)\.([\p{L}][\p{L}\p{N} ]*)\)/gu,
            '(if count($1) = 0 then 0 else sum($1.$2))',
          ),
        }
      : figure,
  );
}

/** Until format 2 a message said that it had an invitation, and not of what; a PDF was never made. */
function withAttachments(steps: unknown, form: unknown): unknown {
  if (!Array.isArray(steps)) return steps;
  const fields = isObject(form) && Array.isArray(form.fields) ? form.fields.filter(isObject) : [];
  const dated = fields.find(field => ['date range', 'leave span', 'date'].includes(String(field.kind)));
  return steps.map(step => {
    if (!isObject(step)) return step;
    if (Array.isArray(step.lanes))
      return {
        ...step,
        lanes: step.lanes.map(lane => (isObject(lane) ? { ...lane, steps: withAttachments(lane.steps, form) } : lane)),
      };
    if (step.verb !== 'Tell' || typeof step.attach !== 'string') return step;
    const { attach, ...rest } = step;
    if (attach !== 'invitation' || !dated) return rest;
    return { ...rest, attach: [{ what: 'invitation', of: dated.id, title: String(dated.label) }] };
  });
}

/** By the version that they start from. Format 2 only added keys; nothing that format 1 could say was changed. */
const upgrades: Record<number, (document: Document) => Document> = {
  1: document => ({ ...document, formatVersion: 2 }),
  2: document => ({
    ...document,
    figures: sumsOfNone(document.figures),
    steps: withAttachments(document.steps, document.form),
    formatVersion: 3,
  }),
};

/** The document in the wanted format, or why it cannot be read. Anything that is no object is left to the schema. */
export function upgraded(input: unknown, wanted: number): { document: unknown } | { fault: string } {
  if (!isObject(input)) return { document: input };
  const version = input.formatVersion;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1) {
    return { fault: `says no format that this version reads (it reads 1 to ${wanted}).` };
  }
  if (version > wanted) {
    return {
      fault: `is format ${version}, which is newer than this version reads (up to ${wanted}). Open it with a newer North Pebble.`,
    };
  }
  let document = input;
  for (let at = version; at < wanted; at++) document = upgrades[at](document);
  return { document };
}
