/** The columns of lists, and how far they may be looked through. */

/** The columns of the requests place, with their headings. */
export const requestColumns = {
  request: 'Request',
  what: 'What',
  workflow: 'Workflow',
  asker: 'Asked by',
  standing: 'Where it stands',
  asked: 'Asked',
  closed: 'Closed',
} as const;
export type RequestColumn = keyof typeof requestColumns;

export const plannerDays = { least: 7, most: 366 };
