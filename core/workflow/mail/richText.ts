/** Rich text of messages: a few HTML elements and nothing else. Plain words are made from it, and it is safe to show. */
import type { Block, Run } from '../request/outgoing.ts';

const allowed = new Set(['p', 'br', 'strong', 'em', 'u', 'ul', 'ol', 'li', 'h3', 'a', 'blockquote']);
const voids = new Set(['br']);
const token = /<(\/?)([a-zA-Z][a-zA-Z0-9]*)([^<>]*)>|[^<]+|</g;
const entities: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', '#39': '’', apos: '’', nbsp: ' ' };

export const isRich = (text: string): boolean => /^\s*<(p|ul|ol|h3|blockquote)[\s>]/.test(text);

export const escapeHtml = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

const unescapeHtml = (text: string): string =>
  text.replace(/&(#?\w+);/g, (whole, name: string) => entities[name] ?? whole);

const safeLink = (attributes: string): string | undefined => {
  const href = /\bhref\s*=\s*"([^"]*)"/i.exec(attributes)?.[1];
  return href && /^(https?:|mailto:)/i.test(href) ? href : undefined;
};

/** The same text with only known elements left, every one closed, links to the web and to mail only. */
export function cleanRich(html: string): string {
  const open: string[] = [];
  let out = '';
  for (const [whole, slash, name, attributes] of html.matchAll(token)) {
    if (name === undefined) {
      out += whole === '<' ? '&lt;' : whole.replace(/>/g, '&gt;');
      continue;
    }
    const element = name.toLowerCase();
    if (!allowed.has(element)) continue;
    if (slash) {
      const at = open.lastIndexOf(element);
      if (at < 0) continue;
      while (open.length > at) out += `</${open.pop()}>`;
      continue;
    }
    const href = element === 'a' ? safeLink(attributes) : undefined;
    if (element === 'a' && !href) continue;
    out += href ? `<a href="${href}">` : `<${element}>`;
    if (!voids.has(element)) open.push(element);
  }
  while (open.length > 0) out += `</${open.pop()}>`;
  return out;
}

/** The words of a rich text: a blank line between paragraphs, dashes and numbers before list items, addresses behind links. */
export function plainOf(html: string): string {
  if (!isRich(html)) return html;
  const lists: { ordered: boolean; n: number }[] = [];
  const links: string[] = [];
  let out = '';
  for (const [whole, slash, name, attributes] of cleanRich(html).matchAll(token)) {
    if (name === undefined) {
      out += unescapeHtml(whole);
      continue;
    }
    switch (name) {
      case 'br':
        out += '\n';
        break;
      case 'p':
      case 'h3':
      case 'blockquote':
        if (slash) out += lists.length > 0 ? '' : '\n\n';
        break;
      case 'ul':
      case 'ol':
        if (!slash) lists.push({ ordered: name === 'ol', n: 0 });
        else {
          lists.pop();
          if (lists.length === 0) out += '\n';
        }
        break;
      case 'li': {
        const list = lists[lists.length - 1];
        if (slash) out += '\n';
        else if (list) out += `${'  '.repeat(lists.length - 1)}${list.ordered ? `${++list.n}.` : '-'} `;
        break;
      }
      case 'a':
        if (!slash) links.push(safeLink(attributes) ?? '');
        else {
          const href = links.pop();
          if (href && !out.endsWith(href)) out += ` (${href.replace(/^mailto:/, '')})`;
        }
        break;
    }
  }
  return out.replace(/\n{3,}/g, '\n\n').trim();
}

/** A text as the parts of a page; plain words are paragraphs between blank lines. */
export function blocksOf(text: string): Block[] {
  if (!isRich(text))
    return text
      .split(/\n{2,}/)
      .map(part => part.trim())
      .filter(Boolean)
      .map(part => ({ kind: 'paragraph', runs: [{ text: part }] }));
  const blocks: Block[] = [];
  let runs: Run[] = [];
  let items: Run[][] | null = null;
  let ordered = false;
  const style = { bold: 0, italic: 0 };
  let link: string | undefined;
  const say = (words: string) => {
    if (words === '') return;
    runs.push({
      text: words,
      ...(style.bold > 0 ? { bold: true as const } : {}),
      ...(style.italic > 0 ? { italic: true as const } : {}),
      ...(link ? { link } : {}),
    });
  };
  const end = (kind: 'heading' | 'paragraph' | 'quote') => {
    if (items === null && runs.some(run => run.text.trim() !== '')) blocks.push({ kind, runs });
    if (items === null) runs = [];
  };
  for (const [whole, slash, name, attributes] of cleanRich(text).matchAll(token)) {
    if (name === undefined) {
      say(unescapeHtml(whole));
      continue;
    }
    const step = slash ? -1 : 1;
    switch (name) {
      case 'br':
        say('\n');
        break;
      case 'strong':
        style.bold += step;
        break;
      case 'em':
        style.italic += step;
        break;
      case 'a':
        link = slash ? undefined : safeLink(attributes);
        break;
      case 'h3':
        if (slash) end('heading');
        break;
      case 'p':
        if (slash) end('paragraph');
        break;
      case 'blockquote':
        if (slash) end('quote');
        break;
      case 'ul':
      case 'ol':
        if (!slash && items === null) {
          items = [];
          ordered = name === 'ol';
          runs = [];
        } else if (slash && items !== null) {
          if (items.length > 0) blocks.push({ kind: 'list', ordered, items });
          items = null;
          runs = [];
        }
        break;
      case 'li':
        if (slash && items !== null) {
          if (runs.length > 0) items.push(runs);
          runs = [];
        }
        break;
    }
  }
  end('paragraph');
  return blocks;
}
