/** `Stores lays out the kit`: a task. Nothing is made one that may be a decision, a condition or a limit. */
import { distance } from '../../../formula/index.ts';
import type { Step } from '../../definition/definition.ts';
import { dateFields } from '../limits.ts';
import { readWhom, type Whom } from '../people.ts';
import { type Around, behindAll, isSound, leading, limitOf, whenOf } from './around.ts';
import type { Saying } from './saying.ts';

/** Words that say that a sentence is about more than a task: then it is not made one. */
const noTask = new Set(
  'decide decides approve approves approved agree agrees sign signs decision approval if when unless whenever more less fewer within until maybe perhaps possibly sometime somehow should might could informed told tells tell notify notifies wait waits hold close closes otherwise else then not never nobody somebody someone everyone majority least only both either or vote votes veto'.split(
    ' ',
  ),
);

const keys =
  'decides approves agrees consents authorises within unless before otherwise whenever approve decide authorise'.split(
    ' ',
  );

/** Whether a word is a slip of the pen in one that decides what a sentence is: then it is not taken for a deed. */
const nearlyKey = (word: string): boolean =>
  word.length > 4 && keys.some(key => word !== key && distance(word, key) <= (key.length > 6 ? 2 : 1));

/** What begins a task: a deed, as `books`, `to book`, `is booked`. */
const noDeed = new Set(
  'a an the in at of for with by to from and or who which that it is are be been also just still'.split(' '),
);

const isNumber = (word: string): boolean => /^\d/.test(word);

/** Whether words say how long, how much or around which date: then they are no part of a task. */
export function isTimed(s: Saying, words: readonly string[]): boolean {
  const dates = dateFields(s.known).map(({ name }) => name.toLowerCase().split(' '));
  return words.some((word, i) => {
    if (isNumber(words[i + 1] ?? '') && /^(over|above|under|below|exceeding|about|in|after|every)$/.test(word))
      return true;
    if (isNumber(word) && /^(working|business|days?|hours?|weeks?|months?|%)$/.test(words[i + 1] ?? '')) return true;
    if (!/^(after|before|until|till|by|on|from|since|ere)$/.test(word)) return false;
    const next = words[i + 1] === 'the' ? i + 2 : i + 1;
    return dates.some(name => name.every((part, at) => words[next + at] === part));
  });
}

/** Whether words can be a task and nothing else: a deed, with no decision, condition or other step in it. */
export function isTask(s: Saying, words: readonly string[], deed = false): boolean {
  if (words.length === 0 || words.some(word => noTask.has(word) || /^[.;:?!<>=]$/.test(word))) return false;
  if (words.some(word => nearlyKey(word)) || isTimed(s, words)) return false;
  if (words.includes(',')) return false;
  if (deed) return words.length > 1 || !noDeed.has(words[0]);
  if (words.length === 1 && !/s$/.test(words[0])) return false;
  const [first] = words;
  return !noDeed.has(first) && /^\p{L}/u.test(first) && (/s$/.test(first) || words.length > 1) && !isNumber(first);
}

export function tasks(s: Saying, whom: Whom, words: string, around: Around): Step[] {
  const plain = words.trim().replace(/[.,]+$/, '');
  const task = plain[0].toUpperCase() + plain.slice(1);
  const pool = !whom.count && (whom.how === 'any' || around.firstTakes || (whom.how === 'one' && whom.pool));
  return whom.rules.map(first => ({
    verb: 'Do' as const,
    id: s.id('do'),
    when: whenOf(around),
    who: { first, ...whom.besides },
    ...(pool ? { pool: true as const } : {}),
    ...(around.handTo ? { handTo: around.handTo } : {}),
    whenAway: around.whenAway ?? ('waits' as const),
    task,
    limit: limitOf(around),
  }));
}

/** The words of a task, up to where what stands behind is understood to its end. */
export function taskUntil(
  s: Saying,
  from: number,
  around: Around,
  does: boolean,
  make: (task: string) => Step[],
): Step[] | undefined {
  const { w } = s;
  for (let end = from + 1; end <= w.tokens.length; end++) {
    const words = w.tokens.slice(from, end);
    if (
      !isTask(
        s,
        words.map(t => t.low),
        does,
      )
    )
      continue;
    w.at = end;
    const inner: Around = { ...around, when: [...around.when] };
    if (!behindAll(s, inner) || !isSound(inner)) continue;
    Object.assign(around, inner);
    return make(w.between(from, end));
  }
  return undefined;
}

export function activeTask(s: Saying): Step[] | undefined {
  const { w, known } = s;
  const around = leading(s);
  const whom = readWhom(w, known);
  if (!whom || whom.how === 'turn' || (whom.count && whom.count !== 'everyone')) return undefined;
  w.eat(',');
  if (s.w.eat('whoever is|comes first|free', 'whoever takes it first', 'whichever is first')) around.firstTakes = true;
  w.eat(',');
  const does = w.eat('do|does');
  if (w.tokens[w.at]?.quoted) {
    const task = w.tokens[w.at++].text;
    w.eat(', each of them');
    w.eat(',');
    return behindAll(s, around) && isSound(around) ? tasks(s, whom, task, around) : undefined;
  }
  w.eat('must|has|have|is|are|shall|will to', 'must|shall|will|to');
  const from = w.at;
  return taskUntil(s, from, around, does, task => tasks(s, whom, task, around));
}

/** `the kit is laid out by Stores`. */
export function passiveTask(s: Saying): Step[] | undefined {
  const { w, known } = s;
  const around = leading(s);
  const from = w.at;
  for (let at = from + 2; at < w.tokens.length - 1; at++) {
    if (w.tokens[at].low !== 'by' || w.tokens[at].quoted) continue;
    w.at = at + 1;
    const whom = readWhom(w, known);
    if (!whom || whom.how === 'turn' || whom.count) continue;
    const words = w.tokens.slice(from, at);
    const isPassive = words.some(t => /^(is|are|be|gets|get)$/.test(t.low));
    if (
      !isPassive ||
      !isTask(
        s,
        words.map(t => t.low).filter(low => low !== 'be' && low !== 'must'),
        true,
      )
    )
      continue;
    const inner: Around = { ...around, when: [...around.when] };
    if (!behindAll(s, inner) || !isSound(inner)) continue;
    return tasks(s, whom, w.between(from, at), inner);
  }
  return undefined;
}

export function done(s: Saying): Step[] | undefined {
  return s.w.try(() => activeTask(s)) ?? passiveTask(s);
}
