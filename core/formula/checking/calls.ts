/** Calls: of functions of FEEL, of the house, and of those that a formula writes itself. */
import { dateFunctions } from '../functions/dates.ts';
import {
  builtIns,
  type Form,
  functionNames,
  guarded,
  houseFunctions,
  isHouseFunction,
  type Parameter,
} from '../functions/index.ts';
import type { Meter } from '../meter.ts';
import { nearest } from '../nearest.ts';
import type { Argument, Expression } from '../text/tree.ts';
import { atomOf, fits, itemsOf, spoken, type Type } from '../type.ts';
import { momentType } from '../typeNames.ts';
import { given, loadAnything, loading } from '../values/boundary.ts';
import { FunctionValue } from '../values/value.ts';
import { type Checked, type Checking, Frame, fixed, nothing, type Run, unknown } from './frame.ts';

/** Functions whose answer is fixed when what they are given is. */
const foldable: Readonly<Record<string, unknown>> = dateFunctions;

const written: Readonly<Record<string, string>> = {
  duration:
    'Write a duration as duration("P5D") for five days, "PT2H" for two hours, "P1Y2M" for a year and two months.',
  time: 'Write a time as time("08:30:00").',
  'date and time': 'Write a date and time as date and time("2026-02-09T08:30:00").',
  date: 'Write a date as date("2026-02-09").',
};

export function checkCall(c: Checking, e: Extract<Expression, { kind: 'call' }>): Checked {
  const own = c.isOwn(e.name);
  const house = isHouseFunction(e.name) ? e.name : undefined;
  if (own || (Object.hasOwn(c.names, e.name) && !house && !Object.hasOwn(builtIns, e.name)))
    return checkUse(c, {
      kind: 'use',
      of: { kind: 'name', name: e.name, ...e.nameAt },
      args: e.args,
      from: e.from,
      to: e.to,
    });
  const forms = house ? [houseFunctions[house]] : Object.hasOwn(builtIns, e.name) ? builtIns[e.name].forms : undefined;
  if (!forms) {
    const near = nearest(e.name, [...c.ownNames(), ...functionNames]);
    c.say(e.nameAt, `There is no function “${e.name}”.${near ? ` Did you mean “${near}”?` : ''}`);
    for (const arg of e.args) c.check(arg.value);
    return nothing;
  }
  const possible = forms.flatMap((of, i) => {
    const args = inTheirOrder(e.args, of.takes);
    return args ? [{ of, i, args }] : [];
  });
  if (possible.length === 0) {
    for (const arg of e.args) c.check(arg.value);
    c.say(e, takesWords(c, e, forms[0].takes));
    return nothing;
  }
  const checked = new Map<Argument, Checked>();
  const first = e.args[0] && c.check(e.args[0].value);
  if (first) checked.set(e.args[0], first);
  for (const arg of e.args.slice(1)) {
    const { value } = arg;
    // What a function goes through is the list that stands before it.
    checked.set(
      arg,
      value.kind === 'function'
        ? checkFunction(
            c,
            value,
            value.parameters.map(() => itemsOf(first.type)),
          )
        : c.check(value),
    );
  }
  const typeOf = (arg: Argument | undefined): Type => (arg ? (checked.get(arg)?.type ?? 'anything') : 'anything');
  const taken = (args: readonly (Argument | undefined)[], of: readonly Parameter[], kindly: boolean) =>
    args.every((arg, i) => arg === undefined || canTake(typeOf(arg), of[Math.min(i, of.length - 1)], kindly));
  const chosen =
    possible.find(({ args, of }) => taken(args, of.takes, false)) ??
    possible.find(({ args, of }) => taken(args, of.takes, true));
  if (!chosen) {
    sayWrong(c, e, possible, typeOf);
    return nothing;
  }
  const runs = chosen.args.map(arg => (arg ? (checked.get(arg) as Checked).run : unknown));
  if (house) {
    const { gives, steps } = houseFunctions[house];
    const load = gives === 'anything' ? loadAnything : loading(gives);
    const run: Run = frame => {
      frame.meter.spend(steps);
      return frame.call(
        house,
        runs.map(arg => given(arg(frame))),
      );
    };
    return { type: gives, run: load ? frame => load(run(frame)) : run };
  }
  return checkBuiltIn(
    c,
    e,
    chosen.of as Form,
    chosen.args.map(arg => arg && checked.get(arg)),
    runs,
  );
}

