/** Picks of posts. */
import type { Field } from '../../../form/index.ts';

export const isPostPick = (field: Field): boolean => field.kind === 'pick' && field.list === 'posts';
