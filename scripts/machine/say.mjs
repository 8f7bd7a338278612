/** Sentences for the person at the terminal. A `Trouble` ends the command with its one sentence and a non-zero exit. */
export class Trouble extends Error {}

export const say = sentence => process.stdout.write(`${sentence}\n`);

/** Runs the main work of a script; known troubles are one sentence, anything else keeps its stack. */
export async function main(work) {
  try {
    await work();
  } catch (fault) {
    process.stderr.write(fault instanceof Trouble ? `${fault.message}\n` : `${fault?.stack ?? fault}\n`);
    process.exit(1);
  }
}
