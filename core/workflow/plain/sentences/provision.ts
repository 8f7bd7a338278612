/** What is brought about outside by a connection. */
import { provisions, type Step } from '../../definition/definition.ts';
import { dateFields } from '../limits.ts';
import { type Around, behindAll, isSound, leading, whenOf } from './around.ts';
import type { Saying } from './saying.ts';
import { readValues } from './values.ts';

/** Other words for what is provisioned. */
const otherwise: Partial<Record<(typeof provisions)[number], readonly string[]>> = {
  'create account': ['open', 'opens', 'make', 'makes', 'set_up', 'sets_up'],
  'change account': ['update', 'updates'],
  'disable account': ['close', 'closes', 'remove', 'removes', 'shut', 'shuts', 'block', 'blocks'],
  'add to group': [],
  'create space': ['open', 'opens', 'make', 'makes', 'set_up', 'sets_up'],
};

export function provisioned(s: Saying): Step[] | undefined {
  const { w, known } = s;
  const around = leading(s);
  if (around.limit || around.remind) return undefined;
  const target = (): string | undefined => {
    w.eat('the');
    const token = w.tokens[w.at];
    if (token?.quoted) {
      w.at++;
      return token.text;
    }
    return w.name(known.connections.map(name => ({ name, value: name })));
  };
  const asked = w.try(() => {
    if (!w.eat('ask|asks')) return undefined;
    const connection = target();
    return connection !== undefined && w.eat('to') ? connection : undefined;
  });
  const action = provisions.find(one => {
    const [verb, ...rest] = one.split(' ');
    const said = [verb, `${verb}s`, ...(otherwise[one] ?? [])].join('|');
    return w.eat(`${said} a|an|the|their? new? ${rest.join(' ')}`, one);
  });
  if (!action) return undefined;
  const connection = asked ?? w.try(() => (w.eat('in|at|on|with') ? target() : undefined));
  if (connection === undefined) return undefined;
  let values: { name: string; formula: string }[] = [];
  if (w.eat('with|called|named|,? with')) {
    if (!w.eat('nothing')) {
      const read = readValues(s);
      if (!read) return undefined;
      values = read;
    }
  }
  const removeOn = w.try(() => {
    const day = 'on|after|at_the_end_of';
    if (!w.eat(`;|,? undo|remove|removed it? ${day}`, ';|,? until')) return undefined;
    const token = w.tokens[w.at];
    if (token?.quoted && w.text[token.from] === '‹') {
      w.at++;
      return token.text;
    }
    w.eat('the');
    const date = w.name(dateFields(known));
    return known.definition.form.fields.find(f => f.id === date && f.kind === 'date')?.label;
  });
  w.eat('; for good');
  const inner: Around = { when: [...around.when] };
  if (!behindAll(s, inner) || inner.limit || inner.back || inner.count || !isSound(inner)) return undefined;
  return [
    {
      verb: 'Provision',
      id: s.id('provision'),
      when: whenOf(inner),
      connection,
      action,
      values,
      ...(removeOn ? { removeOn } : {}),
    },
  ];
}
