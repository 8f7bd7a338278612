/** Letters from the step that makes them to the mail that brings them; invitations, changed and taken back. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, jest, test } from '@jest/globals';
import type { MailView, RequestView } from '@north-pebble/contract';
import type { GivenFile } from '@north-pebble/core/form';
import type { Definition } from '@north-pebble/core/workflow';
import { and, eq } from 'drizzle-orm';
import ICAL from 'ical.js';
import { halves } from '../../core/testing/house.ts';
import { decide, flow, given, who } from '../../core/testing/run.ts';
import { tables as t } from '../database/index.ts';
import { lettersToMake } from '../requests/index.ts';
import { pdfWords } from '../testing/pdfWords.ts';
import {
  type Browser,
  eventually,
  type MailStandIn,
  putLive,
  type Small,
  signedIn,
  startMail,
  startSmall,
} from '../testing/serving.ts';
import { TooLong } from '../threads/index.ts';

let small: Small;
let mail: MailStandIn;
let people: Record<'ina' | 'tom' | 'dora' | 'kay', Browser>;
beforeAll(async () => {
  mail = await startMail();
  small = await startSmall({ NP_SMTP: mail.smtp, NP_MAILROOM: mail.list });
  const names = ['ina', 'tom', 'dora', 'kay'] as const;
  people = Object.fromEntries(
    await Promise.all(names.map(async name => [name, await signedIn(small.base, name)] as const)),
  ) as typeof people;
});
afterAll(async () => {
  await small.stop();
  mail.stop();
});

const legs = {
  kind: 'table',
  id: 'legs',
  label: 'Legs',
  required: false,
  columns: [
    { id: 'from', label: 'From', kind: 'place' },
    { id: 'day', label: 'Day', kind: 'date' },
    { id: 'leaves', label: 'Leaves', kind: 'time' },
    { id: 'to', label: 'To', kind: 'place' },
    { id: 'arrives', label: 'Arrives', kind: 'time' },
    { id: 'price', label: 'Price', kind: 'money' },
  ],
};
const paper = { kind: 'files', id: 'itinerary', label: 'Itinerary', required: false, askerReads: true };
const letter = {
  verb: 'Record',
  id: 'letter',
  when: null,
  effect: { kind: 'make letter', letter: 'trip', field: 'itinerary' },
};
const tell = {
  verb: 'Tell',
  id: 'tell',
  when: null,
  to: [who({ kind: 'asker' })],
  addresses: ['quay@harbour.example'],
  message: 'yes',
  attach: [
    { what: 'files', field: 'itinerary' },
    { what: 'invitation', of: 'legs', title: 'Crossing of {subject}' },
  ],
};

const trip = (...steps: unknown[]): Definition => {
  const made = flow(...steps);
  return {
    ...made,
    afterwards: { change: 'at once', cancel: 'at once' },
    form: { ...made.form, fields: [...made.form.fields, legs, paper] },
    access: { ask: { itinerary: 'hidden' } },
    letters: [
      {
        id: 'trip',
        name: 'Itinerary',
        title: 'Itinerary of {subject}',
        body: '<h3>Legs</h3><p>{Legs}</p><p>Remark: {Remark}</p><p>{decisions}</p>',
        foot: '{request}, Selkie Sound Lights',
      },
    ],
  } as unknown as Definition;
};

const row = (change: object = {}) => ({
  from: 'Ovay Station',
  day: '2026-02-09',
  leaves: '08:30',
  to: 'Ovay Station',
  arrives: '11:00',
  price: 12.5,
  ...change,
});

async function asked(definition: Definition, answers: object): Promise<string> {
  const id = `w-${randomUUID().slice(0, 8)}`;
  await putLive(small.db, id, definition);
  const dates = halves('2026-03-09', '2026-03-10');
  const body = { id: randomUUID(), workflow: id, answers: { ...given, dates, ...answers } };
  const sent = await people.ina.call<{ request: string }>('POST', '/requests', body);
  if (sent.status !== 201) throw new Error(JSON.stringify(sent.problem));
  return sent.body.request;
}
const view = async (request: string, as: keyof typeof people = 'ina') =>
  (await people[as].get<RequestView>(`/requests/${request}`)).body;

type Received = MailView & { attached?: { name: string; type: string; kept: string }[]; calendar?: string };
const mailsAbout = async (to: string, fits: (one: Received) => boolean): Promise<Received[]> =>
  ((await mail.mails()) as unknown as Received[]).filter(one => one.to.includes(to) && fits(one)).reverse();
const fileOf = async (kept: string): Promise<Uint8Array> =>
  new Uint8Array(await (await fetch(mail.list.replace('/mails', `/attached/${kept}`))).arrayBuffer());
const eventOf = (text: string) => {
  const root = new ICAL.Component(ICAL.parse(text) as never);
  return {
    method: root.getFirstPropertyValue('method'),
    event: new ICAL.Event(root.getFirstSubcomponent('vevent') as never),
  };
};

describe('a letter', () => {
  test('is made, kept in its field, and goes out with the invitation; the trail says so once it is so', async () => {
    const request = await asked(trip(letter, tell), { legs: [row()], remark: 'Łódź & <b>Ægir</b>' });
    await eventually(async () => (await view(request)).status === 'closed');
    const shown = await view(request);
    const [file] = shown.answers.itinerary as GivenFile[];
    expect(file).toMatchObject({ name: 'Itinerary.pdf', type: 'application/pdf' });
    const texts = shown.trail.map(line => line.text);
    expect(texts).toContain('asked for: the letter “Itinerary”');
    expect(texts.some(text => text.includes('with Itinerary.pdf and an invitation for their calendar'))).toBe(true);

    await eventually(async () => (await mailsAbout('ina@', one => one.calendar !== undefined)).length > 0);
    const [got] = await mailsAbout('ina@', one => one.calendar !== undefined);
    expect(got.attached?.map(one => one.name)).toEqual(expect.arrayContaining(['Itinerary.pdf']));
    const pdf = got.attached?.find(one => one.name === 'Itinerary.pdf');
    const [page] = pdfWords(await fileOf(pdf?.kept ?? '')).map(words => words.replace(/\s+/g, ' '));
    for (const words of ['Itinerary of Ina Okell', 'Ovay Station', '08:30', '12.50 EUR', 'Łódź & <b>Ægir</b>', request])
      expect(page).toContain(words);
    const { method, event } = eventOf(got.calendar ?? '');
    expect([method, event.uid, event.sequence]).toEqual(['REQUEST', `${request}-tell@selkie.example`, 0]);
    expect(event.summary).toBe('Crossing of Ina Okell');
    expect([event.startDate.toString(), event.startDate.zone.tzid]).toEqual(['2026-02-09T08:30:00', 'Europe/Lisbon']);
    expect(got.calendar).toContain('DTSTART;TZID=Europe/Lisbon:20260209T083000');
    // The address outside gets the same.
    await eventually(
      async () => (await mailsAbout('quay@harbour.example', one => one.calendar !== undefined)).length > 0,
    );
  });

  test('changed and then cancelled, the same invitation is sent with a higher number, and taken back', async () => {
    const request = await asked(trip(letter, tell), { legs: [row()] });
    const mine = async () => await mailsAbout('ina@', one => (one.calendar ?? '').includes(`${request}-tell@`));
    await eventually(async () => (await mine()).length === 1);
    const { version } = await view(request);
    const changed = await people.ina.command(request, {
      kind: 'change after approval',
      seen: version,
      answers: {
        ...given,
        dates: halves('2026-03-09', '2026-03-10'),
        // Of a quay that the house does not have, nobody knows which clocks count: the invitation is over days.
        legs: [row({ day: '2026-02-11', leaves: '09:15', to: 'Far Quay' })],
      },
      note: 'The boat is in the dock.',
    } as never);
    expect(changed.status).toBe(200);
    await eventually(async () => (await mine()).length === 2);
    const second = eventOf((await mine())[1].calendar ?? '');
    expect([second.method, second.event.sequence, second.event.startDate.toString()]).toEqual([
      'REQUEST',
      1,
      '2026-02-11',
    ]);
    const now = await view(request);
    const cancelled = await people.ina.command(request, {
      kind: 'cancel after approval',
      seen: now.version,
      note: 'The ferry has gone.',
    } as never);
    expect(cancelled.status).toBe(200);
    await eventually(async () => (await mine()).length === 3);
    const third = eventOf((await mine())[2].calendar ?? '');
    expect([third.method, third.event.sequence]).toEqual(['CANCEL', 2]);
    expect((await view(request)).trail.some(line => line.text.startsWith('took back the invitation of'))).toBe(true);
  });

  test('goes along with the mail by which it is decided', async () => {
    const step = decide({ attach: [{ what: 'files', field: 'itinerary' }] });
    const request = await asked(trip(letter, step), { legs: [row()] });
    await eventually(async () => (await view(request, 'tom')).may.answer !== null);
    const about = () => mailsAbout('tom@', one => one.text.includes(request) || one.subject.includes('Ina'));
    await eventually(async () =>
      (await about()).some(one => one.attached?.some(file => file.name === 'Itinerary.pdf')),
    );
  });

  test('that is too long is said to be so, and HR operations can go on without it', async () => {
    const long = `${'word '.repeat(2_000)}`;
    const many = Array.from({ length: 60 }, () => `<p>${'{Remark}'}</p>`).join('');
    const definition = trip(letter, tell);
    const request = await asked(
      { ...definition, letters: [{ ...definition.letters![0], body: many }] },
      { legs: [row()], remark: long.slice(0, 4_900) },
    );
    await eventually(async () => (await view(request, 'kay')).status !== 'open');
    const shown = await view(request, 'kay');
    // Sixty paragraphs of five thousand letters are more pages than a letter may have.
    expect(shown.status).toBe('stuck');
    expect(shown.trail.some(line => /too many pages|too long/.test(JSON.stringify(line)))).toBe(true);
  });

  test('an invitation with no date given invites to nothing, and says nothing of one', async () => {
    const request = await asked(trip(tell), {});
    await eventually(async () => (await view(request)).status === 'closed');
    expect((await view(request)).trail.some(line => line.text.includes('invitation'))).toBe(false);
    expect(await mailsAbout('ina@', one => (one.calendar ?? '').includes(`${request}-tell@`))).toEqual([]);
    const waiting = await small.db.select().from(t.effects);
    expect(waiting.filter(one => one.request === request && one.payload.attach)).toEqual([]);
  });
});

describe('a slow letter', () => {
  test('that takes longer than it may is never refused: it waits, with its cause, and is made at the next try', async () => {
    const { papers } = small.serving.house;
    const slow = jest.spyOn(papers, 'letter').mockRejectedValueOnce(new TooLong('it took longer than 15000 ms'));
    const request = await asked(trip(letter, tell), { legs: [row()] });
    const making = and(eq(t.effects.request, request), eq(t.effects.connection, lettersToMake));
    const kept = async () => (await small.db.select().from(t.effects).where(making))[0];
    await eventually(async () => (await kept())?.attempts === 1);
    expect(await kept()).toMatchObject({ state: 'waiting', fault: 'it took longer than 15000 ms' });
    expect((await view(request)).status).toBe('open');

    await small.db.update(t.effects).set({ nextTry: 0 }).where(making);
    small.serving.house.wake();
    await eventually(async () => (await view(request)).status === 'closed');
    expect(await kept()).toMatchObject({ state: 'delivered' });
    expect((await view(request)).answers.itinerary).toMatchObject([{ name: 'Itinerary.pdf' }]);
    slow.mockRestore();
  });
});
