/** `Wait until Start date`: what a request waits for. */
import type { Step, StepOf } from '../../definition/definition.ts';
import { dateFields, dateFigures, readAmountOf, readBefore, spanFields } from '../limits.ts';
import type { Named } from '../words.ts';
import { type Around, behindAll, leading, whenOf } from './around.ts';
import type { Saying } from './saying.ts';

/** `, at 17:00`. */
export function readTimeOfDay(s: Saying): { at?: string } {
  const { w } = s;
  const at = w.try(() => {
    w.eat(',');
    if (!w.eat('at')) return undefined;
    const said = [0, 1, 2].map(n => w.tokens[w.at + n]?.text ?? '');
    if (!/^\d{1,2}$/.test(said[0]) || said[1] !== ':' || !/^\d{2}$/.test(said[2])) return undefined;
    w.at += 3;
    return `${said[0].padStart(2, '0')}:${said[2]}`;
  });
  return at === undefined ? {} : { at };
}

export function held(s: Saying): Step[] | undefined {
  const { w, known } = s;
  const around = leading(s);
  if (around.limit || around.remind) return undefined;
  w.eat('the_request|it');
  if (!w.eat('waits|wait|hold|holds|pause|pauses|is|put? on? hold?')) {
    w.missed('wait for', 'wait until');
    return undefined;
  }
  w.eat('the_request|it');
  const until = ((): StepOf<'Hold'>['until'] | undefined => {
    const before = w.try(() => (w.eat('until|till', 'up to') ? readBefore(w, known) : undefined));
    if (before) return { kind: 'before', ...before };
    const requests = w.eat('until every request that it opened has ended', 'for|until the? requests that it opened');
    if (requests) return { kind: 'requests' };
    const amount = w.try(() => {
      w.eat('for|another');
      return readAmountOf(w);
    });
    if (amount) return { kind: 'time', amount };
    const files: Named<string>[] = known.definition.form.fields
      .filter(f => f.kind === 'files' || f.kind === 'document')
      .map(f => ({ name: f.label, value: f.id }));
    const document = w.try(() => {
      if (!w.eat('for|until|till')) return undefined;
      w.eat('the|a|their|his|her');
      const field = w.name(files);
      if (field === undefined) return undefined;
      w.eat(
        'is|are|has_been|have_been|has|have|to_be|to|comes|come? in|here|there|given|uploaded|attached|handed|arrive|arrived in?',
      );
      return field;
    });
    if (document !== undefined) return { kind: 'document', field: document };
    const away = w.try(() => {
      if (!w.eat('until|till the? last day of', 'until|till the? end of')) return undefined;
      w.eat('the|their|his|her');
      const field = w.name(spanFields(known));
      return field !== undefined && w.eat('is known|told|there', 'has been told') ? field : undefined;
    });
    if (away !== undefined) return { kind: 'last day', field: away };
    return w.try(() => {
      if (!w.eat('until|till')) return undefined;
      w.eat('the|their|his|her');
      const token = w.tokens[w.at];
      if (token?.quoted && w.text[token.from] === '‹') {
        w.at++;
        return { kind: 'date' as const, formula: token.text };
      }
      const figure = w.name(dateFigures(known));
      if (figure !== undefined) return { kind: 'date' as const, formula: figure };
      const date = w.name(dateFields(known));
      const field = known.definition.form.fields.find(f => f.id === date);
      if (!field) return undefined;
      return field.kind === 'date'
        ? { kind: 'date' as const, formula: field.label }
        : { kind: 'before' as const, workingDays: 0, field: field.id };
    });
  })();
  if (!until) return undefined;
  const timed = until.kind === 'date' || until.kind === 'before' ? { ...until, ...readTimeOfDay(s) } : until;
  const inner: Around = { when: [...around.when] };
  if (!behindAll(s, inner) || inner.limit || inner.back || inner.count || inner.atLimit) return undefined;
  const { remind } = inner;
  if (remind && timed.kind !== 'document' && timed.kind !== 'last day') return undefined;
  const asked = remind ? { remind: { every: remind.every ?? remind.after, atMost: remind.atMost } } : {};
  return [{ verb: 'Hold', id: s.id('hold'), when: whenOf(inner), until: { ...timed, ...asked } }];
}
