/**
 * Deciding by mail: the first line of a reply is read for an outcome’s phrases. What is not clear is never taken for a
 * decision; quoted text, signatures and the courtesies around them are not read as one’s own words.
 */
import { Parser } from 'htmlparser2';
import type { Definition, Outcome } from '../definition/definition.ts';

/** A mail as it came in, its parts already decoded. */
export type IncomingMail = {
  readonly subject: string;
  readonly text: string | null;
  readonly html: string | null;
  /** Names in lower case. */
  readonly headers: Readonly<Record<string, string>>;
};

export type Reading =
  | { kind: 'outcome'; outcome: string; note: string | null }
  /** Sent by a machine: it is not answered, or two machines would write to each other. */
  | { kind: 'automatic' }
  | { kind: 'unclear'; because: string };

export function isAutomatic({ headers, subject }: Pick<IncomingMail, 'headers' | 'subject'>): boolean {
  const submitted = headers['auto-submitted']?.toLowerCase();
  if (submitted !== undefined && submitted !== 'no') return true;
  if (/^(bulk|junk|auto_reply|list)$/i.test(headers.precedence ?? '')) return true;
  if ('x-autoreply' in headers || 'x-autorespond' in headers || 'list-id' in headers) return true;
  if (headers['return-path']?.replace(/\s/g, '') === '<>') return true;
  if (/^multipart\/report/i.test(headers['content-type'] ?? '')) return true;
  return /^\s*(automatic reply|auto(matic)?[- ]?reply|out of (the )?office|automatische antwort|abwesenheit|réponse automatique|respuesta automática|risposta automatica|automatisch antwoord|autosvar)/i.test(
    subject,
  );
}

/** A reply is short: what stands farther down is quoted text, and is not looked at. */
const mostRead = { text: 20_000, html: 200_000, line: 400 };

