/** What happens to a request between asking and closing, with several people at their browsers. */
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { askForLeave, personAt, personBy, send, sendNow, typeDay } from './people.ts';
import { closeAll, expect, type Page, test } from './test.ts';

test.describe.configure({ mode: 'serial' });

let wren: Page;
let marit: Page;
let ines: Page;
let tobias: Page;
let leif: Page;

test.afterAll(() => closeAll(wren, marit, ines, tobias, leif));

test.beforeAll(async ({ browser }) => {
  wren = await personAt(browser, 'Wren Castellane');
  marit = await personAt(browser, 'Marit Solheim');
  ines = await personAt(browser, 'Ines Okoro');
  tobias = await personAt(browser, 'Tobias Fennimore');
  leif = await personAt(browser, 'Leif Auerbach');
});

const detail = (page: Page) => page.getByRole('complementary', { name: 'The selected request' });
const trail = (page: Page) => page.getByRole('list', { name: 'Trail' });
const open = (page: Page, request: string) => page.goto(`/desk?item=${request}`);

/** Unpaid leave takes from no balance, so there is enough of it for every test. */
async function asks(from: string, to: string, kind = 'Unpaid leave'): Promise<string> {
  await askForLeave(ines, from, to);
  await ines.getByRole('combobox', { name: 'Kind' }).click();
  await ines.getByRole('option', { name: kind }).click();
  return send(ines);
}
async function decides(page: Page, request: string, outcome: string, note?: string): Promise<void> {
  await open(page, request);
  if (note)
    await detail(page)
      .getByRole('textbox', { name: /^Note for/ })
      .fill(note);
  await detail(page).getByRole('button', { name: outcome }).click();
  await sendNow(page);
}

/** Puts a workflow live as its designer, without going through the sheet. */
async function publishes(name: string, steps: object[], fields: object[] = [], access: object = {}): Promise<string> {
  return wren.evaluate(
    async ({ name, steps, fields, access }) => {
      const send = async (method: string, path: string, body: object) => {
        const response = await fetch(`/api${path}`, {
          method,
          headers: { 'X-North-Pebble': '1', 'Content-Type': 'application/json' },
          body: JSON.stringify(body),
        });
        if (!response.ok) throw new Error(await response.text());
        return response.json();
      };
      const definition = {
        formatVersion: 2,
        name,
        area: 'Trials',
        purpose: 'For trying.',
        form: { fields: [{ kind: 'text', id: 'what', label: 'What', required: true }, ...fields] },
        access,
        figures: [],
        steps: [{ verb: 'Ask', id: 'ask' }, ...steps, { verb: 'Close', id: 'end', closing: 'done' }],
        messages: [{ id: 'end', name: 'End', subject: 'How it ended', body: 'It has ended.' }],
        closings: [
          { id: 'done', name: 'Done', tone: 'good', message: 'end' },
          { id: 'declined', name: 'Declined', tone: 'bad', message: 'end' },
        ],
      };
      const { id } = await send('POST', '/workflows', { definition });
      const { draft } = await (await fetch(`/api/workflows/${id}`)).json();
      await send('POST', `/workflows/${id}/publish`, { revision: draft.revision, comment: 'For trying.' });
      return id as string;
    },
    { name, steps, fields, access },
  );
}

const outcomes = [
  { id: 'approve', label: 'Approve', tone: 'good', note: 'none', leads: { to: 'next' } },
  { id: 'decline', label: 'Decline', tone: 'bad', note: 'none', leads: { to: 'close', closing: 'declined' } },
];
const decide = (who: object, more: object = {}) => ({
  verb: 'Decide',
  id: 'decide',
  when: null,
  who: { first: who, otherwise: [] },
  whenAway: 'waits',
  limit: null,
  outcomes,
  ...more,
});

async function asksFor(workflow: string, what: string, asker = ines): Promise<string> {
  await asker.goto(`/ask/${workflow}`);
  await asker.getByRole('textbox', { name: 'What' }).fill(what);
  return send(asker);
}

