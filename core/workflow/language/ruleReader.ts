/** Reads people rules, limits and counting back from words. */
import type {
  DirectoryIndex,
  PeopleRule,
  PersonId,
  PlainRule,
  SingleRule,
  Whose,
  WhoseUnit,
} from '../../people/index.ts';
import type { WorkingAmount } from '../../time/index.ts';
import type { AtLimit, Definition, InPlan, Limit, LimitTime, Quorum } from '../definition/definition.ts';
import type { Scanner } from './scanner.ts';

export type Known = {
  definition: Definition;
  index: DirectoryIndex | undefined;
  /** The id of the step that has a number. */
  stepAt: (number: string) => string | undefined;
  /** Words that may mean several people or posts, with what they may mean. */
  unsure: string[];
};

export const fieldNames = ({ definition }: Known) => [
  ...definition.form.fields.map(f => ({ name: f.label, value: f.id })),
  ...definition.form.fields.map(f => ({ name: f.id, value: f.id })),
];

export const readField = (s: Scanner, known: Known): string | undefined => s.name(fieldNames(known), 'a field');

function owner(s: Scanner, known: Known): { of: Whose | undefined } | undefined {
  return s.try(() => {
    if (s.eat(/the asker(?!\w)|their(?=\s)/)) return { of: undefined };
    if (s.eat(/the (?:person concerned|subject)(?!\w)/, 'the person concerned')) return { of: 'subject' as const };
    if (!s.words('the person in', false)) return undefined;
    const field = readField(s, known);
    return field ? { of: { field } } : undefined;
  });
}

type Owner<Of> = (s: Scanner, known: Known) => { of: Of | undefined } | undefined;

const ofPart = <Of>(of: Of | undefined) => (of === undefined ? {} : { of });

/** The same, or the post that is picked in a field. */
function unitOwner(s: Scanner, known: Known): { of: WhoseUnit | undefined } | undefined {
  return (
    s.try(() => {
      if (!s.words('the post in', false)) return undefined;
      const field = readField(s, known);
      return field ? { of: { post: field } } : undefined;
    }) ?? owner(s, known)
  );
}

