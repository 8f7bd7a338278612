/** The thread on which papers are made: setting type and reading what somebody else made takes time. */
import type { FilledLetter } from '@north-pebble/core/workflow';
import { answerOnThread } from '../threads/index.ts';
import { letterOf } from './letterPdf.ts';
import { BrokenPaper, mustOpen, paperOf, type Signature, signed } from './pdf.ts';

export type ToMake =
  | { what: 'paper'; title: string; text: string }
  | { what: 'letter'; letter: FilledLetter }
  | { what: 'sign'; paper: Uint8Array; signature: Signature }
  | { what: 'open'; paper: Uint8Array };
export type Made = { bytes: Uint8Array } | { broken: string };

answerOnThread(async (asked: ToMake): Promise<Made> => {
  try {
    switch (asked.what) {
      case 'paper':
        return { bytes: await paperOf(asked.title, asked.text) };
      case 'letter':
        return { bytes: await letterOf(asked.letter) };
      case 'sign':
        return { bytes: await signed(asked.paper, asked.signature) };
      case 'open':
        await mustOpen(asked.paper);
        return { bytes: new Uint8Array() };
    }
  } catch (fault) {
    if (fault instanceof BrokenPaper) return { broken: fault.message };
    throw fault;
  }
});