test('a question waits for the asker’s reply, and the clock stands still', async () => {
  const request = await asks('06042026', '10042026');
  await open(tobias, request);
  await detail(tobias).getByRole('button', { name: 'Ask', exact: true }).click();
  await detail(tobias).getByRole('textbox', { name: 'Your question' }).fill('Who reads the gauge?');
  await detail(tobias).getByRole('button', { name: 'Send the question' }).click();
  await expect(detail(tobias).getByText('The clock stands still until the reply.')).toBeVisible();

  await open(ines, request);
  await expect(detail(ines).getByText('“Who reads the gauge?”')).toBeVisible();
  await detail(ines).getByRole('textbox', { name: 'Your reply' }).fill('Ada does.');
  await detail(ines).getByRole('button', { name: 'Send the reply' }).click();
  await expect(detail(ines).getByRole('textbox', { name: 'Your reply' })).toBeHidden();

  // The reply is told live: nobody loads the page again.
  await expect(detail(tobias).getByText('The clock stands still until the reply.')).toBeHidden();
  await decides(tobias, request, 'Approve');
  await ines.goto(`/requests/${request}`);
  await expect(trail(ines)).toContainText('“Who reads the gauge?”');
  await expect(trail(ines)).toContainText('“Ada does.”');
});

test('a step of a role is handed only to whoever has the role', async () => {
  const workflow = await publishes('For the role', [decide({ kind: 'role', role: 'HR partner' })]);
  const request = await asksFor(workflow, 'A stamp');
  await open(marit, request);
  await detail(marit).getByRole('button', { name: 'Hand over' }).click();
  await detail(marit).getByRole('combobox', { name: 'To' }).fill('ada dun');
  await marit.getByRole('option', { name: /Ada Dunmore/ }).click();
  await detail(marit).getByRole('textbox', { name: 'Note for whoever has it then' }).fill('You know the stamps.');
  await detail(marit).getByRole('button', { name: 'Hand it over' }).click();
  await expect(
    detail(marit).getByText(/Ada Dunmore may not have this step: it is for anyone with the role HR partner/),
  ).toBeVisible();
  await decides(marit, request, 'Approve');
});

test('handed over to somebody, who sets it aside and takes it back', async ({ browser }) => {
  const request = await asks('13042026', '17042026');
  await open(tobias, request);
  await detail(tobias).getByRole('button', { name: 'Hand over' }).click();
  await detail(tobias).getByRole('combobox', { name: 'To' }).fill('ada dun');
  await tobias.getByRole('option', { name: /Ada Dunmore/ }).click();
  await detail(tobias).getByRole('textbox', { name: 'Note for whoever has it then' }).fill('You know the tides.');
  await detail(tobias).getByRole('button', { name: 'Hand it over' }).click();
  await expect(tobias.getByRole('button', { name: 'Hand it over' })).toBeHidden();

  const ada = await personBy(browser, 'ada.dunmore');
  await open(ada, request);
  await detail(ada).getByRole('button', { name: 'Set aside' }).click();
  await typeDay(ada, 'Until', '01022026');
  await detail(ada).getByRole('button', { name: 'Set it aside' }).click();
  await expect(detail(ada).getByText('Choose a day after today.')).toBeVisible();
  await typeDay(ada, 'Until', '20022026');
  await detail(ada).getByRole('textbox', { name: /^Note/ }).last().fill('after the spring tide');
  await detail(ada).getByRole('button', { name: 'Set it aside' }).click();
  await expect(ada.getByRole('region', { name: 'Set aside' })).toContainText('after the spring tide');
  await detail(ada).getByRole('button', { name: 'Bring it back now' }).click();
  await expect(ada.getByRole('region', { name: 'Set aside' })).toBeHidden();
  await decides(ada, request, 'Decline', 'Too many are away.');
  await ines.goto(`/requests/${request}`);
  await expect(trail(ines)).toContainText('handed step 3 over to Ada Dunmore');
  await expect(trail(ines)).toContainText('set step 3 aside until Fri 20 February');
  await ada.context().close();
});

