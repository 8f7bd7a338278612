/** The seals of the trail: each is made of an event and of the seal before it, so that a change by hand shows. */
import { createHash } from 'node:crypto';
import type { RequestEvent } from '@north-pebble/core/workflow';

/** @param before the seal of the event before, nothing for the first one */
export const sealOf = (before: string | null, request: string, seq: number, event: RequestEvent): string =>
  createHash('sha256')
    .update(`${before ?? ''}\n${request}\n${seq}\n${JSON.stringify(event)}`)
    .digest('hex');
