/**
 * Mails that come in: a reply decides when its sender, its address and its first line leave no doubt; else the sender
 * gets a polite answer with the choices. The command’s id is made from the mail’s, so a mail delivered twice decides once.
 */
import { createHash } from 'node:crypto';
import { isEmployed, type PersonId, todayFor } from '@north-pebble/core/people';
import { toMilliseconds } from '@north-pebble/core/time';
import {
  type IncomingMail,
  isAutomatic,
  isOpen,
  mailedOutcomes,
  nameOf,
  readReply,
  stepById,
} from '@north-pebble/core/workflow';
import { eq } from 'drizzle-orm';
import { inTransaction, isDuplicate, tables as t, waiting } from '../database/index.ts';
import { type House, loadDefinition } from '../house/index.ts';
import { ProblemError } from '../http/index.ts';
import { command, loadRequest, mailSaid } from '../requests/index.ts';
import { readAddress } from './address.ts';
import { type News, newsIn, type Part } from './news.ts';

export type Incoming = IncomingMail & {
  id: string;
  /** The bare address of the sender. */
  from: string;
  /** Whether its sender is who it says, as far as a check of that is asked for. */
  isChecked: boolean;
  /** How many it says to be from; one, as a rule. */
  senders: number;
  to: readonly string[];
  /** Parts that machines read: reports of mail servers, answers of calendars. */
  parts: readonly Part[];
};

export type Verdict =
  | 'decided'
  | 'automatic'
  | 'came back'
  | 'calendar'
  | 'not ours'
  | 'wrong sender'
  | 'not checked'
  | 'no account'
  | 'expired'
  | 'answered already'
  | 'unclear'
  | 'refused'
  | 'known';

type Judged = { verdict: Verdict; request: string | null; answer: string | null };

const uuidFrom = (text: string): string => {
  const hex = createHash('sha256').update(text).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
};

const undecided = 'Nothing has been decided.';

async function judge(house: House, mail: Incoming): Promise<Judged> {
  const nothing = { request: null, answer: null };
  const news = await newsIn(house, mail);
  if (news) return heard(house, news);
  if (isAutomatic(mail)) return { verdict: 'automatic', ...nothing };
  const secret = await house.secret(house.db);
  const address = mail.to.map(to => readAddress(secret, to)).find(found => found !== null);
  if (!address) {
    // It is no reply to a letter of ours: whoever’s address stands on it has perhaps not written it, and hears nothing.
    return { verdict: 'not ours', ...nothing };
  }
  const { index, now } = await house.moment(house.db);
  const person = index.person(address.person);
  // The address was meant for one person; whoever else writes to it learns nothing of the request.
  if (!person || mail.senders !== 1 || person.mail.toLowerCase() !== mail.from.toLowerCase()) {
    return {
      verdict: 'wrong sender',
      request: null,
      answer: `This address answers for somebody else. ${undecided}`,
    };
  }
  // Whoever really wrote it is not known, so that nobody is answered.
  if (!mail.isChecked) return { verdict: 'not checked', ...nothing };
  const [account] = await house.db.select().from(t.accounts).where(eq(t.accounts.person, person.id));
  if (!account || account.closed || !isEmployed(person, todayFor(index, person.id, now)))
    return { verdict: 'no account', request: null, answer: `Your account is not open now. ${undecided}` };
  const request = address.task.slice(0, address.task.lastIndexOf('.'));
  const stored = await loadRequest(house.db, request);
  if (!stored) return { verdict: 'not ours', ...nothing };
  const about = { request };
  if (address.expires * 1000 < toMilliseconds(now)) {
    return {
      verdict: 'expired',
      ...about,
      answer: `The time to answer by mail is over. ${undecided} Answer on your desk.`,
    };
  }
  const task = stored.state.tasks.find(one => one.id === address.task);
  const definition = await loadDefinition(house.db, stored.workflow, stored.workflowVersion);
  const step = task && stepById(definition, task.step);
  if (!task || step?.verb !== 'Decide') {
    const { last } = stored.state;
    const who = last ? `${nameOf(index, last.by as PersonId)} ${last.did} it. ` : '';
    const state = isOpen(stored.state) ? 'It does not wait for your answer any more.' : 'It is closed.';
    return { verdict: 'answered already', ...about, answer: `${who}${state} Your reply has changed nothing.` };
  }
  const outcomes = mailedOutcomes(definition, step, stored.state);
  const choices = `Reply with one of these as the first line: ${outcomes.map(o => o.label).join(', ')}.`;
  const read = readReply(mail, outcomes, definition.phrases);
  if (read.kind !== 'outcome') {
    const because = read.kind === 'unclear' ? read.because : '';
    return { verdict: 'unclear', ...about, answer: `${because} ${undecided} ${choices}` };
  }
  try {
    await command(house, { id: person.id, rights: [] }, request, {
      id: uuidFrom(`mail ${mail.id}`),
      command: {
        kind: 'answer',
        seen: stored.state.version,
        task: task.id,
        outcome: read.outcome,
        note: read.note,
      },
    });
    return { verdict: 'decided', ...about, answer: null };
  } catch (fault) {
    if (!(fault instanceof ProblemError)) throw fault;
    return { verdict: 'refused', ...about, answer: `${fault.problem.detail} ${undecided} ${choices}` };
  }
}

/** What a mail server or a calendar says is kept with the request; nobody writes back to a machine. */
async function heard(house: House, { request, what }: News): Promise<Judged> {
  try {
    await mailSaid(house, request, what);
    return { verdict: what.kind, request, answer: null };
  } catch (fault) {
    if (!(fault instanceof ProblemError)) throw fault;
    return { verdict: 'automatic', request: null, answer: null };
  }
}

/** Reads one mail and does what it says; what was read before is not read again. */
export async function receive(house: House, mail: Incoming): Promise<Verdict> {
  const id = createHash('sha256').update(mail.id).digest('hex');
  const [known] = await house.db.select().from(t.receivedMails).where(eq(t.receivedMails.id, id));
  if (known) return 'known';
  const { verdict, request, answer } = await judge(house, mail);
  const now = await house.now(house.db);
  try {
    await inTransaction(house.db, async tx => {
      await tx.insert(t.receivedMails).values({ id, at: now, sender: mail.from.slice(0, 300), request, verdict });
      if (answer === null) return;
      await tx.insert(t.effects).values({
        key: `reply:${id}`,
        payload: {
          to: '',
          address: mail.from,
          subject: mail.subject.startsWith('Re:') ? mail.subject : `Re: ${mail.subject}`,
          body: answer.trim(),
          answers: mail.id,
        },
        ...waiting,
        writtenAt: now,
      });
    });
  } catch (fault) {
    // Another server took the same mail a moment before.
    if (isDuplicate(fault)) return 'known';
    throw fault;
  }
  house.wake();
  return verdict;
}
