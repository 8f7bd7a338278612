/** Findings about the form, the figures and their formulas. */

import { isAsked, moduleOf } from '../../form/index.ts';
import {
  boundaries,
  callsIn,
  canHold,
  compile,
  divisionsByNothing,
  divisorsOf,
  Meter,
  mostStepsTogether,
  type Names,
  nearest,
  type Problem,
  wordsCompared,
} from '../../formula/index.ts';
import type { Finding, Findings } from '../checking/finding.ts';
import type { Definition } from '../definition/definition.ts';
import { guestStepsOf } from '../definition/guests.ts';
import type { Path } from '../definition/path.ts';
import { allSteps } from '../definition/structure.ts';
import { compileWorkflow, namesOf } from '../figures/evaluate.ts';
import { levelAt } from '../figures/filling.ts';
import { domainOf, formulasOf, type Placement } from '../figures/formulas.ts';
import { listNamed, ratesList } from '../figures/listRows.ts';
import { insertedNames } from '../mail/letters.ts';

export function formFindings(findings: Findings): void {
  nameFindings(findings);
  fieldFindings(findings);
  formulaFindings(findings);
  unusedFindings(findings);
  boundaryFindings(findings);
}

function nameFindings(findings: Findings): void {
  const { definition } = findings;
  const seen = new Map<string, string>();
  const ids = new Set<string>();
  const named = [
    ...definition.form.fields.map((f, i) => ({
      id: f.id,
      name: f.label,
      what: 'field',
      path: ['form', 'fields', i, 'label'],
    })),
    ...definition.figures.map((f, i) => ({ id: f.id, name: f.name, what: 'figure', path: ['figures', i, 'name'] })),
  ];
  const taken = new Set(named.map(n => n.name));
  for (const { id, name, what, path } of named) {
    const other = seen.get(name) ?? (name in standing ? 'name of the house' : undefined);
    if (other) {
      let n = 2;
      while (taken.has(`${name} ${n}`)) n++;
      findings.add(
        'stops',
        'name',
        null,
        path,
        `“${name}” is used twice`,
        `A ${other} has this name already; give this ${what} another.`,
        {
          fix: { label: `Call it “${name} ${n}”`, path, value: `${name} ${n}` },
        },
      );
    }
    if (/[{}.[\]]/.test(name)) {
      findings.add(
        'stops',
        'letters',
        null,
        path,
        `“${name}” cannot be used in formulas`,
        'Leave out braces, brackets and full stops.',
      );
    }
    if (ids.has(id))
      findings.add('stops', 'id', null, path, `Two entries have the id “${id}”`, `Give this ${what} another id.`);
    seen.set(name, what);
    ids.add(id);
  }
}
const standing = { Asker: 1, Subject: 1, 'Asker post': 1, 'Asker place': 1, 'Asker department': 1, 'Asker grade': 1 };

