/** A font as a page embeds it: the tables of a web font (WOFF 1.0) unpacked once, since they are read again for each letter. */
import { inflateSync } from 'node:zlib';

const headerLength = 44;
const entryLength = 20;

/** The font unpacked; what is not packed stays as it is. */
export function unpacked(font: Buffer): Buffer {
  if (font.toString('latin1', 0, 4) !== 'wOFF') return font;
  const count = font.readUInt16BE(12);
  const tables = Array.from({ length: count }, (_, n) => {
    const at = headerLength + n * entryLength;
    const [offset, packed, length] = [4, 8, 12].map(field => font.readUInt32BE(at + field));
    const content = font.subarray(offset, offset + packed);
    return {
      tag: font.subarray(at, at + 4),
      checksum: font.readUInt32BE(at + 16),
      bytes: packed < length ? inflateSync(content) : content,
    };
  });
  const power = 2 ** Math.floor(Math.log2(count));
  const head = Buffer.alloc(12 + count * 16);
  font.copy(head, 0, 4, 8);
  head.writeUInt16BE(count, 4);
  head.writeUInt16BE(power * 16, 6);
  head.writeUInt16BE(Math.log2(power), 8);
  head.writeUInt16BE(count * 16 - power * 16, 10);
  const parts: Buffer[] = [head];
  let offset = head.length;
  tables.forEach(({ tag, checksum, bytes }, n) => {
    const at = 12 + n * 16;
    tag.copy(head, at);
    head.writeUInt32BE(checksum, at + 4);
    head.writeUInt32BE(offset, at + 8);
    head.writeUInt32BE(bytes.length, at + 12);
    // Every table begins at a multiple of four.
    const padding = (4 - (bytes.length % 4)) % 4;
    parts.push(bytes, Buffer.alloc(padding));
    offset += bytes.length + padding;
  });
  return Buffer.concat(parts);
}
