/** Papers: words set on pages, signed, and read back; what cannot be opened is said to be so. */

import { PDFDocument } from '@cantoo/pdf-lib';
import { afterAll, describe, expect, test } from '@jest/globals';
import { pdfWords } from '../testing/pdfWords.ts';
import { TooLong } from '../threads/index.ts';
import { BrokenPaper, digestOf, Papers, type Signature } from './index.ts';

const papers = new Papers();
afterAll(() => papers.stop());

/** The words of each page; where one face ends and another begins, no line does. */
const wordsOf = (paper: Uint8Array) => pdfWords(paper).map(page => page.replace(/\s+/g, ' '));

const signature: Signature = {
  title: 'Agreement of work',
  name: 'Mika Ødegård-Ńguyễn',
  how: 'typed',
  strokes: [],
  at: '2026-02-02T10:00:00Z',
};

describe('a paper', () => {
  test('has its words on it, whatever letters they are made of, on as many pages as it needs', async () => {
    const long = Array.from({ length: 120 }, (_, n) => `Clause ${n + 1}: who is on the water wears a life jacket.`);
    const pages = wordsOf(await papers.paper('Rules', `House rules\n\nÆgir Þórsson, Łódź\n\n${long.join('\n\n')}`));
    expect(pages.length).toBeGreaterThan(2);
    expect(pages[0]).toContain('House rules');
    expect(pages[0]).toContain('Ægir Þórsson, Łódź');
    expect(pages.at(-1)).toContain('Clause 120');
  });

  test.each([
    ['田中さくら', 'Kosugi'],
    ['김민준', 'Gowun'],
    ['สมชาย', 'Thai'],
    ['శ్రీనివాస్', 'Telugu'],
  ])('is signed by %s in a face that has the letters of the name', async (name, face) => {
    const paper = await papers.paper('Agreement', `Agreement\n\nWith ${name}, of work.`);
    const bytes = await papers.sign(paper, { ...signature, name });
    const { context } = await PDFDocument.load(bytes);
    const fonts = context.enumerateIndirectObjects().map(([, object]) => String(object));
    expect(fonts.filter(font => font.includes('/BaseFont') && font.includes(face)).length).toBeGreaterThan(1);
    expect(fonts.filter(font => font.includes('/BaseFont') && font.includes('DejaVu'))).toEqual([]);
  });

  test('takes a word that is wider than the page, and letters that no page can show', async () => {
    const [first] = pdfWords(await papers.paper('x', `Title\n\n${'long'.repeat(100)}\u0000\u202e end`));
    expect(first.replace(/\s/g, '')).toContain('longlonglong');
    expect(first).toContain('end');
  });

  test('is signed with the name, the time and the digest of what was signed, and still says what it said', async () => {
    const paper = await papers.paper('Agreement', 'Agreement of work\n\nPay is paid.');
    const pages = wordsOf(await papers.sign(paper, signature));
    expect(pages[0]).toContain('Pay is paid.');
    expect(pages[1]).toContain('Signed by Mika Ødegård-Ńguyễn');
    expect(pages[1]).toContain('2026-02-02, 10:00:00 UTC, typed on a personal page');
    expect(pages[1].replace(/\s/g, '')).toContain(digestOf(paper));
    const drawn: Signature = {
      ...signature,
      how: 'drawn',
      strokes: [
        [
          [0, 0],
          [500, 900],
          [1000, 100],
        ],
      ],
    };
    expect(pdfWords(await papers.sign(paper, drawn))[1]).toContain('drawn on a personal page');
  });

  test.each([
    ['a program', Buffer.from('MZ this program cannot be run')],
    ['nothing', Buffer.from('')],
    ['a PDF that breaks off', Buffer.from('%PDF-1.7\n1 0 obj\n<< /Type /Catalog')],
  ])('that is %s is said to be broken', async (_, bytes) => {
    await expect(papers.sign(bytes, signature)).rejects.toThrow(BrokenPaper);
    await expect(papers.mustOpen(bytes)).rejects.toThrow(BrokenPaper);
    // The thread goes on with the next.
    expect((await papers.paper('x', 'Still here')).length).toBeGreaterThan(500);
  });

  test('that takes too long is given up, and the next one is made', async () => {
    const hasty = new Papers(1);
    // It is ours and only slow: whoever asked may try again. What somebody gave and cannot be opened is broken.
    await expect(hasty.paper('x', 'word '.repeat(20_000))).rejects.toThrow(TooLong);
    await hasty.stop();
  });
});
