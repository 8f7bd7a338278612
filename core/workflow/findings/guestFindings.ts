/** Findings about guests: who they are, what they are given to fill in, and whether they can ever reach it. */
import { isAsked } from '../../form/index.ts';
import { canHold } from '../../formula/index.ts';
import type { Findings } from '../checking/finding.ts';
import { fieldReference } from '../checking/references.ts';
import { messageById } from '../definition/definition.ts';
import { type GuestStep, guestSteps, guestStepsOf } from '../definition/guests.ts';
import type { Path } from '../definition/path.ts';
import { type Placed, standsBefore, structure } from '../definition/structure.ts';
import { levelAt } from '../figures/filling.ts';
import { domainOf } from '../figures/formulas.ts';
import { guestFields } from '../request/guestForm.ts';

export function guestFindings(findings: Findings): void {
  const { of } = structure(findings.definition);
  for (const step of guestSteps(findings.definition)) {
    const placed = of(step.id);
    if (placed) ofStep(findings, step, placed);
  }
  papersOfNobody(findings);
}

function ofStep(findings: Findings, step: GuestStep, placed: Placed): void {
  const { definition } = findings;
  const at: Path = [...placed.path, 'guest'];
  const { guest } = step;
  fieldReference(findings, step, guest.name, [...at, 'name'], ['text', 'person'], 'the name of the guest');
  fieldReference(findings, step, guest.mail, [...at, 'mail'], ['text'], 'the address of the guest');
  for (const id of [guest.name, guest.mail])
    mustBeGiven(findings, step, id, [...at, id === guest.name ? 'name' : 'mail']);
  if (guest.message !== undefined && !messageById(definition, guest.message))
    findings.add('stops', 'message', step, [...at, 'message'], 'The message with the link is not there', '', {
      fix: { label: 'Use the house’s own words', path: [...at, 'message'], value: undefined },
    });
  const domain = domainOf(definition);
  guest.sections.forEach((id, n) => {
    const path: Path = [...at, 'sections', n];
    const section = definition.form.sections?.find(one => one.id === id);
    const without = guest.sections.filter((_, other) => other !== n);
    const leaveOut =
      without.length > 0 ? { fix: { label: 'Leave it out', path: [...at, 'sections'], value: without } } : {};
    if (!section)
      return findings.add(
        'stops',
        'section',
        step,
        path,
        'A section is given to a guest that is not there',
        '',
        leaveOut,
      );
    const fields = guestFields(definition, step, id).filter(isAsked);
    // A condition that no answer can meet; one that cannot be read is a finding of its own.
    const never = fields.length > 0 && fields.every(f => f.shownWhen !== undefined && !canHold(f.shownWhen, domain));
    if (fields.length === 0 || never)
      findings.add(
        'stops',
        'section never',
        step,
        path,
        `The guest never comes to “${section.title}”`,
        fields.length === 0
          ? 'Nothing is asked in it.'
          : 'Everything in it is shown on conditions that no answer can meet.',
        leaveOut,
      );
  });
}

/** Without a name or an address the request gets stuck at the step. */
function mustBeGiven(findings: Findings, step: GuestStep, id: string, path: Path): void {
  const { definition } = findings;
  const field = definition.form.fields.find(one => one.id === id);
  if (!field || (field.kind !== 'text' && field.kind !== 'person')) return;
  const [first] = definition.steps;
  const before = structure(definition).all.filter(
    ({ step: other }) => other.id === first.id || standsBefore(definition, other.id, step.id),
  );
  const isNeeded =
    field.shownWhen === undefined &&
    before.some(({ step: other }) => levelAt(definition, other.id, field) === 'required');
  if (isNeeded || field.start !== undefined) return;
  findings.add(
    'stops',
    'may be empty',
    step,
    path,
    `“${field.label}” may be empty, and then no link can be sent`,
    'Make the field needed at the beginning.',
    {
      fix: {
        label: 'Make it needed',
        path: ['form', 'fields', definition.form.fields.indexOf(field), 'required'],
        value: true,
      },
    },
  );
}

/** Papers are signed on the page of a guest; elsewhere nobody can. */
function papersOfNobody(findings: Findings): void {
  const { definition } = findings;
  definition.form.fields.forEach((field, i) => {
    if (field.kind !== 'paper') return;
    const path: Path = ['form', 'fields', i];
    if (guestStepsOf(definition, field).length === 0)
      findings.add(
        'stops',
        'paper',
        null,
        [...path, 'section'],
        `Nobody is given “${field.label}” to sign`,
        'Papers are signed by a personal link: put it in a section that a step gives to a guest.',
      );
    if (field.from === undefined) return;
    const from = definition.form.fields.find(one => one.id === field.from);
    if (from?.kind !== 'files' && from?.kind !== 'document')
      findings.add(
        'stops',
        'paper',
        null,
        [...path, 'from'],
        `“${field.label}” is taken from a field that holds no file`,
        'Choose a field of files or a document that is given before.',
      );
  });
}
