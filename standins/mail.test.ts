import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { createConnection, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, test } from '@jest/globals';

const running: ChildProcess[] = [];
afterEach(() => {
  for (const child of running.splice(0)) child.kill('SIGKILL');
});

const freePort = (): Promise<number> =>
  new Promise(done => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const address = server.address();
      server.close(() => done(address && typeof address === 'object' ? address.port : 0));
    });
  });

async function start(file: string) {
  const smtp = await freePort();
  const list = await freePort();
  const child = spawn(process.execPath, ['--import', 'tsx', 'standins/mail/main.ts'], {
    env: { ...process.env, NP_SMTP_PORT: String(smtp), NP_MAILS_PORT: String(list), NP_MAILS_FILE: file },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  running.push(child);
  await new Promise(done => child.stdout?.once('data', done));
  const mails = async () =>
    (await (await fetch(`http://127.0.0.1:${list}/mails`)).json()) as {
      to: string;
      subject: string;
      text: string;
      at: string;
    }[];
  return { smtp, mails, child };
}

/** Speaks SMTP by hand, line by line, as any program could. */
function speak(port: number, lines: string[]): Promise<string[]> {
  return new Promise((done, fail) => {
    const heard: string[] = [];
    const socket = createConnection(port, '127.0.0.1');
    const left = [...lines];
    socket.on('error', fail);
    socket.on('data', chunk => {
      heard.push(String(chunk).slice(0, 3));
      const next = left.shift();
      if (next === undefined) {
        socket.end();
        done(heard);
      } else socket.write(`${next}\r\n`);
    });
  });
}

const letter = (id: string, subject: string, time = '09:40') => [
  'EHLO probe',
  'MAIL FROM:<north-pebble@selkie.example>',
  'RCPT TO:<ines.okoro@selkie.example>',
  'DATA',
  `Message-ID: <${id}@selkie.example>\r\nDate: Mon, 02 Feb 2026 ${time}:00 +0000\r\nTo: Ines Okoro <ines.okoro@selkie.example>\r\nSubject: ${subject}\r\n\r\nHello Ines,\r\nit is booked.\r\n.`,
];

describe('the stand-in for mail', () => {
  test('takes mail over SMTP and lists it, newest first', async () => {
    const { smtp, mails } = await start(join(mkdtempSync(join(tmpdir(), 'np-mail-')), 'mails.jsonl'));
    expect(await speak(smtp, letter('one', 'Approved'))).toEqual(['220', '250', '250', '250', '354', '250']);
    await speak(smtp, letter('two', 'Declined'));
    // Written before them, it only came later.
    await speak(smtp, letter('three', 'Asked', '09:10'));
    const kept = await mails();
    expect(kept.map(m => m.subject)).toEqual(['Declined', 'Approved', 'Asked']);
    expect(kept[1]).toMatchObject({ at: '2026-02-02T09:40:00.000Z', text: 'Hello Ines,\nit is booked.\n' });
    expect(kept[1].to).toContain('ines.okoro@selkie.example');
  });

  test('keeps its mails over a restart, and a repeat of one once', async () => {
    const file = join(mkdtempSync(join(tmpdir(), 'np-mail-')), 'mails.jsonl');
    const first = await start(file);
    await speak(first.smtp, letter('one', 'Approved'));
    first.child.kill('SIGKILL');
    const second = await start(file);
    await speak(second.smtp, letter('one', 'Approved'));
    expect(await second.mails()).toHaveLength(1);
  });
});
