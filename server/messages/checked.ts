/**
 * What the mail server at the door of a house found out about who sent a mail (Authentication-Results, RFC 8601). Only the
 * field that stands on top counts, and only when the named server wrote it: what stands farther down came with the mail.
 */

/** What a mail server's check comes to; nothing where no check is asked for. */
export function isSender(
  headerLines: readonly { readonly key: string; readonly line: string }[],
  from: string,
  checkedBy: string,
): boolean {
  const found = headerLines.find(({ key }) => key.toLowerCase() === 'authentication-results')?.line ?? '';
  const [server = '', ...results] = withoutComments(found.slice(found.indexOf(':') + 1)).split(';');
  const [name = ''] = server.trim().split(/\s+/);
  if (name.toLowerCase() !== checkedBy.toLowerCase()) return false;
  const domain = from.slice(from.lastIndexOf('@') + 1).toLowerCase();
  return results.some(result => passes(result.trim().toLowerCase(), domain));
}

/** A check passes for a sender when the server held it against the address that people read. */
function passes(result: string, domain: string): boolean {
  const of = (property: string): string | undefined =>
    new RegExp(`(?:^|\\s)${property}=(?:\\S*@)?"?([^\\s";]+)"?`).exec(result)?.[1];
  if (/^dmarc\s*=\s*pass\b/.test(result)) return of('header\\.from') === domain;
  if (/^dkim\s*=\s*pass\b/.test(result)) return of('header\\.(?:d|i)') === domain;
  return /^spf\s*=\s*pass\b/.test(result) && of('smtp\\.mailfrom') === domain;
}

/** Comments stand in brackets, one inside another; what they say is for people. */
function withoutComments(text: string): string {
  let depth = 0;
  let kept = '';
  for (const letter of text) {
    if (letter === '(') depth += 1;
    else if (letter === ')') depth = Math.max(0, depth - 1);
    else if (depth === 0) kept += letter;
  }
  return kept;
}
