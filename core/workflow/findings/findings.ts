/** What is wrong with a definition, found without running it. */
import { type Finding, Findings, type Surroundings } from '../checking/finding.ts';
import type { Definition } from '../definition/definition.ts';
import { flowFindings } from './flowFindings.ts';
import { formFindings } from './formFindings.ts';
import { guestFindings } from './guestFindings.ts';
import { letterFindings } from './letterFindings.ts';
import { messageFindings } from './messageFindings.ts';
import { outsideFindings } from './outsideFindings.ts';
import { peopleFindings } from './peopleFindings.ts';
import { planFindings } from './planFindings.ts';
import { stepFindings } from './stepFindings.ts';

export function findings(definition: Definition, around: Surroundings = {}): Finding[] {
  const found = new Findings(definition, around);
  formFindings(found);
  stepFindings(found);
  flowFindings(found);
  planFindings(found);
  guestFindings(found);
  outsideFindings(found);
  messageFindings(found);
  letterFindings(found);
  peopleFindings(found);
  return found.all;
}

/** Only what is found about whom steps ask: all that can be another where nothing but records is. */
export function findingsOfRouting(definition: Definition, around: Surroundings): Finding[] {
  const found = new Findings(definition, around);
  peopleFindings(found);
  return found.all;
}

export const stopsPublishing = (found: readonly Finding[]): boolean => found.some(f => f.level === 'stops');
