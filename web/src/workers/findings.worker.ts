/** Works the findings out beside the page, so that typing never waits for them. */
import { type Directory, indexDirectory } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { type Definition, type Finding, findings, type People } from '@north-pebble/core/workflow';

export type ToWorker =
  | { kind: 'people'; directory: Directory; day: CivilDate }
  | { kind: 'check'; round: number; definition: Definition };
export type FromWorker = { round: number; findings: Finding[] };

let people: People | undefined;

self.onmessage = (event: MessageEvent<ToWorker>) => {
  const message = event.data;
  if (message.kind === 'people') {
    people = { index: indexDirectory(message.directory), day: message.day };
    return;
  }
  const answer: FromWorker = { round: message.round, findings: findings(message.definition, people) };
  self.postMessage(answer);
};
