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
  /** Lists taken along as files; each time is kept. */
  export: ['designer', 'administrator', 'auditor'],
  'correct answers': ['administrator'],
  'keep accounts': ['administrator'],
  /** North Pebble as somebody else sees it: reading only, and each time is kept. */
  'see as others': ['administrator'],
  'read connections': ['designer', 'administrator', 'auditor'],
  'keep connections': ['administrator'],
  'move the clock': ['designer'],
  'read the Mailroom': ['designer', 'administrator', 'auditor'],
  'write in the Mailroom': ['designer'],
} as const satisfies Record<string, readonly Right[]>;
export type Capability = keyof typeof capabilities;

/** The same in words, for whoever asks what a right opens. */
export const capabilityWords: Record<Capability, string> = {
  'design workflows': 'Designs, tries and publishes workflows.',
  'read workflows': 'Reads workflows and their versions.',
  'read every workflow': 'Reads also workflows that are seen by some only.',
  'read every record': 'Reads every request, balance and line of the planner, whoever it is about.',
  'help requests on': 'Sees what is stuck and what comes next, helps it on, and keeps leave and cover for others.',
  'keep records': 'Keeps people, posts, lines, roles, patterns, calendars and lists; never their own record.',
  'rule papers': 'Says what is done about papers of each kind, and for how long they are kept.',
  export: 'Exports lists as files; every export is logged.',
  'correct answers': 'Corrects what was answered in a request, with a reason.',
  'keep accounts': 'Gives and takes accounts and rights.',
  'see as others': 'Sees North Pebble as somebody else does, reading only; every time is kept.',
  'read connections': 'Reads connections and what was asked of them.',
  'keep connections': 'Sets up connections to what is outside.',
  'move the clock': 'Moves the clock, in the demo.',
  'read the Mailroom': 'Reads the Mailroom, in the demo.',
  'write in the Mailroom': 'Answers mails in the Mailroom, in the demo.',
};

export const may = (holder: { readonly rights: readonly Right[] }, capability: Capability): boolean =>
  (capabilities[capability] as readonly Right[]).some(right => holder.rights.includes(right));