test('a note half written waits at another machine; a comment brings a file to whoever reads the request', async ({
  browser,
}) => {
  const request = await asks('27042026', '01052026');
  await open(tobias, request);
  const saved = tobias.waitForResponse(response => response.url().includes('/unsent/') && response.ok());
  await detail(tobias)
    .getByRole('textbox', { name: /^Note for/ })
    .fill('Back for the survey?');
  await saved;
  const elsewhere = await personAt(browser, 'Tobias Fennimore', `/desk?item=${request}`);
  await expect(detail(elsewhere).getByRole('textbox', { name: /^Note for/ })).toHaveValue('Back for the survey?');
  await elsewhere.context().close();

  await ines.goto(`/requests/${request}`);
  await ines.getByRole('textbox', { name: 'Comment' }).fill('This is the survey.');
  const buffer = Buffer.from('%PDF-1.7\n1 0 obj <<>> endobj\n%%EOF\n');
  await ines.getByLabel('Files with it').setInputFiles({ name: 'Survey.pdf', mimeType: 'application/pdf', buffer });
  await expect(ines.getByText('Survey.pdf, 1 kB')).toBeVisible();
  await ines.getByRole('button', { name: 'Comment', exact: true }).click();
  await expect(trail(ines)).toContainText('wrote a comment, with Survey.pdf');

  await decides(tobias, request, 'Approve', 'Back for the survey, please.');
  await tobias.goto(`/requests/${request}`);
  const file = tobias.waitForEvent('download');
  await trail(tobias).getByRole('link', { name: 'Survey.pdf' }).click();
  expect((await file).suggestedFilename()).toBe('Survey.pdf');
});

test('HR of one place finds the requests of its people, and is not told of others', async ({ browser }) => {
  const ours = await asks('19102026', '23102026');
  const zora = await personBy(browser, 'zora.orrin');
  await zora.goto('/requests?whose=care');
  await expect(zora.getByRole('row').nth(1)).toBeVisible();
  const askers = await zora.evaluate(async () => {
    const { rows } = await (await fetch('/api/requests/find?whose=care')).json();
    return [...new Set((rows as { asker: string }[]).map(row => row.asker))];
  });
  const places = await wren.evaluate(async ids => {
    const { people } = await (await fetch('/api/directory')).json();
    type Known = { id: string; records: { place: string }[] };
    return (people as Known[]).filter(p => ids.includes(p.id)).map(p => p.records.at(-1)?.place);
  }, askers);
  expect(new Set(places)).toEqual(new Set(['hollin']));
  await zora.goto(`/requests/${ours}`);
  await expect(zora.getByText('It does not exist, or it is not for you to see.')).toBeVisible();
  await zora.context().close();
});

test('somebody stands in: both see it, and the trail says who decided for whom', async ({ browser }) => {
  await tobias.goto('/cover');
  await tobias.getByRole('combobox', { name: 'Who stands in' }).fill('mira');
  await tobias.getByRole('option', { name: /Mira Kell/ }).click();
  await typeDay(tobias, 'First day', '02022026');
  await typeDay(tobias, 'Last day', '06022026');
  await tobias.getByRole('button', { name: 'Set it' }).click();
  await expect(tobias.getByRole('list', { name: 'In for you' })).toContainText('Mira Kell');

  const request = await asks('20042026', '24042026');
  const mira = await personBy(browser, 'mira.kell');
  await open(mira, request);
  await expect(mira.getByText('you stand in for Tobias Fennimore').first()).toBeVisible();
  await open(tobias, request);
  await expect(tobias.getByText('Mira Kell stands in for you').first()).toBeVisible();
  await decides(mira, request, 'Approve');
  await ines.goto(`/requests/${request}`);
  await expect(trail(ines)).toContainText('Mira Kell answered “Approve” at step 3 for Tobias Fennimore');
  await mira.context().close();
  await tobias.goto('/cover');
  await tobias.getByRole('button', { name: 'End it' }).click();
  await expect(tobias.getByText('Nobody stands in for you.')).toBeVisible();
});

