/** Where a guest stands: their link, what they handed in, what was asked and answered. */
import type { PersonId } from '../../people/index.ts';
import type { Instant } from '../../time/index.ts';

export type HandedIn = {
  /** Given back, it is to be looked at and handed in again. */
  readonly state: 'in' | 'back';
  readonly at: Instant;
  readonly note?: string;
};

/** A question or an answer; `by` is nobody where the guest writes. */
export type Word = { readonly by: PersonId | null; readonly at: Instant; readonly text: string };

export type GuestStanding = {
  /** The link that is good now: the how manieth, until when, and whether it was ended. */
  readonly link: { readonly n: number; readonly until: Instant; readonly ended?: true };
  /** By section. */
  readonly sections: Readonly<Record<string, HandedIn>>;
  readonly words: readonly Word[];
  readonly reminders: number;
  readonly remindAt?: Instant;
  /** The version of the request at which they last handed something in. */
  readonly changed: number;
};
