/** Reads a PDF from its input and writes the words of every page, as JSON. A program of its own, since the reader is an ES module. */
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

const chunks = [];
for await (const chunk of process.stdin) chunks.push(chunk);
const document = await getDocument({ data: new Uint8Array(Buffer.concat(chunks)), verbosity: 0 }).promise;
const pages = [];
for (let n = 1; n <= document.numPages; n++) {
  const { items } = await (await document.getPage(n)).getTextContent();
  pages.push(items.map(item => item.str ?? '').join(' '));
}
process.stdout.write(JSON.stringify(pages));