test('decided by mail, as the recipient, in the Mailroom', async () => {
  const request = await asks('11052026', '15052026');
  await wren.goto('/mailroom?to=tobias');
  const subject = wren.getByRole('button', {
    name: /^For you to decide: Ines Okoro, Unpaid leave, Mon 11 to Fri 15 May/,
  });
  await subject.click();
  const answer = wren.getByRole('textbox', { name: /^Answer as Tobias/ });
  await answer.fill('Perhaps, if Ada agrees');
  await wren.getByRole('button', { name: 'Send the answer' }).click();
  // A polite answer with the choices; nothing is decided.
  await expect(wren.getByRole('button', { name: /^Re: For you to decide: Ines Okoro/ }).first()).toBeVisible();
  await subject.click();
  await answer.fill('Decline\nThe boat is laid up.');
  await wren.getByRole('button', { name: 'Send the answer' }).click();
  await ines.goto(`/requests/${request}`);
  await expect(ines.getByText('Declined').first()).toBeVisible();
  await expect(trail(ines)).toContainText('“The boat is laid up.”');
  await expect(trail(ines)).toContainText('Tobias Fennimore answered “Decline”');
});

test('changed and cancelled after approval, with only the difference booked', async () => {
  const balance = async () => {
    await ines.goto('/balances');
    await expect(ines.getByText('Plan: Standard')).toBeVisible();
    return ines.getByRole('main').textContent();
  };
  const before = await balance();
  const request = await asks('08062026', '12062026', 'Annual leave');
  await decides(tobias, request, 'Approve');
  const five = await balance();
  expect(five).not.toBe(before);

  await ines.goto(`/requests/${request}`);
  await ines.getByRole('button', { name: 'Change it' }).click();
  const form = ines.getByRole('region', { name: 'Change what was approved' });
  await typeDay(ines, 'Last day', '10062026');
  await form.getByRole('button', { name: 'Ask for the change' }).click();
  await expect(form).toBeHidden();
  // Until it is decided, what was approved stands.
  expect(await balance()).toBe(five);
  await open(tobias, request);
  await expect(detail(tobias).getByText('A change after approval')).toBeVisible();
  await expect(tobias.locator('[aria-current="true"]', { hasText: 'Ines Okoro' })).toContainText(
    'decide a change after approval',
  );
  await decides(tobias, request, 'Approve');
  const three = await balance();
  expect([before, five]).not.toContain(three);

  await ines.goto(`/requests/${request}`);
  await ines.getByRole('button', { name: 'Cancel it' }).click();
  await ines.getByRole('dialog').getByRole('textbox').fill('No ferry');
  await ines.getByRole('dialog').getByRole('button', { name: 'Cancel it' }).click();
  await expect(ines.getByText('Cancelled after approval').first()).toBeVisible();
  expect(await balance()).toBe(before);
});

test('an outcome that needs a field asks for it at once, and the desk stays', async () => {
  const sign = { ...outcomes[0], needs: ['berth'] };
  const berth = { kind: 'text', id: 'berth', label: 'Berth', required: false, askerReads: true };
  const workflow = await publishes(
    'A berth',
    [decide({ kind: 'manager', levels: 1 }, { outcomes: [sign, outcomes[1]] })],
    [berth],
    { ask: { berth: 'hidden' }, decide: { berth: 'editable' } },
  );
  const request = await asksFor(workflow, 'A berth for the tender');
  await open(tobias, request);
  await detail(tobias)
    .getByRole('button', { name: /^Approve/ })
    .click();
  await expect(detail(tobias).getByRole('alert')).toHaveText('“Approve” needs Berth.');
  await expect(tobias.getByRole('button', { name: 'Send now' })).toHaveCount(0);
  await detail(tobias).getByRole('textbox', { name: 'Berth' }).fill('Number four');
  await decides(tobias, request, 'Approve');
  await ines.goto(`/requests/${request}`);
  await expect(ines.getByText('Number four').first()).toBeVisible();
  await expect(ines.getByText('Done').first()).toBeVisible();
});

