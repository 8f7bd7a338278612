/** The rights of an account, and what each of them opens: nothing that is not named here. */

export const rights = ['designer', 'administrator', 'auditor'] as const;
type Right = (typeof rights)[number];

/**
 * Everything that a right may open. What people may do without any, with what is theirs and what comes to them, is decided
 * record by record.
 */
export const capabilities = {
  'design workflows': ['designer'],
  'read workflows': ['designer', 'administrator', 'auditor'],
  /** Also those that name who may see them. */
  'read every workflow': ['administrator'],
  /** Every request, balance and line of the planner, whoever it is about. */
  'read every record': ['designer', 'administrator', 'auditor'],
  /** What is stuck and what comes next, and what helps it on; leave and cover kept for others. */
  'help requests on': ['designer', 'administrator'],
  /** Records of people, posts, reporting lines and roles, changed from a day on. */
  'keep records': ['designer', 'administrator'],
  /** What is done about papers of each kind: when the new one is asked for, how long the old one is kept. */
  'rule papers': ['designer', 'administrator'],
  'correct answers': ['administrator'],
  'keep accounts': ['administrator'],
  'read connections': ['designer', 'administrator', 'auditor'],
  'keep connections': ['administrator'],
  'move the clock': ['designer'],
  'read the Mailroom': ['designer', 'administrator', 'auditor'],
  'write in the Mailroom': ['designer'],
} as const satisfies Record<string, readonly Right[]>;
export type Capability = keyof typeof capabilities;

export const may = (holder: { readonly rights: readonly Right[] }, capability: Capability): boolean =>
  (capabilities[capability] as readonly Right[]).some(right => holder.rights.includes(right));
