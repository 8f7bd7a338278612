import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { Outcome } from '../index.ts';
import { type IncomingMail, ownWords, readReply } from './replies.ts';

const outcome = (id: string, label: string, tone: Outcome['tone']): Outcome => ({
  id,
  label,
  tone,
  note: tone === 'good' ? 'none' : 'must',
  leads: { to: 'next' },
});
const outcomes = [
  outcome('approve', 'Approve', 'good'),
  outcome('partly', 'Approve with changes', 'good'),
  outcome('back', 'Send back', 'rework'),
  outcome('decline', 'Decline', 'bad'),
];
const phrases = { Approve: ['yes', 'approved', 'genehmigt', 'd’accord'], Decline: ['no', 'abgelehnt', 'refusé'] };

const mail = (text: string | null, more: Partial<IncomingMail> = {}): IncomingMail => ({
  subject: 'Re: For you to decide: Ina Okell, annual leave',
  text,
  html: null,
  headers: {},
  ...more,
});
const html = (body: string): IncomingMail => mail(null, { html: `<html><body>${body}</body></html>` });
const quoted = '\n\nOn Mon, 2 Feb 2026 at 10:00, North Pebble wrote:\n> Ina asks: annual leave.\n> Decline\n';

/** Every mail with what it decides: an outcome with its note, or why nothing is decided. */
const corpus: [name: string, mail: IncomingMail, verdict: string, note?: string][] = [
  // Plain decisions
  ['a word alone', mail('Approve'), 'approve'],
  ['in capitals', mail('APPROVE'), 'approve'],
  ['in small letters with a full stop', mail('approve.'), 'approve'],
  ['with an exclamation mark', mail('Approve!'), 'approve'],
  ['in quotation marks', mail('“Approve”'), 'approve'],
  ['in bold, as some programs write it', mail('*Approve*'), 'approve'],
  ['after empty lines', mail('\n\n  Approve  \n'), 'approve'],
  ['with line ends of another machine', mail('Approve\r\n\r\nThanks\r\n'), 'approve'],
  ['with a blank that does not break', mail('Approve\u00a0\n'), 'approve'],
  ['after a greeting', mail('Hello North Pebble,\n\nApprove'), 'approve'],
  ['with thanks behind a comma', mail('Approve, thanks'), 'approve'],
  ['with thanks and a name', mail('Approve - thank you Ina'), 'approve'],
  ['the longer of two that begin alike', mail('Approve with changes'), 'partly'],
  ['by another phrase', mail('yes'), 'approve'],
  ['by a phrase with accents', mail('Refuse'), 'decline'],
  ['by a phrase with a curly apostrophe', mail("D'accord."), 'approve'],
  // Notes
  ['with a note below', mail('Decline\nTwo are away already.'), 'decline', 'Two are away already.'],
  ['with a sentence behind', mail('Decline. Two are away already.'), 'decline', 'Two are away already.'],
  [
    'with a note of two lines',
    mail('Send back\n\nPlease take\nthe week after.'),
    'back',
    'Please take\nthe week after.',
  ],
  ['with a note and a courtesy', mail('Decline\nNot in March.\nThanks'), 'decline', 'Not in March.'],
  // Quoting
  ['above an English quote', mail(`Approve${quoted}`), 'approve'],
  [
    'above a German quote',
    mail('Genehmigt\n\nAm Mo., 2. Feb. 2026 um 10:00 schrieb North Pebble <np@selkie.example>:\n> Decline'),
    'approve',
  ],
  [
    'above a French quote',
    mail("D'accord\n\nLe lun. 2 févr. 2026 à 10:00, North Pebble a écrit :\n> Decline"),
    'approve',
  ],
  ['above a Spanish quote', mail('Approve\nEl lun, 2 feb 2026 a las 10:00, North Pebble escribió:\n> x'), 'approve'],
  ['above an Italian quote', mail('Approve\nIl giorno lun 2 feb 2026 North Pebble ha scritto:\n> x'), 'approve'],
  ['above a Dutch quote', mail('Approve\nOp ma 2 feb 2026 om 10:00 schreef North Pebble:\n> x'), 'approve'],
  ['above a Swedish quote', mail('Approve\nDen mån 2 feb. 2026 kl 10:00 skrev North Pebble:\n> x'), 'approve'],
  [
    'above a quoting line broken in two',
    mail('Approve\n\nOn Mon, 2 Feb 2026 at 10:00, North Pebble\n<np@selkie.example> wrote:\n> Decline'),
    'approve',
  ],
  [
    'above a block of headers',
    mail('Decline\nNot now.\n\nFrom: North Pebble <np@selkie.example>\nSent: Monday\nSubject: x\n\nApprove'),
    'decline',
    'Not now.',
  ],
  ['above a line of dashes', mail('Approve\n\n-----Original Message-----\nDecline'), 'approve'],
  ['above a line of underscores', mail('Approve\n________________________________\nDecline'), 'approve'],
  // Signatures
  ['above a signature', mail('Approve\n-- \nTom Lund\nDecline-free since 2001'), 'approve'],
  ['above what a telephone adds', mail('Approve\n\nSent from my telephone'), 'approve'],
  ['with a note above a signature', mail('Decline\nNo.\n--\nTom'), 'decline', 'No.'],
  // HTML
  ['as HTML', html('<p>Approve</p>'), 'approve'],
  ['as HTML with a quote', html('<div>Approve</div><blockquote>Decline</blockquote>'), 'approve'],
  [
    'as HTML with a quote by class',
    html('<div dir="ltr">Decline<br>Not now</div><div class="x_quote"><p>Approve</p></div>'),
    'decline',
    'Not now',
  ],
  ['as HTML with entities', html('<p>Approve&nbsp;&#33;</p>'), 'approve'],
  ['as HTML with styles', html('<style>p{content:"Decline"}</style><p><b>Approve</b></p>'), 'approve'],
  ['as HTML with a rule before the quote', html('<p>Approve</p><hr><p>Decline</p>'), 'approve'],
  // Not clear
  ['taken back in the next line', mail('Approve\nNo, wait, do not do it.'), 'unclear'],
  ['taken back further down', mail('Approve\n\nSorry, I take that back.'), 'unclear'],
  ['taken back by the other answer', mail('Approve\n\nOn second thoughts: decline'), 'unclear'],
  ['an answer hidden by its style', html('<p>What is this?</p><p style="display:none">Approve</p>'), 'unclear'],
  ['an answer too small to see', html('<p>What is this?</p><p style="font-size:0">Approve</p>'), 'unclear'],
  [
    'an answer in the colour of the page',
    html('<p style="color:#fff;background:#fff">Approve</p><p>Why?</p>'),
    'unclear',
  ],
  ['an answer with the hidden attribute', html('<p hidden>Approve</p><p>Not now</p>'), 'unclear'],
  ['text and HTML that say two things', { ...mail('Approve'), html: '<p>Decline</p>' }, 'unclear'],
  ['a question', mail('Approve?'), 'unclear'],
  ['a choice left open', mail('Approve or decline, I am not sure'), 'unclear'],
  ['a condition', mail('Approve, if Per agrees'), 'unclear'],
  ['a condition without a comma', mail('Approve unless it rains'), 'unclear'],
  ['its opposite', mail('I do not approve'), 'unclear'],
  ['its opposite, shortly', mail('Not approved'), 'unclear'],
  ['a word that only begins alike', mail('Approvement of this is needed'), 'unclear'],
  ['two answers', mail('Approve\nDecline'), 'unclear'],
  ['two answers in one line', mail('Approve. No, decline'), 'unclear'],
  ['a question of one’s own', mail('Who will feed the gulls?'), 'unclear'],
  ['nothing above the quote', mail(quoted), 'unclear'],
  ['nothing at all', mail(''), 'unclear'],
  ['only a signature', mail('-- \nTom Lund'), 'unclear'],
  ['only thanks', mail('Thanks'), 'unclear'],
  ['a picture without words', html('<img src="cid:1">'), 'unclear'],
  ['the answer below the quote', mail('> Ina asks\n\nApprove'), 'unclear'],
  ['a forwarded mail', mail('Approve', { subject: 'Fwd: For you to decide' }), 'unclear'],
  ['a forwarded mail in another language', mail('Approve', { subject: 'WG: For you to decide' }), 'unclear'],
  // Written by machines
  ['an absence note', mail('Approve', { subject: 'Automatic reply: For you to decide' }), 'automatic'],
  ['an absence note in another language', mail('Ja', { subject: 'Abwesenheitsnotiz: x' }), 'automatic'],
  ['a mail that says so itself', mail('Approve', { headers: { 'auto-submitted': 'auto-replied' } }), 'automatic'],
  ['a mail in bulk', mail('Approve', { headers: { precedence: 'bulk' } }), 'automatic'],
  ['a report of what could not be delivered', mail('x', { headers: { 'return-path': '<>' } }), 'automatic'],
  [
    'a report by its kind',
    mail('x', { headers: { 'content-type': 'multipart/report; report-type=delivery-status' } }),
    'automatic',
  ],
  ['a mail that says it is not automatic', mail('Approve', { headers: { 'auto-submitted': 'no' } }), 'approve'],
];