const silent = new Set([
  'style',
  'script',
  'head',
  'title',
  'template',
  'noscript',
  'textarea',
  'select',
  'object',
  'svg',
]);
const blocks = new Set([
  'p',
  'div',
  'li',
  'tr',
  'br',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'table',
  'ul',
  'ol',
  'section',
]);
const quoting = /quote|reply|forward/i;
const hiding =
  /display\s*:\s*none|visibility\s*:\s*hidden|opacity\s*:\s*0(?![.\d]*[1-9])|(?:font-size|max-height|max-width|height|width|line-height)\s*:\s*0(?![.\d]*[1-9])|mso-hide\s*:\s*all|text-indent\s*:\s*-\d|clip\s*:|transform\s*:\s*scale\(0/i;

/** Whether words are in the colour of what they stand on. */
function isColourless(style: string): boolean {
  const of = (name: string) =>
    new RegExp(`(?:^|;)\\s*${name}\\s*:\\s*([^;]+)`, 'i').exec(style)?.[1].trim().toLowerCase();
  const colour = of('color');
  return colour !== undefined && (colour === 'transparent' || colour === (of('background-color') ?? of('background')));
}

/** Whether an element is not shown to whoever reads the mail: what nobody sees decides nothing. */
const isHidden = (attributes: Readonly<Record<string, string>>): boolean =>
  'hidden' in attributes ||
  attributes['aria-hidden'] === 'true' ||
  hiding.test((attributes.style ?? '').slice(0, 2000)) ||
  isColourless((attributes.style ?? '').slice(0, 2000));

const isQuote = (name: string, attributes: Readonly<Record<string, string>>): boolean =>
  name === 'blockquote' ||
  name === 'hr' ||
  quoting.test((attributes.class ?? '').slice(0, 500)) ||
  quoting.test((attributes.id ?? '').slice(0, 500));

/** The words of an HTML mail that its reader sees; what it quotes is left out, a block is a line. Reads it once, in order. */
export function wordsOfHtml(html: string): string {
  let words = '';
  /** Elements that are open inside one that is not shown, that one too. */
  let unseen = 0;
  let isOver = false;
  const empty = new Set(['br', 'hr', 'img', 'input', 'meta', 'link', 'col', 'area', 'base', 'wbr', 'source']);
  const parser = new Parser(
    {
      onopentag(name, attributes) {
        if (isOver) return;
        if (unseen > 0) {
          if (!empty.has(name)) unseen += 1;
          return;
        }
        if (isQuote(name, attributes)) {
          isOver = true;
          words += '\n';
        } else if (silent.has(name) || isHidden(attributes)) {
          if (!empty.has(name)) unseen = 1;
        } else if (blocks.has(name) && name !== 'table') words += '\n';
      },
      onclosetag(name) {
        if (isOver) return;
        if (unseen > 0) {
          if (!empty.has(name)) unseen -= 1;
        } else if (blocks.has(name)) words += '\n';
      },
      ontext(text) {
        if (!isOver && unseen === 0 && words.length < mostRead.text) words += text.replace(/\s+/g, ' ');
      },
    },
    { decodeEntities: true, lowerCaseTags: true, lowerCaseAttributeNames: true },
  );
  parser.write(html.slice(0, mostRead.html));
  parser.end();
  return words
    .split('\n')
    .map(line => line.trim())
    .filter((line, i, all) => line !== '' || all[i - 1] !== '')
    .join('\n');
}

/** The lines with which mail programs of many languages begin what they quote. */
const quoteBegins = [
  /^>/,
  /^\|/,
  /^[-_=—]{5,}/,
  /^-{2,}\s*(original message|ursprüngliche nachricht|message d'origine|mensaje original|messaggio originale|oorspronkelijk bericht|forwarded message|weitergeleitete nachricht|message transféré)/i,
  /^begin forwarded message/i,
  /^(on|am|le|el|il|op|den|em|w dniu|dne|на)\b.*(wrote|schrieb|écrit|escribió|scritto|schreef|skrev|escreveu|napisał|pisze|napsal).*:?\s*$/i,
  /^(from|von|de|da|van|fra|från|od|para|an|to)\s?:\s.*(@|<)/i,
  /^\S+@\S+\s+(wrote|schrieb|a écrit|escribió|ha scritto|schreef|skrev)\s*:/i,
];

const signature =
  /^(--\s?$|__+$|sent from my\b|sent via\b|von meinem .* gesendet|envoyé de mon\b|enviado desde mi\b|inviato da\b|get .* for (ios|android))/i;

/** A quoting line may be broken in two by the mail program; the second half ends like the whole. */
const beginsQuote = (line: string, next: string): boolean =>
  quoteBegins.some(begin => begin.test(line)) ||
  (/^(on|am|le|el|il|op|den|em)\b.*\d/i.test(line) && quoteBegins.some(begin => begin.test(`${line} ${next}`)));

/** What the sender wrote above what is quoted, without signature, empty lines at both ends taken off. */
export function ownWords(text: string): string[] {
  const lines = text
    .slice(0, mostRead.text)
    .replace(/\r\n?/g, '\n')
    .split('\n')
    .map(line =>
      line
        .slice(0, mostRead.line)
        .replace(/[\u00a0\u200b\ufeff]/g, ' ')
        .trim(),
    );
  const own: string[] = [];
  for (const [i, line] of lines.entries()) {
    if (beginsQuote(line, lines[i + 1] ?? '') || signature.test(line)) break;
    own.push(line);
  }
  while (own[0] === '') own.shift();
  while (own.at(-1) === '') own.pop();
  return own;
}

const plain = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[“”„«»"'‘’*_`]/g, '')
    .replace(/\s+/g, ' ')
    .trim();

const greeting =
  /^(hi|hello|dear|hallo|liebe[r]?|bonjour|hola|ciao|hej|good (morning|afternoon|day))\b[^.!?]{0,40}[,!]?$/;
const courtesy =
  /^(many )?(thanks|thank you|thx|cheers|regards|best|best regards|kind regards|danke|merci|gracias|grazie|tak|tack)( a lot| you| very much| all| [\p{L}]{2,15})?[.!]*$|^(ok|please)[.!]*$/u;

/** Words that mean more than one of these outcomes, so that a reply with them can decide nothing. */
export function phrasesSaidTwice(
  outcomes: readonly Pick<Outcome, 'id' | 'label'>[],
  phrases: Definition['phrases'] = {},
): { phrase: string; labels: string[] }[] {
  const meaning = new Map<string, { phrase: string; labels: Set<string> }>();
  for (const { label } of outcomes) {
    for (const phrase of [label, ...(phrases[label] ?? [])]) {
      const found = meaning.get(plain(phrase)) ?? { phrase, labels: new Set<string>() };
      found.labels.add(label);
      meaning.set(plain(phrase), found);
    }
  }
  return [...meaning.values()]
    .filter(({ labels }) => labels.size > 1)
    .map(({ phrase, labels }) => ({ phrase, labels: [...labels] }));
}

/** An outcome with everything that means it in a reply. */
type Sayable = Pick<Outcome, 'id' | 'label'> & { phrases: readonly string[] };

const sayable = (outcomes: readonly Outcome[], phrases: Definition['phrases'] = {}): Sayable[] =>
  outcomes.map(({ id, label }) => ({ id, label, phrases: [label, ...(phrases[label] ?? [])] }));

/** The outcome that a line says and nothing else, besides a courtesy or a sentence of its own after it. */
function said(line: string, outcomes: readonly Sayable[]): { outcome: Sayable; rest: string } | null {
  const words = plain(line);
  // The longest first, so that “Approve with changes” is not read as “Approve”.
  const all = outcomes
    .flatMap(outcome => outcome.phrases.map(phrase => ({ outcome, phrase: plain(phrase) })))
    .sort((a, b) => b.phrase.length - a.phrase.length);
  for (const { outcome, phrase } of all) {
    if (phrase === '' || !words.startsWith(phrase)) continue;
    const after = words.slice(phrase.length);
    if (/^\s*[.!:)]*$/.test(after)) return { outcome, rest: '' };
    const courteous = /^\s*[,;–-]\s*(.*)$/.exec(after);
    if (courteous && courtesy.test(courteous[1])) return { outcome, rest: '' };
    const sentence = /^\s*[.!:–—-]\s+(.+)$/.exec(after);
    if (sentence) return { outcome, rest: line.trim().slice(-sentence[1].length) };
  }
  return null;
}

/** Whether a line names an outcome anywhere. */
const names = (line: string, outcome: Sayable): boolean =>
  outcome.phrases.some(phrase =>
    new RegExp(`(^|[^\\p{L}])${plain(phrase).replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}([^\\p{L}]|$)`, 'u').test(
      plain(line),
    ),
  );

/** Words that take back what was just said. */
const takesBack =
  /\b(on second thoughts?|second thoughts|wait|hold on|hang on|actually|ignore|disregard|scrap (that|this|it)|changed my mind|take (that|this|it) back|forget (that|this|it)|by mistake|i meant|never ?mind|cancel (that|this|it)|not what i)\b/;
/** Besides, in words after a yes: a yes with a no behind it is no yes. */
const refuses =
  /\b(no|not|nope|don ?t|dont|do not|cannot|can ?t|won ?t|never|rather|instead|unless|except|but|only if|provided|however|later|stop|undo|decline|reject|nein|nicht|non|pas|nej|ikke)\b/;

/** Whether what stands behind the outcome leaves a doubt about it. */
const isDoubted = (outcome: Pick<Outcome, 'tone'>, behind: readonly string[]): boolean => {
  const words = plain(behind.join(' '));
  return takesBack.test(words) || (outcome.tone === 'good' && refuses.test(words));
};

/** @param phrases what else means an outcome, by its label */
export function readReply(
  mail: IncomingMail,
  choices: readonly Outcome[],
  phrases: Definition['phrases'] = {},
): Reading {
  const outcomes = sayable(choices, phrases);
  if (isAutomatic(mail)) return { kind: 'automatic' };
  if (/^\s*(fwd?|wg|tr|enc|rv|doorst|vs|i)\s*:/i.test(mail.subject)) {
    return { kind: 'unclear', because: 'It was forwarded, not replied to.' };
  }
  const inHtml = mail.html ? wordsOfHtml(mail.html) : '';
  if (!mail.text?.trim()) return readWords(inHtml, choices, outcomes);
  const read = readWords(mail.text, choices, outcomes);
  // Most mails say the same twice. One that says two things, each to another reader, says nothing.
  const seen = inHtml.trim() ? readWords(inHtml, choices, outcomes) : read;
  if (read.kind === 'outcome' && seen.kind === 'outcome' && read.outcome !== seen.outcome)
    return { kind: 'unclear', because: 'It says one thing as plain text and another as a page.' };
  return read;
}

function readWords(text: string, choices: readonly Outcome[], outcomes: readonly Sayable[]): Reading {
  const own = ownWords(text);
  while (own.length > 1 && (own[0] === '' || greeting.test(plain(own[0])))) own.shift();
  if (own.length === 0) return { kind: 'unclear', because: 'Nothing is written above the quoted text.' };
  const [first, ...more] = own;
  const found = said(first, outcomes);
  if (!found) return { kind: 'unclear', because: `The first line, “${first.slice(0, 80)}”, is none of the answers.` };
  const other = outcomes.find(
    o => o !== found.outcome && (names(found.rest, o) || more.some(line => said(line, [o])?.rest === '')),
  );
  if (other) {
    return { kind: 'unclear', because: `It says “${found.outcome.label}” and “${other.label}”.` };
  }
  const chosen = choices.find(choice => choice.id === found.outcome.id);
  const behind = [found.rest, ...more].filter(line => line !== '');
  if (chosen && isDoubted(chosen, behind)) {
    return { kind: 'unclear', because: `It says “${found.outcome.label}”, and then something that may take it back.` };
  }
  const note = [found.rest, ...more]
    .filter(line => !courtesy.test(plain(line)))
    .join('\n')
    .trim();
  return { kind: 'outcome', outcome: found.outcome.id, note: note || null };
}