function fieldFindings(findings: Findings): void {
  const { definition, around } = findings;
  const { fields, sections = [] } = definition.form;
  const steps = allSteps(definition);
  if (!fields.some(isAsked)) {
    findings.add(
      'warns',
      'empty',
      null,
      ['form'],
      'The form asks nothing',
      'Add at least one field, or nobody knows what is asked for.',
    );
  }
  fields.forEach((field, i) => {
    const path: Path = ['form', 'fields', i];
    if (field.section !== undefined && !sections.some(s => s.id === field.section)) {
      findings.add(
        'stops',
        'section',
        null,
        [...path, 'section'],
        `“${field.label}” stands in a section that is not there`,
        'It is shown above the sections.',
        {
          fix: { label: 'Put it above the sections', path: [...path, 'section'], value: undefined },
        },
      );
    }
    const held = around.people && new Set(around.people.index.directory.roles.map(r => r.role));
    const idle = held && field.readers?.filter(role => !held.has(role));
    if (idle?.length) {
      findings.add(
        'warns',
        'readers',
        null,
        [...path, 'readers'],
        `Nobody holds the role ${idle[0]} that may read “${field.label}”`,
        'Only whoever it is about will see it.',
      );
    }
    // Whoever must give it has to be asked for it somewhere.
    const asked = steps.filter(s => s.verb === 'Ask' || s.verb === 'Do' || s.verb === 'Decide');
    const hiddenAtAsk = asked[0] !== undefined && levelAt(definition, asked[0].id, field) === 'hidden';
    const changeable = asked.some(s => ['editable', 'required'].includes(levelAt(definition, s.id, field)));
    const guests = guestStepsOf(definition, field);
    const byGuest = guests.some(step => levelAt(definition, step, field) !== 'hidden');
    if (field.required && isAsked(field) && !changeable && !byGuest) {
      const where = hiddenAtAsk ? ['access', asked[0].id, field.id] : path;
      findings.add(
        'stops',
        'hidden',
        null,
        where,
        `“${field.label}” is needed, and nobody can fill it in`,
        'It is hidden or only shown at every step.',
        {
          fix: {
            label: 'Let the asker fill it in',
            path: ['access', definition.steps[0].id, field.id],
            value: 'required',
          },
        },
      );
    }
    if (field.kind === 'pick') {
      const list = around.lists?.find(l => l.id === field.list);
      if (around.lists && !list) {
        findings.add(
          'stops',
          'list',
          null,
          [...path, 'list'],
          `There is no list “${field.list}”`,
          `“${field.label}” has nothing to pick from.`,
        );
      }
      if (field.where) {
        const { column, field: other } = field.where;
        if (!fields.some(f => f.id === other)) {
          findings.add(
            'stops',
            'where',
            null,
            [...path, 'where'],
            `“${field.label}” depends on a field that is not there`,
            `There is no field “${other}”.`,
            {
              fix: { label: 'Offer every row', path: [...path, 'where'], value: undefined },
            },
          );
        }
        if (list && !list.columns.some(c => c.id === column)) {
          findings.add(
            'stops',
            'where',
            null,
            [...path, 'where'],
            `“${field.label}” depends on a column that is not there`,
            `“${list.name}” has no column “${column}”.`,
          );
        }
      }
    }
    if (field.kind === 'choice' && field.only && around.leaveTypes) {
      const unknown = field.only.filter(id => !around.leaveTypes?.includes(id));
      if (unknown.length > 0)
        findings.add(
          'stops',
          'leave type',
          null,
          [...path, 'only'],
          `There is no leave type “${unknown[0]}”`,
          `“${field.label}” offers it.`,
        );
    }
    if (field.start?.from === 'picked' && !fields.some(f => f.id === (field.start as { field: string }).field)) {
      findings.add(
        'stops',
        'start',
        null,
        [...path, 'start'],
        `“${field.label}” is taken from a field that is not there`,
        'Choose where it comes from.',
        {
          fix: { label: 'Let it start empty', path: [...path, 'start'], value: undefined },
        },
      );
    }
  });
  for (const [step, levels] of Object.entries(definition.access ?? {})) {
    if (!steps.some(s => s.id === step)) {
      findings.add(
        'warns',
        'access',
        null,
        ['access', step],
        'Access is set for a step that is not there',
        `There is no step “${step}”.`,
        {
          fix: { label: 'Take it out', path: ['access', step], value: undefined },
        },
      );
      continue;
    }
    for (const field of Object.keys(levels)) {
      if (!fields.some(f => f.id === field))
        findings.add(
          'warns',
          'access',
          null,
          ['access', step, field],
          'Access is set for a field that is not there',
          `There is no field “${field}”.`,
          {
            fix: { label: 'Take it out', path: ['access', step, field], value: undefined },
          },
        );
    }
  }
}

function formulaFinding(findings: Findings, at: Placement, problem: Problem): void {
  const { source, path, step } = at;
  const word = source.slice(problem.from, problem.to).trim();
  const near = /Did you mean “(.+)”\?/.exec(problem.message)?.[1];
  const value = near === undefined ? undefined : source.slice(0, problem.from) + near + source.slice(problem.to);
  const more: Partial<Finding> = { place: { from: problem.from, to: problem.to } };
  if (value !== undefined) more.fix = { label: `Change to “${near}”`, path, value };
  findings.add('stops', 'formula', step, path, word ? `“${word}”` : 'A formula is not complete', problem.message, more);
}

