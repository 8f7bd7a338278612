/** What a workflow says, as a deed reads it. */
import type { Asked } from '../connector.ts';
import { type Client, enterprise, quoted, type Resource, refuse } from './client.ts';
import type { Settings } from './settings.ts';

export type Values = Asked['values'];
export const text = (values: Values, ...names: string[]): string => {
  for (const name of names) {
    const value = values[name];
    if (typeof value === 'string' && value.trim() !== '') return value.trim();
  }
  return '';
};
export const needed = (values: Values, what: string, ...names: string[]): string => {
  const found = text(values, ...names);
  if (found === '') throw refuse(`${what} is not said`);
  return found;
};

/** The account of a person on file, or the one of a name. */
export async function accountOf(client: Client, values: Values): Promise<Resource> {
  const person = text(values, 'person');
  const account = text(values, 'account');
  if (person === '' && account === '') throw refuse('whose account it is is not said');
  const found =
    (person === ''
      ? null
      : await client.find('Users', `${enterprise}:employeeNumber eq ${quoted(person)}`, `account of ${person}`)) ??
    (account === '' ? null : await client.find('Users', `userName eq ${quoted(account)}`, `account ${account}`));
  if (!found) throw refuse(`there is no account of ${person || account}`);
  return found;
}

/** What is known of the house beside what was said: the settings of the connection. */
export type Deed = (client: Client, asked: Asked, settings: Settings) => Promise<Readonly<Record<string, unknown>>>;
export type TakingBack = (
  client: Client,
  asked: Asked,
  result: Readonly<Record<string, unknown>>,
  settings: Settings,
) => Promise<void>;

export const byKey = (key: string): string => `externalId eq ${quoted(key)}`;

/** What was noted before the first try, or what is so now, noted before it is changed. */
export async function notedFirst<Facts extends Readonly<Record<string, unknown>>>(
  asked: Asked,
  now: () => Promise<Facts> | Facts,
): Promise<Facts> {
  if (asked.noted) return asked.noted as Facts;
  const facts = await now();
  await asked.note(facts);
  return facts;
}
