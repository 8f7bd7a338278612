/** Letters on pages: read back, in every face, tagged, and never too long. */
import { describe, expect, test } from '@jest/globals';
import type { Block } from '@north-pebble/core/workflow';
import { pdfTags, pdfWords } from '../testing/pdfWords.ts';
import { letterOf } from './letterPdf.ts';

const paragraph = (text: string): Block => ({ kind: 'paragraph', runs: [{ text }] });
const pagesOf = async (blocks: readonly Block[], title = 'A letter', foot = '') =>
  pdfWords(await letterOf({ title, blocks, foot })).map(page => page.replace(/\s+/g, ' '));

describe('a letter', () => {
  test('has its head, its parts and its foot on it, and the number of each page', async () => {
    const [page] = await pagesOf(
      [
        { kind: 'heading', runs: [{ text: 'Legs' }] },
        { kind: 'table', head: ['From', 'Price'], rows: [['Ovay Station', '43.00 EUR']], numeric: [false, true] },
        { kind: 'list', ordered: true, items: [[{ text: 'Be at the quay' }], [{ text: 'Take a coat', bold: true }]] },
        { kind: 'quote', runs: [{ text: 'A calm crossing.', italic: true }] },
      ],
      'Itinerary of Ines Okoro',
      'R-1001, as of Mon 2 February',
    );
    for (const words of [
      'Itinerary of Ines Okoro',
      'Legs',
      'From Price',
      'Ovay Station',
      '43.00 EUR',
      '1. Be at the quay',
    ])
      expect(page).toContain(words);
    expect(page).toContain('R-1001, as of Mon 2 February');
    expect(page).toContain('1 of 1');
  });

  test.each(['Mika Ødegård-Ńguyễn', 'Владимир Ξένος', 'Łódź & <b>', 'שלום עולם', 'A\u0000B\u202eC'])(
    'says %s as it is written',
    async name => {
      const [page] = await pagesOf([paragraph(`Dear ${name}, welcome.`)]);
      // What runs from right to left is read back in its own order, so the letters are counted.
      const timesIn = (text: string, letter: string) => text.normalize('NFC').split(letter).length - 1;
      const letters = [...new Set(name.normalize('NFC').replace(/[\p{Cc}\p{Cf}\s]/gu, ''))];
      expect(letters.filter(letter => timesIn(page, letter) < timesIn(name, letter))).toEqual([]);
      expect(page).toContain('welcome.');
    },
  );

  test.each([
    ['田中 さくら', 'Kosugi'],
    ['张伟丽', 'ZCOOL'],
    ['陳大文', 'Kosugi'],
    ['김민준', 'Gowun'],
    ['สมชาย ใจดี', 'Thai'],
    ['प्रिया शर्मा', 'Devanagari'],
    ['কবির', 'Bengali'],
    ['தமிழ்', 'Tamil'],
    ['ශ්‍රී', 'Sinhala'],
    ['សុខា', 'Khmer'],
    ['ሀይሌ', 'Ethiopic'],
  ])('%s is set in a face that has its letters, in text, tables and foot', async (name, face) => {
    const letter = await letterOf({
      title: name,
      blocks: [paragraph(`Dear ${name}, welcome.`), { kind: 'table', head: [name], rows: [[name]], numeric: [false] }],
      foot: name,
    });
    const fonts = [
      ...Buffer.from(letter)
        .toString('latin1')
        .matchAll(/\/BaseFont \/(\S+)/g),
    ].map(found => found[1]);
    expect(fonts.filter(font => font.replace(/-/g, '').includes(face.replace(/-/g, ''))).length).toBeGreaterThan(0);
    expect(fonts.filter(font => font.includes('DejaVu'))).toEqual([]);
  });

  test.each(['శ్రీనివాస్', 'കൃഷ്ണൻ', 'ਗੁਰਪ੍ਰੀਤ', 'မောင်မောင်', 'శ్ర్య్'])(
    '%s is set, though its face says of some mark not where it stands',
    async name => {
      const [page] = await pagesOf([paragraph(`Dear ${name}, welcome.`)], name, name);
      expect(page).toContain('welcome.');
    },
  );

  test('a usual letter carries the faces of the house alone', async () => {
    const letter = await letterOf({ title: 'A letter', blocks: [paragraph('Dear Ines')], foot: 'R-1' });
    const fonts = [
      ...Buffer.from(letter)
        .toString('latin1')
        .matchAll(/\/BaseFont \/(\S+)/g),
    ].map(found => found[1]);
    expect([...new Set(fonts.filter(font => !font.includes('Figtree')))]).toEqual([]);
  });

  test('words from right to left stand in their order, and what is around them after them', async () => {
    const [page] = await pagesOf([paragraph('Dear שלום עולם, welcome.')], 'A letter', 'R-1 for שלום');
    expect(page).toMatch(/Dear שלום עולם ?, welcome/);
    expect(page).toMatch(/R-1 for שלום/);
  });

  test('a table over pages has its head on each, and a row that is longer than a page goes on', async () => {
    const rows = Array.from({ length: 90 }, (_, n) => [`Row ${n + 1}`, 'words '.repeat(n === 5 ? 900 : 3)]);
    const pages = await pagesOf([{ kind: 'table', head: ['What', 'Said'], rows, numeric: [false, false] }]);
    expect(pages.length).toBeGreaterThan(3);
    expect(pages.filter(page => page.includes('What Said')).length).toBeGreaterThan(2);
    expect(pages.at(-1)).toContain('Row 90');
  });

  test('a name of three hundred letters is broken into lines', async () => {
    const [page] = await pagesOf([paragraph('x')], 'Aleksandra'.repeat(30));
    expect(page.replace(/\s/g, '')).toContain('Aleksandra'.repeat(30));
  });

  test('is tagged, and says in which language it is', async () => {
    const bytes = Buffer.from(await letterOf({ title: 'A letter', blocks: [paragraph('Hello')], foot: '' })).toString(
      'latin1',
    );
    for (const mark of ['/MarkInfo', '/StructTreeRoot', '/Lang (en-GB)', '/S /H1', '/S /P'])
      expect(bytes).toContain(mark);
  });

  test('leaves no tag that holds nothing where a heading goes over to the next page', async () => {
    const heading: Block = { kind: 'heading', runs: [{ text: 'What comes next' }] };
    const filled = async (lines: number) =>
      letterOf({
        title: 'Long',
        blocks: [...Array.from({ length: lines }, (_, n) => paragraph(`Clause ${n}`)), heading],
        foot: '',
      });
    // The first page is filled just so far that the heading is the first that has no room on it.
    let lines = 25;
    while (pdfWords(await filled(lines)).length === 1) lines += 1;
    const tags = pdfTags(await filled(lines));
    expect(tags.filter(one => one.words.trim() === '')).toEqual([]);
    expect(tags.filter(one => one.tag === 'H2')).toEqual([{ page: 2, tag: 'H2', words: 'What comes next' }]);
  });

  test('says in its tags what runs from right to left as it is written', async () => {
    const bytes = Buffer.from(await letterOf({ title: 'A letter', blocks: [paragraph('שלום עולם')], foot: '' }));
    // PDF texts beyond Latin are UTF-16 with a mark of their order at the beginning.
    const written = Buffer.concat([Buffer.from([0xfe, 0xff]), Buffer.from('שלום עולם', 'utf16le').swap16()]);
    expect(bytes.includes(Buffer.from('/ActualText'))).toBe(true);
    expect(bytes.includes(written.subarray(0, 10))).toBe(true);
    const plain = Buffer.from(await letterOf({ title: 'A letter', blocks: [paragraph('Hello')], foot: '' }));
    expect(plain.includes(Buffer.from('/ActualText'))).toBe(false);
  });

  test('that would have too many pages is not made', async () => {
    const many = Array.from({ length: 4_000 }, (_, n) => paragraph(`Clause ${n}`));
    await expect(letterOf({ title: 'Long', blocks: many, foot: '' })).rejects.toThrow('too many pages');
  });
});
