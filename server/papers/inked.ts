/** Words drawn on a paper in the faces that have their letters, also on one that came from outside. */
import type { Color, PDFDocument, PDFFont, PDFPage } from '@cantoo/pdf-lib';
import * as fontkit from 'fontkit';
import { bytesOf, faceOf, faces, lastResort } from './faces.ts';

type Piece = { text: string; readonly face: string };

/** Text in pieces of one face each; a mark belongs to the letter before it. */
function piecesOf(text: string): readonly Piece[] {
  const found: Piece[] = [];
  for (const word of text.split(/(\s+)/)) {
    const whole = /^\s*$/.test(word) ? (found.at(-1)?.face ?? faces('normal')[0].name) : faceOf(word, 'normal');
    const parts = whole ? [word] : (word.match(/[^\p{M}\p{Cf}][\p{M}\p{Cf}]*|[\p{M}\p{Cf}]+/gu) ?? []);
    for (const text of parts) {
      const face = whole ?? faceOf(text, 'normal') ?? lastResort('normal');
      const before = found.at(-1);
      if (before?.face === face) before.text += text;
      else found.push({ text, face });
    }
  }
  return found;
}

export type Inked = {
  /** How wide a text of the given size is, in points. */
  readonly widthOf: (text: string, size: number) => number;
  /** A text drawn from the left end of its baseline. */
  readonly draw: (
    sheet: PDFPage,
    text: string,
    how: { readonly x: number; readonly y: number; readonly size: number; readonly color: Color },
  ) => void;
};

/** What all the words are drawn with that a document will have: only the faces that these need are put into it. */
export async function inkedFor(document: PDFDocument, words: readonly string[]): Promise<Inked> {
  document.registerFontkit(fontkit as never);
  const fonts = new Map<string, PDFFont>();
  const names = new Set([faces('normal')[0].name, ...words.flatMap(text => piecesOf(text).map(piece => piece.face))]);
  for (const name of names) fonts.set(name, await document.embedFont(bytesOf(name), { subset: true }));
  // A part of the words may be cut so that its letters stand alone; none of them needs a face that was not named.
  const fontOf = (face: string) => fonts.get(face) ?? (fonts.get(faces('normal')[0].name) as PDFFont);
  return {
    widthOf: (text, size) =>
      piecesOf(text).reduce((sum, piece) => sum + fontOf(piece.face).widthOfTextAtSize(piece.text, size), 0),
    draw: (sheet, text, { x, y, size, color }) => {
      let from = x;
      for (const piece of piecesOf(text)) {
        const font = fontOf(piece.face);
        sheet.drawText(piece.text, { x: from, y, size, font, color });
        from += font.widthOfTextAtSize(piece.text, size);
      }
    },
  };
}
