/** Whom plain words mean: the boss, HR, everyone in Finance, either of two, one after another. */

import { isNumeric } from '../../form/index.ts';
import type { DirectoryIndex, PeopleRule, PlainRule, SingleRule } from '../../people/index.ts';
import type { Definition, Quorum } from '../definition/definition.ts';
import { postWords } from '../language/ruleWords.ts';
import type { NamedLists } from '../language/writing.ts';
import type { Named, Words } from './words.ts';

export type Known = {
  readonly definition: Definition;
  readonly index: DirectoryIndex | undefined;
  readonly stepAt: (number: string) => string | undefined;
  /** Words that may mean several people or posts, with what they may mean. */
  readonly unsure: string[];
  readonly lists: NamedLists;
  readonly connections: readonly string[];
};

/** Some people, how they answer, and whether they come together as one group or one after another. */
export type Whom = {
  rules: SingleRule[];
  how: 'one' | 'any' | 'all' | 'turn';
  count?: Quorum;
  /** Whom else to ask when nobody is found, and who never is: said of one alone. */
  besides: Pick<PeopleRule, 'otherwise' | 'except'>;
  /** Whether a group was named, of which the first may take a task. */
  pool?: true;
};

const managers = 'manager|boss|supervisor|superior';

const labelled = (definition: Definition, kinds: readonly string[]): Named<string>[] =>
  definition.form.fields.filter(f => kinds.includes(f.kind)).map(f => ({ name: f.label, value: f.id }));

/** Roles by their names, by “HR” and the like, and by their first words where only one role begins so. */
function roleNames(index: DirectoryIndex | undefined): Named<string>[] {
  const roles = [...new Set(index?.directory.roles.map(r => r.role) ?? [])];
  const named = roles.map(role => ({ name: role, value: role }));
  const short = new Map<string, string[]>();
  for (const role of roles) {
    const words = role.split(' ');
    for (let n = 1; n < words.length; n++) {
      const begin = words.slice(0, n).join(' ').toLowerCase();
      short.set(begin, [...(short.get(begin) ?? []), role]);
    }
  }
  const only = [...short].flatMap(([name, of]) => (of.length === 1 ? [{ name, value: of[0] }] : []));
  const hr = roles.filter(role => /^(hr|human resources|people)\b/i.test(role));
  const usual: [RegExp, string[]][] = [
    [/^(hr|human resources)\b/i, ['human resources', 'HR', 'HR department', 'the personnel department', 'personnel']],
    [/^payroll\b/i, ['payroll department', 'pay office', 'payroll office']],
    [/^travel\b/i, ['travel office']],
    [/^access\b/i, ['access desk']],
  ];
  const others = usual.flatMap(([pattern, names]) => {
    const fitting = roles.filter(role => pattern.test(role));
    const one =
      fitting.length === 1 ? fitting[0] : pattern.source.includes('hr') && hr.length === 1 ? hr[0] : undefined;
    return one ? names.map(name => ({ name, value: one })) : [];
  });
  return [...named, ...only, ...others];
}

const article = (w: Words) => w.eat('the|a|an|any|their|his|her|my|your|our|its');

/** A row of another list than that of posts may say which post it is about; where it does not, a finding says so. */
const pickedPosts = ({ definition }: Known): Named<string>[] => labelled(definition, ['pick']);