/** A call of a function of FEEL, worked out at once where everything it is given is fixed. */
export function checkBuiltIn(
  c: Checking,
  e: Extract<Expression, { kind: 'call' }>,
  form: Form,
  args: readonly (Checked | undefined)[],
  runs: readonly Run[],
): Checked {
  const work = guarded(form);
  const { ofNumber } = form;
  if (ofNumber && args.length === 1 && args[0]?.type === 'number') {
    const [run] = runs;
    return {
      type: form.gives as Type,
      run: frame => {
        const value = run(frame);
        return typeof value === 'number' ? ofNumber(value) : null;
      },
    };
  }
  const { twoByTwo } = form;
  if (twoByTwo && args.every(arg => arg?.type === 'number'))
    return {
      type: 'number',
      run: frame => {
        let all = runs[0](frame);
        for (let i = 1; i < runs.length; i++) {
          const one = runs[i](frame);
          if (typeof all !== 'number' || typeof one !== 'number') return null;
          all = twoByTwo(all, one);
        }
        return typeof all === 'number' ? all : null;
      },
    };
  const type = typeof form.gives === 'function' ? form.gives(args.map(arg => arg?.type ?? 'anything')) : form.gives;
  if (Object.hasOwn(foldable, e.name) && args.length > 0 && args.every(arg => arg?.fixed !== undefined)) {
    const value = work(
      args.map(arg => arg?.fixed ?? null),
      noMeter,
    );
    if (value === null && args.length === 1 && args[0]?.type === 'text' && e.name in written)
      c.say(e.args[0].value, `${JSON.stringify(args[0].fixed)} is none. ${written[e.name]}`);
    return fixed(typeof type === 'object' && 'either' in type ? momentType(value) : type, value);
  }
  const [a, b] = runs;
  if (runs.length === 1) return { type, run: frame => work([a(frame)], frame.meter) };
  if (runs.length === 2) return { type, run: frame => work([a(frame), b(frame)], frame.meter) };
  return {
    type,
    run: frame =>
      work(
        runs.map(run => run(frame)),
        frame.meter,
      ),
  };
}

export function takesWords(_c: Checking, e: Extract<Expression, { kind: 'call' }>, of: readonly Parameter[]): string {
  const named = e.args.find(arg => arg.name !== undefined && !of.some(one => one.name === arg.name));
  if (named) return `“${e.name}” has no “${named.name}”; it takes ${of.map(one => `“${one.name}”`).join(', ')}.`;
  const needed = of.filter(one => !one.optional).map(one => spoken(one.of));
  const more = of.some(one => one.many) ? ' or more' : '';
  const rest = of.filter(one => one.optional).map(one => spoken(one.of));
  const last = rest.length > 0 ? `, and may take ${rest.join(' and ')}` : '';
  return `“${e.name}” takes ${needed.length === 0 ? 'nothing' : needed.join(' and ')}${more}${last}.`;
}

export function sayWrong(
  c: Checking,
  e: Extract<Expression, { kind: 'call' }>,
  possible: readonly { of: { takes: readonly Parameter[] }; args: readonly (Argument | undefined)[] }[],
  typeOf: (arg: Argument | undefined) => Type,
): void {
  const { of, args } = possible[0];
  args.forEach((arg, i) => {
    if (!arg) return;
    const parameter = of.takes[Math.min(i, of.takes.length - 1)];
    const other = possible.flatMap(p => p.of.takes[Math.min(i, p.of.takes.length - 1)]?.of ?? []);
    if (canTake(typeOf(arg), parameter, true)) return;
    const wanted = [...new Set(other.map(spoken))].join(' or ');
    c.say(arg.value, `“${e.name}” needs ${wanted}, this is ${spoken(typeOf(arg))}.`);
  });
  if (c.problems.length === 0) c.say(e, takesWords(c, e, of.takes));
}