test('what a system outside has not done is said to be so, and is done by hand with a note', async () => {
  const keys = {
    verb: 'Provision',
    id: 'keys',
    when: null,
    connection: 'Door keys',
    action: 'call',
    values: [{ name: 'what', formula: 'What' }],
    waits: true,
  };
  const workflow = await publishes('A key', [keys]);
  const request = await asksFor(workflow, 'The lamp room');
  const outside = (page: Page) => page.getByRole('region', { name: 'Asked of systems outside' });
  await expect(outside(ines)).toContainText('Asked for, not done yet');
  await expect(outside(ines)).toContainText('Step 2, Door keys: call.');
  await expect(outside(ines).getByRole('button')).toHaveCount(0);
  await marit.goto('/connections');
  await expect(marit.getByText('Nobody has set up “Door keys”')).toBeVisible();
  await wren.goto(`/requests/${request}`);
  await outside(wren).getByRole('textbox').fill('Handed over at the quay.');
  await outside(wren).getByRole('button', { name: 'It is done by hand' }).click();
  await expect(wren.getByText('Done').first()).toBeVisible();
  await expect(trail(wren)).toContainText('did step 2 by hand');
  await expect(outside(wren)).toHaveCount(0);
});

test('a majority of five settles it early, and the others are no longer needed', async ({ browser }) => {
  // The eight of the ferries at Skarn, without three of them.
  const crew = await wren.evaluate(async () => {
    const { people } = await (await fetch('/api/directory')).json();
    type Known = { id: string; left: string | null; records: { department: string; place: string }[] };
    const works = ({ left, records }: Known) =>
      !left && records.at(-1)?.department === 'ferries' && records.at(-1)?.place === 'skarn';
    return (people as Known[]).filter(works).map(p => p.id);
  });
  const who = {
    first: { kind: 'everyone', department: 'ferries', place: 'skarn' },
    otherwise: [],
    except: crew.slice(5).map(person => ({ kind: 'person', person })),
  };
  const workflow = await publishes('Vote of five', [decide({}, { who, count: 'majority' })]);
  const request = await asksFor(workflow, 'A new buoy');
  const view = await ines.evaluate(async id => (await fetch(`/api/requests/${id}`)).json(), request);
  const holders = (view.tasks as { holder: string }[]).map(task => task.holder);
  expect(holders).toHaveLength(5);
  const mails = await wren.evaluate(async ids => {
    const { people } = await (await fetch('/api/directory')).json();
    return ids.map(id => (people.find((p: { id: string }) => p.id === id) as { mail: string }).mail.split('@')[0]);
  }, holders);
  const voters = await Promise.all(mails.slice(0, 3).map(mail => personBy(browser, mail)));
  const last = await personBy(browser, mails[4]);
  await open(last, request);
  await expect(detail(last).getByRole('button', { name: 'Approve' })).toBeVisible();
  for (const [n, voter] of voters.entries()) {
    await ines.goto(`/requests/${request}`);
    await expect(ines.getByText(/waits for/).first()).toBeVisible();
    await decides(voter, request, n === 1 ? 'Decline' : 'Approve');
  }
  const fourth = await personBy(browser, mails[3]);
  await decides(fourth, request, 'Approve');
  await ines.reload();
  await expect(ines.getByText('Done').first()).toBeVisible();
  await expect(trail(ines)).toContainText('settled step 2 as “Approve”');
  // The fifth hears of it without loading the page again.
  await expect(detail(last).getByRole('button', { name: 'Approve' })).toBeHidden();
  for (const page of [...voters, fourth, last]) await page.context().close();
});

test('in turn up three levels of the line, told ahead and one after another', async ({ browser }) => {
  const workflow = await publishes('Up the line', [decide({ kind: 'managers', levels: 3 }, { count: 'in turn' })]);
  const ada = await personBy(browser, 'ada.wayland');
  const tamsin = await personBy(browser, 'tamsin.rendall');
  await ada.goto(`/ask/${workflow}`);
  await ada.getByRole('textbox', { name: 'What' }).fill('A new pier');
  // Before anything is sent, the asker sees who will decide.
  await expect(ada.getByRole('list', { name: 'Once it is sent' })).toContainText(
    'Tamsin Rendall, Tobias Fennimore and Leif Auerbach decide',
  );
  const request = await send(ada);
  for (const [page, name] of [
    [tamsin, 'Tamsin Rendall'],
    [tobias, 'Tobias Fennimore'],
    [leif, 'Leif Auerbach'],
  ] as const) {
    await ada.goto(`/requests/${request}`);
    await expect(ada.getByText(`waits for ${name}`).first()).toBeVisible();
    await decides(page, request, 'Approve');
  }
  await ada.goto(`/requests/${request}`);
  await expect(ada.getByText('Done').first()).toBeVisible();
  for (const name of ['Tamsin Rendall', 'Tobias Fennimore']) {
    await ada
      .getByRole('button', { name: /^Why assigned step 2 to/ })
      .nth(name === 'Tamsin Rendall' ? 1 : 2)
      .click();
    await expect(ada.getByRole('dialog')).toContainText(`next in turn after ${name}`);
    await ada.keyboard.press('Escape');
  }
  await ada.context().close();
  await tamsin.context().close();
});

