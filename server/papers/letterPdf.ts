/**
 * Letters as PDFs: set in the faces of the house, with a fallback for what they have no letters for, and tagged (PDF 1.7,
 * 14.8), so that a screen reader reads headings, lists and tables as such.
 */
import type { Block, FilledLetter, Run } from '@north-pebble/core/workflow';
import PDFDocument from 'pdfkit';
import { allowOpenAnchors } from './anchors.ts';
import { bytesOf, faceOf, faces, lastResort, rise, type Weight } from './faces.ts';
import { BrokenPaper } from './pdf.ts';

const mostPages = 60;
const margin = 62;
const ink = '#1d2b33';
const pale = '#51626b';
const rule = '#dfd9cd';

/** What no page can show is left out: marks that steer, and halves of letters. A joiner between letters shapes them. */
const printable = (text: string): string =>
  text
    .normalize('NFC')
    .replace(/(?<![\p{L}\p{M}])[\u200c\u200d]|[\u200c\u200d](?!\p{L})/gu, '')
    .replace(/(?![\u200c\u200d])[\p{Cc}\p{Cf}\p{Cs}\p{Co}]/gu, letter =>
      letter === '\n' ? '\n' : letter === '\t' ? ' ' : '',
    );

/** Text in one face and in one direction. */
type Piece = { text: string; readonly face: string; readonly turned: boolean };

/** Whether a word runs from right to left. */
const isTurned = (word: string): boolean =>
  /[\p{Script=Hebrew}\p{Script=Arabic}\p{Script=Syriac}\p{Script=Thaana}]/u.test(word);

/** How a piece is set: one that runs from right to left as a whole, so that its words stand in their order. */
const settingOf = ({ turned }: Piece, size: number) => ({
  // All faces stand on one line, whatever room each of them keeps above its letters.
  baseline: -rise() * size,
  features: (turned ? ['kern'] : null) as PDFKit.Mixins.OpenTypeFeatures[],
});

/** Text in pieces of one face and one direction each. */
function pieces(text: string, weight: Weight): Piece[] {
  const found: Piece[] = [];
  const put = (words: string, face: string, turned: boolean) => {
    const before = found.at(-1);
    if (words === '') return;
    if (before?.face === face && before.turned === turned) before.text += words;
    else found.push({ text: words, face, turned });
  };
  for (const word of printable(text).split(/(\s+)/)) {
    const before = found.at(-1);
    // A space stays in the face of the word before it.
    if (/^\s*$/.test(word)) put(word, before?.face ?? faces(weight)[0].name, before?.turned ?? false);
    else {
      const turned = isTurned(word);
      const whole = faceOf(word, weight);
      if (whole) put(word, whole, turned);
      // A mark belongs to the letter before it, and is set in its face.
      else
        for (const letter of word.match(/[^\p{M}\p{Cf}][\p{M}\p{Cf}]*|[\p{M}\p{Cf}]+/gu) ?? [])
          put(letter, faceOf(letter, weight) ?? lastResort(weight), turned);
    }
  }
  // What stands around words from right to left belongs to the sentence around them.
  return found.flatMap(piece => {
    const around = piece.turned ? /^(\P{L}*)(.*?)([^\p{L}\p{M}]*)$/su.exec(piece.text) : null;
    if (!around) return [piece];
    const [, before, words, after] = around;
    const own = (text: string): Piece => ({ text, face: faceOf(text, weight) ?? piece.face, turned: false });
    return [own(before), { ...piece, text: words }, own(after)].filter(({ text }) => text !== '');
  });
}

type Page = InstanceType<typeof PDFDocument>;

/** The page set to a face, which only then is part of the letter. */
function inFace(page: Page, name: string): Page {
  page.registerFont(name, bytesOf(name) as never);
  page.font(name);
  allowOpenAnchors((page as unknown as { readonly _font?: { readonly font?: unknown } })._font?.font);
  return page;
}

/** So much of its size a line takes up, at the most. */
const lineHeight = 1.6;

type Style = { size: number; color?: string; weight?: Weight; indent?: number; gap?: number };

class Setter {
  readonly #page: Page;
  constructor(page: Page) {
    this.#page = page;
  }

