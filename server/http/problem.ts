/** Faults that the caller can do something about, as problem+json, and the one place that turns any fault into an answer. */
import type { Problem, ProblemCode } from '@north-pebble/contract';
import type { FieldFault } from '@north-pebble/core/form';
import type { Refusal } from '@north-pebble/core/workflow';
import type { ErrorRequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import type { z } from 'zod';
import { isDatabaseAway, isTooBusy } from '../database/index.ts';

const titles: Record<ProblemCode, [status: number, title: string]> = {
  'bad input': [400, 'Something in what was sent is not right'],
  'signed out': [401, 'You are signed out'],
  'not allowed': [403, 'This is not for you'],
  'not found': [404, 'There is no such thing'],
  refused: [422, 'This cannot be done now'],
  stale: [409, 'It has moved on meanwhile'],
  closed: [409, 'It is not open any more'],
  findings: [422, 'The workflow has findings that stop it'],
  'too many tries': [429, 'Too many tries'],
  'database away': [503, 'The database is away'],
  busy: [503, 'There is much to do just now'],
  fault: [500, 'Something went wrong here'],
};

export class ProblemError extends Error {
  readonly problem: Problem;
  constructor(code: ProblemCode, detail: string, faults?: FieldFault[]) {
    super(detail);
    const [status, title] = titles[code];
    this.problem = { type: 'about:blank', title, status, detail, code, ...(faults ? { faults } : {}) };
  }
}

export const notFound = (): ProblemError =>
  new ProblemError('not found', 'It does not exist, or it is not for you to see.');

const codeOf: Record<Refusal['code'], ProblemCode> = {
  stale: 'stale',
  'not open': 'closed',
  'not yours': 'not allowed',
  'bad answers': 'bad input',
  'no such outcome': 'bad input',
  'note needed': 'bad input',
  'too many rounds': 'refused',
  'not ticked': 'bad input',
};

export const refused = (refusal: Refusal): ProblemError =>
  new ProblemError(codeOf[refusal.code], refusal.message, refusal.faults);

/** One field is wrong, for a reason that only the house knows. */
export const refusedField = (field: string, message: string): ProblemError =>
  new ProblemError('bad input', message, [{ field, message }]);

/** Reads a body or a query; every fault with its field. */
export function read<S extends z.ZodType>(schema: S, input: unknown): z.infer<S> {
  const result = schema.safeParse(input);
  if (result.success) return result.data;
  const faults = result.error.issues.map(issue => ({ field: issue.path.join('.'), message: issue.message }));
  const [first] = faults;
  throw new ProblemError('bad input', first.field ? `${first.field}: ${first.message}` : first.message, faults);
}

export function send(response: Response, { problem }: ProblemError): void {
  response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
}

/** What Express and its readers say of a call that cannot be read: a bad escape, an unknown encoding, broken JSON. */
const isMalformed = (fault: unknown): fault is Error & { type?: string } => {
  const status = fault instanceof Error && 'status' in fault ? Number(fault.status) : 0;
  return status >= 400 && status < 500;
};

const malformedWords = (type = ''): string =>
  type === 'entity.too.large'
    ? 'This is too large.'
    : type.startsWith('entity.')
      ? 'This is not JSON that can be read.'
      : type.startsWith('encoding.') || type.startsWith('charset.')
        ? 'This is written in an encoding that is not read here. Send it as UTF-8.'
        : 'This address or this call cannot be read.';

/** What is said of a call that could not be served now, and may be in a moment. */
const awayWords = (fault: unknown) =>
  isTooBusy(fault)
    ? ({ kind: 'busy', words: 'North Pebble is busy right now.' } as const)
    : isDatabaseAway(fault)
      ? ({ kind: 'database away', words: 'The database does not answer.' } as const)
      : null;

export function answerFaults(log: Logger): ErrorRequestHandler {
  return (fault, request, response, next) => {
    if (response.headersSent) return next(fault);
    if (fault instanceof ProblemError) return send(response, fault);
    if (isMalformed(fault)) {
      return send(response, new ProblemError('bad input', malformedWords(fault.type)));
    }
    const away = awayWords(fault);
    if (away) {
      log.warn({ path: request.path }, away.kind);
      return send(
        response,
        new ProblemError(away.kind, `${away.words} What you typed is kept; try again in a moment.`),
      );
    }
    log.error({ err: fault, path: request.path }, 'fault');
    return send(response, new ProblemError('fault', 'The fault is ours and has been written down. Try again.'));
  };
}