function formulaFindings(findings: Findings): void {
  const { definition, around } = findings;
  const compiled = compileWorkflow(definition, around.lists);
  const domain = domainOf(definition, compiled.names);
  const scope = { values: {}, call: () => null, together: new Meter(undefined, mostStepsTogether) };
  for (const at of formulasOf(definition)) {
    const names = at.figure === undefined ? compiled.names : namesOf(definition, around.lists, at.figure);
    const result =
      at.figure === undefined ? compiled.formula(at.source, at.wanted) : compile(at.source, names, at.wanted);
    if (!result.ok) {
      formulaFinding(findings, at, result.problems[0]);
      continue;
    }
    // What looks at nothing is the same for every request: it is known now whether it ever has a value.
    if (result.formula.uses.length === 0 && 'tooMuch' in result.formula.attempt(scope))
      findings.add(
        'stops',
        'too much',
        at.step,
        at.path,
        'This is too much work',
        'All formulas of a request together may take only so many steps, so it would never have a value. Make it shorter.',
      );
    for (const place of divisionsByNothing(at.source, names)) {
      findings.add(
        'stops',
        'divides',
        at.step,
        at.path,
        'This divides by nothing',
        `“${at.source.slice(place.from, place.to)}” never has a value.`,
        { place },
      );
    }
    valueFindings(findings, at, names);
    listFindings(findings, at, names);
    for (const { name, place } of divisorsOf(at.source, names)) {
      if (!mayBeNothing(definition, name)) continue;
      findings.add(
        'stops',
        `may divide:${name}`,
        at.step,
        at.path,
        `“${name}” may be 0, and nothing can be divided by 0`,
        `Write “if ${name} = 0 then … else …”, or let the field begin at 1.`,
        { place },
      );
    }
    if (at.wanted === 'yes/no' && at.path.at(-1) === 'when' && !canHold(at.source, domain)) {
      findings.add(
        'stops',
        'never',
        at.step,
        at.path,
        'This condition can never hold',
        `No answers make “${at.source}” true.`,
      );
    }
  }
}

/** Lists that a formula looks into and that are not there: what it looks for never has a value. */
function listFindings(findings: Findings, at: Placement, names: Names): void {
  const { lists } = findings.around;
  if (!lists) return;
  for (const { name, text, place } of callsIn(at.source, names)) {
    const list = name === 'row of' ? text : name === 'in currency' ? ratesList : undefined;
    if (list === undefined || listNamed(lists, list)) continue;
    findings.add(
      'stops',
      `no list:${list}`,
      at.step,
      at.path,
      `There is no list “${list}”`,
      name === 'row of'
        ? 'The formula looks for a row of it, and never finds one.'
        : 'Amounts are changed into another currency by its rows: one for each currency, with its rate for one of the house’s own.',
      { place: { from: place.from, to: place.to } },
    );
  }
}

/** Whether a number by which something is divided may be nothing: a field that may begin at 0, a figure that may come to it. */
function mayBeNothing(definition: Definition, name: string): boolean {
  const field = definition.form.fields.find(f => f.label === name);
  if (field) return (moduleOf(field.kind).bounds?.(field).least ?? 0) <= 0;
  return definition.figures.some(f => f.name === name);
}

/** The values that a name can have, where the house or the form says which. */
function valuesOf(findings: Findings, name: string): readonly string[] | undefined {
  const { definition, around } = findings;
  const directory = around.people?.index.directory;
  if (name === 'Asker place') return directory?.places.map(place => place.name);
  if (name === 'Asker department') return directory?.departments.map(department => department.name);
  if (name === 'Asker post') return directory?.posts.map(post => post.title);
  const field = definition.form.fields.find(f => f.label === name);
  if (field?.kind === 'choice') return field.options === 'leave types' ? around.leaveTypeNames : field.options;
  if (field?.kind === 'pick') return around.lists?.find(list => list.id === field.list)?.rows.map(row => row.title);
  return undefined;
}

