/** Findings about letters: what they put in, who reads what stands in them, and whether they are made at all. */

import { nearest } from '../../formula/index.ts';
import type { Findings } from '../checking/finding.ts';
import type { Path } from '../definition/path.ts';
import { structure } from '../definition/structure.ts';
import { insertedInLetter, letterInsertionNames, readableIn } from '../mail/papers.ts';

export function letterFindings(findings: Findings): void {
  const { definition } = findings;
  const letters = definition.letters ?? [];
  const names = letterInsertionNames(definition);
  const made = structure(definition).all.flatMap(({ step, path }) =>
    step.verb === 'Record' && step.effect.kind === 'make letter' ? [{ step, path, effect: step.effect }] : [],
  );
  letters.forEach((letter, i) => {
    const path: Path = ['letters', i, 'body'];
    const inserted = insertedInLetter(letter);
    for (const name of new Set(inserted)) {
      if (names.includes(name)) continue;
      const near = nearest(name, names);
      findings.add(
        'stops',
        `letter inserts:${name}`,
        null,
        path,
        `“${name}” in the letter “${letter.name}”`,
        `There is no field or figure of that name to put in.${near ? ` Did you mean “${near}”?` : ''}`,
      );
    }
    if (letters.findIndex(one => one.id === letter.id) < i)
      findings.add(
        'stops',
        'letter id',
        null,
        ['letters', i, 'id'],
        `Two letters have the id “${letter.id}”`,
        'Give one of them another.',
      );
    const makers = made.filter(one => one.effect.letter === letter.id);
    if (makers.length === 0)
      findings.add(
        'warns',
        'letter unused',
        null,
        path,
        `Nothing makes “${letter.name}”`,
        'A step makes it and keeps it in a field of files.',
      );
    for (const { step, path: at, effect } of makers) {
      const into = definition.form.fields.find(field => field.id === effect.field);
      if (!into) continue;
      const hidden = definition.form.fields.filter(field => inserted.includes(field.label) && !readableIn(field, into));
      if (hidden.length > 0)
        findings.add(
          'warns',
          'letter readers',
          step,
          [...at, 'effect', 'field'],
          `“${letter.name}” cannot tell ${hidden.map(field => field.label).join(', ')}`,
          `Whoever reads “${into.label}” may not read it; it is left out of the letter.`,
        );
    }
  });
}
