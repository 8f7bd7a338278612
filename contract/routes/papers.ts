/** The register of papers that run out. */
import { z } from 'zod';
import { FindPapers, PaperHolder, PaperRulesInput } from '../inputs/papers.ts';
import { PaperLooks, PaperNumber, PapersView } from '../views/papers.ts';
import { declare } from './route.ts';

const Numbered = z.object({ id: z.coerce.number().int().positive() });

export const paperRoutes = declare({
  'GET /papers': {
    says: 'Papers that one may see: one’s own, and those of the people one looks after.',
    who: 'signed in',
    query: FindPapers,
    answer: PapersView,
  },
  'POST /papers/:id/number': {
    says: 'Shows the number of a paper; the look is kept.',
    who: 'signed in',
    params: Numbered,
    answer: PaperNumber,
  },
  'GET /papers/:id/file': {
    says: 'The paper itself; the look is kept.',
    who: 'signed in',
    params: Numbered,
    answer: { media: ['application/octet-stream'] },
  },
  'GET /papers/:id/looks': { says: 'Who looked at a paper.', who: 'signed in', params: Numbered, answer: PaperLooks },
  'PUT /papers/:id/holder': {
    says: 'Says whose papers these are, once they are on file: all that were given with the same request.',
    who: 'signed in',
    params: Numbered,
    body: PaperHolder,
    answer: PapersView,
  },
  'PUT /papers/rules': {
    says: 'Says what is done about papers of a kind.',
    who: 'rule papers',
    body: PaperRulesInput,
    answer: PapersView,
  },
});