/** `the asker’s line manager` or `the line manager of the person in “Lead”`. */
function owned<Of>(s: Scanner, known: Known, what: string, read: Owner<Of>): { of: Of | undefined } | undefined {
  return (
    s.try(() => {
      const who = read(s, known);
      if (!who) return undefined;
      return s.eat(/[’']s/) && s.words(what) ? who : undefined;
    }) ??
    s.try(() => {
      s.words('the', false);
      if (!s.words(what) || !s.words('of', false)) return undefined;
      return read(s, known);
    })
  );
}

function house(s: Scanner, known: Known): PlainRule | undefined {
  const { index } = known;
  if (!index) return undefined;
  const { people, posts, roles } = index.directory;
  return s.try(() => {
    s.eat(/(?:the|any|an|a)(?=\s)/);
    const roleNames = [...new Set(roles.map(r => r.role))].map(role => ({
      name: role,
      value: { kind: 'role' as const, role },
    }));
    const role = s.name(roleNames, 'a role');
    if (role) return role;
    const person = s.name(
      people.map(p => ({ name: p.name, value: { kind: 'person' as const, person: p.id } })),
      'a person',
    );
    if (person) return person;
    const post = s.name(
      posts.map(p => ({ name: p.title, value: p })),
      'a post',
    );
    if (!post) return undefined;
    const same = posts.filter(p => p.title.toLowerCase() === post.title.toLowerCase());
    if (same.length > 1) {
      known.unsure.push(
        `“${post.title}” is the title of ${same.length} posts; the first (${post.id}) was taken. Choose one in the sentence.`,
      );
    }
    return { kind: 'post' as const, post: post.id };
  });
}

/** One rule, without what is asked instead; or some of them as one group. */
export function readSingleRule(s: Scanner, known: Known): SingleRule | undefined {
  const either = s.try((): SingleRule | undefined => {
    if (!s.words('either', false)) return undefined;
    const rules: PlainRule[] = [];
    do {
      const one = readPlainRule(s, known);
      if (!one) return undefined;
      rules.push(one);
    } while (s.words('or', false));
    return rules.length > 1 ? { kind: 'either', rules } : undefined;
  });
  return either ?? readPlainRule(s, known);
}

function readPlainRule(s: Scanner, known: Known): PlainRule | undefined {
  const tries: (() => PlainRule | undefined)[] = [
    () => {
      if (!s.words('each manager above', false)) return undefined;
      const who = owner(s, known);
      if (!who || !s.words('up to level')) return undefined;
      const levels = s.number();
      return levels ? { kind: 'managers', levels, ...ofPart(who.of) } : undefined;
    },
    () => {
      if (!s.words('the first manager above', false)) return undefined;
      const who = owner(s, known);
      if (!who || !s.eat(/with a(?:\s)/)) return undefined;
      const what = s.anyOf('spending limit', 'grade') as 'spending limit' | 'grade' | undefined;
      if (!what || !s.words('of at least')) return undefined;
      const least = s.marked() ?? s.eat(/\d+(?:\.\d+)?/)?.[0];
      return least ? { kind: 'manager with', what, least, ...ofPart(who.of) } : undefined;
    },
    () => {
      const n = s.eat(/the manager (\d) levels above/);
      const who = n && owner(s, known);
      return n && who ? { kind: 'manager', levels: Number(n[1]), ...ofPart(who.of) } : undefined;
    },
    () => {
      if (!s.words('the manager above', false)) return undefined;
      const who = owned(s, known, 'line manager', owner);
      return who ? { kind: 'manager', levels: 2, ...ofPart(who.of) } : undefined;
    },
    () => {
      if (!s.words('the head of', false)) return undefined;
      const department = owned(s, known, 'department', unitOwner);
      if (department) return { kind: 'head of department', ...ofPart(department.of) };
      const place = owned(s, known, 'place', unitOwner);
      return place ? { kind: 'head of place', ...ofPart(place.of) } : undefined;
    },
    () => {
      const who = owned(s, known, 'line manager', owner);
      return who && { kind: 'manager', levels: 1, ...ofPart(who.of) };
    },
    () => {
      const who = owned(s, known, 'dotted-line manager', owner);
      return who && { kind: 'dotted-line manager', ...ofPart(who.of) };
    },
    () => {
      if (!s.words('the manager above the post in', false)) return undefined;
      const field = readField(s, known);
      return field ? { kind: 'above post in', field } : undefined;
    },
    () => {
      if (!s.words('the holder of the post in', false)) return undefined;
      const field = readField(s, known);
      return field ? { kind: 'post in', field } : undefined;
    },
    () => {
      if (!s.words('the holder of post', false)) return undefined;
      const post = s.quoted();
      return post ? { kind: 'post', post } : undefined;
    },
    () => {
      if (!s.words('the person in', false)) return undefined;
      const field = readField(s, known);
      return field ? { kind: 'person in', field } : undefined;
    },
    () => {
      if (!s.words('person', false)) return undefined;
      const person = s.quoted();
      return person ? { kind: 'person', person: person as PersonId } : undefined;
    },
    () => {
      if (!s.eat(/(?:anyone with )?(?:the )?role/)) return undefined;
      const role =
        s.quoted() ??
        s.name(
          [...new Set(known.index?.directory.roles.map(r => r.role))].map(r => ({ name: r, value: r })),
          'a role',
        );
      if (!role) return undefined;
      const within = s.try(() => {
        if (!s.words('in', false)) return undefined;
        for (const what of ['place', 'department'] as const) {
          const who = owned(s, known, what, unitOwner);
          if (who) return { within: what, ...ofPart(who.of) };
        }
        return undefined;
      });
      return { kind: 'role', role, ...within };
    },
    () => {
      if (!s.words('everyone', false) && !s.words('everybody', false)) return undefined;
      const place = s.try(() => (s.words('in place', false) ? s.quoted() : undefined));
      const department = s.try(() => (s.words('in department', false) ? s.quoted() : undefined));
      return { kind: 'everyone', ...(place ? { place } : {}), ...(department ? { department } : {}) };
    },
    () => {
      const n = s.eat(/whoever (?:settled|decided|did) step\s+([0-9a-z]+)/);
      const step = n && known.stepAt(n[1]);
      return step ? { kind: 'decided', step } : undefined;
    },
    () => (s.words('the asker') ? { kind: 'asker' } : undefined),
    () => (s.words('the person concerned') || s.words('the subject', false) ? { kind: 'subject' } : undefined),
    () =>
      s.eat(
        /(?:the |their )?(?:manager’s|manager's) manager|(?:the |their )?(?:second-line manager|manager above|next manager)/,
      )
        ? { kind: 'manager', levels: 2 }
        : undefined,
    () =>
      s.eat(/(?:the |their )?(?:line manager|manager|lead|boss)(?!\w|\s+\d)/)
        ? { kind: 'manager', levels: 1 }
        : undefined,
    () =>
      s.eat(/(?:the |their )?(?:head of department|department head)(?!\w)/)
        ? { kind: 'head of department' }
        : undefined,
    () => (s.eat(/(?:the |their )?(?:head of place|place head)(?!\w)/) ? { kind: 'head of place' } : undefined),
    () => (s.eat(/(?:the |their )?dotted-line manager(?!\w)/) ? { kind: 'dotted-line manager' } : undefined),
    () => (s.eat(/(?:the )?asker(?!\w)/, 'the asker') ? { kind: 'asker' } : undefined),
  ];
  // A title or a role on file that begins with “lead” or “manager” goes before the plain word.
  const plain = tries.length - 6;
  for (const read of tries.slice(0, plain)) {
    const found = s.try(read);
    if (found) return found;
  }
  const onFile = house(s, known);
  if (onFile) return onFile;
  for (const read of tries.slice(plain)) {
    const found = s.try(read);
    if (found) return found;
  }
  s.eat(/(?!)/, 'who: “line manager”, a post, a role or a name');
  return undefined;
}

export function readRule(s: Scanner, known: Known): PeopleRule | undefined {
  const first = readSingleRule(s, known);
  if (!first) return undefined;
  const otherwise: SingleRule[] = [];
  for (;;) {
    const next = s.try(() => (s.eat(/,?\s*(?:or )?else/) ? readSingleRule(s, known) : undefined));
    if (!next) break;
    otherwise.push(next);
  }
  const except: SingleRule[] = [];
  s.try(() => {
    if (!s.eat(/,?\s*but (?:never|not)/)) return undefined;
    do {
      const one = readSingleRule(s, known);
      if (!one) return undefined;
      except.push(one);
    } while (s.words('or', false));
    return true;
  });
  return { first, otherwise, ...(except.length > 0 ? { except } : {}) };
}

export function readAmount(s: Scanner): WorkingAmount | undefined {
  return s.try(() => {
    const n = s.number() ?? (s.eat(/an?(?=\s)/) ? 1 : undefined);
    if (n === undefined) return undefined;
    const unit = s.eat(/(?:working )?(days?|hours?|weeks?)(?!\w)/, 'working days');
    if (!unit) return undefined;
    if (/^week/i.test(unit[1])) return { workingDays: n * 5 };
    return /^day/i.test(unit[1]) ? { workingDays: n } : { workingHours: n };
  });
}

/** `within 2 working days`, `at the latest 5 working days before “Start date”`, `with no limit`. */
export function readLimitTime(s: Scanner, known: Known): LimitTime | 'none' | undefined {
  return s.try(() => {
    if (s.eat(/with(?:out a| no) limit/)) return 'none' as const;
    if (s.eat(/by (?:its|the) last day in the plan/, 'by its last day in the plan')) return { byPlan: true as const };
    if (s.eat(/at the latest|by|no later than/)) {
      const n = s.number();
      if (n === undefined || !s.eat(/(?:working )?days? before/, 'working days before')) return undefined;
      const field = readField(s, known);
      return field ? { workingDaysBefore: n, field } : undefined;
    }
    if (!s.eat(/within|inside|in(?=\s+\w+\s+(?:working|day|hour|week))/, 'within')) return undefined;
    return readAmount(s);
  });
}

export function readQuorum(s: Scanner): Quorum | undefined {
  if (s.eat(/all together|,? ?all must agree|(?:and )?everyone must agree/, 'and everyone must agree'))
    return 'everyone';
  if (s.eat(/by (?:a )?majority/, 'by majority')) return 'majority';
  if (s.eat(/in turn|one after (?:another|the other)/, 'in turn')) return 'in turn';
  return s.try(() => {
    if (!s.eat(/with at least/, 'with at least … in favour')) return undefined;
    const atLeast = s.number();
    return atLeast !== undefined && s.words('in favour') ? { atLeast } : undefined;
  });
}

export type After = {
  remind?: Limit['remind'];
  atLimit?: AtLimit | { takeLabel: string };
  goesUp?: true;
  /** The label of the outcome that is taken when they do not agree. */
  undecided?: string;
  once?: true;
  askerMay?: true;
  handTo?: 'anybody';
  plan?: InPlan;
};

/** A step by its number, or in marks by its id where it has none. */
const readStepName = (s: Scanner, known: Known): string | undefined => {
  const id = s.quoted();
  if (id !== undefined) return id;
  const number = s.eat(/\d+(?:[a-z]\d+)*(?!\w)/, 'the number of a step');
  return number && (known.stepAt(number[0].toLowerCase()) ?? '?');
};

/** `In the plan it takes 3 working days, is finished 5 working days before, begins after 3a1 and 3c1.` */
function readPlan(s: Scanner, known: Known): InPlan | undefined {
  return s.try(() => {
    if (!s.eat(/in the plan,? it/, 'in the plan it')) return undefined;
    const plan: InPlan = {};
    do {
      if (s.eat(/takes/, 'takes')) {
        const takes = s.number();
        if (takes === undefined || !s.eat(/(?:working )?days?(?!\w)/, 'working days')) return undefined;
        plan.takes = takes;
      } else if (s.eat(/(?:is|must be) finished/, 'is finished')) {
        const daysBefore = s.number();
        if (daysBefore === undefined || !s.eat(/(?:working )?days? before/, 'working days before')) return undefined;
        plan.daysBefore = daysBefore;
      } else if (s.eat(/begins? after/, 'begins after')) {
        const after: string[] = [];
        do {
          const id = readStepName(s, known);
          if (id === undefined) return undefined;
          after.push(id);
        } while (s.try(() => (s.eat(/and|,(?=\s*[\d“"])/) ? true : undefined)));
        plan.after = after;
      } else return undefined;
    } while (s.eat(/,(?:\s*and(?=\s))?|and(?=\s)/));
    s.eat(/\./);
    return plan;
  });
}

/** One sentence of those that stand after a decision or a task. */
export function readAfter(s: Scanner, known: Known, after: After): boolean {
  if (s.eat(/if they do not agree,? (?:it is blocked|the first answer against counts)\.?/)) return true;
  const undecided = s.try(() => (s.eat(/if they do not agree:/) ? s.quoted() : undefined));
  if (undecided !== undefined) {
    s.eat(/\./);
    after.undecided = undecided;
    return true;
  }
  if (s.eat(/whoever approved the step before is not asked again\.?/)) {
    after.once = true;
    return true;
  }
  if (s.eat(/the asker may have it\.?/)) {
    after.askerMay = true;
    return true;
  }
  if (s.eat(/it may be handed to anybody\.?/)) {
    after.handTo = 'anybody';
    return true;
  }
  if (s.eat(/away without cover: it goes up the line\.?/)) {
    after.goesUp = true;
    return true;
  }
  const plan = readPlan(s, known);
  if (plan) {
    after.plan = plan;
    return true;
  }
  const reminder = s.try(() => {
    if (!s.eat(/a reminder after|remind(?:er)? after|remind them after/)) return undefined;
    const first = readAmount(s);
    if (!first) return undefined;
    const every = s.try(() => (s.eat(/,?\s*then every/) ? readAmount(s) : undefined));
    const often = s.eat(/,?\s*(?:(once)|at most (\d+) times)/);
    s.eat(/\./);
    return { after: first, ...(every ? { every } : {}), atMost: often?.[2] ? Number(often[2]) : often ? 1 : 3 };
  });
  if (reminder) {
    after.remind = reminder;
    return true;
  }
  const atLimit = s.try((): After['atLimit'] => {
    if (!s.eat(/unanswered at the limit:|after that|then(?= pass)/)) return undefined;
    if (s.eat(/it stays and is shown as late|it waits/)) return 'wait';
    if (s.eat(/(?:it )?pass(?:es)? (?:it )?to the manager above(?=\s*(?:\.|,|$))|(?:it )?(?:goes|passes) up/))
      return 'pass up';
    if (s.eat(/(?:it )?pass(?:es)? (?:it )?to/)) {
      const rule = readRule(s, known);
      return rule && { passTo: rule };
    }
    if (s.eat(/it stays, and/)) {
      const rule = readRule(s, known);
      return rule && s.words('is told') ? { tell: rule } : undefined;
    }
    const takeLabel = s.quoted();
    return takeLabel !== undefined && s.words('is taken') ? { takeLabel } : undefined;
  });
  if (!atLimit) return false;
  s.eat(/\./);
  after.atLimit = atLimit;
  return true;
}