/** Whose manager or department is meant, when it is not the asker’s. */
function owner(w: Words, known: Known): 'asker' | 'subject' | { field: string } | undefined {
  return w.try(() => {
    w.eat('the|an');
    if (w.eat("asker's|requester's|applicant's|employee's|person's")) return 'asker';
    if (w.eat("subject's|joiner's|newcomer's|colleague's", "person concerned's")) return 'subject';
    const people = labelled(known.definition, ['person']);
    const field = w.name(people, false);
    if (field === undefined || !/'s?$/.test(w.tokens[w.at - 1]?.low ?? '')) return undefined;
    return { field };
  });
}

/** `the asker`, `the person concerned`, `the interviewer`, `the person in Lead`. */
const theOne = (w: Words, known: Known): ReturnType<typeof owner> => {
  w.eat('the|an');
  if (w.eat('asker|requester|applicant')) return 'asker';
  if (w.eat('person concerned', 'subject|joiner|newcomer')) return 'subject';
  w.eat('person in|named|given|chosen in? the? field?');
  const field = w.name(labelled(known.definition, ['person']), false);
  return field === undefined ? undefined : { field };
};

/** `… of the post in Post`, besides. */
const ofUnit = (w: Words, known: Known): ReturnType<typeof owner> | { post: string } =>
  w.try(() => {
    if (!w.eat('of the? post in|given in? the? field?')) return undefined;
    const post = w.name(pickedPosts(known));
    return post === undefined ? undefined : { post };
  }) ?? w.try(() => ofWhom(w, known));

/** `… of the interviewer`. */
const ofWhom = (w: Words, known: Known): ReturnType<typeof owner> => (w.eat('of') ? theOne(w, known) : undefined);

const ofPart = <Of extends NonNullable<ReturnType<typeof owner>> | { post: string }>(of: Of | undefined) =>
  of === undefined || of === 'asker' ? {} : { of: of as Exclude<Of, 'asker'> };

/** `manager`, `line manager`, `manager's manager`, `head of department`, said of somebody. */
function inLine(w: Words, known: Known): PlainRule | undefined {
  return w.try(() => {
    const each = w.try(() => {
      if (!w.eat('each|every manager above')) return undefined;
      const of = theOne(w, known);
      if (of === undefined || !w.eat('up? to level')) return undefined;
      const levels = w.number();
      return levels ? ({ kind: 'managers', levels, ...ofPart(of) } as const) : undefined;
    });
    if (each) return each;
    const levelled = w.try(() => {
      if (!w.eat('the? manager')) return undefined;
      const levels = w.number();
      if (!levels || !w.eat('levels|level above|up')) return undefined;
      const of = theOne(w, known);
      return of ? ({ kind: 'manager', levels, ...ofPart(of) } as const) : undefined;
    });
    if (levelled) return levelled;
    const above = w.try(() => {
      if (
        !w.eat(
          'the? manager above',
          'the? next manager up?',
          'the? manager one level up',
          'the? next level up',
          'the? second-line manager',
        )
      )
        return undefined;
      const of = w.try(() => {
        const whose = owner(w, known);
        if (whose === undefined) w.eat('the');
        if (!w.eat(`line? ${managers}`)) return undefined;
        return whose ?? w.try(() => ofWhom(w, known)) ?? 'asker';
      });
      return { kind: 'manager', levels: 2, ...ofPart(of) } as const;
    });
    if (above) return above;
    const of = owner(w, known);
    if (of === undefined) article(w);
    if (w.eat('head of department', 'department head', 'head of the? department', "department's head"))
      return { kind: 'head of department', ...ofPart(of) };
    if (w.eat('head of place', 'place head', 'head of the? place', 'station head'))
      return { kind: 'head of place', ...ofPart(of) };
    if (w.eat('dotted-line manager', 'dotted line manager')) {
      const whose = of ?? w.try(() => ofWhom(w, known));
      return { kind: 'dotted-line manager', ...ofPart(whose) };
    }
    if (w.eat("line? manager's|boss's|supervisor's|superior's|boss' line? manager|boss|supervisor|superior"))
      return { kind: 'manager', levels: 2, ...ofPart(of) };
    if (w.eat(`line|direct|immediate|own ${managers}`, managers)) {
      const twice = w.try(() => (w.eat(`of the|their? line|direct? ${managers}`) ? true : undefined));
      const whose = twice || of !== undefined ? undefined : w.try(() => ofWhom(w, known));
      if (whose) return { kind: 'manager', levels: 1, ...ofPart(whose) };
      return { kind: 'manager', levels: twice ? 2 : 1, ...ofPart(of) };
    }
    return undefined;
  });
}

function headOf(w: Words, known: Known): PlainRule | undefined {
  return w.try(() => {
    if (!w.eat('the? head of')) return undefined;
    const of = owner(w, known);
    if (of !== undefined) {
      if (w.eat('department')) return { kind: 'head of department', ...ofPart(of) };
      if (w.eat('place|station|site')) return { kind: 'head of place', ...ofPart(of) };
      return undefined;
    }
    if (w.eat('their|his|her|the? department')) return { kind: 'head of department', ...ofPart(ofUnit(w, known)) };
    if (w.eat('their|his|her|the? place|station|site')) return { kind: 'head of place', ...ofPart(ofUnit(w, known)) };
    w.eat('the');
    const departments = known.index?.directory.departments ?? [];
    const found = w.name(
      departments.map(d => ({ name: d.name, value: d })),
      false,
    );
    return found?.head ? { kind: 'post', post: found.head } : undefined;
  });
}

/** Somebody named in the form, or who has to do with a post that is. */
function inForm(w: Words, known: Known): PlainRule | undefined {
  const { definition } = known;
  const people = labelled(definition, ['person']);
  const posts = pickedPosts(known);
  return (
    w.try(() => {
      const above = w.eat(
        `the? line? ${managers} of|above|over the? holder|post|position of? the? post? in|field?`,
        `the? line? ${managers} of|above the? post|position in`,
      );
      if (!above && !w.eat('the? holder of the? post|position in|given? in?', 'whoever holds the? post|position in'))
        return undefined;
      w.eat('the? field');
      const field = w.name(posts);
      if (field === undefined) return undefined;
      return above ? { kind: 'above post in', field } : { kind: 'post in', field };
    }) ??
    w.try(() => {
      if (
        !w.eat(
          'whoever|who is|stands? in|given|named|chosen|entered in? the? field?',
          'the? person in|named|given|chosen in? the? field?',
          'whoever is given|named|chosen|entered as|in',
        )
      )
        return undefined;
      const field = w.name(people);
      return field === undefined ? undefined : { kind: 'person in', field };
    }) ??
    w.try(() => {
      article(w);
      const field = w.name(people, false);
      return field === undefined || /'s?$/.test(w.tokens[w.at - 1]?.low ?? '')
        ? undefined
        : { kind: 'person in', field };
    })
  );
}

function onFile(w: Words, known: Known): { rule: PlainRule; group: boolean } | undefined {
  const { index } = known;
  const written = w.try(() => {
    if (w.eat('person') && w.tokens[w.at]?.quoted)
      return { rule: { kind: 'person', person: w.tokens[w.at++].text } as PlainRule, group: false };
    return undefined;
  });
  if (written) return written;
  const post = w.try(() => {
    if (w.eat('the? holder of post') && w.tokens[w.at]?.quoted)
      return { rule: { kind: 'post', post: w.tokens[w.at++].text } as PlainRule, group: false };
    return undefined;
  });
  if (post) return post;
  if (!index) {
    // Where the house is not known, a name in marks behind “the role” is taken for one.
    return w.try(() => {
      if (!w.eat('anyone|somebody|someone? with? the? role') || !w.tokens[w.at]?.quoted) return undefined;
      return { rule: { kind: 'role', role: w.tokens[w.at++].text } as PlainRule, group: true };
    });
  }
  return w.try(() => {
    w.eat(
      'anyone|anybody|someone|somebody|one|whoever|people|persons|members? of? with|from|in|of|has|at?',
      'a|any|one? member|person|colleague of|from|in',
    );
    w.eat('the|a|an|any');
    w.eat('role|team|people|members of?');
    const role = w.name(roleNames(index));
    if (role !== undefined) {
      w.eat('team|department|office|desk');
      const within = w.try(() => {
        if (w.eat('of the same place')) return { within: 'place' as const };
        if (w.eat('of the same department')) return { within: 'department' as const };
        if (!w.eat('in')) return undefined;
        const of = owner(w, known);
        if (of === undefined) w.eat('the');
        const which = w.eat('place') ? 'place' : w.eat('department') ? 'department' : undefined;
        const whose = of ?? ofUnit(w, known);
        return which && whose !== undefined ? { within: which, ...ofPart(whose) } : undefined;
      });
      return { rule: { kind: 'role', role, ...within } as PlainRule, group: true };
    }
    const person = w.name(index.directory.people.map(p => ({ name: p.name, value: p.id })));
    if (person !== undefined) return { rule: { kind: 'person', person }, group: false };
    const title = w.name(index.directory.posts.map(p => ({ name: p.title, value: p })));
    if (title !== undefined) {
      const told = w.try(() => {
        if (w.peek() !== '(') return undefined;
        const from = w.at;
        while (!w.done && w.peek() !== ')') w.at++;
        if (w.done) return undefined;
        w.at++;
        const words = `${title.title} ${w.between(from, w.at)}`.toLowerCase();
        return index.directory.posts.find(p => postWords(index, p.id).toLowerCase() === words);
      });
      if (told) return { rule: { kind: 'post', post: told.id }, group: false };
      const same = index.directory.posts.filter(p => p.title.toLowerCase() === title.title.toLowerCase());
      if (same.length > 1)
        known.unsure.push(
          `“${title.title}” is the title of ${same.length} posts; the first (${title.id}) was taken. Choose one in the sentence.`,
        );
      return { rule: { kind: 'post', post: title.id }, group: false };
    }
    const department = w.try(() => {
      w.eat('department of?');
      const found = w.name(
        index.directory.departments.map(d => ({ name: d.name, value: d.id })),
        false,
      );
      if (found === undefined) return undefined;
      w.eat('department|team');
      return found;
    });
    if (department !== undefined) return { rule: { kind: 'everyone', department }, group: true };
    const place = w.try(() =>
      w.eat('place|station|at')
        ? w.name(
            index.directory.places.map(p => ({ name: p.name, value: p.id })),
            false,
          )
        : undefined,
    );
    return place === undefined ? undefined : { rule: { kind: 'everyone', place }, group: true };
  });
}

function withLimit(w: Words, known: Known): PlainRule | undefined {
  const numbers: Named<string>[] = [
    ...known.definition.figures
      .filter(f => f.unit !== 'text' && f.unit !== 'date')
      .map(f => ({ name: f.name, value: f.name })),
    ...known.definition.form.fields.filter(isNumeric).map(f => ({ name: f.label, value: f.label })),
  ];
  const amount = () => {
    w.eat('the|this|that|these');
    const token = w.tokens[w.at];
    const marked = token?.quoted ? token.text : undefined;
    if (marked !== undefined) {
      w.at++;
      return marked;
    }
    const name = w.name(numbers);
    if (name !== undefined) return name;
    const n = w.number();
    return n === undefined ? undefined : String(n);
  };
  return w.try(() => {
    const first = w.try(() => {
      if (!w.eat('the? first manager above')) return undefined;
      const of = theOne(w, known);
      if (of === undefined || !w.eat('with a|an')) return undefined;
      const what = w.eat('spending limit') ? 'spending limit' : w.eat('grade') ? 'grade' : undefined;
      if (!what || !w.eat('of at least')) return undefined;
      const least = amount();
      return least === undefined ? undefined : ({ kind: 'manager with', what, least, ...ofPart(of) } as const);
    });
    if (first) return first;
    if (
      !w.eat(
        'someone|somebody|anyone|anybody|whoever|whichever|the|a|any? first? line? manager|boss? above? who|that? may|can|is_allowed_to spend|approve|afford',
      )
    ) {
      if (
        !w.eat(
          'someone|somebody|anyone|a|any|the|whoever first? manager? with|has a|the? spending limit of|for|over? at? least?',
        )
      )
        return undefined;
    }
    const least = amount();
    return least === undefined ? undefined : { kind: 'manager with', what: 'spending limit', least };
  });
}

/** One person or one group. */
function single(w: Words, known: Known): { rule: PlainRule; group: boolean; count?: Quorum } | undefined {
  const alone = (rule: PlainRule | undefined) => rule && { rule, group: false };
  const counted = w.try(() => {
    const every = w.eat('everyone|everybody|all|each|every of|in|from|at|with?', 'all of? the?', 'each of? the?');
    const most = !every && w.eat('a|the? majority|most of|in|from the?');
    const least = !every && !most && w.eat('at least', 'no fewer|less than', 'minimum');
    const n = least ? w.number() : undefined;
    if ((!every && !most && !least) || (least && n === undefined)) return undefined;
    w.eat('people|persons|members|colleagues|of|from|in? of|from|in?');
    w.eat('of|from|in');
    w.eat('the');
    const found = onFile(w, known);
    if (!found?.group) return undefined;
    const count: Quorum = every ? 'everyone' : most ? 'majority' : { atLeast: n ?? 1 };
    return { ...found, count };
  });
  if (counted) return counted;
  const all = w.try((): { rule: PlainRule; group: boolean } | undefined => {
    if (!w.eat('everyone|everybody')) return undefined;
    const place = w.try(() => (w.eat('in|at place') && w.tokens[w.at]?.quoted ? w.tokens[w.at++].text : undefined));
    const department = w.try(() =>
      w.eat('in department') && w.tokens[w.at]?.quoted ? w.tokens[w.at++].text : undefined,
    );
    if (place === undefined && department === undefined) return undefined;
    return {
      rule: { kind: 'everyone', ...(place ? { place } : {}), ...(department ? { department } : {}) },
      group: true,
    };
  });
  if (all) return all;
  const settled = w.try((): PlainRule | undefined => {
    if (!w.eat('whoever settled|decided|did|approved step')) return undefined;
    const step = known.stepAt(w.peek());
    if (!step) return undefined;
    w.at++;
    return { kind: 'decided', step };
  });
  if (settled) return alone(settled);
  const form = inForm(w, known);
  if (form) return alone(form);
  const head = headOf(w, known);
  if (head) return alone(head);
  const limit = withLimit(w, known);
  if (limit) return alone(limit);
  // A title or a role on file that begins with “lead” or “manager” goes before the plain word.
  const filed = onFile(w, known);
  if (filed) return filed;
  const line = inLine(w, known);
  if (line) return alone(line);
  return w.try(() => {
    article(w);
    if (w.eat('asker|requester|applicant', 'person who|that asks|asked', 'whoever asks|asked'))
      return alone({ kind: 'asker' });
    if (w.eat('person concerned', 'subject|joiner|newcomer|employee', 'new colleague|starter|joiner|employee'))
      return alone({ kind: 'subject' });
    w.missed('line manager', 'the asker', 'HR partner');
    return undefined;
  });
}

/** `, else the director, but never the subject`. */
function readBesides(w: Words, known: Known): Whom['besides'] {
  const another = (...phrases: string[]) =>
    w.try(() => {
      w.eat(',');
      return w.eat(...phrases) ? single(w, known)?.rule : undefined;
    });
  const all = (...phrases: string[]): PlainRule[] => {
    const found: PlainRule[] = [];
    for (let one = another(...phrases); one && found.length < 5; one = another(...phrases)) found.push(one);
    return found;
  };
  const otherwise = all('else', 'or if there is nobody', 'or failing that');
  const first = another('but never', 'but not', 'never');
  const except = first ? [first, ...all('or', 'nor', 'and')] : [];
  return { otherwise, ...(except.length > 0 ? { except } : {}) };
}

/** Those who have a step, as they are said. */
export function readWhom(w: Words, known: Known): Whom | undefined {
  return w.try(() => {
    const both = w.eat('both');
    const either = !both && w.eat('either');
    w.eat('first');
    const first = single(w, known);
    if (!first) return undefined;
    const found = [first];
    let how: Whom['how'] = 'one';
    for (;;) {
      const more = w.try(() => {
        const comma = w.eat(',');
        const then = w.eat('and? then|afterwards|next', 'followed by', 'and after that|them');
        const word: Whom['how'] | undefined = then
          ? 'turn'
          : w.eat('or')
            ? 'any'
            : w.eat('and')
              ? 'all'
              : comma
                ? 'one'
                : undefined;
        if (!word) return undefined;
        if (word === 'any') w.eat('else') && w.missed();
        if (w.tokens[w.at - 1]?.low === 'else') return undefined;
        const next = single(w, known);
        return next && { next, word };
      });
      if (!more) break;
      // `a, b or c` is all “or”; `a, then b` is one after another.
      if (more.word !== 'one') {
        if (how !== 'one' && how !== more.word) return undefined;
        how = more.word;
      }
      found.push(more.next);
    }
    if (found.length > 1 && how === 'one') return undefined;
    if (both && how !== 'all') return undefined;
    if (either && how !== 'any') return undefined;
    const rules = found.map(one => one.rule);
    const [{ count, group }] = found;
    if (found.length > 1 && found.some(one => one.count)) return undefined;
    const besides = how === 'one' || how === 'any' ? readBesides(w, known) : { otherwise: [] };
    if (how === 'any') return { rules: [{ kind: 'either', rules }], how: 'any', pool: true, besides };
    return { rules, how, besides, ...(count ? { count } : {}), ...(group ? { pool: true as const } : {}) };
  });
}

/** Somebody as one rule, with whom else to ask when nobody is found. */
export function readRuleOf(w: Words, known: Known): PeopleRule | undefined {
  return w.try(() => {
    const whom = readWhom(w, known);
    if (whom?.rules.length !== 1 || whom.count) return undefined;
    return { first: whom.rules[0], ...whom.besides };
  });
}
