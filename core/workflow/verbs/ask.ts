/** Ask: always first; the asker fills the form. */
import { askersFields } from '../figures/filling.ts';
import { say as plain } from '../language/phrase.ts';
import type { VerbModule } from './verb.ts';

export const ask: VerbModule<'Ask'> = {
  take: (execution, step) => execution.goOn({ to: 'next' }, step.id),
  say: ({ definition }) => {
    const labels = askersFields(definition)
      .map(f => f.label)
      .join(', ');
    return { sentence: [plain(`The asker fills in ${labels || 'nothing yet'}.`)], rows: [], after: [] };
  },
  read: (_passage, _known, id) => ({ verb: 'Ask', id }),
  check: () => {},
};
