/** Files that are given with answers: what they are, how large they may be, and what a field takes. */
import { z } from 'zod';

export const GivenFile = z.object({
  id: z.string().min(1).max(60),
  name: z.string().min(1).max(200),
  /** In bytes. */
  size: z.number().int().nonnegative(),
  /** The media type, read from the content when it came in. */
  type: z.string().max(100),
});
export type GivenFile = z.infer<typeof GivenFile>;

const typesOf = {
  PDF: ['application/pdf'],
  picture: ['image/png', 'image/jpeg', 'image/gif', 'image/webp', 'image/heic', 'image/tiff'],
  'text document': [
    'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
    'application/vnd.oasis.opendocument.text',
    'application/rtf',
  ],
  table: [
    'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    'application/vnd.oasis.opendocument.spreadsheet',
    'text/csv',
  ],
  'plain text': ['text/plain'],
} as const satisfies Record<string, readonly string[]>;

export const fileKinds = Object.keys(typesOf) as (keyof typeof typesOf)[];
export const FileKind = z.enum(fileKinds);
export type FileKind = z.infer<typeof FileKind>;

/** Nothing larger is taken in, whatever a field says; in megabytes of a million bytes. */
export const largestFile = 25;
/** What a field takes when it says nothing; in megabytes. */
export const usualLargest = 10;

export const kindOfFile = (type: string): FileKind | undefined =>
  fileKinds.find(kind => (typesOf[kind] as readonly string[]).includes(type));

export const sizeWords = (bytes: number): string =>
  bytes < 1_000_000 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;

export type FileRules = { takes?: readonly FileKind[] | undefined; largest?: number | undefined };

const pluralOf: Record<FileKind, string> = {
  PDF: 'PDFs',
  picture: 'pictures',
  'text document': 'text documents',
  table: 'tables',
  'plain text': 'plain texts',
};

/** `PDFs and pictures, up to 10 MB each`. */
export function takesWords({ takes = fileKinds, largest = usualLargest }: FileRules): string {
  const words = takes.map(kind => pluralOf[kind]);
  const kinds = words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words[words.length - 1]}` : words[0];
  return `${kinds}, up to ${largest} MB each`;
}

/** The settings of a field that takes files. */
export const filing = {
  takes: z.array(FileKind).min(1).optional(),
  /** In megabytes. */
  largest: z.number().int().min(1).max(largestFile).optional(),
};

/** Why a field does not take a file; nothing when it does. */
export function fileFault(rules: FileRules, file: Pick<GivenFile, 'name' | 'size' | 'type'>): string | undefined {
  const { takes = fileKinds, largest = usualLargest } = rules;
  const kind = kindOfFile(file.type);
  if (!kind || !takes.includes(kind))
    return `“${file.name}” is not of a kind that is taken here: ${takesWords(rules)}.`;
  if (file.size > largest * 1_000_000)
    return `“${file.name}” has ${sizeWords(file.size)}; up to ${largest} MB are taken.`;
  if (file.size === 0) return `“${file.name}” is empty.`;
  return undefined;
}

/** A file that a field takes. */
export const fileOf = (rules: FileRules) =>
  GivenFile.superRefine((file, context) => {
    const message = fileFault(rules, file);
    if (message) context.addIssue({ code: 'custom', message });
  });

/** The files of an answer, whatever field it answers. */
export function filesOf(answer: unknown): GivenFile[] {
  if (Array.isArray(answer)) return answer.flatMap(one => filesOf({ file: one }));
  const { file } = (answer ?? {}) as { file?: unknown };
  const read = GivenFile.safeParse(file);
  return read.success ? [read.data] : [];
}