/** A function that the formula wrote itself, or was given. */
export function checkUse(c: Checking, e: Extract<Expression, { kind: 'use' }>): Checked {
  const args = e.args.map(arg => c.check(arg.value));
  const named = e.args.map(arg => arg.name);
  const types = named.every(name => name === undefined) ? args.map(arg => arg.type) : [];
  const of = e.of.kind === 'function' ? checkFunction(c, e.of, types) : c.check(e.of);
  if (!fits(of.type, 'function')) c.say(e.of, `This is ${spoken(of.type)}, and no function.`);
  const type = typeof of.type === 'object' && 'gives' in of.type ? of.type.gives : 'anything';
  const count = typeof of.type === 'object' && 'gives' in of.type ? of.type.takes : undefined;
  if (count !== undefined && count !== args.length)
    c.say(e, `This function takes ${count === 1 ? 'one value' : `${count} values`}.`);
  return {
    type,
    run: frame => {
      const work = of.run(frame);
      if (!(work instanceof FunctionValue) || work.parameters.length !== args.length) return null;
      const values = args.map(arg => arg.run(frame));
      if (named[0] === undefined) return work.work(values);
      const places = work.parameters.map(name => named.indexOf(name));
      return places.includes(-1) ? null : work.work(places.map(i => values[i]));
    },
  };
}

export function checkFunction(
  c: Checking,
  e: Extract<Expression, { kind: 'function' }>,
  types: readonly Type[],
): Checked {
  const bound = e.parameters.map((name, i) => ({
    kind: 'name' as const,
    name,
    slot: c.slot(),
    type: types[i] ?? 'anything',
  }));
  const body = c.with(bound, () => c.check(e.gives));
  const { parameters } = e;
  return {
    type: { takes: parameters.length, gives: body.type },
    run: frame => {
      const kept = [...frame.locals];
      const { meter } = frame;
      return new FunctionValue(parameters, args =>
        meter.inside(() => {
          meter.spend();
          const locals = [...kept];
          bound.forEach(({ slot }, i) => {
            locals[slot] = args[i] ?? null;
          });
          return body.run(new Frame(frame, locals, meter));
        }),
      );
    },
  };
}

/** Work that is done once, while a formula is read, spends nothing. */
const noMeter = {
  spend() {},
  list: <T>(items: T[]) => items,
  text: (text: string) => text,
  inside: <T>(work: () => T) => work(),
} as unknown as Meter;

/** The arguments in the order of the parameters, with gaps for what is left out; nothing when they are not for these. */
function inTheirOrder(args: readonly Argument[], of: readonly Parameter[]): (Argument | undefined)[] | undefined {
  const many = of.length > 0 && of[of.length - 1].many === true;
  if (args.every(arg => arg.name === undefined)) {
    const least = of.filter(one => !one.optional).length;
    return args.length < least || (!many && args.length > of.length) ? undefined : [...args];
  }
  if (args.some(arg => arg.name === undefined || !of.some(one => one.name === arg.name))) return undefined;
  const found = of.map(one => args.find(arg => arg.name === one.name));
  if (of.some((one, i) => !found[i] && !one.optional)) return undefined;
  while (found.length > 0 && !found[found.length - 1]) found.pop();
  return found.length < args.length ? undefined : found;
}

/** Whether a value of a kind may be given there; kindly, one value may stand for a list of one. */
function canTake(type: Type, { of, many }: Parameter, kindly: boolean): boolean {
  if (many && of === 'anything') return true;
  if (!kindly && atomOf(type) === 'money' && of === 'number') return false;
  if (fits(type, of)) return true;
  return kindly && atomOf(of) === 'list' && fits(type, itemsOf(of));
}