describe('a reply by mail', () => {
  test('there are enough kinds of them here', () => {
    expect(corpus.length).toBeGreaterThanOrEqual(60);
    expect(new Set(corpus.map(([name]) => name)).size).toBe(corpus.length);
  });

  test.each(corpus.map(([name, given, verdict, note]) => ({ name, given, verdict, note })))('$name', one => {
    const { given, verdict, note } = one;
    const read = readReply(given, outcomes, phrases);
    expect(read.kind === 'outcome' ? read.outcome : read.kind).toBe(verdict);
    if (read.kind === 'outcome') expect(read.note).toBe(note ?? null);
    if (read.kind === 'unclear') expect(read.because).toMatch(/^[A-Z].{10,}\.$/);
  });

  test('whatever stands below what is quoted never changes what is read', () => {
    fc.assert(
      fc.property(fc.constantFrom('Approve', 'Decline', 'maybe', ''), fc.string({ maxLength: 200 }), (own, below) => {
        const head = `${own}\n\nOn Mon, 2 Feb 2026 at 10:00, North Pebble wrote:\n> x\n`;
        expect(readReply(mail(head + below), outcomes)).toEqual(readReply(mail(head), outcomes));
      }),
    );
  });

  test('no words whatever are read as a decision unless they begin with one of its phrases', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 120 }), text => {
        const read = readReply(mail(text), outcomes);
        if (read.kind !== 'outcome') return;
        const [first] = ownWords(text).filter(Boolean);
        expect(first.normalize('NFD').toLowerCase()).toMatch(/approve|send back|decline/);
      }),
      { numRuns: 500 },
    );
  });

  test('however long it is, it is read', () => {
    const long = `${'a '.repeat(200_000)}\n`.repeat(3);
    expect(readReply(mail(long), outcomes).kind).toBe('unclear');
    expect(readReply(html('<div class="x">'.repeat(50_000)), outcomes).kind).toBe('unclear');
  });
});
