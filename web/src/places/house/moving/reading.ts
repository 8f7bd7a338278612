/** A file read by the worker, with how far it is; stopped when it is not wanted any more. */
import type { FileFault, FileTold, ReadFile } from '../../../workers/files.worker.ts';

export const faultWords: Record<FileFault, string> = {
  'no text': 'This is no text. Save the table as CSV, with one line for each row.',
  'too many lines':
    'This has more than 20,000 lines. Take it apart into several files, and move in with one after the other.',
  empty: 'There is nothing in it.',
  'on its side':
    'It stands on its side: its first column holds what should be its first line. Turn it round, and read it again.',
};

/** @returns what stops the reading */
export function readFile(file: File, onTold: (told: FileTold) => void): () => void {
  const worker = new Worker(new URL('../../../workers/files.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<FileTold>) => {
    onTold(data);
    if (data.at !== 'reading') worker.terminate();
  };
  worker.onerror = () => {
    onTold({ at: 'fault', fault: 'no text' });
    worker.terminate();
  };
  worker.postMessage(file);
  return () => worker.terminate();
}

export type { ReadFile };