test('sent back twice: an answer is kept while nothing changed that it looked at, and asked again when something did', async () => {
  const back = {
    id: 'back',
    label: 'Send back',
    tone: 'rework',
    note: 'must',
    leads: { to: 'rework', fields: ['what', 'berth'], resume: 'first', atMost: 3 },
  };
  const berth = { kind: 'text', id: 'berth', label: 'Berth', required: false };
  const workflow = await publishes(
    'Two looks',
    [
      decide({ kind: 'manager', levels: 1 }, { id: 'first' }),
      decide({ kind: 'manager', levels: 2 }, { id: 'second', outcomes: [...outcomes, back] }),
    ],
    [berth],
    { first: { berth: 'hidden' } },
  );
  const request = await asksFor(workflow, 'A berth for the tender');
  await decides(tobias, request, 'Approve');
  const change = async (field: string, value: string) => {
    await ines.goto(`/requests/${request}`);
    const form = ines.getByRole('region', { name: 'Change and send again' });
    await form.getByRole('textbox', { name: field }).fill(value);
    await form.getByRole('button', { name: 'Send again' }).click();
    await expect(form).toBeHidden();
  };

  await decides(leif, request, 'Send back', 'Which berth?');
  await change('Berth', 'Number four');
  // The first step never saw the berth: its answer stands, and the second is asked at once, with old and new.
  await expect(trail(ines)).toContainText('kept “Approve” of Tobias Fennimore at step 2');
  await open(leif, request);
  await expect(detail(leif)).toContainText('Number four');
  await expect(detail(leif)).toContainText('was nothing');
  await expect(ines.getByText('waits for Leif Auerbach').first()).toBeVisible();

  await decides(leif, request, 'Send back', 'For which boat?');
  await change('What', 'A berth for the relief boat');
  await expect(ines.getByText('waits for Tobias Fennimore').first()).toBeVisible();
  await ines
    .getByRole('button', { name: /^Why assigned step 2 to Tobias Fennimore/ })
    .last()
    .click();
  await expect(ines.getByRole('dialog')).toContainText('What');
  await ines.keyboard.press('Escape');
  await open(tobias, request);
  await expect(detail(tobias)).toContainText('was A berth for the tender');
  await expect(detail(tobias)).not.toContainText('Number four');
  await decides(tobias, request, 'Approve');
  await decides(leif, request, 'Approve');
  await ines.goto(`/requests/${request}`);
  await expect(ines.getByText('Done').first()).toBeVisible();
});

