/** Who sees and who may change which field at which step. */
import { z } from 'zod';
import type { Field } from './field.ts';
import { isAsked } from './kinds/index.ts';
import { Id } from './parts.ts';

export const AccessLevel = z.enum(['hidden', 'shown', 'editable', 'required']);
export type AccessLevel = z.infer<typeof AccessLevel>;

/** By step id, by field id; what is not said is as usual. */
export const Access = z.record(Id, z.record(Id, AccessLevel));
export type Access = z.infer<typeof Access>;

/** As usual: the asker fills everything in, everybody after sees it. */
export const usualAccess = (field: Field, isAsk: boolean): AccessLevel =>
  !isAsked(field) ? 'shown' : isAsk ? (field.required ? 'required' : 'editable') : 'shown';

export function accessAt(access: Access | undefined, step: string, isAsk: boolean, field: Field): AccessLevel {
  const said = access?.[step]?.[field.id];
  if (said === undefined) return usualAccess(field, isAsk);
  return !isAsked(field) && said !== 'hidden' ? 'shown' : said;
}

export const mayChange = (level: AccessLevel): boolean => level === 'editable' || level === 'required';