  get #left(): number {
    return margin;
  }

  get width(): number {
    return this.#page.page.width - 2 * margin;
  }

  /** A new page where so much does not fit on this one; whether there is one. */
  #room(height: number): boolean {
    const page = this.#page;
    const isFull = page.y + height > page.page.height - margin - 20;
    if (isFull) this.newPage();
    return isFull;
  }

  newPage(): void {
    if (this.#page.bufferedPageRange().count >= mostPages) throw new BrokenPaper('it would have too many pages');
    this.#page.addPage();
  }

  /**
   * Words with what they are: on the page on which they begin, so that no page is left with a tag that holds nothing. Words
   * from right to left lie on the page in the order in which they are drawn; the tag says them as they are written.
   */
  tagged(tag: string, runs: readonly Run[], style: Style, into: PDFKit.PDFStructureElement): void {
    this.#room(style.size * lineHeight);
    const text = runs.map(run => run.text).join('');
    const said = isTurned(text) ? { actual: printable(text) } : {};
    into.add(this.#page.struct(tag, said, () => this.#words(runs, style)));
  }

  /** Words in their faces, from the left of the page, broken into lines. */
  #words(runs: readonly Run[], { size, color = ink, weight = 'normal', indent = 0, gap = 0 }: Style): void {
    const page = this.#page;
    const parts = runs.flatMap(run => pieces(run.text, run.bold ? 'bold' : weight).map(piece => ({ ...piece, run })));
    if (parts.length === 0) return;
    page.x = this.#left + indent;
    parts.forEach(({ run, ...piece }, n) => {
      const { text, face } = piece;
      const how = {
        ...settingOf(piece, size),
        width: this.width - indent,
        continued: n < parts.length - 1,
        lineGap: size * 0.25,
        oblique: run.italic === true,
        underline: run.link !== undefined,
        link: run.link ?? null,
      } as PDFKit.Mixins.TextOptions;
      inFace(page, face).fontSize(size).fillColor(color);
      if (n === 0) page.text(text, this.#left + indent, page.y, how);
      else page.text(text, how);
    });
    page.y += gap;
  }

  #height(text: string, width: number, size: number, weight: Weight): number {
    // The widest face decides: better a little air than words over words.
    const page = this.#page;
    const [piece] = pieces(text, weight);
    return inFace(page, piece?.face ?? faces(weight)[0].name)
      .fontSize(size)
      .heightOfString(printable(text) || ' ', { width });
  }

  /** So wide that no word is broken where that can be, and beyond it by how much stands in each. */
  #widths(head: readonly string[], rows: readonly (readonly string[])[], size: number, all: number): number[] {
    const page = this.#page;
    const longest = (texts: readonly string[], weight: Weight): number => {
      const words = texts.flatMap(text => text.split(/\s+/)).sort((a, b) => b.length - a.length);
      const wide = words.slice(0, 4).map(word => {
        const [piece] = pieces(word.slice(0, 40), weight);
        return piece ? inFace(page, piece.face).fontSize(size).widthOfString(word.slice(0, 40)) : 0;
      });
      return Math.max(0, ...wide);
    };
    const least = head.map(
      (title, c) =>
        Math.max(
          longest([title], 'bold'),
          longest(
            rows.map(row => row[c] ?? ''),
            'normal',
          ),
        ) + 2,
    );
    const sum = least.reduce((a, b) => a + b, 0);
    if (sum >= all) return least.map(width => (width * all) / sum);
    const need = head.map(
      (title, c) => Math.min(60, Math.max(title.length, ...rows.map(row => (row[c] ?? '').length))) + 1,
    );
    const total = need.reduce((a, b) => a + b, 0);
    return least.map((width, c) => width + ((all - sum) * need[c]) / total);
  }

  /** A cell in its column. */
  #cell(
    text: string,
    {
      x,
      y,
      width,
      size,
      weight,
      right,
    }: { x: number; y: number; width: number; size: number; weight: Weight; right: boolean },
  ): void {
    const page = this.#page;
    const parts = pieces(text, weight);
    parts.forEach((piece, n) => {
      const { text: words, face } = piece;
      const how: PDFKit.Mixins.TextOptions = {
        ...settingOf(piece, size),
        width,
        align: right ? 'right' : 'left',
        continued: n < parts.length - 1,
      };
      inFace(page, face).fontSize(size).fillColor(ink);
      if (n === 0) page.text(words, x, y, how);
      else page.text(words, how);
    });
  }

  table({ head, rows, numeric }: Extract<Block, { kind: 'table' }>, root: PDFKit.PDFStructureElement): void {
    const page = this.#page;
    const columns = head.length;
    if (columns === 0) return;
    const size = columns > 6 ? 8 : 9.5;
    const gutter = columns > 6 ? 7 : 10;
    const widths = this.#widths(head, rows, size, this.width - gutter * (columns - 1));
    const lefts = widths.map((_, c) => this.#left + widths.slice(0, c).reduce((a, b) => a + b + gutter, 0));
    const table = page.struct('Table');
    root.add(table);
    const hasHead = head.some(title => title !== '');
    const line = (cells: readonly string[], isHead: boolean): void => {
      const weight = isHead ? 'bold' : 'normal';
      const height = Math.max(...cells.map((text, c) => this.#height(text, widths[c], size, weight)));
      const most = page.page.height - 2 * margin - 60;
      // What is on the next page has its head there too.
      if (this.#room(Math.min(height, most) + 8) && !isHead && hasHead) line(head, true);
      const y = page.y;
      const row = page.struct('TR');
      table.add(row);
      cells.forEach((text, c) => {
        row.add(
          page.struct(isHead ? 'TH' : 'TD', isTurned(text) ? { actual: printable(text) } : {}, () =>
            this.#cell(text, { x: lefts[c], y, width: widths[c], size, weight, right: numeric[c] ?? false }),
          ),
        );
      });
      row.end();
      // A cell that went over the page goes on from where it ended.
      const bottom = height > most ? page.y : y + height;
      page.markContent('Artifact');
      page
        .moveTo(this.#left, bottom + 3)
        .lineTo(this.#left + this.width, bottom + 3)
        .lineWidth(0.5)
        .strokeColor(rule)
        .stroke();
      page.endMarkedContent();
      page.x = this.#left;
      page.y = bottom + 7;
    };
    if (hasHead) line(head, true);
    for (const row of rows) line(row, false);
    table.end();
    page.y += 8;
  }

  block(block: Block, root: PDFKit.PDFStructureElement): void {
    const page = this.#page;
    switch (block.kind) {
      case 'heading':
        this.tagged('H2', block.runs, { size: 13, weight: 'bold', gap: 4 }, root);
        return;
      case 'paragraph':
        this.tagged('P', block.runs, { size: 10.5, gap: 7 }, root);
        return;
      case 'quote':
        this.tagged('BlockQuote', block.runs, { size: 10.5, indent: 16, color: pale, gap: 7 }, root);
        return;
      case 'list': {
        const list = page.struct('L');
        root.add(list);
        block.items.forEach((item, n) => {
          const label = block.ordered ? `${n + 1}. ` : '•  ';
          this.tagged('LI', [{ text: label }, ...item], { size: 10.5, indent: 12, gap: 3 }, list);
        });
        list.end();
        page.y += 5;
        return;
      }
      case 'table':
        this.table(block, root);
    }
  }
}

/**
 * A letter set on pages of A4.
 * @throws BrokenPaper when it would have too many pages
 */
export function letterOf({ title, blocks, foot }: FilledLetter): Promise<Uint8Array> {
  return new Promise((done, failed) => {
    const page = new PDFDocument({
      size: 'A4',
      margins: { top: margin, bottom: margin, left: margin, right: margin },
      bufferPages: true,
      pdfVersion: '1.7',
      tagged: true,
      lang: 'en-GB',
      displayTitle: true,
      info: { Title: printable(title), Producer: 'North Pebble', Creator: 'North Pebble' },
    });
    const out: Buffer[] = [];
    page.on('data', (part: Buffer) => out.push(part));
    page.on('end', () => done(Buffer.concat(out)));
    page.on('error', failed);
    try {
      const setter = new Setter(page);
      const root = page.struct('Document');
      page.addStructure(root);
      setter.tagged('H1', [{ text: title }], { size: 20, weight: 'bold', gap: 12 }, root);
      for (const block of blocks) setter.block(block, root);
      root.end();
      feet(page, foot);
      page.end();
    } catch (fault) {
      failed(fault);
    }
  });
}

/** What stands at the foot of every page, and which of how many it is. */
function feet(page: Page, foot: string): void {
  const { start, count } = page.bufferedPageRange();
  const width = page.page.width - 2 * margin;
  for (let n = 0; n < count; n++) {
    page.switchToPage(start + n);
    page.page.margins.bottom = 0;
    page.markContent('Artifact', { type: 'Pagination' });
    const y = page.page.height - 40;
    page.fillColor(pale).fontSize(8);
    let x = margin;
    for (const piece of pieces(foot.replace(/\n/g, ' '), 'normal')) {
      const rest = margin + width - 60 - x;
      if (rest < 10) break;
      const setting = { ...settingOf(piece, 8), lineBreak: false };
      inFace(page, piece.face);
      const wide = page.widthOfString(piece.text, setting);
      page.text(piece.text, x, y, wide > rest ? { ...setting, width: rest, height: 10, ellipsis: true } : setting);
      x += wide;
    }
    inFace(page, faces('normal')[0].name).text(`${n + 1} of ${count}`, margin + width - 60, y, {
      width: 60,
      align: 'right',
      lineBreak: false,
    });
    page.endMarkedContent();
  }
}
