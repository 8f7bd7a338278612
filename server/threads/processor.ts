/**
 * How much a thread has worked, in time of the processor: what a machine that is loaded takes longer for is no more work.
 * The kernel tells it of each thread (proc(5), /proc/thread-self); where there is no such kernel, nothing is told.
 */
import { readFileSync, readlinkSync } from 'node:fs';

/** What the kernel calls the thread that asks. */
export function ownThread(): string | null {
  try {
    return readlinkSync('/proc/thread-self').split('/').at(-1) ?? null;
  } catch {
    return null;
  }
}

/** A tick of the kernel's accounting, in milliseconds. */
const tick = 10;

/** The time that a thread of this process has had of a processor, in milliseconds; nothing where it is not told. */
export function workedBy(thread: string | null): number | null {
  if (thread === null) return null;
  try {
    const text = readFileSync(`/proc/self/task/${thread}/stat`, 'utf8');
    // The name stands in brackets and may hold anything; what follows it is told apart by spaces.
    const fields = text.slice(text.lastIndexOf(')') + 2).split(' ');
    return (Number(fields[11]) + Number(fields[12])) * tick;
  } catch {
    return null;
  }
}