/** A comparison with words that nothing ever has, as after a slip of the pen or when a place was renamed. */
function valueFindings(findings: Findings, at: Placement, names: Names): void {
  for (const { name, value, place } of wordsCompared(at.source, names)) {
    const known = valuesOf(findings, name);
    if (!known || known.includes(value)) continue;
    const near = nearest(value, known);
    const text = JSON.stringify(near ?? '');
    findings.add(
      'stops',
      `no such value:${value}`,
      at.step,
      at.path,
      `“${name}” is never “${value}”`,
      known.length > 8 ? 'No record has it.' : `It can be ${known.map(one => `“${one}”`).join(', ')}.`,
      {
        place,
        ...(near
          ? {
              fix: {
                label: `Take “${near}”`,
                path: at.path,
                value: at.source.slice(0, place.from) + text + at.source.slice(place.to),
              },
            }
          : {}),
      },
    );
  }
}

function unusedFindings(findings: Findings): void {
  const { definition } = findings;
  const compiled = compileWorkflow(definition, findings.around.lists);
  const used = new Set<string>();
  for (const { source, wanted, figure } of formulasOf(definition)) {
    const result = figure === undefined ? compiled.formula(source, wanted) : compiled.figures[figure].compiled;
    if (result.ok) for (const name of result.formula.uses) used.add(name.split('.')[0]);
    // A formula that cannot be read may use anything that it names.
    else for (const name of Object.keys(compiled.names)) if (source.includes(name)) used.add(name);
  }
  for (const message of definition.messages) {
    for (const name of [...insertedNames(message.subject), ...insertedNames(message.body)]) used.add(name);
  }
  for (const { title, body, foot } of definition.letters ?? []) {
    for (const name of insertedNames(`${title} ${body} ${foot ?? ''}`)) used.add(name);
  }
  definition.figures.forEach((figure, i) => {
    if (used.has(figure.name)) return;
    // A figure is also there to be read by whoever decides.
    if (allSteps(definition).some(s => s.verb === 'Decide' || s.verb === 'Do')) return;
    findings.add(
      'warns',
      'unused',
      null,
      ['figures', i],
      `Nobody uses “${figure.name}”`,
      'No formula, no message and no decision looks at it.',
    );
  });
  const everything = JSON.stringify([
    definition.steps,
    definition.form.fields.map(f => [f.start, f.kind === 'pick' ? f.where : null]),
  ]);
  definition.form.fields.forEach((field, i) => {
    if (!isAsked(field) || used.has(field.label) || everything.includes(`"${field.id}"`)) return;
    const readers = allSteps(definition).filter(
      s => (s.verb === 'Decide' || s.verb === 'Do') && levelAt(definition, s.id, field) !== 'hidden',
    );
    if (readers.length > 0) return;
    findings.add(
      'warns',
      'unused',
      null,
      ['form', 'fields', i],
      `Nobody reads “${field.label}”`,
      'It is asked, but no step, formula or message looks at it.',
    );
  });
}

/** Values at which a condition turns, and that none of the samples has. */
function boundaryFindings(findings: Findings): void {
  const { definition, around } = findings;
  if (!around.samples || around.samples.length === 0) return;
  const { names } = compileWorkflow(definition, around.lists);
  const said = new Set<string>();
  for (const at of formulasOf(definition)) {
    if (at.wanted !== 'yes/no') continue;
    for (const edge of boundaries(at.source, names)) {
      const key = `${edge.name}=${edge.value}`;
      if (said.has(key) || around.samples.some(s => s[edge.name] === edge.value)) continue;
      said.add(key);
      findings.add(
        'warns',
        `boundary:${key}`,
        at.step,
        at.path,
        `${edge.name} of exactly ${edge.value} was never tried`,
        `“${at.source}” turns there. Keep a rehearsal with ${edge.name} at ${edge.value} as a check.`,
        { place: { from: edge.from, to: edge.to } },
      );
    }
  }
}

/** Fields that nobody may see at the step of a definition. */
export const hiddenAt = (definition: Definition, step: string): Set<string> =>
  new Set(definition.form.fields.filter(f => levelAt(definition, step, f) === 'hidden').map(f => f.id));
