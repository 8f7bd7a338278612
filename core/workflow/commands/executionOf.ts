/** A command begins here: the request, with every verb at hand. */
import type { Definition } from '../definition/definition.ts';
import { Execution } from '../execution/execution.ts';
import type { Context } from '../request/context.ts';
import type { RequestState } from '../request/state.ts';
import { takeStep } from '../verbs/index.ts';

export const executionOf = (definition: Definition, state: RequestState, context: Context): Execution =>
  new Execution(definition, state, context, takeStep);