test('a doctor’s note is given as a file and read by the HR partner alone, each look on the trail', async () => {
  await ines.goto('/ask/sick-leave');
  await typeDay(ines, 'First day', '02022026');
  await typeDay(ines, 'Last day', '06022026');
  await ines.getByRole('textbox', { name: /^Reason/ }).fill('A sprained wrist');
  const note = ines.getByLabel('Doctor’s note');
  await note.setInputFiles({
    name: 'boat.exe',
    mimeType: 'application/pdf',
    buffer: Buffer.from([0x4d, 0x5a, 0x90, 0, 3]),
  });
  await expect(ines.getByText(/“boat.exe” is not of a kind that is taken here/)).toBeVisible();
  const pdf = Buffer.from('%PDF-1.7\n1 0 obj <<>> endobj\n%%EOF\n');
  await note.setInputFiles({ name: 'Doctor’s note.pdf', mimeType: 'application/pdf', buffer: pdf });
  await expect(ines.getByText('Doctor’s note.pdf, 1 kB')).toBeVisible();
  // The browser is closed halfway and opened again: the draft has the file.
  await expect(ines.getByText('Draft saved')).toBeVisible();
  await ines.goto('/desk');
  await ines.goto('/ask/sick-leave');
  await expect(ines.getByText('Doctor’s note.pdf, 1 kB')).toBeVisible();
  const request = await send(ines);

  await tobias.goto(`/requests/${request}`);
  await expect(tobias.getByText('Given. Read by HR partner only.')).toHaveCount(2);
  await expect(tobias.getByText('sprained')).toHaveCount(0);
  await marit.goto(`/requests/${request}`);
  await marit.getByRole('button', { name: 'Show Reason' }).click();
  await expect(marit.getByText('A sprained wrist')).toBeVisible();
  await marit.getByRole('button', { name: 'Show Doctor’s note' }).click();
  const file = marit.waitForEvent('download');
  await marit.getByRole('link', { name: 'Doctor’s note.pdf' }).click();
  expect((await file).suggestedFilename()).toBe('Doctor’s note.pdf');
  await ines.reload();
  await expect(trail(ines).getByText('looked at “Reason”')).toHaveCount(1);
  await expect(trail(ines).getByText('looked at “Doctor’s note”')).toHaveCount(1);
});

test('stuck requests are repaired on one page, two at once', async () => {
  // So far above her nobody is.
  const workflow = await publishes('To somebody', [decide({ kind: 'manager', levels: 4 })]);
  const requests = [await asksFor(workflow, 'A lamp'), await asksFor(workflow, 'A rope')];
  await wren.goto('/stuck');
  const cause = wren.getByRole('region', { name: 'Nobody is found for a step' });
  // The demo has one of its own: a contractor without a manager.
  await expect(cause.getByRole('listitem').filter({ hasText: 'Rory Flint' })).toHaveCount(1);
  const ours = cause.getByRole('listitem').filter({ hasText: 'To somebody' });
  await expect(ours).toHaveCount(2);
  for (const row of await ours.all()) await row.getByRole('checkbox').check();
  await cause.getByRole('combobox', { name: 'Who is to do it' }).fill('leif');
  await wren.getByRole('option', { name: /Leif Auerbach/ }).click();
  await cause.getByRole('button', { name: 'Assign 2 to them' }).click();
  await expect(ours).toHaveCount(0);
  for (const request of requests) {
    await decides(leif, request, 'Approve');
    await ines.goto(`/requests/${request}`);
    await expect(trail(ines)).toContainText('named Leif Auerbach for step 2');
    await expect(ines.getByText('Done').first()).toBeVisible();
  }
});

test('a request is handed to another owner, who answers for it; HR withdraws it with a reason', async () => {
  const request = await asks('05102026', '09102026');
  await ines.getByRole('button', { name: 'Change owner' }).click();
  await ines.getByRole('combobox', { name: 'New owner' }).fill('leif');
  await ines.getByRole('option', { name: /Leif Auerbach/ }).click();
  await ines.getByRole('textbox', { name: 'Note (optional)' }).fill('I am at sea.');
  await ines.getByRole('dialog').getByRole('button', { name: 'Change owner' }).click();
  await expect(trail(ines)).toContainText('made Leif Auerbach the owner');
  await open(tobias, request);
  await detail(tobias).getByRole('button', { name: 'Ask', exact: true }).click();
  await detail(tobias).getByRole('textbox', { name: 'Your question' }).fill('Who has the boat?');
  await detail(tobias).getByRole('button', { name: 'Send the question' }).click();
  await leif.goto(`/requests/${request}`);
  await leif.getByRole('textbox', { name: 'Your reply' }).fill('Kofi has it.');
  await leif.getByRole('button', { name: 'Send the reply' }).click();
  await expect(trail(leif)).toContainText('Kofi has it.');
  await wren.goto(`/requests/${request}`);
  await expect(wren.getByText('owner: Leif Auerbach')).toBeVisible();
  await wren.getByRole('button', { name: 'Withdraw' }).click();
  const sure = wren.getByRole('dialog');
  await expect(sure.getByRole('button', { name: 'Withdraw' })).toBeDisabled();
  await sure.getByRole('textbox', { name: 'Reason' }).fill('Asked for twice.');
  await sure.getByRole('button', { name: 'Withdraw' }).click();
  await ines.goto(`/requests/${request}`);
  await expect(trail(ines)).toContainText('“Asked for twice.”');
});

