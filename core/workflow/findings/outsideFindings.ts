/** Findings about what is asked for from outside: who that is, and what may stand at a public address. */
import { isAsked } from '../../form/index.ts';
import type { Findings } from '../checking/finding.ts';
import { ruleReferences } from '../checking/references.ts';
import { fieldById, type Outside } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import { structure } from '../definition/structure.ts';
import { levelAt } from '../figures/filling.ts';

const at: Path = ['opening', 'outside'];

export function outsideFindings(findings: Findings): void {
  const { definition } = findings;
  const outside = definition.opening?.outside;
  if (!outside) return;
  theirs(findings, outside, 'name', 'Nobody would know who asks');
  theirs(findings, outside, 'mail', 'Nobody could be written to');
  sections(findings, outside);
  ruleReferences(findings, outside.keptBy, definition.steps[0], [...at, 'keptBy']);
  if (JSON.stringify(outside.keptBy).includes('asker'))
    findings.add(
      'stops',
      'kept by',
      null,
      [...at, 'keptBy'],
      'Whoever asks from outside has nobody in the house',
      'Say by a role, a post or a name who keeps it.',
    );
  for (const { step, path } of structure(definition).all) {
    if (step.verb !== 'Decide') continue;
    step.outcomes.forEach(({ label, leads }, n) => {
      if (leads.to === 'rework' && leads.whom === undefined)
        findings.add(
          'warns',
          'sent back outside',
          step,
          [...path, 'outcomes', n, 'leads'],
          `“${label}” goes to who keeps it, not to who asked`,
          'What somebody outside is to change, they are given to fill in by a step with a personal link.',
        );
    });
  }
}

/** The name and the address must be asked for there, and needed. */
function theirs(findings: Findings, outside: Outside, part: 'name' | 'mail', why: string): void {
  const { definition } = findings;
  const field = fieldById(definition, outside[part]);
  const isThere = field?.section !== undefined && outside.sections.includes(field.section);
  if (field?.kind !== 'text' || !isThere || field.shownWhen !== undefined)
    findings.add(
      'stops',
      `outside ${part}`,
      null,
      [...at, part],
      why,
      `Choose a line of text of a section that stands at the public address${field?.shownWhen ? ', and that is always asked' : ''}.`,
    );
}

function sections(findings: Findings, { sections: own }: Outside): void {
  const { definition } = findings;
  const [first] = definition.steps;
  own.forEach((id, n) => {
    const path: Path = [...at, 'sections', n];
    const section = definition.form.sections?.find(one => one.id === id);
    if (!section)
      return findings.add(
        'stops',
        'outside section',
        null,
        path,
        'A section stands at the public address that is not there',
        '',
      );
    const fields = definition.form.fields.filter(
      f => f.section === id && levelAt(definition, first.id, f) !== 'hidden',
    );
    if (!fields.some(isAsked))
      findings.add(
        'stops',
        'outside section',
        null,
        path,
        `Nothing is asked in “${section.title}” at the public address`,
        'Ask something in it at the first step, or leave it out.',
      );
    for (const field of fields) {
      const where: Path = ['form', 'fields', definition.form.fields.indexOf(field)];
      if (field.kind === 'person')
        findings.add(
          'stops',
          'outside person',
          null,
          where,
          `The public form asks for a person: “${field.label}”`,
          'Nobody outside is shown who works here. Ask for it at a later step.',
        );
      if (field.kind === 'files' || field.kind === 'document' || field.kind === 'paper')
        findings.add(
          'stops',
          'outside file',
          null,
          where,
          `The public form takes “${field.label}”`,
          'Files and papers are taken on their own page: put it in a section that a step gives to them by a personal link.',
        );
    }
  });
  for (const field of definition.form.fields) {
    const isThere = field.section !== undefined && own.includes(field.section);
    if (!isThere && levelAt(definition, first.id, field) === 'required' && !field.start)
      findings.add(
        'warns',
        'not asked outside',
        null,
        ['form', 'fields', definition.form.fields.indexOf(field)],
        `“${field.label}” is needed, and nobody outside is asked for it`,
        'It stays empty where somebody asks from outside.',
      );
  }
}
