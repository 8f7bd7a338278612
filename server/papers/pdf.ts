/** Papers as PDFs: words set on pages, and a page that says who signed what and when. */
import { createHash } from 'node:crypto';
import { PDFDocument, type PDFPage, rgb } from '@cantoo/pdf-lib';
import { type Inked, inkedFor } from './inked.ts';

/** A signature as it was drawn: strokes of points in thousandths of the box, from its upper left corner. */
export type Strokes = readonly (readonly (readonly [number, number])[])[];

export type Signature = {
  readonly title: string;
  readonly name: string;
  readonly how: 'typed' | 'drawn';
  readonly strokes: Strokes;
  /** An instant in UTC. */
  readonly at: string;
};

/** So many pages are signed at most; nobody reads more on a telephone. */
const mostPages = 200;

/** The paper cannot be opened: it is broken, shut by a password, or far too long. */
export class BrokenPaper extends Error {}

const page = { width: 595, height: 842, margin: 64 };
const ink = rgb(0.12, 0.13, 0.15);
const pale = rgb(0.4, 0.42, 0.45);

/** Whatever no font can show is left out rather than breaking the page. */
const printable = (text: string): string =>
  text.replace(/[\p{Cc}\p{Cf}]/gu, letter => (letter === '\n' ? letter : ' '));

/** The words of a paragraph in lines no wider than the page; a word that is wider is cut. */
function* linesOf(paragraph: string, inked: Inked, size: number, width: number): Generator<string> {
  let line = '';
  const fits = (text: string) => inked.widthOf(text, size) <= width;
  for (let word of paragraph.split(' ')) {
    const longer = line === '' ? word : `${line} ${word}`;
    if (fits(longer)) {
      line = longer;
      continue;
    }
    if (line !== '') yield line;
    while (!fits(word)) {
      let cut = word.length - 1;
      while (cut > 1 && !fits(word.slice(0, cut))) cut--;
      yield word.slice(0, cut);
      word = word.slice(cut);
    }
    line = word;
  }
  yield line;
}

/** Words as a PDF: the first line is its title, a blank line begins a paragraph. */
export async function paperOf(title: string, text: string): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  const inked = await inkedFor(document, [printable(text)]);
  document.setTitle(printable(title));
  document.setProducer('North Pebble');
  const width = page.width - 2 * page.margin;
  let sheet: PDFPage | undefined;
  let y = 0;
  const down = (by: number): PDFPage => {
    if (!sheet || y - by < page.margin) {
      if (document.getPageCount() >= mostPages) throw new BrokenPaper('the paper has too many pages');
      sheet = document.addPage([page.width, page.height]);
      y = page.height - page.margin;
    }
    y -= by;
    return sheet;
  };
  const [heading, ...paragraphs] = printable(text).trim().split('\n');
  for (const line of linesOf(heading, inked, 17, width))
    inked.draw(down(26), line, { x: page.margin, y, size: 17, color: ink });
  for (const paragraph of paragraphs) {
    if (paragraph.trim() === '') {
      if (sheet) y -= 8;
      continue;
    }
    for (const line of linesOf(paragraph.trim(), inked, 10.5, width))
      inked.draw(down(16), line, { x: page.margin, y, size: 10.5, color: ink });
  }
  const total = document.getPageCount();
  document.getPages().forEach((one, n) => {
    const words = `${n + 1} of ${total}`;
    inked.draw(one, words, { x: page.width - page.margin - 40, y: 36, size: 8, color: pale });
  });
  return document.save();
}

export const digestOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** The same paper with one more page: who signed it, how, when, and the digest (SHA-256) of what was signed. */
export async function signed(paper: Uint8Array, signature: Signature): Promise<Uint8Array> {
  let document: PDFDocument;
  try {
    document = await PDFDocument.load(paper, { updateMetadata: false });
    if (document.getPageCount() < 1 || document.getPageCount() > mostPages) throw new Error('no page, or too many');
  } catch (fault) {
    throw new BrokenPaper(String(fault));
  }
  const inked = await inkedFor(document, [printable(signature.name), printable(signature.title)]);
  const sheet = document.addPage([page.width, page.height]);
  const digest = digestOf(paper);
  const name = printable(signature.name);
  let y = page.height - page.margin - 20;
  const write = (text: string, size: number, color = ink, gap = 1.6) => {
    for (const line of linesOf(printable(text), inked, size, page.width - 2 * page.margin)) {
      inked.draw(sheet, line, { x: page.margin, y, size, color });
      y -= size * gap;
    }
  };
  write('Signature', 17);
  y -= 10;
  write(signature.title, 11);
  y -= 14;
  if (signature.how === 'drawn') {
    const box = { width: 300, height: 110 };
    for (const stroke of signature.strokes) {
      for (let i = 1; i < stroke.length; i++) {
        const [from, to] = [stroke[i - 1], stroke[i]].map(([px, py]) => ({
          x: page.margin + (px / 1000) * box.width,
          y: y - (py / 1000) * box.height,
        }));
        sheet.drawLine({ start: from, end: to, thickness: 1.4, color: ink });
      }
    }
    y -= box.height + 14;
  } else write(name, 22);
  sheet.drawLine({ start: { x: page.margin, y }, end: { x: page.margin + 300, y }, thickness: 0.6, color: pale });
  y -= 20;
  write(`Signed by ${name}`, 11);
  write(
    `${signature.at.slice(0, 10)}, ${signature.at.slice(11, 19)} UTC, ${signature.how} on a personal page`,
    9.5,
    pale,
  );
  y -= 8;
  write('SHA-256 of the paper that was signed:', 8.5, pale);
  write(digest, 8.5, pale);
  document.setSubject(`Signed by ${name}, ${signature.at}; SHA-256 ${digest}`);
  return document.save();
}

/** Whether it can be opened and read; nothing is said of what stands in it. */
export async function mustOpen(paper: Uint8Array): Promise<void> {
  try {
    const document = await PDFDocument.load(paper, { updateMetadata: false });
    if (document.getPageCount() < 1 || document.getPageCount() > mostPages) throw new Error('no page, or too many');
  } catch (fault) {
    throw new BrokenPaper(String(fault));
  }
}
