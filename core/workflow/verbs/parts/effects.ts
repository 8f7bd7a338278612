/** Effects of the house, read back from their sentences. */
import type { RecordEffect } from '../../definition/definition.ts';
import { need, readFormula, readValues } from '../../language/passage.ts';
import { type Known, readField } from '../../language/ruleReader.ts';
import type { Scanner } from '../../language/scanner.ts';

export function readEffect(s: Scanner, known: Known): RecordEffect {
  if (s.eat(/put somebody on file with/)) return { kind: 'add person', values: readValues(s) };
  if (s.eat(/put a post on file with/)) {
    const values = readValues(s);
    const field = s.eat(/;\s*it stands in/) ? need(s, readField(s, known), 'as a pick of posts') : undefined;
    return { kind: 'add post', values, ...(field === undefined ? {} : { field }) };
  }
  if (s.eat(/put on the balance of the chosen/)) {
    const type = need(s, readField(s, known), 'as a choice of leave types');
    const holder = s.try(() => (s.words('of', false) ? readField(s, known) : undefined));
    s.eat(/:/);
    return { kind: 'adjust', type, amount: readFormula(s), ...(holder ? { holder } : {}) };
  }
  if (s.eat(/put/)) {
    const label = need(s, s.quoted(), 'as words on the planner');
    need(s, s.words('on the planner over') || undefined, '');
    return { kind: 'planner', label, span: need(s, readField(s, known), 'as a field') };
  }
  if (s.eat(/add a row to/)) {
    const list = need(s, s.quoted(), 'as a list');
    need(s, s.words('with') || undefined, '');
    return { kind: 'add row', list, values: readValues(s) };
  }
  if (s.eat(/change the row picked in/)) {
    const row = need(s, readField(s, known), 'as a field');
    s.eat(/:/);
    return { kind: 'change row', row, values: readValues(s) };
  }
  if (s.eat(/change/)) {
    const property = need(s, s.quoted(), 'as a part of the record');
    need(
      s,
      s.words('on the record of the person concerned to') || s.words('of the subject’s record to', false) || undefined,
      '',
    );
    return { kind: 'person', property, formula: readFormula(s) };
  }
  if (s.eat(/keep(?=\s)/)) {
    const field = need(s, readField(s, known), 'as a document');
    need(s, s.words('among the papers as') || undefined, '');
    const as = need(s, s.quoted(), 'as what it is kept as');
    const holder = s.try(() => (s.words('of', false) ? readField(s, known) : undefined));
    return { kind: 'keep paper', field, as, ...(holder ? { holder } : {}) };
  }
  if (s.eat(/make the letter/)) {
    const said = need(s, s.quoted(), 'as a letter');
    const letter = known.definition.letters?.find(one => one.name === said)?.id;
    need(s, s.words('and keep it in') || undefined, '');
    return {
      kind: 'make letter',
      letter: need(s, letter, 'as a letter of this workflow'),
      field: need(s, readField(s, known), 'as a field of files'),
    };
  }
  if (s.eat(/set(?=\s)/)) {
    const field = need(s, readField(s, known), 'as a field');
    need(s, s.words('to') || undefined, '');
    return { kind: 'set', field, formula: readFormula(s) };
  }
  if (s.eat(/open/)) {
    const workflow = need(s, s.quoted(), 'as a workflow');
    need(s, s.words('for the person concerned with') || s.words('for the subject with', false) || undefined, '');
    return { kind: 'open', workflow, values: readValues(s) };
  }
  need(s, s.eat(/book/, 'book'), '');
  const span = need(s, readField(s, known), 'as a span of leave');
  need(s, s.words('as leave of the chosen') || undefined, '');
  const type = need(s, readField(s, known), 'as a choice of leave types');
  const why = s.words(', with the reason in') ? need(s, readField(s, known), 'as a field of text') : undefined;
  const planner = s.eat(/;\s*put them on the team[’']s planner/) !== undefined;
  if (!planner) s.eat(/;\s*not on the planner/);
  return { kind: 'book leave', span, type, planner, ...(why ? { why } : {}) };
}
