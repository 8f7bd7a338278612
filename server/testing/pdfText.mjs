/**
 * Reads a PDF from its input and writes, as JSON, the words of every page, or with `tags` what every tag holds. A program of
 * its own, since the reader is an ES module.
 */
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

const chunks = [];
for await (const chunk of process.stdin) chunks.push(chunk);
const document = await getDocument({ data: new Uint8Array(Buffer.concat(chunks)), verbosity: 0 }).promise;

/** The words of each piece of marked content of a page, by its id. */
async function markedWords(page) {
  const { items } = await page.getTextContent({ includeMarkedContent: true });
  const words = new Map();
  const open = [];
  for (const item of items) {
    if (item.type === 'beginMarkedContentProps' || item.type === 'beginMarkedContent') open.push(item.id ?? null);
    else if (item.type === 'endMarkedContent') open.pop();
    else if (open.at(-1)) words.set(open.at(-1), (words.get(open.at(-1)) ?? '') + item.str);
  }
  return words;
}

function heldBy(node, tag, words, page, found) {
  const ids = (node.children ?? []).filter(child => child.type === 'content').map(child => child.id);
  if (ids.length > 0) found.push({ page, tag, words: ids.map(id => words.get(id) ?? '').join('') });
  for (const child of node.children ?? []) if (child.role) heldBy(child, child.role, words, page, found);
}

const pages = [];
for (let n = 1; n <= document.numPages; n++) {
  const page = await document.getPage(n);
  if (process.argv[2] === 'tags') {
    const tree = await page.getStructTree();
    if (tree) heldBy(tree, tree.role, await markedWords(page), n, pages);
  } else pages.push((await page.getTextContent()).items.map(item => item.str ?? '').join(' '));
}
process.stdout.write(JSON.stringify(pages));
