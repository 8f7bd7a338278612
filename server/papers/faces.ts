/**
 * The faces that letters are set in: those of the house, one that has most alphabets, and one for each script that it
 * lacks. A face is read when the first word needs it, so that the usual letter opens three files and not twenty.
 */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import * as fontkit from 'fontkit';
import { allowOpenAnchors } from './anchors.ts';
import { unpacked } from './fontFile.ts';

export type Weight = 'normal' | 'bold';
export type Face = {
  readonly name: string;
  readonly bytes: () => Buffer;
  readonly has: (code: number) => boolean;
};

const require = createRequire(import.meta.url);

/** Scripts that the usual faces have no letters for, each with the words of its pattern and the files that have them. */
const ofScripts: readonly { readonly script: RegExp; readonly files: Record<Weight, string> }[] = [
  // Japanese stands first: it has the Chinese letters that Japan and Taiwan write; those of the mainland follow.
  ...['kosugi/files/kosugi-japanese', 'zcool-xiaowei/files/zcool-xiaowei-chinese-simplified'].map(file =>
    oneWeight(/[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\u3000-\u303f\u30fb\u30fc\uff00-\uffef]/u, file),
  ),
  oneWeight(/\p{Script=Hangul}/u, 'gowun-dodum/files/gowun-dodum-korean'),
  ...(
    [
      ['thai', /\p{Script=Thai}/u],
      ['devanagari', /\p{Script=Devanagari}/u],
      ['bengali', /\p{Script=Bengali}/u],
      ['gujarati', /\p{Script=Gujarati}/u],
      ['gurmukhi', /\p{Script=Gurmukhi}/u],
      ['tamil', /\p{Script=Tamil}/u],
      ['telugu', /\p{Script=Telugu}/u],
      ['kannada', /\p{Script=Kannada}/u],
      ['malayalam', /\p{Script=Malayalam}/u],
      ['sinhala', /\p{Script=Sinhala}/u],
      ['khmer', /\p{Script=Khmer}/u],
      ['myanmar', /\p{Script=Myanmar}/u],
      ['ethiopic', /\p{Script=Ethiopic}/u],
    ] as const
  ).map(([name, script]) => {
    const file = (weight: number) =>
      `@fontsource/noto-sans-${name}/files/noto-sans-${name}-${name}-${weight}-normal.woff`;
    return { script, files: { normal: file(400), bold: file(600) } };
  }),
];

function oneWeight(script: RegExp, file: string) {
  const path = `@fontsource/${file}-400-normal.woff`;
  return { script, files: { normal: path, bold: path } };
}

const usual: Record<Weight, readonly string[]> = {
  normal: [
    '@fontsource/figtree/files/figtree-latin-400-normal.woff',
    '@fontsource/figtree/files/figtree-latin-ext-400-normal.woff',
    'dejavu-fonts-ttf/ttf/DejaVuSans.ttf',
  ],
  bold: [
    '@fontsource/figtree/files/figtree-latin-600-normal.woff',
    '@fontsource/figtree/files/figtree-latin-ext-600-normal.woff',
    'dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf',
  ],
};

/** They shape the letters around them, in whichever script those are. */
const joiners: ReadonlySet<number> = new Set([0x200c, 0x200d]);

type Font = {
  hasGlyphForCodePoint: (code: number) => boolean;
  layout: (text: string) => unknown;
  ascent: number;
  unitsPerEm: number;
};

/** A font, ready to set any mark. */
function opened(bytes: Buffer): Font {
  const font = fontkit.create(bytes) as Font;
  font.layout('');
  allowOpenAnchors(font);
  return font;
}

/** A face that opens its file when it is first asked; `script` spares it being asked for letters that it cannot have. */
function faceOfFile(name: string, file: string, script?: RegExp): Face {
  let bytes: Buffer | undefined;
  let font: Font | undefined;
  const open = () => {
    bytes ??= unpacked(readFileSync(require.resolve(file)));
    return bytes;
  };
  return {
    name,
    bytes: open,
    has: code => {
      if (script && !joiners.has(code) && !script.test(String.fromCodePoint(code))) return false;
      font ??= opened(open());
      return font.hasGlyphForCodePoint(code);
    },
  };
}

const facesOf = (weight: Weight): readonly Face[] => [
  ...usual[weight].map((file, n) => faceOfFile(`${weight}-${n}`, file)),
  ...ofScripts.map(({ script, files }, n) => faceOfFile(`${weight}-script-${n}`, files[weight], script)),
];

const known: Record<Weight, readonly Face[]> = { normal: facesOf('normal'), bold: facesOf('bold') };

/** The faces of a weight, the first one first. */
export const faces = (weight: Weight): readonly Face[] => known[weight];

const byName = new Map(Object.values(known).flatMap(all => all.map(face => [face.name, face] as const)));

/** The font of a face of the given name. */
export const bytesOf = (name: string): Buffer => (byName.get(name) as Face).bytes();

/** How far letters of the house's own face rise above the line they stand on, as a part of their size. */
export function rise(): number {
  if (risen === undefined) {
    const { ascent, unitsPerEm } = opened(known.normal[0].bytes());
    risen = ascent / unitsPerEm;
  }
  return risen;
}
let risen: number | undefined;

/** The face for what none has a letter for: it shows a box, so that something is seen to be missing. */
export const lastResort = (weight: Weight): string => known[weight][usual[weight].length - 1].name;

/** The first face that has every letter of a word, so that a name is set in one. */
export function faceOf(word: string, weight: Weight): string | undefined {
  const codes = [...word].map(letter => letter.codePointAt(0) as number);
  return faces(weight).find(face => codes.every(face.has))?.name;
}
