/** What a file is, read from its content. What its name or its sender say counts for nothing but plain text. */
import { fileTypeFromBuffer } from 'file-type/node';

/** As much of the beginning as is looked at. */
export const headSize = 1024 * 1024;

const sameAs: Record<string, string> = { 'image/heif': 'image/heic' };

const controls = new Set([...Array(9).keys(), ...Array.from({ length: 18 }, (_, i) => 14 + i)]);

/** Whether bytes are words: UTF-8 without control characters. A cut in the middle of a letter is no fault. */
function isText(head: Buffer): boolean {
  if (head.some(byte => controls.has(byte))) return false;
  const whole = head.length === headSize ? head.subarray(0, headSize - 4) : head;
  return !new TextDecoder('utf-8').decode(whole).includes('\ufffd');
}

/** A media type; `application/octet-stream` when it is nothing that is known. */
export async function contentType(head: Buffer, name: string): Promise<string> {
  const found = await fileTypeFromBuffer(head);
  if (found) return sameAs[found.mime] ?? found.mime;
  if (!isText(head)) return 'application/octet-stream';
  // Pages and drawings can carry scripts: they are texts, but not of a kind that is taken.
  if (/^\s*(<\?xml|<!doctype|<html|<svg|<script)/i.test(head.toString('utf8', 0, 1000))) return 'text/html';
  return /\.csv$/i.test(name) ? 'text/csv' : 'text/plain';
}