test('several are answered at once, and found again by filters that stand in the address', async () => {
  const first = await asks('07092026', '11092026');
  const second = await asks('14092026', '18092026');
  await tobias.goto('/desk');
  for (const days of ['Mon 7 to Fri 11 September', 'Mon 14 to Fri 18 September']) {
    const row = tobias.getByRole('button', { name: new RegExp(`Ines Okoro wants .*${days}`) });
    await row.locator('xpath=..').getByRole('checkbox').check();
  }
  const several = tobias.getByRole('region', { name: 'Several at once' });
  await several.getByRole('button', { name: 'Approve 2' }).click();
  await expect(several).toBeHidden();
  // Taken back, they are chosen as before.
  await tobias.getByRole('button', { name: 'Undo' }).click();
  await several.getByRole('button', { name: 'Approve 2' }).click();
  await sendNow(tobias);
  await tobias.goto('/requests?whose=team&words=ines&status=closed');
  for (const request of [first, second]) {
    await expect(tobias.getByRole('row').filter({ hasText: request })).toContainText('Approved');
  }
  await tobias.getByRole('button', { name: 'Keep these filters' }).click();
  await tobias.getByRole('textbox', { name: 'Name of the set' }).fill('Ines, closed');
  // Kept before the page is left: a page that goes takes along what it was about to send.
  const kept = tobias.waitForResponse(answer => answer.url().endsWith('/api/sets') && answer.status() === 201);
  await tobias.getByRole('button', { name: 'Keep', exact: true }).click();
  await kept;
  await tobias.goto('/requests');
  await tobias.getByRole('button', { name: 'Ines, closed' }).click();
  await expect(tobias).toHaveURL(/whose=team/);
  // A list leaves the house by those who may export; whoever may not is not offered it.
  await expect(tobias.getByRole('link', { name: 'Download CSV' })).toBeHidden();
  await marit.goto('/requests?whose=all&words=ines&status=closed');
  const file = marit.waitForEvent('download');
  await marit.getByRole('link', { name: 'Download CSV' }).click();
  expect((await file).suggestedFilename()).toBe('requests.csv');
});

test('an administrator corrects, and the whole trail is printed to PDF and read back', async () => {
  const request = await asks('22062026', '26062026');
  await decides(tobias, request, 'Approve');
  await marit.goto(`/requests/${request}`);
  await marit.getByRole('button', { name: 'Correct it' }).click();
  await typeDay(marit, 'Last day', '23062026');
  await marit.getByRole('textbox', { name: 'Reason, for the trail' }).fill('Came back early.');
  await marit.getByRole('button', { name: 'Correct it', exact: true }).last().click();
  await expect(trail(marit)).toContainText('“Came back early.”');
  await marit.getByRole('textbox', { name: 'Comment' }).fill('Settled by telephone.');
  await marit.getByRole('button', { name: 'Comment', exact: true }).click();
  await expect(trail(marit)).toContainText('“Settled by telephone.”');

  const { numPages, getPage } = await (async () => {
    const document = await getDocument({ data: new Uint8Array(await marit.pdf({ format: 'A4' })) }).promise;
    return { numPages: document.numPages, getPage: (n: number) => document.getPage(n) };
  })();
  let text = '';
  for (let n = 1; n <= numPages; n++) {
    const { items } = await (await getPage(n)).getTextContent();
    text += `${items.map(item => ('str' in item ? item.str : '')).join(' ')} `;
  }
  const printed = text.replace(/\s+/g, ' ');
  for (const line of await trail(marit).getByRole('listitem').locator('b').allInnerTexts()) {
    expect(printed).toContain(line);
  }
  for (const words of [
    'answered “Approve”',
    'corrected it',
    'Came back early.',
    'Settled by telephone.',
    'working time',
  ]) {
    expect(printed).toContain(words);
  }
  expect(printed).not.toContain('Find or do');
});
