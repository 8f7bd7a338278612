/** What goes out with messages, and letters that are kept: plain values, ready to be set on pages or written for calendars. */
import type { GivenFile } from '../../form/index.ts';
import type { CivilDate } from '../../time/index.ts';

/** Words that look the same. */
export type Run = { readonly text: string; readonly bold?: true; readonly italic?: true; readonly link?: string };
/** A part of a page. */
export type Block =
  | { readonly kind: 'heading' | 'paragraph' | 'quote'; readonly runs: readonly Run[] }
  | { readonly kind: 'list'; readonly ordered: boolean; readonly items: readonly (readonly Run[])[] }
  | {
      readonly kind: 'table';
      readonly head: readonly string[];
      readonly rows: readonly (readonly string[])[];
      readonly numeric: readonly boolean[];
    };

/** A letter with everything put in, ready to be set on pages. */
export type FilledLetter = { readonly title: string; readonly blocks: readonly Block[]; readonly foot: string };

/** A day, or a time on the wall of a zone. */
export type CalendarTime =
  | { readonly date: CivilDate }
  | { readonly date: CivilDate; readonly time: string; readonly zone: string };

/** An invitation for calendars (RFC 5546). */
export type Invitation = {
  /** The same for all that is sent of it. */
  readonly uid: string;
  /** Raised with every change. */
  readonly sequence: number;
  readonly method: 'REQUEST' | 'CANCEL';
  readonly title: string;
  readonly start: CalendarTime;
  /** The last day that belongs to it, or the time at which it is over. */
  readonly end: CalendarTime;
};

/** What went out with a message: files, and an invitation. */
export type Attached = { readonly files?: readonly GivenFile[]; readonly invitation?: Invitation };
